"""A pack's folder and what was changed in the browser since it was loaded, put together by file.

What only one of the two changed is taken from it; a file that both changed is a problem that
somebody has to settle.
"""

from __future__ import annotations

from pathlib import Path

from django.utils.translation import gettext

from vendaval_core.packs.located import PackProblem

from . import models
from .kept import Kept, kept_files


def put_together(folder: Path, course: models.Course, into: Path) -> list[PackProblem]:
    """Write the files of a pack's folder and of a course into an empty folder: what both changed
    is returned, and is as the pack has it."""
    kept = kept_files(course)
    problems = []
    files = {str(p.relative_to(folder)): p for p in sorted(folder.rglob("*")) if p.is_file()}
    for path in sorted(files.keys() | kept.keys()):
        theirs = files[path].read_bytes() if path in files else None
        mine = kept.get(path)
        content = theirs if mine is None else _merged(theirs, mine)
        if mine is not None and _both_changed(theirs, mine):
            says = gettext("was changed here and in the pack; the pack’s would replace it")
            problems.append(PackProblem(path, 1, "(file)", says))
        if content is not None:
            target = into / path
            target.parent.mkdir(parents=True, exist_ok=True)
            target.write_bytes(content)
    return problems


def changed_here(course: models.Course) -> bool:
    """Whether anything of a course is not as its pack had it."""
    return any(_mine(one) != one.in_pack for one in kept_files(course).values())


def _mine(kept: Kept) -> bytes | None:
    return None if kept.gone else kept.content


def _merged(theirs: bytes | None, kept: Kept) -> bytes | None:
    return theirs if theirs != kept.in_pack else _mine(kept)


def _both_changed(theirs: bytes | None, kept: Kept) -> bool:
    mine = _mine(kept)
    return kept.in_pack not in {theirs, mine} and mine != theirs
