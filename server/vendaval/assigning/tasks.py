"""Work set for a group that is no test: set, changed, withdrawn, and where each learner stands."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Sequence
from statistics import median

from django.db import transaction
from django.utils.translation import gettext

from vendaval.bank.snapshot import CourseBank, course_bank
from vendaval.exams.assigning.actions import learners_asked_for
from vendaval.exams.assigning.study_first import unknown_study
from vendaval.exams.composing.actions import out_of_order
from vendaval.groups.batches import new_batch
from vendaval.groups.models import Enrolment, Group
from vendaval.groups.queries import members_of
from vendaval.groups.withdrawing import withdrawn
from vendaval.levels.learning import Learning, learning_of
from vendaval.levels.queries import standings
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.editing import edit_version, editing
from vendaval.shared.errors import NotFound, Unprocessable
from vendaval_core.mastery.recommend import questions_to_target
from vendaval_core.mastery.set_work import RIGHT_EACH, Progress, Standing
from vendaval_core.mastery.steps import minutes_for

from .columns import (
    DiagnosticTask,
    Goal,
    HandInTask,
    IdeasTask,
    QuestionsTask,
    StudyTask,
    TargetTask,
)
from .evidence import evidence_of
from .models import HandIn, Task
from .progress import learner_progress
from .schemas import ChangeTaskIn, GroupTaskOut, GroupTasksOut, LearnerTaskOut, TaskCheckOut, TaskIn
from .wording import goal_says, goal_title

MOST = 60
QUESTIONS_OF_A_DIAGNOSTIC = 8


def problems_of(wanted: TaskIn, bank: CourseBank, group: Group) -> dict[str, str]:
    """What cannot be, by field, with the reason."""
    found = unknown_study(group.course, wanted.first)
    found |= out_of_order({"opens": wanted.opens, "due": wanted.due, "closes": wanted.closes})
    match wanted.goal:
        case TargetTask(topics=topics) | QuestionsTask(topics=topics):
            gone = set(topics) - {topic.key for topic in bank.topics}
            untaught = set(topics) & set(group.settings.not_taught)
            if gone:
                found["goal.topics"] = gettext("not in this course: {gone}").format(
                    gone=", ".join(sorted(gone))
                )
            elif untaught:
                titles = [topic.title for topic in bank.topics if topic.key in untaught]
                found["goal.topics"] = gettext("not taught yet in this group: {titles}").format(
                    titles=", ".join(titles)
                )
        case IdeasTask(families=families):
            own = {None, group.collection_id}
            lost = [
                key
                for key in families
                if key not in bank.families or bank.families[key].collection not in own
            ]
            if lost:
                found["goal.families"] = gettext("not in this course: {lost}").format(
                    lost=", ".join(lost)
                )
        case DiagnosticTask(subject=subject):
            if subject is not None and subject not in dict(bank.subjects):
                found["goal.subject"] = gettext("not in this course")
        case HandInTask():
            if not wanted.asks.core().anything:
                found["asks.files"] = gettext("ask for files or for links")
        case StudyTask(sections=sections):
            if unknown := unknown_study(group.course, sections):
                found["goal.sections"] = unknown["first"]
    return found


def check_task(group: Group, wanted: TaskIn) -> TaskCheckOut:
    """What setting this would be. Nothing is stored."""
    bank = course_bank(group.course)
    learners = learners_asked_for(group, wanted.learners)
    problems = problems_of(wanted, bank, group)
    minutes = [] if problems else [_minutes(wanted.goal, learning_of(one)) for one in learners]
    return TaskCheckOut(
        problems=problems,
        title=goal_title(wanted.goal, bank),
        goal=goal_says(wanted.goal, bank),
        learners=len(learners),
        minutes=round(median(minutes)) if minutes else 0,
        most=max(minutes, default=0),
    )


def _minutes(goal: Goal, learning: Learning) -> int:
    """What a piece of work takes one learner, at their own pace."""
    bank = learning.bank
    match goal:
        case TargetTask():
            left = [
                one
                for one in standings(learning, Counter(), recent={})
                if one.key in goal.topics and learning.topic(one.key).met_at is None
            ]
            return sum(minutes_for(questions_to_target(one), one.seconds) for one in left)
        case IdeasTask():
            found = [bank.families[key] for key in goal.families if key in bank.families]
            seconds = sum(one.family.seconds for one in found) * learning.row.pace.ratio
            return minutes_for(RIGHT_EACH, seconds)
        case QuestionsTask():
            of = [learning.seconds(topic.number) for topic in bank.topics_of(goal.topics)]
            return minutes_for(goal.questions, sum(of) / len(of))
        case DiagnosticTask():
            topics = [t for t in bank.topics if goal.subject in {None, t.subject}]
            seconds = sum(learning.seconds(topic.number) for topic in topics)
            return minutes_for(QUESTIONS_OF_A_DIAGNOSTIC, seconds)
        case HandInTask():
            return 0
        case StudyTask():
            keys = {(one.topic, one.section) for one in goal.sections}
            return sum(
                section.minutes
                for topic in bank.topics
                for section in topic.sections
                if (topic.key, section.key) in keys
            )


def set_tasks(groups: Sequence[Group], wanted: TaskIn, by: User) -> list[Task]:
    """Set work for several groups at once, or for none of them."""
    batch = new_batch(groups)
    with transaction.atomic():
        return [set_task(one, wanted, by, batch) for one in groups]


def set_task(group: Group, wanted: TaskIn, by: User, batch: str = "") -> Task:
    """Set work for a group or the learners named."""
    return _stored(Task(group=group, given_by=by, given_at=clock.now(), batch=batch), wanted)


def change_together(row: Task, wanted: ChangeTaskIn, others: Sequence[Task]) -> Task:
    """Change work, and in other groups what isn't about single learners."""
    with transaction.atomic():
        changed = change_task(row, wanted)
        for other in others:
            now = _edit(other)
            said = dict(wanted) | {"learners": now.learners, "version": edit_version(now)}
            change_task(other, ChangeTaskIn(**said))
    return changed


