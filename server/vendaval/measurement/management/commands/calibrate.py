"""Calibrate a table of responses, or a course from its own log."""

from __future__ import annotations

import getpass
import json
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from tqdm import tqdm

from vendaval.bank.models import Course
from vendaval.measurement.actions import propose_calibration
from vendaval.measurement.models import Calibration
from vendaval_core.errors import CoreError, TableInvalid
from vendaval_core.measure.calibration.conditional import fit_conditional
from vendaval_core.measure.calibration.em import Model
from vendaval_core.measure.calibration.marginal import fit_marginal
from vendaval_core.measure.calibration.report import report_json
from vendaval_core.measure.calibration.screening import screened
from vendaval_core.measure.calibration.sumscores import sum_score_fit
from vendaval_core.measure.calibration.table import MOST_SCORE, read_table


class Command(BaseCommand):
    help = (
        "Fits item parameters by marginal maximum likelihood. With --responses, to a CSV table of "
        "0 and 1 with a header row, blank for missing (gpcm: 0, 1, 2, …). With --course, to the "
        "course’s own log; the result is a proposal, applied with apply_calibration."
    )

    def add_arguments(self, parser: CommandParser) -> None:
        source = parser.add_mutually_exclusive_group(required=True)
        source.add_argument("--responses", type=Path, metavar="FILE.csv")
        source.add_argument("--course", metavar="NAME")
        parser.add_argument("--model", choices=[model.value for model in Model], default="2pl")
        parser.add_argument("--out", type=Path, metavar="FILE.json")
        parser.add_argument(
            "--by", default=getpass.getuser(), help="who is responsible, stored with the proposal"
        )

    def handle(
        self,
        *,
        responses: Path | None,
        course: str | None,
        model: str,
        out: Path | None,
        by: str,
        **options: Any,
    ) -> None:
        if responses is not None:
            found = self._table(responses, Model(model))
        else:
            found = self._course(str(course), by)
        text = json.dumps(found, indent=1)
        if out is None:
            self.stdout.write(text)
        else:
            out.write_text(text + "\n", encoding="utf-8")
            self.stdout.write(f"Written to {out}")

    def _table(self, file: Path, model: Model) -> dict[str, object]:
        try:
            text = file.read_text(encoding="utf-8")
        except (OSError, UnicodeDecodeError) as error:
            raise CommandError(f"{file} cannot be read: {error}") from error
        try:
            whole = read_table(text, most_score=MOST_SCORE if model is Model.PARTIAL else 1)
            table, left_out = screened(whole, model)
            with tqdm(desc=f"Fitting {model}", unit=" steps", disable=None) as bar:

                def progress(step: int, log_likelihood: float) -> None:
                    bar.set_postfix_str(f"log likelihood {log_likelihood:.3f}", refresh=False)
                    bar.update()

                fit = fit_marginal(table, model, progress=progress)
            conditional = None
            if model is Model.RASCH and table.complete:
                conditional = fit_conditional(table)
        except TableInvalid as error:
            lines = "\n".join(f"  {problem}" for problem in error.problems)
            raise CommandError(f"{file} cannot be calibrated:\n{lines}") from error
        except CoreError as error:
            raise CommandError(f"{file} cannot be calibrated: {error}") from error
        for item, why in left_out.items():
            self.stderr.write(f"{item} was left out: {why}")
        if not fit.settled:
            self.stderr.write("The estimates did not come to rest: see the items' problems.")
        return report_json(fit, conditional, left_out, sum_score_fit(fit, table))

    def _course(self, name: str, by: str) -> dict[str, object]:
        found = Course.objects.filter(key=name).first()
        if found is None:
            known = ", ".join(Course.objects.values_list("key", flat=True)) or "none is loaded"
            raise CommandError(f"there is no course “{name}”; known: {known}")
        with tqdm(desc="Calibrating", unit=" topics", disable=None) as bar:

            def progress(topic: str) -> None:
                bar.set_postfix_str(topic, refresh=False)
                bar.update()

            calibration = propose_calibration(found, by, progress)
        return calibration_json(calibration)


def calibration_json(calibration: Calibration) -> dict[str, object]:
    """A proposal as it is printed."""
    proposals = calibration.proposals
    return {
        "calibration": calibration.pk,
        "course": calibration.course.key,
        "responses": calibration.responses,
        "made_by": calibration.made_by,
        "proposed": sum(data["proposed"] is not None for data in proposals),
        "left_alone": sum(data["proposed"] is None for data in proposals),
        "items": proposals,
        "apply_with": f"manage.py apply_calibration {calibration.pk} --by NAME",
    }
