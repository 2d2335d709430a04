"""Questions from elsewhere: a spreadsheet is looked through, put right, and answered by a learner."""

from __future__ import annotations

from pathlib import Path

from playwright.sync_api import expect

from e2e.writing import WritingTestCase
from vendaval.bank.models import Family
from vendaval.exchange.jobs import look_through, store
from vendaval.exchange.models import Import
from vendaval_core.exchange.archive import packed, unpacked

SHEET = """\
Topic;Question;Right answer;Wrong answer 1;Feedback wrong 1
tidal-terms;The tide rises from 1.2 m to 4.7 m. What is its range?;3,5 m ± 0,05;;
Tides;Which tides have the largest range?;springs;neaps;Neaps have the smallest.
"""


class ExchangeTests(WritingTestCase):
    def test_a_spreadsheet_of_questions_is_put_right_and_asked(self) -> None:
        page = self.at_bank()
        page.get_by_role("link", name="Course", exact=True).click()
        page.get_by_role("link", name="Files in and out").click()
        sheet = {"name": "tides.csv", "mimeType": "text/csv", "buffer": SHEET.encode("cp1252")}
        page.get_by_label(
            "A spreadsheet of questions (CSV, XLSX) or a pack of this course (ZIP)"
        ).set_input_files(sheet)
        self.assert_accessible("spreadsheets of questions", page)
        page.get_by_role("button", name="Look through it").click()
        expect(page.get_by_text("Looking through 2 questions: 0 done.")).to_be_visible()
        made = Import.objects.get()
        look_through.call(made.pk)
        expect(page.get_by_text("2 questions, one with problems")).to_be_visible()
        expect(page.get_by_text("Topic: The course has no topic “Tides”.")).to_be_visible()
        self.assert_accessible("a spreadsheet looked through", page)
        expect(page.get_by_role("button", name="Take them into the course")).to_be_disabled()
        page.get_by_role("button", name="Correct line 3").click()
        page.get_by_role("textbox", name="Topic").fill("tidal-terms")
        page.get_by_role("button", name="Check again").click()
        expect(page.get_by_text("2 questions", exact=True)).to_be_visible()
        page.get_by_label("Publish them at once").check()
        page.get_by_label("Why, in one line").fill("From the sheet of week two.")
        page.get_by_role("button", name="Take them into the course").click()
        expect(page.get_by_text("Taking 2 questions into the course.")).to_be_visible()
        store.call(made.pk, made.by_id)
        expect(page.get_by_text("2 questions were taken in.")).to_be_visible()
        page.get_by_role("link", name="Open").first.click()
        expect(page.get_by_text("Revision 1, published today by Rui Sobral.")).to_be_visible()

        key = Family.objects.get(key__startswith="the-tide-rises").key
        self.course.refresh_from_db()
        self.begin(self.given((key,)))
        expect(self.page.get_by_text("What is its range?").first).to_be_visible()

        page.go_back()
        page.get_by_role("button", name="Take all back").click()
        expect(page.get_by_text("Taken back.")).to_be_visible()
        self.assertFalse(Family.objects.filter(key=key, live=True).exists())

    def test_a_pack_goes_out_and_says_what_it_would_change_coming_in(self) -> None:
        page = self.at_bank()
        page.goto(f"{self.live_server_url}/author/course/inshore/imports")
        with page.expect_download() as saved:
            page.get_by_role("link", name="Save the pack").click()
        files = unpacked(Path(saved.value.path()).read_bytes())
        files.pop("SHA256SUMS")
        path = "topics/tidal-terms/range-of-tide.yaml"
        files[path] = files[path].replace(b"title: ", b"title: The ", 1)
        pack = {"name": "inshore.zip", "mimeType": "application/zip", "buffer": packed(files)}
        page.get_by_label("A spreadsheet of questions (CSV").set_input_files(pack)
        page.get_by_role("button", name="Look through it").click()
        expect(page.get_by_text("Looking through the pack.")).to_be_visible()
        look_through.call(Import.objects.get().pk)
        expect(page.get_by_role("heading", name="Questions that change")).to_be_visible()
        self.assert_accessible("a pack looked through", page)
        page.get_by_label("Why, in one line").fill("From the other machine.")
        page.get_by_role("button", name="Put it in force").click()
        expect(page.get_by_text("Putting the pack in force.")).to_be_visible()
        made = Import.objects.get()
        store.call(made.pk, made.by_id)
        expect(page.get_by_text("In force.", exact=True)).to_be_visible()
