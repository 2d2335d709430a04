"""The search for a formula, in a process of its own: it takes seconds, and half a gigabyte."""

from __future__ import annotations

import json
import time
from dataclasses import asdict
from typing import Any

from vendaval.shared.sandboxed import Reply, serve
from vendaval_core.authoring.formulas.question import ExampleError, Mark, Question, find
from vendaval_core.packs.constants import CONSTANTS


def work(asked: dict[str, Any], data: bytes) -> Reply:
    """The formula of a question, or what to ask next; or which example can't be read."""
    sent = json.loads(data)
    try:
        return asdict(find(question_of(sent), time.process_time)), []
    except ExampleError as error:
        return {"unread": str(error), "where": error.where}, []


def question_of(sent: dict[str, Any]) -> Question:
    """A question as it was sent."""
    marks = tuple(
        Mark(
            one["name"],
            tuple(one["written"]),
            one["low"],
            one["high"],
            one["step"],
            tuple(one["forms"]) if one["forms"] else None,
        )
        for one in sent["marks"]
    )
    constants = tuple(sent.get("constants", CONSTANTS))
    return Question(sent["text"], marks, tuple(sent["answers"]), sent["direction"], constants)


if __name__ == "__main__":
    serve(work)
