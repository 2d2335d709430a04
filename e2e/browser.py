"""A real browser on a live server, and the right answers from the stored seeds."""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import datetime, timedelta
from functools import lru_cache
from multiprocessing.util import Finalize
from typing import Any
from urllib.parse import urlsplit

from axe_playwright_python.sync_playwright import Axe
from django.conf import settings
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.test import Client
from django.utils import timezone
from playwright.sync_api import (
    Browser,
    Locator,
    Page,
    expect,
    sync_playwright,
)

from vendaval.bank.loading import load_pack
from vendaval.bank.snapshot import version_of
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.work.models import Presentation
from vendaval.work.tests.builders import a_learner
from vendaval_core.items.formulas.workers import formula_workers
from vendaval_core.items.versions import Version, make_version
from vendaval_core.packs.reader import Pack
from vendaval_core.tests.courses import inshore, inshore_only

FEW_TOPICS = ("compass-errors", "tidal-terms", "height-at-a-time", "clearance-windows")
# A machine that stands still for some seconds fails no test; what comes at once is not waited for.
PATIENCE_MS = 30_000
expect.set_options(timeout=PATIENCE_MS)
# Chromium without the parts that draw windows: it does the same in less time.
CHROMIUM = "/usr/bin/chromium-headless-shell"
ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--use-fake-ui-for-media-stream",
    "--use-fake-device-for-media-stream",
]


def rehearsal_versions() -> dict[str, Version]:
    """The rehearsal's questions by key, as they are shown."""
    return {item.family.key: make_version(item.family, 1) for item in inshore().rehearsal}


def on_grid(grid: Locator, key: Any) -> Callable[[float, float], tuple[float, float]]:
    """Where on the page a point of a grid lies that stays where it is now.

    Shape and margins are those that the player draws a grid with.
    """
    box = grid.bounding_box()
    assert box is not None
    across, up = key.x.high - key.x.low, key.y.high - key.y.low
    height = 412 * (0.62 if key.x.clock else min(1.2, max(0.35, up / across)))

    def place(x: float, y: float) -> tuple[float, float]:
        right = (34 + (x - key.x.low) / across * 412) / 480
        down = (34 + (key.y.high - y) / up * height) / (height + 68)
        return box["x"] + right * box["width"], box["y"] + down * box["height"]

    return place


