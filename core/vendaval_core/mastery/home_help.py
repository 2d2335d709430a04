"""Two sentences on how somebody at home can help, from the learner's own numbers.

The limits are judgements. Each sentence names something to do, never a failing.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vendaval_core.language import gettext

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
    """Return what a guardian can ask about, and what they can ask to be shown."""
    return _ask(home), _show(home)


def _ask(home: AtHome) -> str:
    if home.days_away is None:
        return gettext(
            "{home} hasn’t started. Sit with them for the first diagnostic, and let them answer."
        ).format(home=home.name)
    if home.late:
        what = some_of([f"“{title}”" for title in home.late])
        return gettext("{what} {verb} late. Ask when they have time for it.").format(
            what=what, verb="is" if len(home.late) == 1 else "are"
        )
    if home.days_away >= AWAY_DAYS:
        away = counted(round(home.days_away), "day")
        return gettext(
            "They haven’t answered anything for {away}. Agree on 20 minutes at a fixed time."
        ).format(away=away)
    if home.due is not None:
        title, when = home.due
        return gettext("“{title}” is due {when}. Ask what they still need to do.").format(
            title=title, when=when
        )
    if home.misses >= MANY_MISSES:
        some = counted(home.misses, "mistake")
        return gettext("They have {some} to correct. Ask them to tell you about one.").format(
            some=some
        )
    return gettext("All set work is done. Ask what comes next, and why.")


def _show(home: AtHome) -> str:
    rose = max(home.rises, key=lambda one: one.now - one.before, default=None)
    if rose is not None and rose.now - rose.before >= ROSE:
        return gettext(
            "{rose} rose from {before:.0f} to {now:.0f} in two weeks. Let them show you "
            "how to work out a question."
        ).format(rose=rose.title, before=rose.before, now=rose.now)
    if home.met:
        return gettext(
            "{at_target}. Let them explain it to you as if you had never heard of it."
        ).format(at_target=_at_target(home.met))
    if home.weakest is not None:
        return gettext(
            "{weakest} is furthest from its target. Read its study page together."
        ).format(weakest=home.weakest)
    return gettext("We don’t know their level yet. A 20-minute diagnostic will show it.")


def _at_target(met: Sequence[str]) -> str:
    if len(met) == 1:
        return gettext("They have reached the target in {met}").format(met=met[0].lower())
    return gettext("They have reached the target in {count} topics, {met} among them").format(
        count=in_words(len(met)), met=met[0].lower()
    )
