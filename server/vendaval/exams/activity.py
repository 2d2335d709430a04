"""A test as an activity: its rules say how often a question is tried and what may be told."""

from __future__ import annotations

from datetime import datetime

from django.utils.translation import gettext

from vendaval.delivery.disclosure import AS_IT_GOES, EVERYTHING, OUTCOME, SILENT, Disclosure
from vendaval.delivery.schemas import Can
from vendaval.groups.models import Enrolment
from vendaval.shared.changes import Changes
from vendaval.shared.errors import Conflict
from vendaval.work.activity import Activity
from vendaval.work.grading import Graded
from vendaval.work.models import Closing, Presentation, Purpose, Run, Visibility
from vendaval.work.questions import OpenQuestion, close
from vendaval.work.run_replies import run_out
from vendaval.work.schemas import RunOut, StartIn
from vendaval_core.assessment.attempt import Attempt, Refusal, as_of, refusal
from vendaval_core.assessment.points import try_rules
from vendaval_core.assessment.release import Released
from vendaval_core.assessment.rules import Tool
from vendaval_core.scoring.tries import TryRules

from .refusals import refused_words

TELLS = {
    Visibility.NOTHING: SILENT,
    Visibility.OUTCOME: OUTCOME,
    Visibility.ANSWERS: AS_IT_GOES,
    Visibility.ALL: EVERYTHING,
}


def visibility_of(told: Released) -> Visibility:
    """How much of a closed question may be told: each step includes those before."""
    if not told.correctness:
        return Visibility.NOTHING
    if not told.answers:
        return Visibility.OUTCOME
    return Visibility.ALL if told.solutions else Visibility.ANSWERS


def _refused(core: Attempt, presentation: Presentation, now: datetime) -> Conflict | None:
    """Why the answer at a place can't be changed now. core: its attempt as it stands."""
    places = presentation.run.attempt.places
    place = next(one for one in places if one.number == presentation.number)
    last = core.intervals[-1].id if core.intervals else 0
    why = refusal(core, place.core(), last, now)
    if why is None and core.handed_in is not None:
        why = Refusal.HANDED_IN
    return None if why is None else Conflict(refused_words(why), code=why)


class Testing(Activity):
    """No help, and nothing is told before the rules of the test allow it."""

    purpose = Purpose.TEST
    listed = False
    contestable = True
    whole = False
    teaches = False

    def disclosure(
        self, presentation: Presentation, *, closed: bool, in_review: bool = False
    ) -> Disclosure:
        if closed:
            return TELLS[Visibility(presentation.visibility)]
        return OUTCOME if presentation.visibility != Visibility.NOTHING else SILENT

    def rules_for(self, run: Run) -> TryRules:
        return try_rules(run.attempt.rules.core())

    def can(self, presentation: Presentation, hints: int) -> list[Can]:
        waits = presentation.closed_at is None
        return ["answer"] if waits and presentation.run.attempt.rules.core().individual else []

    def counts(self, run: Run) -> bool:
        return run.attempt.test.counts

    def refusal(self, question: OpenQuestion, now: datetime) -> Conflict | None:
        attempt = question.run.attempt
        core = attempt.core()
        if not core.rules.individual:
            return Conflict(
                gettext("This test is marked when it is handed in."), code="not_sent_singly"
            )
        return _refused(core, question.presentation, now)

    def refuses_files(
        self, presentation: Presentation, now: datetime, *, working: bool
    ) -> Conflict | None:
        core = as_of(presentation.run.attempt.core(), now)
        if working and Tool.WORKING not in core.rules.tools:
            return Conflict(gettext("This test takes no working on paper."), code="no_working")
        closed = super().refuses_files(presentation, now, working=working)
        return _refused(core, presentation, now) or closed

    def start(self, enrolment: Enrolment, wanted: StartIn, now: datetime, changes: Changes) -> Run:
        raise Conflict(gettext("Start a test on its own page."), code="begins_elsewhere")

    def ask(self, run: Run, now: datetime, changes: Changes) -> Presentation | None:
        return None

    def follow(self, graded: Graded, now: datetime, changes: Changes) -> Presentation | None:
        question = graded.question
        if question.state.closed(self.rules_for(question.run)):
            close(question.presentation, Closing.ANSWERED, now)
        return None

    def run_out(self, run: Run) -> RunOut:
        return run_out(run)
