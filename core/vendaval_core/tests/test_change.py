"""Learning and time: the bars for change with fewer runs, and what a step may not do."""

from unittest import TestCase

import numpy as np

from vendaval_core.measure.change import ChangeSettings
from vendaval_core.measure.grid import THETA, moments
from vendaval_core.measure.journal import Entry, advance, largest_difference, rebuild
from vendaval_core.measure.posterior import LearnerState, Prior, infer
from vendaval_core.measure.response import ResponseCurve
from vendaval_core.simulate.change import Jump, median_questions, questions_to_met, share_met

SETTINGS = ChangeSettings()
CURVE = ResponseCurve(1.3, 0.0)


class ChangeTests(TestCase):
    """The bars' 300 runs are made by `manage.py benchmark`; these seeded 60 leave room for chance."""

    def test_a_learner_at_90_is_recognised_soon(self) -> None:
        found = [questions_to_met(90, 40, seed, SETTINGS) for seed in range(60)]
        self.assertLessEqual(median_questions(found), 11)

    def test_a_learner_who_jumps_is_recognised(self) -> None:
        jump = Jump(6, 93)
        found = [questions_to_met(35, 46, seed, SETTINGS, jump=jump) for seed in range(60)]
        self.assertLessEqual(median_questions(found), 14)

    def test_a_learner_who_stays_at_60_is_seldom_called_met(self) -> None:
        found = [questions_to_met(60, 40, seed, SETTINGS) for seed in range(80)]
        self.assertLessEqual(share_met(found), 0.12)

    def test_a_learning_step_raises_the_mean_by_chance_times_jump(self) -> None:
        prior = Prior.of(np.zeros(1), np.array([[1.0]]))
        state = LearnerState.empty(1).with_evidence(0, CURVE.log_likelihood(1, THETA), 1.0)
        posterior, state = infer(prior, state)
        nothing = Entry(0, CURVE, 0, 0.0, learning=True)
        moved, _ = advance(prior, state, nothing, SETTINGS)
        expected = SETTINGS.jump_chance * SETTINGS.jump_mean
        self.assertAlmostEqual(moved.mean[0] - posterior.mean[0], expected, places=4)

    def test_time_adds_variance_but_never_beyond_the_prior(self) -> None:
        prior = Prior.of_course([0, 0, 1], mean=0, sd=1.3, within=0.5, across=0.3)
        state = LearnerState.empty(3)
        for outcome in (1, 1, 0, 1):
            _, state = advance(prior, state, Entry(0, CURVE, outcome, 1.0), SETTINGS)
        before, state = infer(prior, state)
        after, _ = advance(prior, state, Entry(0, CURVE, 0, 0.0, days=10.0), SETTINGS)
        self.assertAlmostEqual(after.sd[0] ** 2 - before.sd[0] ** 2, 0.1, places=2)
        late, _ = advance(prior, state, Entry(0, CURVE, 0, 0.0, days=3650.0), SETTINGS)
        self.assertTrue(np.all(late.sd <= 1.3 + 1e-3))

    def test_sharp_marginals_survive_many_steps(self) -> None:
        prior = Prior.of_course([0, 0], mean=0, sd=1.3, within=0.5, across=0.3)
        state = LearnerState.empty(2)
        hard = ResponseCurve(3.0, 1.0)
        for step in range(120):
            entry = Entry(0, hard, int(step % 3 > 0), 1.0, 40.0 if step % 10 == 0 else 0.0, True)
            posterior, state = advance(prior, state, entry, SETTINGS)
        self.assertTrue(np.all(np.isfinite(state.rows)))
        self.assertTrue(posterior.converged)
        np.testing.assert_allclose(moments(posterior.marginals)[0], posterior.mean)

    def test_a_state_is_the_fold_of_its_entries_alone_or_among_many(self) -> None:
        prior = Prior.of_course([0, 0, 1], mean=0, sd=1.3, within=0.5, across=0.3)
        guessed = ResponseCurve(2.0, 1.0, 0.25)
        histories = [
            [
                Entry(
                    i % 3, guessed if i % 2 else CURVE, int(i % n > 0), 1.0, 3.0 * (i == 7), i > 4
                )
                for i in range(8 * n)
            ]
            for n in range(1, 5)
        ]
        rebuilt = rebuild(prior, histories, SETTINGS)
        for history, whole in zip(histories, rebuilt, strict=True):
            state = LearnerState.empty(3)
            for entry in history:
                _, state = advance(prior, state, entry, SETTINGS)
            self.assertLess(largest_difference(prior, whole, state), 1e-10)
            np.testing.assert_allclose(whole.rows, state.rows, atol=1e-9)
