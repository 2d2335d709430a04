"""What the page of a course's structure gets and sends."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

from vendaval.shared.editing import Edited
from vendaval.work.schemas import Strict
from vendaval_core.packs.schema import Constants

MOST_TOPICS, MOST_SUBJECTS = 60, 20
Title = Annotated[str, Field(min_length=1, max_length=120)]
# "" for what is new, which gets its key when it is saved.
KeyOrNew = Annotated[str, Field(max_length=60)]


class CourseTopic(Strict):
    """A topic. `target` in per cent; `after`: keys of topics it builds on."""

    key: KeyOrNew
    title: Title
    target: Annotated[float, Field(ge=10, le=95)] = 80.0
    importance: Annotated[float, Field(gt=0, le=10)] = 1.0
    after: Annotated[list[str], Field(max_length=MOST_TOPICS)] = []
    closed: bool = False


class CourseSubject(Strict):
    key: KeyOrNew
    title: Title
    topics: Annotated[list[CourseTopic], Field(max_length=MOST_TOPICS)]


class CourseStructure(BaseModel):
    """What of a course can be edited."""

    title: Title
    subjects: Annotated[list[CourseSubject], Field(max_length=MOST_SUBJECTS)]
    constants: Constants


class CourseStructureIn(CourseStructure, Edited):
    """What is wanted of it."""


class TopicInUseOut(BaseModel):
    """What there is of a topic. `removable`: nothing but its page."""

    key: str
    questions: int
    drafts: int
    learners: int
    removable: bool


class CourseStructureOut(CourseStructure):
    """The structure as it is. `authors`: names of those who write for the course."""

    version: str
    authors: list[str]
    in_use: list[TopicInUseOut]


class StructureChangesOut(BaseModel):
    """What saving it would change, and what that means for learners."""

    changes: list[str]
    means: list[str]


class MergeTopicsIn(Strict):
    topic: Annotated[str, Field(max_length=60)]
    into: Annotated[str, Field(max_length=60)]


class MergingOut(BaseModel):
    """What putting two topics together means, in sentences."""

    means: list[str]
