"""Load the demo data, once."""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.db import transaction
from tqdm import tqdm

from vendaval.bank.queries import default_course
from vendaval.demo.story import tell
from vendaval.people.models import User
from vendaval.shared import clock


class Command(BaseCommand):
    help = "Migrates, loads the course and, in an empty database, the demo's learners."

    def handle(self, **options: Any) -> None:
        if not settings.DEMO_ACCOUNTS:
            raise CommandError("demo accounts are switched off in these settings")
        Path(settings.VAR).mkdir(parents=True, exist_ok=True)
        call_command("migrate", verbosity=0)
        call_command("load_pack", if_changed=True, stdout=self.stdout)
        if User.objects.exists():
            self.stdout.write("Demo data is there already and was kept.")
            return
        with tqdm(desc="Simulating learners", unit=" parts", disable=None) as bar:

            def progress(what: str) -> None:
                bar.set_postfix_str(what, refresh=False)
                bar.update()

            with transaction.atomic():
                tell(default_course(), clock.now(), progress)
        self.stdout.write("Demo data is loaded.")
