"""What is said of an answer, in the product's words: described, not judged."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from vendaval_core.language import gettext

from ..items.mark import PartMark
from ..measure.level import FIRST_ANSWERS, LevelReading
from .tries import USED_A_TRY, PartResult, Submission

Verdict = Literal["right", "partly", "wrong", "waiting", "not_taught", "not_counted"]


@dataclass(frozen=True, slots=True)
class Feedback:
    """Verdict with its headline and a sentence or two."""

    verdict: Verdict
    headline: str
    detail: str


def not_taught_feedback() -> Feedback:
    """Return the feedback for "I haven't been taught this"."""
    return Feedback(
        "not_taught",
        gettext("Saved: you haven’t been taught this yet."),
        gettext("We count it as “not learnt yet”. It does you no harm. Read its study page first."),
    )


def _waiting_feedback() -> Feedback:
    return Feedback(
        "waiting",
        gettext("Saved. A tutor will mark it."),
        gettext("It counts for your level once a tutor has marked it."),
    )


def _split(says: str) -> tuple[str, str]:
    """First sentence of a near-miss text, and the rest."""
    first, stop, rest = says.partition(". ")
    return (first + ".", rest) if stop else (says, "")


def feedback_for(submission: Submission, answers: Mapping[str, str], reveal: bool) -> Feedback:
    """Return the feedback for a submission.

    answers: the responses in words, by part. reveal: whether the feedback may say what was wrong;
    in a diagnostic it says only right or wrong.
    """
    results = submission.results
    tried = [p for p, r in results.items() if r in USED_A_TRY]
    if not tried:
        return _not_counted(submission)
    if submission.after.waits and set(results.values()) == {PartResult.NOTED}:
        return _waiting_feedback()
    wrong = [p for p in tried if results[p] in {PartResult.WRONG, PartResult.PARTLY}]
    return (
        _wrong_feedback(submission, wrong, answers, reveal) if wrong else _right(submission, tried)
    )


def _right(submission: Submission, tried: Sequence[str]) -> Feedback:
    """Feedback when everything that was tried is right. tried: part ids."""
    all_right = all(part.right for part in submission.after.parts.values())
    detail = "" if all_right else gettext("Now answer the rest of the question.")
    if len(submission.results) == 1:
        detail = submission.marks[tried[0]].says or detail
    return Feedback("right", gettext("That’s right."), detail)


def _wrong_feedback(
    submission: Submission, wrong: Sequence[str], answers: Mapping[str, str], reveal: bool
) -> Feedback:
    """Feedback when some part is wrong or partly right. wrong: part ids."""
    any_points = any(p.marked and any(p.shares) for p in submission.after.parts.values())
    verdict: Verdict = "partly" if any_points else "wrong"
    if not reveal:
        headline = gettext("Partly right.") if any_points else gettext("Not this time.")
        return Feedback(verdict, headline, gettext("You can look at it afterwards in Review."))
    parts = len(submission.results)
    if parts > 1:
        so_far = gettext("{right} of {parts} parts right so far.")
        headline = so_far.format(right=parts - len(wrong), parts=parts)
        return Feedback(verdict, headline if any_points else gettext("Not yet."), "")
    return _one_part_feedback(verdict, submission.marks[wrong[0]], answers[wrong[0]])


def _one_part_feedback(verdict: Verdict, mark: PartMark, answer: str) -> Feedback:
    """Feedback on the only part of a question. answer: the response in words."""
    says = mark.says or ""
    if mark.verdict == "partly":
        return Feedback(verdict, _shared_headline(mark), says)
    if "\n" in mark.canonical:
        return Feedback(verdict, gettext("Not yet."), says)
    if not says:
        return Feedback(verdict, gettext("Not {answer}.").format(answer=answer), "")
    first, rest = _split(says)
    return Feedback(
        verdict, gettext("Not {answer}. {first}").format(answer=answer, first=first), rest
    )


def _shared_headline(mark: PartMark) -> str:
    """How much of a part is right: 3 of 4."""
    return gettext("Partly right: {share} of {of}.").format(
        share=round(mark.share * mark.of), of=mark.of
    )


def _not_counted(submission: Submission) -> Feedback:
    results = submission.results
    unreadable = [p for p, r in results.items() if r is PartResult.UNREADABLE]
    if unreadable:
        why = submission.marks[unreadable[0]].says if len(results) == 1 else None
        detail = (
            gettext("{why} We didn’t count a try.").format(why=why)
            if why
            else gettext("We didn’t count a try.")
        )
        return Feedback("not_counted", gettext("We couldn’t read that."), detail)
    incomplete = [p for p, r in results.items() if r is PartResult.INCOMPLETE]
    if incomplete and len(results) == 1:
        why = submission.marks[incomplete[0]].says
        detail = gettext("{why} We didn’t count a try.").format(why=why)
        return Feedback("not_counted", gettext("Your answer isn’t complete."), detail)
    if PartResult.UNCHANGED in results.values():
        detail = gettext("You already sent that answer, so we didn’t count a try. Change it first.")
        return Feedback("not_counted", gettext("Nothing has changed."), detail)
    if incomplete or PartResult.HELD in results.values():
        return Feedback(
            "not_counted",
            gettext("Part of your answer is empty."),
            gettext("Answer every part, then send your answer."),
        )
    return Feedback(
        "not_counted", gettext("You haven’t answered yet."), gettext("We didn’t count a try.")
    )


def rehearsal_sentence(submission: Submission) -> str:
    """Return the feedback for a try in the rehearsal, where nothing counts."""
    results = submission.results
    for part, result in results.items():
        if result is PartResult.UNREADABLE:
            return gettext("We couldn’t read that. {says}").format(says=submission.marks[part].says)
        if result is PartResult.INCOMPLETE:
            says = submission.marks[part].says
            return gettext("Your answer isn’t complete. {says}").format(says=says)
    if PartResult.BLANK in results.values():
        return gettext("Part of your answer is empty.")
    if set(results.values()) <= {PartResult.RIGHT, PartResult.NOTED}:
        return gettext("That’s right. (Nothing counts here.)")
    return gettext("Not quite right. (Nothing counts here.)")


def level_sentence(
    before: LevelReading, after: LevelReading, weight_reason: str, answers: int
) -> str:
    """Return one sentence on what an answer did to a level. weight_reason: why it counted as much
    as it did. answers: that the topic has by now."""
    if weight_reason == "collection":
        return gettext("This is your group’s own question, so it doesn’t change your level.")
    if weight_reason == "helped":
        return gettext("You opened help first, so this answer doesn’t count for your level.")
    if weight_reason == "rapid":
        return gettext(
            "You answered faster than the question can be read, so this answer doesn’t "
            "count. Take your time."
        )
    if weight_reason == "gave_up":
        return gettext(
            "After two misses you answered very quickly, so this answer doesn’t count either way. "
            "When a question is too hard, look at the hint or the working, or take a break."
        )
    if not after.known:
        low, high = round(after.low), round(after.high)
        return gettext(
            "Your level is between {low} and {high}. A few more answers will make it clearer."
        ).format(low=low, high=high)
    level = round(after.level)
    if not before.known or answers < FIRST_ANSWERS:
        return gettext("First estimate of your level: about {level}.").format(level=level)
    change = level - round(before.level)
    if change == 0:
        return gettext("Your level is still about {level}.").format(level=level)
    return gettext("Your level is now about {level}, {word} {change}.").format(
        level=level, word="up" if change > 0 else "down", change=abs(change)
    )


def met_sentence(title: str, reading: LevelReading, covered: int) -> str:
    """Return the sentence for a target that was just met. covered: number of ideas that are
    covered."""
    chance = round(100 * reading.chance)
    ideas = (
        gettext("its only idea")
        if covered == 1
        else gettext("all {covered} ideas").format(covered=covered)
    )
    return gettext(
        "You’ve reached the target for {title}: {ideas} covered, and {chance} chances in "
        "100 that you’re at {target} or above. You can stop here."
    ).format(title=title.lower(), ideas=ideas, chance=chance, target=round(reading.target))
