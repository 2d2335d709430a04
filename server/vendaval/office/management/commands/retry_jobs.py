"""See to jobs that failed or lost their worker, and remove old copies; harmless to run again."""

from typing import Any

from django.core.management.base import BaseCommand

from vendaval.exams.regrading.jobs import resume
from vendaval.privacy.copies import remove_old
from vendaval.shared.jobs import mind_jobs
from vendaval_core.words import counted


class Command(BaseCommand):
    help = "Starts failed or lost jobs again, and removes old copies of data."

    def handle(self, **options: Any) -> None:
        begun = mind_jobs() + resume()
        remove_old()
        self.stdout.write(f"{counted(begun, 'job').capitalize()} begun again.")
