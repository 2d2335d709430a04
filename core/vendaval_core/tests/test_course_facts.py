"""Facts of the demo course against published tables and standards.

Each table is written down here a second time, from memory where that is said, and every version
of the family is held against it.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any
from unittest import TestCase

import numpy as np

from vendaval_core.items.versions import Version, make_version

from .courses import inshore


class CourseFacts(TestCase):
    families = {item.family.key: item.family for item in inshore().families}

    def versions(self, family: str) -> Iterator[Version]:
        for seed in range(1, self.families[family].versions + 1):
            yield make_version(self.families[family], seed)

    def only(self, version: Version) -> Any:
        (key,) = version.parts
        return key

    def answer(self, version: Version) -> float:
        key = self.only(version)
        return getattr(key, "number", key).answer

    def right(self, version: Version) -> str:
        key = self.only(version)
        return key.right_words()


class WeatherTests(CourseFacts):
    #: World Meteorological Organization, Manual on Codes (WMO-No. 306), table 1100, knots; from
    #: memory.
    BEAUFORT = {
        1: (1, 3, "light air"),
        2: (4, 6, "light breeze"),
        3: (7, 10, "gentle breeze"),
        4: (11, 16, "moderate breeze"),
        5: (17, 21, "fresh breeze"),
        6: (22, 27, "strong breeze"),
        7: (28, 33, "near gale"),
        8: (34, 40, "gale"),
        9: (41, 47, "strong gale"),
        10: (48, 55, "storm"),
    }

    def test_beaufort_limits(self) -> None:
        for version in self.versions("force-of-knots"):
            values = version.variables
            low, high, _ = self.BEAUFORT[int(values["b"])]
            self.assertEqual((values["low"], values["high"]), (low, high))

    def test_beaufort_names(self) -> None:
        key = self.only(make_version(self.families["names"], 1))
        texts = {token.id: token.text for token in key.tokens}
        for slot in key.slots:
            force = int(slot.text.removeprefix("force "))
            self.assertEqual(texts[slot.right], self.BEAUFORT[force][2])
        order = self.only(make_version(self.families["weak-to-strong"], 1)).right_words()
        named = [part.split(": ")[1] for part in order.split("; ")]
        forces = {name: force for force, (_, _, name) in self.BEAUFORT.items()}
        self.assertEqual(named, sorted(named, key=forces.__getitem__))

    def test_lowest_wind_of_a_name(self) -> None:
        lowest = {name: low for low, _, name in self.BEAUFORT.values()}
        for version in self.versions("gale-begins"):
            named = version.prompt.split("**")[1]
            self.assertEqual(self.answer(version), lowest[named])

    def test_beaufort_speeds_follow_the_power_law(self) -> None:
        """v = 0.836 B^1.5 m/s (WMO, the equivalent scale of 1946; from memory): the middle of each
        force in knots lies within the limits, a knot's rounding aside."""
        for force, (low, high, name) in self.BEAUFORT.items():
            knots = 0.836 * force**1.5 * 3600 / 1852
            self.assertTrue(low - 0.5 <= knots <= high + 0.5, name)

    def test_knots_and_metres_a_second(self) -> None:
        """A knot is 1852 m an hour: SI Brochure, BIPM, 8th edition, table 8."""
        for version in self.versions("metres-a-second"):
            back = self.answer(version) * 1852 / 3600
            self.assertAlmostEqual(back, float(version.variables["ms"]), places=9)

    def test_terms_of_visibility_and_tendency(self) -> None:
        """Terms of forecasts for British waters (from memory): visibility by 1000 m, 2 and 5
        miles; tendency in three hours by 1.5, 3.5 and 6.0 hPa."""
        for version in self.versions("visibility"):
            miles = float(version.variables["v"])
            word = "good" if miles > 5 else "moderate" if miles >= 2 else "poor"
            self.assertEqual(self.right(version), "very poor" if miles * 1852 < 1000 else word)
        for version in self.versions("tendency-words"):
            p = float(version.variables["p"])
            words = ("slowly",) if p <= 1.5 else () if p <= 3.5 else ("quickly",)
            words = ("very", "rapidly") if p > 6 else words
            self.assertEqual(tuple(self.right(version).split()[1:]), words)

    def test_speed_of_sound(self) -> None:
        """340.3 m/s at 15 °C: ISO 2533, standard atmosphere."""
        for version in self.versions("sound-distance"):
            exact = 340.3 * float(version.variables["s"])
            self.assertAlmostEqual(self.answer(version), exact, delta=3)


