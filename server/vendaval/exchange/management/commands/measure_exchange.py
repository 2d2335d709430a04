"""Measure the formats: whether everything comes back, and what hostile files cost."""

from __future__ import annotations

import json
import random
import resource
import time
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser
from tqdm import tqdm

from vendaval_core.errors import ArchiveError
from vendaval_core.exchange.archive import unpacked
from vendaval_core.exchange.qti.item_out import item_written
from vendaval_core.exchange.qti.package_in import find, take
from vendaval_core.exchange.qti.package_out import FamilyToWrite, package_written
from vendaval_core.items.processing.declarations import read_declarations
from vendaval_core.items.processing.nodes import XmlError, read_xml
from vendaval_core.items.processing.program import rules_of, run_responses
from vendaval_core.items.versions import make_version
from vendaval_core.packs.families import PackFamily, family_from_data
from vendaval_core.packs.reader import read_pack
from vendaval_core.scoring.tries import ONE_TRY, QuestionState, submit
from vendaval_core.simulate.mutated import mutated

EXAMPLES = ("right", "wrong", "partly")


class Command(BaseCommand):
    help = (
        "Writes every question of the demo's courses as QTI 3, reads it again and compares; runs "
        "the written rules on right, wrong and partly right answers of many versions; reads "
        "damaged packages. Prints JSON with counts, times and memory."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--versions", type=int, default=20)
        parser.add_argument("--packages", type=int, default=2000)

    def handle(self, *, versions: int, packages: int, **options: Any) -> None:
        families = []
        for name in ("inshore", "galley"):
            pack = read_pack(Path(settings.PACKS) / name, versions=False)
            families += [*pack.families, *pack.rehearsal]
        figures = {
            "back": _back(families, versions),
            "answers": _answers(families, versions),
            "damaged": _in_a_process(families, packages),
        }
        self.stdout.write(json.dumps(figures, indent=1))


def _back(families: list[PackFamily], versions: int) -> dict[str, object]:
    """Families that come back the same, and so all of their versions."""
    began = time.monotonic()
    to_write = [FamilyToWrite(one, [make_version(one.family, 1)], "Topic") for one in families]
    files = package_written("All", to_write).files
    found = {
        one.key: one.read.data
        for one in (take(files, path, about) for path, about in find(files).items.items())
    }
    same = compared = 0
    for one in tqdm(families, desc="Compared", disable=None):
        data = found[one.family.key]
        assert data is not None
        again = family_from_data(one.family.key, one.family.topic, data)
        same += again == one.family
        for seed in range(1, min(versions, one.family.versions) + 1):
            compared += make_version(again, seed) == make_version(one.family, seed)
    seconds = round(time.monotonic() - began, 1)
    return {"families": len(families), "same": same, "versions": compared, "seconds": seconds}


def _answers(families: list[PackFamily], versions: int) -> dict[str, object]:
    """Answers whose points by the written rules are those that we give."""
    answers = same = 0
    for one in tqdm(families, desc="Marked", disable=None):
        for seed in range(1, min(versions, one.family.versions) + 1):
            version = make_version(one.family, seed)
            item = item_written(version, one.family.key)
            root = read_xml(item.content)
            processing = root.one("qti-response-processing")
            if processing is None:
                continue
            declared, rules = read_declarations(root), rules_of(processing)
            for kind in EXAMPLES:
                given = {
                    key.id: getattr(key.examples, kind) or key.examples.right
                    for key in version.parts
                }
                state = QuestionState.fresh(version.parts)
                ours = submit(version, state, given, ONE_TRY, final=True).after.score(ONE_TRY)
                out = run_responses(declared, rules, item.values(given))
                answers += 1
                same += abs(out["SCORE"].number() / item.of - float(ours)) < 1e-6
    return {"answers": answers, "same": same}


def _in_a_process(families: list[PackFamily], count: int) -> dict[str, object]:
    """Damaged packages, read in a process of their own, whose memory is all theirs."""
    chosen = families[:: max(1, len(families) // 40)]
    files = package_written(
        "Some", [FamilyToWrite(one, [make_version(one.family, 1)], "Topic") for one in chosen]
    ).files
    with ProcessPoolExecutor(1) as pool:
        return pool.submit(_damaged, files, count).result()


def _damaged(files: dict[str, bytes], count: int) -> dict[str, object]:
    slowest, read, refused, items = 0.0, 0, 0, 0
    for data in tqdm(mutated(files, random.Random(1), count), total=count, disable=None):
        began = time.monotonic()
        try:
            inside = unpacked(data)
            taken = [take(inside, path, about) for path, about in find(inside).items.items()]
            items += sum(one.read.data is not None for one in taken)
            read += 1
        except (ArchiveError, XmlError):
            refused += 1
        slowest = max(slowest, time.monotonic() - began)
    megabytes = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    return {
        "packages": count,
        "read": read,
        "refused": refused,
        "items_read": items,
        "slowest_seconds": round(slowest, 2),
        "most_megabytes": round(megabytes),
    }
