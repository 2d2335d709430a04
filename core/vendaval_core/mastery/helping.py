"""Two sentences on how somebody at home can help, from the learner's own numbers.

The limits are judgements. Each sentence names something to do, never a failing.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..words import counted, in_words, some_of

AWAY_DAYS = 7.0
ROSE = 5.0
MANY_MISSES = 3


@dataclass(frozen=True, slots=True)
class Rise:
    """A topic whose level rose: from, to, 0 to 100."""

    title: str
    before: float
    now: float


@dataclass(frozen=True, slots=True)
class AtHome:
    """What is known of a learner. late: titles of set work that is late; due: (title, when, in
    words) of what is due next. days_away: since the last answer, None for no answer yet. rises:
    topics that rose in two weeks. met: topics at the target; weakest: the one furthest below."""

    name: str
    late: Sequence[str]
    due: tuple[str, str] | None
    days_away: float | None
    misses: int
    rises: Sequence[Rise]
    met: Sequence[str]
    weakest: str | None


def how_to_help(home: AtHome) -> tuple[str, str]:
    """What to ask about, and what to let them show."""
    return _ask(home), _show(home)


def _ask(home: AtHome) -> str:
    if home.days_away is None:
        return (
            f"{home.name} hasn't started. Sit with them for the first diagnostic, and let them "
            "answer."
        )
    if home.late:
        what = some_of([f"“{title}”" for title in home.late])
        return (
            f"{what} {'is' if len(home.late) == 1 else 'are'} late. Ask when they have time for it."
        )
    if home.days_away >= AWAY_DAYS:
        away = counted(round(home.days_away), "day")
        return f"They haven't answered anything for {away}. Agree on 20 minutes at a fixed time."
    if home.due is not None:
        title, when = home.due
        return f"“{title}” is due {when}. Ask what they still need to do."
    if home.misses >= MANY_MISSES:
        some = counted(home.misses, "missed question")
        return f"They have {some} to correct. Ask them to tell you about one."
    return "All set work is done. Ask what comes next, and why."


def _show(home: AtHome) -> str:
    rose = max(home.rises, key=lambda one: one.now - one.before, default=None)
    if rose is not None and rose.now - rose.before >= ROSE:
        return (
            f"{rose.title} rose from {rose.before:.0f} to {rose.now:.0f} in two weeks. Let "
            "them show you how to work out a question."
        )
    if home.met:
        return (
            f"{_at_target(home.met)}. Let them explain it to you as if you had never heard of it."
        )
    if home.weakest is not None:
        return f"{home.weakest} is furthest from its target. Read its study page together."
    return "We don't know their level yet. A 20-minute diagnostic will show it."


def _at_target(met: Sequence[str]) -> str:
    if len(met) == 1:
        return f"They have reached the target in {met[0].lower()}"
    return (
        f"They have reached the target in {in_words(len(met))} topics, {met[0].lower()} among them"
    )
