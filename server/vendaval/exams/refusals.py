"""What is said when something at an attempt cannot be changed."""

from __future__ import annotations

from vendaval_core.assessment.attempt import Refusal
from vendaval_core.assessment.mirror import MirrorWaits

REFUSED: dict[Refusal, str] = {
    Refusal.HANDED_IN: "You've handed in this attempt. Nothing was changed.",
    Refusal.TIME_IS_UP: "The time was up. We saved this answer, but it doesn't count.",
    Refusal.BEHIND: "You can't go back to this question. Nothing was changed.",
    Refusal.NOT_YET: "You haven't reached this question yet. Nothing was changed.",
    Refusal.ELSEWHERE: "You opened this test elsewhere. Continue there. Here you can only read it.",
    Refusal.PAUSED: "Your tutor has paused the test. Your answers are saved. Nothing was changed.",
    Refusal.NOT_ENTERED: "The test isn't open here. Open it again to continue. Nothing was changed.",
}

_MIRROR = "A practice copy of this test, with other numbers, opens"
MIRROR_SAYS = {
    MirrorWaits.TEST_NOT_OPEN: f"{_MIRROR} after the test.",
    MirrorWaits.UNDER_WAY: f"{_MIRROR} once you have handed in.",
    MirrorWaits.ATTEMPTS_LEFT: (
        f"{_MIRROR} once you have used your attempts, or when the test closes."
    ),
}
NOTHING_TO_MIRROR = (
    "Every question in this test is the same in every version, so there is nothing to practise yet."
)
