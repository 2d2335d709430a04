"""A presentation loaded with all that an answer to it meets."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from fractions import Fraction

from django.db.models import Exists, OuterRef, Q
from django.utils.translation import gettext

from vendaval.bank.models import Family, FamilyRevision
from vendaval.bank.snapshot import (
    BankFamily,
    CourseBank,
    course_bank,
    fixed_parts_of,
    version_of,
)
from vendaval.groups.models import Enrolment
from vendaval.groups.queries import own
from vendaval.people.models import User
from vendaval.people.policies import Relation, require
from vendaval.shared.errors import Conflict, NotFound
from vendaval_core.items.versions import Version
from vendaval_core.scoring.tries import QuestionState, first_tries_right

from .models import Closing, Mark, Presentation, Purpose, Run, Try, TryKind

# Before that many answers the author's guess of the time is better than their mean.
FEWEST_TIMED = 30


def in_open_test() -> str:
    """Where a question is that can't be asked now."""
    return gettext("in a test that is still open for you")


Log = tuple[list[Try], dict[int, dict[str, Mark]]]
# The learner's state belongs to an app above; it is asked for here so that one query brings it.
LOADED = ("run__enrolment__course", "run__enrolment__state", "revision__family__topic")
LEFT_OUT = (
    "run__enrolment__since",
    "run__enrolment__course__rehearsal",
    "run__enrolment__course__prior",
    "run__enrolment__course__files",
    "run__enrolment__course__content",
    "revision__data",
    "revision__number",
    "revision__family__live",
    "revision__family__pack",
    "revision__family__topic__title",
    "revision__family__topic__after",
    "revision__family__topic__pack",
    "revision__family__topic__digest",
    "revision__family__topic__target",
    "revision__family__topic__importance",
    "revision__family__topic__position",
)


@dataclass(slots=True)
class OpenQuestion:
    """A presentation with all that an answer to it meets. mean_seconds: what its family takes."""

    presentation: Presentation
    tries: list[Try]
    marks: dict[int, dict[str, Mark]]
    bank: CourseBank
    version: Version
    item: BankFamily
    state: QuestionState
    mean_seconds: float
    sent: Mapping[str, str] = field(default_factory=dict)

    @property
    def run(self) -> Run:
        """The run it is part of."""
        return self.presentation.run

    @property
    def enrolment(self) -> Enrolment:
        """Whose question it is."""
        return self.presentation.run.enrolment

    @property
    def first_right(self) -> bool:
        """Whether its first tries had full points."""
        return first_tries_right(self.state, self.version)


def newest_marks(marks: Sequence[Mark]) -> dict[int, dict[str, Mark]]:
    """By try and part the mark that counts. marks: in the order they were added."""
    found: dict[int, dict[str, Mark]] = {}
    for mark in marks:
        found.setdefault(mark.tried_id, {})[mark.part] = mark
    return found


def tries_of(presentation: Presentation) -> tuple[list[Try], dict[int, dict[str, Mark]]]:
    """The tries of a presentation in order, and the marks that count; no query without a try."""
    if not presentation.tried:
        return [], {}
    tries = _not_set_aside(list(presentation.tries.order_by("number")))
    marks = Mark.objects.filter(tried__presentation=presentation).order_by("pk")
    return tries, newest_marks(list(marks))


def _not_set_aside(tries: Sequence[Try]) -> list[Try]:
    """The tries of a question without those that reopening its test set aside."""
    aside = {row.undoes_id for row in tries if row.kind == TryKind.SET_ASIDE}
    return [row for row in tries if row.kind != TryKind.SET_ASIDE and row.pk not in aside]


def question_state(
    version: Version, tries: Sequence[Try], marks: Mapping[int, Mapping[str, Mark]]
) -> QuestionState:
    """Where a question stands after its tries, by the marks that count."""
    parts = dict(QuestionState.fresh(version.parts).parts)
    for row in tries:
        for part, mark in marks.get(row.pk, {}).items():
            share = Fraction(mark.share) if mark.share else None
            parts[part] = parts[part].with_answer(mark.canonical, share)
    return QuestionState(parts)


def find_presentation(
    person: User, course: str, presentation_id: int, operation: str
) -> Presentation:
    """A learner's own presentation, or NotFound; another learner's does not exist for them."""
    in_tests = Presentation.objects.filter(
        run__enrolment=OuterRef("run__enrolment"), in_open_test=True
    )
    found = (
        Presentation.objects.select_related(*LOADED)
        .defer(*LEFT_OUT)
        .filter(own(person, course, "run__enrolment__"), pk=presentation_id)
        .annotate(any_in_test=Exists(in_tests))
        .first()
    )
    require(operation, person.roles, Relation.OWN if found is not None else None)
    if found is None:
        raise NotFound(gettext("We can’t find this question."))
    if not found.any_in_test:
        # The usual case needs no query of its own.
        found.run.enrolment.__dict__["_open_in_test"] = frozenset()
    return found


def bank_family(bank: CourseBank, version: Version) -> BankFamily:
    """The bank's entry for a version's family; one no longer live cannot be answered."""
    item = bank.known(version.family)
    if item is None:
        raise Conflict(
            gettext("This question was removed from the course. We counted nothing."),
            code="not_live",
        )
    return item


def logs_of(presentations: Sequence[Presentation]) -> dict[int, Log]:
    """The tries of many presentations, and the marks that count, in two queries."""
    tried = [row.pk for row in presentations if row.tried]
    tries: dict[int, list[Try]] = {}
    for row in Try.objects.filter(presentation__in=tried).order_by("number"):
        tries.setdefault(row.presentation_id, []).append(row)
    marks = newest_marks(list(Mark.objects.filter(tried__presentation__in=tried).order_by("pk")))
    found: dict[int, Log] = {}
    for shown in presentations:
        own = _not_set_aside(tries.get(shown.pk, []))
        found[shown.pk] = own, {row.pk: marks[row.pk] for row in own if row.pk in marks}
    return found


