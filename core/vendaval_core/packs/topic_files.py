"""The files of a topic's folder, wherever they are kept: in a pack's folder, or with a course."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol

from .located import PackProblem, read_utf8


class TopicFiles(Protocol):
    """Figures and shared texts that families and study pages name, by their path in the topic's
    folder: `figures/low.svg`, `stimuli/log.md`."""

    def read(self, name: str, file: str) -> str | PackProblem | None:
        """The text of a file, why it can't be read, or None if there is none. file: its path in
        the pack, to report problems with."""


@dataclass(frozen=True, slots=True)
class FolderFiles:
    """Those in a folder, and nothing outside it."""

    folder: Path

    def read(self, name: str, file: str) -> str | PackProblem | None:
        path = self.folder / name
        if not (path.is_file() and path.resolve().is_relative_to(self.folder.resolve())):
            return None
        return read_utf8(path, file)


@dataclass(frozen=True, slots=True)
class KeptFiles:
    """Those that are kept elsewhere: texts by name."""

    texts: Mapping[str, str]

    def read(self, name: str, file: str) -> str | PackProblem | None:
        return self.texts.get(name)