@lru_cache(maxsize=1)
def the_browser() -> Browser:
    """One browser for all tests of a process; it goes when the process does."""
    playwright = sync_playwright().start()
    browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)

    def close() -> None:
        browser.close()
        playwright.stop()

    Finalize(None, close, exitpriority=10)
    return browser


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

    page: Page
    learner: User

    @classmethod
    def setUpClass(cls) -> None:
        """The algebra workers start with the server here too."""
        super().setUpClass()
        formula_workers.start()

    def setUp(self) -> None:
        self.course = load_pack(self.pack())
        self.learner = a_learner(
            self.course, "rita", display_name="Rita Calado", demo_note="Has never answered."
        )
        self.clock = LearnersClock()
        held = clock.held_by(self.clock)
        held.__enter__()
        self.addCleanup(held.__exit__, None, None, None)
        self.errors: list[str] = []
        self.page = self.new_page()

    def pack(self) -> Pack:
        """The course these tests are about: a few topics are quick to load."""
        return inshore_only(*FEW_TOPICS)

    def address(self, path: str = "") -> str:
        """A page of the course."""
        return f"{self.live_server_url}/courses/{self.course.key}{path}"

    def new_page(self, **options: Any) -> Page:
        """A page in a browser session of its own."""
        context = the_browser().new_context(
            viewport={"width": 1280, "height": 800}, reduced_motion="reduce", **options
        )
        self.addCleanup(context.close)
        context.set_default_timeout(PATIENCE_MS)
        page = context.new_page()
        page.on("pageerror", lambda error: self.errors.append(str(error)))
        page.on(
            "console",
            lambda m: (
                self.errors.append(f"{m.text} {urlsplit(m.location['url']).path}")
                if m.type == "error" and "ERR_INTERNET_DISCONNECTED" not in m.text
                else None
            ),
        )
        return page

    def tearDown(self) -> None:
        self.assertEqual(self.errors, [])

    def enter(self, page: Page, person: User, path: str) -> None:
        """Somebody signed in by a session of their own, at an address of the application."""
        client = Client()
        client.force_login(person)
        session = client.cookies[settings.SESSION_COOKIE_NAME].value
        page.context.add_cookies(
            [{"name": settings.SESSION_COOKIE_NAME, "value": session, "url": self.live_server_url}]
        )
        page.goto(f"{self.live_server_url}{path}")

    def sign_in(self, page: Page | None = None) -> None:
        """The learner signed in, on Today. `test_story` signs in by hand."""
        page = page or self.page
        self.enter(page, self.learner, f"/courses/{self.course.key}")
        expect(page.get_by_role("heading", name="Your levels", exact=True)).to_be_visible()

    def open_rehearsal(self) -> None:
        """The rehearsal, with the scripts of all its kinds: they move what stands below them."""
        self.page.goto(self.address("/rehearsal"))
        expect(self.page.get_by_role("heading", name="Try every kind of question")).to_be_visible()
        expect(self.page.get_by_text("Loading…")).to_have_count(0)

    def waiting(self) -> Presentation:
        """The question that is open in the browser, with its right answers on our side."""
        question = Presentation.objects.select_related("revision__family__topic", "run")
        own = question.filter(run__enrolment__person=self.learner)
        return own.filter(closed_at=None, run__ended_at=None).latest("pk")

    def frames(self) -> None:
        """Let the page draw what it was just told, as it does between two moves of a hand."""
        self.page.evaluate(
            "new Promise(d => requestAnimationFrame(() => requestAnimationFrame(d)))"
        )

    def think(self, seconds: float = 40) -> None:
        """Let time pass for the learner, once the server knows that the question is shown."""
        for _ in range(100):
            if self.waiting().shown_at is not None:
                break
            self.page.wait_for_timeout(30)
        self.clock.forward(seconds=seconds)

    def responses(self, *, right: bool) -> dict[str, str]:
        """The open question's responses, by part."""
        row = self.waiting()
        keys = version_of(row.revision, row.seed, row.order).parts
        return {key.id: key.examples.right if right else key.examples.wrong for key in keys}

    def answers(self, *, right: bool) -> list[tuple[str, str, str]]:
        """What to give for each part: its id, "choice", "text" or "other", and what to give.

        A choice is given as its number, a text as typed, anything else as its response.
        """
        row = self.waiting()
        given = []
        for key in version_of(row.revision, row.seed, row.order).parts:
            response = key.examples.right if right else key.examples.wrong
            if key.kind == "choice" and key.choose == 1:
                place = [choice.id for choice in key.choices].index(response)
                given.append((key.id, "choice", str(place + 1)))
            elif getattr(key, "value", None) in {"number", "time", "text"}:
                given.append((key.id, "text", response))
            else:
                given.append((key.id, "other", response))
        return given

    def fill(self, *, right: bool) -> None:
        """Fill in an answer: with the mouse, or as a kept draft where the kind needs more.

        How each of the other kinds is answered by hand is the matter of `test_kinds`.
        """
        answers = self.answers(right=right)
        if any(kind == "other" for _, kind, _ in answers):
            self.keep_draft(self.responses(right=right))
            return
        fields = iter(self.page.locator("main form input:not([type=radio])").all())
        for _, kind, value in answers:
            if kind == "choice":
                self.page.locator("fieldset label").nth(int(value) - 1).click()
            else:
                next(fields).fill(value)

    def keep_draft(self, responses: dict[str, str]) -> None:
        """Open the question again as if all this had been put in before."""
        self.page.evaluate(
            "([place, responses]) => localStorage.setItem(place, JSON.stringify({ responses }))",
            [f"vendaval:{self.learner.pk}:draft:{self.waiting().pk}", responses],
        )
        self.page.reload()
        expect(self.page.get_by_role("button", name="Send answer")).to_be_visible()
        expect(self.page.get_by_text("Loading this part")).to_have_count(0)

    def give(self, *, right: bool) -> None:
        """Answer and send."""
        self.think()
        self.fill(right=right)
        self.page.get_by_role("button", name="Send answer").click()
        expect(self.page.get_by_role("region", name="Feedback")).to_be_visible()

    def go_on(self) -> None:
        """To the next question; the study section is opened first where that is asked."""
        read = self.page.get_by_role("button", name="Read about it")
        if read.count():
            read.click()
            sheet = self.page.get_by_role("dialog")
            expect(sheet).to_be_visible()
            expect(sheet.get_by_text("Loading the section")).to_have_count(0)
            self.page.keyboard.press("Escape")
        button = self.page.get_by_role("button", name=re.compile("Next question|See your levels"))
        button.click()
        expect(self.page.get_by_role("region", name="Feedback")).to_have_count(0)

    def assert_accessible(self, where: str, page: Page | None = None) -> None:
        """axe finds nothing serious, and nothing scrolls sideways."""
        page = page or self.page
        page.wait_for_function("document.getAnimations().every((a) => a.playState !== 'running')")
        found = Axe().run(page)
        serious = [
            f"{v['id']}: {v['nodes'][0]['html'][:160]}"
            for v in found.response["violations"]
            if v["impact"] in {"serious", "critical"}
        ]
        self.assertEqual(serious, [], where)
        width = page.evaluate("document.documentElement.scrollWidth - window.innerWidth")
        self.assertLessEqual(width, 0, f"{where} scrolls sideways")


class WholeCourseTestCase(BrowserTestCase):
    """The same with all 18 topics."""

    def pack(self) -> Pack:
        return inshore()