def change_task(row: Task, wanted: ChangeTaskIn) -> Task:
    """Change work that was set. What was done for it counts on, by the goal as it is now."""
    with editing(row, wanted, lambda: _edit(row)):
        return _stored(row, wanted)


def _edit(row: Task) -> TaskIn:
    return TaskIn.model_construct(
        title=row.title,
        goal=row.goal,
        opens=row.opens,
        due=row.due,
        closes=row.closes,
        learners=None if row.whole_group else sorted(one.pk for one in row.learners.all()),
        first=row.first,
        asks=row.asks,
    )


def _stored(row: Task, wanted: TaskIn) -> Task:
    group, bank = row.group, course_bank(row.group.course)
    learners = learners_asked_for(group, wanted.learners)
    problems = problems_of(wanted, bank, group)
    if problems:
        raise Unprocessable(gettext("This can’t be set yet. Fix what is marked."), fields=problems)
    for name in ("goal", "opens", "due", "closes", "first", "asks"):
        setattr(row, name, getattr(wanted, name))
    row.title = wanted.title.strip() or goal_title(wanted.goal, bank)
    row.whole_group = wanted.learners is None
    with transaction.atomic():
        row.save()
        row.learners.set([] if wanted.learners is None else learners)
    return row


def task_of(group: Group, task_id: int) -> Task:
    """Work set for a group, or NotFound."""
    found = Task.objects.filter(group=group, pk=task_id).first()
    if found is None:
        raise NotFound(gettext("This group doesn’t have this assignment."))
    found.group = group
    return found


def standings_of(
    task: Task, enrolments: Sequence[Enrolment]
) -> list[tuple[Enrolment, Standing, Progress]]:
    """Where each of these learners stands with a piece of work."""
    bank = course_bank(task.group.course)
    found = evidence_of([one.pk for one in enrolments], [task], bank)
    now = clock.now()
    return [(one, *learner_progress(task, found[one.pk], bank, now)) for one in enrolments]


def group_tasks(group: Group) -> GroupTasksOut:
    """Work of a group, the newest first, with where each learner stands."""
    rows = list(
        Task.objects.filter(group=group).prefetch_related("learners").order_by("-pk")[:MOST]
    )
    members, bank, now = list(members_of(group)), course_bank(group.course), clock.now()
    found = evidence_of([one.pk for one in members], rows, bank)
    waiting = _to_mark([row for row in rows if row.asks.core().anything])
    tasks = []
    for row in rows:
        row.group = group
        chosen = {one.pk for one in row.learners.all()}
        learners = []
        for one in members:
            if row.whole_group or one.pk in chosen:
                state, made = learner_progress(row, found[one.pk], bank, now)
                learners.append(_learner_out(one, state, made))
        tasks.append(_task_out(row, learners, bank, waiting.get(row.pk, 0)))
    return GroupTasksOut(group=group.title, tasks=tasks, withdrawn=withdrawn(Task, group, "title"))


def _to_mark(rows: Sequence[Task]) -> Counter[int]:
    """How much was handed in and waits for its marks, by piece of work."""
    if not rows:
        return Counter()
    handed_in = HandIn.objects.filter(task__in=rows, marked_at=None).exclude(handed_in_at=None)
    return Counter(handed_in.values_list("task", flat=True))


def _learner_out(enrolment: Enrolment, state: Standing, made: Progress) -> LearnerTaskOut:
    return LearnerTaskOut(
        learner=enrolment.pk,
        name=enrolment.person.display_name,
        state=state,
        done=made.done,
        of=made.of,
        finished=made.finished,
    )


def _task_out(
    row: Task, learners: Collection[LearnerTaskOut], bank: CourseBank, to_mark: int
) -> GroupTaskOut:
    return GroupTaskOut(
        id=row.pk,
        title=row.title,
        kind=row.goal.kind,
        says=goal_says(row.goal, bank),
        goal=row.goal,
        opens=row.opens,
        due=row.due,
        closes=row.closes,
        whole_group=row.whole_group,
        first=row.first,
        asks=row.asks,
        to_mark=to_mark,
        learners=list(learners),
        batch=row.batch,
        version=edit_version(_edit(row)),
    )
