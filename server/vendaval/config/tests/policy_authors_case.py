"""What authors' operations need before they are asked: drafts, trials, what stands now."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django_tasks_db.models import DBTaskResult

from vendaval.authoring.course.pages import page_to_edit, topic_of
from vendaval.authoring.course.reading import structure
from vendaval.authoring.families import opened
from vendaval.authoring.models import Draft
from vendaval.authoring.tests.builders import a_draft, version_of_draft
from vendaval.authoring.trials.actions import start_trial, texts_of
from vendaval.authoring.trials.schemas import StartTrialIn
from vendaval.authoring.workbench import draft_version
from vendaval.bank.models import Collection, Course, Family, Trial
from vendaval.exchange.imports import begin, look_through, row_edit
from vendaval.exchange.jobs import write_export
from vendaval.exchange.models import Import, ImportRow, ImportState
from vendaval.exchange.qti_out import begin_export
from vendaval.measurement.jobs import apply_in_background, undo_in_background
from vendaval.measurement.models import Calibration
from vendaval.people.models import User
from vendaval.shared import clock
from vendaval.shared.editing import edit_version
from vendaval_core.exchange.qti.tests_read import TestRead
from vendaval_core.exchange.sheet_columns import read_sheet

FAMILY = "distance-run"


def authors_request(
    course: Course, by: User, name: str, address: str, body: dict[str, Any]
) -> tuple[str, dict[str, Any]]:
    """The address and body of an operation, as it is to be asked for now."""
    if name == "rename_variable":
        Draft.objects.all().delete()
        family = opened(course, FAMILY, by)
        return address, body | {"version": draft_version(family.text)}
    if name in {"check_structure", "save_structure"}:
        now = structure(course)
        body = now.model_dump(mode="json") | {"title": "Navigation near the coast"}
        return address, body | {"version": edit_version(now)}
    if name == "get_calibrated_curves":
        curve = {"a": 1.0, "b": 0.0, "c": 0.0, "steps": []}
        proposal = {
            "item": FAMILY,
            "present": curve,
            "proposed": None,
            "answers": 0,
            "problems": [],
        }
        Calibration.objects.update(proposals=[proposal])
    if name in {"accept_calibration", "undo_calibration", "apply_calibration"}:
        paths = [apply_in_background.module_path, undo_in_background.module_path]
        DBTaskResult.objects.filter(task_path__in=paths).delete()
        Calibration.objects.update(applied_at=None)
    if name in {"check_merging", "merge_topics"}:
        return address, {"topic": _spare_topic(course), "into": "buoyage"}
    if "{export_id}" in address:
        made = begin_export(course, "buoyage", 1, by)
        write_export.call(made.pk)
        return address.replace("{export_id}", str(made.pk)), body
    if "{import_id}" in address:
        number = _an_import(course, by, name)
        here = address.replace("{import_id}", str(number)).replace("{line}", "2")
        if name == "change_import_row":
            body = body | {"version": edit_version(row_edit(ImportRow.objects.get(of=number)))}
        return here, body
    if name in {"start_trial", "end_trial", "adopt_text"}:
        return _of_a_trial(course, by, name, address)
    if name in {"preview_page", "save_page_text"}:
        page = page_to_edit(course, topic_of(course, "tidal-terms")).model_dump(mode="json")
        page["sections"][0]["title"] = f"About {page['sections'][0]['title']}"
        if name == "preview_page":
            return address, {"sections": page["sections"]}
        saved = {name: page[name] for name in ("version", "sections", "resources")}
        return address, saved | {"why": "Clearer."}
    if name == "adopt_question":
        Draft.objects.all().delete()
        own = Collection.objects.create(course=course)
        Family.objects.filter(course=course, key="bridge-formula").update(collection=own)
        return address.replace(FAMILY, "bridge-formula"), {}
    if name in {"publish_family", "restore_step"}:
        Draft.objects.all().delete()
        draft = a_draft(course, FAMILY, by)
        address = address.replace("{step}", str(draft.steps.get().pk))
        why = {"why": "A clearer title.", "keeps": True}
        return address, {"version": version_of_draft(draft)} | why
    return address, body


def _spare_topic(course: Course) -> str:
    like = course.topics.first()
    assert like is not None
    like.pk, like.key = None, f"spare-{course.topics.count()}"
    like.save(force_insert=True)
    return like.key


def _an_import(course: Course, by: User, name: str) -> int:
    """An import that was looked through, or that was taken in and can be taken back."""
    sheet = read_sheet([["topic", "question", "right"], ["buoyage", "How deep is it?", "4.7 m"]])
    made = begin(course, "sheet.csv", sheet, by)
    look_through(made)
    if name == "choose_imported_test":
        test = asdict(TestRead("t.xml", "Week one")) | {"skip": False, "made": None}
        Import.objects.filter(pk=made.pk).update(tests=[test, test])
    if name == "undo_import":
        Import.objects.filter(pk=made.pk).update(state=ImportState.DONE)
    return made.pk


def _of_a_trial(course: Course, by: User, name: str, address: str) -> tuple[str, dict[str, Any]]:
    Trial.objects.all().delete()
    Draft.objects.all().delete()
    family = opened(course, FAMILY, by)
    text = texts_of(family)[0]
    body = {"family": family.key, "place": text.place, "first": text.text}
    body |= {"second": "Think of it once more."}
    if name == "start_trial":
        return address, body
    trial = start_trial(course, StartTrialIn.model_validate(body), by)
    if name == "adopt_text":
        Trial.objects.update(verdict="second", ended_at=clock.now())
    return address.replace("{trial_id}", str(trial.pk)), {}
