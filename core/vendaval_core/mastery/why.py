"""Why a question was asked, said from the terms that were stored with it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..measure.selection import NEAR_BEST
from ..words import in_words
from .practice import BEST_CHANCE, RIGHT_VERSIONS


def _diagnostic(terms: Mapping[str, Any], topic: str) -> list[str]:
    share = 100 * terms["gain"] / terms["uncertain"] if terms.get("uncertain") else None
    found = [f"This question tells us most about your level in {topic}."]
    if share is not None:
        found.append(
            f"We expect the answer to remove {share:.1f}% of what we don't know yet about "
            "these topics."
        )
    near = int(terms.get("near", 1))
    if near > 1:
        found.append(
            f"{in_words(near).capitalize()} questions were nearly as good (within "
            f"{round(100 - 100 * NEAR_BEST)}%). We drew one of them, so that learners get "
            "different ones."
        )
    return found


def _practice(terms: Mapping[str, Any]) -> list[str]:
    found = []
    if terms["rule"] == "coverage":
        found.append(
            "You still need this idea to cover the topic: answer it right first time, on "
            f"{in_words(RIGHT_VERSIONS)} versions."
        )
    if terms.get("easier"):
        found.append("After two wrong answers in a row you get an easier question.")
    found.append(
        f"You had about {round(100 * terms['success'])} chances in 100 of getting it right. "
        f"Questions near {round(100 * BEST_CHANCE)} teach most."
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
            return ["You swapped another question for this one. It tells us nearly as much."]
        case "coverage" | "practice":
            return _practice(terms)
        case "fresh":
            return ["You asked for the same idea with new numbers."]
        case "idea":
            return ["You chose to practise this idea."]
        case "quiz_essential":
            return ["It is in your quiz because everybody needs to know this idea."]
        case "quiz_hard":
            share = round(100 * terms["success"])
            return [
                (
                    f"It is in your quiz because it is one of the hardest for you: about {share} "
                    "chances in 100."
                )
            ]
        case "mend":
            return ["You missed this idea before. Get it right first time and it leaves your list."]
        case "recheck":
            return ["You reached this target some days ago. This shows if you still know it."]
        case _:
            return ["We have no reason on file for this one."]
