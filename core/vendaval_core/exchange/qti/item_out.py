"""A version of a family as an item of QTI 3.0.

1EdTech, Assessment, Section and Item Information Model 3.0, from memory. What other programs can't
know goes beside the item, into the package's manifest (`package_out`).
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from ...items.processing.nodes import Node, h, q, xml_file
from ...items.processing.values import Container
from ...items.versions import Version

# They say how each kind is written.
from . import by_rules_out, chosen_out, placed_out, typed_out  # noqa: F401
from . import rules_out as r
from .figures_out import Drawn, blasts, drawn
from .parts_out import Names, PartWritten, lost_words, part_written
from .prose_out import blocks
from .spoken_out import SPOKEN, catalog

TEMPLATES = "https://purl.imsglobal.org/spec/qti/v3p0/rptemplates"
FEEDBACK = "FEEDBACK"
SOLUTION, MODEL = "solution", "model"


@dataclass(frozen=True, slots=True)
class ItemWritten:
    """An item's file with the files it shows, by path. lost: what other programs don't know of it.
    values: answers of ours, by part, as QTI's variables. of: points in all."""

    identifier: str
    title: str
    root: Node
    files: Mapping[str, bytes]
    lost: tuple[str, ...]
    values: Callable[[Mapping[str, str]], dict[str, Container]]
    of: float
    stimulus: str = ""
    interactions: tuple[str, ...] = ()

    @property
    def content(self) -> bytes:
        """The file."""
        return xml_file(self.root)


def item_written(
    version: Version,
    identifier: str,
    language: str = "en",
    *,
    stimulus: str = "",
    companions: Sequence[Node] = (),
) -> ItemWritten:
    """Return a version as an item. stimulus: name of the file with its shared text. companions:
    the tools that may be used (companion materials)."""
    parts = [
        (key, names := _names(version, place), part_written(key, names))
        for place, key in enumerate(version.parts)
    ]
    files: dict[str, bytes] = {}
    for _, _, part in parts:
        files.update((one.name, one.content) for one in part.files)
    body = list[Node | str](_prompt(version, files))
    for key, _, part in parts:
        body.append(h("div", *part.body, id=f"part-{key.id}", class_="part"))
    scored = [(names, part) for key, names, part in parts if part.rules]
    of = float(_full(scored) if scored else sum(part.of for _, _, part in parts))
    standard = _standard(version, scored)
    own = {node.get("identifier") for _, _, part in parts for node in part.declarations}
    told = FEEDBACK if FEEDBACK not in own else f"{FEEDBACK}_{len(own)}"
    feedback, modal = ([], []) if standard else _said(version, scored, of, told)
    outcomes = _outcomes(version, scored, of, told if modal else "")
    processing = q("response-processing", *feedback)
    if standard:
        processing = q("response-processing", template=f"{TEMPLATES}/{standard}.xml")
    body += _for_markers(version, [part for _, _, part in parts], files)
    lost = dict.fromkeys(what for _, _, part in parts for what in part.lost)
    if any(picture.frames for picture in (version.figure, version.solution_figure) if picture):
        lost[lost_words("moving")] = None
    if version.stimulus and not stimulus:
        body = [h("div", *blocks(version.stimulus), class_="stimulus"), *body]
    outcomes = [one for one in outcomes if one.get("identifier") not in own]
    within: list[Node] = [
        *(
            node
            for _, _, part in parts
            for node in part.declarations
            if node.name == "qti-response-declaration"
        ),
        *outcomes,
        *(
            node
            for _, _, part in parts
            for node in part.declarations
            if node.name != "qti-response-declaration"
        ),
    ]
    if stimulus:
        href = {"identifier": "stimulus", "href": stimulus, "title": version.title}
        within.append(q("assessment-stimulus-ref", **href))
    if companions:
        within.append(q("companion-materials-info", *companions))
    within.append(q("item-body", *body))
    modal += [node for _, _, part in parts for node in part.modal]
    within += [catalog(version), *([processing] if scored else []), *modal]
    root = q(
        "assessment-item",
        *within,
        identifier=identifier,
        title=version.title,
        adaptive="false",
        time_dependent="false",
        lang=language,
        tool_name="Vendaval",
        tool_version="1",
    )

    def values(responses: Mapping[str, str]) -> dict[str, Container]:
        found: dict[str, Container] = {}
        for key, _, part in parts:
            if responses.get(key.id, "").strip():
                found.update(part.values(responses[key.id]))
        return found

    kinds = dict.fromkeys(node.name for node in root.walk() if node.name.endswith("-interaction"))
    return ItemWritten(
        identifier,
        version.title,
        root,
        files,
        tuple(lost),
        values,
        of,
        stimulus,
        tuple(kinds),
    )


