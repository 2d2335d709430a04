"""What is said of an answer, in the product's words: described, not judged."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from ..items.mark import PartMark
from ..measure.level import LevelReading
from .tries import USED_A_TRY, PartResult, Submission

Verdict = Literal["right", "partly", "wrong", "waiting", "not_taught", "not_counted"]


@dataclass(frozen=True, slots=True)
class Feedback:
    """Verdict with its headline and a sentence or two."""

    verdict: Verdict
    headline: str
    detail: str


NOT_TAUGHT_FEEDBACK = Feedback(
    "not_taught",
    "Noted: you have not been taught this.",
    "It is taken as not known yet and nothing is held against you. Its study page comes first.",
)
WAITING_FEEDBACK = Feedback(
    "waiting", "Kept, and waiting to be marked.", "It counts for your level once it is marked."
)


def _split(says: str) -> tuple[str, str]:
    """First sentence of a near-miss text, and the rest."""
    first, stop, rest = says.partition(". ")
    return (first + ".", rest) if stop else (says, "")


def feedback_for(submission: Submission, answers: Mapping[str, str], reveal: bool) -> Feedback:
    """Feedback on a submission.

    answers: the responses in words, by part. reveal: whether what was wrong may be told; in a
    diagnostic only right or wrong is.
    """
    results = submission.results
    tried = [p for p, r in results.items() if r in USED_A_TRY]
    if not tried:
        return _not_counted(submission)
    if submission.after.waits and set(results.values()) == {PartResult.NOTED}:
        return WAITING_FEEDBACK
    wrong = [p for p in tried if results[p] in {PartResult.WRONG, PartResult.PARTLY}]
    if not wrong:
        all_right = all(part.right for part in submission.after.parts.values())
        detail = "" if all_right else "The rest of the question is still open."
        if len(results) == 1:
            detail = submission.marks[tried[0]].says or detail
        return Feedback("right", "That is right.", detail)
    any_points = any(p.marked and any(p.shares) for p in submission.after.parts.values())
    verdict: Verdict = "partly" if any_points else "wrong"
    if not reveal:
        headline = "Partly right." if verdict == "partly" else "Not this time."
        return Feedback(verdict, headline, "You can look at it in Review afterwards.")
    if len(results) > 1:
        counted = f"{len(results) - len(wrong)} of {len(results)} parts"
        headline = f"{counted} right so far." if verdict == "partly" else "Not yet."
        return Feedback(verdict, headline, "")
    part = wrong[0]
    mark = submission.marks[part]
    says = mark.says
    if mark.verdict == "partly":
        return Feedback(verdict, _shared_headline(mark), says or "")
    if "\n" in mark.canonical:
        return Feedback(verdict, "Not yet.", says or "")
    if says is None:
        return Feedback(verdict, f"Not {answers[part]}.", "")
    first, rest = _split(says)
    return Feedback(verdict, f"Not {answers[part]}. {first}", rest)


def _shared_headline(mark: PartMark) -> str:
    """How much of a part is right: 3 of 4."""
    return f"Partly right: {round(mark.share * mark.of)} of {mark.of}."


def _not_counted(submission: Submission) -> Feedback:
    results = submission.results
    unreadable = [p for p, r in results.items() if r is PartResult.UNREADABLE]
    if unreadable:
        why = submission.marks[unreadable[0]].says if len(results) == 1 else None
        detail = f"{why} No try was used." if why else "No try was used."
        return Feedback("not_counted", "That could not be read.", detail)
    if PartResult.UNCHANGED in results.values():
        detail = "You sent that answer before. No try was used. Change it first."
        return Feedback("not_counted", "Nothing has changed.", detail)
    if PartResult.HELD in results.values():
        return Feedback("not_counted", "A part is still empty.", "Answer every part, then send.")
    return Feedback("not_counted", "Nothing is answered yet.", "No try was used.")


def rehearsal_sentence(submission: Submission) -> str:
    """What is said of a try in the rehearsal."""
    results = submission.results
    for part, result in results.items():
        if result is PartResult.UNREADABLE:
            return f"That could not be read. {submission.marks[part].says}"
    if PartResult.BLANK in results.values():
        return "A part is still empty."
    if set(results.values()) <= {PartResult.RIGHT, PartResult.NOTED}:
        return "That is right. It does not count."
    return "Not wholly right. It does not count."


def level_sentence(before: LevelReading, after: LevelReading, weight_reason: str) -> str:
    """What an answer did to a level, in one sentence."""
    if weight_reason == "helped":
        return "You opened help first, so this answer does not count for your level."
    if weight_reason == "rapid":
        return "That was faster than the question can be read, so it does not count for your level."
    if not after.known:
        low, high = round(after.low), round(after.high)
        return f"Probably somewhere from {low} to {high}. A few more answers will tell."
    level = round(after.level)
    if not before.known:
        return f"Enough is seen now to say where you are: probably {level}."
    change = level - round(before.level)
    if change == 0:
        return f"Still probably {level}."
    return f"Probably {level} now, {'up' if change > 0 else 'down'} {abs(change)}."


def met_sentence(title: str, reading: LevelReading, covered: int) -> str:
    """Plain words for a target that has just been met."""
    chance = round(100 * reading.chance)
    ideas = "its one idea" if covered == 1 else f"all {covered} ideas"
    return (
        f"You have met the target for {title.lower()}: {ideas} covered, and {chance} chances "
        f"in 100 that you are at {round(reading.target)} or above. You can stop here."
    )
