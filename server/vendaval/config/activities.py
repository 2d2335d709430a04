"""Every purpose's activity, and what follows each answer: the one place that names them."""

from __future__ import annotations

from vendaval.diagnostic.activity import Diagnosing
from vendaval.exams.activity import Testing
from vendaval.levels.learning import learning_of
from vendaval.levels.observations import (
    note_study,
    observe,
    observe_marks,
    observe_released,
    recall,
)
from vendaval.notices.followers import (
    note_asked_to_mark,
    note_handed_in,
    note_marks_released,
    note_met,
    note_regraded,
    note_reopened,
)
from vendaval.planning.clock import time_is_up
from vendaval.practice.activity import Practising, note_section_read
from vendaval.quiz.activity import Quizzing
from vendaval.recheck.activity import Rechecking
from vendaval.review.activity import Mending
from vendaval.review.followers import (
    note_answers_shown,
    note_counting,
    note_marks,
    note_miss,
    note_read,
)
from vendaval.threads.followers import settle_contests
from vendaval.work.activity import Activities, Activity

ALL: tuple[Activity, ...] = (
    Diagnosing(),
    Practising(),
    Mending(),
    Rechecking(),
    Quizzing(),
    Testing(),
)

ACTIVITIES = Activities(
    by_purpose={activity.purpose: activity for activity in ALL},
    followers=(observe, note_miss, note_met),
    study=(note_study, note_read, note_section_read),
    recall=recall,
    marked=(observe_marks, note_marks),
    released=(observe_released,),
    answers_shown=(note_answers_shown,),
    handed_in=(note_handed_in,),
    marks_released=(note_marks_released,),
    asked_to_mark=(note_asked_to_mark,),
    regraded=(note_regraded, settle_contests),
    reopened=(note_reopened,),
    counting=(note_counting,),
    time_is_up=time_is_up,
    guard=learning_of,
)
