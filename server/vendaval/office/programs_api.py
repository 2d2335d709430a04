"""Endpoints of the office about other programs."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from vendaval.people.permissions import current_user, signed_in

from . import platforms, record_store
from .platform_schemas import PlatformEdit, PlatformIn, PlatformsOut
from .programs_schemas import RecordStoreIn, RecordStoreOut, StoreSecretIn, StoreTrialOut
from .scope import school_of

router = Router(auth=signed_in, tags=["office"])
STORE = "/office/record-store"


@router.get(STORE, response=RecordStoreOut, operation_id="get_record_store")
def get_record_store(request: HttpRequest) -> RecordStoreOut:
    """Where learning records are sent, and how that goes."""
    return record_store.store_out(school_of(current_user(request), "get_record_store"))


@router.put(STORE, response=RecordStoreOut, operation_id="set_record_store")
def set_record_store(request: HttpRequest, body: RecordStoreIn) -> RecordStoreOut:
    """Say where learning records are sent."""
    user = current_user(request)
    school = school_of(user, "set_record_store")
    record_store.set_store(school, body, user, request)
    return record_store.store_out(school)


@router.post(f"{STORE}/secret", response=RecordStoreOut, operation_id="set_store_secret")
def set_store_secret(request: HttpRequest, body: StoreSecretIn) -> RecordStoreOut:
    """The secret that the store knows us by."""
    user = current_user(request)
    school = school_of(user, "set_store_secret")
    record_store.set_secret(school, body.secret, user, request)
    return record_store.store_out(school)


@router.post(f"{STORE}/try", response=StoreTrialOut, operation_id="try_record_store")
def try_record_store(request: HttpRequest) -> StoreTrialOut:
    """Ask the store whether it knows us. Nothing is sent."""
    school = school_of(current_user(request), "try_record_store")
    return StoreTrialOut(problem=record_store.trial(school))


@router.post(f"{STORE}/send", response=RecordStoreOut, operation_id="send_records_now")
def send_records_now(request: HttpRequest) -> RecordStoreOut:
    """Send what waits now, without waiting longer after a failure."""
    school = school_of(current_user(request), "send_records_now")
    record_store.send_now(school)
    return record_store.store_out(school)


@router.get("/office/platforms", response=PlatformsOut, operation_id="list_platforms")
def list_platforms(request: HttpRequest) -> PlatformsOut:
    """Platforms that may launch, and what they have to know of us."""
    return platforms.platforms_out(school_of(current_user(request), "list_platforms"), request)


@router.post("/office/platforms", response=PlatformsOut, operation_id="add_platform")
def add_platform(request: HttpRequest, body: PlatformEdit) -> PlatformsOut:
    """Let a platform in."""
    user = current_user(request)
    school = school_of(user, "add_platform")
    platforms.add_platform(school, body, user, request)
    return platforms.platforms_out(school, request)


@router.put(
    "/office/platforms/{int:platform_id}", response=PlatformsOut, operation_id="change_platform"
)
def change_platform(request: HttpRequest, platform_id: int, body: PlatformIn) -> PlatformsOut:
    """Change what is known of a platform, or let it in no more."""
    user = current_user(request)
    school = school_of(user, "change_platform")
    platforms.change_platform(school, platform_id, body, user, request)
    return platforms.platforms_out(school, request)
