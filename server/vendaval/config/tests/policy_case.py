"""A learner's work, everybody who stands in some relation to it, and every operation of the API."""

from __future__ import annotations

import json
import re
from dataclasses import dataclass
from datetime import date
from functools import cache
from typing import Any
from unittest.mock import patch

from django.core.cache import cache as remembered
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client, TestCase
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from vendaval.assigning.hand_ins import version_of_hand_in
from vendaval.assigning.models import HandIn, Task
from vendaval.assigning.schemas import TaskIn
from vendaval.assigning.tasks import set_task
from vendaval.bank.loading import load_pack
from vendaval.bank.models import Course
from vendaval.config.api import api
from vendaval.exams.columns import CompositionData, EntryData, RulesData, SectionData, StandingData
from vendaval.exams.composing.actions import give, make_test
from vendaval.exams.models import (
    AnswerSoFar,
    Assignment,
    Attempt,
    Marking,
    Page,
    PageImage,
    Regrade,
    RegradeState,
)
from vendaval.files.models import FileChunk, FilePage, StoredFile
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.marks.actions import start_term
from vendaval.marks.columns import FixedData
from vendaval.marks.models import Term, TermMark
from vendaval.marks.schemas import TermIn
from vendaval.measurement.models import Calibration, CalibrationRun
from vendaval.people.actions import give_role, link_guardian
from vendaval.people.models import Role, User
from vendaval.privacy.copies import ask_for_copy, write_copy
from vendaval.privacy.jobs import make_copy
from vendaval.privacy.models import Audience
from vendaval.shared import clock
from vendaval.shared.jobs import WAITS
from vendaval.shared.tests.editing import put_over
from vendaval.tutor.models import Cover, Note
from vendaval.work.tests.builders import (
    a_learner,
    an_account,
    enrolment_of,
    inshore,
    right,
    with_role,
    wrong,
)
from vendaval_core.assessment.paper import PagesWanted
from vendaval_core.mastery.signal_words import Asking, SignalKind

from .policy_authoring import UPLOADS
from .policy_authors_case import authors_request
from .policy_programs import a_platform
from .policy_table import (
    BODIES,
    NO_EDITS,
    OWN,
    QUERIES,
    RELATED,
)

# Operations that find an attempt in a state of its own.
SITS = {
    "pause_sitting",
    "resume_sitting",
    "give_more_time",
    "check_reopening",
    "reopen_attempt",
}


@cache
def api_paths() -> dict[str, Any]:
    """Every operation by path and method, as the API's document has them."""
    return dict(api.get_openapi_schema()["paths"])


@dataclass(frozen=True, slots=True)
class Operation:
    name: str
    method: str
    address: str


