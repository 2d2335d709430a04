"""A tutor with a question on paper and no files: written for her own group, and answered in it."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from e2e.writing import WritingTestCase
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.levels.models import Observation
from vendaval.people.models import Role
from vendaval.work.tests.builders import enrolment_of, with_role


class OwnQuestionsTests(WritingTestCase):
    def test_a_number_and_a_choice_from_paper_to_a_learner_s_answers(self) -> None:
        group = Group.objects.create(course=self.course, title="Tuesday evening")
        join_group(group, enrolment_of(self.learner))
        clara = with_role(self.course, Role.TUTOR)
        put_in_charge(group, clara)
        page = self.new_page()
        self.enter(page, clara, f"/tutor/groups/{group.pk}")
        page.get_by_role("link", name="Our own questions").click()
        expect(page.get_by_text("None yet.")).to_be_visible()
        self.assert_accessible("no own questions yet", page)

        self.begun(page, "Fenders")
        text = page.get_by_role("textbox", name="The question")
        self.typed(page, text, "A fender costs 12 euros. How many euros do 4 fenders cost?")
        self.vary(page, "12")
        called = page.get_by_label("Called")
        called.fill("price")
        called.press("Enter")
        for label, value in (("From", "10"), ("To", "20"), ("In steps of", "2")):
            page.get_by_label(label, exact=True).fill(value)
        page.get_by_label("The answer", exact=True).fill("price * 4")
        for old in ("a", "b"):
            page.get_by_role("button", name=re.compile(f"^{old} ")).press("Enter")
            page.get_by_role("button", name=f"Remove {old}", exact=True).press("Enter")
        self.explained(page, "Four times the price: [[price * 4]].")
        self.assert_accessible("a tutor’s question", page)
        self.published(page)

        self.begun(page, "Slack water", "One of several choices")
        self.typed(page, page.get_by_role("textbox", name="The question"), "What is slack water?")
        answer = page.get_by_role("region", name=re.compile("^The answer"))
        boxes = answer.get_by_role("textbox", name="Choice", exact=True)
        for place, words in enumerate(
            ("The time when the stream turns", "Water in the bilge", "A loose rope")
        ):
            self.typed(page, boxes.nth(place), words)
            is_right = answer.get_by_label("This choice is").nth(place)
            is_right.select_option("wrong" if place else "right")
        self.explained(page, "The stream stands still before it turns.")
        self.published(page)
        for title in ("Fenders", "Slack water"):
            expect(page.get_by_role("link", name=title)).to_be_visible()
        self.assert_accessible("a group’s own questions", page)

        self.sign_in()
        self.page.get_by_role("link", name="Practise", exact=True).click()
        expect(self.page.get_by_text("From your tutor: two questions")).to_be_visible()
        self.page.get_by_role("button", name="Practise your group’s questions").click()
        expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()
        for _ in range(2):
            self.give(right=True)
            beside = self.page.get_by_role("complementary")
            expect(beside.get_by_text("your group’s own question")).to_be_visible()
            self.go_on()
        self.assertEqual({one.reason for one in Observation.objects.all()}, {"collection"})
        page.reload()
        page.get_by_role("link", name="Fenders").click()
        page.get_by_role("button", name="Stop asking this question").click()
        page.get_by_label("What is wrong with it").fill("The price is of last year.")
        page.get_by_role("button", name="Stop asking it").click()
        expect(page.get_by_text("Nobody is asked this question now.")).to_be_visible()
        self.assert_accessible("an own question, stopped", page)
        page.get_by_role("link", name="Exit").click()
        expect(page.get_by_text("100% right of one answer")).to_have_count(1)
        expect(page.get_by_text("stopped", exact=True)).to_be_visible()

    def begun(self, page: Page, title: str, kind: str = "A number") -> None:
        page.get_by_role("link", name="New question").click()
        page.get_by_label("Title, for lists").fill(title)
        page.get_by_role("combobox", name="Topic").select_option("tidal-terms")
        page.get_by_label(kind, exact=True).check()
        page.get_by_role("button", name="Start writing").click()
        expect(page.get_by_role("heading", name=title)).to_be_visible()

    def explained(self, page: Page, words: str) -> None:
        self.typed(page, page.get_by_role("textbox", name="A line for each step, 1"), words)
        self.saved(page)

    def published(self, page: Page) -> None:
        self.publish(page, "From the sheet for Tuesday.")
        page.get_by_role("link", name="Exit").click()
