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
        return f"{home.name} has not begun: sit beside the first diagnostic, and let them answer."
    if home.late:
        what = some_of([f"“{title}”" for title in home.late])
        return f"{what} {'is' if len(home.late) == 1 else 'are'} late: ask when there is time."
    if home.days_away >= AWAY_DAYS:
        away = counted(round(home.days_away), "day")
        return f"There was no answer for {away}: agree on 20 minutes at a fixed hour."
    if home.due is not None:
        title, when = home.due
        return f"“{title}” is due {when}: ask what is still to do for it."
    if home.misses >= MANY_MISSES:
        some = counted(home.misses, "missed question")
        return f"{some.capitalize()} wait to be mended: ask to be told about one of them."
    return "Everything set is done: ask what comes next, and why."


def _show(home: AtHome) -> str:
    rose = max(home.rises, key=lambda one: one.now - one.before, default=None)
    if rose is not None and rose.now - rose.before >= ROSE:
        return (
            f"{rose.title} rose from {rose.before:.0f} to {rose.now:.0f} in two weeks: let them "
            "show you how one of its questions is worked out."
        )
    if home.met:
        return (
            f"{_at_target(home.met)}: let them explain to you what they know there, as to somebody "
            "who has never heard of it."
        )
    if home.weakest is not None:
        return f"{home.weakest} is furthest from its target: read its study page together."
    return "Nothing is known of a level yet: a diagnostic of 20 minutes shows where they stand."


def _at_target(met: Sequence[str]) -> str:
    if len(met) == 1:
        return f"{met[0]} is at its target"
    return (
        f"{in_words(len(met)).capitalize()} topics are at their target, {met[0].lower()} among them"
    )