class PolicyCase(TestCase):
    """A learner's work, and everybody who stands in some relation to it or in none."""

    course: Course
    ana: User
    run: int
    question: int
    miss: int
    thread = 0

    @classmethod
    def setUpTestData(cls) -> None:
        cls.course = load_pack(inshore())
        cls.ana = a_learner(cls.course)
        cls.group = Group.objects.create(course=cls.course, title="Tuesday")
        cls.spare_group = Group.objects.create(course=cls.course, title="Sunday")
        join_group(cls.group, enrolment_of(cls.ana))

    def setUp(self) -> None:
        """Ana missed a question in practice, and another waits."""
        self.client.force_login(self.ana)
        start = {"purpose": "practice", "topics": ["tidal-terms"]}
        state = self.post("/runs", start)
        self.run, self.question = state["run"]["id"], state["question"]["id"]
        body = {"replay_key": "setting-up-1", "responses": wrong(self.question)}
        if not self.post(f"/questions/{self.question}/answer", body)["question"]["closed"]:
            self.post(f"/questions/{self.question}/working")
        self.miss = self.get("/misses")["topics"][0]["misses"][0]["id"]
        self.try_ = self.get("/record/tries")["tries"][0]["id"]
        self.spell = self.post("/spells", {"minutes": 10})["id"]
        sections = [SectionData(title="All", entries=[EntryData(families=["distance-run"])])]
        test = make_test(
            self.course, "Tides", CompositionData(sections=sections), RulesData(), None
        )
        self.assignment = give(test, self.group, None, pages=PagesWanted.MAY)
        goal = {"kind": "target", "topics": ["tidal-terms"]}
        asks = {"files": "may", "links": "may"}
        work = TaskIn.model_validate({"goal": goal, "asks": asks})
        self.task = set_task(self.group, work, self.ana).pk
        self.ref = f"given-{self.assignment.pk}"
        term = TermIn(title="Spring", begins=date(2030, 1, 1), ends=date(2030, 3, 31))
        self.term = start_term(self.group, term).pk
        self.pupil = a_learner(self.course, "pia", display_name="Pia Sá", email="pia@x.example")
        link_guardian(an_account("pia’s guardian"), self.pupil)
        self.guarding = self.pupil.guardians.get().pk
        school = self.course.school
        write_copy(ask_for_copy(self.pupil, self.pupil, Audience.OFFICE, school))
        self.job = make_copy.enqueue(ask_for_copy(self.pupil, self.pupil, Audience.PERSON).pk).id
        tried = ["one"] * (len(WAITS) + 1)
        DBTaskResult.objects.update(status=TaskResultStatus.FAILED, worker_ids=tried)
        kept = {"proposals": [], "responses": 0, "made_at": clock.now()}
        self.calibration = Calibration.objects.create(course=self.course, **kept).pk
        self.platform = a_platform(self.course)
        self.hand_in_on_paper()
        self.attempt = self.post(f"/tests/{self.ref}/start")["id"]
        page = Page.objects.create(
            attempt_id=self.attempt, place=1, questions=[], came="file", at=clock.now()
        )
        PageImage.objects.create(page=page, full=b"", small=b"")
        self.page = page.pk
        file = StoredFile.objects.create(
            enrolment=enrolment_of(self.ana), presentation_id=self.question, name="working.jpg",
            kind="picture", size=2, made_at=clock.now(), arrived_at=clock.now(), drawn=1,
        )  # fmt: skip
        FileChunk.objects.create(file=file, number=0, data=b"ab")
        FilePage.objects.create(file=file, place=1, full=b"", small=b"")
        self.file = file.pk

    def hand_in_on_paper(self) -> None:
        """Ana handed in a test whose answer is on a sheet: a tutor has to mark it."""
        test = make_test(
            self.course, "On paper", self.assignment.test.composition, RulesData(), None
        )
        self.on_paper = give(test, self.group, None).pk
        attempt = self.post(f"/tests/given-{self.on_paper}/start")["id"]
        interval = self.post(f"/attempts/{attempt}/enter")["interval"]
        answer = AnswerSoFar.objects.get(attempt=attempt)
        answer.data.on_paper = True
        answer.save()
        self.post(f"/attempts/{attempt}/hand-in", {"interval": interval})
        self.sheet, self.part = answer.pk, next(iter(right(answer.presentation_id)))

    def relate(self) -> dict[str, User]:
        """Everybody who is something to Ana, by what they are."""
        tutor, guardian = with_role(self.course, Role.TUTOR), with_role(self.course, Role.GUARDIAN)
        put_in_charge(self.group, tutor)
        link_guardian(guardian, self.ana)
        classmate = a_learner(self.course, "bea")
        join_group(self.group, enrolment_of(classmate))
        asked = {"text": "Which?", "to_tutor": True, "classmates": [classmate.pk]}
        body = {**asked, "shows_answer": True, "shows_working": False}
        self.thread = self.post(f"/questions/{self.question}/ask", body)["line"]["id"]
        author = with_role(self.course, Role.AUTHOR)
        related = {"tutor": tutor, "guardian": guardian, "classmate": classmate, "author": author}
        return related | {"office": with_role(self.course, Role.OFFICE)}

    def post(self, path: str, body: object = None) -> dict:  # type: ignore[type-arg]
        reply = self.client.post(
            f"/api/courses/inshore{path}", json.dumps(body or {}), "application/json"
        )
        self.assertEqual(reply.status_code, 200, reply.content[:300])
        return dict(reply.json())

    def get(self, path: str) -> dict:  # type: ignore[type-arg]
        return dict(self.client.get(f"/api/courses/inshore{path}").json())

    def operations(self) -> list[Operation]:
        rehearsed = self.get("/rehearsal")["questions"][0]["key"]
        section = self.get("/study/tidal-terms")["sections"][0]["key"]
        found = []
        for path, methods in api_paths().items():
            for method, operation in methods.items():
                name = operation["operationId"]
                marked = "/marking" in path or "/regrades" in path
                key = {"try_rehearsal": rehearsed, "set_course": "inshore"}.get(name, "tidal-terms")
                of_group = self.spare_group if "/office/" in path else self.group
                values = {
                    "{course}": "inshore",
                    "{group_id}": of_group.pk,
                    "{enrolment_id}": enrolment_of(self.ana).pk,
                    "{thread_id}": self.thread,
                    "{spell_id}": self.spell,
                    "{try_id}": self.try_,
                    "{link_id}": self.guarding,
                    "{person_id}": self.pupil.pk,
                    "{job_id}": self.job,
                    "{calibration_id}": self.calibration,
                    "{platform_id}": self.platform,
                    "{ref}": self.ref,
                    "{attempt_id}": self.attempt,
                    "{assignment_id}": self.on_paper if marked else self.assignment.pk,
                    "{page_id}": self.page,
                    "{file_id}": self.file,
                    "{piece}": 0,
                    "{place}": 1,
                    "{task_id}": self.task,
                    "{term_id}": self.term,
                    "{answer_id}": self.sheet,
                    "{part}": self.part,
                    "{test_id}": self.assignment.test_id,
                    "{token}": "no-such-token",
                    "{number}": 1,
                    "{family}": "distance-run",
                    "{topic}": "tidal-terms",
                    "{resource_id}": 999,
                    "{what}": "file",
                    "{run_id}": self.run,
                    "{question_id}": self.question,
                    "{miss_id}": self.miss,
                    "{key}": key,
                    "{section}": section,
                }
                address = path
                for place, value in values.items():
                    address = address.replace(place, str(value))
                address += QUERIES.get(name, "")
                found.append(Operation(name, method, address))
        return found

    def ask(self, client: Client, operation: Operation) -> int:
        body = BODIES.get(operation.name, {})
        if operation.name in ("check_given", "give_test"):
            body = {"test": self.assignment.test_id}
        if operation.name == "allow_learner":
            body = {"learner": enrolment_of(self.ana).pk, "minutes": 5, "why": "as agreed"}
        address = operation.address
        if operation.name in ("change_test", "remove_test", "withdraw_test"):
            spare = self.spare(client)
            new = spare.test_id if operation.name != "withdraw_test" else spare.pk
            if operation.name == "remove_test":
                spare.delete()
            address = re.sub(r"[0-9]+$", str(new), address)
        if operation.name == "remove_note":
            by = User.objects.filter(pk=client.session.get("_auth_user_id")).first()
            note = Note.objects.create(
                enrolment=enrolment_of(self.ana), by=by, text="One", at=clock.now()
            )
            address = address.replace("{note_id}", str(note.pk))
        if operation.name in {"restore_task", "restore_test"}:
            rows = Task if operation.name == "restore_task" else Assignment
            rows.with_withdrawn.update(withdrawn_at=clock.now())
        if operation.name == "adjust_marker":
            by = User.objects.filter(pk=client.session.get("_auth_user_id")).first()
            given = {"answer_id": self.sheet, "part": self.part, "role": "first", "by": by}
            Marking.objects.create(**given, at=clock.now())
            body = body | {"marker": 0 if by is None else by.pk}
        if operation.name == "undo_mark":
            by = User.objects.filter(pk=client.session.get("_auth_user_id")).first()
            given = {"answer_id": self.sheet, "part": self.part, "role": "first", "by": by}
            row = Marking.objects.create(**given, at=clock.now())
            address = address.replace("{marking_id}", str(row.pk))
        if operation.name == "undo_regrade":
            Regrade.objects.all().delete()
            row = Regrade.objects.create(
                assignment_id=self.on_paper,
                family="distance-run",
                at=clock.now(),
                state=RegradeState.APPLIED,
            )
            address = address.replace("{regrade_id}", str(row.pk))
        address, body = authors_request(self.course, self.pupil, operation.name, address, body)
        if operation.name == "write_talk":
            body = {"text": "How is it going?"}
            for link in self.ana.guardians.filter(until=None):
                if client.session.get("_auth_user_id") != str(link.guardian_id):
                    body["guardian"] = link.guardian_id
        if operation.name == "enter_marks":
            entry = {"learner": enrolment_of(self.ana).pk, "kind": "excused"}
            Term.objects.update(closed_at=None)
            at = f"test-{self.assignment.pk}"
            placed = {at: {"category": "tests"}}
            term = Term.objects.get(pk=self.term)
            term.book = term.book.model_validate({**term.book.model_dump(), "placed": placed})
            term.save()
            body = {"column": at, "entries": [entry], "why": "She was ill."}
        if operation.name == "correct_mark":
            Term.objects.update(closed_at=clock.now(), columns=[])
            data = FixedData(mark=None, exact=None, sum="", cells=[])
            mine = {"term_id": self.term, "enrolment": enrolment_of(self.ana)}
            TermMark.objects.update_or_create(**mine, defaults={"data": data})
            body = {"learner": enrolment_of(self.ana).pk, "mark": "12", "why": "Regraded."}
        if operation.name in {"add_cover", "end_cover"}:
            other = an_account(f"cover{User.objects.count()}")
            give_role(other, self.course.school, Role.TUTOR)
            today = clock.now().date()
            body = {"person": other.pk, "begins": str(today), "ends": str(today)}
            if operation.name == "end_cover":
                dates = {"begins": today, "ends": today, "made_at": clock.now()}
                row = Cover.objects.create(group=self.group, person=other, **dates)
                address = address.replace("{cover_id}", str(row.pk))
        if operation.name in {"change_term", "close_term"}:
            Term.objects.update(closed_at=None)
        if operation.name == "look_at_signal":
            body = {"kind": "rapid", "whom": [enrolment_of(self.ana).pk], "note": "No time."}
            remembered.clear()
            asked = Asking(SignalKind.RAPID, "Was there no time?", "4 of 21", ())
            with patch("vendaval.tutor.signals.page.asked_of", return_value=[asked]):
                return int(client.post(address, body, "application/json").status_code)
        if operation.name == "mark_hand_in":
            mine = {"task_id": self.task, "enrolment": enrolment_of(self.ana)}
            now = {"handed_in_at": clock.now(), "marked_at": None}
            row, _ = HandIn.objects.update_or_create(**mine, defaults=now)
            body = body | {"seen": version_of_hand_in(row)}
        if operation.name in SITS:
            self.sits(operation.name)
        if operation.name == "add_to_group":
            body = {"group": self.spare_group.pk, "role": "learner"}
        if operation.name in UPLOADS:
            query, content = UPLOADS[operation.name]
            Term.objects.update(closed_at=None)
            CalibrationRun.objects.all().delete()
            upload = {"file": SimpleUploadedFile("sent.csv", content)}
            return int(client.post(f"{operation.address}{query}", upload).status_code)
        if operation.name == "answer_question":
            body = {"replay_key": "one-of-ana", "responses": right(self.question)}
        if operation.method == "put" and operation.name not in NO_EDITS:
            return int(put_over(client, address, body).status_code)
        reply = client.generic(
            operation.method.upper(), address, json.dumps(body), "application/json"
        )
        return int(reply.status_code)

    def spare(self, client: Client) -> Assignment:
        """A test that nobody has begun, by whoever asks."""
        author = User.objects.filter(pk=client.session.get("_auth_user_id")).first()
        test = make_test(
            self.course, "Spare", self.assignment.test.composition, RulesData(), author
        )
        return give(test, self.group, None)

    def sits(self, operation: str) -> None:
        """Ana's attempt as an operation of whoever watches over it finds it."""
        now = clock.now()
        over = operation in {"check_reopening", "reopen_attempt"}
        standing = StandingData(
            stretches=[now],
            handed_in_at=now if over else None,
            handed_in_by="learner" if over else None,
            paused=now if operation == "resume_sitting" else None,
        )
        rows = Attempt.objects.filter(pk=self.attempt)
        rows.update(standing=standing, handed_in_at=now if over else None, marked=over)

    def listed(self) -> list[Operation]:
        held = set(OWN) | set(RELATED)
        return [operation for operation in self.operations() if operation.name in held]
