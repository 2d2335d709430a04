"""A newcomer's course: typed from a sheet of paper into an empty course, to a learner's first
level; then exported, and imported where it is not."""

from __future__ import annotations

import re
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import NamedTuple

from playwright.sync_api import Locator, Page, expect

from e2e.browser import BrowserTestCase
from vendaval.bank.models import Course
from vendaval.people.actions import give_role
from vendaval.people.models import Role, User
from vendaval.work.tests.builders import an_account, run_command


class Question(NamedTuple):
    """A question as it stands on the sheet. given: what is right, in the fields of its kind."""

    topic: str
    kind: str
    title: str
    text: str
    given: tuple[str, ...]
    why: str


NUMBER, ONE, SEVERAL = "A number", "One of several choices", "Several of several choices"
WORD, ORDER, PAIRS = "A word or a few", "Things put in order", "Pairs, left to right"
FIBRES, BENDS, LOADS = "Fibres", "Bends and hitches", "Loads"
# The first choices are right, the others wrong; of pairs, each with its match.
SHEET = (
    Question(FIBRES, ONE, "Which rope floats", "Which rope floats on water?",
             ("Polypropylene", "Polyamide", "Polyester"), "Only polypropylene is lighter."),
    Question(FIBRES, ONE, "Which rope stretches", "Which rope stretches most under load?",
             ("Polyamide", "Polyester", "Hemp"), "Polyamide gives like a spring."),
    Question(FIBRES, SEVERAL, "What harms rope", "What harms a rope of man-made fibre?",
             ("Sunlight", "Chafe", "Fresh water"), "Sunlight and chafe wear it out."),
    Question(FIBRES, WORD, "What chafing is", "What do we call wear by rubbing?",
             ("chafe",), "Rubbing wears a rope: that is chafe."),
    Question(BENDS, ONE, "Joining two ropes", "Which knot joins two ropes of unlike thickness?",
             ("Sheet bend", "Bowline", "Clove hitch"), "The sheet bend holds thick on thin."),
    Question(BENDS, WORD, "A loop that holds", "Which knot makes a loop that does not slip?",
             ("bowline",), "The bowline makes a fixed loop."),
    Question(BENDS, ORDER, "Tying up", "Put the steps of mooring in order.",
             ("Take a turn", "Make it fast", "Coil the end"), "First a turn, the coil last."),
    Question(BENDS, PAIRS, "What for", "Which knot serves which end?",
             ("Reef knot", "a parcel", "Bowline", "a loop"), "Each knot has its use."),
    Question(LOADS, NUMBER, "Safe load", "A rope breaks at 30 kN. A fifth is safe. How many kN?",
             ("30", "load", "load / 5", "10", "50", "5"), "A fifth of it is safe."),
    Question(LOADS, NUMBER, "Two parts", "A tackle lifts 80 kg with 2 parts. What must you pull?",
             ("80", "mass", "mass / 2", "60", "120", "10"), "Two parts share the mass."),
    Question(LOADS, NUMBER, "Coils", "A coil takes 20 m of rope. How many metres do 3 coils take?",
             ("20", "coil", "coil * 3", "15", "40", "5"), "Three times as much."),
    Question(LOADS, PAIRS, "Symbols", "Which unit belongs to what?",
             ("Force", "kN", "Length", "m"), "Newtons for forces, metres for lengths."),
)  # fmt: skip


