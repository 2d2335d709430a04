"""A study page at work: a film with its captions is put beside a section, and a learner sees it."""

from __future__ import annotations

from pathlib import Path

from playwright.sync_api import Page, expect

from e2e.writing import WritingTestCase

FILMS = Path("packs/inshore/topics/height-at-a-time/resources")


class StudyEditorTests(WritingTestCase):
    def test_a_film_is_put_beside_a_section_and_taken_away_again(self) -> None:
        page = self.at_bank()
        page.goto(f"{self.live_server_url}/author/course/inshore/pages/tidal-terms")
        section = page.get_by_role("listitem").filter(has=page.get_by_label("Text")).first
        section.get_by_text("Add a film, file or link").click()
        section.get_by_label("Title for learners").fill("The range, drawn")
        film = section.get_by_label("Film (WebM or MP4, up to 20 MB)")
        film.set_input_files({"name": "range.webm", "mimeType": "video/webm", "buffer": b"GIF89a"})
        captions = section.get_by_label("Its captions (WebVTT), for who can’t hear it")
        captions.set_input_files(FILMS / "twelfths.vtt")
        section.get_by_role("button", name="Add it").click()
        expect(section.get_by_text("This file can’t be used")).to_be_visible()
        self.errors = [error for error in self.errors if "422" not in error]
        self.assert_accessible("a study page as it is written", page)
        film.set_input_files(FILMS / "twelfths.webm")
        section.get_by_role("button", name="Add it").click()
        expect(section.get_by_label("Title of the film")).to_have_value("The range, drawn")
        self.published(page, "A film for the range.")
        shown = self.course.topics.get(key="tidal-terms").resources.get()
        self.sign_in()
        self.page.goto(self.address(f"/study/tidal-terms#{shown.section}"))
        expect(self.page.get_by_label("The range, drawn")).to_be_visible()

        section.get_by_role("button", name="Remove The range, drawn").click()
        self.published(page, "It isn’t clear enough.")
        self.assertFalse(self.course.topics.get(key="tidal-terms").resources.exists())

    def published(self, page: Page, why: str) -> None:
        page.get_by_label("Why, in one line").fill(why)
        page.get_by_role("button", name="Publish").click()
        expect(page.get_by_text("Published.", exact=True)).to_be_visible()
