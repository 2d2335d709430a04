"""A course pack from a folder: all of it, or a list of everything that is wrong."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import partial
from pathlib import Path
from typing import cast

from vendaval_core.language import gettext

from ..items.formulas.workers import insisting
from ..items.model import Family
from .checks import Fault, check_family
from .figures import figure_data, figure_of_page
from .language import Language, language, language_faults
from .located import LocatedYaml, PackInvalid, PackProblem, read_utf8, read_yaml, validated
from .resources import Resource, read_resources
from .schema import CourseModel, FamilyModel
from .study import StudySection, read_study_page


@dataclass(frozen=True, slots=True)
class PackFamily:
    """A family with the plain data it was made from, which is what a database keeps."""

    family: Family
    data: dict[str, object]


@dataclass(frozen=True, slots=True)
class Pack:
    """A checked course: families, study pages and resources by topic key.

    rehearsal: families of every kind to try out, in no topic and never counted. The course says
    which of them make up the whole test to rehearse.
    """

    course: CourseModel
    families: tuple[PackFamily, ...]
    study: dict[str, tuple[StudySection, ...]]
    rehearsal: tuple[PackFamily, ...] = ()
    resources: Mapping[str, tuple[Resource, ...]] = field(default_factory=dict)


def _rehearsal_problems(
    course: CourseModel, source: LocatedYaml, known: Collection[str]
) -> Iterable[PackProblem]:
    """Questions of the test to rehearse that are not in rehearsal/, or come twice."""
    used: set[str] = set()
    for s, section in enumerate(course.rehearsal.sections if course.rehearsal else ()):
        for q, key in enumerate(section.questions):
            where: list[str | int] = ["rehearsal", "sections", s, "questions", q]
            if key not in known:
                yield source.problem(
                    where, gettext("rehearsal/{key}.yaml is missing").format(key=key)
                )
            elif key in used:
                yield source.problem(where, gettext("“{key}” is in it already").format(key=key))
            used.add(key)


ORDERED = ("variables", "values")


def with_lists(data: object) -> object:
    """Return plain data in which ordered mappings are lists of pairs, because databases keep only
    the order of lists."""
    if isinstance(data, dict):
        return {
            name: [[inner, with_lists(one)] for inner, one in value.items()]
            if name in ORDERED and isinstance(value, dict)
            else with_lists(value)
            for name, value in data.items()
        }
    return [with_lists(one) for one in data] if isinstance(data, list) else data


def family_from_data(key: str, topic: str, data: dict[str, object]) -> Family:
    """Make a family from data that was checked before."""
    return FamilyModel.model_validate(data).to_core(key, topic)


def pack_digest(root: Path) -> str:
    """Return a digest of a pack's files and of the code that reads and checks them."""
    code = Path(__file__).resolve().parents[1]
    digest = hashlib.sha256()
    for folder, pattern in ((root, "**/*.*"), (code, "**/*.py")):
        for file in sorted(folder.glob(pattern)):
            if file.is_file() and not file.is_symlink():
                digest.update(f"{file.relative_to(folder)}\n".encode())
                digest.update(hashlib.sha256(file.read_bytes()).digest())
    return digest.hexdigest()


def _course(root: Path) -> tuple[CourseModel, LocatedYaml]:
    source = read_yaml(root / "course.yaml", "course.yaml")
    if isinstance(source, PackProblem):
        raise PackInvalid([source])
    course = validated(CourseModel, source)
    if isinstance(course, list):
        raise PackInvalid(course)
    return course, source


def _course_problems(course: CourseModel, source: LocatedYaml) -> Iterable[PackProblem]:
    earlier: set[str] = set()
    for s, subject in enumerate(course.subjects):
        for t, topic in enumerate(subject.topics):
            path = ("subjects", s, "topics", t)
            if topic.key in earlier:
                yield source.problem(
                    (*path, "key"),
                    gettext("topic “{topic}” is there twice").format(topic=topic.key),
                )
            for after in set(topic.after) - earlier:
                yield source.problem(
                    (*path, "after"),
                    gettext("“{after}” must be a topic before this one").format(after=after),
                )
            earlier.add(topic.key)


def _field_path(where: str, family: Family) -> list[int | str]:
    """Path in the file for a fault's field: parts are named by id there, by place in the file."""
    steps = where.split(".")
    if steps[0] == "parts" and len(steps) > 1:
        ids = [part.id for part in family.parts]
        return ["parts", ids.index(steps[1]), *steps[2:]] if steps[1] in ids else ["parts"]
    return [int(step) if step.isdigit() else step for step in steps]


def _take_in(located: LocatedYaml, folder: Path) -> list[PackProblem]:
    """Put the text of the figures and the stimulus that a family names in their place."""
    problems: list[PackProblem] = []

    def walk(value: object, path: list[int | str]) -> None:
        if isinstance(value, dict):
            if isinstance(value.get("file"), str) and "alt" in value:
                name = value.pop("file")
                data = figure_data(folder, name, located.file)
                if isinstance(data, dict):
                    value |= data
                else:
                    at = located.problem(path, "").line
                    problems.extend(
                        replace(fault, line=at) if fault.file == located.file else fault
                        for fault in data
                    )
            for key, inner in value.items():
                walk(inner, [*path, key])
        elif isinstance(value, list):
            for number, inner in enumerate(value):
                walk(inner, [*path, number])

    walk(located.data, [])
    if isinstance(located.data.get("stimulus"), str) and located.data["stimulus"]:
        name = f"{located.data['stimulus']}.md"
        file = folder / "stimuli" / name
        if file.is_file() and file.resolve().is_relative_to(folder.resolve()):
            stimulus = read_utf8(file, f"{Path(located.file).parent}/stimuli/{name}")
            if isinstance(stimulus, PackProblem):
                problems.append(stimulus)
            else:
                located.data["stimulus"] = stimulus
        else:
            problems.append(
                located.problem(
                    ["stimulus"], gettext("stimuli/{name} is missing").format(name=name)
                )
            )
    return problems


