"""A course as an archive of its files, and such an archive put into the course again."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, replace
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction
from django.utils.translation import gettext

from vendaval.authoring.all_versions import check_versions
from vendaval.authoring.checking import ToCheck
from vendaval.authoring.families import refuse_own_tests
from vendaval.bank.kept import Kept, family_path, kept_files
from vendaval.bank.loading import load_pack
from vendaval.bank.merging import put_together
from vendaval.bank.models import Course, Family
from vendaval.levels.models import Observation
from vendaval.people.audit import audit
from vendaval.people.models import AuditKind, User
from vendaval.review.models import Miss, MissState
from vendaval.shared import clock
from vendaval.shared.errors import Unprocessable
from vendaval.shared.sandbox import Limits, in_sandbox
from vendaval_core.authoring.structure import structure_changes
from vendaval_core.exchange.archive import packed
from vendaval_core.packs.families import PackFamily
from vendaval_core.packs.located import PackInvalid, PackProblem, parse_yaml
from vendaval_core.packs.reader import Pack, read_pack
from vendaval_core.packs.schema import CourseModel
from vendaval_core.words import counted

from .models import Import, ImportKind, ImportState

MOST_BYTES = 60_000_000
UNPACKING = Limits(megabytes=700, seconds=20, patience=40, most_back=130_000_000)
MOST_SAID = 200


def pack_of(course: Course, person: User) -> bytes:
    """A course's files as an archive. Not for somebody who has one of its questions in a test of
    their own that is still open."""
    refuse_own_tests(set(course.families.values_list("pk", flat=True)), person)
    return packed({path: one.content for path, one in kept_files(course).items() if not one.gone})


def begin_pack(course: Course, name: str, content: bytes, by: User) -> Import:
    """Keep an archive of a course's files, to be looked through. Unprocessable for what is none."""
    files, faults = _unpacked(content, f"author-{by.pk}")
    if faults:
        raise Unprocessable(gettext("This pack isn’t whole."), fields={"file": faults[0]})
    text = files.get("course.yaml", b"").decode("utf-8", "replace")
    read = parse_yaml(text, "course.yaml")
    key = None if isinstance(read, PackProblem) else read.data.get("key")
    if key != course.key:
        says = gettext("This isn’t a pack of this course: its key has to be “{key}”.")
        raise Unprocessable(says.format(key=course.key), fields={"file": gettext("another course")})
    stored = f"imports/{hashlib.sha256(content).hexdigest()}.zip"
    if not default_storage.exists(stored):
        default_storage.save(stored, ContentFile(content))
    return Import.objects.create(
        course=course,
        by=by,
        name=name,
        at=clock.now(),
        kind=ImportKind.PACK,
        state=ImportState.LOOKING,
        stored=stored,
    )


def _unpacked(content: bytes, who: str) -> tuple[dict[str, bytes], list[str]]:
    says, parts = in_sandbox("vendaval.exchange.unpacking", {}, content, who=who, limits=UNPACKING)
    return dict(zip(says["paths"], parts, strict=True)), says["faults"]


@dataclass(frozen=True, slots=True)
class _Prepared:
    """A pack put together with what was changed here. conflicts: files that both changed."""

    pack: Pack
    conflicts: list[str]


@contextmanager
def _prepared(of: Import) -> Iterator[_Prepared]:
    with default_storage.open(of.stored) as file:
        files, _ = _unpacked(file.read(), f"import-{of.pk}")
    with TemporaryDirectory() as sent, TemporaryDirectory() as merged:
        for path, content in files.items():
            target = Path(sent) / path
            target.parent.mkdir(parents=True, exist_ok=True)
            target.write_bytes(content)
        conflicts = put_together(Path(sent), of.course, Path(merged))
        pack = read_pack(Path(merged), versions=False)
        # The school is that of the course, whatever its file says.
        own = pack.course.model_copy(update={"school": of.course.school.name})
        yield _Prepared(replace(pack, course=own), [one.file for one in conflicts])


def look_through_pack(of: Import) -> None:
    """Say what a pack would change, and what is wrong with it."""
    report: dict[str, Any]
    try:
        with _prepared(of) as found:
            report = _report(of, found)
    except PackInvalid as error:
        report = {"problems": [str(one) for one in error.problems[:MOST_SAID]]}
    except Unprocessable as error:
        report = {"problems": [str(error)]}
    Import.objects.filter(pk=of.pk).update(report=report, state=ImportState.READY)


