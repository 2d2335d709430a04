"""A self-made quiz: one try each, right or wrong told at once; what is missed joins the list."""

from __future__ import annotations

from datetime import datetime

from django.utils.translation import gettext

from vendaval.delivery.schemas import Can
from vendaval.groups.models import Enrolment
from vendaval.levels.learning import learning_of
from vendaval.levels.presenting import present
from vendaval.levels.progress import progress_of
from vendaval.shared.changes import Changes
from vendaval.shared.errors import Conflict
from vendaval.work.activity import Activity
from vendaval.work.columns import Why
from vendaval.work.grading import Graded
from vendaval.work.models import Closing, Presentation, Purpose, Run
from vendaval.work.questions import close, in_open_test
from vendaval.work.run_replies import run_out
from vendaval.work.runs import new_run
from vendaval.work.schemas import GoalOut, LeftOut, RunOut, StartIn
from vendaval_core.mastery.steps import minutes_for
from vendaval_core.words import in_words

from .queries import quiz_items
from .run import QuizIdea, QuizNote, StartQuizIn


def note_of(run: Run) -> QuizNote:
    """What a quiz keeps about its run."""
    assert isinstance(run.note, QuizNote)
    return run.note


class Quizzing(Activity):
    """One try and no help; the solution follows at once."""

    purpose = Purpose.QUIZ
    note = QuizNote
    starts = StartQuizIn
    whole = True
    teaches = True

    def can(self, presentation: Presentation, hints: int) -> list[Can]:
        found: list[Can] = ["finish"] if presentation.run.ended_at is None else []
        return found if presentation.closed_at is not None else [*found, "answer", "sure"]

    def start(self, enrolment: Enrolment, wanted: StartIn, now: datetime, changes: Changes) -> Run:
        assert isinstance(wanted, StartQuizIn)
        learning = learning_of(enrolment)
        topics = [learning.bank.topic(key) for key in dict.fromkeys(wanted.topics)]
        items = quiz_items(learning, [topic.key for topic in topics], wanted.questions)
        if not any(learning.taught(topic) for topic in topics):
            raise Conflict(
                gettext("Your group hasn’t been taught any of these topics yet."), code="not_yet"
            )
        if not items:
            raise Conflict(
                gettext("Every question here is {in_open_test}.").format(
                    in_open_test=in_open_test()
                ),
                code="open_in_test",
            )
        ideas = [QuizIdea(family=i.family, essential=i.essential, success=i.success) for i in items]
        scope = [topic.key for topic in topics if any(i.topic == topic.key for i in items)]
        note = QuizNote(left=ideas, questions=len(ideas))
        run = new_run(enrolment, self.purpose, gettext("Self-made quiz"), scope, note, now, changes)
        self.ask(run, now, changes)
        return run

    def ask(self, run: Run, now: datetime, changes: Changes) -> Presentation | None:
        learning, note = learning_of(run.enrolment), note_of(run)
        while note.left:
            idea = note.left.pop(0)
            if learning.askable(idea.family):
                rule = "quiz_essential" if idea.essential else "quiz_hard"
                why = Why(rule=rule, success=round(idea.success, 4))
                return present(learning, run, idea.family, now, changes, why=why)
        run.ended_at, run.current = now, None
        changes.touch(run, "ended_at", "current", "note")
        return None

    def follow(self, graded: Graded, now: datetime, changes: Changes) -> Presentation | None:
        close(graded.question.presentation, Closing.ANSWERED, now)
        note_of(graded.question.run).right += graded.right
        return self.ask(graded.question.run, now, changes)

    def run_out(self, run: Run) -> RunOut:
        """A run with how many are left and how many were right."""
        learning, note = learning_of(run.enrolment), note_of(run)
        topics = learning.bank.topics_of(run.scope)
        left = len(note.left) + (run.current is not None and run.current.closed_at is None)
        seconds = sum(learning.seconds(t.number) for t in topics) / max(1, len(topics))
        so_far = "" if run.ended_at else gettext(" so far")
        says = gettext("{right} of {answered} right{so_far}.").format(
            right=in_words(note.right).capitalize(), answered=in_words(run.answered), so_far=so_far
        )
        return run_out(
            run,
            left=LeftOut(
                questions=left,
                fewest=left,
                most=left,
                minutes=minutes_for(left, seconds) if left else 0,
            ),
            goal=GoalOut(says=says, reached=run.ended_at is not None),
            topics=progress_of(learning, topics),
        )
