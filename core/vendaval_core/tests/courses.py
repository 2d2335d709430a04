"""Courses for tests: the whole one, read once, and a small one to do harm to."""

from __future__ import annotations

import shutil
from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache
from pathlib import Path
from tempfile import TemporaryDirectory

from vendaval_core.packs.located import PackInvalid
from vendaval_core.packs.reader import Pack, read_pack

PACKS = Path(__file__).resolve().parents[3] / "packs"
INSHORE = PACKS / "inshore"
COURSE = """\
key: small
title: Small
school: Escola do Molhe
subjects:
  - key: tides
    title: Tides
    topics:
      - {key: tidal-terms, title: Tidal terms}
      - {key: height-at-a-time, title: Height at a time, after: [tidal-terms]}
"""
KEPT = {"range-of-tide.yaml", "spring-moon.yaml", "fastest-hours.yaml", "study.md"}


@lru_cache(maxsize=1)
def inshore() -> Pack:
    """The demo course, read once in a process. `make check` makes and checks every version."""
    return read_pack(INSHORE, versions=False)


def inshore_only(*topics: str) -> Pack:
    """The demo course with these topics alone."""
    pack = inshore()
    subjects = []
    for subject in pack.course.subjects:
        kept = [
            topic.model_copy(update={"after": [key for key in topic.after if key in topics]})
            for topic in subject.topics
            if topic.key in topics
        ]
        if kept:
            subjects.append(subject.model_copy(update={"topics": kept}))
    return replace(
        pack,
        course=pack.course.model_copy(update={"subjects": subjects}),
        families=tuple(item for item in pack.families if item.family.topic in topics),
        study={key: sections for key, sections in pack.study.items() if key in topics},
    )


def small_pack(root: Path, *, whole: bool = False) -> None:
    """Write the small course, which is without fault. whole: with all families of its topics."""
    (root / "course.yaml").write_text(COURSE)
    for topic in ("tidal-terms", "height-at-a-time"):
        shutil.copytree(INSHORE / "topics" / topic, root / "topics" / topic)
    for path in root.glob("topics/*/*"):
        if path.is_file() and path.name not in KEPT and not whole:
            path.unlink()


def replaced(file: str, old: str, new: str) -> Callable[[Path], None]:
    """A change of one text in one file."""

    def change(root: Path) -> None:
        text = (root / file).read_text()
        assert old in text, f"{old} is not in {file}"
        (root / file).write_text(text.replace(old, new, 1))

    return change


def refused(change: Callable[[Path], None]) -> list[str]:
    """Problems that the reader has with the small course after a change."""
    with TemporaryDirectory() as folder:
        root = Path(folder)
        small_pack(root)
        change(root)
        try:
            read_pack(root)
        except PackInvalid as error:
            return [str(problem) for problem in error.problems]
        raise AssertionError("the pack was taken as it is")
