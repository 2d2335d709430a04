"""A stand-in for a mail server: mails are kept where they can be read in demo mode."""

from __future__ import annotations

from collections.abc import Sequence

from django.core.mail import EmailMessage
from django.core.mail.backends.base import BaseEmailBackend

from vendaval.shared import clock

from .models import Letter


class OutboxBackend(BaseEmailBackend):
    """Keeps every mail as a row."""

    def send_messages(self, email_messages: Sequence[EmailMessage]) -> int:
        now = clock.now()
        letters = [
            Letter(to=", ".join(m.to), subject=m.subject[:200], body=str(m.body), at=now)
            for m in email_messages
        ]
        return len(Letter.objects.bulk_create(letters))
