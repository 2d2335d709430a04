"""Endpoints of the plan to a date and of spells of work."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Query, Router

from vendaval.groups.addresses import CourseKey
from vendaval.groups.queries import own_enrolment
from vendaval.people.permissions import current_user, signed_in

from . import plan, spells
from .schemas import GoOnSpellIn, PlanOut, SpellMinutes, SpellOut, SpellPlanOut, StartSpellIn

router = Router(auth=signed_in, tags=["planning"])
SPELL = "/spells/{int:spell_id}"


@router.get("/plan", response=PlanOut, operation_id="get_plan")
def get_plan(request: HttpRequest, course: CourseKey) -> PlanOut:
    """The plan to the next date."""
    return plan.plan_page(own_enrolment(current_user(request), course, "get_plan"))


@router.get("/spell", response=SpellPlanOut, operation_id="get_spell_plan")
def get_spell_plan(
    request: HttpRequest, course: CourseKey, minutes: Query[SpellMinutes]
) -> SpellPlanOut:
    """What some minutes would be filled with; looking begins nothing."""
    enrolment = own_enrolment(current_user(request), course, "get_spell_plan")
    return spells.spell_plan(enrolment, minutes)


@router.post("/spells", response=SpellOut, operation_id="start_spell")
def start_spell(request: HttpRequest, course: CourseKey, body: StartSpellIn) -> SpellOut:
    """Begin a spell of work, with its first piece."""
    return spells.spell_out(spells.start_spell(current_user(request), course, body.minutes))


@router.get(SPELL, response=SpellOut, operation_id="get_spell")
def get_spell(request: HttpRequest, course: CourseKey, spell_id: int) -> SpellOut:
    user = current_user(request)
    return spells.spell_out(spells.own_spell(user, course, spell_id, "get_spell"))


@router.post(f"{SPELL}/go-on", response=SpellOut, operation_id="go_on_spell")
def go_on_spell(
    request: HttpRequest, course: CourseKey, spell_id: int, body: GoOnSpellIn
) -> SpellOut:
    """The next piece."""
    user = current_user(request)
    return spells.spell_out(spells.go_on(user, course, spell_id, body.piece))


@router.post(f"{SPELL}/end", response=SpellOut, operation_id="end_spell")
def end_spell(request: HttpRequest, course: CourseKey, spell_id: int) -> SpellOut:
    return spells.spell_out(spells.end_spell(current_user(request), course, spell_id))
