"""Nothing about a question reaches anybody before the rules of its test allow it.

Worlds that differ in nothing but the key of one question must look the same, page by page and byte
by byte, to everybody who may not know it yet. What may be known when is written down here and is
not asked of the code under test.
"""

from __future__ import annotations

import random
import re
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import replace
from datetime import timedelta
from functools import cache
from io import BytesIO
from itertools import count, product
from typing import Any, ClassVar, NamedTuple
from unittest import mock
from zipfile import ZipFile

from django.db import transaction
from django.test import Client, override_settings

from vendaval.bank.loading import load_pack
from vendaval.bank.models import Course
from vendaval.bank.snapshot import version_of
from vendaval.config.api import api
from vendaval.exams.columns import CompositionData, EntryData, RulesData, SectionData
from vendaval.exams.composing.actions import give, make_test
from vendaval.exams.models import Assignment, Attempt
from vendaval.files.models import FileChunk, FilePage, StoredFile
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Enrolment, Group
from vendaval.marks.actions import start_term
from vendaval.marks.models import Term
from vendaval.marks.schemas import TermIn
from vendaval.people.actions import give_role, link_guardian
from vendaval.people.models import Role, User
from vendaval.privacy.tests.reading import data_of
from vendaval.review.models import Miss
from vendaval.threads.models import Thread
from vendaval.work.models import Presentation, Run, Try
from vendaval.work.tests.builders import CourseTestCase, TestClock, a_learner, an_account
from vendaval_core.packs.families import family_from_data
from vendaval_core.packs.reader import Pack
from vendaval_core.tests.courses import inshore_only

from .secrecy_operations import CHANGES, NOT_REACHED, QUERIES, STAFF_MAY, barred

ASKED_ABOUT, OTHER = "range-of-tide", "tide-words"
RANGE = "range_"

MOMENTS = ("under_way", "handed_in", "due", "closed")
# From which of the moments something is told, by the rule that says when.
TOLD_FROM = {"handed_in": 1, "last_attempt": 1, "due": 2, "closed": 3, "never": 4}


class World(NamedTuple):
    """What is different. key: what is added to the number that is given as the answer."""

    key: int
    solution: str


RIGHT = World(0, "as it is")
WRONG = World(7, "as it is")
OTHERWISE = World(11, "as it is")
SOLVED_OTHERWISE = World(11, "another way")

Pages = dict[str, dict[str, tuple[int, bytes]]]


@cache
def readable() -> list[tuple[str, str]]:
    """Paths that are read, with the names of their operations."""
    paths = api.get_openapi_schema()["paths"].items()
    return [(path, ways["get"]["operationId"]) for path, ways in paths if "get" in ways]


def pack_of(world: World) -> Pack:
    pack = inshore_only("tidal-terms", "height-at-a-time")
    families = []
    for item in pack.families:
        if item.family.key == ASKED_ABOUT:
            data = dict(item.data)
            (part,) = data["parts"]  # type: ignore[misc]
            data["parts"] = [{**part, "answer": f"{RANGE} + {world.key}", "near_misses": []}]
            data["solution"] = [world.solution]
            item = replace(
                item, family=family_from_data(ASKED_ABOUT, "tidal-terms", data), data=data
            )
        families.append(item)
    return replace(pack, families=tuple(families))


def addresses(path: str, operation: str, places: dict[str, list[Any]]) -> list[str]:
    """A path with everything there is put in its places."""
    names = re.findall(r"{(?:\w+:)?(\w+)}", path)
    found = []
    for values in product(*(places[name] for name in names)):
        address = path
        for value in values:
            address = re.sub(r"{[^}]*}", str(value), address, count=1)
        found += [address + query for query in QUERIES.get(operation, ("",))]
    return found


def plain(content: bytes) -> bytes:
    """What is in a file, without when it was packed."""
    if not content.startswith(b"PK"):
        return content
    with ZipFile(BytesIO(content)) as files:
        return b"".join(name.encode() + files.read(name) for name in sorted(files.namelist()))


