"""A file of questions read into rows, and each row looked through."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from django.db.models.fields.json import KeyTextTransform
from django.utils.translation import gettext
from pydantic import ValidationError

from vendaval.authoring.families import rules_of
from vendaval.bank.kept import current_files, family_path, topic_files
from vendaval.bank.models import Course, Family, Topic
from vendaval.shared.errors import Unprocessable
from vendaval.shared.sheets import sheet_rows
from vendaval_core.authoring.edits import written, written_quickly
from vendaval_core.errors import UnwritableError
from vendaval_core.exchange.qti.asked import Plain
from vendaval_core.exchange.sheet_columns import MOST_ROWS, Sheet, read_sheet
from vendaval_core.exchange.sheet_rows import read_row
from vendaval_core.items.model import Family as CoreFamily
from vendaval_core.packs.checks import Fault, check_family
from vendaval_core.packs.families import FamilyRead, PackFamily, checked_family, with_lists
from vendaval_core.packs.language import Language
from vendaval_core.packs.schema import FamilyModel
from vendaval_core.packs.topic_files import KeptFiles

from .models import Import, ImportRow
from .qti_rows import read_item_row

MOST_BYTES = 5_000_000
MOST_COLUMNS, MOST_LETTERS = 60, 2_000
# A comma-separated file has no mark of its encoding: what isn't UTF-8 is what spreadsheets of
# western Europe write.
BEFORE_UNICODE = "cp1252"


def sheet_of(content: bytes, who: str) -> Sheet:
    """The questions of a CSV or XLSX file. Unprocessable for what can't be read."""
    rows = sheet_rows(_as_utf8(content), MOST_ROWS + 2, who)
    sheet = read_sheet([[one[: MOST_LETTERS + 1] for one in row[:MOST_COLUMNS]] for row in rows])
    if sheet.faults:
        raise Unprocessable(
            gettext("We can’t read questions from this file."), fields={"file": sheet.faults[0]}
        )
    if not sheet.rows:
        raise Unprocessable(
            gettext("There are no questions in this file."), fields={"file": "empty"}
        )
    return sheet


