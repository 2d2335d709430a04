"""Questions of a pack with all their versions checked. Runs as a program in a sandbox."""

from __future__ import annotations

import json
from typing import Any

from vendaval.shared.sandboxed import Reply, serve
from vendaval_core.items.formulas.workers import insisting
from vendaval_core.packs.checks import check_family
from vendaval_core.packs.families import checked_family
from vendaval_core.packs.language import language
from vendaval_core.packs.topic_files import KeptFiles


def work(asked: dict[str, Any], data: bytes) -> Reply:
    """What is wrong with each of some questions: file, line, field and what."""
    sent = json.loads(data)
    rules, problems = language(**sent["words"]), []
    with insisting():
        for one in sent["families"]:
            found = checked_family(
                one["text"],
                one["path"],
                one["key"],
                one["topic"],
                KeptFiles(sent["files"].get(one["topic"], {})),
                lambda family: check_family(family, rules),
            )
            problems += [[p.file, p.line, p.field, p.what] for p in found.problems]
    return {"problems": problems}, []


if __name__ == "__main__":
    serve(work)
