"""Take docs/screenshots from fresh demo data on a server of its own."""

from __future__ import annotations

import os
import subprocess
import sys
import time
import urllib.request
from pathlib import Path
from tempfile import TemporaryDirectory

from playwright.sync_api import Browser, Locator, Page, expect, sync_playwright

ROOT = Path(__file__).resolve().parents[1]
SHOTS = ROOT / "docs" / "screenshots"
ADDRESS = "http://127.0.0.1:8765"
COURSE = f"{ADDRESS}/courses/inshore"
CHROMIUM = "/usr/bin/chromium-headless-shell"
ARGUMENTS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-sync"]


def page_of(browser: Browser, name: str | None, width: int = 1280, height: int = 800) -> Page:
    context = browser.new_context(
        viewport={"width": width, "height": height}, reduced_motion="reduce"
    )
    page = context.new_page()
    page.goto(f"{ADDRESS}/")
    if name:
        page.get_by_role("button", name=name).click()
        page.get_by_role("heading", level=1).wait_for()
    return page


def shoot(page: Page, name: str, address: str | None = None) -> None:
    if address:
        page.goto(f"{COURSE}{address}")
    page.wait_for_timeout(900)
    expect(page.locator("main, [role=status]").filter(has_text="Loading")).to_have_count(0)
    page.screenshot(path=str(SHOTS / f"{name}.png"))
    print(f"docs/screenshots/{name}.png")


def practise_until(page: Page, topic: str, wanted: Locator) -> None:
    """Practise a topic until a question of the wanted kind comes."""
    page.goto(f"{COURSE}/topics/{topic}")
    page.get_by_role("button", name="Practise", exact=True).click()
    for _ in range(40):
        page.get_by_role("button", name="Send answer").wait_for()
        page.wait_for_timeout(300)
        if wanted.count():
            return
        page.get_by_role("button", name="Show me the working").first.click()
        page.get_by_role("heading", name="Here is the working.").wait_for()
        read = page.get_by_role("button", name="Read about it")
        if read.count():
            read.click()
            page.get_by_role("dialog").wait_for()
            page.get_by_text("Loading the section").wait_for(state="detached")
            page.keyboard.press("Escape")
        page.get_by_role("button", name="Next question").click()
        page.get_by_role("region", name="Feedback").wait_for(state="detached")
    raise SystemExit(f"no such question in {topic}")


def views(browser: Browser) -> None:
    page = page_of(browser, "Inês")
    shoot(page, "today")
    for name in ("topics", "review"):
        shoot(page, name, f"/{name}")
    practise_until(page, "clearance-windows", page.get_by_label("Your answer in metres"))
    page.wait_for_timeout(7000)
    page.get_by_label("Your answer in metres").fill("1.9")
    page.get_by_role("button", name="Send answer").click()
    shoot(page, "practice")
    page.goto(f"{COURSE}/tests")
    page.get_by_role("link", name="Tides and clearance, end of unit").click()
    page.get_by_role("button", name="Start the test").click()
    page.get_by_role("dialog").get_by_role("button", name="Start", exact=True).click()
    page.get_by_role("textbox", name="Your answer").fill("4.5")
    page.get_by_role("toolbar").get_by_role("button", name="Flag").click()
    shoot(page, "test")
    for name in ("plan", "record"):
        shoot(page, name, f"/{name}")
    tutor = page_of(browser, "Clara")
    answers = tutor.get_by_role("main").get_by_role("link", name="Answer ")
    answers.wait_for()
    shoot(tutor, "group")
    tutor.get_by_role("link", name="Marks", exact=True).click()
    tutor.get_by_role("heading", name="The middle mark").wait_for()
    shoot(tutor, "marks")
    tutor.goto(f"{ADDRESS}/tutor/groups")
    tutor.get_by_role("link", name="What to teach next").click()
    tutor.get_by_role("heading", name="Mini lesson").wait_for()
    shoot(tutor, "teach")
    tutor.get_by_role("link", name="Set work").first.click()
    tutor.get_by_role("heading", name="Work you’ve set").wait_for()
    shoot(tutor, "set-work")
    tutor.get_by_role("link", name="Marking").first.click()
    tutor.get_by_role("link", name="Passage planning").first.click()
    tutor.get_by_role("link", name="The crew’s briefing").click()
    tutor.get_by_text("Answer 1 of").wait_for()
    for key in ("1", "2"):
        tutor.keyboard.press(key)
    shoot(tutor, "marking")
    office = page_of(browser, "Lúcia")
    office.get_by_role("link", name="People", exact=True).click()
    office.get_by_role("link", name="Xavier Lopo").click()
    office.get_by_role("heading", name="Guardians and consent").wait_for()
    shoot(office, "office")
    author = page_of(browser, "Rui")
    author.goto(f"{ADDRESS}/author/bank/inshore")
    author.get_by_role("heading", level=1).wait_for()
    shoot(author, "bank")
    author.goto(f"{ADDRESS}/author/bank/inshore/tide-needed-drying")
    author.get_by_role("button", name="Try version 5").click()
    shoot(author, "family")
    course = f"{ADDRESS}/author/course/inshore"
    author.goto(course)
    author.get_by_role("button", name="More about Compass errors").click()
    author.get_by_role("button", name="More about Compass errors").scroll_into_view_if_needed()
    shoot(author, "course")
    author.goto(f"{course}/calibration")
    author.get_by_role("button", name="Curve").first.click()
    shoot(author, "calibration")
    author.goto(f"{course}/trials")
    shoot(author, "trials")
    learned = page_of(browser, "Tomás")
    learned.goto(f"{COURSE}/tests")
    learned.get_by_role("link", name="Tides and clearance, end of unit").click()
    learned.get_by_role("link", name="Results").click()
    learned.get_by_role("heading", name="Save or print").wait_for()
    shoot(learned, "results")


def main() -> int:
    with TemporaryDirectory() as folder, sync_playwright() as playwright:
        environment = os.environ | {
            "DJANGO_SETTINGS_MODULE": "vendaval.config.settings.dev",
            "VENDAVAL_DATABASE": str(Path(folder) / "shots.sqlite3"),
        }
        subprocess.run([sys.executable, "manage.py", "demo"], cwd=ROOT, env=environment, check=True)
        gunicorn = str(Path(sys.executable).parent / "gunicorn")
        command = [gunicorn, "--bind", ADDRESS.removeprefix("http://"), "--log-level", "error"]
        server = subprocess.Popen(command, cwd=ROOT, env=environment, stderr=subprocess.DEVNULL)
        try:
            for _ in range(100):
                try:
                    urllib.request.urlopen(f"{ADDRESS}/api/health").close()
                    break
                except OSError:
                    time.sleep(0.1)
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
            SHOTS.mkdir(parents=True, exist_ok=True)
            views(browser)
            browser.close()
        finally:
            server.terminate()
            server.wait()
    return 0


if __name__ == "__main__":
    sys.exit(main())
