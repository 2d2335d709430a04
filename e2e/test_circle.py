"""The circle: missed, read about, mended, asked again in a quiz, checked again later; the plan to a
date, minutes that are filled, and the record taken along as files."""

from __future__ import annotations

import csv
import json
import re
from io import StringIO
from pathlib import Path
from tempfile import TemporaryDirectory

from openpyxl import load_workbook
from playwright.sync_api import expect

from e2e.browser import BrowserTestCase
from vendaval.review.models import Miss
from vendaval.work.models import Run, Try


class CircleTests(BrowserTestCase):
    lasts = 70

    def miss_one(self, topic: str = "tidal-terms") -> None:
        self.page.goto(self.address(f"/topics/{topic}"))
        self.page.get_by_role("button", name="Practise", exact=True).click()
        expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()
        self.give(right=False)
        self.page.get_by_role("button", name="Show me the working").first.click()
        expect(self.page.get_by_role("heading", name="Here is the working.")).to_be_visible()

    def test_missed_read_mended_and_asked_again(self) -> None:
        page = self.page
        self.sign_in()
        self.miss_one()
        page.goto(self.address("/review"))
        page.get_by_role("link", name="What to study").click()
        expect(
            page.get_by_role("heading", name=re.compile("min of reading for one mistake"))
        ).to_be_visible()
        self.assert_accessible("the revision plan")
        page.get_by_role("link", name=re.compile("^Read:")).click()
        expect(page.locator(".prose-study").first).to_be_visible()
        page.goto(self.address("/revision"))
        expect(page.get_by_text("Read today.")).to_be_visible()
        page.get_by_role("button", name=re.compile("^Mark as studied")).click()
        expect(page.get_by_role("heading", name="0 min of reading for one mistake")).to_be_visible()
        page.get_by_role("button", name="Try two questions").click()
        expect(page.get_by_role("complementary").get_by_text("Two questions left")).to_be_visible()

        page.goto(self.address("/review"))
        page.get_by_role("button", name="Try it with new numbers").click()
        expect(page.get_by_role("button", name="Send answer")).to_be_visible()
        self.clock.forward(days=2)
        self.give(right=True)
        expect(page.get_by_text("Well done. This one is off your list")).to_be_visible()
        page.goto(self.address("/review"))
        expect(page.get_by_role("heading", name="No mistakes to correct")).to_be_visible()

        page.get_by_role("link", name="Make a quiz").click()
        page.get_by_label("Tidal terms").check()
        page.get_by_label("Questions").select_option("4")
        expect(page.get_by_text("Everybody needs to know this idea.").first).to_be_visible()
        self.assert_accessible("making a quiz")
        page.get_by_role("button", name=re.compile("^Start: 4 questions")).click()
        for turn in range(4):
            expect(page.get_by_role("button", name="Send answer")).to_be_visible()
            self.give(right=turn != 1)
            if turn < 3:
                page.get_by_role("button", name="Next question").click()
                expect(page.get_by_role("region", name="Feedback")).to_have_count(0)
        page.get_by_role("button", name="See how it went").click()
        expect(page.get_by_role("heading", name="Three of four right.")).to_be_visible()
        self.assertEqual(Miss.objects.filter(state="open").count(), 1)
        self.assertEqual(Miss.objects.filter(state="mended").count(), 1)

    def test_a_miss_is_set_aside_and_taken_up_again_also_seen_in_another_browser(self) -> None:
        self.sign_in()
        self.miss_one()
        page, other = self.page, self.new_page()
        self.sign_in(other)
        other.goto(self.address("/review"))
        expect(other.get_by_role("heading", name="One mistake to correct")).to_be_visible()
        page.goto(self.address("/review"))
        page.get_by_role("button", name="Set aside").click()
        expect(page.get_by_text("Questions you set aside").first).to_be_visible()
        other.reload()
        expect(other.get_by_role("heading", name="No mistakes to correct")).to_be_visible()
        page.get_by_text("Questions you set aside").first.click()
        page.get_by_role("navigation", name="Missed questions").get_by_role("listitem").get_by_role(
            "link"
        ).click()
        page.get_by_role("button", name="Put it back on the list").click()
        expect(page.get_by_role("button", name="Try it with new numbers")).to_be_visible()
        other.reload()
        expect(other.get_by_role("heading", name="One mistake to correct")).to_be_visible()

    def test_a_date_a_plan_and_twenty_minutes(self) -> None:
        page = self.page
        self.sign_in()
        page.get_by_role("link", name="Plan to a date").click()
        page.get_by_role("link", name="Set a date").click()
        page.get_by_label("Your own date (optional)", exact=True).fill(self.in_days(21))
        page.get_by_label("Sun", exact=True).fill("0")
        self.assert_accessible("targets and dates")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_text("Saved.")).to_be_visible()
        page.goto(self.address("/plan"))
        heading = page.get_by_role(
            "heading", name=re.compile("^With this plan you will most likely")
        )
        expect(heading).to_be_visible()
        expect(page.get_by_text("no time")).to_have_count(1)
        expect(
            page.get_by_role("img", name=re.compile("topics at the target, usually between"))
        ).to_be_visible()
        self.assert_accessible("the plan")

        page.goto(self.address())
        page.get_by_role("button", name="I have 20 minutes").click()
        sheet = page.get_by_role("dialog")
        sheet.get_by_text("10 min", exact=True).click()
        self.assert_accessible("minutes to fill")
        sheet.get_by_role("button", name=re.compile("^Start, about")).click()
        expect(page.get_by_role("button", name="Send answer")).to_be_visible()
        expect(
            page.get_by_role("complementary").get_by_text(re.compile("questions left of"))
        ).to_be_visible()
        self.give(right=True)
        page.get_by_role("button", name="Save and exit").click()
        page.get_by_role("link", name=re.compile("^Continue: Continue your 10 min")).click()
        self.assert_accessible("a spell of work")
        page.get_by_role("button", name="Stop here").click()
        expect(page.get_by_role("link", name="See what comes next")).to_be_visible()

    def in_days(self, days: int) -> str:
        self.clock.forward(days=days)
        day = self.clock().date().isoformat()
        self.clock.forward(days=-days)
        return day

    def test_a_step_is_put_off_and_brought_back(self) -> None:
        page = self.page
        self.sign_in()
        steps = page.get_by_role("region", name="Next steps")
        first = steps.get_by_role("heading").first.inner_text()
        steps.get_by_role("button", name=f"Not now: {first}").click()
        page.get_by_role("menuitem", name="Hide it").click()
        expect(page.get_by_text("hidden")).to_be_visible()
        expect(steps.get_by_role("heading", name=first)).to_have_count(0)
        page.reload()
        page.get_by_role("button", name=f"Bring back: {first}").click()
        expect(steps.get_by_role("heading", name=first)).to_be_visible()

    def test_the_record_is_saved_as_files_that_say_what_it_says(self) -> None:
        page = self.page
        self.sign_in()
        self.miss_one()
        page.get_by_role("button", name="Next question").click()
        self.give(right=True)
        page.goto(self.address("/record"))
        expect(page.get_by_text("2 tries, the latest first")).to_be_visible()
        self.assert_accessible("the record")
        tries = list(Try.objects.order_by("pk"))
        with TemporaryDirectory() as folder:
            kept = {}
            for name in ("Spreadsheet", "CSV", "Open learning records"):
                with page.expect_download() as download:
                    page.get_by_role("link", name=name).click()
                kept[name] = Path(folder) / download.value.suggested_filename
                download.value.save_as(kept[name])
            book = load_workbook(kept["Spreadsheet"])
            rows = list(book["Tries"].iter_rows(min_row=2, values_only=True))
            self.assertEqual([row[0] for row in rows], list(range(1, len(tries) + 1)))
            self.assertEqual([row[7] for row in rows], ["wrong", "right"])
            lines = list(csv.DictReader(StringIO(kept["CSV"].read_text("utf-8-sig"))))
            self.assertEqual([line["result"] for line in lines], ["wrong", "right"])
            told = json.loads(kept["Open learning records"].read_text())
            answered = [one for one in told if one["verb"]["id"].endswith("/answered")]
            success = [one["result"]["success"] for one in answered]
            self.assertEqual(success, [False, True])
        page.get_by_label("Result").select_option("right")
        expect(page.get_by_text("1 try, the latest first")).to_be_visible()
        page.get_by_label("Search").fill("zzz")
        expect(page.get_by_text("No tries match.")).to_be_visible()

    def test_working_goes_with_the_answer_and_words_are_read_one_by_one(self) -> None:
        page = self.page
        self.sign_in()
        page.goto(self.address("/topics/tidal-terms"))
        page.get_by_role("button", name="Practise", exact=True).click()
        expect(page.get_by_role("button", name="Send answer")).to_be_visible()
        page.keyboard.press("Escape")
        page.keyboard.press("o")
        expect(page.get_by_role("button", name=re.compile("^Stop reading"))).to_be_visible()
        page.wait_for_function("CSS.highlights.has('spoken')")
        page.keyboard.press("o")
        page.wait_for_function("!CSS.highlights.has('spoken')")
        page.keyboard.press("a")
        area = page.get_by_role("region", name="Working area")
        area.get_by_label(re.compile("^Your working")).fill("range $3.2$ m")
        sheet = area.get_by_role("img", name=re.compile("^Drawing area"))
        sheet.scroll_into_view_if_needed()
        box = sheet.bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 40, box["y"] + 40)
        page.mouse.down()
        page.mouse.move(box["x"] + 140, box["y"] + 90, steps=4)
        page.mouse.up()
        page.reload()
        expect(area.get_by_label(re.compile("^Your working"))).to_have_value("range $3.2$ m")
        self.assert_accessible("the working area")
        self.think()
        answers = self.answers(right=False)
        if answers[0][1] == "choice":
            page.locator("fieldset label").nth(int(answers[0][2]) - 1).click()
        else:
            page.locator("main form input:not([type=radio])").first.fill(answers[0][2])
        page.get_by_role("button", name="Send answer").click()
        expect(page.get_by_role("region", name="Feedback")).to_be_visible()
        kept = Try.objects.get().working
        assert kept is not None
        self.assertEqual((kept.lines, len(kept.strokes)), ("range $3.2$ m", 1))
        self.assertEqual(Run.objects.count(), 1)
