"""When things go wrong: no connection, junk in a field, two tabs, narrow and dark screens."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import expect

from e2e.browser import WholeCourseTestCase
from vendaval.bank.loading import load_pack
from vendaval.work.models import Run, Try
from vendaval.work.tests.builders import inshore_without


class TroubleTests(WholeCourseTestCase):
    lasts = 60

    def begin(self, subject: str = "tides") -> None:
        self.sign_in()
        self.page.get_by_role("button", name=f"Start the diagnostic: Diagnostic: {subject}").click()
        expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()

    def test_an_answer_given_offline_is_kept_and_sent_once(self) -> None:
        self.begin()
        self.think()
        self.fill(right=True)
        self.page.context.set_offline(True)
        expect(self.page.get_by_text("You are offline. What you’ve typed")).to_be_visible()
        self.page.get_by_role("button", name="Send answer").click()
        expect(self.page.get_by_text("Not sent yet: you are offline.")).to_be_visible()
        self.assertEqual(Try.objects.count(), 0)
        self.page.context.set_offline(False)
        expect(self.page.get_by_role("heading", name="That’s right.")).to_be_visible(timeout=9000)
        self.assertEqual(Try.objects.count(), 1)

    def test_a_reply_that_got_lost_is_asked_for_again_with_the_same_key(self) -> None:
        self.begin()
        self.think()
        lost = []

        def lose_first(route):  # type: ignore[no-untyped-def]
            if lost:
                return route.continue_()
            lost.append(route.fetch())
            return route.abort()

        self.page.route("**/questions/*/answer", lose_first)
        self.fill(right=True)
        self.page.get_by_role("button", name="Send answer").click()
        expect(self.page.get_by_role("heading", name="That’s right.")).to_be_visible(timeout=9000)
        self.assertEqual((len(lost), Try.objects.count()), (1, 1))
        self.errors = [e for e in self.errors if "ERR_FAILED" not in e]

    def test_trouble_on_the_server_says_what_is_kept_and_offers_a_way_on(self) -> None:
        self.begin()
        self.think()
        page, seen, held = self.page, list[str](), list[Any]()

        def fail_then_garble(route):  # type: ignore[no-untyped-def]
            if len(seen) == 2:
                return held.append(route)
            seen.append("failed")
            if len(seen) == 1:
                return route.fulfill(status=500, body="<h1>Server Error</h1>")
            return route.fulfill(status=200, content_type="application/json", body="{half")

        page.route("**/questions/*/answer", fail_then_garble)
        self.fill(right=True)
        page.get_by_role("button", name="Send answer").click()
        expect(page.get_by_text("Something went wrong on our side.")).to_be_visible()
        expect(page.get_by_text("Your answer is kept here.")).to_be_visible()
        self.assert_accessible("an answer that met an error 500")
        page.get_by_role("button", name="Try again").click()
        expect(page.get_by_text("We couldn’t read the server’s reply.")).to_be_visible()
        page.get_by_role("button", name="Try again").click()
        expect(page.get_by_text("Sending…")).to_be_visible()
        held[0].continue_()
        expect(page.get_by_role("heading", name="That’s right.")).to_be_visible()
        self.assertEqual(Try.objects.count(), 1)
        self.errors = [e for e in self.errors if "status of 500" not in e]

    def test_a_reload_at_every_step_the_back_button_and_a_minute_without_a_connection(self) -> None:
        self.sign_in()
        page = self.page
        page.goto(self.address("/topics/tidal-terms"))
        page.reload()
        page.get_by_role("button", name="Practise", exact=True).click()
        send = page.get_by_role("button", name="Send answer")
        expect(send).to_be_visible()
        run = page.url
        page.reload()
        expect(send).to_be_visible()
        page.go_back()
        expect(page.get_by_role("heading", name="Tidal terms", level=1)).to_be_visible()
        page.go_forward()
        expect(send).to_be_visible()
        self.assertEqual((page.url, Run.objects.count()), (run, 1), "looking round begins nothing")
        self.think()
        self.fill(right=True)
        page.reload()
        expect(send).to_be_visible()
        page.context.set_offline(True)
        send.click()
        expect(page.get_by_text("Not sent yet: you are offline.")).to_be_visible()
        self.clock.forward(minutes=1)
        page.context.set_offline(False)
        right = page.get_by_role("heading", name="That’s right.")
        expect(right).to_be_visible(timeout=9000)
        self.assertEqual(Try.objects.count(), 1, "what was put in before the reload went once")
        page.reload()
        self.assertEqual(Try.objects.count(), 1)
        other = self.new_page()
        self.enter(other, self.learner, page.url.removeprefix(self.live_server_url))
        expect(other.get_by_role("button", name="Send answer")).to_be_visible()
        page.go_back()
        page.go_forward()
        expect(send).to_be_visible()
        self.assertEqual((Try.objects.count(), Run.objects.count()), (1, 1))

    def test_what_cannot_be_read_is_said_in_the_page(self) -> None:
        self.sign_in()
        self.page.goto(self.address("/topics/clearance-windows"))
        self.page.get_by_role("button", name="Practise", exact=True).click()
        for _ in range(12):
            expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()
            if self.page.get_by_role("textbox", name="Your answer in metres").count():
                break
            self.page.get_by_role("button", name="Show me the working").click()
            self.go_on()
        field = self.page.get_by_role("textbox", name="Your answer in metres")
        self.think()
        for typed, said in (
            ("thirty", "doesn’t start with a number"),
            ("3 knots", "Write the answer in m,"),
            ("4 7", "isn’t one number"),
            ("", "You haven’t answered yet."),
        ):
            field.fill(typed)
            self.page.get_by_role("button", name="Send answer").click()
            expect(self.page.get_by_text(said).first).to_be_visible()
        self.assertEqual(Try.objects.count(), 0)
        right = self.answers(right=True)[0][2].replace(".", ",")
        field.fill(right)
        self.page.get_by_role("button", name="Send answer").click()
        expect(self.page.get_by_role("heading", name="That’s right.")).to_be_visible()

    def test_a_question_answered_in_another_tab_is_not_answered_twice(self) -> None:
        self.begin()
        self.think()
        self.keep_draft(self.responses(right=True))
        other = self.page.context.new_page()
        other.goto(self.page.url)
        expect(other.get_by_role("button", name="Send answer")).to_be_visible()
        self.give(right=True)
        other.get_by_role("button", name="Send answer").click()
        expect(other.get_by_text("This question is closed. We changed nothing.")).to_be_visible()
        self.assertEqual(Try.objects.count(), 1)
        self.errors = [e for e in self.errors if "409" not in e]

    def test_a_question_taken_out_of_the_course_gives_way_to_another(self) -> None:
        self.begin()
        self.think()
        self.keep_draft(self.responses(right=True))
        gone = self.waiting()
        load_pack(inshore_without(gone.revision.family.key))
        self.page.get_by_role("button", name="Send answer").click()
        told = self.page.get_by_text("This question was removed from the course.")
        expect(told).to_be_visible()
        expect(self.page.get_by_role("heading", level=1)).to_contain_text("question 2")
        self.assertNotEqual(self.waiting().revision.family_id, gone.revision.family_id)
        self.give(right=True)
        expect(told).to_have_count(0)
        self.assertEqual(Try.objects.count(), 1)
        self.errors = [e for e in self.errors if "409" not in e]

    def test_unknown_addresses_and_a_session_that_ended(self) -> None:
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/no/such/page")
        expect(self.page.get_by_role("heading", name="This page doesn’t exist")).to_be_visible()
        self.page.goto(self.address("/run/99999"))
        expect(self.page.get_by_role("heading", name="Nothing here")).to_be_visible()
        self.page.goto(f"{self.live_server_url}/")
        expect(self.page.get_by_role("heading", name="Your levels", exact=True)).to_be_visible()
        self.page.context.clear_cookies()
        self.page.get_by_role("link", name="Topics").click()
        expect(self.page.get_by_role("heading", name="Sign in")).to_be_visible()
        self.errors = [e for e in self.errors if "404" not in e and "403" not in e]

    def test_narrow_dark_and_large(self) -> None:
        self.begin()
        self.give(right=False)
        self.go_on()
        places = [
            "",
            "/topics",
            "/topics/tidal-terms",
            "/practise",
            "/review",
            "/study/tidal-terms",
        ]
        run = self.page.url
        for width, size, theme in ((360, 100, "light"), (1280, 200, "light"), (1280, 100, "dark")):
            self.page.set_viewport_size({"width": width, "height": 800})
            self.page.evaluate(
                "([textSize, theme]) => localStorage.setItem('vendaval:preferences',"
                " JSON.stringify({textSize, theme}))",
                [size, theme],
            )
            shown = places[:2] if theme == "dark" else places
            for address in [run, *(self.address(place) for place in shown)]:
                self.page.goto(address)
                expect(self.page.locator("main")).to_be_visible()
                self.assert_accessible(f"{address} at {width}, {size} %, {theme}")
        self.page.set_viewport_size({"width": 390, "height": 844})
        self.page.goto(run)
        self.page.get_by_role("button", name="Level and help").click()
        expect(
            self.page.get_by_role("dialog").get_by_text(re.compile("topics settled"))
        ).to_be_visible()
