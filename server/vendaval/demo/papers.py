"""What the demo's learners worked out on paper: plans handed in with set work, and the working
beside a question that was missed."""

from __future__ import annotations

from datetime import datetime, timedelta
from decimal import Decimal

from vendaval.assigning import hand_ins
from vendaval.assigning.columns import AsksData, HandInTask
from vendaval.assigning.hand_in_schemas import HandInMarkIn
from vendaval.assigning.messages import tell_task_set
from vendaval.assigning.models import HandIn
from vendaval.assigning.schemas import TaskIn
from vendaval.assigning.tasks import set_task
from vendaval.files.answers import start_file
from vendaval.files.models import StoredFile
from vendaval.files.schemas import CHUNK, FileIn, FileOut
from vendaval.files.storing import take_chunk
from vendaval.groups.models import Enrolment, Group
from vendaval.people.models import User
from vendaval.review.models import Miss
from vendaval.shared import clock
from vendaval_core.mastery.handing_in import Wanted

from .sheets import photograph

ASKS = AsksData(
    files=Wanted.MUST,
    links=Wanted.MAY,
    says="Plan a day from **Porto Velho** to **Ilha Rasa** and back: legs with courses and times, "
    "the tide at the bar, and where you would turn round. A photograph of your page will do.",
    points=10,
)
PLAN = (
    "Porto Velho to Ilha Rasa",
    "",
    "Leave 08:40, two hours before HW",
    "Leg 1   214 T   6.5 M   1 h 18",
    "Leg 2   187 T   3.2 M      38 min",
    "Bar: 1.2 m under the keel until 12:10",
    "Turn round by 11:00 if not at the buoy",
)
ROUGH = (
    "Ilha Rasa",
    "",
    "go south west about 6 miles",
    "then south 3 miles, two hours in all",
    "back the same way",
)
SUMS = (
    "rule of twelfths:   1  2  3  3  2  1",
    "added up:           1  3  6  9  11  12",
    "",
    "range = high water - low water",
    "one twelfth = range / 12",
    "count the twelfths, then read off the hour",
)


def _send(announced: FileOut, data: bytes) -> None:
    row = StoredFile.objects.select_related("enrolment").get(pk=announced.id)
    for number in announced.missing:
        take_chunk(row, number, data[number * CHUNK : (number + 1) * CHUNK])


def plans_handed_in(group: Group, people: dict[str, User], tutor: User, now: datetime) -> None:
    """A plan was asked for; two have handed theirs in, and one is marked."""
    evening = now.replace(hour=18, minute=0, second=0, microsecond=0)
    wanted = TaskIn(
        goal=HandInTask(kind="hand_in"),
        title="A plan for Ilha Rasa",
        asks=ASKS,
        due=evening + timedelta(days=3),
    )
    with clock.held_by(lambda: now - timedelta(days=4)):
        task = set_task(group, wanted, tutor)
        tell_task_set(task)
    for name, lines, links, days in (
        ("ines", PLAN, ["https://weather.molhe.example/ilha-rasa"], 2),
        ("nuno", ROUGH, [], 1),
    ):
        enrolment = Enrolment.objects.get(person=people[name], course=group.course)
        with clock.held_by(lambda days=days: now - timedelta(days=days, hours=3)):  # type: ignore[misc]
            data = photograph(lines)
            file = FileIn(name="plan.jpg", size=len(data))
            _send(hand_ins.start_file(enrolment, task.pk, file), data)
            if links:
                hand_ins.set_links(enrolment, task.pk, links)
            hand_ins.hand_in(enrolment, task.pk)
    ines = Enrolment.objects.get(person=people["ines"], course=group.course)
    given = HandInMarkIn(
        points=Decimal("8.5"),
        comment="Clear, and I like the time to turn round. Which tide table?",
        seen=hand_ins.version_of_hand_in(HandIn.objects.get(task=task, enrolment=ines)),
    )
    with clock.held_by(lambda: now - timedelta(hours=30)):
        hand_ins.mark(group, task.pk, ines.pk, given, tutor)


def working_beside_a_miss(person: User, now: datetime) -> None:
    """A photograph of sums beside the newest question about heights that was missed."""
    missed = Miss.objects.filter(enrolment__person=person, topic__key="height-at-a-time")
    found = missed.select_related("enrolment__course").order_by("-pk").first()
    if found is None:
        return
    data = photograph(SUMS)
    with clock.held_by(lambda: now - timedelta(hours=19)):
        wanted = FileIn(name="sums.jpg", size=len(data))
        course = found.enrolment.course.key
        _send(start_file(person, course, found.presentation_id, wanted, "start_file"), data)
