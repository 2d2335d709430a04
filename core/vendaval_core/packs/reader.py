"""A course pack from a folder: all of it, or a list of everything that is wrong."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import partial
from pathlib import Path

from vendaval_core.language import gettext

from ..items.formulas.workers import insisting
from ..items.model import Family
from .checks import Fault, check_family
from .course import course_faults
from .families import PackFamily, checked_family
from .figures import figure_of_page
from .language import Language, language, language_faults
from .located import LocatedYaml, PackInvalid, PackProblem, read_utf8, read_yaml, validated
from .resources import ResourceModel, read_resources
from .schema import CourseModel
from .study import StudySection, read_study_page
from .topic_files import FolderFiles

# What an archive of a pack has beside the pack's own files.
DIGESTS = "SHA256SUMS"


@dataclass(frozen=True, slots=True)
class Pack:
    """A checked course: families, study pages and resources by topic key.

    rehearsal: families of every kind to try out, in no topic and never counted. The course says
    which of them make up the whole test to rehearse. files: where every other file of the pack
    lies, by its path in it.
    """

    course: CourseModel
    families: tuple[PackFamily, ...]
    study: dict[str, tuple[StudySection, ...]]
    rehearsal: tuple[PackFamily, ...] = ()
    resources: Mapping[str, tuple[ResourceModel, ...]] = field(default_factory=dict)
    files: Mapping[str, Path] = field(default_factory=dict)

    def beside(self, topic: str, name: str) -> bytes:
        """A file beside a topic's study page."""
        return self.files[f"topics/{topic}/resources/{name}"].read_bytes()


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
    return (source.problem(path, what) for path, what in course_faults(course))


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
        file, key = str(path.relative_to(root)), path.stem
        text = read_utf8(path, file)
        if isinstance(text, PackProblem):
            problems.append(text)
            continue
        if key in sources:
            what = gettext("a family of this name is in {file}").format(file=sources[key].file)
            problems.append(PackProblem(file, 1, "(name)", what))
            continue
        found = checked_family(text, file, key, topic, FolderFiles(folder), check)
        problems += found.problems
        if found.read is not None and found.located is not None:
            sources[key] = found.located
            families.append(found.read)
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
    sections, problems = read_study_page(
        text, file, partial(figure_of_page, FolderFiles(folder), file)
    )
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
    resources: dict[str, tuple[ResourceModel, ...]] = {}
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
    read_already = {source.file for source in sources.values()}
    others = {str(path.relative_to(root)): path for path in sorted(root.rglob("*"))}
    files = {
        file: path
        for file, path in others.items()
        if path.is_file() and file not in read_already and file != DIGESTS
    }
    return Pack(course, tuple(families), study, tuple(rehearsal), resources, files)
