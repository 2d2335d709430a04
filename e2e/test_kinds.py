"""Every kind of part answered in the rehearsal, by mouse and again by keyboard alone.

How a kind is answered is looked up by its name, so a kind without a way here fails the stories.
"""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Locator, expect

from e2e.browser import BrowserTestCase, on_grid, rehearsal_versions
from vendaval_core.items.versions import Version


def way(ways: dict[str, str], key: Any) -> str:
    """The name of the method that answers a kind; what is typed has ways of its own."""
    return ways.get(getattr(key, "value", ""), "") or ways[key.kind]


class KindsTestCase(BrowserTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.open_rehearsal()

    def section(self, key: str) -> Locator:
        return self.page.locator(f"section[id='{key}']")

    def answer_all(self, give: Any) -> None:
        for key, version in rehearsal_versions().items():
            section = self.section(key)
            section.scroll_into_view_if_needed()
            for part, group in zip(version.parts, self.groups(section, version), strict=True):
                give(part, group)
            check = section.get_by_role("button", name=f"Check: {version.title}")
            self.press_check(check)
            expect(section.get_by_text("That’s right. (Nothing counts here.)")).to_be_visible()

    def groups(self, section: Locator, version: Version) -> list[Locator]:
        """The part of the page that answers each part."""
        wrappers = section.locator(":scope > div.flex > div")
        return [wrappers.nth(i) for i in range(len(version.parts))]

    def press_check(self, check: Locator) -> None:
        check.click()


class MouseTests(KindsTestCase):
    def test_every_kind_by_mouse(self) -> None:
        self.assert_accessible("Rehearsal")
        self.answer_all(self.give_by_mouse)
        self.assert_accessible("Rehearsal, answered")
        reset = self.page.get_by_role("button", name="Reset: One of several")
        reset.click()
        expect(self.page.get_by_role("button", name="Check: One of several")).to_be_enabled()

    def test_an_arrow_is_drawn_and_moved_on(self) -> None:
        """Two drags, the first across the grid's own words, which must not be marked by it."""
        section, key = self.section("19-arrow"), rehearsal_versions()["19-arrow"].parts[0]
        grid = section.get_by_role("application")
        grid.scroll_into_view_if_needed()
        place, mouse = on_grid(grid, key), self.page.mouse
        for start, end in (((0, 0), (-1, -1)), ((-1, -1), (2, 2))):
            mouse.move(*place(*start))
            mouse.down()
            mouse.move(*place(*end), steps=6)
            mouse.up()
        expect(section.get_by_text("2.8 M, 045°")).to_be_visible()
        self.assertEqual(self.page.evaluate("getSelection().toString()"), "")

    def drag(self, what: Locator, to: Locator) -> None:
        """By small steps, as a hand does."""
        what.evaluate("node => node.scrollIntoView({ block: 'center' })")
        start, end = what.bounding_box(), to.bounding_box()
        assert start is not None
        assert end is not None
        mouse = self.page.mouse
        mouse.move(start["x"] + start["width"] / 2, start["y"] + start["height"] / 2)
        mouse.down()
        mouse.move(start["x"] + start["width"] / 2 + 12, start["y"] + start["height"] / 2 + 8)
        self.frames()
        mouse.move(end["x"] + end["width"] / 2, end["y"] + end["height"] / 2, steps=6)
        self.frames()
        mouse.up()
        self.frames()

    ways = {
        "choice": "choose",
        "hotspot": "press_place",
        "hot_text": "press_words",
        "slider": "slide",
        "angle": "type_angle",
        "text_entry": "type_text",
        "inline_choice": "select",
        "match": "place_tokens",
        "gap_match": "place_tokens",
        "graphic_gap_match": "place_tokens",
        "associate": "join",
        "table_entry": "type_cells",
        "odd_one_out": "find_odd",
        "by_rules": "give_together",
        "order": "order",
        "select_point": "place_points",
        "position_object": "place_points",
        "graph": "place_points",
        "grid_shading": "shade",
        "upload": "tick",
        "drawing": "sketch",
        "extended_text": "write",
    }

    def give_by_mouse(self, key: Any, group: Locator) -> None:
        getattr(self, way(self.ways, key))(key, group)

    def choose(self, key: Any, group: Locator) -> None:
        for choice in key.right:
            group.locator("label").filter(has_text=choice.text).click()

    def press_place(self, key: Any, group: Locator) -> None:
        group.locator(f"[data-hotspot='{key.right[0].id}']").click()

    def press_words(self, key: Any, group: Locator) -> None:
        group.get_by_role("button", name=key.right[0].text, exact=True).click()

    def slide(self, key: Any, group: Locator) -> None:
        box = group.get_by_role("slider").locator("xpath=../..").bounding_box()
        assert box is not None
        share = (key.number.answer - key.low) / (key.high - key.low)
        along = box["x"] + 14 + share * (box["width"] - 28)
        self.page.mouse.click(along, box["y"] + box["height"] / 2)

    def type_angle(self, key: Any, group: Locator) -> None:
        typed = re.findall(r"[\d.]+", key.examples.right)
        for field, part in zip(group.locator("input").all(), typed, strict=True):
            field.fill(part)

    def type_text(self, key: Any, group: Locator) -> None:
        group.locator("input").fill(key.examples.right)

    def give_together(self, key: Any, group: Locator) -> None:
        choice, number = key.keys
        self.choose(choice, group)
        group.get_by_role("textbox").fill(number.examples.right)

    def select(self, key: Any, group: Locator) -> None:
        for i, slot in enumerate(key.slots):
            group.locator("select").nth(i).select_option(slot.right)

    def place_tokens(self, key: Any, group: Locator) -> None:
        texts = {token.id: token.text for token in key.tokens}
        for number, slot in enumerate(key.slots):
            token = group.get_by_role("button", name=texts[slot.right], exact=True)
            target = group.locator(f"[data-slot='{slot.id}']")
            if number % 2:
                self.drag(token, target)
            else:
                token.click()
                target.click()
            expect(target).to_contain_text(texts[slot.right])

    def join(self, key: Any, group: Locator) -> None:
        for pair in sorted(key.pairs):
            for item in pair:
                group.locator(f"[data-item='{item}']").click()

    def type_cells(self, key: Any, group: Locator) -> None:
        for i, cell in enumerate(key.cells):
            group.locator("input").nth(i).fill(cell.examples.right)

    def find_odd(self, key: Any, group: Locator) -> None:
        for id_, tokens in ((key.odd, key.items), (key.why, key.reasons)):
            text = next(token.text for token in tokens if token.id == id_)
            group.get_by_text(text, exact=True).click()

    def order(self, key: Any, group: Locator) -> None:
        texts = {item.id: item.text for item in key.items}
        for place, item in enumerate(key.right):
            up = (
                group.locator("li")
                .filter(has_text=texts[item])
                .get_by_role("button", name=re.compile("up, now"))
            )
            there = f"Move {texts[item]} up, now {place + 1} of {len(key.right)}"
            while up.get_attribute("aria-label") != there:
                up.click()
        in_place = group.get_by_role("button", name="Leave it in this order")
        if in_place.count():
            in_place.click()

    def place_points(self, key: Any, group: Locator) -> None:
        grid = group.get_by_role("application")
        grid.scroll_into_view_if_needed()
        for target in key.targets:
            self.page.mouse.click(*on_grid(grid, key)(target.x, target.y))

    def shade(self, key: Any, group: Locator) -> None:
        for i in range(key.answer):
            group.locator(f"[data-cell='{i // key.columns} {i % key.columns}']").click()

    def tick(self, key: Any, group: Locator) -> None:
        group.get_by_role("checkbox").check()

    def sketch(self, key: Any, group: Locator) -> None:
        box = group.locator("svg").first.bounding_box()
        assert box is not None
        self.page.mouse.move(box["x"] + 40, box["y"] + 40)
        self.page.mouse.down()
        self.page.mouse.move(box["x"] + 160, box["y"] + 90, steps=4)
        self.page.mouse.up()
        expect(group.get_by_role("img", name="Sketch of 1 strokes")).to_be_visible()

    def write(self, key: Any, group: Locator) -> None:
        group.get_by_role("textbox").fill("So that her side is safe.")
        group.get_by_role("button", name="Special characters").click()
        group.get_by_role("button", name="Insert °").click()
        expect(group.get_by_role("textbox")).to_have_text("So that her side is safe.°")
        group.get_by_role("button", name="Undo").click()
        expect(group.get_by_role("textbox")).to_have_text("So that her side is safe.")


class KeyboardTests(KindsTestCase):
    """Tab, arrows, Space and Enter alone."""

    lasts = 35

    def test_every_kind_by_keyboard(self) -> None:
        self.answer_all(self.give_by_keys)

    def press(self, *keys: str) -> None:
        for key in keys:
            self.page.keyboard.press(key)

    def reach(self, target: Locator) -> None:
        """Tab until the focus is there, from the start of its part."""
        handle = target.element_handle()
        group = target.locator("xpath=ancestor-or-self::section[1]")
        group.evaluate("node => { node.tabIndex = -1; node.focus() }")
        for _ in range(90):
            if handle.evaluate("node => node === document.activeElement"):
                return
            self.press("Tab")
        self.fail(f"the keyboard does not reach {handle}")

    def press_check(self, check: Locator) -> None:
        self.reach(check)
        self.press("Enter")

    ways = {
        "choice": "choose",
        "hotspot": "press_words",
        "hot_text": "press_words",
        "slider": "slide",
        "angle": "type_angle",
        "text_entry": "type_text",
        "inline_choice": "select",
        "match": "place_tokens",
        "gap_match": "place_tokens",
        "graphic_gap_match": "place_tokens",
        "associate": "join",
        "table_entry": "type_cells",
        "odd_one_out": "find_odd",
        "by_rules": "give_together",
        "order": "order",
        "select_point": "place_points",
        "position_object": "place_points",
        "graph": "place_points",
        "grid_shading": "shade",
        "upload": "tick",
        "drawing": "write",
        "extended_text": "write",
    }

    def give_by_keys(self, key: Any, group: Locator) -> None:
        getattr(self, way(self.ways, key))(key, group)

    def choose(self, key: Any, group: Locator) -> None:
        if key.choose == 1:
            self.reach(group.locator("input").first)
            place = [choice.id for choice in key.choices].index(key.right[0].id)
            self.press("Space", *["ArrowDown"] * place)
            return
        for choice in key.right:
            self.reach(group.locator(f"input[value='{choice.id}']"))
            self.press("Space")

    def press_words(self, key: Any, group: Locator) -> None:
        self.reach(group.get_by_role("button", name=key.right[0].text).last)
        self.press("Enter")

    def slide(self, key: Any, group: Locator) -> None:
        self.reach(group.get_by_role("slider"))
        steps = round((key.number.answer - key.low) / key.step)
        self.press("Home", *["ArrowRight"] * steps)

    def type_angle(self, key: Any, group: Locator) -> None:
        typed = re.findall(r"[\d.]+", key.examples.right)
        for field, part in zip(group.locator("input").all(), typed, strict=True):
            self.reach(field)
            self.page.keyboard.type(part)

    def type_text(self, key: Any, group: Locator) -> None:
        self.reach(group.locator("input"))
        self.page.keyboard.type(key.examples.right)

    def give_together(self, key: Any, group: Locator) -> None:
        choice, number = key.keys
        self.choose(choice, group)
        self.reach(group.get_by_role("textbox"))
        self.page.keyboard.type(number.examples.right)

    def select(self, key: Any, group: Locator) -> None:
        names = {token.id: token.text for token in key.tokens}
        for i, slot in enumerate(key.slots):
            self.reach(group.locator("select").nth(i))
            self.page.keyboard.type(names[slot.right][:3])

    def place_tokens(self, key: Any, group: Locator) -> None:
        texts = {token.id: token.text for token in key.tokens}
        for slot in key.slots:
            self.reach(group.get_by_role("button", name=texts[slot.right], exact=True))
            self.press("Enter")
            self.reach(group.locator(f"[data-slot='{slot.id}']"))
            self.press("Enter")

    def join(self, key: Any, group: Locator) -> None:
        for pair in sorted(key.pairs):
            for item in pair:
                self.reach(group.locator(f"[data-item='{item}']"))
                self.press("Enter")

    def type_cells(self, key: Any, group: Locator) -> None:
        for i, cell in enumerate(key.cells):
            self.reach(group.locator("input").nth(i))
            self.page.keyboard.type(cell.examples.right)

    def find_odd(self, key: Any, group: Locator) -> None:
        for number, (id_, tokens) in enumerate(((key.odd, key.items), (key.why, key.reasons))):
            choices = group.get_by_role("radiogroup").nth(number)
            self.reach(choices.locator("input").first)
            self.press("Space", *["ArrowDown"] * [token.id for token in tokens].index(id_))

    def order(self, key: Any, group: Locator) -> None:
        texts = {item.id: item.text for item in key.items}
        for place, item in enumerate(key.right):
            up = group.get_by_role("button", name=re.compile(f"Move {re.escape(texts[item])} up"))
            for _ in range(len(key.right)):
                if f"now {place + 1} of" in (up.get_attribute("aria-label") or ""):
                    break
                self.reach(up)
                self.press("Enter")
        in_place = group.get_by_role("button", name="Leave it in this order")
        if in_place.count():
            self.reach(in_place)
            self.press("Enter")

    def place_points(self, key: Any, group: Locator) -> None:
        for number, target in enumerate(key.targets):
            self.reach(group.get_by_role("button", name=re.compile("^Add ")))
            self.press("Enter")
            self.reach(group.get_by_role("application").get_by_role("slider").nth(number))
            start = (max(key.start[0], key.x.low), max(key.start[1], key.y.low))
            across = round((target.x - start[0]) / key.x.step)
            up = round((target.y - start[1]) / key.y.step)
            self.press(*["ArrowRight" if across > 0 else "ArrowLeft"] * abs(across))
            self.press(*["ArrowUp" if up > 0 else "ArrowDown"] * abs(up))

    def shade(self, key: Any, group: Locator) -> None:
        self.reach(group.locator("[data-cell='0 0']"))
        for i in range(key.answer):
            self.press("Space")
            at_end = i % key.columns == key.columns - 1
            down = ["ArrowDown", *["ArrowLeft"] * key.columns]
            self.press(*(down if at_end else ["ArrowRight"]))

    def tick(self, key: Any, group: Locator) -> None:
        self.reach(group.get_by_role("checkbox"))
        self.press("Space")

    def write(self, key: Any, group: Locator) -> None:
        self.reach(group.get_by_role("textbox"))
        self.page.keyboard.type("In my own words.")
