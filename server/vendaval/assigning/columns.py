"""What JSON columns of set work hold."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from vendaval.groups.columns import StudyFirst
from vendaval_core.mastery.handing_in import Asked, Wanted

Key = Annotated[str, Field(max_length=60)]
Topics = Annotated[list[Key], Field(min_length=1, max_length=40)]


class Kept(BaseModel):
    model_config = ConfigDict(extra="forbid")


class TargetTask(Kept):
    """Practice to the target of every topic."""

    kind: Literal["target"]
    topics: Topics


class IdeasTask(Kept):
    """Practice of some ideas: two right first answers without help each."""

    kind: Literal["ideas"]
    families: Annotated[list[Key], Field(min_length=1, max_length=40)]


class QuestionsTask(Kept):
    """So many practice questions of some topics, right or wrong."""

    kind: Literal["questions"]
    topics: Topics
    questions: Annotated[int, Field(ge=1, le=100)]


class DiagnosticTask(Kept):
    """A diagnostic of a subject, or of all where it is null."""

    kind: Literal["diagnostic"]
    subject: Key | None = None


class StudyTask(Kept):
    """Study sections to read."""

    kind: Literal["study"]
    sections: Annotated[list[StudyFirst], Field(min_length=1, max_length=20)]


class HandInTask(Kept):
    """Something of one's own making to hand in."""

    kind: Literal["hand_in"]


class AsksData(Kept):
    """What is handed in with a piece of work. says: what it should be, in Markdown; points: that
    there are for it, None where it is not marked with points."""

    files: Wanted = Wanted.NONE
    links: Wanted = Wanted.NONE
    says: Annotated[str, Field(max_length=4000)] = ""
    points: Annotated[int, Field(ge=1, le=100)] | None = None

    def core(self) -> Asked:
        """As the core takes it."""
        return Asked(self.files, self.links)


Goal = Annotated[
    TargetTask | IdeasTask | QuestionsTask | DiagnosticTask | StudyTask | HandInTask,
    Field(discriminator="kind"),
]
