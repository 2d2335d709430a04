"""Mailed links on their way: at once, or by a job where the mail server does not take them now."""

from __future__ import annotations

import logging

from django.conf import settings
from django.core.mail import send_mail
from django.utils.translation import gettext
from django_tasks import TaskResultStatus, task
from django_tasks_db.models import DBTaskResult

from vendaval.shared import clock

from .models import OneTimeLink
from .one_time_links import letter_of, open_links

logger = logging.getLogger("vendaval.mails")


class MailRefused(Exception):
    """Some mails did not go out."""


def mail_link(link: OneTimeLink) -> None:
    """Send a link out. It is noted as sent after the mail server took it: a failure in between
    sends it twice rather than never. Where the server refuses, a job tries again, and whoever
    asked for the link is not told so: it would tell them who has an account."""
    try:
        _send(link)
    except OSError as error:  # what smtplib raises is one, and what the network raises
        logger.warning("a mail was refused", extra={"link": link.pk, "error": str(error)})
        mail_soon()


@task()
def mail_links() -> int:
    """Mail every link that has not gone out; how many went. One that the mail server refuses holds
    up no other: the job fails at its end, and begun again tries what is left."""
    sent, refused = 0, []
    for link in open_links().filter(mailed_at=None).order_by("pk"):
        try:
            _send(link)
            sent += 1
        except OSError as error:
            refused.append(type(error).__name__)
    if refused:
        raise MailRefused(
            gettext("{sent} sent, {count} refused; first {refused}").format(
                sent=sent, count=len(refused), refused=refused[0]
            )
        )
    return sent


def mail_soon() -> None:
    """Have links mailed by a job, unless one that waits will do it."""
    waits = DBTaskResult.objects.filter(
        task_path=mail_links.module_path, status=TaskResultStatus.READY
    )
    if not waits.exists():
        mail_links.enqueue()


def _send(link: OneTimeLink) -> None:
    subject, body = letter_of(link)
    send_mail(subject, body, settings.MAIL_FROM, [link.mail])
    link.mailed_at = clock.now()
    link.save(update_fields=["mailed_at"])
