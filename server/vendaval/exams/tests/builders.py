"""Tests to take, and a learner who takes them."""

from __future__ import annotations

import json
from collections.abc import Iterator
from datetime import datetime
from typing import Any

from vendaval.bank.snapshot import course_bank
from vendaval.exams.columns import CompositionData, EntryData, RulesData, SectionData
from vendaval.exams.composing.actions import give, make_test
from vendaval.exams.models import AnswerSoFar, Assignment, Attempt
from vendaval.groups.actions import join_group
from vendaval.groups.models import Group
from vendaval.people.models import User
from vendaval.work.models import Presentation
from vendaval.work.tests.builders import (
    CourseTestCase,
    a_learner,
    enrolment_of,
    keys_of,
    right,
    wrong,
)


class ExamTestCase(CourseTestCase):
    """A group with the learner in it, and tests of four questions."""

    def setUp(self) -> None:
        super().setUp()
        self.group = Group.objects.create(course=self.course, title="Tuesday")
        join_group(self.group, enrolment_of(self.learner))
        bank = course_bank(self.course)
        several = [
            key
            for key, item in bank.families.items()
            if item.family.versions > 3 and len(item.family.parts) == 1
        ]
        self.families = several[:4]

    def given(
        self,
        *,
        opens: datetime | None = None,
        due: datetime | None = None,
        closes: datetime | None = None,
        composition: CompositionData | None = None,
        **rules: Any,
    ) -> Assignment:
        test = make_test(
            self.course,
            "Tides and buoys",
            composition or self.composition(),
            RulesData(**rules),
            None,
        )
        return give(test, self.group, None, opens=opens, due=due, closes=closes)

    def composition(self, **options: Any) -> CompositionData:
        entries = [EntryData(families=[key]) for key in self.families]
        return CompositionData(sections=[SectionData(title="All", entries=entries)], **options)

    def begin(self, assignment: Assignment) -> Any:
        """Begin an attempt and enter it."""
        attempt = self.post(f"/tests/given-{assignment.pk}/start")
        clock = self.post(f"/attempts/{attempt['id']}/enter")
        return attempt | {"interval": clock["interval"], "left": clock["left"]}

    def begun_by(self, assignment: Assignment, many: int) -> Iterator[tuple[User, Any]]:
        """So many new learners of the group; each is signed in and has begun an attempt."""
        for number in range(many):
            learner = a_learner(self.course, f"learner{number}")
            join_group(self.group, enrolment_of(learner))
            self.client.force_login(learner)
            yield learner, self.begin(assignment)

    def save(
        self, attempt: Any, number: int, given: dict[str, str], *, counter: int = 1, **more: Any
    ) -> Any:
        """Put an answer down at a place."""
        status = more.pop("status", 200)
        data = {"responses": given} | more
        body = {
            "interval": attempt["interval"],
            "counter": counter,
            "seconds": 40,
            "data": data,
        }
        reply = self.client.put(
            self.address(f"/attempts/{attempt['id']}/answers/{number}"),
            data=json.dumps(body),
            content_type="application/json",
        )
        self.assertEqual(reply.status_code, status, reply.content[:400])
        return reply.json()

    def question_at(self, attempt: Any, number: int) -> int:
        row = AnswerSoFar.objects.get(attempt=attempt["id"], number=number)
        return row.presentation_id

    def right_at(self, attempt: Any, number: int) -> dict[str, str]:
        return right(self.question_at(attempt, number))

    def wrong_at(self, attempt: Any, number: int) -> dict[str, str]:
        return wrong(self.question_at(attempt, number))

    def wrong_choices(self, attempt: Any) -> list[tuple[str, dict[str, str]]]:
        """What the first question's wrong choices say, in the order of their words, and how each
        is given in this attempt."""
        shown = Presentation.objects.select_related("revision__family__topic")
        (part,) = keys_of(shown.get(pk=self.question_at(attempt, 1)))
        wrong_ones = ((one.text, one.id) for one in part.choices if not one.right)
        return [(text, {part.id: letter}) for text, letter in sorted(wrong_ones)]

    def hand_in(self, attempt: Any, *, status: int = 200) -> Any:
        body = {"interval": attempt["interval"]}
        return self.post(f"/attempts/{attempt['id']}/hand-in", body, status=status)

    def taken(self, assignment: Assignment, rights: int) -> Any:
        """A whole attempt: so many right, one wrong, the rest left empty."""
        attempt = self.begin(assignment)
        for number in range(1, rights + 1):
            self.save(attempt, number, self.right_at(attempt, number))
        if rights < len(self.families):
            self.save(attempt, rights + 1, self.wrong_at(attempt, rights + 1))
        self.clock.forward(minutes=5)
        self.hand_in(attempt)
        return attempt

    def row(self, attempt: Any) -> Attempt:
        return Attempt.objects.get(pk=attempt["id"])