def with_revisions(presentations: Iterable[Presentation]) -> None:
    """Give many presentations what their versions are made from, each revision read once: a test
    has a hundred times as many presentations as revisions."""
    rows = list(presentations)
    revisions = FamilyRevision.objects.select_related("family__topic", "family__latest").in_bulk(
        {row.revision_id for row in rows}
    )
    for row in rows:
        row.revision = revisions[row.revision_id]


def opened(presentation: Presentation, log: Log | None = None) -> OpenQuestion:
    """A presentation with all that an answer to it meets. log: of it, where it was loaded before
    (see `logs_of`)."""
    version = version_of(presentation.revision, presentation.seed, presentation.order)
    tries, marks = tries_of(presentation) if log is None else log
    bank = course_bank(presentation.run.enrolment.course)
    item = bank_family(bank, version)
    state = question_state(version, tries, marks)
    mean_seconds = typical_seconds(presentation.revision.family, item.family.seconds)
    return OpenQuestion(presentation, tries, marks, bank, version, item, state, mean_seconds)


def open_question(person: User, course: str, presentation_id: int, operation: str) -> OpenQuestion:
    """Load a presentation for an answer. NotFound unless it is this learner's."""
    question = opened(find_presentation(person, course, presentation_id, operation))
    if shown_in_test(question.enrolment, question.presentation):
        raise Conflict(
            gettext("This question is {in_open_test}. It comes back after the test.").format(
                in_open_test=in_open_test()
            ),
            code="open_in_test",
        )
    return question


def open_in_test(enrolment: Enrolment) -> frozenset[tuple[int, int]]:
    """Return the versions that are in a test still open for this learner, by family id and seed.

    This is the one place that answers what no other page may ask, mark or show: practice, quizzes,
    rechecks, diagnostics, Review, threads and previews all ask here. Read once for an enrolment
    that was loaded.
    """
    found: frozenset[tuple[int, int]] | None = enrolment.__dict__.get("_open_in_test")
    if found is None:
        rows = Presentation.objects.filter(run__enrolment=enrolment, in_open_test=True)
        found = frozenset(rows.values_list("revision__family_id", "seed"))
        enrolment.__dict__["_open_in_test"] = found
    return found


def open_in_tests_of(person: User) -> frozenset[tuple[int, int]]:
    """Return the versions that are in tests still open for somebody, in all of their courses."""
    rows = Presentation.objects.filter(run__enrolment__person=person, in_open_test=True)
    return frozenset(rows.values_list("revision__family_id", "seed"))


def shown_in_test(enrolment: Enrolment, presentation: Presentation) -> bool:
    """Return whether a question outside tests would give away one in a test still open for this
    learner: the same version, or another with a part that is the same in every version."""
    if presentation.run.purpose == Purpose.TEST:
        return False
    revision = presentation.revision
    return gives_away(revision, presentation.seed, open_in_test(enrolment))


def gives_away(revision: FamilyRevision, seed: int, in_tests: Collection[tuple[int, int]]) -> bool:
    """Return whether a version gives away one of those that are in open tests."""
    seeds = {other for family, other in in_tests if family == revision.family_id}
    return seed in seeds or (bool(seeds) and bool(fixed_parts_of(revision)))


def hidden_by_tests(enrolment: Enrolment, path: str = "") -> Q:
    """Return a filter for presentations outside tests that would give away a question of a test
    still open for this learner: what was answered there is listed again once it is over.

    path: from the rows that are filtered to the presentation, as `presentation__`.
    """
    in_tests = open_in_test(enrolment)
    found = Q(pk__in=())
    if not in_tests:
        return found
    families = Family.objects.filter(pk__in={family for family, _ in in_tests})
    for family in families.select_related("latest", "topic"):
        own = Q(**{f"{path}revision__family": family.pk})
        assert family.latest is not None, "a family has a revision"
        family.latest.family = family
        if not fixed_parts_of(family.latest):
            seeds = [seed for other, seed in in_tests if other == family.pk]
            own &= Q(**{f"{path}seed__in": seeds})
        found |= own
    return found & ~Q(**{f"{path}run__purpose": Purpose.TEST})


def waits_elsewhere(enrolment: Enrolment, presentation: Presentation) -> bool:
    """Whether the same version waits for a learner's answer, here or in another place, or would
    give away a question of another test that is still open."""
    rows = Presentation.objects.filter(
        Q(closed_at=None) | Q(in_open_test=True),
        run__enrolment=enrolment,
        revision__family=presentation.revision.family_id,
    ).values_list("pk", "seed", "closed_at", "in_open_test")
    waiting = list(rows)
    if any(seed == presentation.seed and not closed for _, seed, closed, _ in waiting):
        return True
    family = presentation.revision.family_id
    others = {
        (family, seed) for pk, seed, _, in_test in waiting if in_test and pk != presentation.pk
    }
    return gives_away(presentation.revision, presentation.seed, others)


def typical_seconds(family: Family, guess: float) -> float:
    """Mean seconds of a family's first tries; the author's guess until 30 are in."""
    if family.timed_answers < FEWEST_TIMED:
        return guess
    return family.timed_seconds / family.timed_answers


def refuse_closed(question: OpenQuestion) -> None:
    """Conflict when the presentation was closed before."""
    if question.presentation.closed_at is not None:
        raise Conflict(
            gettext("This question is closed. We changed nothing."), code="question_closed"
        )


def close(presentation: Presentation, how: Closing, now: datetime) -> None:
    """Close a presentation in memory."""
    presentation.closed_at = now
    presentation.closing = how
