"""Tries the search for formulas on a pack's families of a single number."""

from __future__ import annotations

import time
from argparse import ArgumentParser
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand
from tqdm import tqdm

from vendaval_core.authoring.formulas.trying import Tried, try_family
from vendaval_core.items.model import Family
from vendaval_core.packs.reader import read_pack


def _tried(family: Family) -> Tried | None:
    return try_family(family, time.monotonic)


class Command(BaseCommand):
    help = "Finds the formulas of packs' families from examples, and says how many are right."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("folders", nargs="+", type=Path)
        parser.add_argument("--workers", type=int, default=2)

    def handle(self, **options: Any) -> None:
        families = [
            item.family for folder in options["folders"] for item in read_pack(folder).families
        ]
        with ProcessPoolExecutor(options["workers"]) as pool:
            bar = tqdm(pool.map(_tried, families), total=len(families), disable=None)
            tried = [one for one in bar if one is not None]
        for one in tried:
            self.stdout.write(
                f"{one.key:24} {one.outcome:10} {one.examples} examples  {one.slowest:4.1f} s  "
                f"{one.found}  [{one.truth}]"
            )
        self._say(tried)

    def _say(self, tried: list[Tried]) -> None:
        found = Counter(str(one.outcome) for one in tried)
        shares = ", ".join(
            f"{name} {found[name]} ({100 * found[name] / len(tried):.0f}%)"
            for name in ("right", "wrong", "none")
        )
        mean = sum(one.examples for one in tried) / len(tried)
        slowest = max(one.slowest for one in tried)
        self.stdout.write(
            f"{len(tried)} families: {shares}; {mean:.1f} examples on average, at most "
            f"{max(one.examples for one in tried)}; slowest search {slowest:.1f} s"
        )
