"""What is said when something at an attempt cannot be changed."""

from __future__ import annotations

from django.utils.translation import gettext, gettext_noop

from vendaval_core.assessment.attempt import Refusal
from vendaval_core.assessment.mirror import MirrorWaits

_REFUSED: dict[Refusal, str] = {
    Refusal.HANDED_IN: gettext_noop("You’ve handed in this attempt. Nothing was changed."),
    Refusal.TIME_IS_UP: gettext_noop(
        "The time was up. We saved this answer, but it doesn’t count."
    ),
    Refusal.BEHIND: gettext_noop("You can’t go back to this question. Nothing was changed."),
    Refusal.NOT_YET: gettext_noop("You haven’t reached this question yet. Nothing was changed."),
    Refusal.ELSEWHERE: gettext_noop(
        "You opened this test elsewhere. Continue there. Here you can only read it."
    ),
    Refusal.PAUSED: gettext_noop(
        "Your tutor has paused the test. Your answers are saved. Nothing was changed."
    ),
    Refusal.NOT_ENTERED: gettext_noop(
        "The test isn’t open here. Open it again to continue. Nothing was changed."
    ),
}

_MIRROR_WAITS = {
    MirrorWaits.TEST_NOT_OPEN: gettext_noop("You can practise this test after it has opened."),
    MirrorWaits.UNDER_WAY: gettext_noop("You can practise this test after handing it in."),
    MirrorWaits.ATTEMPTS_LEFT: gettext_noop(
        "You can practise this test after your last attempt, or when it has closed."
    ),
}
NOTHING_TO_MIRROR = gettext_noop(
    "Every question in this test is the same in every version, so there is nothing to practise yet."
)


def refused_words(why: Refusal) -> str:
    """What the learner is told about a refusal."""
    return gettext(_REFUSED[why])


def mirror_words(waits: MirrorWaits) -> str:
    """When a mirror can be taken that can't be taken yet."""
    return gettext(_MIRROR_WAITS[waits])
