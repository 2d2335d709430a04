"""A row of a spreadsheet of questions as the fields of a family, and back."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import yaml

from vendaval_core.language import gettext

from ..items.expressions import clock, fixed
from ..items.reading import Unreadable
from ..items.times import read_time
from .sheet_columns import WRONGS

Plain = Any
PART = "answer"
USUAL = {"difficulty": 3, "seconds": 60}
LONGEST_TITLE = 60
_NUMBER = r"[+\-\u2212]?\d{1,12}(?:[.,]\d{1,6})?"
_TYPED = re.compile(
    rf"({_NUMBER})\s*([^\d±\s;|.,]{{1,8}})?\s*(?:(?:±|\+/-|\+-)\s*({_NUMBER})\s*[^\d\s]{{0,8}})?"
)
_VARIES = re.compile(r"^variables:", re.MULTILINE)
_THOUSANDS = re.compile(r"[1-9]\d{0,2},\d{3}(?!\d)")
_ORDINALS = {"st", "nd", "rd", "th"}
_TIME = re.compile(r"\d{1,2}:[0-5]\d")
_SEVERAL = re.compile(r"\s*[;|\n]\s*")
_HARD = {
    "very easy": 1,  # not said
    "easy": 2,
    "medium": 3,
    "middling": 3,
    "middle": 3,
    "hard": 4,
    "difficult": 4,
    "very hard": 5,  # not said
}
_YES, _NO = {"yes", "y", "x", "true", "1", "✓"}, {"no", "n", "false", "0", "-"}


@dataclass(frozen=True, slots=True)
class RowRead:
    """data: fields of a family without its study section and source. problems: what is wrong, by
    column. notes: what is kept otherwise than it was written."""

    data: dict[str, Plain]
    problems: tuple[tuple[str, str], ...]
    notes: tuple[str, ...]


class _Reading:
    def __init__(self, cells: Mapping[str, str]) -> None:
        self.cells = cells
        self.problems: list[tuple[str, str]] = []
        self.notes: list[str] = []

    def of(self, column: str) -> str:
        return self.cells.get(column, "")

    def wrong(self, column: str, says: str) -> None:
        self.problems.append((column, says))


def read_row(cells: Mapping[str, str], pictures: Mapping[str, str]) -> RowRead:
    """Read a question. pictures: the name in the course of each that can be named, by the name
    somebody gives it."""
    row = _Reading(cells)
    question = row.of("question")
    data: dict[str, Plain] = {
        "title": title_of(question),
        "difficulty": _difficulty(row),
        "seconds": _seconds(row),
        "prompt": f"{as_text(question)}\n",
    }
    if _essential(row):
        data["essential"] = True
    if len(question) < 3:
        row.wrong("question", gettext("A question has three letters at least."))
    _picture(row, pictures, data)
    part = _part(row)
    data["parts"] = [part] if part else []
    hints = _lines(row.of("hint"))
    if len(hints) > 4:
        row.wrong("hint", gettext("Four hints at most, a line each."))
    if hints:
        data["hints"] = hints
    data["solution"] = _solution(row, part)
    return RowRead(data, tuple(row.problems), tuple(row.notes))


def title_of(question: str) -> str:
    """A title for lists: the beginning of the question, to the end of a word."""
    line = re.sub(r"[*$`#]+", "", " ".join(question.split())) or gettext("Question")
    if len(line) <= LONGEST_TITLE:
        return line.ljust(3, ".")
    return f"{line[: LONGEST_TITLE - 1].rsplit(' ', 1)[0].rstrip(',;:')}…"


def as_text(text: str, *, trim: bool = True) -> str:
    """A text as a family has it: what looks like one of our own places for values is none."""
    plain = text.replace("\r\n", "\n")
    return re.sub(r"\[(?=\[)", "[['[']]", plain.strip() if trim else plain)


def _lines(text: str) -> list[str]:
    return [as_text(line) for line in text.splitlines() if line.strip()]


def difficulty_of(text: str) -> int | None:
    """A difficulty, 1 to 5 or in words, 3 where none is said; None for what is none."""
    said = text.strip().casefold()
    if said in {"1", "2", "3", "4", "5", "1.0", "2.0", "3.0", "4.0", "5.0"}:
        return int(float(said))
    return _HARD.get(said) if said else USUAL["difficulty"]


def seconds_of(text: str) -> int | float | None:
    """Seconds, 60 where none are said; None for what are none."""
    said = text.strip().replace(",", ".")
    if not said:
        return USUAL["seconds"]
    if not re.fullmatch(r"\d{1,4}(\.\d+)?", said) or not 0 < float(said) <= 1800:
        return None
    return int(float(said)) if float(said).is_integer() else float(said)


def essential_of(text: str) -> bool | None:
    """Yes or no, no where nothing is said; None for anything else."""
    said = text.strip().casefold()
    if said in _YES:
        return True
    return False if not said or said in _NO else None


def _difficulty(row: _Reading) -> int:
    found = difficulty_of(row.of("difficulty"))
    if found is None:
        row.wrong("difficulty", gettext("Write 1 (very easy) to 5 (very hard)."))
    return found or USUAL["difficulty"]


def _seconds(row: _Reading) -> int | float:
    found = seconds_of(row.of("seconds"))
    if found is None:
        row.wrong("seconds", gettext("Write how many seconds it takes, 1800 at most."))
    return found or USUAL["seconds"]


def _essential(row: _Reading) -> bool:
    found = essential_of(row.of("essential"))
    if found is None:
        row.wrong("essential", gettext("Write yes or no."))
    return bool(found)


def _picture(row: _Reading, pictures: Mapping[str, str], data: dict[str, Plain]) -> None:
    name = row.of("picture")
    if not name:
        return
    file = pictures.get(name)
    if file is None:
        says = gettext("The topic has no drawing “{name}”. Add it on its study page first.")
        row.wrong("picture", says.format(name=name))
        return
    data["figure"] = {"file": file, "alt": data["title"]}
    row.notes.append(gettext("Say what the picture shows, for who can’t see it."))


def _part(row: _Reading) -> dict[str, Plain] | None:
    right = row.of("right")
    if not right:
        row.wrong("right", gettext("The right answer is missing."))
        return None
    wrongs = [
        (row.of(f"wrong {n}"), row.of(f"feedback wrong {n}"))  # not said
        for n in range(1, WRONGS + 1)
        if row.of(f"wrong {n}")
    ]
    for n in range(1, WRONGS + 1):
        if row.of(f"feedback wrong {n}") and not row.of(f"wrong {n}"):  # not said
            row.wrong(
                f"feedback wrong {n}",  # not said
                gettext("There is no wrong answer for it."),  # not said
            )  # not said
    if wrongs:
        return _choice(row, right, wrongs)
    return _time(right) or _number(row, right) or _text(row, right)


def _choice(row: _Reading, right: str, wrongs: list[tuple[str, str]]) -> dict[str, Plain] | None:
    rights = [one for one in _SEVERAL.split(right) if one]
    texts = [*rights, *(text for text, _ in wrongs)]
    if len({text.casefold() for text in texts}) < len(texts):
        row.wrong("right", gettext("Two of the answers are the same."))
        return None
    choices = [{"text": as_text(one), "right": True} for one in rights]
    for text, says in wrongs:
        one: dict[str, Plain] = {"text": as_text(text), "right": False}
        if says:
            one["says"] = as_text(says)
        choices.append(one)
    part: dict[str, Plain] = {"kind": "choice", "id": PART}
    if len(rights) > 1:
        part |= {"choose": "any", "partial": True}
    return part | {"choices": choices}


def _time(right: str) -> dict[str, Plain] | None:
    if not _TIME.fullmatch(right):
        return None
    minutes = read_time(right)
    if isinstance(minutes, Unreadable):
        return None
    return {"kind": "text_entry", "id": PART, "value": "time", "answer": minutes}


def _number(row: _Reading, right: str) -> dict[str, Plain] | None:
    match = _TYPED.fullmatch(right)
    # A code that begins with a nought is no number, nor is the 3rd of something.
    if match is None or re.match(r"0\d", right) or match.group(2) in _ORDINALS:
        return None
    typed, unit, within = match.groups()
    if _THOUSANDS.match(typed):
        says = gettext("Write {whole}, or {decimals} if the comma begins its decimals.")
        whole, decimals = typed.replace(",", ""), typed.replace(",", ".")
        row.wrong("right", says.format(whole=whole, decimals=decimals))
    digits = len(_plain(typed).partition(".")[2])
    part: dict[str, Plain] = {"kind": "text_entry", "id": PART, "value": "number"}
    if unit and unit.strip():
        part["unit"] = unit.strip()
    if digits:
        part["digits"] = digits
    part["answer"] = _short(float(_plain(typed)))
    tolerance = float(_plain(within)) if within else 0.5 * 10**-digits if digits else 0.0
    if tolerance:
        part["tolerance"] = _short(round(abs(tolerance), 7))
    return part


def _plain(number: str) -> str:
    return number.replace("\u2212", "-").replace(",", ".")


def _short(number: float) -> float | int:
    return int(number) if number.is_integer() else number


def _text(row: _Reading, right: str) -> dict[str, Plain] | None:
    accepted = [as_text(one) for one in _SEVERAL.split(right) if one]
    if len(accepted) > 20:
        row.wrong("right", gettext("Twenty accepted answers at most."))
        return None
    return {"kind": "text_entry", "id": PART, "value": "text", "accepted": accepted}


def _solution(row: _Reading, part: Mapping[str, Plain] | None) -> list[str]:
    found = _lines(row.of("solution"))
    praise = row.of("feedback right")  # not said
    if praise:
        found.insert(0, as_text(" ".join(praise.split())))
        row.notes.append(gettext("The feedback for the right answer stands in the solution."))
    if len(found) > 10:
        row.wrong("solution", gettext("Ten lines at most."))
    if not found and part:
        right = _SEVERAL.split(row.of("right"))
        found = [gettext("The answer is {right}.").format(right=as_text(", ".join(right)))]
    return found


def row_of_text(text: str, topic: str) -> dict[str, str] | str:
    """The same of a family's file, which was checked when it was stored; those that vary aren't
    even read."""
    if _VARIES.search(text):
        return gettext("its numbers vary")
    data = yaml.load(text, Loader=yaml.CSafeLoader)
    return row_of(data, topic) if data else gettext("its file isn’t kept")


def row_of(data: Mapping[str, Plain], topic: str) -> dict[str, str] | str:
    """A family as a row, or why it doesn't fit one. data: its fields as its file has them."""
    parts = data["parts"]
    why = _unfitting(data)
    if why:
        return why
    (part,) = parts
    cells = _answers(part)
    if isinstance(cells, str):
        return cells
    cells |= {
        "topic": topic,
        "question": str(data["prompt"]).strip(),
        "hint": "\n".join(data.get("hints") or []),
        "solution": "\n".join(data["solution"]),
        "difficulty": str(data["difficulty"]),
        "essential": "yes" if data.get("essential") else "no",
        "seconds": f"{data['seconds']:g}",
        "picture": (data.get("figure") or {}).get("file", ""),
    }
    return {name: _unescaped(text) for name, text in cells.items() if text}


