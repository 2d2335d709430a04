"""A test of QTI 3 or 2.x as one of ours: sections, draws, points, time limits, what may be done.

1EdTech, Assessment, Section and Item Information Model 3.0, from memory. What a test here can't do
(preconditions, branch rules, results worked out by rules of its own) is listed, never left out
silently.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from math import ceil

from vendaval_core.language import gettext, gettext_noop

from ...assessment.rules import Navigation, Rules, SubmissionMode, rule_problems
from ...items.processing.nodes import Node, XmlError, read_xml
from .asked import Reading, for_learners
from .item_in import title_of
from .pictures_in import resolved
from .tests_read import EntryRead, SectionRead, TestRead

MOST_SECTIONS, MOST_ENTRIES, MOST_DRAWN, MOST_DIRECTIONS = 20, 120, 400, 4_000
LONGEST_TITLE, MOST_MINUTES, MOST_TRIES, DEEPEST = 120, 600, 10, 20
ITEM, SECTION = "qti-assessment-item-ref", "qti-assessment-section"
SECTION_REF = "qti-assessment-section-ref"
# Told of once where they stand; the rest of what is left out has words of its own.
_NOT_KEPT = {
    "qti-pre-condition": gettext_noop("{where}: it is asked on a condition (precondition)"),
    "qti-branch-rule": gettext_noop("{where}: what comes next depends on an answer (branch rule)"),
    "qti-template-default": gettext_noop("{where}: values that the test sets (template default)"),
    "qti-variable-mapping": gettext_noop(
        "{where}: results that go by other names (variable mapping)"
    ),
    "qti-test-feedback": gettext_noop("{where}: what is said at the end (test feedback)"),
}


class TestNotTaken(Exception):
    """A test that is not taken in, with the reason. line: in its file."""

    __test__ = False

    def __init__(self, what: str, line: int) -> None:
        self.what, self.line = what, line
        super().__init__(what)


def read_test(files: Mapping[str, bytes], path: str) -> TestRead:
    """Return a test of a package. Never raises for what stands in the file."""
    found = TestRead(path, path)
    try:
        root = read_xml(files[path])
        found.title = title_of(root, path)[:LONGEST_TITLE]
        _Walk(files, path, found).test(root)
    except (XmlError, TestNotTaken) as error:
        found.refused, found.line = error.what, error.line
    except RecursionError:
        found.refused = gettext("its sections are nested too deep")
    return found


@dataclass(slots=True)
class _Walk:
    """Goes through a test. weight: the name of the weights that its result counts, None for one
    that counts none."""

    files: Mapping[str, bytes]
    path: str
    found: TestRead
    weight: str | None = None

    def test(self, root: Node) -> None:
        """Take in a whole test."""
        if root.name != "qti-assessment-test":
            says = gettext("this is <{name}>, not a test of QTI 2 or 3")
            raise TestNotTaken(says.format(name=root.name.removeprefix("qti-")), root.line)
        found = self.found
        self._result(root)
        self._left_out(root, gettext("the test"))
        found.directions = self._directions(root, self.path)
        self._minutes_of_test(root)
        parts = root.all("qti-test-part")
        linear = [part.get("navigation-mode") == "linear" for part in parts]
        if linear and all(linear):
            found.rules["navigation"] = Navigation.LINEAR.value
        self._submission(parts)
        for part, forward in zip(parts, linear, strict=True):
            self._part(part, forward=forward and not all(linear))
        found.sections = [one for one in found.sections if one.entries]
        self._limits(root)
        self._rules_that_can_be()

    def _note(self, what: str) -> None:
        if what not in self.found.lost:
            self.found.lost.append(what)

    def _result(self, root: Node) -> None:
        """How the points add up: a sum of scores, weighted or not. Anything else is noted."""
        processing = root.one("qti-outcome-processing")
        if processing is None:
            return
        sums = [one for one in processing.walk() if one.name == "qti-test-variables"]
        plain = {"qti-set-outcome-value", "qti-sum", "qti-test-variables", processing.name}
        plain |= {"qti-number-presented", "qti-base-value", "qti-variable", "qti-divide"}
        rest = [one for one in processing.walk() if one.name not in plain]
        named = {one.get("weight-identifier") for one in sums} - {""}
        self.weight = min(named, default=None)
        if rest or len(named) > 1 or any(one.get("include-category") for one in sums):
            line = (rest or sums or [processing])[0].line
            says = gettext("how the result is worked out (line {line}): points are added up here")
            self._note(says.format(line=line))

    def _left_out(self, node: Node, where: str) -> None:
        for one in node.children:
            if one.name in _NOT_KEPT:
                place = gettext("{where}, line {line}").format(where=where, line=one.line)
                self._note(gettext(_NOT_KEPT[one.name]).format(where=place))

    def _minutes_of_test(self, root: Node) -> None:
        if (minutes := self._minutes(root, gettext("the test"))) is not None:
            self.found.rules["minutes"] = minutes

    def _minutes(self, node: Node, where: str) -> int | None:
        limits = node.one("qti-time-limits")
        if limits is None:
            return None
        if _number(limits.get("min-time")):
            self._note(gettext("{where}: the least time").format(where=where))
        seconds = _number(limits.get("max-time"))
        if seconds is None or not 0 < seconds <= MOST_MINUTES * 60:
            if seconds:
                self._note(gettext("{where}: its time limit").format(where=where))
            return None
        if seconds % 60:
            says = gettext("{where}: seconds of its time limit; it is {minutes} minutes here")
            self._note(says.format(where=where, minutes=ceil(seconds / 60)))
        return ceil(seconds / 60)

    def _submission(self, parts: Sequence[Node]) -> None:
        modes = {part.get("submission-mode") for part in parts}
        if modes == {"individual"}:
            self.found.rules["submission"] = SubmissionMode.INDIVIDUAL.value
            tries = {_control(part).get("max-attempts") or "1" for part in parts}
            if len(tries) > 1:
                self._note(gettext("how often one may try differs between its parts"))
            most = min((_number(one) or MOST_TRIES for one in tries), default=1)
            self.found.rules["tries"] = int(min(MOST_TRIES, max(1, most)))
        elif "individual" in modes:
            self._note(gettext("that some of its parts are marked question by question"))

    def _part(self, part: Node, *, forward: bool) -> None:
        where = gettext("part {name}").format(name=part.get("identifier") or "?")
        self._left_out(part, where)
        self._control(part, where)
        first = len(self.found.sections)
        for node in part.all(SECTION, SECTION_REF):
            self._section(node, self.path, 0)
        made = self.found.sections[first:]
        for one in made:
            one.forward_only = forward
        minutes = self._minutes(part, where)
        if minutes is None:
            return
        if len(made) == 1:
            made[0].minutes = made[0].minutes or minutes
        elif first == 0 and "minutes" not in self.found.rules:
            self.found.rules["minutes"] = minutes
        else:
            self._note(gettext("{where}: its time limit").format(where=where))

    def _control(self, node: Node, where: str) -> None:
        """What the session control forbids."""
        control = _control(node)
        told = self.found.rules.setdefault("release", {})
        if control.get("allow-review") == "false":
            told |= dict.fromkeys(("correctness", "answers", "solutions"), "never")
        if control.get("show-solution") == "false":
            told["solutions"] = "never"
        if not told:
            del self.found.rules["release"]
        if control.get("allow-skipping") == "false":
            self._note(gettext("{where}: that no question may be left out").format(where=where))
        if control.get("validate-responses") == "true":
            says = gettext("{where}: that only valid answers are taken")
            self._note(says.format(where=where))

    def _opened(self, node: Node, path: str) -> tuple[Node, str]:
        """A section, also where it has a file of its own."""
        if node.name == SECTION:
            return node, path
        inner = resolved(path.rpartition("/")[0], node.get("href"))
        if inner is None or inner not in self.files:
            says = gettext("a section that is not in the package: {name}")
            raise TestNotTaken(says.format(name=node.get("href")[:80]), node.line)
        root = read_xml(self.files[inner])
        if root.name != SECTION:
            raise TestNotTaken(gettext("{path} is no section").format(path=inner), root.line)
        return root, inner

    def _section(self, node: Node, path: str, depth: int) -> None:
        """Take in a section; sections in it that are shown become sections beside it."""
        if depth > DEEPEST:
            raise TestNotTaken(gettext("its sections are nested too deep"), node.line)
        node, path = self._opened(node, path)
        title = " ".join(node.get("title").split())[:LONGEST_TITLE]
        where = gettext("section {name}").format(name=title or node.get("identifier") or "?")
        self._left_out(node, where)
        self._control(node, where)
        ordering = node.one("qti-ordering")
        made = SectionRead(
            title or f"{len(self.found.sections) + 1}",
            self._directions(node, path),
            minutes=self._minutes(node, where),
            shuffled=ordering is not None and ordering.get("shuffle") in {"true", "1"},
        )
        first = len(self.found.sections)
        self.found.sections.append(made)
        if node.one("qti-selection") is not None:
            self._draw(node, path, made, where)
            return
        for one in node.all(ITEM, SECTION, SECTION_REF):
            if one.name == ITEM:
                made.entries += self._item(one, path, where)
                continue
            inner, inner_path = self._opened(one, path)
            if inner.one("qti-selection") is not None:
                self._draw(inner, inner_path, made, where)
            elif inner.get("visible") in {"false", "0"} and not inner.all(SECTION, SECTION_REF):
                self._left_out(inner, where)
                for ref in inner.all(ITEM):
                    made.entries += self._item(ref, inner_path, where)
            else:
                self._section(one, path, depth + 1)
                made = replace(made, directions="", minutes=None, entries=[])
                self.found.sections.append(made)
        if len(self.found.sections) - first > 1 and self.found.sections[first].minutes:
            self._note(gettext("{where}: a time limit over several sections").format(where=where))

    def _draw(self, node: Node, path: str, made: SectionRead, where: str) -> None:
        """Some of many, drawn for each learner."""
        selection = node.one("qti-selection")
        assert selection is not None, "it was asked for"
        self._left_out(node, where)
        if selection.get("with-replacement") in {"true", "1"}:
            self._note(gettext("{where}: that an item may be drawn twice").format(where=where))
        refs = list(self._refs(node, path, 0))
        if any(one.get("required") in {"true", "1"} for one, _ in refs):
            self._note(
                gettext("{where}: that an item is always among those drawn").format(where=where)
            )
        if node.all(SECTION, SECTION_REF):
            inner = [one for one in node.children if one.name in {SECTION, SECTION_REF}]
            if not all(_is_versions(one) for one in inner):
                says = gettext("{where}: that whole sections are drawn, not single items")
                self._note(says.format(where=where))
        entries = [entry for ref, at in refs for entry in self._item(ref, at, where)]
        if not entries:
            return
        weights = {entry.weight for entry in entries}
        if len(weights) > 1:
            says = gettext("{where}: different weights of items that are drawn; the first counts")
            self._note(says.format(where=where))
        items = list(dict.fromkeys(item for entry in entries for item in entry.items))
        count = min(max(1, int(_number(selection.get("select")) or 1)), len(items))
        made.entries.append(EntryRead(items[:MOST_DRAWN], count, entries[0].weight))

    def _refs(self, node: Node, path: str, depth: int) -> Iterator[tuple[Node, str]]:
        """Items in a section that is drawn from, whatever sections they stand in."""
        if depth > DEEPEST:
            raise TestNotTaken(gettext("its sections are nested too deep"), node.line)
        for one in node.children:
            if one.name == ITEM:
                yield one, path
            elif one.name in {SECTION, SECTION_REF}:
                yield from self._refs(*self._opened(one, path), depth + 1)

    def _item(self, ref: Node, path: str, where: str) -> Iterator[EntryRead]:
        name = ref.get("identifier") or ref.get("href")
        place = gettext("{where}, {name}").format(where=where, name=name[:60])
        self._left_out(ref, place)
        if ref.one("qti-time-limits") is not None:
            self._note(gettext("{where}: its time limit").format(where=place))
        if _control(ref).attributes:
            self._note(gettext("{where}: its own session control").format(where=place))
        if ref.get("fixed") in {"true", "1"}:
            self._note(gettext("{where}: that it stays in its place").format(where=place))
        inner = resolved(path.rpartition("/")[0], ref.get("href"))
        if inner is None or inner not in self.files:
            self._note(gettext("{where}: it is not in the package").format(where=place))
            return
        weights = {one.get("identifier"): one for one in ref.all("qti-weight")}
        chosen = weights.get(self.weight or "")
        if weights and chosen is None:
            self._note(gettext("{where}: a weight that no result counts").format(where=place))
        value = 1.0 if chosen is None else _number(chosen.get("value"))
        if value is None or not 0 < value <= 1000:
            says = gettext("{where}: a weight that points can’t have; it counts 1")
            self._note(says.format(where=place))
            value = 1.0
        yield EntryRead([inner], 1, value)

    def _directions(self, node: Node, path: str) -> str:
        """What is said to learners above it."""
        reading = Reading({}, self.files, path.rpartition("/")[0])
        reading.lost = self.found.lost
        texts = [
            reading.blocks(one.within) for one in node.all("qti-rubric-block") if for_learners(one)
        ]
        if reading.figures:
            self._note(gettext("pictures in its directions"))
        return reading.cut("\n\n".join(text for text in texts if text.strip()), MOST_DIRECTIONS)

    def _limits(self, root: Node) -> None:
        sections = self.found.sections
        if not sections:
            raise TestNotTaken(gettext("no question of it is in the package"), root.line)
        if len(sections) > MOST_SECTIONS:
            says = gettext("it has {count} sections; at most {most} are taken")
            raise TestNotTaken(says.format(count=len(sections), most=MOST_SECTIONS), root.line)
        longest = max(len(one.entries) for one in sections)
        if longest > MOST_ENTRIES:
            says = gettext("a section has {count} questions; at most {most} are taken")
            raise TestNotTaken(says.format(count=longest, most=MOST_ENTRIES), root.line)

    def _rules_that_can_be(self) -> None:
        """Leave out rules that can't be together, with the reason."""
        given = self.found.rules
        rules = Rules(
            navigation=Navigation(given.get("navigation", "nonlinear")),
            submission=SubmissionMode(given.get("submission", "simultaneous")),
            tries=given.get("tries", 1),
            minutes=given.get("minutes"),
        )
        limited = any(one.minutes is not None for one in self.found.sections)
        wrong = rule_problems(rules, same_versions=True, section_minutes=limited)
        for name, says in wrong.items():
            if name == "minutes" and limited:
                for section in self.found.sections:
                    section.minutes = None
                self._note(gettext("time limits of its sections: the test has one as a whole"))
            else:
                given.pop(name, None)
                self._note(says)


def _is_versions(node: Node) -> bool:
    """Whether a section only chooses among versions of one item, as ours are written."""
    return node.get("identifier").endswith("_versions")


def _control(node: Node) -> Node:
    return node.one("qti-item-session-control") or Node("none", "qti", {})


def _number(text: str) -> float | None:
    try:
        value = float(text)
    except ValueError:
        return None
    return value if abs(value) < 1e9 else None
