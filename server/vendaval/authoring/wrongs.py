"""Common wrong answers to a family: what was answered, by thirds of learners, and the slips that
would produce what no near miss covers."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from difflib import get_close_matches

import numpy as np

from vendaval.bank.kept import topic_files
from vendaval.bank.models import FamilyRevision
from vendaval.bank.snapshot import family_of, version_of
from vendaval.delivery.answer_words import given_words
from vendaval.levels.models import Observation
from vendaval.people.models import User
from vendaval.shared.sandbox import Limits, in_sandbox
from vendaval.work.models import Mark
from vendaval_core.items.kinds.short_text import WordPart
from vendaval_core.measure.analysis.questions import answers_by_thirds, by_thirds

from .families import Opened
from .wrong_schemas import SaidOut, SlipOut, WrongAnswersOut

MODULE = "vendaval.authoring.slip_search"
BOUNDS = Limits(megabytes=900, seconds=12, patience=25)
MOST = 2000
MOST_SAID = 20
FEWEST = 2


@dataclass(frozen=True, slots=True)
class _Given:
    """A wrong first answer: to which version, by whom, of which level then."""

    seed: int
    learner: int
    level: float
    canonical: str
    response: str
    foreseen: bool


def wrong_answers(family: Opened, by: User) -> WrongAnswersOut:
    """What was answered wrongly, and the slips behind it. The formula is the draft's."""
    if family.family is None or family.published is None:
        return WrongAnswersOut(answers=0, wrong=0, foreseen=0, slips=[], said=[])
    revisions = _alike(family)
    total, given = _given(family.family.pk, revisions)
    unforeseen = [one for one in given if not one.foreseen]
    return WrongAnswersOut(
        answers=total,
        wrong=len(given),
        foreseen=len(given) - len(unforeseen),
        slips=_slips(family, family.text, unforeseen, f"author-{by.pk}"),
        said=_said(family.published, given),
    )


def _alike(family: Opened) -> list[int]:
    """Revisions whose versions have the same numbers and answers as the one in force."""
    assert family.published is not None, "it is published"
    now = _drawn(family.published)
    rows = FamilyRevision.objects.filter(family=family.family)
    return [row.pk for row in rows if _drawn(row) == now]


def _drawn(revision: FamilyRevision) -> tuple[object, ...]:
    data = revision.data.model_dump(mode="json")
    answers = [part.get("answer") for part in data["parts"]]
    return data["variables"], data.get("constraints"), answers


def _given(family: int, revisions: Sequence[int]) -> tuple[int, list[_Given]]:
    """How many first answers there are, and the wrong ones; none that a test holds back."""
    rows = (
        Observation.objects.told()
        .filter(family=family, tried__presentation__revision__in=revisions)
        .select_related("tried__presentation")
        .order_by("-pk")[:MOST]
    )
    seen = {row.tried_id: row for row in rows}
    found = []
    marks = Mark.objects.filter(tried__in=seen, verdict="wrong").order_by("pk")
    newest = {(mark.tried_id, mark.part): mark for mark in marks}
    for mark in newest.values():
        row = seen[mark.tried_id]
        found.append(
            _Given(
                row.tried.presentation.seed,
                row.enrolment_id,
                row.before.level if row.before is not None else 50.0,
                mark.canonical,
                row.tried.response.get(mark.part, ""),
                bool(mark.says),
            )
        )
    return len(seen), found


def slips_of(family: Opened, who: str) -> list[SlipOut]:
    """The slips behind wrong answers that nobody foresaw, by the published formula. who: on whose
    behalf they are sought."""
    if family.family is None or family.published_text is None:
        return []
    _, given = _given(family.family.pk, _alike(family))
    unforeseen = [one for one in given if not one.foreseen]
    return _slips(family, family.published_text, unforeseen, who)


def _slips(family: Opened, text: str, given: Sequence[_Given], who: str) -> list[SlipOut]:
    sent = {
        "text": text,
        "path": family.path,
        "key": family.key,
        "topic": family.topic.key,
        "files": dict(topic_files(family.course, family.topic.key).texts),
        "wrong": [[one.seed, one.learner, one.canonical] for one in given],
    }
    if len(given) < FEWEST:
        return []
    says, _ = in_sandbox(MODULE, {}, json.dumps(sent).encode(), who=who, limits=BOUNDS)
    return [SlipOut(**one) for one in says["slips"]]


def _said(revision: FamilyRevision, given: Sequence[_Given]) -> list[SaidOut]:
    """What was answered wrongly by several, by thirds of those who did, and what is close to an
    accepted spelling."""
    family = family_of(revision)
    accepted = [w for part in family.parts if isinstance(part, WordPart) for w in part.accepted]
    words = [_words(revision, one) for one in given]
    thirds = by_thirds(np.array([one.level for one in given]))
    many: Mapping[str, int] = Counter(words)
    return [
        SaidOut(
            answer=answer,
            lower=low,
            middle=middle,
            upper=high,
            close_to=next(iter(get_close_matches(answer, accepted, 1, 0.8)), ""),
        )
        for answer, (low, middle, high) in answers_by_thirds(words, thirds).items()
        if answer and many[answer] >= FEWEST
    ][:MOST_SAID]


def _words(revision: FamilyRevision, one: _Given) -> str:
    version = version_of(revision, one.seed, 0)
    if len(version.parts) != 1:
        return one.canonical
    return given_words(version.parts[0], one.response) or one.canonical
