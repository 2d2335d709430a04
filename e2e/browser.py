"""A real browser on a live server, and the right answers from the stored seeds."""

from __future__ import annotations

import re
from datetime import datetime, timedelta
from typing import Any, ClassVar

from axe_playwright_python.sync_playwright import Axe
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.utils import timezone
from playwright.sync_api import Browser, Page, Playwright, expect, sync_playwright

from vendaval.bank.actions import load_pack
from vendaval.bank.snapshot import version_of
from vendaval.evidence.models import Presentation
from vendaval.evidence.tests.builders import inshore
from vendaval.people.models import Role, User
from vendaval.shared import clock
from vendaval_core.items.keys import ChoiceKey
from vendaval_core.scoring.examples import right_response, wrong_response

ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


class LearnersClock:
    """Server time that a test moves on, so that answers take as long as a person needs."""

    def __init__(self) -> None:
        self.ahead = timedelta()

    def __call__(self) -> datetime:
        return timezone.now() + self.ahead

    def forward(self, **span: float) -> None:
        self.ahead += timedelta(**span)


class BrowserTestCase(StaticLiveServerTestCase):
    """Signs a learner in on a page of their own. Any error in the console fails the test."""

    playwright: ClassVar[Playwright]
    browser: ClassVar[Browser]
    page: Page

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.playwright = sync_playwright().start()
        cls.addClassCleanup(cls.playwright.stop)
        cls.browser = cls.playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=ARGUMENTS
        )
        cls.addClassCleanup(cls.browser.close)

    def setUp(self) -> None:
        load_pack(inshore())
        self.learner = User.objects.create_user(
            "rita", display_name="Rita Calado", role=Role.LEARNER, demo_note="Has never answered."
        )
        self.clock = LearnersClock()
        held = clock.held_by(self.clock)
        held.__enter__()
        self.addCleanup(held.__exit__, None, None, None)
        self.errors: list[str] = []
        self.page = self.new_page()

    def new_page(self, **options: Any) -> Page:
        """A page in a browser session of its own."""
        context = self.browser.new_context(
            viewport={"width": 1280, "height": 800}, reduced_motion="reduce", **options
        )
        self.addCleanup(context.close)
        context.set_default_timeout(10_000)
        page = context.new_page()
        page.on("pageerror", lambda error: self.errors.append(str(error)))
        page.on(
            "console",
            lambda m: (
                self.errors.append(m.text)
                if m.type == "error" and "ERR_INTERNET_DISCONNECTED" not in m.text
                else None
            ),
        )
        return page

    def tearDown(self) -> None:
        self.assertEqual(self.errors, [])

    def sign_in(self, page: Page | None = None) -> None:
        page = page or self.page
        page.goto(f"{self.live_server_url}/")
        page.get_by_role("button", name="Rita Calado").click()
        expect(page.get_by_role("heading", name="Where you stand", exact=True)).to_be_visible()

    def waiting(self) -> Presentation:
        """The question that is open in the browser, with its right answers on our side."""
        question = Presentation.objects.select_related("revision__family__topic", "run")
        return question.filter(learner=self.learner, closed_at=None, run__ended_at=None).latest(
            "pk"
        )

    def think(self, seconds: float = 40) -> None:
        """Let time pass for the learner, once the server knows that the question is shown."""
        for _ in range(100):
            if self.waiting().shown_at is not None:
                break
            self.page.wait_for_timeout(30)
        self.clock.forward(seconds=seconds)

    def answers(self, *, right: bool) -> list[tuple[str, str]]:
        """What to give for each part: ("choice", text number) or ("text", what to type)."""
        row = self.waiting()
        given = []
        for key in version_of(row.revision, row.seed, row.order).parts:
            response = right_response(key) if right else wrong_response(key)
            if isinstance(key, ChoiceKey):
                place = [choice.id for choice in key.choices].index(response)
                given.append(("choice", str(place + 1)))
            else:
                given.append(("text", response))
        return given

    def give(self, *, right: bool) -> None:
        """Fill in an answer with the mouse and send it."""
        self.think()
        fields = iter(self.page.locator("main form input:not([type=radio])").all())
        for kind, value in self.answers(right=right):
            if kind == "choice":
                self.page.locator("fieldset label").nth(int(value) - 1).click()
            else:
                next(fields).fill(value)
        self.page.get_by_role("button", name="Send answer").click()
        expect(self.page.get_by_role("region", name="Feedback")).to_be_visible()

    def go_on(self) -> None:
        button = self.page.get_by_role(
            "button", name=re.compile("Next question|See where you stand")
        )
        button.click()
        expect(self.page.get_by_role("region", name="Feedback")).to_have_count(0)

    def assert_accessible(self, where: str) -> None:
        """axe finds nothing serious, and nothing scrolls sideways."""
        self.page.wait_for_timeout(250)
        found = Axe().run(self.page)
        serious = [
            f"{v['id']}: {v['nodes'][0]['html'][:160]}"
            for v in found.response["violations"]
            if v["impact"] in {"serious", "critical"}
        ]
        self.assertEqual(serious, [], where)
        width = self.page.evaluate("document.documentElement.scrollWidth - window.innerWidth")
        self.assertLessEqual(width, 0, f"{where} scrolls sideways")
