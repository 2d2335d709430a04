"""All versions of a family checked, in a process of its own: what somebody wrote may take long."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from vendaval.shared.sandboxed import Reply, serve
from vendaval_core.items.formulas.workers import insisting
from vendaval_core.packs.checks import check_family
from vendaval_core.packs.families import checked_family
from vendaval_core.packs.language import language
from vendaval_core.packs.topic_files import KeptFiles

MODULE = "vendaval.authoring.checking"


@dataclass(frozen=True, slots=True)
class ToCheck:
    """A family to be checked. files: of its topic. words: the course's own."""

    text: str
    path: str
    key: str
    topic: str
    files: Mapping[str, str]
    words: Mapping[str, Any]

    def packed(self) -> bytes:
        """As it is sent to the process."""
        return json.dumps({name: getattr(self, name) for name in self.__slots__}).encode()


def work(asked: dict[str, Any], data: bytes) -> Reply:
    """Everything that is wrong with a family: line, field and what."""
    sent = ToCheck(**json.loads(data))
    rules = language(**sent.words)
    with insisting():
        found = checked_family(
            sent.text,
            sent.path,
            sent.key,
            sent.topic,
            KeptFiles(sent.files),
            lambda family: check_family(family, rules),
        )
    problems = [[one.line, one.field, one.what] for one in found.problems]
    return {"problems": problems}, []


if __name__ == "__main__":
    serve(work)
