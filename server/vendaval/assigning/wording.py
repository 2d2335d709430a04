"""Set work in words."""

from __future__ import annotations

from vendaval.bank.snapshot import CourseBank
from vendaval_core.mastery.set_work import Progress
from vendaval_core.words import counted, some_of

from .kept import DiagnosticTask, Goal, IdeasTask, QuestionsTask, StudyTask, TargetTask


def topic_titles(keys: list[str], bank: CourseBank) -> list[str]:
    """Titles of topics, in course order."""
    return [topic.title for topic in bank.topics if topic.key in keys]


def goal_says(goal: Goal, bank: CourseBank) -> str:
    """What a goal wants."""
    match goal:
        case TargetTask():
            return f"Practice to the target in {some_of(topic_titles(goal.topics, bank))}."
        case IdeasTask():
            titles = [bank.families[key].title for key in goal.families if key in bank.families]
            ideas = counted(len(goal.families), "idea")
            return (
                f"{ideas.capitalize()}, each right first time on two versions: {some_of(titles)}."
            )
        case QuestionsTask():
            asked = counted(goal.questions, "practice question")
            return f"{asked.capitalize()} in {some_of(topic_titles(goal.topics, bank))}."
        case DiagnosticTask():
            return f"A diagnostic on {_subject(goal, bank)}."
        case StudyTask():
            titles = [
                section.title
                for topic in bank.topics
                for section in topic.sections
                if any((s.topic, s.section) == (topic.key, section.key) for s in goal.sections)
            ]
            sections = counted(len(titles), "study section").capitalize()
            return f"{sections} to read: {some_of(titles)}."


def _subject(goal: DiagnosticTask, bank: CourseBank) -> str:
    return dict(bank.subjects).get(goal.subject or "", "all subjects")


def goal_title(goal: Goal, bank: CourseBank) -> str:
    """A title for a goal that was given none."""
    match goal:
        case TargetTask() | QuestionsTask():
            return f"Practise {some_of(topic_titles(goal.topics, bank)).lower()}"[:120]
        case IdeasTask():
            return f"Practise {counted(len(goal.families), 'idea')}"
        case DiagnosticTask():
            return f"Diagnostic: {_subject(goal, bank)}"[:120]
        case StudyTask():
            topics = [one.topic for one in goal.sections]
            return f"Read about {some_of(topic_titles(topics, bank)).lower()}"[:120]


def made_says(goal: Goal, made: Progress) -> str:
    """How far somebody is."""
    match goal:
        case TargetTask():
            return f"{_part(made, 'target')} met"
        case IdeasTask():
            return f"{made.done} of {made.of} right first answers"
        case QuestionsTask():
            return f"{_part(made, 'question')} answered"
        case DiagnosticTask():
            return "ended" if made.done else "not finished yet"
        case StudyTask():
            return f"{_part(made, 'section')} read"


def _part(made: Progress, noun: str) -> str:
    return f"{made.done} of {made.of} {noun if made.of == 1 else noun + 's'}"
