"""Calibrations made and put in force in the background."""

from __future__ import annotations

from django_tasks import task
from django_tasks_db.models import DBTaskResult

from vendaval.bank.models import Course
from vendaval.shared.jobs import GOING

from .actions import apply_calibration, propose_calibration, undo_calibration
from .models import CalibrationRun
from .tables import propose_from_table


@task()
def apply_in_background(calibration_id: int, by: str, only: list[str] | None = None) -> list[int]:
    """Put a calibration, or some families of it, in force and make every level again: families
    moved, learners."""
    return list(apply_calibration(calibration_id, by, only=only))


@task()
def undo_in_background(calibration_id: int, by: str, only: list[str]) -> list[int]:
    """Put the curves before a calibration in force again: families moved, learners."""
    return list(undo_calibration(calibration_id, by, only))


def at_work() -> set[int]:
    """Calibrations that a job is about to put in force or to undo."""
    paths = [apply_in_background.module_path, undo_in_background.module_path]
    going = DBTaskResult.objects.filter(task_path__in=paths, status__in=GOING)
    return {row.args_kwargs["args"][0] for row in going}


@task()
def propose_in_background(course_id: int, by: str) -> int:
    """Calibrate a course's log or the table that was sent, and say how far it is meanwhile: the
    number of the calibration."""
    course = Course.objects.get(pk=course_id)
    run = CalibrationRun.objects.filter(course=course)
    done = 0

    def progress(topic: str) -> None:
        nonlocal done
        run.update(topic=topic, done=done)
        done += 1

    try:
        asked = run.get()
        if asked.table:
            return propose_from_table(course, by, asked.table, asked.table_name, progress).pk
        return propose_calibration(course, by, progress).pk
    finally:
        run.delete()
