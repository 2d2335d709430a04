"""Families from their files: read, with the figures and texts they name put in their place."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from copy import deepcopy
from dataclasses import dataclass, replace
from pathlib import PurePosixPath
from typing import cast

from vendaval_core.language import gettext

from ..items.model import Family
from .checks import Fault
from .figures import figure_data
from .located import LocatedYaml, PackProblem, parse_yaml, validated
from .schema import FamilyModel
from .topic_files import TopicFiles

ORDERED = ("variables", "values")


def with_lists(data: object) -> object:
    """Return plain data in which ordered mappings are lists of pairs, because databases keep only
    the order of lists."""
    if isinstance(data, dict):
        return {
            name: [[inner, with_lists(one)] for inner, one in value.items()]
            if name in ORDERED and isinstance(value, dict)
            else with_lists(value)
            for name, value in data.items()
        }
    return [with_lists(one) for one in data] if isinstance(data, list) else data


def family_from_data(key: str, topic: str, data: dict[str, object]) -> Family:
    """Make a family from data that was checked before."""
    return FamilyModel.model_validate(data).to_core(key, topic)


@dataclass(frozen=True, slots=True)
class PackFamily:
    """A family with the plain data it was made from, which is what a database keeps.

    text: its file, byte for byte; "" for one that was not read from a file.
    """

    family: Family
    data: dict[str, object]
    text: str = ""


def _field_path(where: str, family: Family) -> list[int | str]:
    """Path in the file for a fault's field: parts are named by id there, by place in the file."""
    steps = where.split(".")
    if steps[0] == "parts" and len(steps) > 1:
        ids = [part.id for part in family.parts]
        return ["parts", ids.index(steps[1]), *steps[2:]] if steps[1] in ids else ["parts"]
    return [int(step) if step.isdigit() else step for step in steps]


def _take_in(located: LocatedYaml, files: TopicFiles) -> list[PackProblem]:
    """Put the text of the figures and the stimulus that a family names in their place."""
    problems: list[PackProblem] = []

    def walk(value: object, path: list[int | str]) -> None:
        if isinstance(value, dict):
            if isinstance(value.get("file"), str) and "alt" in value:
                name = value.pop("file")
                data = figure_data(files, name, located.file)
                if isinstance(data, dict):
                    value |= data
                else:
                    at = located.problem(path, "").line
                    problems.extend(
                        replace(fault, line=at) if fault.file == located.file else fault
                        for fault in data
                    )
            for key, inner in value.items():
                walk(inner, [*path, key])
        elif isinstance(value, list):
            for number, inner in enumerate(value):
                walk(inner, [*path, number])

    walk(located.data, [])
    named = located.data.get("stimulus")
    if isinstance(named, str) and named and "\n" not in named:
        name = f"{located.data['stimulus']}.md"
        own = f"{PurePosixPath(located.file).parent}/stimuli/{name}"
        stimulus = files.read(f"stimuli/{name}", own)
        if isinstance(stimulus, PackProblem):
            problems.append(stimulus)
        elif stimulus is not None:
            located.data["stimulus"] = stimulus
        else:
            problems.append(
                located.problem(
                    ["stimulus"], gettext("stimuli/{name} is missing").format(name=name)
                )
            )
    return problems


@dataclass(frozen=True, slots=True)
class FamilyRead:
    """A family's file as it was read.

    data: what stands in the file, None where it is no YAML. located: to find a field's line; with
    the figures it names in their place. read: the family, None where something is wrong.
    """

    data: dict[str, object] | None
    located: LocatedYaml | None
    read: PackFamily | None
    problems: tuple[PackProblem, ...] = ()


def read_family(text: str, file: str, key: str, topic: str, files: TopicFiles) -> FamilyRead:
    """Read a family from its file's text; its versions are not checked.

    file: its path in the pack. files: of its topic.
    """
    located = parse_yaml(text, file)
    if isinstance(located, PackProblem):
        return FamilyRead(None, None, None, (located,))
    plain = cast(dict[str, object], deepcopy(located.data))
    problems = _take_in(located, files)
    if problems:
        return FamilyRead(plain, located, None, tuple(problems))
    model = validated(FamilyModel, located)
    if isinstance(model, list):
        return FamilyRead(plain, located, None, tuple(model))
    data = cast(dict[str, object], with_lists(located.data))
    return FamilyRead(plain, located, PackFamily(model.to_core(key, topic), data, text))


def fault_problem(fault: Fault, family: Family, located: LocatedYaml) -> PackProblem:
    """A fault of a version, as a problem at its field's line."""
    says = gettext("version {seed}: {what}").format(seed=fault.seed, what=fault.what)
    return located.problem(_field_path(fault.where, family), says)


def checked_family(
    text: str,
    file: str,
    key: str,
    topic: str,
    files: TopicFiles,
    check: Callable[[Family], Iterable[Fault]],
) -> FamilyRead:
    """Read a family and check it. check: yields the faults of its versions."""
    found = read_family(text, file, key, topic, files)
    if found.read is None or found.located is None:
        return found
    family, located = found.read.family, found.located
    problems = tuple(fault_problem(fault, family, located) for fault in check(family))
    return replace(found, problems=problems)
