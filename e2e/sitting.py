"""A learner's group, a test given to it, and the first steps into an attempt."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from playwright.sync_api import Page, expect

from e2e.browser import BrowserTestCase
from vendaval.exams.columns import CompositionData, EntryData, RulesData, SectionData
from vendaval.exams.composing.actions import give, make_test
from vendaval.exams.models import AnswerSoFar, Assignment, Attempt
from vendaval.groups.actions import join_group
from vendaval.groups.models import Group
from vendaval.work.tests.builders import enrolment_of, keys_of
from vendaval_core.assessment.paper import PagesWanted

CHOICES = ("springs-or-neaps", "order-of-levels")
NUMBERS = ("range-of-tide", "drying-rock")


def section(title: str, families: Sequence[str], **options: Any) -> SectionData:
    """A section of a test with one question of each family."""
    entries = [EntryData(families=[key]) for key in families]
    return SectionData(title=title, entries=entries, **options)


class SittingTestCase(BrowserTestCase):
    """Steps that every story of a test takes."""

    lasts = 120
    group: Group

    def assigned(
        self,
        families: tuple[str, ...] = CHOICES + NUMBERS,
        pages: PagesWanted = PagesWanted.NONE,
        sections: list[SectionData] | None = None,
        **rules: Any,
    ) -> Assignment:
        """A test given to the learner's group, of one section where no others are said."""
        self.group = Group.objects.create(course=self.course, title="Tuesday evening")
        join_group(self.group, enrolment_of(self.learner))
        composition = CompositionData(sections=sections or [section("All", families)])
        test = make_test(self.course, "Tides, end of unit", composition, RulesData(**rules), None)
        return give(test, self.group, None, pages=pages)

    def given(self, families: tuple[str, ...] = CHOICES + NUMBERS, **rules: Any) -> str:
        """A test given to the learner's group; the address of its own page."""
        return self.address(f"/tests/given-{self.assigned(families, **rules).pk}")

    def begin(self, address: str) -> Attempt:
        self.sign_in()
        self.page.goto(address)
        self.page.get_by_role("button", name="Start the test").click()
        self.page.get_by_role("dialog").get_by_role("button", name="Start").click()
        self.at(self.page, 1)
        return Attempt.objects.get(enrolment__person=self.learner)

    def at(self, page: Page, number: int) -> None:
        expect(page.get_by_role("heading", name=f"Question {number} of")).to_be_visible()

    def answer(self, page: Page, attempt: Attempt, number: int, *, right: bool = True) -> None:
        """Choose by digit, or type, at the question that is open."""
        row = AnswerSoFar.objects.select_related("presentation__revision__family__topic").get(
            attempt=attempt, number=number
        )
        (key,) = keys_of(row.presentation)
        given = key.examples.right if right else key.examples.wrong
        if hasattr(key, "choices"):
            page.keyboard.press(str([one.id for one in key.choices].index(given) + 1))
        else:
            page.get_by_role("textbox", name="Your answer").fill(given)

    def saved(self, attempt: Attempt, count: int) -> None:
        """Wait until so many places hold an answer on the server."""
        for _ in range(200):
            rows = AnswerSoFar.objects.filter(attempt=attempt)
            if sum(row.data.answered for row in rows) == count:
                return
            self.page.wait_for_timeout(50)
        self.fail(f"{count} answers never arrived")
