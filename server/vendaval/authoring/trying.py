"""A version in the real player, answered by whoever writes it. Nothing of it is kept."""

from __future__ import annotations

from vendaval.bank.models import Course, FamilyRevision, StudySection, Topic
from vendaval.bank.snapshot import family_of, version_of
from vendaval.delivery.payload import Where, told_whole
from vendaval.delivery.schemas import PlaceOut, QuestionOut, StudyLinkOut
from vendaval_core.errors import FamilyError
from vendaval_core.items.model import Family
from vendaval_core.items.versions import Version, make_version
from vendaval_core.scoring.tries import ONE_TRY, QuestionState, submit

from .families import Opened
from .schemas import TryVersionIn, VersionTriedOut


def try_version(opened: Opened, body: TryVersionIn) -> VersionTriedOut:
    """A version of a family as it is drafted; marked once there are responses."""
    read = opened.read(opened.text)
    if read.read is None:
        return VersionTriedOut(question=None, right={})
    family = read.read.family
    try:
        version = make_version(family, min(body.seed, family.versions))
    except FamilyError:
        return VersionTriedOut(question=None, right={})
    where = where_of(opened.course, opened.topic, family)
    return VersionTriedOut(
        question=_tried(version, family, where, body),
        right={key.id: key.examples.right for key in version.parts},
    )


def _tried(version: Version, family: Family, where: Where, body: TryVersionIn) -> QuestionOut:
    fresh = QuestionState.fresh(version.parts)
    if body.responses is None:
        question = told_whole(version, family, where, version.seed)
        # Nothing was answered yet, so that the player takes an answer.
        for state in question.states:
            state.state, state.right_answer, state.pieces, state.right_points = "open", None, [], []
        question.closed, question.solution = False, None
        return question
    sent = submit(version, fresh, body.responses, ONE_TRY, final=True)
    answers = {part: (body.responses.get(part, ""), mark.says) for part, mark in sent.marks.items()}
    return told_whole(version, family, where, version.seed, sent.after, answers)


def where_of(course: Course, topic: Topic, family: Family) -> Where:
    """Where a family belongs, asked of what is stored: its topic need not be asked yet."""
    study_topic, _, section = family.study.rpartition("#")
    key = study_topic or topic.key
    row = StudySection.objects.filter(topic__course=course, topic__key=key, key=section).first()
    return Where(
        PlaceOut(key=topic.key, title=topic.title),
        StudyLinkOut(
            topic=key,
            section=section,
            title="" if row is None else row.title,
            minutes=1 if row is None else row.minutes,
        ),
    )


def revision_question(
    course: Course, topic: Topic, revision: FamilyRevision, seed: int
) -> QuestionOut:
    """A version of a revision with everything told."""
    family = family_of(revision)
    version = version_of(revision, min(seed, family.versions), 0)
    return told_whole(version, family, where_of(course, topic, family), version.seed)
