"""The demo's tests: eight that show the rules apart, with attempts in every state."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from fractions import Fraction
from random import Random
from typing import Any

from django.utils import timezone

from vendaval.bank.models import Course
from vendaval.exams.columns import CompositionData, EntryData, RulesData, SectionData, SoFarData
from vendaval.exams.composing.actions import give, make_test
from vendaval.exams.models import Allowance, AnswerSoFar, Assignment, Attempt
from vendaval.exams.paper import pages
from vendaval.exams.paper.schemas import Came
from vendaval.exams.taking import actions as attempts
from vendaval.groups.models import Enrolment, Group
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.work.actions import submit_try
from vendaval.work.columns import WorkingNote
from vendaval.work.grading import Sent
from vendaval_core.assessment.paper import PagesWanted

from .learners import keys_of_shown
from .sheets import BRIEFING, LEGS, photograph

USUAL = ["working", "notes", "marker", "strike_out", "aloud"]
# Of whom the stories tell, and not this file's chances.
TOLD_OF = {"ines", "tomas", "vasco", "benedita", "simao"}
LATER = {"answers": "closed", "solutions": "closed"}


# What is noted beside an answer, by topic.
WORKINGS = {
    "speed-time-distance": "$d = v t$, then to the nearest tenth",
    "latitude-and-distance": "One minute of latitude is one mile",
    "compass-errors": "$T = C + E - W$",
    "height-at-a-time": "Hours since low water, then the twelfths",
    "clearance-windows": "Height of tide less the drying height",
}
WRITTEN = (
    "Life jackets are under the seats in the cabin and everybody puts one on before we leave. If "
    "something happens to me, pull the red lever to stop the engine and press the red button on "
    "the radio. We go to the island and are back by six.",
    "I tell them to sit still and hold on, and that the weather will be fine. The flares are in "
    "the yellow box.",
    "First of all the life jackets. Then how to call for help on channel 16. Nobody goes to the "
    "front alone.",
    "Where we are going and that it takes three hours. Lunch is at one.",
    "Jackets, harnesses, flares and the extinguisher: I show each of them. I show how to stop the "
    "boat into the wind. Channel 16 for help. Two hours to the bay and nobody goes forward alone.",
)


@dataclass(frozen=True, slots=True)
class Planned:
    """A test of the demo. due, closes: days from now. drawn: (how many, of these). one_page: title
    of a section of the families on one page, before one with what is drawn."""

    title: str
    families: tuple[str, ...]
    rules: dict[str, Any]
    directions: str = ""
    materials: str = ""
    drawn: tuple[int, tuple[str, ...]] | None = None
    points: dict[str, int] = field(default_factory=dict)
    opens: float | None = -8
    due: float | None = None
    closes: float | None = None
    same: bool = True
    shuffled: bool = True
    pages: PagesWanted = PagesWanted.NONE
    one_page: str = ""


TESTS = (
    Planned(
        "Tides and clearance, end of unit",
        (
            "range-of-tide",
            "springs-or-neaps",
            "drying-rock",
            "table-of-twelfths",
            "time-for-height",
            "bridge-clearance",
            "window-from-until",
        ),
        {
            "minutes": 20,
            "one_sitting": True,
            "release": LATER,
            "pass_mark": "60",
            "tools": [*USUAL, "scientific"],
        },
        "Heights are in metres above chart datum. Give them to one decimal.",
        "A pencil and a sheet of paper.",
        drawn=(2, ("tide-needed-depth", "tide-needed-drying", "under-keel-now", "safest-time")),
        points={"table-of-twelfths": 2, "window-from-until": 2},
        due=3,
        closes=10,
    ),
    Planned(
        "Buoyage, four tries each",
        ("bands", "cardinal-side", "flashes", "preferred-channel", "where-to-lay"),
        {
            "submission": "individual",
            "tries": 4,
            "off_per_miss": "1/4",
            "release": {"correctness": "at_once"},
        },
        due=5,
        same=False,
    ),
    Planned(
        "Who gives way: forward only",
        ("bearings", "crossing", "head-on", "overtaking", "stand-on", "two-sails"),
        {
            "navigation": "linear",
            "minutes": 12,
            "release": dict.fromkeys(("score", "correctness", "answers", "solutions"), "due"),
        },
        due=2,
    ),
    Planned(
        "Sound signals: a wrong choice costs",
        ("anchor", "blast-length", "heard", "in-fog", "overtake-channel"),
        {
            "off_wrong": "1/4",
            "attempts": 3,
            "score_kept": "best",
            "release": {"answers": "last_attempt", "solutions": "last_attempt"},
        },
        closes=20,
    ),
    Planned(
        "Passage planning, in your own words",
        ("briefing", "eta", "legs", "thirds"),
        {
            "minutes": 40,
            "clock": "stops",
            "working": "all",
            "tools": [*USUAL, "calculator"],
        },
        "Write the briefing as you would give it to your crew.",
        points={"briefing": 6, "legs": 2},
        due=6,
        pages=PagesWanted.MAY,
    ),
    Planned(
        "Chartwork, first look",
        ("cables-to-metres", "distance-run", "compass-to-true", "how-many-lines"),
        {
            "late": "less",
            "late_off": "1/10",
            "tools": [*USUAL, "calculator", "ruler", "protractor"],
        },
        due=-2,
        closes=6,
    ),
    Planned(
        "Rules, lights and weather, a short look",
        (
            "which-scale",
            "best-line",
            "arrows",
            "kinds",
            "name-the-levels",
            "spring-moon",
            "fastest-hours",
            "rule-eighteen",
            "arcs",
            "places",
            "manoeuvring",
            "names",
            "weak-to-strong",
            "two-fogs",
            "topmarks",
            "which-word",
            "stages",
        ),
        {"minutes": 25},
        due=-1,
        closes=12,
        shuffled=False,
    ),
    Planned(
        "Buoys at a glance",
        ("bands", "cardinal-side", "flashes", "other-marks", "topmarks"),
        {"minutes": 10},
        due=-3,
        closes=12,
    ),
    Planned(
        "A day trip, on one page",
        ("plan-first-leg", "plan-water", "plan-bar-open", "plan-arrival"),
        {"minutes": 15, "navigation": "linear", "tools": [*USUAL, "calculator"]},
        drawn=(2, ("eta", "thirds", "legs")),
        due=7,
        closes=14,
        one_page="The day trip",
    ),
)


def give_tests(
    course: Course, group: Group, tutor: User, people: dict[str, User], now: datetime
) -> list[Assignment]:
    """Make the tests, give them to the group, and let some of its learners take them."""
    given = [_given(planned, i, course, group, tutor, now) for i, planned in enumerate(TESTS)]
    tides, buoyage, way, signals, writing, chart, *_ = given
    ines, tomas = people["ines"], people["tomas"]
    Allowance.objects.create(
        assignment=tides,
        enrolment=Enrolment.objects.get(person=ines, course=course),
        times=1.25,
        by=tutor,
        why="a quarter more time, as agreed",
        at=now - timedelta(days=7),
    )
    sit(ines, signals, now - timedelta(days=6), 0.5, Random(1))
    sit(ines, signals, now - timedelta(days=4), 0.8, Random(2))
    sit(ines, way, now - timedelta(days=2), 0.7, Random(3))
    sit(ines, writing, now - timedelta(days=1), 0.7, Random(4))
    _begin(ines, buoyage, now - timedelta(hours=5), Random(5))
    for i, assignment in enumerate((tides, way, signals, writing, chart)):
        at = now - timedelta(days=5 - i, minutes=40)
        sit(tomas, assignment, at, 0.9, Random(10 + i))
    _on_paper(Attempt.objects.get(enrolment__person=tomas, assignment=writing))
    others = [people[name] for name in sorted(people) if name not in TOLD_OF]
    for i, person in enumerate(others):
        rng = Random(f"sitting:{i}")
        if i % 6:
            sit(person, tides, now - timedelta(days=4 + i % 3), 0.35 + 0.05 * i, rng)
        if i % 2 == 0:
            sit(person, writing, now - timedelta(days=2 + i % 4), 0.4 + 0.04 * i, rng)
        if i % 3 == 0:
            sit(person, chart, now - timedelta(days=5), 0.4 + 0.04 * i, rng)
    return given


def _given(
    planned: Planned, seed: int, course: Course, group: Group, tutor: User, now: datetime
) -> Assignment:
    entries = [
        EntryData(families=[key], points=Fraction(planned.points.get(key, 1)))
        for key in planned.families
    ]
    drawn = []
    if planned.drawn is not None:
        count, pool = planned.drawn
        drawn.append(EntryData(families=list(pool), count=count))
    sections = [SectionData(title="All questions", entries=[*entries, *drawn])]
    if planned.one_page:
        sections = [
            SectionData(title=planned.one_page, entries=entries, one_page=True),
            SectionData(title="Two more", entries=drawn),
        ]
    composition = CompositionData(
        sections=sections,
        seed=101 + 10 * seed,
        same_versions=planned.same,
        shuffled_choices=planned.shuffled,
    )

    evening = timezone.localtime(now).replace(hour=18, minute=0, second=0, microsecond=0)

    def at(days: float | None) -> datetime | None:
        return None if days is None else evening + timedelta(days=days)

    with clock.held_by(lambda: now - timedelta(days=8)):
        test = make_test(
            course,
            planned.title,
            composition,
            RulesData(**planned.rules),
            tutor,
            directions=planned.directions,
            materials=planned.materials,
        )
        return give(
            test,
            group,
            tutor,
            opens=at(planned.opens),
            due=at(planned.due),
            closes=at(planned.closes),
            pages=planned.pages,
        )


@dataclass(slots=True)
class _Hand:
    """Somebody at an attempt, with a clock of their own."""

    time: datetime
    rng: Random

    def now(self) -> datetime:
        return self.time

    def wait(self, seconds: float) -> None:
        self.time += timedelta(seconds=seconds)


def _entered(person: User, assignment: Assignment) -> tuple[Attempt, int]:
    course = assignment.test.course.key
    attempt = attempts.start(person, course, "given", assignment.pk)
    attempt = attempts.enter(person, course, attempt.pk)
    return attempt, attempt.standing.intervals[-1].id


def sit(
    person: User,
    assignment: Assignment,
    at: datetime,
    chance: float,
    rng: Random,
    answer: Callable[[AnswerSoFar], SoFarData] | None = None,
) -> None:
    """A whole attempt: most questions answered, some flagged, handed in. answer: what to put down
    instead of what chance gives."""
    hand = _Hand(at, rng)
    course = assignment.test.course.key
    with clock.held_by(hand.now):
        attempt, interval = _entered(person, assignment)
        answers = AnswerSoFar.objects.filter(attempt=attempt).select_related(
            "presentation__revision__family__topic"
        )
        for row in answers.order_by("number"):
            seconds = rng.uniform(20, 75)
            hand.wait(seconds)
            data = answer(row) if answer is not None else _put_down(row, chance, rng)
            saving = attempts.Saving(interval, 1, data, seconds)
            attempts.save(person, course, attempt.pk, row.number, saving)
            if attempt.rules.core().linear:
                attempts.move_on(person, course, attempt.pk, (0, row.number))
        attempts.give_in(person, course, attempt.pk, interval)


def _on_paper(attempt: Attempt) -> None:
    """Two sheets of an attempt that was just handed in: photographed, and all in."""
    assert attempt.handed_in_at is not None
    person, course = attempt.enrolment.person, attempt.test.course.key
    load = pages.own_attempt_loader(person, course, attempt.pk, "add_pages")
    first, third = (AnswerSoFar.objects.get(attempt=attempt, number=number) for number in (1, 3))
    for sheet, answer in enumerate((first, third), 1):
        answer.data.on_paper, answer.data.sheet = True, sheet
        answer.save(update_fields=["data"])
    hand = _Hand(attempt.handed_in_at, Random(0))
    with clock.held_by(hand.now):
        for lines in (BRIEFING, LEGS):
            hand.wait(70)
            pages.add(load, photograph(lines), Came.PHONE)
        pages.all_in(load)


def _put_down(answer: AnswerSoFar, chance: float, rng: Random) -> SoFarData:
    if rng.random() < 0.08:
        return SoFarData(flagged=True)
    responses = {
        key.id: key.examples.right if rng.random() < chance else key.likely_wrong(rng)
        for key in keys_of_shown(answer.presentation)
    }
    if "brief" in responses:
        responses["brief"] = rng.choice(WRITTEN)
    lines = WORKINGS.get(answer.presentation.revision.family.topic.key)
    note = WorkingNote(lines=lines) if rng.random() < 0.2 and lines else None
    return SoFarData(responses=responses, flagged=rng.random() < 0.1, working=note)


def _begin(person: User, assignment: Assignment, at: datetime, rng: Random) -> None:
    """An attempt that is left with two questions sent, one of them right at the second try."""
    hand = _Hand(at, rng)
    course = assignment.test.course.key
    with clock.held_by(hand.now):
        attempt, interval = _entered(person, assignment)
        answers = list(
            AnswerSoFar.objects.filter(attempt=attempt)
            .select_related("presentation__revision__family__topic")
            .order_by("number")[:2]
        )
        for answer, wrongs in zip(answers, (1, 0), strict=True):
            keys = keys_of_shown(answer.presentation)
            given = [{key.id: key.likely_wrong(rng) for key in keys}] * wrongs
            given.append({key.id: key.examples.right for key in keys})
            for turn, responses in enumerate(given):
                hand.wait(rng.uniform(20, 60))
                key = f"demo-sitting-{attempt.pk}-{answer.number}-{turn}"
                submit_try(person, course, answer.presentation_id, Sent(key, responses))
        attempts.leave(person, course, attempt.pk, interval)
