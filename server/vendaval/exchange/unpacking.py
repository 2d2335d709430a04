"""An archive that somebody sent, unpacked. Runs as a program in a sandbox."""

from __future__ import annotations

from typing import Any

from vendaval.shared.sandboxed import Refused, Reply, serve
from vendaval_core.errors import ArchiveError
from vendaval_core.exchange.archive import digest_faults, unpacked
from vendaval_core.language import gettext


def work(asked: dict[str, Any], data: bytes) -> Reply:
    """The files of an archive: their paths, and what of them isn't as it was packed."""
    try:
        files = unpacked(data)
    except ArchiveError as error:
        raise Refused(str(error), gettext("can’t be unpacked")) from error
    return {"paths": list(files), "faults": digest_faults(files)}, list(files.values())


if __name__ == "__main__":
    serve(work)
