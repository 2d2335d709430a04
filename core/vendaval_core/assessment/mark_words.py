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


def outlook_words(found: Outlook, title: str, scale: Scale) -> str:
    """Return what the next piece of work can change. title: of that work."""
    now, keeps = shown(found.now), shown(found.keeps)
    if found.keeps == 0:
        says = gettext("Whatever the mark in “{title}”, it stays at {now} or more.")
    elif found.keeps == scale.most:
        says = gettext("Only {keeps} in “{title}” keeps it at {now}.")
    else:
        says = gettext("{keeps} or more in “{title}” keeps it at {now}.")
    said = says.format(keeps=keeps, title=title, now=now)
    if found.goal is None or found.reaches is None:
        return said
    return f"{said} {_reach(found.goal, found.reaches, scale)}"


def _reach(goal: Fraction, reaches: Fraction, scale: Scale) -> str:
    mark = shown(reaches)
    at = mark if reaches == scale.most else gettext("{mark} or more").format(mark=mark)
    if goal == scale.pass_mark:
        return gettext("{at} raises it to {goal}, the pass mark.").format(at=at, goal=shown(goal))
    band = next((one.name for one in scale.bands if one.least == goal), "")
    return gettext("{at} raises it to {goal} (“{band}”).").format(
        at=at, goal=shown(goal), band=band
    )
