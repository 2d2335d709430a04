"""Rules of response and template processing, run in order."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator, Mapping, Sequence

from vendaval_core.language import gettext

from ..randomness import SeededStream
from . import containers, logic, numeric
from .declarations import Declaration
from .nodes import Node, q
from .run import Again, Leave, Of, Run
from .values import Container, ProcessingError, single

OPERATORS: Mapping[str, Of] = {
    **containers.OPERATORS,
    **logic.OPERATORS,
    **numeric.OPERATORS,
}
STANDARD = frozenset({"match_correct", "map_response", "map_response_point"})
_CONDITIONS = {
    "qti-response-condition": ("qti-response-if", "qti-response-else-if", "qti-response-else"),
    "qti-template-condition": ("qti-template-if", "qti-template-else-if", "qti-template-else"),
}
_SETS = {
    "qti-set-outcome-value": ("outcome",),
    "qti-set-template-value": ("template",),
    "qti-set-default-value": ("response", "outcome"),
}
_RULES = frozenset(
    {
        *_CONDITIONS,
        *_SETS,
        "qti-set-correct-response",
        "qti-lookup-outcome-value",
        "qti-response-processing-fragment",
        "qti-template-constraint",
        "qti-exit-response",
        "qti-exit-template",
    }
)
DRAWS = 100


def evaluate(run: Run, node: Node, depth: int = 0) -> Container:
    """Return what an expression gives. ProcessingError says what can't be worked out."""
    run.step(node, depth)
    operator = OPERATORS.get(node.name)
    if operator is None:
        raise ProcessingError(
            gettext("“{name}” is no expression that is known").format(name=node.name), node.line
        )
    within = node.children if operator.most != 0 else []
    if len(within) < operator.least or (operator.most and len(within) > operator.most):
        raise ProcessingError(
            gettext("{name} has {count} expressions in it").format(
                name=node.name, count=len(within)
            ),
            node.line,
        )
    args = [evaluate(run, one, depth + 1) for one in within]
    return run.taken(operator.does(run, node, args), node)


def unknown_names(program: Node) -> Iterator[Node]:
    """Yield what the interpreter does not know."""
    branches = {name for names in _CONDITIONS.values() for name in names}
    known = {*OPERATORS, *_RULES, *branches, program.name}
    yield from (node for node in program.walk() if node.name not in known)


def _expression(node: Node) -> Node:
    within = node.children
    if len(within) != 1:
        raise ProcessingError(
            gettext("{name} needs one expression").format(name=node.name), node.line
        )
    return within[0]


def _condition(run: Run, node: Node, depth: int) -> None:
    first, other, otherwise = _CONDITIONS[node.name]
    for branch in node.children:
        if branch.name == otherwise:
            _rules(run, branch.children, depth + 1)
            return
        if branch.name not in {first, other} or not branch.children:
            raise ProcessingError(
                gettext("{name} does not belong here").format(name=branch.name), branch.line
            )
        holds = evaluate(run, branch.children[0], depth + 1)
        if holds.base not in {"boolean", None}:
            raise ProcessingError(gettext("a condition is true or false"), branch.line)
        if not holds.null and holds.values[0] is True:
            _rules(run, branch.children[1:], depth + 1)
            return


def _rules(run: Run, rules: Sequence[Node], depth: int = 0) -> None:
    for node in rules:
        run.step(node, depth)
        match node.name:
            case name if name in _CONDITIONS:
                _condition(run, node, depth)
            case name if name in _SETS:
                run.store(node, evaluate(run, _expression(node), depth + 1), _SETS[name])
            case "qti-set-correct-response":
                to = run.named(node.get("identifier"), node)
                run.correct[to.name] = evaluate(run, _expression(node), depth + 1)
            case "qti-lookup-outcome-value":
                _look_up(run, node, depth)
            case "qti-response-processing-fragment":
                _rules(run, node.children, depth + 1)
            case "qti-template-constraint":
                holds = evaluate(run, _expression(node), depth + 1)
                if holds.null or holds.values[0] is not True:
                    raise Again
            case "qti-exit-response" | "qti-exit-template":
                raise Leave
            case _:
                raise ProcessingError(
                    gettext("“{name}” is no rule that is known").format(name=node.name), node.line
                )