def _names(version: Version, place: int) -> Names:
    if len(version.parts) == 1:
        return Names("RESPONSE", "SCORE")
    id_ = version.parts[place].id.upper()
    return Names(f"RESPONSE_{id_}", f"SCORE_{id_}")


def _full(scored: Sequence[tuple[Names, PartWritten]]) -> int:
    """Points in all: those of the only part, or one for each."""
    return scored[0][1].of if scored[0][0].score == "SCORE" else len(scored)


def _standard(version: Version, scored: Sequence[tuple[Names, PartWritten]]) -> str:
    """The standard template that does all there is to do, "" if none."""
    if len(version.parts) != 1 or len(scored) != 1 or version.hints:
        return ""
    part = scored[0][1]
    return "" if part.feedback else part.standard


def _prompt(version: Version, files: dict[str, bytes]) -> list[Node]:
    spoken = {"data-catalog-idref": SPOKEN}
    found = [h("div", *blocks(version.prompt), class_="prompt", **spoken)]
    if version.figure is not None:
        on = drawn(version.figure)
        files[on.name] = on.content
        found.append(h("div", on.image(), class_="figure"))
    if version.sound:
        name, content = blasts(version.sound)
        files[name] = content
        source = h("audio", src=name, controls="controls")
        words = [h("p", version.sound_words, class_="sound-words")] if version.sound_words else []
        found.append(h("div", source, *words, class_="sound"))
    return found


def _for_markers(
    version: Version, parts: Sequence[PartWritten], files: dict[str, bytes]
) -> list[Node]:
    """What is shown to who marks and teaches: the worked solution, and what is looked for."""
    steps = [h("div", *blocks(step), class_="step") for step in version.solution]
    picture: list[Node] = []
    if version.solution_figure is not None:
        on: Drawn = drawn(version.solution_figure)
        files[on.name] = on.content
        picture = [h("p", on.image())]
    about = {"use": "scoring", "view": "author scorer tutor", "class_": SOLUTION}  # not said
    found = [q("rubric-block", q("content-body", *steps, *picture), **about)]
    looked_for = [node for part in parts for node in part.scorer]
    if looked_for:
        about = {"use": "scoring", "view": "scorer", "class_": MODEL}
        found.append(q("rubric-block", q("content-body", *looked_for), **about))
    return found


def _outcomes(
    version: Version,
    scored: Sequence[tuple[Names, PartWritten]],
    of: float,
    feedback: str,
) -> list[Node]:
    by_person: dict[str, str | float] = {} if scored else {"external_scored": "human"}
    bounds: dict[str, str | float] = {"normal_maximum": of, "normal_minimum": 0.0}
    found = [
        r.outcome("SCORE", "float", "0", **bounds, **by_person),
        r.outcome("MAXSCORE", "float", f"{of:g}"),
    ]
    found += [
        r.outcome(names.score, "float", "0", normal_maximum=float(part.of), normal_minimum=0.0)
        for names, part in scored
        if names.score != "SCORE"
    ]
    if feedback:
        found.append(r.outcome(feedback, "identifier", cardinality="multiple"))
    return found


def _said(
    version: Version, scored: Sequence[tuple[Names, PartWritten]], of: float, feedback: str
) -> tuple[list[Node], list[Node]]:
    """The rules of an item, and what is said to wrong answers: foreseen ones, and hints by the
    number of attempts."""
    rules: list[Node] = []
    modal: list[Node] = []

    def says(text: str) -> Node:
        name = f"says_{len(modal) + 1}"
        modal.append(
            q(
                "modal-feedback",
                q("content-body", *blocks(text)),
                outcome_identifier=feedback,
                identifier=name,
                show_hide="show",
            )
        )
        told = q("multiple", r.given(feedback), r.word(name))
        return r.sets(feedback, told)

    several = [names for names, _ in scored if names.score != "SCORE"]
    for names, part in scored:
        if not part.standard or part.standard == "map_response_point":
            rules.append(r.sets(names.score, r.number(0)))
        rules += part.rules
    shares = [
        r.given(names.score)
        if part.of == 1
        else q("divide", r.given(names.score), r.number(part.of))
        for names, part in scored
        if names in several
    ]
    if shares:
        rules.append(r.sets("SCORE", shares[0] if len(shares) == 1 else q("sum", *shares)))
    for names, part in scored:
        if part.feedback:
            cases = [(condition, says(text)) for condition, text in part.feedback]
            missed = q("lt", r.given(names.score), r.number(part.of))
            rules.append(r.when(missed, r.first_of(cases)))
    for number, hint in enumerate(version.hints if scored else (), start=1):
        attempt = q("base-value", str(number), base_type="integer")
        condition = q(
            "and",
            q("match", r.given("numAttempts"), attempt),
            q("lt", r.given("SCORE"), r.number(of - 1e-9)),
        )
        rules.append(r.when(condition, says(hint)))
    return rules, modal
