"""The spell of work that was left."""

from __future__ import annotations

from math import ceil

from django.utils.translation import gettext

from vendaval.levels.snapshot import Snapshot
from vendaval_core.mastery.steps import Step, StepKind
from vendaval_core.words import share_of

from .clock import minutes_left
from .spells import spell_under_way


def steps(seen: Snapshot) -> list[Step]:
    """At most one."""
    spell = spell_under_way(seen.enrolment)
    if spell is None:
        return []
    left = [note for note in spell.pieces if note.state in {"begun", "waiting"}]
    done = len(spell.pieces) - len(left)
    minutes = max(1, ceil(minutes_left(spell, seen.now)))
    reason = gettext("{tasks} done.").format(
        tasks=share_of(done, len(spell.pieces), "task").capitalize()
    )
    if left:
        reason += f" Next: {left[0].title[:1].lower()}{left[0].title[1:]}."
    title = gettext("Continue your {minutes} min").format(minutes=spell.minutes)
    questions = sum(note.questions for note in left)
    return [Step(StepKind.SPELL, None, title, reason, minutes, questions, 1.0, spell.pk)]