def _report(of: Import, found: _Prepared) -> dict[str, Any]:
    before = kept_files(of.course)
    families = {one.family.key: one for one in found.pack.families}
    rows = Family.objects.filter(course=of.course, live=True, collection=None)
    live = {row.key: row for row in rows.select_related("topic")}
    new = [key for key in families if key not in live]
    changed = [
        key for key in families if key in live and _differs(families[key], live[key], before)
    ]
    gone = [key for key in live if key not in families]
    tried_out = [one for one in found.pack.rehearsal if _is_new(one, before)]
    course_file = before.get("course.yaml")
    was = parse_yaml(course_file.text if course_file else "", "course.yaml")
    structure = (
        []
        if isinstance(was, PackProblem)
        else structure_changes(CourseModel.model_validate(was.data), found.pack.course)
    )
    return {
        "new": [families[key].family.title for key in new][:MOST_SAID],
        "changed": [families[key].family.title for key in changed][:MOST_SAID],
        "gone": gone[:MOST_SAID],
        "files": [
            *(family_path("", one.family.key, rehearsal=True) for one in tried_out),
            *_other_files(found.pack, before),
        ][:MOST_SAID],
        "structure": structure[:MOST_SAID],
        "means": list(_means([live[key] for key in changed], [live[key] for key in gone])),
        "conflicts": found.conflicts[:MOST_SAID],
        "problems": _checked(
            of, found.pack, [*(families[key] for key in [*new, *changed]), *tried_out]
        ),
    }


def _differs(one: PackFamily, row: Family, before: Mapping[str, Kept]) -> bool:
    kept = before.get(family_path(one.family.topic, one.family.key))
    return kept is None or kept.text != one.text or row.topic.key != one.family.topic


def _is_new(one: PackFamily, before: Mapping[str, Kept]) -> bool:
    kept = before.get(family_path("", one.family.key, rehearsal=True))
    return kept is None or kept.text != one.text


def _other_files(pack: Pack, before: Mapping[str, Kept]) -> list[str]:
    return [
        path
        for path, file in pack.files.items()
        if path not in before or before[path].gone or before[path].content != file.read_bytes()
    ]


def _means(changed: Sequence[Family], gone: Sequence[Family]) -> Iterator[str]:
    for rows, says in (
        (changed, gettext("{who} a mistake to correct in a question that changes.")),
        (
            gone,
            gettext("{who} a mistake to correct in a question that goes. It stays readable."),
        ),
    ):
        many = Miss.objects.filter(family__in=rows, state=MissState.OPEN)
        learners = many.values("enrolment").distinct().count()
        if learners:
            yield says.format(who=counted(learners, "learner has", "learners have").capitalize())
    seen = Observation.objects.filter(family__in=[*changed, *gone]).values("enrolment").distinct()
    if seen.exists():
        who = counted(seen.count(), "learner has", "learners have").capitalize()
        says = gettext("{who} answered some of these. What they answered keeps its weight.")
        yield says.format(who=who)


def _checked(of: Import, pack: Pack, families: Sequence[PackFamily]) -> list[str]:
    """All versions of questions checked, one at a time, so that others get their turns too; what is
    wrong, in words."""
    words, files = pack.course.language.model_dump(), _drawings(pack)
    found: list[str] = []
    for number, one in enumerate(families, start=1):
        key, topic = one.family.key, one.family.topic
        path = family_path(topic, key, rehearsal=not topic)
        sent = ToCheck(one.text, path, key, topic, files.get(topic, {}), words)
        problems = check_versions(sent, f"import-{of.pk}")
        found += [f"{path}:{line}: {field}: {what}" for line, field, what in problems]
        Import.objects.filter(pk=of.pk).update(done=number)
    return found[:MOST_SAID]


def _drawings(pack: Pack) -> dict[str, dict[str, str]]:
    """Texts of each topic's drawings and shared texts, by their names in its folder."""
    found: dict[str, dict[str, str]] = {}
    for path, file in pack.files.items():
        parts = path.split("/")
        if len(parts) > 3 and parts[0] == "topics" and parts[2] in {"figures", "stimuli"}:
            found.setdefault(parts[1], {})["/".join(parts[2:])] = file.read_text("utf-8", "replace")
    return found


def store_pack(of: Import, by: User) -> None:
    """Put a pack in force: all of it, or nothing. What was changed here since it was looked through
    is not replaced."""
    try:
        with _prepared(of) as found, transaction.atomic():
            now = Course.objects.select_for_update().get(pk=of.course_id)
            seen = set(of.report.get("conflicts", []))
            if now.digest != of.course.digest or set(found.conflicts) - seen:
                _fail(of, gettext("The course was changed meanwhile. Send the pack once more."))
                return
            load_pack(found.pack)
            Import.objects.filter(pk=of.pk).update(state=ImportState.DONE)
            says = gettext("Pack {name} loaded: {why}").format(name=of.name, why=of.why)
            audit(AuditKind.PUBLISHED, by=by, account=by, says=says)
    except PackInvalid as error:
        _fail(of, str(error.problems[0]))
    except Unprocessable as error:
        _fail(of, str(error))


def _fail(of: Import, why: str) -> None:
    Import.objects.filter(pk=of.pk).update(state=ImportState.FAILED, why=why[:300])
