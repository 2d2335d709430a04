"""Figures of the bank made in the background."""

from __future__ import annotations

from datetime import timedelta

from django.db.models import Q
from django_tasks import task

from vendaval.authoring.models import BankState
from vendaval.authoring.trials.actions import OF_TRIAL, looked_at
from vendaval.bank.models import Course, Trial
from vendaval.shared import clock

from .lines import refresh_figures
from .sections import refresh_sections
from .slips import refresh_slips

OLD = timedelta(hours=1)


@task()
def refresh(course: int) -> int:
    """Bring what is known of a course's questions and study sections up to date, and end the trials
    that are decided by now."""
    found = Course.objects.get(pk=course)
    for trial in Trial.objects.filter(course=found, ended_at=None).select_related(*OF_TRIAL):
        looked_at(trial)
    refresh_slips(found)
    refresh_sections(found)
    return refresh_figures(found)


def refresh_if_old(state: BankState) -> None:
    """Have figures that are old brought up to date soon: asked once, whoever looks meanwhile."""
    now = clock.now()
    if any(at is not None and now - at < OLD for at in (state.figures_at, state.asked_at)):
        return
    unasked = Q(asked_at=None) | Q(asked_at__lt=now - OLD)
    if BankState.objects.filter(unasked, pk=state.pk).update(asked_at=now):
        refresh.enqueue(state.course_id)
