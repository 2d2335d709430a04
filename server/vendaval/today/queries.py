"""Where a learner stands and what comes next."""

from __future__ import annotations

from django.utils import timezone
from django.utils.translation import gettext

from vendaval.groups.models import Enrolment
from vendaval.levels.learning import Learning
from vendaval.levels.settings import CHANGE
from vendaval.levels.standing import reached_by
from vendaval.shared import clock
from vendaval.work.models import Purpose
from vendaval_core.mastery.reached import Reached
from vendaval_core.mastery.recommend import recommend_practice
from vendaval_core.words import in_words

from .choices import choices_in_force, put_aside_out
from .coming import coming, exam_of
from .lines import (
    MOST_UNDER_WAY,
    all_lines,
    learner_now,
    subject_lines,
    under_way,
)
from .schemas import OwnQuestionsOut, PracticePlanOut, StepOut, SubjectOut, TodayOut, TopicsOut
from .steps import step_out, steps_for

# As many as a run takes by name.
MOST_OWN = 40


def practice_plan(enrolment: Enrolment) -> PracticePlanOut:
    """Every topic in the order worth practising."""
    seen = learner_now(enrolment)
    pace = seen.learning.paces.learning_mean
    found = recommend_practice(seen.standings, CHANGE, pace)
    steps = [step_out(step, seen) for step in found]
    wanted = {step.topic for step in found}
    lines = all_lines(subject_lines(seen))
    return PracticePlanOut(
        under_way=under_way(seen.runs_of(Purpose.PRACTICE)[:MOST_UNDER_WAY]),
        steps=steps,
        met=[line for line in lines if line.key not in wanted],
        pace=gettext("Times are estimates: {pace}.").format(pace=seen.learning.row.pace.words()),
        own=_own_questions(seen.learning),
    )


def _own_questions(learning: Learning) -> OwnQuestionsOut | None:
    """What the learner's groups ask beside the course."""
    found = [
        one.family
        for one in learning.bank.collected(learning.enrolment.aims.collections)
        if learning.taught(learning.bank.topics[one.topic])
    ][:MOST_OWN]
    if not found:
        return None
    topics = sorted({one.topic for one in found})
    return OwnQuestionsOut(families=[one.key for one in found], topics=topics)


def _greeting(name: str) -> str:
    hour = timezone.localtime(clock.now()).hour
    part = "morning" if hour < 12 else "afternoon" if hour < 18 else "evening"
    return gettext("Good {part}, {split}").format(part=part, split=name.split()[0])


def _lead(steps: list[StepOut], subjects: list[SubjectOut], reached: Reached) -> str:
    """One true sentence about where the learner is."""
    if not any(line.answers for line in all_lines(subjects)):
        return gettext("Start with a diagnostic. It shows your level in each topic.")
    done = reached.reached == reached.topics and not reached.doubtful
    start = f"{reached.words}."
    return f"{start} {_first_words(steps[0])}" if steps and not done else start


def _first_words(step: StepOut) -> str:
    """What taking the first step would do."""
    match step.kind:
        case "study":
            return gettext("Start by reading one page.")
        case "carry_on" | "spell":
            return gettext("You can finish what you started in {minutes} min.").format(
                minutes=step.minutes
            )
        case "recheck":
            return gettext("A check of {minutes} min shows if you still know it.").format(
                minutes=step.minutes
            )
        case "review":
            return gettext("You can correct what you missed in {minutes} min.").format(
                minutes=step.minutes
            )
        case "freshen":
            return gettext("{minutes} min will bring your levels up to date.").format(
                minutes=step.minutes
            )
        case _:
            return gettext("{minutes} min of this will help you most.").format(minutes=step.minutes)


def today(enrolment: Enrolment) -> TodayOut:
    """The page a learner arrives on."""
    seen = learner_now(enrolment)
    learning, now = seen.learning, seen.now
    subjects = subject_lines(seen)
    choices = choices_in_force(enrolment)
    steps = steps_for(seen, {row.step for row in choices})
    exam = exam_of(learning, timezone.localtime(now).date())
    return TodayOut(
        greeting=_greeting(enrolment.person.display_name),
        lead=_lead(steps, subjects, reached_by(learning)),
        steps=steps,
        under_way=under_way(seen.runs[:MOST_UNDER_WAY]),
        coming=coming(learning, now, choices),
        put_aside=put_aside_out(choices),
        exam_on=exam,
        pace=gettext("Times are estimates: {pace}.").format(pace=learning.row.pace.words()),
        subjects=subjects,
        misses=sum(line.misses for subject in subjects for line in subject.topics),
        course=enrolment.course.title,
        day=timezone.localtime(now).date(),
    )


def topics(enrolment: Enrolment) -> TopicsOut:
    """Every topic's level."""
    seen = learner_now(enrolment)
    subjects = subject_lines(seen)
    lines = all_lines(subjects)
    known = sum(line.reading.level is not None for line in lines)
    headline = reached_by(seen.learning).words
    if known < len(lines):
        headline += gettext(", {count} still unknown").format(count=in_words(len(lines) - known))
    return TopicsOut(
        headline=headline,
        subjects=subjects,
        under_way=under_way(seen.runs[:MOST_UNDER_WAY]),
    )
