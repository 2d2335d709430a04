"""A target that was met a week ago, checked again in the browser."""

from __future__ import annotations

import re
from typing import Any

from django.test import Client
from playwright.sync_api import expect

from e2e.browser import BrowserTestCase
from vendaval.work.tests.builders import right

TOPIC = "tidal-terms"


class RecheckTests(BrowserTestCase):
    lasts = 25

    def meet(self) -> None:
        """Practise until the target is met, over the API: what the browser does is told elsewhere."""
        client = Client()
        client.force_login(self.learner)

        def post(path: str, body: dict[str, Any]) -> Any:
            address = f"/api/courses/{self.course.key}{path}"
            return client.post(address, body, content_type="application/json").json()

        question = post("/runs", {"purpose": "practice", "topics": [TOPIC]})["question"]
        for turn in range(40):
            self.clock.forward(minutes=40)
            body = {"replay_key": f"recheck-{turn:03d}", "responses": right(question["id"])}
            reply = post(f"/questions/{question['id']}/answer", body)
            if reply["feedback"]["met"]:
                return
            question = reply["next"]

    def test_four_questions_show_that_it_held(self) -> None:
        self.meet()
        self.clock.forward(days=8)
        self.sign_in()
        expect(
            self.page.get_by_text("Tidal terms: you reached the target eight days ago.")
        ).to_be_visible()
        self.page.get_by_role("button", name=re.compile("^Check: Check you still remember")).click()
        for turn in range(4):
            expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()
            if turn == 0:
                self.assert_accessible("a recheck")
            self.give(right=True)
            if turn < 3:
                self.go_on()
        feedback = self.page.get_by_role("region", name="Feedback")
        expect(
            feedback.get_by_text("Tidal terms: you still know it, so it’s secure")
        ).to_be_visible()
        self.page.get_by_role("button", name="See your results").click()
        expect(self.page.get_by_role("heading", name="One target remembered, of 1")).to_be_visible()
        expect(self.page.get_by_text("remembered", exact=True)).to_be_visible()
        self.page.goto(self.address("/topics"))
        expect(self.page.get_by_text("remembered, next check")).to_be_visible()
