"""The bars for change over time, from simulated practice."""

from __future__ import annotations

from collections.abc import Callable

from tqdm import tqdm

from vendaval_core.measure.kernels import ChangeSettings
from vendaval_core.simulate.change import Jump, median_questions, questions_to_met, share_met

from .timing import Figures

FIRST_TOUCH = 0.8


def bars_for_change(runs: int) -> Figures:
    """The bars for change of docs/measurement.md."""
    change = ChangeSettings()

    def several(what: str, one: Callable[[int], int | None]) -> list[int | None]:
        return [one(seed) for seed in tqdm(range(runs), desc=what, disable=None)]

    def first_and_met(
        what: str, level: float, most: int, jump: Jump | None = None
    ) -> tuple[list[int | None], list[int | None]]:
        """Questions to the first touch, and to "met"."""
        touched = several(
            f"{what}, first touch",
            lambda s: questions_to_met(
                level, most, s, change, jump=jump, running=1, likely=FIRST_TOUCH
            ),
        )
        met = several(what, lambda s: questions_to_met(level, most, s, change, jump=jump))
        return touched, met

    at_90, at_85 = first_and_met("at 90", 90, 40), first_and_met("at 85", 85, 40)
    risen = first_and_met("35 to 93", 35, 46, Jump(6, 93))
    at_60, at_70 = first_and_met("at 60", 60, 40), first_and_met("at 70", 70, 30)
    sitting = several(
        "at 90, one sitting", lambda s: questions_to_met(90, 40, s, change, one_sitting=True)
    )
    return {
        "runs": runs,
        "each": "[first touch of 0.8, met]",
        "median_at_90": [median_questions(found) for found in at_90],
        "median_at_85": [median_questions(found) for found in at_85],
        "median_to_see_a_rise_from_35_to_93": [median_questions(found) for found in risen],
        "share_called_at_60": [round(share_met(found), 3) for found in at_60],
        "share_called_at_70": [round(share_met(found), 3) for found in at_70],
        "median_to_met_at_90_all_in_one_sitting": median_questions(sitting),
    }
