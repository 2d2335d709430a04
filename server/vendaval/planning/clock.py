"""The clock of some minutes of work: the server's, and it stands still in a break."""

from __future__ import annotations

from datetime import datetime

from vendaval.work.models import HelpOpened, Presentation, Run, Try
from vendaval_core.mastery.worked import seconds_worked

from .models import Spell


def minutes_left(spell: Spell, now: datetime) -> float:
    """Minutes that are left of a spell, 0 or more."""
    until = spell.ended_at or now
    shown = Presentation.objects.filter(run__spell=spell.pk, run__enrolment=spell.enrolment_id)
    sent = Try.objects.filter(
        presentation__run__spell=spell.pk, presentation__run__enrolment=spell.enrolment_id
    )
    read = HelpOpened.objects.filter(enrolment=spell.enrolment_id, at__gte=spell.started_at)
    moments = [
        spell.started_at,
        spell.touched_at,
        *(at for at in shown.values_list("shown_at", flat=True) if at is not None),
        *sent.values_list("at", flat=True),
        *read.values_list("at", flat=True),
    ]
    worked = seconds_worked((at for at in moments if at >= spell.started_at), until)
    return max(0.0, spell.minutes - worked / 60)


def time_is_up(run: Run, now: datetime) -> bool:
    """Whether the minutes are over that a run is a piece of."""
    spell = Spell.objects.filter(pk=run.spell or 0, enrolment=run.enrolment_id).first()
    return spell is not None and minutes_left(spell, now) <= 0
