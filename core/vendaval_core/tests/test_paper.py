"""When pages of paper are taken."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from unittest import TestCase

from vendaval_core.assessment.paper import (
    PagesState,
    PagesWanted,
    Paper,
    link_until,
    pages_state,
)

HANDED_IN = datetime(2030, 5, 6, 10, 0, tzinfo=UTC)
LAST = timedelta(microseconds=1)


class PaperTests(TestCase):
    """Common practice, no published source."""

    def state(self, paper: Paper, minutes: float) -> PagesState:
        return pages_state(paper, HANDED_IN, HANDED_IN + timedelta(minutes=minutes))

    def test_pages_are_taken_to_the_moment_and_no_longer(self) -> None:
        paper = Paper(PagesWanted.MAY, 20)
        self.assertIs(pages_state(paper, None, HANDED_IN), PagesState.BEFORE)
        self.assertIs(self.state(paper, 0), PagesState.OPEN)
        end = HANDED_IN + timedelta(minutes=20)
        self.assertIs(pages_state(paper, HANDED_IN, end - LAST), PagesState.OPEN)
        self.assertIs(pages_state(paper, HANDED_IN, end), PagesState.OVER)

    def test_what_the_learner_or_a_tutor_ended_stays_ended(self) -> None:
        at = HANDED_IN + timedelta(minutes=3)
        for paper, state in (
            (Paper(PagesWanted.MUST, 20, all_in_at=at), PagesState.ALL_IN),
            (Paper(PagesWanted.MUST, 20, closed_at=at), PagesState.OVER),
            (Paper(PagesWanted.MUST, 20, all_in_at=at, closed_at=at), PagesState.ALL_IN),
        ):
            for minutes in (3, 19, 400):
                self.assertIs(self.state(paper, minutes), state)

    def test_a_link_outlives_neither_its_quarter_of_an_hour_nor_the_pages(self) -> None:
        paper = Paper(PagesWanted.MAY, 20)
        self.assertEqual(link_until(HANDED_IN, paper, HANDED_IN), HANDED_IN + timedelta(minutes=15))
        late = HANDED_IN + timedelta(minutes=12)
        self.assertEqual(link_until(late, paper, HANDED_IN), HANDED_IN + timedelta(minutes=20))

    def test_none_are_taken_where_none_are_wanted(self) -> None:
        self.assertIs(self.state(Paper(), 1), PagesState.NOT_WANTED)
