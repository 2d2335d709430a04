"""The pack format: course, families and study pages as YAML and Markdown.

These models are the edge: they check a file and become core values. docs/content.md explains
the format with examples; the JSON Schemas in `packs/` are made from here.
"""

from __future__ import annotations

from typing import Annotated

from pydantic import BeforeValidator, Field, model_validator

from vendaval_core.language import gettext

from ..items import model as items
from ..items.fields import Expression, FigureFileModel, FigureModel, Strict, Text, from_pairs
from ..items.kinds.registry import AnyPart
from .constants import CONSTANTS

Key = Annotated[str, Field(pattern=r"^[a-z][a-z0-9-]*$", max_length=60)]
Name = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]*$", max_length=30)]
# Numbers that a formula looked for from examples may have in it.
Constants = Annotated[
    list[Annotated[float, Field(gt=0, le=100_000)]], Field(min_length=1, max_length=20)
]


class VariableModel(Strict):
    """One of: `range: [low, high, step]`, `pick: [values]`, `is: expression`."""

    range: tuple[Expression, Expression, Expression] | None = None
    pick: list[int | float | str] | None = Field(default=None, min_length=1)
    derived: str | None = Field(default=None, alias="is")

    @model_validator(mode="after")
    def exactly_one(self) -> VariableModel:
        given = [v for v in (self.range, self.pick, self.derived) if v is not None]
        if len(given) != 1:
            raise ValueError(gettext("give exactly one of range, pick, is"))
        return self

    def to_core(self, name: str) -> items.Variable:
        if self.range is not None:
            low, high, step = self.range
            return items.RangeVariable(name, low, high, step)
        if self.pick is not None:
            return items.PickVariable(name, tuple(self.pick))
        assert self.derived is not None
        return items.DerivedVariable(name, self.derived)


class FamilyModel(Strict):
    """One family file; its name is the family's key. elsewhere: written elsewhere, for other
    readers, so that it is not held to this course's language."""

    title: Annotated[str, Field(min_length=3, max_length=60)]
    essential: bool = False
    difficulty: int = Field(ge=1, le=5)
    seconds: float = Field(gt=0, le=1800)
    source: Text
    study: Annotated[str, Field(pattern=r"^([a-z][a-z0-9-]*#)?[a-z][a-z0-9-]*$")]
    variables: Annotated[dict[Name, VariableModel], BeforeValidator(from_pairs)] = {}
    constraints: list[str] = []
    prompt: Text
    figure: FigureModel | None = None
    stimulus: str = ""
    sound: str = ""
    sound_words: str = ""
    elsewhere: bool = False
    parts: list[AnyPart] = Field(min_length=1, max_length=6)
    hints: list[Text] = Field(default=[], max_length=4)
    solution: list[Text] = Field(min_length=1, max_length=10)
    solution_figure: FigureModel | None = None

    @model_validator(mode="after")
    def part_ids_differ(self) -> FamilyModel:
        ids = [part.id for part in self.parts]
        if len(set(ids)) < len(ids):
            raise ValueError(gettext("two parts have the same id"))
        return self

    def to_core(self, key: str, topic: str) -> items.Family:
        return items.Family(
            key=key,
            topic=topic,
            title=self.title,
            prompt=self.prompt,
            parts=tuple(self.parts),
            solution=tuple(self.solution),
            difficulty=self.difficulty,
            seconds=self.seconds,
            study=self.study,
            source=self.source,
            essential=self.essential,
            hints=tuple(self.hints),
            variables=tuple(v.to_core(name) for name, v in self.variables.items()),
            constraints=tuple(self.constraints),
            figure=self.figure.to_core() if self.figure else None,
            solution_figure=self.solution_figure.to_core() if self.solution_figure else None,
            stimulus=self.stimulus,
            sound=self.sound,
            sound_words=self.sound_words,
            elsewhere=self.elsewhere,
        )


class TopicModel(Strict):
    """A topic. closed: asked of nobody any more; what was learnt in it is kept."""

    key: Key
    title: Text
    target: float = Field(default=80.0, ge=10, le=95)
    importance: float = Field(default=1.0, gt=0, le=10)
    after: list[Key] = []
    closed: bool = False


class SubjectModel(Strict):
    key: Key
    title: Text
    topics: list[TopicModel] = Field(min_length=1)


class PriorModel(Strict):
    """Judgements about learners before any answer, in logits."""

    mean: float = 0.0
    sd: float = Field(default=1.3, gt=0, le=1.5)
    within_subject: float = Field(default=0.5, ge=0, le=0.9)
    across_subjects: float = Field(default=0.3, ge=0, le=0.9)


class LanguageModel(Strict):
    """Words of the course's own trade, for the check of its sentences. counted: nouns that go with
    numbers, one of each. three_figures: nouns of directions, whose angles have three figures.
    doubled: words that may stand twice in a row."""

    counted: list[Text] = []
    three_figures: list[Text] = []
    doubled: list[Text] = []


class RehearsalSectionModel(Strict):
    """A section of the whole test to rehearse. questions: names of files in rehearsal/."""

    title: Text
    directions: str = ""
    questions: list[str] = Field(min_length=1, max_length=60)
    one_page: bool = False
    forward_only: bool = False


class RehearsalModel(Strict):
    """The whole test to rehearse: its minutes and sections."""

    minutes: int = Field(default=40, ge=1, le=600)
    directions: str = ""
    sections: list[RehearsalSectionModel] = Field(min_length=1, max_length=20)


class CourseModel(Strict):
    """course.yaml at the top of a pack."""

    key: Key
    title: Text
    open_to_all: bool = False
    school: Text
    prior: PriorModel = PriorModel()
    language: LanguageModel = LanguageModel()
    rehearsal: RehearsalModel | None = None
    constants: Constants = list(CONSTANTS)
    subjects: list[SubjectModel] = Field(min_length=1)


SCHEMAS: dict[str, type[Strict]] = {
    "course": CourseModel,
    "family": FamilyModel,
    "figure": FigureFileModel,
}