class RulesTests(CourseFacts):
    """Convention on the International Regulations for Preventing Collisions at Sea, 1972."""

    def test_arcs_of_rule_21(self) -> None:
        key = self.only(make_version(self.families["arcs"], 1))
        texts = {token.id: float(token.text.rstrip("°")) for token in key.tokens}
        arcs = {slot.text: texts[slot.right] for slot in key.slots}
        self.assertEqual(
            arcs,
            {
                "masthead light": 225,
                "one sidelight": 112.5,
                "stern light": 135,
                "all-round light": 360,
            },
        )

    def test_ranges_of_rule_22(self) -> None:
        def least(length: float) -> list[float]:
            if length >= 50:
                return [6, 3, 3]
            if length >= 12:
                return [5 if length >= 20 else 3, 2, 2]
            return [2, 1, 2]

        for version in self.versions("ranges"):
            key = self.only(version)
            found = [cell.answer for cell in key.cells if cell.value == "number"]
            self.assertEqual(found, least(float(version.variables["length"])))

    def test_overtaking_begins_22_5_degrees_abaft_the_beam(self) -> None:
        for version in self.versions("overtaking"):
            overtaking = float(version.variables["angle"]) > 90 + 22.5
            self.assertEqual(self.right(version).startswith("Yes"), overtaking)

    def test_crossing_of_rule_15_and_sails_of_rule_12(self) -> None:
        for version in self.versions("crossing"):
            she_is_to_starboard = "**starboard** side" in version.prompt
            self.assertEqual(self.right(version).startswith("Give way"), she_is_to_starboard)
        for version in self.versions("two-sails"):
            you, other = version.prompt.split("meet")
            if ("port tack" in you) == ("port tack" in other):
                gives_way = "windward" in you
            else:
                gives_way = "port tack" in you
            self.assertEqual(self.right(version) == "You do", gives_way, version.prompt)

    def test_blasts_of_rule_32_and_intervals_of_rule_35(self) -> None:
        for version in self.versions("blast-length"):
            short = "**short**" in version.prompt
            self.assertEqual(
                self.right(version), "About one second" if short else "Four to six seconds"
            )
        for version in self.versions("interval"):
            self.assertEqual(self.answer(version), 1 if "at anchor" in version.prompt else 2)
        for version in self.versions("anchor"):
            gong = float(version.variables["length"]) >= 100
            self.assertEqual("gong" in self.right(version), gong)
            self.assertIn("bell", self.right(version))

    def test_lights_of_rules_26_to_29(self) -> None:
        shown = {
            "red, red": "Not under command",
            "red, white, red": "Restricted in her ability to manoeuvre",
            "green over white": "Trawling",
            "red over white": "Fishing, not trawling",
            "white over red": "A pilot vessel on duty",
            "red, red, red": "Constrained by her draught",
        }
        seen = set()
        for version in self.versions("which-vessel"):
            lights = version.prompt.split("**")[1]
            self.assertEqual(self.right(version), shown[lights])
            assert version.figure is not None
            drawn = version.figure.alt.split(": ")[1].rstrip(".").replace(", ", " ")
            self.assertEqual(drawn.split(), [w.strip(",") for w in lights.split() if w != "over"])
            seen.add(lights)
        self.assertEqual(seen, set(shown))


class MarksAndRadioTests(CourseFacts):
    def test_cardinal_marks(self) -> None:
        """IALA Maritime Buoyage System: colours from the top and groups of quick flashes by the
        clock, three at east, six at south, nine at west."""
        bands = {
            "black, yellow": "north",
            "black, yellow, black": "east",
            "yellow, black": "south",
            "yellow, black, yellow": "west",
        }
        for version in self.versions("bands"):
            self.assertEqual(self.right(version), bands[version.prompt.split("**")[1]])
        clock = {"east": 3, "south": 6, "west": 9}
        for version in self.versions("flashes"):
            self.assertEqual(self.answer(version), clock[version.prompt.split("**")[1].split()[1]])

    def test_lateral_marks_of_region_a(self) -> None:
        """IALA region A: coming in from sea, red to port and green to starboard."""
        for version in self.versions("coming-in"):
            coming_in, red = "coming in" in version.prompt, "**red**" in version.prompt
            side = "to port" if coming_in == red else "to starboard"
            self.assertEqual(self.right(version), side)

    def test_spelling_alphabet(self) -> None:
        """International Code of Signals and ICAO Annex 10, volume II, 5.2.1.3 (from memory)."""
        words = (
            "Alfa Bravo Charlie Delta Echo Foxtrot Golf Hotel India Juliett Kilo Lima Mike "
            "November Oscar Papa Quebec Romeo Sierra Tango Uniform Victor Whiskey Xray Yankee Zulu"
        )
        alphabet = {word[0]: word for word in words.split()}
        for version in self.versions("spelling"):
            self.assertEqual(self.right(version), alphabet[version.prompt.split("**")[1]])

    def test_an_identity_has_nine_digits(self) -> None:
        """Recommendation ITU-R M.585."""
        for version in self.versions("mmsi"):
            digits = len(version.prompt.split("**")[1])
            self.assertEqual(self.right(version) == "Yes", digits == 9)

    def test_radio_horizon(self) -> None:
        """√(2 k R h) with k = 4/3 and R = 6371 km: Recommendation ITU-R P.310, effective radius."""
        for version in self.versions("range"):
            heights = (float(version.variables["a"]), float(version.variables["b"]))
            metres = sum(math.sqrt(2 * 4 / 3 * 6_371_000 * h) for h in heights)
            self.assertAlmostEqual(self.answer(version), metres / 1852, delta=0.5)


