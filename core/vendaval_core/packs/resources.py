"""Resources beside the study sections: films with captions, files, and links."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from pathlib import Path
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from vendaval_core.language import gettext

from .located import LocatedYaml, PackProblem, parse_yaml, read_yaml, validated

ENDINGS = {"video": (".webm", ".mp4"), "file": (".pdf", ".txt", ".csv", ".png")}
MOST_BYTES = 20_000_000
Key = Annotated[str, Field(pattern=r"^[a-z0-9-]{1,50}$")]
NAME = r"^[a-z0-9][a-z0-9._-]{0,80}$"
Name = Annotated[str, Field(pattern=NAME)]


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


def resources_path(topic: str) -> str:
    """Where a pack has the list of a topic's resources."""
    return f"topics/{topic}/resources/list.yaml"


def read_resources(
    folder: Path, topic: str, sections: Collection[str]
) -> tuple[tuple[ResourceModel, ...], list[PackProblem]]:
    """Return the resources of a topic (none if it has no list) and what is wrong with them.

    folder: of the topic. sections: of its study page.
    """
    where = folder / "resources"
    if not (where / "list.yaml").exists():
        return (), []
    located = read_yaml(where / "list.yaml", resources_path(topic))
    sizes = {path.name: path.stat().st_size for path in where.iterdir() if path.is_file()}
    return _checked(located, sections, sizes)


def resources_in(
    text: str, topic: str, sections: Collection[str], sizes: Mapping[str, int]
) -> tuple[tuple[ResourceModel, ...], list[PackProblem]]:
    """The same of a list as text ("" for none). sizes: in bytes, of the files beside it."""
    if not text:
        return (), []
    return _checked(parse_yaml(text, resources_path(topic)), sections, sizes)


def _checked(
    located: LocatedYaml | PackProblem, sections: Collection[str], sizes: Mapping[str, int]
) -> tuple[tuple[ResourceModel, ...], list[PackProblem]]:
    if isinstance(located, PackProblem):
        return (), [located]
    found = validated(ResourceList, located)
    if isinstance(found, list):
        return (), found
    problems: list[PackProblem] = []
    seen: set[str] = set()
    for number, one in enumerate(found.resources):
        for field, what in _faults(one, sizes, sections, seen):
            problems.append(located.problem(["resources", number, field], what))
        seen.add(one.key)
    return (() if problems else tuple(found.resources)), problems


def _faults(
    one: ResourceModel, sizes: Mapping[str, int], sections: Collection[str], seen: Collection[str]
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
        if name not in sizes:
            faults.append((field, gettext("resources/{name} is missing").format(name=name)))
        elif sizes[name] > MOST_BYTES:
            faults.append(
                (
                    field,
                    gettext("{name} is larger than {most_bytes} MB").format(
                        name=name, most_bytes=MOST_BYTES // 1000000
                    ),
                )
            )
    return faults


# How each begins: WebM by RFC 8794 (EBML), MP4 by ISO/IEC 14496-12, PDF by ISO 32000-1, PNG by its
# specification of the W3C, captions by WebVTT of the W3C.
_BEGINNINGS = {
    ".webm": (0, b"\x1a\x45\xdf\xa3"),
    ".mp4": (4, b"ftyp"),
    ".pdf": (0, b"%PDF-"),
    ".png": (0, b"\x89PNG\r\n\x1a\n"),
}


def fault_of(name: str, content: bytes) -> str | None:
    """Say why a file can't stand beside a study section; None if it can."""
    ending = name[name.rfind(".") :]
    if len(content) > MOST_BYTES:
        says = gettext("{name} is larger than {most_bytes} MB")
        return says.format(name=name, most_bytes=MOST_BYTES // 1_000_000)
    if ending in _BEGINNINGS:
        at, mark = _BEGINNINGS[ending]
        if content[at : at + len(mark)] != mark:
            return gettext("{name} isn’t what its ending says").format(name=name)
        return None
    if ending not in {".txt", ".csv", ".vtt"}:
        known = ", ".join([*ENDINGS["video"], *ENDINGS["file"], ".vtt"])
        return gettext("use a file that ends in {known}").format(known=known)
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        return gettext("{name} isn’t text in UTF-8").format(name=name)
    if ending == ".vtt" and not (text.startswith("WEBVTT") and " --> " in text):
        return gettext("{name} isn’t captions in WebVTT").format(name=name)
    return None
