"""Pairs of a group with the same answers at a test: the same versions only, first attempts only."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta

from vendaval.bank.models import FamilyRevision
from vendaval.bank.snapshot import CourseBank, version_of
from vendaval.exams.models import Assignment
from vendaval.groups.models import Enrolment, Group
from vendaval.levels.learning import learning_of
from vendaval.shared import clock
from vendaval.work.models import Mark, MarkRule
from vendaval_core.measure.pairs import RIGHT, SamePair, Sheet, alike_pairs
from vendaval_core.measure.selection import success_chances

LATELY = timedelta(days=60)
MOST_TESTS = 10


@dataclass(frozen=True, slots=True)
class AlikeAt:
    """Two learners, by enrolment, with the same answers at a test."""

    assignment: int
    test: str
    pair: SamePair


Answers = dict[int, dict[int, dict[str, str]]]
COLUMNS = (
    "tried__presentation__run__attempt__assignment_id",
    "tried__enrolment_id",
    "tried__presentation__revision_id",
    "tried__presentation__seed",
    "tried__presentation__order",
    "tried__family__key",
    "tried__response",
    "part",
    "canonical",
    "verdict",
)


def alike(group: Group, members: Sequence[Enrolment], bank: CourseBank) -> list[AlikeAt]:
    """Pairs worth asking at the tests given lately; three queries."""
    given = Assignment.objects.filter(group=group, given_at__gte=clock.now() - LATELY)
    tests = dict(given.order_by("-pk").values_list("pk", "test__title")[:MOST_TESTS])
    answers, families = _answers(list(tests), [one.pk for one in members])
    several = {test: sheets for test, sheets in answers.items() if len(sheets) > 1}
    chances = _chances(members, bank) if several else {}
    found = []
    for assignment, sheets in several.items():
        read = {
            learner: Sheet(
                questions,
                {q: chances[learner].get(families[q], 0.5) for q in questions},
            )
            for learner, questions in sheets.items()
        }
        found += [AlikeAt(assignment, tests[assignment], pair) for pair in alike_pairs(read)]
    return found


def _answers(tests: list[int], members: list[int]) -> tuple[Answers, dict[str, str]]:
    """By test, learner and question the answer; families of questions. Choices stand in another
    order for each learner, so wrong answers are told apart by what they say."""
    marks = Mark.objects.filter(
        tried__presentation__run__attempt__assignment__in=tests,
        tried__presentation__run__attempt__number=1,
        tried__enrolment__in=members,
        rule=MarkRule.KEY,
    ).order_by("pk")
    rows = list(marks.values_list(*COLUMNS))
    wrong = {row[2] for row in rows if row[-1] != "right"}
    revisions = FamilyRevision.objects.select_related("family__topic").in_bulk(wrong)
    parts: dict[tuple[int, int, str], dict[str, str]] = defaultdict(dict)
    families = {}
    for test, learner, revision, seed, order, family, response, part, canonical, verdict in rows:
        question = f"{revision} {seed}"
        families[question] = family
        said = RIGHT
        if verdict != "right":
            version = version_of(revisions[revision], seed, order)
            key = next(one for one in version.parts if one.id == part)
            said = key.same_answer(response.get(part, ""), canonical)
        parts[test, learner, question][part] = said
    found: Answers = defaultdict(lambda: defaultdict(dict))
    for (test, learner, question), said_of in parts.items():
        whole = all(said == RIGHT for said in said_of.values())
        answer = RIGHT if whole else "\n".join(f"{k} {said_of[k]}" for k in sorted(said_of))
        found[test][learner][question] = answer
    return found, families


def _chances(members: Sequence[Enrolment], bank: CourseBank) -> dict[int, dict[str, float]]:
    """Of every learner the chance of being right, by family, at the level they have now."""
    found: dict[int, dict[str, float]] = {}
    for enrolment in members:
        posterior = learning_of(enrolment).posterior
        found[enrolment.pk] = {
            key: min(0.99, max(0.01, chance))
            for number in range(len(bank.topics))
            for key, chance in success_chances(bank.table, posterior, number).items()
        }
    return found
