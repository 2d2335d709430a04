"""What a teacher of the subject found wrong in the course, held against its source."""

from __future__ import annotations

import math
import re

import numpy as np

from vendaval_core.items.versions import make_version

from .courses import inshore
from .test_course_facts import CourseFacts


class MendedFacts(CourseFacts):
    def test_who_rings_the_bell(self) -> None:
        """Collision regulations 1972, Rule 35(g) and (i), from memory: the bell at anchor, a gong
        aft from 100 m; a vessel of less than 20 m is not obliged to."""
        for version in self.versions("anchor"):
            length = version.variables["length"]
            assert isinstance(length, int)
            self.assertGreaterEqual(length, 20)
            self.assertEqual("gong" in self.right(version), length >= 100)

    def test_overtaking_by_the_angle_from_ahead(self) -> None:
        """Rule 13(b): more than 22.5° abaft the beam, which is 112.5° from right ahead."""
        for version in self.versions("overtaking"):
            angle = version.variables["angle"]
            assert isinstance(angle, int)
            self.assertEqual("overtaking" in version.prompt and "bow" in version.prompt, False)
            self.assertEqual(self.right(version).startswith("Yes"), angle > 90 + 22.5)

    def test_a_distress_call_has_just_two_slips(self) -> None:
        """ITU Radio Regulations, article 32, from memory: MAYDAY three times, this is and the name
        three times, position, nature, help wanted, number of persons, over."""
        sound = {
            0: "“Mayday, mayday, mayday.”",
            2: "“Two miles due south of Cabo Brando.”",
            3: "“Sinking.”",
            4: "“We require immediate assistance.”",
            6: "“Over.”",
        }
        seen = set()
        for version in self.versions("mayday-slips"):
            key = self.only(version)
            wrong = {place for place, choice in enumerate(key.choices) if choice.right}
            self.assertEqual(len(wrong), 2)
            seen.add(frozenset(wrong))
            for place, text in sound.items():
                self.assertEqual(key.choices[place].text == text, place not in wrong)
        self.assertGreater(len(seen), 10)

    def test_which_error_gives_its_name(self) -> None:
        """Common practice, no published source: the names agree, or the larger gives its own."""
        for version in self.versions("error-sum"):
            key = self.only(version)
            agree = float(version.variables["v"]) * float(version.variables["d"]) > 0
            says = next(c.says for c in key.choices if c.says and c.says.startswith("The size"))
            self.assertEqual("The larger of the two" in (says or ""), not agree)

    def test_horizons_and_radio_horizons(self) -> None:
        """Bowditch, American Practical Navigator, table 12: 1.169 nautical miles a root foot, and
        ITU-R P.310, effective earth radius 4/3: 4.12 km a root metre; both from memory."""
        optical, radio = 1.169 / math.sqrt(0.3048), 4.12 / 1.852
        for family, names, each, within in (
            ("dipping-light", ("big", "eye"), optical, 0.005),
            ("range", ("a", "b"), radio, 0.015),
        ):
            for version in self.versions(family):
                roots = sum(math.sqrt(float(version.variables[name])) for name in names)
                self.assertAlmostEqual(self.answer(version) / (each * roots), 1, delta=within)

    def test_two_bearings_are_drawn(self) -> None:
        """The marks stand on the sheet where the prompt says they are."""
        for version in self.versions("two-bearings"):
            key = self.only(version)
            assert key.figure is not None
            cx = [float(found) for found in re.findall(r'cx="([\d.]+)"', key.figure.svg)]
            across = [(x - 34) / 412 * 9 for x in cx]
            self.assertAlmostEqual(across[0], float(version.variables["ax"]), places=1)
            self.assertAlmostEqual(across[1], float(version.variables["bx"]), places=1)

    def test_what_a_plan_rests_on(self) -> None:
        """IMO resolution A.893(21), annex, 2.1, from memory: appraisal takes in charts, sailing
        directions, tides and currents, and climatological and weather data alike."""
        key = self.only(make_version(self.families["worth-carrying"], 1))
        points = {choice.text: choice.points for choice in key.choices}
        first = [text for text, worth in points.items() if worth == 2]
        self.assertEqual(
            {word for word in ("chart", "tide", "forecast") for text in first if word in text},
            {"chart", "tide", "forecast"},
        )
        self.assertEqual(key.bounds, (0, sum(worth for worth in points.values() if worth > 0)))

    def test_an_urgency_may_be_anothers(self) -> None:
        """ITU Radio Regulations, 33.8, from memory: the urgency signal concerns the safety of a
        ship or person, not the sender's alone."""
        text = str(self.families["relay"])
        self.assertIn("your own or another’s", text)
        self.assertNotIn("urgency of your own", text)

    def test_fog_comes_with_wind_too(self) -> None:
        """Advection fog needs no calm: World Meteorological Organization, International
        Meteorological Vocabulary, from memory; the course's own fog page says so."""
        self.assertNotIn("wants it quiet", str(self.families["isobars"]))
        fog = next(s for s in inshore().study["fog-and-sea-breeze"] if s.id == "fog")
        self.assertIn("it needs no calm", fog.markdown)

    def test_the_line_of_sight_touches_the_sea(self) -> None:
        """Two aerials that just see each other: the line between their tops is a tangent."""
        section = next(s for s in inshore().study["distress-and-radio"] if s.id == "range")
        assert section.figure is not None
        x1, y1, x2, y2 = (
            float(n)
            for n in re.findall(
                r'<line x1="([\d.]+)" y1="([\d.]+)" x2="([\d.]+)" y2="([\d.]+)"[^>]*dasharray',
                section.figure.svg,
            )[0]
        )
        t = np.linspace(0, 1, 2001)
        sea_x = 20 * (1 - t) ** 2 + 640 * t * (1 - t) + 620 * t**2
        sea_y = 190 * (1 - t) ** 2 + 2 * 30 * t * (1 - t) + 190 * t**2
        line = np.interp(sea_x, [x1, x2], [y1, y2])
        between = (sea_x >= x1) & (sea_x <= x2)
        self.assertAlmostEqual(float((sea_y - line)[between].min()), 0, delta=1.0)

    def test_one_term_for_the_way_through_the_water(self) -> None:
        """Water track and ground track: common practice, no published source."""
        pack = inshore()
        words = [str(item.family) for item in pack.families]
        words += [s.markdown for sections in pack.study.values() for s in sections]
        self.assertFalse([text for text in words if "wake" in text.lower().split()])
