"""Resources beside the study sections: films with captions, files, and links."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from pathlib import Path
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from vendaval_core.language import gettext

from .located import PackProblem, read_yaml, validated

ENDINGS = {"video": (".webm", ".mp4"), "file": (".pdf", ".txt", ".csv", ".png")}
MOST_BYTES = 20_000_000
Key = Annotated[str, Field(pattern=r"^[a-z0-9-]{1,50}$")]
Name = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9._-]{0,80}$")]


class ResourceModel(BaseModel):
    """A resource as its list has it. section: of the study page, whose idea it explains."""

    model_config = ConfigDict(extra="forbid")
    key: Key
    title: Annotated[str, Field(min_length=1, max_length=120)]
    kind: Literal["video", "file", "link"]
    section: Key
    minutes: Annotated[int, Field(ge=1, le=120)]
    file: Name | None = None
    captions: Name | None = None
    url: Annotated[str, Field(pattern=r"^https://[^\s]+$", max_length=300)] | None = None


class ResourceList(BaseModel):
    """`resources/list.yaml` of a topic."""

    model_config = ConfigDict(extra="forbid")
    resources: Annotated[list[ResourceModel], Field(max_length=40)]


@dataclass(frozen=True, slots=True)
class Resource:
    """A checked resource; `file` and `captions` are where they lie."""

    model: ResourceModel
    file: Path | None
    captions: Path | None


def read_resources(
    folder: Path, topic: str, sections: Collection[str]
) -> tuple[tuple[Resource, ...], list[PackProblem]]:
    """Return the resources of a topic (none if it has no list) and what is wrong with them.

    folder: of the topic. sections: of its study page.
    """
    where, name = folder / "resources", f"topics/{topic}/resources/list.yaml"
    if not (where / "list.yaml").exists():
        return (), []
    located = read_yaml(where / "list.yaml", name)
    if isinstance(located, PackProblem):
        return (), [located]
    found = validated(ResourceList, located)
    if isinstance(found, list):
        return (), found
    problems: list[PackProblem] = []
    seen: set[str] = set()
    for number, one in enumerate(found.resources):
        for field, what in _faults(one, where, sections, seen):
            problems.append(located.problem(["resources", number, field], what))
        seen.add(one.key)
    if problems:
        return (), problems
    return tuple(
        Resource(
            one,
            where / one.file if one.file else None,
            where / one.captions if one.captions else None,
        )
        for one in found.resources
    ), []


def _faults(
    one: ResourceModel, where: Path, sections: Collection[str], seen: Collection[str]
) -> list[tuple[str, str]]:
    faults = []
    if one.key in seen:
        faults.append(("key", gettext("“{one}” is there twice").format(one=one.key)))
    if one.section not in sections:
        faults.append(
            ("section", gettext("there is no section “{section}”").format(section=one.section))
        )
    if one.kind == "link":
        if one.url is None:
            faults.append(("url", gettext("a link needs a url")))
        return faults
    if one.file is None:
        return [*faults, ("file", gettext("a {kind} needs a file").format(kind=one.kind))]
    if not one.file.endswith(ENDINGS[one.kind]):
        faults.append(
            (
                "file",
                gettext("a {kind} must end in {endings}").format(
                    kind=one.kind, endings=", ".join(ENDINGS[one.kind])
                ),
            )
        )
    named = [("file", one.file)]
    if one.kind == "video":
        if one.captions is None or not one.captions.endswith(".vtt"):
            return [*faults, ("captions", gettext("a video needs captions, a .vtt file"))]
        named.append(("captions", one.captions))
    for field, name in named:
        path = where / name
        if not path.is_file():
            faults.append((field, gettext("resources/{name} is missing").format(name=name)))
        elif path.stat().st_size > MOST_BYTES:
            faults.append(
                (
                    field,
                    gettext("{name} is larger than {most_bytes} MB").format(
                        name=name, most_bytes=MOST_BYTES // 1000000
                    ),
                )
            )
    return faults