def _look_up(run: Run, node: Node, depth: int) -> None:
    name = run.named(node.get("identifier"), node)
    table = name.declared.table
    if table is None or name.declared.base is None:
        raise ProcessingError(gettext("“{name}” has no table").format(name=name.name), node.line)
    looked = evaluate(run, _expression(node), depth + 1)
    found = None if looked.null else table.of(looked.number())
    run.store(node, single(name.declared.base, found), ("outcome",))


def template_of(processing: Node | None) -> str:
    """Return the name of the standard template that processing names, "" for none."""
    said = "" if processing is None else processing.get("template")
    return said.rpartition("/")[2].removesuffix(".xml").lower().replace("-", "_")


def rules_of(processing: Node | None) -> list[Node]:
    """Return the rules of processing: its own, or those of the standard template it names.
    ProcessingError for a template that is not known."""
    if processing is None:
        return []
    if processing.children:
        return processing.children
    name = template_of(processing)
    if not name:
        return []
    name = name.removeprefix("cc2_")
    if name not in STANDARD:
        raise ProcessingError(
            gettext("the template “{name}” is not known").format(name=name[:60]), processing.line
        )
    return [_standard(name)]


def _standard(name: str) -> Node:
    """The rules of a standard template (1EdTech, QTI 3.0, from memory)."""
    given = q("variable", identifier="RESPONSE")

    def score(value: str) -> Node:
        return q("set-outcome-value", q("base-value", value, base_type="float"), identifier="SCORE")

    if name == "match_correct":
        right = q("match", given, q("correct", identifier="RESPONSE"))
        return q(
            "response-condition",
            q("response-if", right, score("1")),
            q("response-else", score("0")),
        )
    mapped = q(name.replace("_", "-"), identifier="RESPONSE")
    return q(
        "response-condition",
        q("response-if", q("is-null", given), score("0")),
        q("response-else", q("set-outcome-value", mapped, identifier="SCORE")),
    )


def run_responses(
    declared: Mapping[str, Declaration],
    rules: Sequence[Node],
    given: Mapping[str, Container],
    templates: Mapping[str, Container] | None = None,
    correct: Mapping[str, Container] | None = None,
) -> dict[str, Container]:
    """Return the outcomes of response processing, by identifier.

    given: responses, by identifier; what is missing is NULL. templates, correct: what template
    processing made. Raises ProcessingError.
    """
    values = {
        name: given.get(name, one.default)
        if one.kind == "response"
        else (templates or {}).get(name, one.default)
        if one.kind == "template"
        else _begins(one)
        for name, one in declared.items()
    }
    run = Run(declared, values, None, dict(correct or {}))
    with contextlib.suppress(Leave):
        _rules(run, rules)
    return {name: run.values[name] for name, one in declared.items() if one.kind == "outcome"}


def _begins(one: Declaration) -> Container:
    """What an outcome is at first: its default, of numbers 0."""
    if one.default.null and one.cardinality == "single" and one.base in {"integer", "float"}:
        return Container("single", one.base, (0 if one.base == "integer" else 0.0,))
    return one.default


def run_template(
    declared: Mapping[str, Declaration], program: Node | None, stream: SeededStream
) -> tuple[dict[str, Container], dict[str, Container]]:
    """Return the template variables and the right answers of one version. Raises ProcessingError,
    also when no draw meets the constraints."""
    for _ in range(DRAWS):
        values = {name: one.default for name, one in declared.items()}
        run = Run(declared, values, stream)
        try:
            _rules(run, [] if program is None else program.children)
        except Leave:
            pass
        except Again:
            continue
        made = {n: run.values[n] for n, one in declared.items() if one.kind == "template"}
        return made, run.correct
    line = 0 if program is None else program.line
    raise ProcessingError(
        gettext("none of {draws} draws meets the constraints").format(draws=DRAWS), line
    )
