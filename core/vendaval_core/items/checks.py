"""Proof that every version of a family can be asked and answered."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..errors import ExpressionError, FamilyError
from ..scoring.marking import Verdict, mark_part
from ..scoring.reading import read_text
from .expressions import evaluate_number
from .model import Family, NumberEntryPart
from .versions import ChoiceKey, NumberKey, PartKey, TextKey, TimeKey, Version, make_version


@dataclass(frozen=True, slots=True)
class Fault:
    """Something wrong with a family: the field, a version's seed, and what is wrong."""

    where: str
    seed: int
    what: str


def right_response(key: PartKey) -> str:
    """A response that must be marked right, as a learner would give it."""
    match key:
        case ChoiceKey():
            return key.right.id
        case NumberKey() | TimeKey():
            return key.shown
        case TextKey():
            return key.accepted[0]


def wrong_response(key: PartKey) -> str:
    """A readable response that must be marked wrong."""
    match key:
        case ChoiceKey():
            return next(choice.id for choice in key.choices if not choice.right)
        case NumberKey():
            return f"{key.answer + 1000 * max(key.tolerance, 1.0):.3f}"
        case TimeKey():
            away = int(key.answer + 360) % 1440
            return f"{away // 60:02d}:{away % 60:02d}"
        case TextKey():
            return "not " + key.accepted[0]


def _part_faults(key: PartKey) -> Iterator[str]:
    if mark_part(key, right_response(key)).verdict is not Verdict.RIGHT:
        yield f"the answer as shown, {right_response(key)!r}, is not marked right"
    if mark_part(key, wrong_response(key)).verdict is not Verdict.WRONG:
        yield "an answer far off is not marked wrong"
    if isinstance(key, ChoiceKey):
        texts = [choice.text.strip().casefold() for choice in key.choices]
        if len(set(texts)) < len(texts):
            yield f"two choices are the same: {sorted(texts)}"
        return
    for miss in key.near_misses:
        if isinstance(key, TextKey):
            near = read_text(str(miss.value)) in {read_text(text) for text in key.accepted}
        else:
            near = abs(float(miss.value) - key.answer) <= key.tolerance + 1e-9
        if near:
            yield f"near miss {miss.value} is right (answer {right_response(key)})"


def _range_faults(family: Family, version: Version) -> Iterator[tuple[str, str]]:
    for part, key in zip(family.parts, version.parts, strict=True):
        if not isinstance(part, NumberEntryPart) or not isinstance(key, NumberKey):
            continue
        try:
            least, most = (
                None if bound is None else evaluate_number(bound, version.variables)
                for bound in (part.least, part.most)
            )
        except ExpressionError as error:
            yield f"parts.{part.id}", str(error)
            continue
        if (least is not None and key.answer < least) or (most is not None and key.answer > most):
            yield f"parts.{part.id}", f"answer {key.answer:g} is outside {least} to {most}"


def check_family(family: Family) -> list[Fault]:
    """Faults of all versions of a family, the first of each kind."""
    faults: dict[tuple[str, str], Fault] = {}
    for seed in range(1, family.versions + 1):
        found: list[tuple[str, str]] = []
        try:
            version = make_version(family, seed)
        except FamilyError as error:
            found.append((error.where, error.what))
        else:
            for key in version.parts:
                found += [(f"parts.{key.id}", what) for what in _part_faults(key)]
            found += _range_faults(family, version)
            texts = {"prompt": version.prompt, "title": version.title}
            found += [(w, "an unfilled [[ ]] is left") for w, text in texts.items() if "[[" in text]
        for where, what in found:
            faults.setdefault((where, what.split("(")[0][:40]), Fault(where, seed, what))
    return list(faults.values())
