"""Make and mail the day's messages; harmless when it runs again."""

from typing import Any

from django.core.management.base import BaseCommand

from vendaval.assigning.challenge import note_challenges
from vendaval.assigning.messages import note_due_soon
from vendaval.notices.actions import note_rechecks_due, send_digests
from vendaval.shared.health import note_check


class Command(BaseCommand):
    help = "Tells learners what is due and mails everybody their digest, once a day."

    def handle(self, **options: Any) -> None:
        told = note_rechecks_due() + note_due_soon() + note_challenges()
        sent = send_digests()
        says = f"{told} reminders made, {sent} mails sent."
        note_check("messages", True, says)
        self.stdout.write(says)
