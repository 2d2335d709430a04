"""Rechecks: whether a target that was met still holds some days later.

Four fresh questions from a topic's essential families, a week after it was met or, for those who
forget fast, sooner; and two more, up to eight, while the answer is in doubt. It is held when the
topic is still likely enough to be at its target. A check looks for what was lost, so before it the
belief holds a chance that some was. The next comes when this learner, who forgets at a pace of
their own, will be likely enough to need it; a topic that was not held goes back to practice.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import cycle, islice, zip_longest

from vendaval_core.language import gettext

from ..measure.grid import Array, probability_above
from ..measure.kernels import ChangeSettings, forgetting_kernel
from ..measure.rates import Paces
from ..words import counted, in_words
from .practice import PracticeFamily

# A target counts as secure once it has held for a week (common practice, no published source); who
# forgets fast is asked before that too.
FIRST_AFTER_DAYS = 7.0
QUESTIONS, MORE_QUESTIONS, MOST_QUESTIONS = 4, 2, 8
# Chance that some of a topic was lost by the time it is checked, whatever was seen before: without
# it four answers hardly move what dozens have said (docs/measurement.md, "Rechecks").
LAPSE_CHANCE = 0.3
IN_DOUBT = (0.3, 0.8)
# The next check is due when the chance of being at the target will have fallen to this.
WORTH_A_CHECK = 0.8
LATER = (3.0, 5.0, 7.0, 10.0, 14.0, 20.0, 28.0, 40.0, 56.0, 80.0, 112.0)
# At most so many times the days that it held for: expanding intervals, common practice.
GROWS = 3.0
# A little below what "met" asked for: four questions move a chance by more than that, and a
# target that holds should not be lost to one slip.
HELD_CHANCE = 0.7
# Twelve questions are what fits into a quarter of an hour.
MOST_TOPICS = 3


def recheck_families(families: Sequence[PracticeFamily]) -> list[str]:
    """Return the families of a topic's recheck: four essential ones, those not seen for longest
    first, repeated if there are fewer. Empty for a topic without any."""
    essential = sorted((f for f in families if f.essential), key=lambda f: (f.last_seen, f.key))
    return [family.key for family in islice(cycle(essential), QUESTIONS)] if essential else []


def mixed(plans: Sequence[Sequence[str]]) -> list[str]:
    """Interleave several topics' questions."""
    return [key for turn in zip_longest(*plans) for key in turn if key is not None]


def has_held(chance: float) -> bool:
    """Return whether a target is still met. chance: of being at it after the recheck, 0 to 1."""
    return chance >= HELD_CHANCE


def is_secure(secure: bool, held_for: float) -> bool:
    """Return whether a topic that a recheck found to hold is secure. secure: whether it was before.
    held_for: days since its target was met or last found to hold."""
    return secure or held_for >= FIRST_AFTER_DAYS


def questions_more(asked: int, chance: float) -> int:
    """Return how many questions a recheck of a topic goes on for. asked: in it so far. chance: of
    being at the target now."""
    low, high = IN_DOUBT
    doubtful = asked >= QUESTIONS and low < chance < high
    return min(MORE_QUESTIONS, MOST_QUESTIONS - asked) if doubtful else 0


def next_after(
    held_for: float | None, mass: Array, target: float, paces: Paces, change: ChangeSettings
) -> float:
    """Return the days until the next recheck of a topic: when this learner is likely enough to need
    one, 3 to 112, and a week at the most for the first.

    held_for: days since the target was met or last found to hold; None when it has just been met.
    mass (NODES,): of the ability now. target: ability wanted, logits.
    """
    most = max(FIRST_AFTER_DAYS, GROWS * (held_for or 0.0))
    found = LATER[0]
    for days in LATER:
        if days > most or chance_after(days, mass, target, paces, change) < WORTH_A_CHECK:
            break
        found = days
    return found


def chance_after(
    days: float, mass: Array, target: float, paces: Paces, change: ChangeSettings
) -> float:
    """Return the chance of being at a target after days (0 or more) without practice."""
    variance, forgets = change.variance_per_day * days, min(days, change.forgotten_for)
    kernel = forgetting_kernel(forgets, variance, paces.forgetting, paces.forgets)
    return probability_above(kernel @ mass, target)


def recheck_reason(titles: Sequence[str], days: Sequence[float], chance: float) -> str:
    """Return why to take a recheck. titles: of the topics due. days: since each was met or last
    confirmed. chance: of the least certain of them to be at its target still, 0 to 1."""
    first, longest = titles[0].lower(), round(max(days))
    tenths = min(9, max(1, round(10 * chance)))
    one = len(titles) == 1
    what = first if one else counted(len(titles), "target")
    start = gettext("{what}{what2}: you reached the target {days} ago").format(
        what=what[:1].upper(), what2=what[1:], days=counted(longest, "day")
    )
    if not one:
        start = gettext("You reached {what} up to {days} ago").format(
            what=what, days=counted(longest, "day")
        )
    sure = (
        gettext("By now we’re about {tenths} in 10 sure that you still know it.")
        if one
        else gettext("By now we’re about {tenths} in 10 sure of the least certain of them.")
    ).format(tenths=tenths)
    questions = in_words(QUESTIONS * len(titles)).capitalize()
    return gettext("{start}. {sure} {questions} questions or a few more will show.").format(
        start=start, sure=sure, questions=questions
    )


def verdict_words(title: str, days: float, *, held: bool, secure: bool) -> str:
    """Return the result of a topic's recheck in words. days: until the next one."""
    if held and not secure:
        return gettext("{title}: you still know it. The next check is in {days}.").format(
            title=title, days=counted(round(days), "day")
        )
    if held:
        return gettext(
            "{title}: you still know it, so it’s secure. The next check is in {days}, when we’ll "
            "be less sure."
        ).format(title=title, days=counted(round(days), "day"))
    return gettext(
        "{title}: you’ve forgotten some of it, so you’re probably below the target now. "
        "Practise it again."
    ).format(title=title)
