"""What is said when something at an attempt cannot be changed."""

from __future__ import annotations

from vendaval_core.assessment.attempt import Refusal
from vendaval_core.assessment.mirror import MirrorWaits

REFUSED: dict[Refusal, str] = {
    Refusal.HANDED_IN: "This attempt was handed in. Nothing was changed.",
    Refusal.TIME_IS_UP: "The time was up. It is kept, and does not count.",
    Refusal.BEHIND: "There is no way back to this question. Nothing was changed.",
    Refusal.NOT_YET: "This question has not been reached yet. Nothing was changed.",
    Refusal.ELSEWHERE: "The test was opened in another place, which now has it. Here it can only "
    "be read.",
    Refusal.PAUSED: "Your tutor has paused the test. What you have saved stands; nothing was "
    "changed.",
    Refusal.NOT_ENTERED: "The test is not open here. Open it again to go on; nothing was changed.",
}

_MIRROR = "A mirror of this test, the same ideas with other numbers, opens"
MIRROR_SAYS = {
    MirrorWaits.TEST_NOT_OPEN: f"{_MIRROR} after the test.",
    MirrorWaits.UNDER_WAY: f"{_MIRROR} once you have handed in.",
    MirrorWaits.ATTEMPTS_LEFT: (
        f"{_MIRROR} once you have used your attempts, or when the test closes."
    ),
}
NOTHING_TO_MIRROR = (
    "Every question of this test is the same in every version, so there is nothing to try yet."
)