class NewcomerTests(BrowserTestCase):
    lasts = 150

    def somebody(self, name: str, role: Role) -> User:
        person = an_account(name.split()[0].lower(), display_name=name)
        give_role(person, self.course.school, role)
        return person

    def test_from_an_empty_course_to_a_first_level_and_out_and_in_again(self) -> None:
        self.make_course()
        page = self.new_page()
        self.enter(page, self.somebody("Marta Vaz", Role.AUTHOR), "/author/course/ropes")
        self.build(page)
        for question in SHEET:
            self.write(page, question)
        page.get_by_role("link", name="Bank", exact=True).first.click()
        expect(page.get_by_text("12 questions, 0 first tries")).to_be_visible()
        self.learn()
        self.out_and_in()

    def make_course(self) -> None:
        page = self.new_page()
        self.enter(page, self.somebody("Olga Pinto", Role.OFFICE), "/office/school")
        page.get_by_label("Name of the course").fill("Ropes")
        page.get_by_label("First subject").fill("Ropework")
        page.get_by_label("First topic").fill(FIBRES)
        page.get_by_role("button", name="Create course").click()
        page.get_by_role("checkbox", name=re.compile("Open to everyone.*Ropes")).check()
        self.assert_accessible("the school, with a new course", page)

    def build(self, page: Page) -> None:
        """Two more topics, one of which builds on the first."""
        topics = page.get_by_label("Topic", exact=True)
        expect(topics).to_have_count(1)
        for number, title in enumerate((BENDS, LOADS), start=2):
            page.get_by_role("button", name="Add a topic to Ropework").press("Enter")
            topics.nth(number - 1).fill(title)
        page.get_by_role("button", name=f"More about {BENDS}").press("Enter")
        page.get_by_role("checkbox", name=FIBRES, exact=True).check()
        page.get_by_role("button", name="Review changes").press("Enter")
        sheet = page.get_by_role("dialog", name="Save these changes")
        expect(sheet.get_by_text(f"New topic: {BENDS}.")).to_be_visible()
        expect(sheet.get_by_text(f"{BENDS} builds on {FIBRES}.")).to_have_count(0)
        self.assert_accessible("what a new structure changes", page)
        sheet.get_by_role("button", name="Save", exact=True).press("Enter")
        expect(page.get_by_text("Saved.")).to_be_visible()
        self.assert_accessible("a course as it is built", page)

    def write(self, page: Page, question: Question) -> None:
        page.goto(f"{self.live_server_url}/author/bank/ropes/new")
        page.get_by_label("Title, for lists").fill(question.title)
        page.get_by_role("combobox", name="Topic").select_option(label=question.topic)
        page.get_by_role("button", name="Show all kinds").click()
        page.get_by_label(question.kind, exact=True).check()
        page.get_by_role("button", name="Start writing").click()
        text = page.get_by_role("textbox", name="The question")
        self.typed(page, text, question.text)
        answer = page.get_by_role("region", name=re.compile("^The answer"))
        if question.kind == NUMBER:
            self.number(page, question)
        elif question.kind in {ONE, SEVERAL}:
            boxes = answer.get_by_role("textbox", name="Choice", exact=True)
            right = answer.get_by_label("This choice is")
            for place, words in enumerate(question.given):
                self.typed(page, boxes.nth(place), words)
                correct = place == 0 or (question.kind == SEVERAL and place == 1)
                right.nth(place).select_option("right" if correct else "wrong")
        else:
            names = {WORD: "Accepted answers", ORDER: "In the right order"}
            boxes = answer.get_by_role(
                "textbox", name=re.compile(names.get(question.kind, "^(One|Other)$"))
            )
            for place, words in enumerate(question.given):
                self.typed(page, boxes.nth(place), words)
        self.typed(page, page.get_by_role("textbox", name="A line for each step, 1"), question.why)
        self.publish(page)

    def number(self, page: Page, question: Question) -> None:
        """A number of the text varies; what the page began with goes."""
        number, name, formula, low, high, step = question.given
        text = page.get_by_role("textbox", name="The question")
        text.focus()
        page.keyboard.press("Control+Home")
        for _ in range(re.search(rf"\b{number}\b", question.text).start()):  # type: ignore[union-attr]
            page.keyboard.press("ArrowRight")
        page.get_by_role("button", name=f"Let {number} vary").press("Enter")
        called = page.get_by_label("Called")
        called.fill(name)
        called.press("Enter")
        expect(page.get_by_role("button", name=re.compile(f"^{name} "))).to_be_visible()
        for label, value in (("From", low), ("To", high), ("In steps of", step)):
            page.get_by_label(label, exact=True).fill(value)
        page.get_by_label("The answer", exact=True).fill(formula)
        for old in ("a", "b"):
            page.get_by_role("button", name=re.compile(f"^{old} ")).press("Enter")
            page.get_by_role("button", name=f"Remove {old}", exact=True).press("Enter")

    def typed(self, page: Page, box: Locator, words: str) -> None:
        box.focus()
        page.keyboard.press("Control+a")
        page.keyboard.insert_text(words)

    def publish(self, page: Page) -> None:
        expect(page.get_by_text(re.compile("Draft, saved"))).to_be_visible()
        page.get_by_role("button", name="Publish").click()
        sheet = page.get_by_role("dialog", name="Publish this draft")
        expect(sheet.get_by_text("All versions were checked")).to_be_visible(timeout=60_000)
        sheet.get_by_label("Why, in one line").fill("From the sheet.")
        sheet.get_by_role("button", name="Publish").click()
        expect(page.get_by_text(re.compile("^Revision 1, published"))).to_be_visible(timeout=60_000)

    def learn(self) -> None:
        """A learner begins the course and answers until a first level is known."""
        self.sign_in()
        page = self.page
        page.goto(f"{self.live_server_url}/people")
        page.get_by_role("button", name="Start Ropes").click()
        page.get_by_role("button", name="Start the diagnostic: Diagnostic: ropework").click()
        for _ in range(12):
            done = page.get_by_role("link", name="See what comes next")
            expect(page.get_by_role("button", name="Send answer").or_(done)).to_be_visible()
            if done.count():
                break
            self.give(right=True)
            self.go_on()
        page.goto(f"{self.live_server_url}/courses/ropes/topics")
        expect(page.get_by_role("img", name=re.compile("level \\d+")).first).to_be_visible()

    def out_and_in(self) -> None:
        """The same files, byte for byte, where the course is gone and was imported again."""
        files = self.exported()
        self.assertEqual(len([one for one in files if one.endswith(".yaml")]), 13)
        # What was answered is never deleted, so the course makes way under another key.
        Course.objects.filter(key="ropes").update(key="ropes-before")
        with TemporaryDirectory() as folder:
            for path, content in files.items():
                target = Path(folder) / path
                target.parent.mkdir(parents=True, exist_ok=True)
                target.write_bytes(content)
            run_command("load_pack", folder)
        self.assertEqual(self.exported(), files)

    def exported(self) -> dict[str, bytes]:
        with TemporaryDirectory() as folder:
            run_command("export_pack", "ropes", folder)
            root = Path(folder)
            return {str(p.relative_to(root)): p.read_bytes() for p in root.rglob("*.*")}
