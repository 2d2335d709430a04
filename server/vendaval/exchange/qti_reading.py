"""A package of QTI that somebody sent: what is in it, and its items as they would be taken in. Runs
as a program in a sandbox."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from vendaval.shared.sandboxed import Refused, Reply, serve
from vendaval_core.errors import ArchiveError
from vendaval_core.exchange.archive import unpacked
from vendaval_core.exchange.qti.package_in import find, take
from vendaval_core.items.processing.nodes import XmlError
from vendaval_core.language import gettext

ALONE = "item.xml"


def files_of(data: bytes) -> dict[str, bytes]:
    """The files of an archive, or one that was sent alone. ArchiveError for what is neither."""
    return unpacked(data) if data[:2] == b"PK" else {ALONE: data}


def work(asked: dict[str, Any], data: bytes) -> Reply:
    """What a package holds; with `paths`, what each of these items becomes."""
    try:
        files = files_of(data)
        if "course.yaml" in files:
            return {"pack": True}, []
        found = find(files)
    except ArchiveError as error:
        raise Refused(str(error), gettext("can’t be unpacked")) from error
    except XmlError as error:
        raise Refused(str(error), gettext("can’t be read")) from error
    if "paths" not in asked:
        items = [
            {"path": path, "title": about.title, "topics": list(about.topics)}
            for path, about in found.items.items()
        ]
        return {"pack": False, "items": items, "notes": found.notes}, []
    taken = []
    for path in asked["paths"]:
        one = take(files, path, found.items[path])
        taken.append(
            {
                **asdict(one.read),
                "path": path,
                "topics": list(one.about.topics),
                "source": one.about.source,
                "digest": one.digest,
                "key": one.key,
                "of": one.of,
            }
        )
    return {"items": taken}, []


if __name__ == "__main__":
    serve(work)
