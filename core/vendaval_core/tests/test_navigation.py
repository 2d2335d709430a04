"""Forward only: by questions, by pages, in one section of a test, and by sections with limits."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from dataclasses import replace

from vendaval_core.assessment.attempt import Attempt, Refusal, as_of, refusal
from vendaval_core.assessment.composition import Place
from vendaval_core.assessment.navigation import Onward, moved_on, onward, position_at_start
from vendaval_core.assessment.rules import Navigation, Rules

from .test_attempts import PLACES, at, begun


def refusals(attempt: Attempt, places: Sequence[Place], second: float) -> list[Refusal | None]:
    return [refusal(attempt, place, 1, at(second)) for place in places]


class NavigationTests(unittest.TestCase):
    def test_forward_only(self) -> None:
        attempt = moved_on(begun(Rules(navigation=Navigation.LINEAR)), at(5))
        self.assertEqual(refusals(attempt, PLACES[:3], 6), [Refusal.BEHIND, None, Refusal.NOT_YET])

    def test_forward_only_goes_by_pages(self) -> None:
        """Questions 2 to 4 stand on one page."""
        places = tuple(replace(one, page=2) if 2 <= one.number <= 4 else one for one in PLACES)
        attempt = replace(begun(Rules(navigation=Navigation.LINEAR)), places=places)
        attempt = moved_on(attempt, at(5))
        self.assertEqual(
            refusals(attempt, places, 6),
            [Refusal.BEHIND, None, None, None, Refusal.NOT_YET, Refusal.NOT_YET],
        )
        attempt = moved_on(attempt, at(7))
        self.assertEqual(attempt.reached, 5, "one step leaves the whole page")
        self.assertEqual(refusals(attempt, places, 8)[1:5], [Refusal.BEHIND] * 3 + [None])
        last = moved_on(moved_on(attempt, at(9)), at(10))
        self.assertEqual((last.reached, onward(last, at(11))), (6, None))

    def test_one_section_forward_only(self) -> None:
        """The middle one of three: around it everything stays in any order."""
        places = tuple(replace(one, forward_only=one.section == 1) for one in PLACES)
        attempt = begun(Rules())
        at_start = position_at_start(attempt.rules, places)
        attempt = replace(attempt, places=places, position=at_start)
        not_yet = [None, None, None, Refusal.NOT_YET, None, None]
        self.assertEqual(refusals(attempt, places, 1), not_yet)
        self.assertEqual(onward(attempt, at(1)), Onward.PAGE)
        attempt = moved_on(attempt, at(2))
        behind = [None, None, Refusal.BEHIND, None, None, None]
        self.assertEqual(refusals(attempt, places, 3), behind)
        self.assertEqual(onward(attempt, at(3)), None)

    def test_a_section_that_ended_by_itself_takes_forward_only_along(self) -> None:
        attempt = begun(Rules(navigation=Navigation.LINEAR), 300, 300, 300)
        later = as_of(attempt, at(310))
        self.assertEqual((later.stretch, later.reached), (1, 3))
        still = [None, Refusal.BEHIND, None, Refusal.NOT_YET]
        self.assertEqual(refusals(later, PLACES[:4], 310), still, "what was on its way counts")
        self.assertEqual(refusals(later, PLACES[:4], 316)[0], Refusal.BEHIND)
        steps = [moved_on(later, at(320))]
        steps.append(moved_on(steps[0], at(330)))
        self.assertEqual([one.reached for one in steps], [4, 5])
        self.assertEqual(steps[1].stretches[-1], at(330), "the next section began then")