def _read_families(
    root: Path,
    folder: Path,
    topic: str,
    sources: dict[str, LocatedYaml],
    check: Callable[[Family], Iterable[Fault]],
) -> tuple[list[PackFamily], list[PackProblem]]:
    """The families of one folder, each checked. Adds each file to `sources`."""
    families: list[PackFamily] = []
    problems: list[PackProblem] = []
    for path in sorted(folder.glob("*.yaml")):
        file = str(path.relative_to(root))
        located = read_yaml(path, file)
        if isinstance(located, PackProblem):
            problems.append(located)
            continue
        missing = _take_in(located, folder)
        if missing:
            problems += missing
            continue
        model = validated(FamilyModel, located)
        if isinstance(model, list):
            problems += model
            continue
        key = path.stem
        if key in sources:
            what = gettext("a family of this name is in {file}").format(file=sources[key].file)
            problems.append(PackProblem(file, 1, "(name)", what))
            continue
        sources[key] = located
        family = model.to_core(key, topic)
        families.append(PackFamily(family, cast(dict[str, object], with_lists(located.data))))
        problems += [
            located.problem(
                _field_path(fault.where, family),
                gettext("version {seed}: {what}").format(seed=fault.seed, what=fault.what),
            )
            for fault in check(family)
        ]
    return families, problems


def _read_study(
    folder: Path, topic: str, rules: Language
) -> tuple[tuple[StudySection, ...], Sequence[PackProblem]]:
    """The study page of a topic."""
    page, file = folder / "study.md", f"topics/{topic}/study.md"
    if not page.exists():
        return (), [PackProblem(f"topics/{topic}", 1, "study.md", gettext("is missing"))]
    text = read_utf8(page, file)
    if isinstance(text, PackProblem):
        return (), [text]
    sections, problems = read_study_page(text, file, partial(figure_of_page, folder, file))
    for number, line in enumerate(text.splitlines(), start=1):
        problems += [
            PackProblem(file, number, "text", what) for what in language_faults(line, rules)
        ]
    return tuple(sections), problems


def read_pack(
    root: Path, progress: Callable[[str], None] = lambda _: None, *, versions: bool = True
) -> Pack:
    """Read and check a pack. Raises PackInvalid with every problem; nothing is loaded in part.

    progress: called with each family's key before its versions are checked. versions: whether to
    make and check every version, which takes longest; a pack that was checked before doesn't need
    it. Raises AlgebraNotReady if formulas can't be worked out, which is not the pack's fault.
    """
    with insisting():
        return _read_pack(root, progress, versions)


def _read_pack(root: Path, progress: Callable[[str], None], versions: bool) -> Pack:
    linked = [path for path in sorted(root.rglob("*")) if path.is_symlink()]
    if linked:
        what = gettext("is a link; a pack must contain the file itself")
        raise PackInvalid(PackProblem(str(p.relative_to(root)), 1, "(file)", what) for p in linked)
    course, source = _course(root)
    rules = language(**course.language.model_dump())

    def check(family: Family) -> Iterable[Fault]:
        progress(family.key)
        return check_family(family, rules) if versions else ()

    problems = list(_course_problems(course, source))
    study: dict[str, tuple[StudySection, ...]] = {}
    resources: dict[str, tuple[Resource, ...]] = {}
    families: list[PackFamily] = []
    sources: dict[str, LocatedYaml] = {}
    topics = [topic.key for subject in course.subjects for topic in subject.topics]
    for topic in topics:
        folder = root / "topics" / topic
        study[topic], wrong = _read_study(folder, topic, rules)
        problems += wrong
        resources[topic], faults = read_resources(folder, topic, [s.id for s in study[topic]])
        problems += faults
        read = _read_families(root, folder, topic, sources, check)
        problems += read[1]
        families += read[0]
        if not read[0] and not read[1]:
            problems.append(
                PackProblem(f"topics/{topic}", 1, "families", gettext("there are none"))
            )
    rehearsal, wrong = _read_families(root, root / "rehearsal", "", sources, check)
    problems += wrong
    problems += _rehearsal_problems(course, source, {item.family.key for item in rehearsal})
    for item in [*families, *rehearsal]:
        where, _, section = item.family.study.rpartition("#")
        sections_there = study.get(where or item.family.topic, ())
        if section not in {s.id for s in sections_there}:
            what = gettext("no section “{study}”").format(study=item.family.study)
            problems.append(sources[item.family.key].problem(("study",), what))
    folders = (
        {p.name for p in (root / "topics").iterdir() if p.is_dir()}
        if (root / "topics").is_dir()
        else set()
    )
    for name in folders - set(topics):
        problems.append(
            PackProblem(f"topics/{name}", 1, "(folder)", gettext("isn’t a topic in course.yaml"))
        )
    if problems:
        raise PackInvalid(problems)
    return Pack(course, tuple(families), study, tuple(rehearsal), resources)
