"""Short seeded studies; the bars themselves are read from `manage.py simulate`."""

from unittest import TestCase

import numpy as np

from vendaval_core.measure.grid import THETA
from vendaval_core.measure.level import LevelScale
from vendaval_core.measure.lookahead import questions_left
from vendaval_core.measure.posterior import LearnerState, infer
from vendaval_core.simulate.by_level import at_level
from vendaval_core.simulate.study import Policy, Record, Study, run_block, summary


def run(policy: Policy, **more: int) -> tuple[Study, Record]:
    study = Study(
        **({"learners": 24, "topics": 6, "families": 20, "questions": 24} | more), policy=policy
    )  # type: ignore[arg-type]
    return study, run_block(study, np.arange(study.learners))


class StudyTests(TestCase):
    def test_joint_beats_independent_beats_random(self) -> None:
        ends = {}
        for policy in (Policy.JOINT, Policy.INDEPENDENT, Policy.RANDOM):
            _, record = run(policy)
            ends[policy] = record.squares[18]
        self.assertLess(ends[Policy.JOINT], 0.95 * ends[Policy.INDEPENDENT])
        self.assertLess(ends[Policy.JOINT], 0.85 * ends[Policy.RANDOM])

    def test_intervals_cover_and_calls_are_right(self) -> None:
        study, record = run(Policy.JOINT, learners=60)
        found = summary(study, record)
        self.assertTrue(0.85 < found["coverage_90"] < 0.96, found["coverage_90"])  # type: ignore[operator]
        self.assertGreater(found["calls"]["right"], 0.92)  # type: ignore[index]

    def test_pieces_give_the_same_as_the_whole(self) -> None:
        study, whole = run(Policy.JOINT, learners=6, questions=8)
        parts = run_block(study, np.arange(3)).plus(run_block(study, np.arange(3, 6)))
        np.testing.assert_allclose(parts.squares, whole.squares)
        self.assertEqual(parts.asked, whole.asked)

    def test_runs_stop_about_when_they_said_they_would(self) -> None:
        study = Study(learners=16, topics=6, families=20, questions=110, until_stopped=True)
        record = run_block(study, np.arange(16))
        self.assertLess(np.median(record.used), 60)
        ratio = np.mean(record.used) / np.mean(record.expected)
        self.assertTrue(0.6 < ratio < 1.5, ratio)


class ByLevelTests(TestCase):
    def test_it_ends_where_the_level_is_close_to_every_target(self) -> None:
        study = Study(learners=16, topics=2, families=8, sd=1.3, until_stopped=True)
        near, far = at_level(study, 80.0), at_level(study, 95.0)
        self.assertLessEqual(near.used[2], 22, "one in ten is asked more")
        self.assertGreater(near.used[0], far.used[0])
        self.assertGreater(near.statuses["close"], 0.5)
        self.assertGreaterEqual(min(near.inside, far.inside), 0.75)
        self.assertEqual((near.most, near.said), (far.most, far.said))
        self.assertLessEqual(near.most, 2)


class LookaheadTests(TestCase):
    def test_fewer_questions_are_left_as_answers_come_in(self) -> None:
        study = Study(topics=2, families=12)
        table, curves, scales = study.bank()
        state = LearnerState.of(study.prior())
        left = []
        for answers in range(0, 9, 4):
            posterior, state = infer(study.prior(), state)
            left.append(
                self.expected(posterior.marginals, posterior.covariance, table, scales, answers)
            )
            for number, curve in enumerate(curves[answers : answers + 4]):
                state = state.with_evidence(0, curve.log_likelihood(number % 2, THETA), 1.0)
        self.assertTrue(left[0] > left[1] >= left[2], left)

    def expected(self, marginals, covariance, table, scales: list[LevelScale], given: int) -> float:  # type: ignore[no-untyped-def]
        found = questions_left(table, marginals, covariance, scales, [80.0, 80.0], [given, 0], [0])
        return float(found[0].sum())
