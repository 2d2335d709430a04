"""Proof that every version of a family can be asked and answered."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

from vendaval_core.language import gettext

from ..errors import FamilyError
from ..items.drawn import Picture
from ..items.kinds.protocol import Key
from ..items.mark import Verdict
from ..items.model import Family
from ..items.svg import svg_faults
from ..items.versions import Version, make_version
from .copied import copied_faults
from .forms import FormsReport, forms_not_right
from .language import ENGLISH, Language, language_faults, texts_of

_NUMBER = re.compile(r"-?[\d.]+")
BLASTS = {"short", "long", "gap", "bell", "gong"}


@dataclass(frozen=True, slots=True)
class Fault:
    """Something wrong with a family: the field, a version's seed, and what is wrong."""

    where: str
    seed: int
    what: str


def _part_faults(key: Key) -> Iterator[str]:
    yield from key.faults()
    if key.by_person is not None:
        return
    examples = key.examples
    right = key.mark(examples.right)
    if right.verdict is not Verdict.RIGHT:
        yield gettext("the answer as shown, {right!r}, is not marked right: {says}").format(
            right=examples.right, says=right.says
        )
    if key.mark(examples.wrong).verdict not in {Verdict.WRONG, Verdict.PARTLY}:
        yield gettext("an answer far off isn’t marked wrong")


def picture_faults(picture: Picture | None) -> Iterator[str]:
    """Yield what is wrong with a figure's SVG or its description."""
    if picture is None:
        return
    if not picture.alt.strip():
        yield gettext("has no text alternative")
    for svg in [frame.svg for frame in picture.frames] or [picture.svg]:
        yield from svg_faults(svg)


def _figures(version: Version) -> Iterator[tuple[str, Picture | None]]:
    yield "figure", version.figure
    yield "solution_figure", version.solution_figure
    for key in version.parts:
        yield f"parts.{key.id}", key.figure


def _moving_faults(version: Version) -> Iterator[tuple[str, str]]:
    for key in version.parts:
        if key.figure is not None and key.figure.frames:
            yield f"parts.{key.id}", gettext("a figure that is answered on can’t move")


def _whole_faults(family: Family, version: Version) -> Iterator[tuple[str, str]]:
    texts = {"prompt": version.prompt, "title": version.title}
    yield from (
        (w, gettext("an unfilled [[ ]] is left")) for w, text in texts.items() if "[[" in text
    )
    if family.essential and all(key.by_person for key in version.parts):
        yield (
            "parts",
            gettext("an essential question needs a part that is marked by rule"),
        )
    if strange := set(version.sound) - BLASTS:
        yield (
            "sound",
            gettext("“{strange}” isn’t one of {blasts}").format(
                strange=min(strange), blasts=", ".join(sorted(BLASTS))
            ),
        )
    for where, picture in _figures(version):
        yield from ((where, what) for what in picture_faults(picture))
    yield from _moving_faults(version)


def _text_faults(version: Version, rules: Language) -> Iterator[tuple[str, str]]:
    for where, text in texts_of(version):
        yield from ((where, what) for what in language_faults(text, rules))


def _always_the_same(family: Family) -> Iterator[tuple[str, str]]:
    """Choices in a text or on a figure are not mixed: which are right has to be drawn."""
    if family.versions == 1 or family.elsewhere:
        return
    try:
        versions = [make_version(family, seed) for seed in range(1, family.versions + 1)]
    except FamilyError:
        return
    for place, key in enumerate(versions[0].parts):
        right = {version.parts[place].right_in_order() for version in versions}
        if len(right) == 1 and right != {None}:
            yield f"parts.{key.id}", gettext("the same places are right in every version")


def _form_faults(version: Version) -> Iterator[tuple[str, str]]:
    """Right answers that are not marked right as people usually type them."""
    for found in forms_not_right(version.family, version, FormsReport()):
        what = gettext("the right answer typed as “{typed}” is not marked right")
        yield f"parts.{found.part}", what.format(typed=found.typed)


def version_faults(
    family: Family, version: Version, rules: Language = ENGLISH
) -> list[tuple[str, str]]:
    """Return what is wrong with one version: fields, each with what. The usual ways to type an
    answer are tried with the first version only. What was written elsewhere, for other readers, has
    to be shown and marked, and is not held to this course's language."""
    if family.elsewhere:
        return must_faults(family, version)
    found = [*must_faults(family, version), *copied_faults(version)]
    if version.seed == 1:
        found += _form_faults(version)
    return [*found, *_text_faults(version, rules)]


def must_faults(family: Family, version: Version) -> list[tuple[str, str]]:
    """Return what keeps a version from being shown, answered and marked: fields, each with what."""
    found = [(f"parts.{key.id}", what) for key in version.parts for what in _part_faults(key)]
    return [*found, *_whole_faults(family, version)]


def faults_of_seed(
    family: Family, seed: int, rules: Language = ENGLISH
) -> tuple[Version | None, list[tuple[str, str]]]:
    """Return a version and what is wrong with it; no version where it can't be made."""
    try:
        version = make_version(family, seed)
    except FamilyError as error:
        return None, [(error.where, error.what)]
    return version, version_faults(family, version, rules)


def fault_kind(where: str, what: str) -> tuple[str, str]:
    """Return what two faults have in common that differ in their numbers only."""
    return where, _NUMBER.sub("", what)[:40]


def check_family(family: Family, rules: Language = ENGLISH) -> list[Fault]:
    """Return the faults in all versions of a family, the first of each kind. rules: of its
    language."""
    faults: dict[tuple[str, str], Fault] = {
        (where, what): Fault(where, 1, what) for where, what in _always_the_same(family)
    }
    for seed in range(1, family.versions + 1):
        for where, what in faults_of_seed(family, seed, rules)[1]:
            faults.setdefault(fault_kind(where, what), Fault(where, seed, what))
    return list(faults.values())
