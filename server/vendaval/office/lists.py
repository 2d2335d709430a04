"""Lists of people from a file, CSV or XLSX: read whole, every row's errors found, before anything
is taken in."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Set
from dataclasses import dataclass
from datetime import date

from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.utils.translation import gettext

from vendaval.groups.models import Group
from vendaval.people.models import Role, School
from vendaval.people.names import plain_name
from vendaval.shared.errors import Unprocessable
from vendaval.shared.plain_text import plain_text
from vendaval.shared.sheets import sheet_rows

from .newcomers import Newcomer, faults_of, known_mails, today
from .scope import groups_of

GUARDIAN_MAIL = "guardian mail"  # not said: the heading of a column
COLUMNS = ("name", "mail", "role", "group", "born", "guardian", GUARDIAN_MAIL)
WANTED = ("name", "mail", "role")
MOST_BYTES = 2_000_000
MOST_ROWS = 5_000
MOST_CELL = 120


@dataclass(frozen=True, slots=True)
class Row:
    """A row of a list. line: as a spreadsheet numbers it. newcomer: None where it has faults."""

    line: int
    cells: Mapping[str, str]
    newcomer: Newcomer | None
    faults: tuple[str, ...]


def read_list(content: bytes, school: School) -> list[Row]:
    """Every row of a file with what is wrong with it; Unprocessable when it is no list at all."""
    if len(content) > MOST_BYTES:
        raise Unprocessable(
            gettext("The file is longer than {most_bytes} MB.").format(
                most_bytes=MOST_BYTES // 10**6
            )
        )
    who = gettext("school {pk}").format(pk=school.pk)
    lines = sheet_rows(content, MOST_ROWS + 2, who)
    head, rows = _head(lines)
    if len(rows) > MOST_ROWS:
        raise Unprocessable(
            gettext("The list has more than {most_rows} rows. Import it in parts.").format(
                most_rows=MOST_ROWS
            )
        )
    if not rows:
        raise Unprocessable(gettext("There’s nobody in this list, only a heading row."))
    read = [(line, dict(zip(head, cells, strict=False))) for line, cells in rows]
    known = known_mails(school, (cells.get("mail", "") for _, cells in read))
    often = Counter(cells.get("mail", "").casefold() for _, cells in read)
    groups = _groups(school)
    return [_row(line, cells, school, groups, known.keys(), often) for line, cells in read]


def _head(lines: list[list[str]]) -> tuple[list[str], list[tuple[int, list[str]]]]:
    """Names of the columns, and the rows below that are not empty, with their line."""
    if not lines:
        raise Unprocessable(gettext("The file is empty."))
    head = [cell.strip().lower().replace("_", " ") for cell in lines[0]]
    unknown = [name for name in head if name and name not in COLUMNS]
    missing = [name for name in WANTED if name not in head]
    twice = [name for name, times in Counter(head).items() if name and times > 1]
    says = [gettext("the column “{name}” is missing").format(name=name) for name in missing]
    says += [gettext("unknown column “{name}”").format(name=name[:40]) for name in unknown]
    says += [gettext("“{name}” is there twice").format(name=name) for name in twice]
    if says:
        known = ", ".join(COLUMNS)
        raise Unprocessable(
            gettext("Check the first row: {says}. Columns can be: {known}.").format(
                says="; ".join(says[:5]), known=known
            )
        )
    cells = [[plain_text(cell).strip() for cell in row] for row in lines[1:]]
    return head, [(line, row) for line, row in enumerate(cells, 2) if any(row)]


def _groups(school: School) -> dict[str, list[Group]]:
    found: dict[str, list[Group]] = {}
    for group in groups_of(school):
        found.setdefault(group.title.casefold(), []).append(group)
    return found


def _row(
    line: int,
    cells: Mapping[str, str],
    school: School,
    groups: Mapping[str, list[Group]],
    known: Set[str],
    often: Mapping[str, int],
) -> Row:
    faults = [
        gettext("“{name}” is longer than {most_cell} characters.").format(
            name=name, most_cell=MOST_CELL
        )
        for name, text in cells.items()
        if len(text) > MOST_CELL
    ]
    mail = cells.get("mail", "")
    role, born, group = _role(cells, faults), _born(cells, faults), _group(cells, groups, faults)
    name = _name(cells.get("name", ""), faults)
    guardian = _name(cells["guardian"], faults) if cells.get("guardian") else ""
    for what, address in (
        ("mail", mail),
        (GUARDIAN_MAIL, cells.get(GUARDIAN_MAIL, "")),
    ):
        if what == "mail" and not address:
            faults.append(gettext("The mail address is missing."))
        elif address and not _is_mail(address):
            faults.append(
                gettext("“{address}” in “{what}” isn’t a mail address.").format(
                    address=address[:60], what=what
                )
            )
    if mail and often[mail.casefold()] > 1:
        faults.append(gettext("This mail address is in the list twice."))
    if mail.casefold() in known:
        faults.append(gettext("Somebody at your school already has this mail address."))
    newcomer = Newcomer(
        name=name,
        mail=mail,
        role=role or Role.LEARNER,
        group=group,
        born=born,
        guardian_name=guardian,
        guardian_mail=cells.get(GUARDIAN_MAIL, ""),
    )
    if role is not None:
        faults += faults_of(newcomer, school, today())
    return Row(line, cells, None if faults else newcomer, tuple(faults))


def _name(text: str, faults: list[str]) -> str:
    try:
        return plain_name(text)
    except ValueError as error:
        faults.append(str(error))
        return text


def _role(cells: Mapping[str, str], faults: list[str]) -> Role | None:
    text = cells.get("role", "").lower()
    if text not in set(Role):
        faults.append(
            gettext("“{text}” isn’t a role. Use {role}.").format(
                text=text[:40], role=", ".join(Role)
            )
        )
        return None
    return Role(text)


def _born(cells: Mapping[str, str], faults: list[str]) -> date | None:
    text = cells.get("born", "")
    if not text:
        return None
    try:
        return date.fromisoformat(text)
    except ValueError:
        faults.append(
            gettext("“{text}” isn’t a date. Write it like this: 2012-05-31.").format(text=text[:40])
        )
        return None


def _group(
    cells: Mapping[str, str], groups: Mapping[str, list[Group]], faults: list[str]
) -> Group | None:
    title = cells.get("group", "")
    found = groups.get(title.casefold(), []) if title else []
    if title and len(found) != 1:
        says = (
            gettext("We can’t find a group") if not found else gettext("There are several groups")
        )
        faults.append(gettext("{says} called “{title}”.").format(says=says, title=title[:60]))
    return found[0] if len(found) == 1 else None


def _is_mail(text: str) -> bool:
    try:
        validate_email(text)
    except ValidationError:
        return False
    return True
