"""Trials ended by somebody before they decide themselves."""

from __future__ import annotations

from django.utils.translation import gettext

from vendaval.bank.actions import refresh_digest
from vendaval.bank.models import Trial
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock


def end_trial(trial: Trial, by: User | None) -> None:
    """End a trial before it decides itself: everybody gets the first text again."""
    if Trial.objects.filter(pk=trial.pk, ended_at=None).update(
        ended_at=clock.now(), verdict=Trial.STOPPED
    ):
        refresh_digest(trial.course)
        says = gettext("The trial of {name} was ended").format(name=trial.name)
        audit(AuditKind.PUBLISHED, by=by, account=by, says=f"{trial.course.title}: {says}")
