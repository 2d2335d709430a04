"""What a regrade makes of a question's marks: worked out before anything is stored."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from vendaval.bank.snapshot import version_of
from vendaval.work.models import Mark, MarkRule, Presentation, Try
from vendaval.work.questions import OpenQuestion, question_state
from vendaval_core.items.formulas.workers import asking
from vendaval_core.items.mark import Verdict
from vendaval_core.items.versions import Version

from ..columns import RegradeWay

Shares = dict[Try, dict[str, Fraction]]


def mended_version(shown: Presentation) -> Version:
    """The version that was shown, by the key that its family has now."""
    latest = shown.revision.family.latest
    assert latest is not None, "a family has a revision"
    latest.family = shown.revision.family
    return version_of(latest, shown.seed, shown.order)


def new_shares(question: OpenQuestion, way: RegradeWay) -> Shares:
    """By try and part the share that it has by a regrade, where that is another one. What a person
    marked stays as it is."""
    found: Shares = {}
    shown = question.presentation
    if way.kind == "accept" and way.seed not in {None, shown.seed}:
        return found
    keys = {key.id: key for key in mended_version(shown).parts} if way.kind == "again" else {}
    own = {key.id: key for key in question.version.parts}
    for tried in question.tries:
        for part, mark in question.marks.get(tried.pk, {}).items():
            if mark.rule == MarkRule.PERSON or not mark.share:
                continue
            share = Fraction(mark.share)
            if way.kind == "again" and part in keys:
                # A formula that could not be worked out just now says nothing of the key.
                with asking("regrade"):
                    again = keys[part].mark(tried.response.get(part, ""))
                share = share if again.verdict is Verdict.UNREADABLE else again.share
            elif way.kind == "accept" and part == way.part:
                said = own[part].same_answer(tried.response.get(part, ""), mark.canonical)
                share = Fraction(1) if said == way.canonical else share
            if share != Fraction(mark.share):
                found.setdefault(tried, {})[part] = share
    return found


def regraded(question: OpenQuestion, way: RegradeWay) -> OpenQuestion:
    """A question as it would stand after a regrade; the one given stays as it is."""
    found = new_shares(question, way)
    if not found:
        return question
    marks = {tried: dict(parts) for tried, parts in question.marks.items()}
    for tried, parts in found.items():
        for part, share in parts.items():
            marks[tried.pk][part] = Mark(
                tried=tried,
                part=part,
                verdict=Verdict.RIGHT.value,
                share=str(share),
                canonical=marks[tried.pk][part].canonical,
                rule=MarkRule.REGRADE,
            )
    state = question_state(question.version, question.tries, marks)
    return replace(question, marks=marks, state=state)
