"""Why a question was asked, said from the terms that were stored with it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..measure.selection import NEAR_BEST
from ..words import in_words
from .practice import BEST_CHANCE, RIGHT_VERSIONS


def _diagnostic(terms: Mapping[str, Any], topic: str) -> list[str]:
    share = 100 * terms["gain"] / terms["uncertain"] if terms.get("uncertain") else None
    found = [f"Of all the questions open to you it tells about the most, here on {topic}."]
    if share is not None:
        found.append(
            f"Its answer is expected to take {share:.1f} % off all that is still uncertain "
            "about the topics of this run."
        )
    near = int(terms.get("near", 1))
    if near > 1:
        found.append(
            f"{in_words(near).capitalize()} questions were within {round(100 - 100 * NEAR_BEST)} % "
            "of the best; one of them was drawn, so that not everybody gets the same ones."
        )
    return found


def _practice(terms: Mapping[str, Any]) -> list[str]:
    found = []
    if terms["rule"] == "coverage":
        found.append(
            "This idea still counts towards covering the topic: it wants right first answers on "
            f"{in_words(RIGHT_VERSIONS)} versions."
        )
    if terms.get("easier"):
        found.append("After two misses in a row an easier one comes.")
    found.append(
        f"You had about {round(100 * terms['success'])} chances in 100 of getting it right; "
        f"questions near {round(100 * BEST_CHANCE)} teach most."
    )
    return found


def why_asked(terms: Mapping[str, Any], topic: str) -> list[str]:
    """Sentences on why a question was asked.

    terms: as stored with the presentation, `rule` among them. topic: its title.
    """
    match terms.get("rule"):
        case "diagnostic":
            return _diagnostic(terms, topic.lower())
        case "swapped":
            return ["You swapped another question for it. It tells nearly as much."]
        case "coverage" | "practice":
            return _practice(terms)
        case "fresh":
            return ["You asked for the same idea with new numbers."]
        case "idea":
            return ["You chose to practise this idea."]
        case "quiz_essential":
            return ["It is in your quiz because everybody must manage this idea."]
        case "quiz_hard":
            share = round(100 * terms["success"])
            return [
                "It is in your quiz because it is among the hardest for you: about "
                f"{share} chances in 100."
            ]
        case "mend":
            return ["You missed this idea before. Right at the first try takes it off your list."]
        case "recheck":
            return ["The target was met some days ago. This shows whether it still holds."]
        case _:
            return ["It was asked before reasons were kept."]
