"""Goals of a practice run: what is left to them, and when one is reached."""

from __future__ import annotations

from django.utils.translation import gettext

from vendaval.levels.learning import Learning
from vendaval.shared.errors import Unprocessable
from vendaval.work.grading import Graded
from vendaval.work.schemas import GoalOut
from vendaval_core.mastery.goals import ideas_left, next_idea
from vendaval_core.words import counted

from .run import (
    Goal,
    IdeasGoal,
    IdeasIn,
    PracticeNote,
    QuestionsGoal,
    QuestionsIn,
    TargetGoal,
)


def goal_of(wanted: IdeasIn | QuestionsIn | None, scope: list[str], learning: Learning) -> Goal:
    """The goal that was asked for; Unprocessable for ideas of other topics or none at all."""
    if wanted is None:
        return TargetGoal()
    known, families = learning.bank.families, list(dict.fromkeys(wanted.families))
    for key in families:
        if not learning.may_have(key) or known[key].family.topic not in scope:
            raise Unprocessable(
                gettext("These ideas aren’t in the chosen topics."), fields={"families": key}
            )
    if isinstance(wanted, QuestionsIn):
        return QuestionsGoal(kind="questions", questions=wanted.questions, families=families)
    return IdeasGoal(kind="ideas", families=families)


def chosen_idea(note: PracticeNote, learning: Learning) -> str | None:
    """The family that the goal asks for next, where it names families and is not reached yet."""
    goal = note.goal
    if note.reached or isinstance(goal, TargetGoal):
        return None
    families = [key for key in goal.families if learning.askable(key)]
    if isinstance(goal, IdeasGoal):
        return next_idea(goal.right, families, note.last)
    return families[goal.done % len(families)] if families else None


def note_answer(note: PracticeNote, graded: Graded) -> None:
    """Count an answer that gave a question its first tries towards the goal."""
    goal, question = note.goal, graded.question
    family = question.version.family
    if isinstance(goal, QuestionsGoal):
        goal.done += 1
    elif isinstance(goal, IdeasGoal) and family in goal.families:
        unhelped = graded.right and not question.presentation.helped
        goal.right[family] = goal.right.get(family, 0) + unhelped


def reached(note: PracticeNote, scope: list[str], learning: Learning) -> bool:
    """Whether a run's goal is reached. It stays so: later answers take nothing back."""
    goal = note.goal
    if note.reached:
        return True
    if isinstance(goal, QuestionsGoal):
        return goal.done >= goal.questions
    if isinstance(goal, IdeasGoal):
        return ideas_left(goal.right, _live(goal, learning)) == 0
    return all(learning.topic(topic.key).met_at for topic in learning.bank.topics_of(scope))


def _live(goal: IdeasGoal, learning: Learning) -> list[str]:
    return [key for key in goal.families if key in learning.bank.families]


def goal_out(note: PracticeNote, scope: list[str], learning: Learning) -> GoalOut | None:
    """What is left to the goal, in a line; nothing for the target of a single topic, which says
    itself what it wants."""
    goal = note.goal
    if isinstance(goal, QuestionsGoal):
        left = max(0, goal.questions - goal.done)
        what = gettext("of {questions}").format(questions=counted(goal.questions, "question"))
        says = gettext("{questions} left {what}.").format(
            questions=counted(left, "question").capitalize(), what=what
        )
        done = gettext("You’ve answered {questions}, as you planned.").format(
            questions=counted(goal.questions, "question")
        )
    elif isinstance(goal, IdeasGoal):
        left = ideas_left(goal.right, _live(goal, learning))
        says = gettext("{right_first_answers} left, two for each idea.").format(
            right_first_answers=counted(left, "right first answer").capitalize()
        )
        done = gettext("You got {ideas} right twice each.").format(
            ideas=counted(len(goal.families), "idea")
        )
    else:
        topics = learning.bank.topics_of(scope)
        open_ = sum(not learning.topic(topic.key).met_at for topic in topics)
        if len(topics) == 1:
            return None
        says = gettext("{topics} not at the target yet.").format(
            topics=counted(open_, "topic").capitalize()
        )
        done = gettext("You’ve reached the target in every topic of this mix.")
    return GoalOut(says=done if note.reached else says, reached=note.reached)
