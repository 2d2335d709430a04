"""Endpoints of the rehearsal."""

from __future__ import annotations

from django.http import HttpRequest
from django.utils.translation import gettext
from ninja import Router

from vendaval.groups.addresses import CourseKey
from vendaval.groups.queries import own_enrolment
from vendaval.people.permissions import current_user, signed_in
from vendaval_core.items.formulas.workers import asking

from . import queries
from .schemas import RehearsalOut, TriedOut, TryIn

router = Router(auth=signed_in, tags=["rehearsal"])


@router.get("", response=RehearsalOut, operation_id="get_rehearsal")
def get_rehearsal(request: HttpRequest, course: CourseKey) -> RehearsalOut:
    return queries.rehearsal(own_enrolment(current_user(request), course, "get_rehearsal").course)


@router.post("/{slug:key}", response=TriedOut, operation_id="try_rehearsal")
def try_rehearsal(request: HttpRequest, course: CourseKey, key: str, body: TryIn) -> TriedOut:
    enrolment = own_enrolment(current_user(request), course, "try_rehearsal")
    with asking(gettext("learner {person_id}").format(person_id=enrolment.person_id)):
        return queries.try_out(enrolment.course, key, body.responses)
