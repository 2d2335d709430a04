"""The bars for change over time, from simulated practice."""

from __future__ import annotations

from collections.abc import Callable

from tqdm import tqdm

from vendaval_core.measure.change import ChangeSettings
from vendaval_core.simulate.change import Jump, median_questions, questions_to_met, share_met

from .timing import Figures


def bars_for_change(runs: int) -> Figures:
    """The bars for change of docs/measurement.md."""
    change = ChangeSettings()

    def several(what: str, one: Callable[[int], int | None]) -> list[int | None]:
        return [one(seed) for seed in tqdm(range(runs), desc=what, disable=None)]

    at_90 = several("at 90", lambda s: questions_to_met(90, 40, s, change))
    at_85 = several("at 85", lambda s: questions_to_met(85, 40, s, change))
    jump = Jump(6, 93)
    risen = several("35 to 93", lambda s: questions_to_met(35, 46, s, change, jump=jump))
    at_60 = several("at 60", lambda s: questions_to_met(60, 40, s, change))
    at_70 = several("at 70", lambda s: questions_to_met(70, 30, s, change))
    sitting = several(
        "at 90, one sitting", lambda s: questions_to_met(90, 40, s, change, one_sitting=True)
    )
    return {
        "runs": runs,
        "median_to_met_at_90": median_questions(at_90),
        "median_to_met_at_85": median_questions(at_85),
        "median_to_see_a_rise_from_35_to_93": median_questions(risen),
        "share_called_met_at_60": round(share_met(at_60), 3),
        "share_called_met_at_70": round(share_met(at_70), 3),
        "median_to_met_at_90_all_in_one_sitting": median_questions(sitting),
    }
