"""How an item is marked once it is ours, and what is said to answers."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import cast

from vendaval_core.language import gettext

from ...items.kinds.by_rules import INNER, NamingModel
from ...items.kinds.given import given_variables
from ...items.kinds.protocol import Key
from ...items.kinds.tagged import names_of
from ...items.processing.declarations import Declaration
from ...items.processing.nodes import Node, q, write_xml
from ...items.processing.program import unknown_names
from ...items.processing.values import Container
from ...items.versions import Version, make_version
from ...packs.families import family_from_data
from ..sheet_rows import as_text
from .asked import Asked, NotTaken, Plain, Reading, template_name
from .feedback_in import MOST_HINTS, Feedback
from .marking_in import Rules, agree, full_marks
from .says_in import give_says
from .templates_in import WHICH, TemplateRun, chosen, plain, variables_of, woven

_INNER = frozenset(name for part in INNER for name in names_of(part))
CHECKED, MOST_LETTERS = 3, 4_000
# Kinds that count a share for each piece, or the whole alone: whichever the rules do.
_SHARES = frozenset(
    {"table_entry", "order", "match", "gap_match", "graphic_gap_match"}
    | {"inline_choice", "associate"}
)


@dataclass(slots=True)
class Marked:
    """An item's parts in every version (asked: of each run), and the rules that mark them.

    ours: whether our kinds mark it alone, as the rules would. full: points in all.
    """

    reading: Reading
    declared: Mapping[str, Declaration]
    runs: Sequence[TemplateRun]
    asked: Sequence[Sequence[Asked]]
    feedback: Feedback
    line: int
    ours: bool = True
    full: float = 1.0
    keys: list[Key] = field(default_factory=list)
    _which: int = 0

    def parts(self) -> list[Plain]:
        """The parts as a family's file has them."""
        for each in self.asked:
            _different_ids(each)
        versions = [[one.part for one in asked] for asked in self.asked]
        parts = cast(list[Plain], woven(versions))
        self._take(self._version(parts, 1))
        marked = any(key.units for key in self.keys)
        if not marked:
            return parts
        if self.score is None or not self.reading.rules:
            self.reading.remark(
                gettext("The file doesn’t say how it is marked: by the right answer it names.")
            )
            return parts
        self.full = max(self._full(run) for run in range(len(self.runs)))
        if self.full <= 0:
            raise NotTaken(gettext("its own right answer earns no points"), self.line)
        if self._alone(parts) or self._by_shares(parts):
            for part, one in zip(parts, self.asked[0], strict=True):
                self._says(part, one)
            return parts
        return self._by_rules(parts)

    def _alone(self, parts: list[Plain]) -> bool:
        """Whether our kinds mark as the rules do, or are to mark instead of them."""
        asked = self.asked[0]
        rows = any(one.part["kind"] == "choice" and not one.exact for one in asked)
        if not rows and not all(one.exact for one in asked):
            if len(asked) > 1:
                self.reading.remark(gettext("Each of its answers is worth the same here."))
            return True
        naming = {one.part["id"]: naming_of(one) for one in asked}
        for seed in range(1, (CHECKED if len(self.runs) > 1 else 1) + 1):
            self._take(self._version(parts, seed))
            if rows or not agree(self.keys, naming, self.rules, self.full):
                return False
        return True

    def _by_shares(self, parts: list[Plain]) -> bool:
        """Whether our kinds mark as the rules do, once they count pieces, or the whole alone."""
        changed = [part for part in parts if part["kind"] in _SHARES]
        for part in changed:
            part["partial"] = not part.get("partial", part["kind"] != "order")
        if changed and self._alone(parts):
            return True
        for part in changed:
            part["partial"] = not part["partial"]
        return False

    @property
    def score(self) -> str | None:
        """The outcome that counts."""
        outcomes = [one for one in self.declared.values() if one.kind == "outcome"]
        numbers = [one.identifier for one in outcomes if one.base in {"float", "integer"}]
        if "SCORE" in numbers:
            return "SCORE"
        left = [name for name in numbers if name != "MAXSCORE"]
        return left[0] if len(left) == 1 else None

    @property
    def rules(self) -> Rules:
        """The rules, in the version at hand."""
        return self._rules(self._which)

    def _rules(self, which: int) -> Rules:
        run = self.runs[which]
        return Rules(
            self.declared, self.reading.rules, run.values, run.correct, self.score or "SCORE"
        )

    def _version(self, parts: Sequence[Plain], seed: int) -> Version:
        data = {
            "title": "item",
            "difficulty": 3,
            "seconds": 60,
            "source": "QTI",
            "study": "start",
            "variables": variables_of(self.runs),
            "prompt": "?",
            "parts": list(parts),
            "solution": ["."],
        }
        return make_version(family_from_data("item", "topic", data), seed)

    def _take(self, version: Version) -> None:
        self.keys = list(version.parts)
        self._which = int(version.variables.get(WHICH, 0))

    def _full(self, which: int) -> float:
        return full_marks(self._rules(which), self._right(which))

    def _right(self, which: int | None = None) -> dict[str, Container]:
        """The right answers as variables."""
        place = self._which if which is None else which
        declared = self.runs[place].declared(self.declared)
        found = {}
        for one in self.asked[place]:
            for name in one.variables:
                found[name] = self._correct(declared[name])
        return found

    def _correct(self, declared: Declaration) -> Container:
        if not declared.correct.null:
            return declared.correct
        try:
            values = self.reading.right(declared, declared.node)
        except NotTaken:
            return Container(declared.cardinality, declared.base)
        return Container(declared.cardinality, declared.base, values)

    def _says(self, part: Plain, asked: Asked) -> None:
        """Give a part what the file says to its wrong answers."""
        if len(self.runs) > 1 or not self.feedback.said:
            return
        general = set(self.said_to_wrong())
        right = self._right()

        def told(name: str, held: Container) -> list[str]:
            outcomes = self.rules.run({**right, name: held}, 1)
            reached = outcomes[self.rules.score]
            if not reached.null and reached.number() >= self.full - 1e-9:
                return []
            own = [text for text in self.feedback.shown(outcomes) if text not in general]
            self.feedback.used |= set(own)
            return own

        give_says(part, asked, self.declared, self.reading.rules, right, told)

    def _by_rules(self, parts: list[Plain]) -> list[Plain]:
        """One part that holds all, with the file's own rules."""
        for part in parts:
            kind = f"{part['kind']}.{part.get('value', '')}".rstrip(".")
            if kind == "table_entry":
                says = gettext("its table isn’t marked cell by cell, each worth the same")
                raise NotTaken(says, self.line)
            if kind not in _INNER:
                says = gettext("{kind} can’t be marked by rules of its own")
                raise NotTaken(says.format(kind=part["kind"]), self.line)
        rules = q("response-processing", *self.reading.rules)
        for strange in unknown_names(rules):
            says = gettext("“{name}” is no rule that is known")
            raise NotTaken(says.format(name=strange.name), strange.line)
        self.ours = False
        nodes = [one.node for one in self.declared.values() if one.node.name]
        outer: dict[str, Plain] = {
            "kind": "by_rules",
            "id": "answers",
            "parts": parts,
            "naming": woven([{o.part["id"]: o.naming for o in asked} for asked in self.asked]),
            "declared": write_xml(q("declarations", *nodes)),
            "rules": write_xml(rules),
            "full": self.full,
        }
        if self.score not in {None, "SCORE"}:
            outer["score"] = self.score
        if len(self.runs) > 1:
            self._vary(outer, nodes, rules)
        if said := self.feedback.by_name():
            outer["says"] = said
            self.feedback.used |= set(said.values())
        if self._version([outer], 1).parts[0].examples.partly is not None:
            outer["partial"] = True
        return [outer]

    def _vary(self, outer: dict[str, Plain], nodes: Sequence[Node], rules: Node) -> None:
        """Give the rules the values of each version: template variables, and right answers that
        are drawn, under a name of their own."""
        known = {name for name, _ in variables_of(self.runs)}
        values: dict[str, Plain] = {
            name: template_name(name)
            for name in self.runs[0].values
            if template_name(name) in known
        }
        drawn = []
        for name in dict.fromkeys(name for run in self.runs for name in run.correct):
            column = [plain(self._correct_in(run, name)) for run in self.runs]
            if any(one is None for one in column):
                raise NotTaken(gettext("a right answer of several values is drawn"), self.line)
            values[f"RIGHT_{name}"] = chosen([one for one in column if one is not None])
            base = self.declared[name].base or "string"
            said = {"identifier": f"RIGHT_{name}", "cardinality": "single", "base_type": base}
            drawn.append(q("template-declaration", **said))
        outer["values"] = values
        outer["declared"] = write_xml(q("declarations", *nodes, *drawn))
        outer["rules"] = write_xml(_with_drawn(rules))

    def _correct_in(self, run: TemplateRun, name: str) -> Container:
        return run.declared(self.declared)[name].correct

    def said_to_wrong(self) -> list[str]:
        """What is shown to any wrong answer."""
        if self.score is None:
            return []
        return self.feedback.shown(self.rules.run(self._wrong(), 1))

    def hints(self) -> list[str]:
        """What is shown to wrong answers one attempt after another: texts that belong to no answer
        in particular."""
        if not self.ours or self.score is None:
            return []
        found: list[str] = []
        wrong = self._wrong()
        for attempt in range(1, MOST_HINTS + 1):
            for text in self.feedback.shown(self.rules.run(wrong, attempt)):
                if text not in self.feedback.used and text not in found:
                    found.append(text)
        self.feedback.used |= set(found)
        return found[:MOST_HINTS]

    def _wrong(self) -> dict[str, Container]:
        """An answer that nobody foresees: nothing where anything is chosen, something far off where
        it is typed."""
        found: dict[str, Container] = {}
        for key, one in zip(self.keys, self.asked[0], strict=False):
            if one.part["kind"] in {"text_entry", "slider"}:
                names = naming_of(one).filled(self.declared, {})
                found |= given_variables(key, names, key.examples.wrong)
        return found

    def said_to_right(self) -> list[str]:
        """What is shown to the right answer."""
        if self.score is None:
            return []
        told = self.feedback.shown(self.rules.run(self._right(), 1))
        return [text for text in told if text not in self.feedback.used]

    def right_words(self) -> str:
        """The right answer in words."""
        said = [
            f"{key.label}: {words}" if key.label else words
            for key, words in ((key, key.right_words()) for key in self.keys)
        ]
        return as_text("; ".join(text for text in said if text))[:MOST_LETTERS] or "."


def _different_ids(asked: Sequence[Asked]) -> None:
    seen: set[str] = set()
    for one in asked:
        id_, number = one.part["id"], 2
        while one.part["id"] in seen:
            one.part["id"] = f"{id_[:27]}_{number}"
            number += 1
        seen.add(one.part["id"])


def naming_of(asked: Asked) -> NamingModel:
    """How a part's answer becomes variables."""
    return NamingModel.model_validate(asked.naming)


def _with_drawn(node: Node) -> Node:
    """Rules that take a drawn right answer from the variable of its own name."""
    if node.name == "qti-correct":
        return q("variable", identifier=f"RIGHT_{node.get('identifier')}")
    within = tuple(one if isinstance(one, str) else _with_drawn(one) for one in node.within)
    return Node(node.name, node.space, node.attributes, node.line, within)