class EarthAndTideTests(CourseFacts):
    def test_distance_of_the_horizon(self) -> None:
        """Bowditch, American Practical Navigator, table 12 (from memory): 1.17 √h miles for h in
        feet; 52.5 ft (16 m) give 8.5 miles. A light dips at the sum of two horizons, table 13."""
        for version in self.versions("horizon"):
            feet = float(version.variables["h"]) / 0.3048
            self.assertAlmostEqual(self.answer(version), 1.17 * math.sqrt(feet), delta=0.05)
        for version in self.versions("dipping-light"):
            feet = [float(version.variables[name]) / 0.3048 for name in ("big", "eye")]
            both = sum(1.17 * math.sqrt(one) for one in feet)
            self.assertAlmostEqual(self.answer(version), both, delta=0.12)

    def test_a_cable_is_a_tenth_of_a_mile(self) -> None:
        """1852 m: International Hydrographic Conference, Monaco 1929."""
        for version in self.versions("cables-to-metres"):
            cables = float(version.variables["cables"])
            self.assertAlmostEqual(self.answer(version) / cables, 185.2, delta=0.5)

    def test_departure_on_the_sphere(self) -> None:
        """A parallel walked in a hundred small steps, each by the haversine formula (spherical
        trigonometry)."""

        def haversine(lat: float, minutes: float) -> float:
            half = math.radians(minutes / 60) / 2
            arc = 2 * math.asin(math.cos(math.radians(lat)) * math.sin(half))
            return math.degrees(arc) * 60

        for version in self.versions("longitude-to-miles"):
            lat, minutes = (float(version.variables[n]) for n in ("lat", "minutes"))
            along = 100 * haversine(lat, minutes / 100)
            self.assertAlmostEqual(self.answer(version), along, delta=0.001)

    def test_twelfths(self) -> None:
        """1, 2, 3, 3, 2, 1 by the hour: common practice, no published source."""
        so_far = np.cumsum([0, 1, 2, 3, 3, 2, 1])
        for version in self.versions("twelfths-rise"):
            values = {name: float(version.variables[name]) for name in ("height", "low", "range_")}
            share = (values["height"] - values["low"]) / values["range_"]
            self.assertAlmostEqual(12 * share, so_far[int(version.variables["hours"])])
        for version in self.versions("shaded-twelfths"):
            self.assertEqual(self.only(version).answer, so_far[int(version.variables["hours"])])  # type: ignore[union-attr]
        table = self.only(make_version(self.families["table-of-twelfths"], 1))
        heights = [cell.answer for cell in table.cells if cell.value == "number"]
        first = make_version(self.families["table-of-twelfths"], 1).variables
        low, twelfth = float(first["low"]), float(first["twelfth"])
        np.testing.assert_allclose(heights, [low + twelfth * n for n in so_far[[1, 2, 3]]])

    def test_triangles_close(self) -> None:
        """Vectors added as complex numbers: the plotted ends, the speed made good and the course
        to steer come out the same."""

        def vector(length: float, direction: float) -> complex:
            return length * complex(
                math.sin(math.radians(direction)), math.cos(math.radians(direction))
            )

        for version in self.versions("estimated"):
            v = {n: float(version.variables[n]) for n in ("course", "speed", "set", "rate")}
            end = vector(v["speed"], v["course"]) + vector(v["rate"], v["set"])
            target = self.only(version).targets[-1]  # type: ignore[union-attr]
            self.assertLess(abs(complex(target.x, target.y) - end), 1e-9)
        for version in self.versions("across"):
            v = {n: float(version.variables[n]) for n in ("track", "side", "speed", "rate")}
            made = vector(v["speed"], self.answer(version)) + vector(
                v["rate"], v["track"] + 90 * v["side"]
            )
            along = made / vector(1, v["track"])
            self.assertAlmostEqual(along.imag, 0, places=9)
            self.assertGreater(along.real, 0)
        for version in self.versions("wind-plot"):
            v = {n: float(version.variables[n]) for n in ("from_", "wind", "own")}
            felt = vector(v["wind"], v["from_"] + 180) + vector(v["own"], 180)
            target = self.only(version).targets[-1]  # type: ignore[union-attr]
            self.assertLess(abs(complex(target.x, target.y) - felt), 1e-9)