@override_settings(DEMO=False)
class SecrecyTests(CourseTestCase):
    reached: set[str]
    group: ClassVar[Group]
    who: ClassVar[dict[str, User | None]]

    @classmethod
    def setUpTestData(cls) -> None:
        """A learner in a group, and everybody around them."""
        course = cls.course = load_pack(pack_of(RIGHT))
        cls.learner, mate = a_learner(course, "ana"), a_learner(course, "rui")
        cls.group = Group.objects.create(course=course, title="Tuesday")
        for one in (cls.learner, mate):
            join_group(cls.group, Enrolment.objects.get(person=one))
        guardian, tutor = an_account("vera"), an_account("clara")
        put_in_charge(cls.group, tutor)
        link_guardian(guardian, cls.learner)
        office, author, stranger = an_account("office"), an_account("author"), an_account("zoe")
        roles = {Role.OFFICE: office, Role.AUTHOR: author, Role.GUARDIAN: guardian}
        for role, person in roles.items():
            give_role(person, course.school, role)
        cls.who = {
            "learner": cls.learner,
            "guardian": guardian,
            "classmate": mate,
            "author": author,
            "office": office,
            "stranger": stranger,
            "nobody": None,
            "tutor": tutor,
        }

    def setUp(self) -> None:
        super().setUp()
        self.reached = set()

    @contextmanager
    def world(self, world: World, release: dict[str, str]) -> Iterator[dict[str, Client]]:
        """A world in which the learner has a test; it leaves no trace."""
        with (
            transaction.atomic(),
            mock.patch("django.utils.timezone.now", self.clock),
            mock.patch("secrets.choice", side_effect=random.Random(1).choice),
            mock.patch("secrets.token_urlsafe", side_effect=(f"token-{n}" for n in count())),
        ):
            self.clock.time = TestClock().time
            load_pack(pack_of(world))
            self.course = Course.objects.get()
            self.assignment = self.given(release)
            yield {name: self.signed_in(person) for name, person in self.who.items()}
            transaction.set_rollback(True)

    def signed_in(self, person: User | None) -> Client:
        client = Client()
        if person is not None:
            client.force_login(person)
        return client

    def given(self, release: dict[str, str]) -> Assignment:
        now = self.clock()
        entries = [EntryData(families=[key]) for key in (ASKED_ABOUT, OTHER)]
        test = make_test(
            self.course,
            "Tides",
            CompositionData(sections=[SectionData(title="All", entries=entries)]),
            RulesData.model_validate({"release": release}),
            None,
        )
        self.due, self.closes = now + timedelta(days=1), now + timedelta(days=2)
        start_term(
            self.group,
            TermIn(title="Spring", begins=now.date(), ends=now.date() + timedelta(days=60)),
        )
        return give(test, self.group, None, due=self.due, closes=self.closes)

    def sit(self) -> int:
        """Begin, and answer the first question with the same number in every world."""
        self.client.force_login(self.learner)
        attempt = self.post(f"/tests/given-{self.assignment.pk}/start")
        interval = self.post(f"/attempts/{attempt['id']}/enter")["interval"]
        shown = Presentation.objects.select_related("revision__family__topic").get(
            run__attempt=attempt["id"], number=1
        )
        number = self.right_number(shown)
        body = {
            "interval": interval,
            "counter": 1,
            "seconds": 40,
            "data": {"responses": {"range": number}},
        }
        path = self.address(f"/attempts/{attempt['id']}/answers/1")
        reply = self.client.put(path, body, content_type="application/json")
        self.assertEqual(reply.status_code, 200, reply.content)
        fault = {"text": "Is the low water right?"}
        self.post(f"/questions/{shown.pk}/fault", fault)
        self.photograph_working(shown)
        return int(attempt["id"])

    def photograph_working(self, shown: Presentation) -> None:
        file = StoredFile.objects.create(
            enrolment=shown.run.enrolment, presentation=shown, name="sums.jpg", kind="picture",
            size=4, made_at=self.clock(), arrived_at=self.clock(), drawn=1,
        )  # fmt: skip
        FileChunk.objects.create(file=file, number=0, data=b"sums")
        FilePage.objects.create(file=file, place=1, full=b"sums", small=b"sums")

    def right_number(self, shown: Presentation) -> str:
        value = version_of(shown.revision, shown.seed, shown.order).variables[RANGE]
        return f"{value:.1f}"

    def hand_in(self, attempt: int) -> None:
        interval = Attempt.objects.get(pk=attempt).standing.intervals[-1].id
        self.post(f"/attempts/{attempt}/hand-in", {"interval": interval})

    def walk(self, clients: dict[str, Client], names: tuple[str, ...]) -> Pages:
        return {name: self.pages(name, clients[name]) for name in names}

    def pages(self, name: str, client: Client) -> dict[str, tuple[int, bytes]]:
        """Every page and file that somebody gets or is refused, by its address."""
        found, places = {}, self.places()
        for path, operation in readable():
            if operation in CHANGES or (name in {"author", "tutor"} and operation in STAFF_MAY):
                self.reached.add(operation)
                continue
            if barred(name, operation):
                continue
            for address in addresses(path, operation, places):
                reply = client.get(address)
                self.assertLess(reply.status_code, 500, address)
                content = b"".join(reply) if reply.streaming else reply.content
                if reply.status_code == 200:
                    self.reached.add(operation)
                found[address] = reply.status_code, plain(content)
        if name == "learner":
            own = data_of(self.learner)["files"]
            found |= {key: (200, file) for key, file in own.items() if not key.endswith("xlsx")}
        return found

    def places(self) -> dict[str, list[Any]]:
        """Everything there is, by its name in addresses."""

        def ids(model: Any) -> list[int]:
            return list(model.objects.order_by("pk").values_list("pk", flat=True))

        return {
            "course": [self.course.key],
            "attempt_id": ids(Attempt),
            "assignment_id": [self.assignment.pk],
            "group_id": [self.group.pk],
            "test_id": [self.assignment.test_id],
            "person_id": [self.learner.pk],
            "ref": [f"given-{self.assignment.pk}", f"mirror-{self.assignment.test.mirror.pk}"],
            "number": [1, 2],
            "run_id": ids(Run),
            "question_id": ids(Presentation),
            "try_id": ids(Try),
            "miss_id": ids(Miss),
            "thread_id": ids(Thread),
            "key": ["tidal-terms"],
            "section": ["range"],
            "family": [ASKED_ABOUT],
            "topic": ["tidal-terms"],
            "enrolment_id": ids(Enrolment)[:1],
            "task_id": [1],
            "import_id": [1],
            "export_id": [1],
            "term_id": ids(Term),
            "spell_id": [1],
            "page_id": [1],
            "file_id": ids(StoredFile),
            "place": [1],
            "resource_id": [1],
            "what": ["file"],
            "token": ["unknown"],
        }

    def at_each_moment(
        self, world: World, release: dict[str, str], others: tuple[str, ...]
    ) -> dict[str, Pages]:
        """What everybody sees at each moment of a world. others: beside the learner, at the moment
        after handing in and at the end."""
        found = {}
        with self.world(world, release) as clients:
            attempt = self.sit()
            found["under_way"] = self.walk(clients, ("learner",))
            self.hand_in(attempt)
            found["handed_in"] = self.walk(clients, ("learner", *others))
            self.clock.time = self.due
            found["due"] = self.walk(clients, ("learner",))
            self.clock.time = self.closes
            found["closed"] = self.walk(clients, ("learner", *others))
        return found

    def assert_told(
        self,
        first: dict[str, Pages],
        second: dict[str, Pages],
        told_from: int,
        about: str,
    ) -> None:
        """Two worlds look alike to everybody before a moment, and differ for the learner after."""
        for place, moment in enumerate(MOMENTS):
            for name, pages in first[moment].items():
                others = second[moment][name]
                different = sorted(
                    address
                    for address in pages.keys() & others.keys()
                    if pages.get(address) != others.get(address)
                )
                where = f"{about}, {moment}, seen by {name}"
                if place < told_from or name in {"classmate", "office", "stranger", "nobody"}:
                    self.assertEqual(different, [], where)
                elif name == "learner":
                    self.assertNotEqual(different, [], where)

    OTHERS = ("guardian", "classmate", "author", "office", "stranger", "nobody")

    def test_every_page_is_walked(self) -> None:
        """Every operation is reached by somebody, or it is said why not."""
        told = dict.fromkeys(("score", "correctness", "answers", "solutions"), "handed_in")
        self.at_each_moment(WRONG, told, ("guardian", "author", "office", "tutor"))
        missing = {operation for _, operation in readable()} - self.reached
        self.assertEqual(missing - NOT_REACHED.keys(), set())
        self.assertEqual(NOT_REACHED.keys() & self.reached, set())

    def test_right_or_wrong_waits_for_its_moment(self) -> None:
        for when, others in (("never", self.OTHERS), ("due", ("guardian",))):
            told = dict.fromkeys(("score", "correctness", "answers", "solutions"), when)
            right = self.at_each_moment(RIGHT, told, others)
            wrong = self.at_each_moment(WRONG, told, others)
            self.assert_told(right, wrong, TOLD_FROM[when], f"right or wrong {when}")

    def test_each_thing_that_is_told_waits_for_its_own_moment(self) -> None:
        told = {
            "score": "never",
            "correctness": "last_attempt",
            "answers": "due",
            "solutions": "closed",
        }
        right, wrong, otherwise, solved = (
            self.at_each_moment(world, told, ("guardian",))
            for world in (RIGHT, WRONG, OTHERWISE, SOLVED_OTHERWISE)
        )
        self.assert_told(right, wrong, 1, "right or wrong")
        self.assert_told(wrong, otherwise, 2, "the right answer")
        self.assert_told(otherwise, solved, 3, "the solution")

    def test_a_score_alone_tells_no_key(self) -> None:
        told = {"score": "handed_in", "correctness": "never", "answers": "never"}
        told |= {"solutions": "never"}
        wrong, otherwise = (self.at_each_moment(world, told, ()) for world in (WRONG, OTHERWISE))
        self.assert_told(wrong, otherwise, 4, "the right answer")
