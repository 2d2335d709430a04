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
FILE = "A spreadsheet of questions (CSV, XLSX), QTI (ZIP, XML) or a pack of this course (ZIP)"
ELSEWHERE = "https://tricks.example"
DRAWING = f"""<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 90 60" onload="tricked()">
  <script>tricked()</script><image href="{ELSEWHERE}/a.png"/><style>@import "{ELSEWHERE}/a.css"</style>
  <rect width="90" height="60" fill="url({ELSEWHERE}/b.svg)" onclick="tricked()"/></svg>"""
# A question full of tricks: scripts, things to be fetched, a form, words that look like ours.
TRICKS = f"""<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p2" identifier="tricks"
  title="[[1+1]] tricks"><responseDeclaration identifier="A" cardinality="single" baseType="float">
  <correctResponse><value>2</value></correctResponse></responseDeclaration>
  <responseDeclaration identifier="B" cardinality="single" baseType="float"><correctResponse>
  <value>3</value></correctResponse></responseDeclaration><outcomeDeclaration identifier="SCORE"
  cardinality="single" baseType="float"/><stylesheet href="{ELSEWHERE}/s.css" type="text/css"/>
  <itemBody><p onclick="tricked()" style="background:url({ELSEWHERE}/p.png)">Two numbers make five.
  &lt;script&gt;tricked()&lt;/script&gt; &lt;img src=x onerror=tricked()&gt; ![x]({ELSEWHERE}/m.png)
  <img src="{ELSEWHERE}/i.png" alt="far"/><img src="d.svg" alt="A drawing"/>
  <a href="javascript:tricked()">Press</a></p><script src="{ELSEWHERE}/x.js"/>
  <iframe src="{ELSEWHERE}"/><object data="{ELSEWHERE}/o.swf" type="application/x"/>
  <audio src="{ELSEWHERE}/a.mp3" autoplay="autoplay"/>
  <p>They are <textEntryInteraction responseIdentifier="A"/> and
  <textEntryInteraction responseIdentifier="B"/>.</p></itemBody><responseProcessing>
  <responseCondition><responseIf><equal toleranceMode="exact"><sum><variable identifier="A"/>
  <variable identifier="B"/></sum><baseValue baseType="float">5</baseValue></equal>
  <setOutcomeValue identifier="SCORE"><baseValue baseType="float">1</baseValue></setOutcomeValue>
  </responseIf></responseCondition></responseProcessing></assessmentItem>"""


class ExchangeTests(WritingTestCase):
    def test_a_spreadsheet_of_questions_is_put_right_and_asked(self) -> None:
        page = self.at_bank()
        page.get_by_role("link", name="Course", exact=True).click()
        page.get_by_role("link", name="Files in and out").click()
        sheet = {"name": "tides.csv", "mimeType": "text/csv", "buffer": SHEET.encode("cp1252")}
        page.get_by_label(FILE).set_input_files(sheet)
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
        page.get_by_label(FILE).set_input_files(pack)
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

    def test_a_package_full_of_tricks_is_asked_and_nothing_else_happens(self) -> None:
        page = self.at_bank()
        page.goto(f"{self.live_server_url}/author/course/inshore/imports")
        files = {"tricks.xml": TRICKS.encode(), "d.svg": DRAWING.encode()}
        package = {
            "name": "tricks.zip",
            "mimeType": "application/zip",
            "buffer": packed(files, digests=False),
        }
        page.get_by_label(FILE).set_input_files(package)
        page.get_by_role("button", name="Look through it").click()
        expect(page.get_by_text("Looking through one question: 0 done.")).to_be_visible()
        made = Import.objects.get()
        look_through.call(made.pk)
        expect(page.get_by_text("one question, one with problems")).to_be_visible()
        page.get_by_label("Topic of questions that name none").select_option(label="Tidal terms")
        expect(page.get_by_text("Looking through one question: 0 done.")).to_be_visible()
        look_through.call(made.pk)
        expect(page.get_by_text("one question", exact=True)).to_be_visible()
        expect(page.get_by_text("lies outside the package and is not fetched")).to_be_visible()
        expect(page.get_by_text("Not kept: a link: javascript:tricked().")).to_be_visible()
        expect(page.get_by_text("Not kept: of a drawing: image, script, style.")).to_be_visible()
        self.assert_accessible("a package looked through", page)
        page.get_by_label("Publish them at once").check()
        page.get_by_label("Why, in one line").fill("From far away.")
        page.get_by_role("button", name="Take them into the course").click()
        expect(page.get_by_text("Taking one question into the course.")).to_be_visible()
        store.call(made.pk, made.by_id)
        expect(page.get_by_text("One question was taken in.")).to_be_visible()

        asked: list[str] = []
        self.page.on("request", lambda request: asked.append(request.url))
        self.page.expose_function("tricked", lambda: asked.append("https://tricked"))
        self.course.refresh_from_db()
        key = Family.objects.get(key__contains="tricks").key
        attempt = self.begin(self.given((key,)))
        expect(self.page.get_by_text("Two numbers make five.").first).to_be_visible()
        expect(self.page.get_by_text("<script>tricked()</script>")).to_be_visible()
        expect(self.page.get_by_role("img", name="A drawing")).to_be_visible()
        self.page.get_by_text("Press", exact=False).last.click()
        first, second = self.page.get_by_role("textbox", name="(").all()
        first.fill("1")
        expect(self.page.get_by_text("1 of 2 answered")).to_be_visible()
        second.fill("4")
        self.assert_accessible("answers marked together")
        self.page.get_by_role("button", name="Check and hand in").last.click()
        self.page.get_by_role("main").get_by_role("button", name="Hand in").click()
        self.page.get_by_role("dialog").get_by_role("button", name="Hand in").click()
        expect(self.page.get_by_role("heading", name="Handed in")).to_be_visible()
        attempt.refresh_from_db()
        self.assertEqual([url for url in asked if not url.startswith(self.live_server_url)], [])
        self.assertEqual(attempt.total.reached, 1)
