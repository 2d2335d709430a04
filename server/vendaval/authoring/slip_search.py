"""The search for slips, in a process of its own."""

from __future__ import annotations

import json
import time
from dataclasses import asdict
from typing import Any

import numpy as np

from vendaval.shared.sandboxed import Reply, serve
from vendaval_core.authoring.slips.families import numbers_of
from vendaval_core.authoring.slips.search import Wrong, slips
from vendaval_core.packs.families import read_family
from vendaval_core.packs.topic_files import KeptFiles

SECONDS = 1.5


def work(asked: dict[str, Any], data: bytes) -> Reply:
    """The slips behind wrong answers to a family; none for one that is no single number."""
    sent = json.loads(data)
    read = read_family(
        sent["text"], sent["path"], sent["key"], sent["topic"], KeptFiles(sent["files"])
    ).read
    numbers = None if read is None else numbers_of(read.family)
    if numbers is None:
        return {"slips": []}, []
    given = [
        (seed - 1, learner, value)
        for seed, learner, text in sent["wrong"]
        if (value := _number(text)) is not None and seed <= numbers.known.versions
    ]
    if not given:
        return {"slips": []}, []
    versions, learners, answers = zip(*given, strict=True)
    until = time.process_time() + SECONDS
    wrong = Wrong(np.array(answers, float), np.array(versions), np.array(learners))
    return {
        "slips": [
            asdict(one) for one in slips(numbers.known, wrong, lambda: time.process_time() > until)
        ]
    }, []


def _number(text: str) -> float | None:
    try:
        return float(text)
    except ValueError:
        return None


if __name__ == "__main__":
    serve(work)
