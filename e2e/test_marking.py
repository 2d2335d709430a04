"""A tutor and a second marker from handed-in answers to marks let out, and the learner's page."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from e2e.sitting import SittingTestCase
from vendaval.exams.columns import CompositionData, EntryData, RulesData, SectionData, SoFarData
from vendaval.exams.composing.actions import make_test
from vendaval.exams.models import Attempt, Marking
from vendaval.exams.taking import actions as attempts
from vendaval.groups.actions import join_group, put_in_charge
from vendaval.groups.models import Group
from vendaval.people.models import User
from vendaval.work.tests.builders import an_account, enrolment_of
from vendaval_core.packs.reader import Pack
from vendaval_core.tests.courses import inshore_only

TEXT = "Life jackets on before we leave. The red lever stops the engine."


class MarkingTests(SittingTestCase):
    def pack(self) -> Pack:
        return inshore_only("passage-planning")

    def handed_in(self) -> Attempt:
        assignment = self.assigned(("briefing",), release={"score": "marks_out"})
        person, course = self.learner, self.course.key
        attempt = attempts.start(person, course, "given", assignment.pk)
        attempt = attempts.enter(person, course, attempt.pk)
        interval = attempt.standing.intervals[-1].id
        data = SoFarData(responses={"brief": TEXT, "first": "a"})
        attempts.save(person, course, attempt.pk, 1, attempts.Saving(interval, 1, data, 60))
        return attempts.give_in(person, course, attempt.pk, interval)

    def as_marker(self, name: str, person: User) -> Page:
        page = self.new_page()
        self.enter(page, person, "/tutor/marking")
        page.get_by_role("link", name="Tides, end of unit").click()
        return page

    def test_from_the_overview_to_work_set_to_marks_let_out(self) -> None:
        """A tutor's whole way with one piece of work, and the learner's beside it."""
        self.group = Group.objects.create(course=self.course, title="Tuesday evening")
        join_group(self.group, enrolment_of(self.learner))
        clara = an_account("clara", display_name="Clara Nunes")
        put_in_charge(self.group, clara)
        entries = [EntryData(families=["briefing"])]
        composition = CompositionData(sections=[SectionData(title="All", entries=entries)])
        rules = RulesData.model_validate({"release": {"score": "marks_out"}})
        make_test(self.course, "The briefing", composition, rules, clara)
        desk = self.new_page()
        self.enter(desk, clara, f"/tutor/groups/{self.group.pk}")
        expect(desk.get_by_role("heading", name="One is inactive.")).to_be_visible()
        desk.get_by_role("link", name="Work you’ve set").click()
        desk.get_by_role("main").get_by_role("link", name="Set work").click()
        desk.get_by_label("Which").select_option(index=1)
        expect(desk.get_by_text("The briefing, for one learner.")).to_be_visible()
        desk.get_by_role("button", name="Set work", exact=True).click()
        expect(desk.get_by_text("1 not started")).to_be_visible()

        self.sign_in()
        learner = self.page
        learner.get_by_role("link", name="The briefing").click()
        learner.get_by_role("button", name="Start the test").click()
        learner.get_by_role("dialog").get_by_role("button", name="Start").click()
        learner.get_by_role("textbox").first.fill(TEXT)
        learner.keyboard.press("Tab")
        attempt = Attempt.objects.get()
        self.saved(attempt, 1)
        learner.get_by_role("button", name="Check and hand in").first.click()
        learner.get_by_role("button", name="Hand in", exact=True).click()
        learner.get_by_role("dialog").get_by_role("button", name="Hand in").click()
        expect(learner.get_by_role("heading", name="Handed in")).to_be_visible()

        desk.reload()
        expect(desk.get_by_text("1 not marked yet")).to_be_visible()
        desk.get_by_role("link", name="Marking").first.click()
        expect(desk.get_by_role("link", name="Change dates and learners")).to_have_count(0)
        desk.get_by_role("link", name="The briefing").click()
        desk.get_by_role("link", name="The crew’s briefing").click()
        expect(desk.get_by_text("Answer 1 of 1; 0 marked.")).to_be_visible()
        desk.keyboard.press("k")
        expect(desk.get_by_text("Nothing is ticked, so this gives 0 points.")).to_be_visible()
        desk.get_by_label("Comment for the learner").fill("What of the radio?")
        desk.reload()
        expect(desk.get_by_text("This is what you typed earlier but didn’t save.")).to_be_visible()
        expect(desk.get_by_label("Comment for the learner")).to_have_value("What of the radio?")
        desk.get_by_role("button", name="Discard it").click()
        expect(desk.get_by_label("Comment for the learner")).to_have_value("")
        desk.get_by_role("heading", level=1).click()
        for key in ("1", "2", "k"):
            desk.keyboard.press(key)
        expect(desk.get_by_text("; 1 marked.")).to_be_visible()
        results = self.address(f"/tests/attempts/{attempt.pk}/results")
        learner.goto(results)
        expect(learner.get_by_text("not marked yet").first).to_be_visible()
        desk.get_by_role("link", name="Marking of").click()
        desk.get_by_role("button", name="Release one attempt").click()
        expect(desk.get_by_text("All marks are released.")).to_be_visible()
        learner.goto(f"{results}/1")
        expect(learner.get_by_text("3 of 5 points from your tutor")).to_be_visible()

    def test_from_the_first_mark_to_the_learners_page(self) -> None:
        attempt = self.handed_in()
        clara = an_account("clara", display_name="Clara Nunes")
        bento = an_account("bento", display_name="Bento Reis")
        for tutor in (clara, bento):
            put_in_charge(self.group, tutor)
        page = self.as_marker("Clara", clara)
        page.get_by_label("A second marker").select_option("Bento Reis")
        expect(page.get_by_role("button", name="No marks to release")).to_be_disabled()
        self.assert_accessible("the marking of a test", page)
        page.get_by_role("link", name="The crew’s briefing").click()
        expect(page.get_by_text("Answer 1 of 1; 0 marked.")).to_be_visible()
        expect(page.get_by_text(self.learner.display_name)).to_have_count(0)
        page.get_by_role("checkbox", name="names hidden").uncheck()
        expect(page.get_by_text(f"Answer 1 of 1, {self.learner.display_name}")).to_be_visible()
        page.keyboard.press("1")
        page.keyboard.press("2")
        expect(page.get_by_text("3 of 5 points").first).to_be_visible()
        page.get_by_label("Comment for the learner (optional)").fill("And the radio?")
        text = page.get_by_label("The answer. Select some of it")
        text.focus()
        page.keyboard.press("Control+Home")
        for _ in "Life jackets":
            page.keyboard.press("Shift+ArrowRight")
        page.get_by_label("About “Life jackets”").fill("First things first.")
        page.get_by_role("button", name="Add comment").click()
        self.assert_accessible("marking an answer", page)
        page.get_by_role("heading", name="The crew’s briefing").click()
        page.keyboard.press("k")
        expect(page.get_by_text("; 1 marked.")).to_be_visible()
        expect(page.get_by_text("Saved: 3 of 5 points.")).to_be_visible()
        page.keyboard.press("u")
        expect(page.get_by_text("; 0 marked.")).to_be_visible()
        comment = page.get_by_label("Comment for the learner (optional)")
        expect(comment).to_have_value("And the radio?")
        page.keyboard.press("k")
        expect(page.get_by_text("; 1 marked.")).to_be_visible()

        second = self.as_marker("Bento", bento)
        second.get_by_role("link", name="The crew’s briefing").click()
        expect(second.get_by_text("0 of 5 points").first).to_be_visible()
        expect(second.get_by_text("Clara Nunes gave")).to_have_count(0)
        second.get_by_role("spinbutton", name="Points for: Life jackets").fill("1")
        second.get_by_role("button", name="Save and next").click()
        expect(second.get_by_text("Clara Nunes gave 3, Bento Reis gave 1")).to_be_visible()

        page.reload()
        expect(page.get_by_text("Agree on a mark.")).to_be_visible()
        page.get_by_role("spinbutton", name="Points for: Life jackets").fill("1.5")
        page.get_by_role("button", name="Mark as answered").click()
        expect(page.get_by_text("Agreed: 2.5.")).to_be_visible()
        self.assertEqual(Marking.objects.filter(withdrawn_at=None).count(), 3)

        self.sign_in()
        results = self.address(f"/tests/attempts/{attempt.pk}/results")
        self.page.goto(results)
        expect(self.page.get_by_text("not marked yet").first).to_be_visible()
        page.get_by_role("link", name="Marking of").click()
        page.get_by_role("button", name="Release one attempt").click()
        expect(page.get_by_text("All marks are released.")).to_be_visible()
        self.page.goto(f"{results}/1")
        marked = self.page.get_by_role("region", name="Marked by your tutor")
        expect(marked.get_by_text("2.5 of 5 points from your tutor")).to_be_visible()
        expect(marked.get_by_text("And the radio?")).to_be_visible()
        self.assert_accessible("marks of a person")