def _unescaped(text: str) -> str:
    return text.replace("[['[']]", "[")


def _unfitting(data: Mapping[str, Plain]) -> str:
    if data.get("variables"):
        return gettext("its numbers vary")
    if len(data["parts"]) > 1:
        return gettext("it asks for several answers")
    for name in ("stimulus", "sound", "solution_figure"):
        if data.get(name):
            return gettext("it has more than a table holds")
    figure = data.get("figure")
    return gettext("its drawing has no file") if figure and "file" not in figure else ""


def _answers(part: Mapping[str, Plain]) -> dict[str, str] | str:
    more = gettext("its answer has more than a table holds")
    if part["kind"] == "choice":
        return _choices(part) or more
    kind = part.get("value") if part["kind"] == "text_entry" else None
    if kind not in {"number", "time", "text"}:
        return gettext("no column holds such an answer")
    known = {
        "number": {"answer", "tolerance", "unit", "digits"},
        "time": {"answer"},
        "text": {"accepted"},
    }
    if set(part) - known[kind] - {"kind", "id", "value"}:
        return more
    if kind == "text":
        return {"right": "; ".join(part["accepted"])}
    if not isinstance(part["answer"], int | float):
        return more
    if kind == "time":
        return {"right": clock(part["answer"])}
    unit = part.get("unit", "")
    right = f"{fixed(part['answer'], part.get('digits', 0))} {unit}".strip()
    within = part.get("tolerance", 0)
    if not isinstance(within, int | float):
        return more
    return {"right": f"{right} ± {within:g}" if within else right}


def _choices(part: Mapping[str, Plain]) -> dict[str, str] | None:
    several = part.get("choose", 1) == "any" and part.get("partial") is True
    if set(part) - {"kind", "id", "choices", "choose", "partial"}:
        return None
    if not several and (part.get("choose", 1) != 1 or part.get("partial")):
        return None
    rights = [one for one in part["choices"] if one.get("right") is True]
    wrongs = [one for one in part["choices"] if one.get("right", False) is False]
    sound = len(rights) + len(wrongs) == len(part["choices"]) and len(wrongs) <= WRONGS
    if not sound or not rights or (len(rights) > 1) != several:
        return None
    if any(one.get("says") for one in rights) or any("points" in one for one in part["choices"]):
        return None
    if any(_SEVERAL.search(one["text"]) for one in rights):
        return None
    cells = {"right": "; ".join(one["text"] for one in rights)}
    for n, one in enumerate(wrongs, start=1):
        cells[f"wrong {n}"] = one["text"]
        cells[f"feedback wrong {n}"] = one.get("says") or ""  # not said
    return cells
