"""Begin jobs again that failed, and regrades whose job was lost; harmless when it runs again."""

from typing import Any

from django.core.management.base import BaseCommand

from vendaval.exams.regrading.jobs import resume
from vendaval.office.jobs import retry_failed
from vendaval_core.mastery.recommend import counted


class Command(BaseCommand):
    help = "Begins failed jobs again, three times at the most, and lost regrades."

    def handle(self, **options: Any) -> None:
        begun = retry_failed() + resume()
        self.stdout.write(f"{counted(begun, 'job').capitalize()} begun again.")
