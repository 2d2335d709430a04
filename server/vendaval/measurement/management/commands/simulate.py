"""Simulate diagnostics over many learners with the application's own functions."""

from __future__ import annotations

import json
import os
import time
from concurrent.futures import ProcessPoolExecutor
from contextlib import nullcontext
from functools import reduce
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from tqdm import tqdm

from vendaval_core.errors import CoreError
from vendaval_core.simulate.study import Policy, Record, Study, blocks, run_block, summary

FEWEST_FOR_WORKERS = 64


class Command(BaseCommand):
    help = "Questions used, RMSE, bias, coverage, calls that are right, exposure and seconds."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--learners", type=int, default=500)
        parser.add_argument("--topics", type=int, default=18)
        parser.add_argument("--families", type=int, default=60, help="in each topic")
        parser.add_argument("--within", type=float, default=0.5, help="correlation in a subject")
        parser.add_argument("--across", type=float, default=0.3, help="correlation across subjects")
        parser.add_argument("--sd", type=float, default=1.0, help="of ability, logits")
        parser.add_argument("--questions", type=int, default=120, help="asked of each, or the most")
        parser.add_argument("--seed", type=int, default=1)
        parser.add_argument(
            "--policy",
            default="joint",
            help="joint, independent, interleaved, random; several with commas are compared",
        )
        parser.add_argument(
            "--until-stopped", action="store_true", help="stop by the application's rules"
        )
        parser.add_argument("--json", action="store_true", help="print one JSON object")
        parser.add_argument("--plot", type=Path, metavar="FILE.svg", help="draw RMSE and bias")

    def handle(self, *, policy: str, plot: Path | None, **options: Any) -> None:
        names = ("learners", "topics", "families", "within", "across", "sd", "questions", "seed")
        for name in ("learners", "topics", "families", "questions"):
            if options[name] < 1:
                raise CommandError(f"--{name} is at least 1, not {options[name]}")
        try:
            studies = [
                Study(
                    **{name: options[name] for name in names},
                    policy=Policy(one),
                    until_stopped=options["until_stopped"],
                )
                for one in policy.split(",")
            ]
            figures = [_simulated(study) for study in studies]
        except (ValueError, CoreError) as error:
            raise CommandError(str(error)) from error
        if plot is not None:
            _draw(figures, plot)
            self.stderr.write(f"Drawn to {plot}")
        if options["json"]:
            self.stdout.write(json.dumps(figures[0] if len(figures) == 1 else figures, indent=1))
            return
        for found in figures:
            short = {key: value for key, value in found.items() if key not in {"rmse", "bias"}}
            self.stdout.write(json.dumps(short, indent=1))


def _simulated(study: Study) -> dict[str, Any]:
    """A study run in as many processes as there are cores, or in this one when it is small."""
    started = time.perf_counter()
    pieces = blocks(study)
    records: list[Record] = []
    small = study.learners < FEWEST_FOR_WORKERS
    with (
        nullcontext() if small else ProcessPoolExecutor(os.cpu_count()) as workers,
        tqdm(
            total=study.learners, desc=f"Simulating, {study.policy}", unit=" learners", disable=None
        ) as bar,
    ):
        if workers is None:
            done = (run_block(study, piece) for piece in pieces)
        else:
            waiting = [workers.submit(run_block, study, piece) for piece in pieces]
            done = (future.result() for future in waiting)
        for piece, record in zip(pieces, done, strict=True):
            records.append(record)
            bar.update(len(piece))
    found = summary(study, reduce(Record.plus, records))
    return found | {"seconds": round(time.perf_counter() - started, 1)}


def _draw(figures: list[dict[str, Any]], file: Path) -> None:
    """RMSE and bias by number of questions. SVG or PNG by the file's ending."""
    try:
        import matplotlib as mpl
    except ImportError as error:
        raise CommandError("--plot wants the bench extra: make bench-tools") from error
    mpl.use("Agg")
    from matplotlib import pyplot

    figure, (left, right) = pyplot.subplots(1, 2, figsize=(11, 4), layout="constrained")
    for found in figures:
        left.plot(found["rmse"], label=found["policy"])
        right.plot(found["bias"], label=found["policy"])
    left.set(title="RMSE, logits", xlabel="questions", ylim=(0, None))
    right.set(title="Bias, logits", xlabel="questions")
    left.legend()
    figure.savefig(file)
    pyplot.close(figure)
