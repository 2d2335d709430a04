"""A term's mark in plain words: how it was worked out, and what can change it."""

from __future__ import annotations

from collections.abc import Mapping
from fractions import Fraction

from vendaval_core.language import gettext

from .mark_book import Outlook, Worked
from .points import shown
from .scale import Scale


def sum_words(worked: Worked, scale: Scale, titles: Mapping[str, str]) -> str:
    """Return the last step of a mark as a sum. titles: of categories, by key."""
    known = [(part, part.mean) for part in worked.parts if part.mean is not None]
    if worked.share is None:
        return gettext("Nothing counts yet.")
    exact, mark = shown(scale.exact(worked.share)), shown(scale.mark(worked.share))
    if len(known) == 1:
        says = gettext("{title}: {exact}").format(title=titles[known[0][0].category], exact=exact)
    else:
        terms = " + ".join(
            f"{shown(part.weight)} × {shown(scale.exact(mean))}" for part, mean in known
        )
        weights = shown(sum((part.weight for part, _ in known), Fraction(0)))
        says = f"({terms}) ÷ {weights} = {exact}"
    if mark == exact:
        return says
    return gettext("{says}, rounded to {mark}").format(says=says, mark=mark)


def outlook_words(found: Outlook, title: str, scale: Scale) -> list[str]:
    """Return what a learner's next piece of work can change. title: of that work."""
    now = shown(found.now)
    if found.keeps == 0:
        lines = [
            gettext("Whatever you get in “{title}”, you keep {now} or more.").format(
                title=title, now=now
            )
        ]
    elif found.keeps == scale.most:
        lines = [
            gettext("Only {keeps} in “{title}” keeps you at {now}.").format(
                keeps=shown(found.keeps), title=title, now=now
            )
        ]
    else:
        lines = [
            gettext("{keeps} or more in “{title}” keeps you at {now}.").format(
                keeps=shown(found.keeps), title=title, now=now
            )
        ]
    if found.goal is not None and found.reaches is not None:
        lines.append(_reach(found.goal, found.reaches, scale))
    return lines


def _reach(goal: Fraction, reaches: Fraction, scale: Scale) -> str:
    at = shown(reaches) if reaches == scale.most else gettext("{mark} or more").format(
        mark=shown(reaches)
    )
    band = next((one.name for one in scale.bands if one.least == goal), "")
    if goal == scale.pass_mark:
        return gettext("{at} gets you to {goal}, the pass mark.").format(at=at, goal=shown(goal))
    return gettext("{at} gets you to {goal} (“{band}”).").format(
        at=at, goal=shown(goal), band=band
    )
