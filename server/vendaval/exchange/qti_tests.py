"""Tests of a package: read, shown before they are taken in, set up over the questions that came
with them, and taken back."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

from django.core.files.storage import default_storage
from django.db import transaction
from django.db.models import Q
from django.utils.translation import gettext
from pydantic import ValidationError

from vendaval.exams.columns import CompositionData, EntryData, RulesData, SectionData
from vendaval.exams.composing.actions import make_test
from vendaval.exams.models import Assignment, Attempt, Test
from vendaval.people.models import User
from vendaval.shared.errors import Conflict, NotFound, Unprocessable
from vendaval.shared.sandbox import in_sandbox

from .models import Import, ImportState
from .qti_in import LIMITS, MODULE
from .schemas import ImportedTestOut

FINEST = 1_000_000


def read_tests(of: Import) -> None:
    """Read a package's tests, in a process of their own."""
    with default_storage.open(of.stored) as file:
        content = file.read()
    says, _ = in_sandbox(MODULE, {"tests": True}, content, who=f"import-{of.pk}", limits=LIMITS)
    of.tests = [one | {"skip": False, "made": None} for one in says["tests"]]
    Import.objects.filter(pk=of.pk).update(tests=of.tests)


def choose_test(of: Import, number: int, *, skip: bool) -> None:
    """Take a test in with its questions, or leave it out."""
    with transaction.atomic():
        kept = Import.objects.select_for_update().get(pk=of.pk)
        if not 0 <= number < len(kept.tests):
            raise NotFound(gettext("There is no such test in this file."))
        if kept.state not in {ImportState.READY, ImportState.FAILED}:
            raise Conflict(gettext("It is done with."), code="not_ready")
        kept.tests[number]["skip"] = skip
        kept.save(update_fields=["tests"])
        of.tests = kept.tests


@dataclass(frozen=True, slots=True)
class _Item:
    """An item of the package: which question it is here, "" for none, and its points in all."""

    key: str
    full: float


def _items(of: Import) -> dict[str, _Item]:
    """Items by their path. Before they are taken in, those that will be have a key to come."""
    names = [f"item__{name}" for name in ("path", "key", "of", "full")]
    rows = list(of.rows.values_list("skip", "same", "key", "pk", *names))
    firsts, found = {}, {}
    for skip, same, taken, pk, path, own, version_of, full in rows:
        key = taken or (same if skip else f"row {pk}")
        found[path] = _Item(key, float(full or 1.0))
        if own and not version_of:
            firsts[own] = key
    for _, _, _, _, path, _, version_of, _ in rows:
        if version_of:
            found[path] = _Item(firsts.get(version_of, version_of), found[path].full)
    return found


def tests_out(of: Import) -> list[ImportedTestOut]:
    """The tests of a package, as they would be taken in."""
    if not of.tests:
        return []
    items = _items(of)
    return [_out(number, one, items) for number, one in enumerate(of.tests)]


def _out(number: int, one: Mapping[str, Any], items: Mapping[str, _Item]) -> ImportedTestOut:
    sections, lost = _sections(one, items)
    where = gettext("line {line}: ").format(line=one["line"]) if one["line"] else ""
    refused = f"{where}{one['refused']}" if one["refused"] else ""
    if not refused and not any(section.entries for section in sections):
        refused = gettext("none of its questions is taken in")
    return ImportedTestOut(
        number=number,
        path=one["path"],
        title=one["title"],
        sections=len(sections),
        questions=sum(entry.count for section in sections for entry in section.entries),
        notes=[*one["lost"], *lost],
        refused=refused,
        skip=one["skip"],
        made=one["made"],
    )


def _sections(
    one: Mapping[str, Any], items: Mapping[str, _Item]
) -> tuple[list[SectionData], list[str]]:
    """Its sections over the questions that are here, and what of it has no question."""
    made, lost = [], []
    for section in one["sections"]:
        entries = []
        for entry in section["entries"]:
            known = [items[path] for path in entry["items"] if path in items and items[path].key]
            keys = list(dict.fromkeys(item.key for item in known))
            if len(known) < len(entry["items"]):
                says = gettext("{section}: questions that are not taken in: {count}")
                missing = len(entry["items"]) - len(known)
                lost.append(says.format(section=section["title"], count=missing))
            if not keys:
                continue
            points = Fraction(entry["points"]) if entry["points"] else _points(entry, known, lost)
            entries.append(
                EntryData.model_construct(
                    families=keys,
                    count=min(entry["count"], len(keys)),
                    points=points,
                    working=entry["working"],
                )
            )
        if entries:
            fields = {k: v for k, v in section.items() if k != "entries"}
            made.append(SectionData.model_construct(**fields, entries=entries))
    return made, lost


def _points(entry: Mapping[str, Any], known: list[_Item], lost: list[str]) -> Fraction:
    """Points of an entry: its weight times the points in all of an item."""
    if len({item.full for item in known}) > 1:
        lost.append(gettext("different points of items that are drawn; those of the first count"))
    return Fraction(entry["weight"] * known[0].full).limit_denominator(FINEST)


def any_wanted(of: Import) -> bool:
    """Whether a test is to be set up."""
    return any(not one["skip"] and not one["refused"] for one in of.tests)


def _composed(
    one: Mapping[str, Any], sections: list[SectionData]
) -> tuple[CompositionData, RulesData]:
    """A test as it is set up. ValidationError for what can't be."""
    parts = [section.model_dump(mode="json") for section in sections]
    whole = CompositionData.model_validate(one["composition"] | {"sections": parts})
    return whole, RulesData.model_validate(one["rules"])


def make_tests(of: Import, by: User) -> None:
    """Set up the tests of a package whose questions were taken in. Unprocessable, with the reason,
    for one that can't be."""
    items = _items(of)
    for one in of.tests:
        sections, _ = _sections(one, items)
        if one["skip"] or one["refused"] or not sections:
            continue
        try:
            whole, rules = _composed(one, sections)
        except ValidationError as error:
            first = error.errors()[0]
            where = ".".join(map(str, first["loc"]))
            raise Unprocessable(f"{one['title']}: {where}: {first['msg']}") from None
        try:
            test = make_test(
                of.course, one["title"], whole, rules, by, directions=one["directions"]
            )
        except Unprocessable as error:
            says = "; ".join(error.fields.values()) or str(error)
            raise Unprocessable(f"{one['title']}: {says}") from None
        one["made"] = test.pk
    Import.objects.filter(pk=of.pk).update(tests=of.tests)


def take_back(of: Import) -> list[str]:
    """Tests that nobody was given, or changed since, go; titles of those that stay."""
    numbers = [one["made"] for one in of.tests if one["made"]]
    own = Q(test__in=numbers) | Q(test__mirror_of__in=numbers)
    stay: set[int | None] = set()
    for used in (Assignment.objects.filter(own), Attempt.objects.filter(own)):
        stay |= {number for pair in used.values_list("test", "test__mirror_of") for number in pair}
    items = _items(of)
    made = {
        one["made"]: _composed(one, _sections(one, items)[0]) for one in of.tests if one["made"]
    }
    kept = Test.objects.filter(pk__in=made)
    stay |= {one.pk for one in kept if (one.composition, one.rules) != made[one.pk]}
    gone = [number for number in numbers if number not in stay]
    Test.objects.filter(pk__in=gone).delete()
    return [one["title"] for one in of.tests if one["made"] and one["made"] not in gone]
