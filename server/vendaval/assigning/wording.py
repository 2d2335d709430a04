"""Set work in words."""

from __future__ import annotations

from django.utils.translation import gettext

from vendaval.bank.snapshot import CourseBank
from vendaval_core.mastery.set_work import Progress
from vendaval_core.words import counted, some_of

from .columns import (
    DiagnosticTask,
    Goal,
    HandInTask,
    IdeasTask,
    QuestionsTask,
    StudyTask,
    TargetTask,
)


def topic_titles(keys: list[str], bank: CourseBank) -> list[str]:
    """Titles of topics, in course order."""
    return [topic.title for topic in bank.topics if topic.key in keys]


def goal_says(goal: Goal, bank: CourseBank) -> str:
    """What a goal wants."""
    match goal:
        case TargetTask():
            return gettext("Practice to the target in {topics}.").format(
                topics=some_of(topic_titles(goal.topics, bank))
            )
        case IdeasTask():
            titles = [bank.families[key].title for key in goal.families if key in bank.families]
            ideas = counted(len(goal.families), "idea")
            return gettext("{ideas}, each right first time on two versions: {titles}.").format(
                ideas=ideas.capitalize(), titles=some_of(titles)
            )
        case QuestionsTask():
            asked = counted(goal.questions, "practice question")
            return gettext("{asked} in {topics}.").format(
                asked=asked.capitalize(), topics=some_of(topic_titles(goal.topics, bank))
            )
        case DiagnosticTask():
            return gettext("A diagnostic on {subject}.").format(subject=_subject(goal, bank))
        case HandInTask():
            return gettext("Something to make and hand in.")
        case StudyTask():
            titles = [
                section.title
                for topic in bank.topics
                for section in topic.sections
                if any((s.topic, s.section) == (topic.key, section.key) for s in goal.sections)
            ]
            sections = counted(len(titles), "study section").capitalize()
            return gettext("{sections} to read: {titles}.").format(
                sections=sections, titles=some_of(titles)
            )


def _subject(goal: DiagnosticTask, bank: CourseBank) -> str:
    return dict(bank.subjects).get(goal.subject or "", gettext("all subjects"))


def goal_title(goal: Goal, bank: CourseBank) -> str:
    """A title for a goal that was given none."""
    match goal:
        case TargetTask() | QuestionsTask():
            return gettext("Practise {topics}").format(
                topics=some_of(topic_titles(goal.topics, bank)).lower()
            )[:120]
        case IdeasTask():
            return gettext("Practise {ideas}").format(ideas=counted(len(goal.families), "idea"))
        case DiagnosticTask():
            return f"Diagnostic: {_subject(goal, bank)}"[:120]
        case HandInTask():
            return gettext("Work to hand in")
        case StudyTask():
            topics = [one.topic for one in goal.sections]
            return gettext("Read about {topics}").format(
                topics=some_of(topic_titles(topics, bank)).lower()
            )[:120]


def made_says(goal: Goal, made: Progress) -> str:
    """How far somebody is."""
    match goal:
        case TargetTask():
            return gettext("{part} met").format(part=_part(made, "target"))
        case IdeasTask():
            return gettext("{done} of {of} right first answers").format(done=made.done, of=made.of)
        case QuestionsTask():
            return gettext("{part} answered").format(part=_part(made, "question"))
        case DiagnosticTask():
            return "ended" if made.done else gettext("not finished yet")
        case HandInTask():
            return gettext("handed in") if made.done else gettext("not handed in")
        case StudyTask():
            return gettext("{part} read").format(part=_part(made, "section"))


def _part(made: Progress, noun: str) -> str:
    return gettext("{done} of {of} {noun}").format(
        done=made.done, of=made.of, noun=noun if made.of == 1 else noun + "s"
    )