def _as_utf8(content: bytes) -> bytes:
    if content[:2] == b"PK":
        return content
    for mark, encoding in ((b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16")):
        if content.startswith(mark):
            return content.decode(encoding, "replace").encode()
    try:
        content.decode()
    except UnicodeDecodeError:
        return content.decode(BEFORE_UNICODE, "replace").encode()
    return content


@dataclass(frozen=True, slots=True)
class _Place:
    """A topic, its first study section and all of them, and its drawings by their names."""

    topic: Topic
    section: str
    pictures: dict[str, str]
    sections: frozenset[str] = frozenset()


class Looker:
    """Looks through the rows of an import: what each becomes, and what is wrong with it."""

    def __init__(self, of: Import) -> None:
        self.of = of
        self.rules: Language = rules_of(of.course)
        self.places = {row.topic.key: row for row in _places(of.course)}
        self.titles = {row.topic.title.casefold(): row for row in self.places.values()}
        self.asked = _asked(of.course)

    def look(self, row: ImportRow) -> FamilyRead | None:
        """Note in a row what it is; the family it becomes, if nothing is wrong."""
        if row.item:
            return self._look_at_item(row)
        place = self._place(row)
        row.topic = None if place is None else place.topic
        found = read_row(row.cells, {} if place is None else place.pictures)
        row.problems = [list(one) for one in found.problems]
        row.notes = list(found.notes)
        row.same = self.asked.get(_plain(str(found.data["prompt"])), "")
        for name, text in row.cells.items():
            if len(text) > MOST_LETTERS:
                says = gettext("{most} letters at most.").format(most=MOST_LETTERS)
                row.problems.append([name, says])
        if place is None:
            row.problems.insert(0, ["topic", self._no_topic(row)])
        if row.problems or place is None:
            row.text = ""
            return None
        data = found.data | {"study": place.section, "source": self.of.name}
        row.text = written({name: data[name] for name in _ORDER if name in data})
        return self.read(row, place)

    def _look_at_item(self, row: ImportRow) -> FamilyRead | None:
        place = self._place(row)
        row.topic = None if place is None else place.topic
        found = read_item_row(row.cells, row.item)
        row.problems, row.notes = list(map(list, found.problems)), list(found.notes)
        row.text = ""
        if row.skip or found.data is None:
            return None
        row.same = self.asked.get(_plain(str(found.data["prompt"])), row.same)
        if place is None:
            row.problems.insert(0, ["topic", self._no_topic(row)])
        if row.problems or place is None:
            return None
        sections = place.sections
        study = str(found.data.get("study", ""))
        data = found.data | {
            "study": study if study in sections else place.section,
            "source": found.data.get("source") or row.item.get("source") or self.of.name,
        }
        try:
            row.text = written_quickly({name: data[name] for name in _ORDER if name in data})
        except UnwritableError as error:
            row.problems.append(["question", str(error)])
            return None
        read = self._taken(row, place, data)
        if row.problems or read is None:
            return None
        return FamilyRead(data, None, read)

    def _taken(self, row: ImportRow, place: _Place, data: dict[str, Plain]) -> PackFamily | None:
        """The family of an item; what is wrong with it goes into the row."""
        try:
            family = FamilyModel.model_validate(data).to_core("question", place.topic.key)
        except ValidationError as error:
            row.problems += [["question", one["msg"]] for one in error.errors()[:5]]
            return None
        row.problems += [["question", one.what] for one in self.check(family)]
        kept = with_lists(data)
        return PackFamily(family, kept, row.text) if isinstance(kept, dict) else None

    def read(self, row: ImportRow, place: _Place) -> FamilyRead | None:
        """The family of a row's text; what is wrong with it goes into the row."""
        key, topic = "question", place.topic.key
        path = family_path(topic, key)
        # Drawings are large, and few questions name one.
        files = topic_files(self.of.course, topic) if "picture" in row.cells else KeptFiles({})
        read = checked_family(row.text, path, key, topic, files, self.check)
        row.problems += [[_column(one.field), one.what] for one in read.problems]
        return None if row.problems else read

    def check(self, family: CoreFamily) -> Iterable[Fault]:
        """What is wrong with a family, by the rules of the course."""
        return check_family(family, self.rules)

    def topic_key(self, text: str) -> str:
        """The topic that a file's words for it name, "" for none."""
        found = self.places.get(text) or self.titles.get(text.casefold().strip())
        return "" if found is None else found.topic.key

    def _place(self, row: ImportRow) -> _Place | None:
        named = str(row.cells.get("topic", "")).strip()
        if named:
            return self.places.get(named) or self.titles.get(named.casefold())
        return None if self.of.topic is None else self.places.get(self.of.topic.key)

    def _no_topic(self, row: ImportRow) -> str:
        named = str(row.cells.get("topic", "")).strip()
        if not named:
            return gettext("Choose a topic for the questions that name none.")
        return gettext("The course has no topic “{name}”.").format(name=named)


_ORDER = (
    *("title", "essential", "difficulty", "seconds", "source", "study", "elsewhere"),
    *("variables", "constraints", "prompt", "figure", "stimulus", "sound", "sound_words"),
    *("parts", "hints", "solution", "solution_figure"),
)


def _places(course: Course) -> Iterable[_Place]:
    drawn: dict[str, dict[str, str]] = {}
    for path in current_files(course, "topics/"):
        _, where, folder, *rest = [*path.split("/"), "", ""]
        if folder == "figures" and rest[0].endswith(".svg"):
            names = drawn.setdefault(where, {})
            names[rest[0]] = names[rest[0].removesuffix(".svg")] = rest[0]
    rows = course.topics.filter(closed=False).prefetch_related("sections")
    for topic in rows:
        sections = sorted(topic.sections.all(), key=lambda one: one.position)
        section = sections[0].key if sections else "start"
        every = frozenset(one.key for one in sections)
        yield _Place(topic, section, drawn.get(topic.key, {}), every)


def _asked(course: Course) -> dict[str, str]:
    """Keys of the course's questions by what they ask."""
    rows = Family.objects.filter(course=course, live=True).exclude(latest=None)
    prompts = rows.values_list("key", KeyTextTransform("prompt", "latest__data"))
    return {_plain(str(prompt)): key for key, prompt in prompts}


def _plain(text: str) -> str:
    return " ".join(text.casefold().split())


def _column(field: str) -> str:
    """The column that a family's field comes from, as near as can be told."""
    first = field.split(".")[0]
    return {
        "prompt": "question",
        "title": "question",
        "parts": "right",
        "hints": "hint",
        "solution": "solution",
        "figure": "picture",
    }.get(first, "question")


def columns_of(rows: Sequence[ImportRow], order: Sequence[str]) -> list[str]:
    """Columns that any of the rows has, in the order of the format."""
    used = {name for row in rows for name in row.cells}
    return [name for name in order if name in used or name in {"question", "right"}]
