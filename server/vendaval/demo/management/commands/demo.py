"""Load the demo data, once."""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.db import connection, transaction
from tqdm import tqdm

from vendaval.bank.queries import course_of_key
from vendaval.demo.story import COURSE, SECOND, tell
from vendaval.levels.checking import any_outdated, refresh_states
from vendaval.people.models import User
from vendaval.shared import clock


def refuse_earlier_version() -> None:
    """CommandError for a database that an earlier version made: it cannot be carried over."""
    if "evidence_try" in connection.introspection.table_names():
        raise CommandError(
            "This demo’s data was made by an earlier version and cannot be carried over. "
            "make demo-reset throws it away; then make demo."
        )


class Command(BaseCommand):
    help = "Migrates, loads the course and, in an empty database, the demo’s learners."

    def handle(self, **options: Any) -> None:
        if not settings.DEMO_ACCOUNTS:
            raise CommandError("demo accounts are switched off in these settings")
        Path(settings.VAR).mkdir(parents=True, exist_ok=True)
        refuse_earlier_version()
        call_command("migrate", verbosity=0)
        for key in (COURSE, SECOND):
            folder = settings.PACKS / key
            call_command("load_pack", folder, if_changed=True, stdout=self.stdout)
        if User.objects.exists():
            self.stdout.write("Demo data is there already and was kept.")
            self._levels_as_measured_now()
            return
        with tqdm(desc="Simulating learners", unit=" parts", disable=None) as bar:

            def progress(what: str) -> None:
                bar.set_postfix_str(what, refresh=False)
                bar.update()

            with transaction.atomic():
                tell(course_of_key(COURSE), course_of_key(SECOND), clock.now(), progress)
        self.stdout.write("Demo data is loaded.")

    def _levels_as_measured_now(self) -> None:
        for key in (COURSE, SECOND):
            course = course_of_key(key)
            if any_outdated(course):
                done = refresh_states(course)
                self.stdout.write(f"{course.title}: {done} learners’ levels were measured anew.")
