"""What a trial has to go by: who read one of its texts, and their next first try after it.

Nothing is counted while learners answer: it is all in the log, so that it can be looked at anew.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import partial

from django.db.models import F

from vendaval.bank.models import Trial
from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.levels.models import Observation
from vendaval.work.models import HelpKind, HelpOpened, Presentation, Try
from vendaval_core.authoring.trial_texts import with_text
from vendaval_core.items.model import Family
from vendaval_core.items.versions import Version, make_version
from vendaval_core.measure.trials import TrialAnswer, chance_before, gets_second
from vendaval_core.packs.families import family_from_data

WITHIN = timedelta(days=14)
MOST = 20_000
# No text says this, so that whoever is told it was told that text.
MARK = "⁂"


@dataclass(frozen=True, slots=True)
class Read:
    """A text that was read: by which learner, when, which one, of which version (0 for a study
    section)."""

    enrolment: int
    at: datetime
    second: bool
    seed: int


def answers_of(trial: Trial) -> list[TrialAnswer]:
    """What counts in a trial, in the order it was answered: for each learner who read one of the
    texts, the next first try on another version of the question, or in the topic of a section,
    within 14 days. Each learner counts once."""
    found = next_tries(course_bank(trial.course), _reads(trial), partial(_tried, trial))
    return [TrialAnswer(read.second, chance, right) for read, chance, right in found]


def next_tries(
    bank: CourseBank,
    reads: Iterable[Read],
    tried: Callable[[Sequence[int]], Iterable[Observation]],
) -> list[tuple[Read, float, bool]]:
    """For each learner the first reading, the chance at the next first try within 14 days, and
    whether that was right; in the order of the tries. tried: those of some learners, in order."""
    first: dict[int, Read] = {}
    for read in sorted(reads, key=lambda one: one.at):
        first.setdefault(read.enrolment, read)
    found: list[tuple[Read, float, bool]] = []
    for row in tried(list(first)):
        before = first.get(row.enrolment_id)
        if before is None or not before.at < row.at <= before.at + WITHIN:
            continue
        if before.seed and row.tried.presentation.seed == before.seed:
            continue
        chance = _chance(bank, row)
        if chance is None:
            continue
        del first[row.enrolment_id]
        found.append((before, chance, row.outcome == row.of - 1))
    return found


def _tried(trial: Trial, learners: Sequence[int]) -> Iterator[Observation]:
    """First tries that a trial may count, in order."""
    rows = Observation.objects.in_force().filter(
        enrolment__in=learners,
        enrolment__person__practice_for=None,
        at__gt=trial.began_at,
        outcome__isnull=False,
        weight__gt=0,
    )
    if trial.family_id is not None:
        rows = rows.filter(family=trial.family_id)
    else:
        rows = rows.filter(topic=trial.topic_id)
    rows = rows.select_related("tried__presentation").order_by("at", "pk")
    return iter(rows[:MOST])


def _chance(bank: CourseBank, row: Observation) -> float | None:
    """The chance of success before a try; nothing while levels may not be told."""
    past = bank.past.get(row.family_id)
    if past is None or row.before is None:
        return None
    return chance_before(past.curve, bank.scales[past.topic], row.before.reading())


def _reads(trial: Trial) -> Iterator[Read]:
    if trial.family_id is None:
        yield from _sections_read(trial)
    elif trial.place.startswith("hints"):
        yield from _hint_read(trial)
    elif trial.place == "solution":
        yield from _solution_read(trial)
    else:
        yield from _feedback_read(trial)


def _sections_read(trial: Trial) -> Iterator[Read]:
    assert trial.topic is not None, "it is about a section"
    rows = HelpOpened.objects.filter(
        enrolment__course=trial.course_id,
        kind=HelpKind.STUDY,
        topic=trial.topic.key,
        section=trial.section,
        at__gte=trial.began_at,
    )
    for row in rows.select_related("enrolment").order_by("at")[:MOST]:
        second = gets_second(trial.pk, row.enrolment.seed)
        yield Read(row.enrolment_id, row.at, second, 0)


def _shown(trial: Trial) -> dict[int, Presentation]:
    """Presentations of the question since the trial began."""
    rows = Presentation.objects.filter(
        revision__family=trial.family_id, made_at__gte=trial.began_at, run__rehearsal=False
    )
    rows = rows.select_related("run").order_by("-pk")
    return {row.pk: row for row in rows[:MOST]}


def _hint_read(trial: Trial) -> Iterator[Read]:
    """Who was shown the hint, asked for or after a miss."""
    number = int(trial.place.partition(".")[2])
    for shown in _shown(trial).values():
        if shown.hints_shown > number:
            yield _read_of(trial, shown, shown.made_at)


def _solution_read(trial: Trial) -> Iterator[Read]:
    """Who asked for the solution, or was shown it after first tries that weren't right."""
    shown = _shown(trial)
    asked = HelpOpened.objects.filter(
        presentation__revision__family=trial.family_id,
        kind=HelpKind.SOLUTION,
        at__gte=trial.began_at,
    )
    missed = Observation.objects.in_force().filter(
        family=trial.family_id, outcome__lt=F("of") - 1, at__gte=trial.began_at
    )
    read = [
        *asked.order_by("at").values_list("presentation", "at")[:MOST],
        *missed.order_by("at").values_list("tried__presentation", "at")[:MOST],
    ]
    for pk, at in read:
        if pk in shown and shown[pk].closed_at is not None:
            yield _read_of(trial, shown[pk], at)


def _read_of(trial: Trial, shown: Presentation, at: datetime) -> Read:
    second = shown.revision_id == trial.revision_id
    return Read(shown.run.enrolment_id, at, second, shown.seed)


def _feedback_read(trial: Trial) -> Iterator[Read]:
    """Who gave the wrong answer that the feedback is for: found by marking it with a question in
    which nothing else is said to it."""
    shown = _shown(trial)
    rows = Try.objects.filter(family=trial.family_id, at__gte=trial.began_at).order_by("at", "pk")
    marked = _marked(trial)
    versions: dict[tuple[int, int], Version] = {}
    part_at = int(trial.place.split(".")[1])
    for row in rows[:MOST]:
        presentation = shown.get(row.presentation_id)
        if presentation is None:
            continue
        place = presentation.seed, presentation.order
        if place not in versions:
            versions[place] = make_version(marked, *place)
        key = versions[place].parts[part_at]
        given = row.response.get(key.id)
        if given is not None and MARK in (key.mark(given).says or ""):
            yield _read_of(trial, presentation, row.at)


def _marked(trial: Trial) -> Family:
    """The question with the mark in the place of the feedback."""
    revision = trial.revision
    assert revision is not None, "it is about a question"
    data = with_text(revision.data.model_dump(mode="json"), trial.place, MARK)
    return family_from_data(revision.family.key, revision.family.topic.key, data)
