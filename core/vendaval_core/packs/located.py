"""YAML with line numbers, and problems that say file, line, field and what."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path
from typing import Any, TypeVar

import yaml
from pydantic import BaseModel, ValidationError

from vendaval_core.language import gettext

from ..items.kinds.tagged import TAG

M = TypeVar("M", bound=BaseModel)
MOST_BYTES = 1_000_000


@dataclass(frozen=True, slots=True, order=True)
class PackProblem:
    """One thing wrong in a pack."""

    file: str
    line: int
    field: str
    what: str

    def __str__(self) -> str:
        return f"{self.file}:{self.line}: {self.field}: {self.what}"


class PackInvalid(Exception):
    """A pack that was refused as a whole, with everything that is wrong in it."""

    code = "pack_invalid"

    def __init__(self, problems: Iterable[PackProblem]) -> None:
        self.problems = sorted(problems)
        super().__init__("\n".join(map(str, self.problems)))


@dataclass(frozen=True, slots=True)
class LocatedYaml:
    """A YAML file read with its node tree, so that a field can be found again."""

    file: str
    data: Any
    root: yaml.Node

    def line_of(self, path: Iterable[int | str]) -> int:
        """Line, from 1, of the deepest node of a path that exists."""
        node = self.root
        line = node.start_mark.line
        for step in path:
            if isinstance(node, yaml.MappingNode):
                pair = next(((k, v) for k, v in node.value if k.value == str(step)), None)
                if pair is None:
                    continue
                line, node = pair[0].start_mark.line, pair[1]
            elif isinstance(node, yaml.SequenceNode) and isinstance(step, int):
                if step >= len(node.value):
                    break
                node = node.value[step]
                line = node.start_mark.line
        return line + 1

    def problem(self, path: Iterable[int | str], what: str) -> PackProblem:
        """A problem at a field of this file."""
        steps = [step for step in path if not str(step).startswith(TAG)]
        field = ".".join(map(str, steps)) or gettext("(whole file)")
        return PackProblem(self.file, self.line_of(steps), field, what)


class _StrictLoader(yaml.SafeLoader):
    """Safe loader that refuses a key given twice, and aliases: a few lines of them unfold to more
    than any memory holds."""

    def compose_node(self, parent: yaml.Node | None, index: int) -> yaml.Node | None:
        if self.check_event(yaml.AliasEvent):
            event = self.peek_event()  # type: ignore[no-untyped-call]
            raise yaml.composer.ComposerError(
                None, None, f"aliases (*{event.anchor}) aren’t supported", event.start_mark
            )
        return super().compose_node(parent, index)

    def construct_mapping(self, node: yaml.MappingNode, deep: bool = False) -> dict[Any, Any]:
        keys = [key.value for key, _ in node.value]
        twice = next((key for key in keys if keys.count(key) > 1), None)
        if twice is not None:
            raise yaml.constructor.ConstructorError(
                None, None, gettext("“{twice}” is given twice").format(twice=twice), node.start_mark
            )
        return super().construct_mapping(node, deep)


def read_utf8(path: Path, file: str) -> str | PackProblem:
    """Return the text of a file, or why it can't be read."""
    try:
        if path.stat().st_size > MOST_BYTES:
            return PackProblem(
                file,
                1,
                "(file)",
                gettext("is larger than {most_bytes} bytes").format(most_bytes=MOST_BYTES),
            )
        return path.read_text(encoding="utf-8")
    except UnicodeDecodeError as error:
        return PackProblem(
            file, 1, "(file)", gettext("byte {at} is not UTF-8 text").format(at=error.start + 1)
        )
    except OSError as error:
        return PackProblem(file, 1, "(file)", str(error))


def read_yaml(path: Path, file: str) -> LocatedYaml | PackProblem:
    """Read a YAML file with the line of every value, or return why it can't be read."""
    text = read_utf8(path, file)
    return text if isinstance(text, PackProblem) else parse_yaml(text, file)


def parse_yaml(text: str, file: str) -> LocatedYaml | PackProblem:
    """Read YAML with the line of every value, or return why it can't be read."""
    try:
        loader = _StrictLoader(text)
        root = loader.get_single_node()
        data = None if root is None else loader.construct_document(root)
    except yaml.MarkedYAMLError as error:
        line = error.problem_mark.line + 1 if error.problem_mark else 1
        return PackProblem(file, line, "(yaml)", str(error.problem))
    except (yaml.YAMLError, ValueError, RecursionError) as error:
        return PackProblem(file, 1, "(yaml)", str(error))
    if root is None or not isinstance(data, dict):
        return PackProblem(file, 1, gettext("(whole file)"), gettext("isn’t a mapping of fields"))
    return LocatedYaml(file, data, root)


def validated(model: type[M], source: LocatedYaml) -> M | list[PackProblem]:
    """Return the file as a checked model, or every problem in it."""
    try:
        return model.model_validate(source.data)
    except ValidationError as error:
        return [source.problem(e["loc"], e["msg"]) for e in error.errors()]
