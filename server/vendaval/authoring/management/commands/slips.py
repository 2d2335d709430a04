"""Tries the search for slips on packs' families whose near misses are known."""

from __future__ import annotations

import time
from argparse import ArgumentParser
from concurrent.futures import ProcessPoolExecutor
from functools import partial
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand
from tqdm import tqdm

from vendaval_core.authoring.slips.trying import Tried, try_family
from vendaval_core.items.model import Family
from vendaval_core.packs.reader import read_pack

SECONDS = 1.0


def _tried(family: Family, seed: int, noise: bool) -> Tried | None:
    until = time.monotonic() + SECONDS
    return try_family(family, lambda: time.monotonic() > until, seed, noise=noise)


class Command(BaseCommand):
    help = "Takes a near miss out of each family and looks for it in wrong answers, and in noise."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("folders", nargs="+", type=Path)
        parser.add_argument("--seed", type=int, default=1)
        parser.add_argument("--workers", type=int, default=2)

    def handle(self, **options: Any) -> None:
        families = [
            item.family for folder in options["folders"] for item in read_pack(folder).families
        ]
        with ProcessPoolExecutor(options["workers"]) as pool:
            for noise in (False, True):
                work = partial(_tried, seed=options["seed"], noise=noise)
                bar = tqdm(pool.map(work, families), total=len(families), disable=None)
                tried = [one for one in bar if one is not None]
                right = sum(one.right for one in tried)
                what = "nothing named in noise" if noise else "the slip taken out is named"
                share = f"{right} of {len(tried)} families ({100 * right / len(tried):.0f}%)"
                self.stdout.write(f"{what}: {share}")
                for one in tried:
                    if not one.right:
                        self.stdout.write(f"  {one.key}: {one.removed or 'noise'}, {one.named}")
