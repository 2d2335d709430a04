"""Versions of a family as its author wants to see them: answers, near misses and solution."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from django.template.loader import render_to_string
from django.utils.translation import gettext

from vendaval.shared.markdown import to_html
from vendaval_core.items.model import Family
from vendaval_core.items.versions import Version, make_version
from vendaval_core.scoring.outcomes import guess_chance


@dataclass(frozen=True, slots=True)
class PartPreview:
    """A part in words. misses: what a foreseen wrong answer is, and what is said to it."""

    label: str
    kind: str
    right: str
    misses: tuple[tuple[str, str], ...]
    guess: float


def part_previews(family: Family, version: Version) -> list[PartPreview]:
    """Each part of a version."""
    return [
        PartPreview(
            key.label or "answer",
            part.called,
            key.right_words(),
            tuple((slip.words, slip.says) for slip in key.foreseen()),
            guess_chance(key),
        )
        for part, key in zip(family.parts, version.parts, strict=True)
    ]


def some_versions(family: Family, count: int) -> list[Version]:
    """The first versions of a family, at most as many as it has."""
    return [make_version(family, seed) for seed in range(1, min(count, family.versions) + 1)]


def as_text(family: Family, versions: Sequence[Version]) -> str:
    """For the terminal."""
    lines: list[str] = []
    for version in versions:
        lines += [
            f"── version {version.seed} {'─' * 50}",
            version.prompt.strip(),
        ]
        for part in part_previews(family, version):
            lines.append(f"  {part.label} ({part.kind}): {part.right}")
            lines += [
                gettext("    not {wrong}: {says}").format(wrong=wrong, says=says)
                for wrong, says in part.misses
            ]
        lines += [f"  hint: {hint}" for hint in version.hints]
        lines += [f"  step: {step}" for step in version.solution]
    return "\n".join(lines)


def as_page(family: Family, versions: Sequence[Version]) -> str:
    """An HTML page of its own."""
    shown = [
        {
            "seed": version.seed,
            "prompt": to_html(version.prompt),
            "stimulus": to_html(version.stimulus) if version.stimulus else "",
            "figure": version.figure,
            "parts": part_previews(family, version),
            "hints": [to_html(hint) for hint in version.hints],
            "solution": [to_html(step) for step in version.solution],
            "solution_figure": version.solution_figure,
        }
        for version in versions
    ]
    return render_to_string("bank/preview.html", {"family": family, "versions": shown})
