"""Endpoints to set tests for a group."""

from __future__ import annotations

from typing import Annotated

from django.http import HttpRequest
from ninja import Query, Router

from vendaval.groups.queries import own_group
from vendaval.people.permissions import current_user, signed_in

from . import setting
from .setting_schemas import BankOut, FamilyPreviewOut, GroupTestsOut, SetTestIn, TestCheckOut

router = Router(auth=signed_in, tags=["setting"])
GROUP = "/groups/{int:group_id}"
Words = Annotated[str, Query(max_length=80)]
Seed = Annotated[int, Query(ge=1, le=10_000)]


@router.get(f"{GROUP}/tests", response=GroupTestsOut, operation_id="list_group_tests")
def group_tests(request: HttpRequest, group_id: int) -> GroupTestsOut:
    """Tests given to a group, and where its learners stand with each."""
    return setting.group_tests(own_group(current_user(request), group_id, "list_group_tests"))


@router.get(f"{GROUP}/bank", response=BankOut, operation_id="search_bank")
def bank(request: HttpRequest, group_id: int, topic: Words = "", words: Words = "") -> BankOut:
    """Question families of the course, to pick from."""
    group = own_group(current_user(request), group_id, "search_bank")
    return setting.search_bank(group, topic, words)


@router.get(
    f"{GROUP}/bank/{{slug:family}}", response=FamilyPreviewOut, operation_id="preview_family"
)
def preview(request: HttpRequest, group_id: int, family: str, seed: Seed = 1) -> FamilyPreviewOut:
    group = own_group(current_user(request), group_id, "preview_family")
    return setting.preview_family(group, family, seed)


@router.post(f"{GROUP}/tests/check", response=TestCheckOut, operation_id="check_test")
def check(request: HttpRequest, group_id: int, body: SetTestIn) -> TestCheckOut:
    """What a test would be, in words, and what of it cannot be. Nothing is stored."""
    return setting.check_test(own_group(current_user(request), group_id, "check_test"), body)


@router.post(f"{GROUP}/tests", response=GroupTestsOut, operation_id="set_test")
def set_test(request: HttpRequest, group_id: int, body: SetTestIn) -> GroupTestsOut:
    """Set a test for a group."""
    user = current_user(request)
    group = own_group(user, group_id, "set_test")
    setting.set_test(group, body, user)
    return setting.group_tests(group)
