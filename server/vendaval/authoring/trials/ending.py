"""Trials ended by somebody, or because what they are about changes."""

from __future__ import annotations

from collections.abc import Iterable

from django.utils.translation import gettext

from vendaval.bank.actions import refresh_digest
from vendaval.bank.models import Topic, Trial
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.shared import clock

STOPPED = "stopped"


def end_trial(trial: Trial, by: User | None) -> None:
    """End a trial before it decides itself: everybody gets the first text again."""
    if Trial.objects.filter(pk=trial.pk, ended_at=None).update(
        ended_at=clock.now(), verdict=STOPPED
    ):
        refresh_digest(trial.course)
        says = gettext("The trial of {name} was ended").format(name=trial.name)
        audit(AuditKind.PUBLISHED, by=by, account=by, says=f"{trial.course.title}: {says}")


def end_changed(topic: Topic, by: User) -> None:
    """End the trials of a topic's study sections that read otherwise now, or are gone."""
    now = dict(topic.sections.values_list("key", "markdown"))
    running: Iterable[Trial] = Trial.objects.filter(topic=topic, ended_at=None)
    for trial in running:
        if now.get(trial.section) != trial.first:
            end_trial(trial, by)
