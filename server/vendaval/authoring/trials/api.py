"""Endpoints of trials."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from django.utils.translation import gettext
from ninja import Query, Router

from vendaval.authoring.access import course_of_author
from vendaval.authoring.course.pages import topic_of
from vendaval.authoring.families import opened
from vendaval.bank.models import Course, Trial
from vendaval.delivery.schemas import PlaceOut
from vendaval.groups.addresses import CourseKey
from vendaval.people.permissions import current_user, signed_in
from vendaval.shared.errors import NotFound

from . import actions, ending
from .reading import trials_out
from .schemas import StartTrialIn, TrialsOut, TrialTextOut, TrialTextsOut

router = Router(auth=signed_in, tags=["authoring"])
Key = Annotated[str, Query(max_length=60)]


@router.get("", response=TrialsOut, operation_id="list_trials")
def list_trials(request: HttpRequest, course: CourseKey) -> TrialsOut:
    """Trials of a course, with how they stand."""
    return trials_out(course_of_author(current_user(request), course, "list_trials"))


@router.get("/texts", response=TrialTextsOut, operation_id="list_trial_texts")
def list_trial_texts(
    request: HttpRequest, course: CourseKey, family: Key = "", topic: Key = "", section: Key = ""
) -> TrialTextsOut:
    """What a trial can be about: texts of a question, or a study section."""
    person = current_user(request)
    found = course_of_author(person, course, "list_trial_texts")
    if family:
        one = opened(found, family, person)
        title = one.read(one.text).data
        return TrialTextsOut(
            of=PlaceOut(key=one.key, title=str((title or {}).get("title", one.key))),
            texts=[
                TrialTextOut(place=t.place, name=t.name, text=t.text) for t in actions.texts_of(one)
            ],
            running=Trial.objects.filter(family=one.family, ended_at=None).exists(),
        )
    place = topic_of(found, topic)
    row = place.sections.filter(key=section).first()
    if row is None:
        raise NotFound(gettext("This topic doesn’t have that section."))
    return TrialTextsOut(
        of=PlaceOut(key=place.key, title=place.title),
        texts=[TrialTextOut(place="", name=row.title, text=row.markdown)],
        running=Trial.objects.filter(topic=place, section=section, ended_at=None).exists(),
    )


@router.post("", response=TrialsOut, operation_id="start_trial")
def start_trial(request: HttpRequest, course: CourseKey, body: StartTrialIn) -> TrialsOut:
    """Give learners one of two texts from now on."""
    person = current_user(request)
    found = course_of_author(person, course, "start_trial")
    actions.start_trial(found, body, person)
    return trials_out(found)


def _trial(course: Course, trial_id: int) -> Trial:
    found = (
        Trial.objects.select_related(*actions.OF_TRIAL).filter(course=course, pk=trial_id).first()
    )
    if found is None:
        raise NotFound(gettext("This course doesn’t have that trial."))
    return found


@router.post("/{int:trial_id}/end", response=TrialsOut, operation_id="end_trial")
def end_trial(request: HttpRequest, course: CourseKey, trial_id: int) -> TrialsOut:
    """End a trial before it decides itself."""
    person = current_user(request)
    found = course_of_author(person, course, "end_trial")
    ending.end_trial(_trial(found, trial_id), person)
    return trials_out(found)


@router.post("/{int:trial_id}/adopt", response=TrialsOut, operation_id="adopt_text")
def adopt_text(request: HttpRequest, course: CourseKey, trial_id: int) -> TrialsOut:
    """Take the better second text over: as a draft of its question, or in its study page."""
    person = current_user(request)
    found = course_of_author(person, course, "adopt_text")
    actions.adopt(_trial(found, trial_id), person)
    return trials_out(found)
