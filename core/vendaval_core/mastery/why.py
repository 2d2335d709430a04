"""Why a question was asked, said from the terms that were stored with it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from vendaval_core.language import gettext

from ..measure.selection import NEAR_BEST
from ..words import in_words
from .practice import BEST_CHANCE, RIGHT_VERSIONS


def _diagnostic(terms: Mapping[str, Any], topic: str) -> list[str]:
    share = 100 * terms["gain"] / terms["uncertain"] if terms.get("uncertain") else None
    found = [
        gettext("This question tells us most about your level in {topic}.").format(topic=topic)
    ]
    if share is not None:
        found.append(
            gettext(
                "We expect the answer to remove {share:.1f}% of what we don’t know yet about "
                "these topics."
            ).format(share=share)
        )
    near = int(terms.get("near", 1))
    if near > 1:
        found.append(
            gettext(
                "{near} questions were nearly as good (within {near_best}%). We drew one of "
                "them, so that learners get different ones."
            ).format(near=in_words(near).capitalize(), near_best=round(100 - 100 * NEAR_BEST))
        )
    return found


def _practice(terms: Mapping[str, Any]) -> list[str]:
    found = []
    if terms["rule"] == "coverage":
        found.append(
            gettext(
                "You still need this idea to cover the topic: answer it right first time, on "
                "{right_versions} versions."
            ).format(right_versions=in_words(RIGHT_VERSIONS))
        )
    if terms.get("easier"):
        found.append(gettext("After two wrong answers in a row you get an easier question."))
    found.append(
        gettext(
            "You had about {terms} chances in 100 of getting it right. Questions near "
            "{best_chance} teach most."
        ).format(terms=round(100 * terms["success"]), best_chance=round(100 * BEST_CHANCE))
    )
    return found


def why_asked(terms: Mapping[str, Any], topic: str) -> list[str]:
    """Return sentences on why a question was asked.

    terms: as stored with the presentation, `rule` among them. topic: its title.
    """
    match terms.get("rule"):
        case "diagnostic":
            return _diagnostic(terms, topic.lower())
        case "swapped":
            return [
                gettext("You swapped another question for this one. It tells us nearly as much.")
            ]
        case "coverage" | "practice":
            return _practice(terms)
        case "fresh":
            return [gettext("You asked for the same idea with new numbers.")]
        case "idea":
            return [gettext("You chose to practise this idea.")]
        case "quiz_essential":
            return [gettext("It is in your quiz because everybody needs to know this idea.")]
        case "quiz_hard":
            share = round(100 * terms["success"])
            return [
                (
                    gettext(
                        "It is in your quiz because it is one of the hardest for you: about "
                        "{share} chances in 100."
                    ).format(share=share)
                )
            ]
        case "mend":
            return [
                gettext(
                    "You missed this idea before. Get it right first time and it leaves your list."
                )
            ]
        case "recheck":
            return [
                gettext("You reached this target some days ago. This shows if you still know it.")
            ]
        case _:
            return [gettext("We have no reason on file for this one.")]
