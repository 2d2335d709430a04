"""Print every sentence of the interface with where it stands, and how hard it is to read.

Run through make strings, which extracts the web's sentences first (web/locales/en.po). With
--grades only the figures are shown, and the learner's sentences are held against their bars.
"""

from __future__ import annotations

import re
import sys
from collections import defaultdict
from collections.abc import Iterator

from python_strings import ROOT, files, translated

sys.path.insert(0, str(ROOT / "core"))
from vendaval_core.packs.survey import reading_grade

PO = ROOT / "web/locales/en.po"
STAFF = re.compile(r"roles/(tutor|office|author|guardian)|Office|Staff")
STAFF_ROOMS = re.compile(
    r"^(core|server): (bank|expressions|exams/(assigning|composing|invigilating|marking|regrading)"
    r"|fields|figures|groups|items/(expressions|fields|pictures|svg|versions)|backups|privacy|measure\w*"
    r"|office|packs|tutor|notices|mastery/(asking|attention|challenge|helping)|assessment/"
    r"(composition|rules|points)|assigning|items/kinds)"
)
MOST_AVERAGE, MOST, FEWEST_WORDS = 6.0, 9.0, 8


def web() -> Iterator[tuple[str, str]]:
    """Page and text of the web's sentences, out of its catalogue."""
    for entry in PO.read_text().split("\n\n")[1:]:
        found = re.search(r"^#: src/(\S+?)(?::\d+)?$", entry, re.MULTILINE)
        said = re.search(r'^msgid ((?:".*"\n?)+)', entry, re.MULTILINE)
        if found and said:
            lines = re.findall(r'^"(.*)"$', said[1], re.MULTILINE)
            text = "".join(lines).replace('\\"', '"').replace("\\n", "\n")
            yield f"web: {re.sub(r'(/index)?[.]tsx?$', '', found[1])}", text


def python() -> Iterator[tuple[str, str]]:
    """Room and text of the core's and the server's sentences."""
    for file in files():
        side, _, name = str(file.relative_to(ROOT)).split("/", 2)
        for _, text in translated(file):
            yield f"{side}: {name.removesuffix('.py')}", text


def is_learners(page: str) -> bool:
    """Whether learners read what stands on a page."""
    return not (STAFF.search(page) or STAFF_ROOMS.search(page))


def grade(text: str) -> float:
    """Reading grade of a sentence; what is put in counts as one short word."""
    return reading_grade(re.sub(r"\{[^{}]*\}", "x", text))


def main() -> None:
    """Print the list, then the figures; exit with an error where a bar is missed."""
    pages: dict[str, list[str]] = defaultdict(list)
    for page, text in sorted({*web(), *python()}):
        pages[page].append(text)
    learners, hard = [], []
    for page, texts in pages.items():
        if "--grades" not in sys.argv:
            print(f"\n{page}", *(f"  {text}" for text in texts), sep="\n")
        if is_learners(page):
            long = [text for text in texts if len(text.split()) >= FEWEST_WORDS]
            learners += long
            hard += [(grade(text), page, text) for text in long if grade(text) > MOST]
    average = sum(map(grade, learners)) / len(learners)
    print(f"\n{sum(map(len, pages.values()))} sentences on {len(pages)} pages.")
    print(f"Learners read {len(learners)} of {FEWEST_WORDS} words or more: grade {average:.1f}.")
    for figure, page, text in sorted(hard, reverse=True):
        print(f"  {figure:.1f} {page}: {text}")
    if hard or average > MOST_AVERAGE:
        raise SystemExit(f"Bars: {MOST_AVERAGE} on average, none over {MOST}.")


if __name__ == "__main__":
    main()
