"""Figures of a version: still ones, and ones that a slider moves frame by frame."""

import re
from unittest import TestCase

from vendaval_core.errors import ExpressionError
from vendaval_core.items.drawn import Figure, Picture, Slider
from vendaval_core.items.pictures import make_picture
from vendaval_core.items.versions import make_version
from vendaval_core.packs.checks import picture_faults

from .courses import inshore

SVG = '<svg viewBox="0 0 9 9"><path d="M[[x]] [[fixed(-x, 1)]]"/><text>[[-x]]</text></svg>'


def slider(low: float = 0, high: float = 2, step: float = 1, start: float = 1) -> Slider:
    return Slider("t", "[[upper_first(what)]] in hours", low, high, step, start)


class PictureTests(TestCase):
    def test_numbers_of_a_drawing_are_ones_that_svg_reads(self) -> None:
        """A true minus sign is for readers: in a path only the hyphen is a sign (SVG 2, 9.3.9)."""
        picture = make_picture(Figure(SVG, "x is [[x]]"), {"x": 4})
        self.assertIn('d="M4 -4.0"', picture.svg)
        self.assertIn("<text>\u22124</text>", picture.svg)
        self.assertEqual((picture.alt, picture.frames), ("x is 4", ()))

    def test_a_frame_for_each_step_with_values_worked_out_in_turn(self) -> None:
        figure = Figure(SVG, "a", slider(), (("x", "2 * t"), ("y", "x + 1")), "[[t]] h: [[y]]")
        picture = make_picture(figure, {"what": "time"})
        self.assertEqual([frame.says for frame in picture.frames], ["0 h: 1", "1 h: 3", "2 h: 5"])
        self.assertEqual((picture.label, picture.start), ("Time in hours", 1))
        self.assertEqual(picture.svg, picture.frames[1].svg)

    def test_steps_do_not_drift(self) -> None:
        tenths = Figure(SVG, "a", slider(0, 6, 0.1, 0.3), (("x", "t"),), "[[t]]")
        picture = make_picture(tenths, {"what": "time"})
        self.assertEqual(len(picture.frames), 61)
        self.assertEqual(picture.frames[3].says, "0.3")
        self.assertEqual(picture.start, 3)

    def test_sliders_that_cannot_be(self) -> None:
        for bad, what in (
            (slider(high=0), "rise"),
            (slider(step=-1), "rise"),
            (slider(step=0.001), "at most 61"),
            (slider(start=3), "start between"),
        ):
            with self.assertRaisesRegex(ExpressionError, what):
                make_picture(Figure(SVG, "a", bad, (("x", "t"),), "[[t]]"), {"what": "time"})

    def test_faults_of_a_drawing(self) -> None:
        good = '<svg viewBox="0 0 9 9">{}</svg>'
        for svg, what in (
            (good.format("<script/>"), "<script> is not allowed"),
            (good.format('<rect onclick="x()"/>'), "onclick is not allowed"),
            (good.format('<path xlink:href="x"/>'), "isn’t well-formed"),
            (good.format('<path href="data:image/png;base64,aaaa"/>'), "href points outside"),
            (good.format('<image href="http://x/a.png"/>'), "href points outside"),
            (good.format('<image href="data:image/svg+xml;base64,aaaa"/>'), "href points outside"),
            (good.format('<path style="fill:url(//x)"/>'), "style is not allowed"),
            (good.format('<path fill="url(http://x)"/>'), "fill points outside the figure"),
            (good.format('<p xmlns="http://www.w3.org/1999/xhtml"/>'), "p> is not allowed"),
            ('<!DOCTYPE svg [<!ENTITY a "b">]>' + good.format("&a;"), "isn’t well-formed"),
            ("<svg/>", "has no viewBox"),
            ("<svg", "isn’t well-formed"),
        ):
            self.assertIn(what, "; ".join(picture_faults(Picture(svg, "alt"))), svg)
        self.assertEqual(
            list(picture_faults(Picture(good.format(""), " "))), ["has no text alternative"]
        )
        self.assertEqual(list(picture_faults(None)), [])


class WrittenAnewTests(TestCase):
    """What a browser reads is what was checked: HTML ends a processing instruction at its first
    “>” (HTML standard, 13.2.5.41, bogus comment state), XML at “?>” (XML 1.0, 2.6)."""

    def test_nothing_of_the_text_reaches_the_page_as_it_was(self) -> None:
        out = "<meta http-equiv='refresh' content='0;url=//elsewhere'>"
        for carried in (
            f"<?x >{out}?>",
            f"<!-- --!>{out}-->".replace("--!>", "- ->"),
            f"<title><![CDATA[{out}]]></title>",
            f"<text>{out.replace('<', '&lt;')}</text>",
        ):
            svg = f'<svg viewBox="0 0 9 9">{carried}<path d="M0 0"/></svg>'
            made = make_picture(Figure(svg, "a"), {}).svg
            self.assertIn('<path d="M0 0"', made)
            self.assertNotIn("<meta", made)
            self.assertNotIn("<?", made)
            self.assertNotIn("<!", made)


class CoursePictureTests(TestCase):
    """Every drawing of the course, in every version."""

    pack = inshore()

    def pictures(self) -> list[Picture]:
        found = [
            section.figure
            for sections in self.pack.study.values()
            for section in sections
            if section.figure is not None
        ]
        for item in self.pack.families:
            family = item.family
            if family.figure or family.solution_figure:
                for seed in range(1, family.versions + 1, 7):
                    version = make_version(family, seed)
                    found += [p for p in (version.figure, version.solution_figure) if p]
        return found

    def test_they_are_many_and_can_be_read_on_dark_and_light(self) -> None:
        pictures = self.pictures()
        moving = [picture for picture in pictures if picture.frames]
        self.assertGreaterEqual(len(moving), 10)
        still = sum(item.family.solution_figure is not None for item in self.pack.families)
        self.assertGreaterEqual(still, 20)
        for picture in pictures:
            for svg in [frame.svg for frame in picture.frames] or [picture.svg]:
                self.assertIn("currentColor", svg, picture.alt)
                fixed = set(re.findall(r'(?:fill|stroke)="(#\w+)"', svg))
                lit = {"#10202B", "#35505F", "#36C98F", "#FF6A4D", "#FFFFFF"}
                on_a_ground_of_their_own = "#10202B" in fixed and fixed <= lit
                painted = "#14212b" in fixed and "#e8b21e" in fixed
                self.assertTrue(
                    not fixed or on_a_ground_of_their_own or painted, (fixed, picture.alt)
                )

    def test_no_number_of_a_drawing_is_broken(self) -> None:
        """Attributes of geometry hold numbers and path letters alone."""
        for picture in self.pictures():
            for svg in [frame.svg for frame in picture.frames] or [picture.svg]:
                for name, value in re.findall(
                    r'\b(d|cx|cy|r|x|y|x1|y1|x2|y2|width|height)="([^"]*)"', svg
                ):
                    self.assertRegex(
                        value, r"^[-MmLlHhVvCcSsQqTtAaZz0-9., eE]+$", (name, picture.alt)
                    )
