"""Simulate diagnostics and practice over many learners, with the application's own functions."""

from __future__ import annotations

import json
from dataclasses import asdict
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from vendaval.measurement.simulating import (
    by_level,
    circle_of_pack,
    simulated_calibration,
    simulated_study,
    simulated_weeks,
    study_of_pack,
)
from vendaval_core.errors import CoreError
from vendaval_core.measure.trials import simulate as simulate_trials
from vendaval_core.packs.located import PackInvalid
from vendaval_core.simulate.calibrating import Known
from vendaval_core.simulate.pupil import Crowd
from vendaval_core.simulate.signals import every_signal
from vendaval_core.simulate.study import Policy, Study

CROWDS = tuple(crowd.value for crowd in Crowd)


class Command(BaseCommand):
    help = (
        "Simulates diagnostics: questions used, RMSE, bias, coverage, right calls, exposure. "
        "With --journey: weeks of learning of crowds like the model and not. "
        "With --levels: how long diagnostics last at each true level. "
        "With --calibration: whether the log of practice gives known curves back. "
        "With --signals: how often honest and planted learners raise a signal."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--learners", type=int, default=500)
        parser.add_argument("--topics", type=int, default=18)
        parser.add_argument("--families", type=int, default=60, help="families in each topic")
        parser.add_argument("--within", type=float, default=0.5, help="correlation in a subject")
        parser.add_argument("--across", type=float, default=0.3, help="correlation across subjects")
        parser.add_argument("--sd", type=float, default=1.0, help="sd of ability, logits")
        parser.add_argument(
            "--questions", type=int, default=120, help="questions for each learner, or the maximum"
        )
        parser.add_argument("--seed", type=int, default=1)
        parser.add_argument(
            "--policy",
            default="joint",
            help="joint, independent, interleaved, random; several with commas are compared",
        )
        parser.add_argument(
            "--until-stopped", action="store_true", help="stop by the application’s rules"
        )
        parser.add_argument(
            "--pack", type=Path, metavar="FOLDER", help="use the families of this pack"
        )
        parser.add_argument(
            "--subject", help="a subject of the pack for the diagnostic; all subjects if left out"
        )
        parser.add_argument(
            "--journey", action="store_true", help="simulate weeks of learning instead"
        )
        parser.add_argument(
            "--signals",
            action="store_true",
            help="simulate false alarms and power of signals instead",
        )
        parser.add_argument(
            "--levels",
            action="store_true",
            help="simulate diagnostics until they stop at true levels from 20 to 95 instead",
        )
        parser.add_argument(
            "--trials",
            type=int,
            metavar="MANY",
            help="simulate so many trials of two texts: false alarms and power, instead",
        )
        parser.add_argument(
            "--calibration",
            action="store_true",
            help="calibrate simulated practice with known curves instead",
        )
        parser.add_argument(
            "--spread", type=float, default=0.0, help="sd of a family’s versions, for --calibration"
        )
        parser.add_argument("--days", type=int, default=42, help="days of a journey")
        parser.add_argument(
            "--minutes", type=float, default=20.0, help="minutes a day of a journey"
        )
        parser.add_argument(
            "--crowds", default="all", help=f"of a journey: {', '.join(CROWDS)}, or all"
        )
        parser.add_argument("--json", action="store_true", help="print one JSON object")
        parser.add_argument("--plot", type=Path, metavar="FILE.svg", help="draw RMSE and bias")

    def handle(
        self,
        *,
        policy: str,
        plot: Path | None,
        journey: bool,
        **options: Any,
    ) -> None:
        for name in ("learners", "topics", "families", "questions", "days"):
            if options[name] < 1:
                raise CommandError(f"--{name} is at least 1, not {options[name]}")
        try:
            if journey:
                self._journeys(plot, **options)
                return
            if options["signals"]:
                asked = every_signal(options["learners"], options["seed"])
                self.stdout.write(json.dumps([asdict(one) for one in asked], indent=1))
                return
            if options["trials"]:
                self._trials(options["trials"], options["seed"])
                return
            if options["calibration"]:
                names = ("learners", "seed", "spread")
                known = Known(**{name: options[name] for name in names})
                found = simulated_calibration(known, range(0, known.families, 2))
                self.stdout.write(json.dumps(found, indent=1))
                return
            if options["levels"]:
                rows = by_level(self._study("joint", options | {"until_stopped": True}))
                self.stdout.write(json.dumps([asdict(row) for row in rows], indent=1))
                return
            figures = [simulated_study(self._study(one, options)) for one in policy.split(",")]
        except PackInvalid as error:
            raise CommandError(f"{options['pack']} was refused:\n{error}") from error
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

    def _trials(self, many: int, seed: int) -> None:
        """False alarms, also where chances are wrong for everybody, and what is found of 10 and 20
        points."""
        cases = ((0.0, 1000, 0.0), (0.0, 1000, 0.3), (0.1, 1000, 0.0), (0.2, 300, 0.0))
        for points, most, off in cases:
            found = simulate_trials(points, many, most, seed, off=off)
            case = {"points": 100 * points, "answers": most, "chances_off_by": off}
            self.stdout.write(json.dumps(case | asdict(found)))

    def _study(self, policy: str, options: dict[str, Any]) -> Study:
        names = ("learners", "topics", "families", "within", "across", "sd", "questions", "seed")
        wanted = {name: options[name] for name in names}
        wanted |= {"policy": Policy(policy), "until_stopped": options["until_stopped"]}
        if options["pack"] is None:
            return Study(**wanted)
        return study_of_pack(options["pack"], options["subject"], **wanted)

    def _journeys(self, plot: Path | None, **options: Any) -> None:
        folder = options["pack"] or settings.PACKS / "inshore"
        wanted = {name: options[name] for name in ("learners", "days", "minutes", "seed")}
        named = options["crowds"]
        crowds = [Crowd(one) for one in (CROWDS if named == "all" else named.split(","))]
        figures = simulated_weeks(circle_of_pack(folder, **wanted), crowds)
        if plot is not None:
            _draw_journeys(figures, plot)
            self.stderr.write(f"Drawn to {plot}")
        self.stdout.write(json.dumps(figures, indent=1))


def _two_panels() -> tuple[Any, Any, Any, Any]:
    """matplotlib's pyplot, and a figure of two panels."""
    try:
        import matplotlib as mpl
    except ImportError as error:
        raise CommandError("--plot wants the bench extra: make bench-tools") from error
    mpl.use("Agg")
    from matplotlib import pyplot

    figure, (left, right) = pyplot.subplots(1, 2, figsize=(11, 4), layout="constrained")
    return pyplot, figure, left, right


def _draw_journeys(figures: dict[str, Any], file: Path) -> None:
    """Targets met by day, and forecasts against what came. SVG or PNG by the file's ending."""
    pyplot, figure, left, right = _two_panels()
    for name, found in figures["crowds"].items():
        left.plot(found["met_by_day"], label=name.replace("_", " "))
    tenths = figures["forecasts"]
    said, came = [t["said"] for t in tenths], [t["came"] for t in tenths]
    right.plot(said, came, marker="o")
    right.plot([0, 1], [0, 1], linestyle="--", color="grey")
    left.set(title="Targets met", xlabel="day", ylim=(0, None))
    right.set(title="Forecasts, all crowds", xlabel="said", ylabel="came")
    left.legend()
    figure.savefig(file)
    pyplot.close(figure)


def _draw(figures: list[dict[str, Any]], file: Path) -> None:
    """RMSE and bias by number of questions. SVG or PNG by the file's ending."""
    pyplot, figure, left, right = _two_panels()
    for found in figures:
        left.plot(found["rmse"], label=found["policy"])
        right.plot(found["bias"], label=found["policy"])
    left.set(title="RMSE, logits", xlabel="questions", ylim=(0, None))
    right.set(title="Bias, logits", xlabel="questions")
    left.legend()
    figure.savefig(file)
    pyplot.close(figure)
