"""Calibrations put in force in the background."""

from __future__ import annotations

from django_tasks import task

from .actions import apply_calibration


@task()
def apply_in_background(calibration_id: int, by: str) -> list[int]:
    """Put a calibration in force and make every level again: families moved, learners."""
    return list(apply_calibration(calibration_id, by))
