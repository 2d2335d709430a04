"""A package of QTI that somebody sent: what is in it, and its items as they would be taken in. Runs
as a program in a sandbox."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from vendaval.shared.sandboxed import Refused, Reply, serve
from vendaval_core.errors import ArchiveError
from vendaval_core.exchange.archive import unpacked
from vendaval_core.exchange.qti.asked import Plain
from vendaval_core.exchange.qti.package_in import find, take, take_test
from vendaval_core.items.markdown import to_words
from vendaval_core.items.processing.nodes import XmlError
from vendaval_core.items.versions import make_version
from vendaval_core.language import gettext
from vendaval_core.packs.families import family_from_data

ALONE = "item.xml"
MOST_SHOWN = 300


def files_of(data: bytes) -> dict[str, bytes]:
    """The files of an archive, or one that was sent alone. ArchiveError for what is neither."""
    return unpacked(data) if data[:2] == b"PK" else {ALONE: data}


def shown_words(data: Plain) -> dict[str, str]:
    """What an item asks and what is right, in words as rows of an import show them."""
    if data is None:
        return {}
    family = family_from_data("item", "topic", {"study": "start", "source": "QTI", **data})
    version = make_version(family, 1)
    right = "; ".join(key.right_words() for key in version.parts)
    return {
        "asks": to_words(version.prompt)[:MOST_SHOWN] or version.title,
        "right": to_words(right)[:MOST_SHOWN],
    }


def work(asked: dict[str, Any], data: bytes) -> Reply:
    """What a package holds; with `paths`, what each of these items becomes; with `tests`, its
    tests."""
    try:
        files = files_of(data)
        if "course.yaml" in files:
            return {"pack": True}, []
        found = find(files)
    except ArchiveError as error:
        raise Refused(str(error), gettext("can’t be unpacked")) from error
    except XmlError as error:
        raise Refused(str(error), gettext("can’t be read")) from error
    if asked.get("tests"):
        return {"tests": [asdict(take_test(files, path, found)) for path in found.tests]}, []
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
                **shown_words(one.read.data),
            }
        )
    return {"items": taken}, []


if __name__ == "__main__":
    serve(work)
