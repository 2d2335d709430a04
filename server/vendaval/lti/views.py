"""Launches: begun by a platform, checked, and led to the work; and work picked for a platform."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlsplit

from django.core.exceptions import DisallowedRedirect
from django.db import transaction
from django.http import HttpRequest, HttpResponse, HttpResponseRedirect, JsonResponse
from django.shortcuts import render
from django.urls import path
from django.utils.translation import gettext
from django.views.decorators.cache import never_cache
from django.views.decorators.clickjacking import xframe_options_exempt
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_http_methods, require_POST
from pylti1p3.contrib.django.oidc_login import DjangoOIDCLogin
from pylti1p3.exception import LtiException, OIDCException
from requests.exceptions import RequestException

from vendaval.people.models import Role, User
from vendaval.shared.errors import DomainError

from . import picking
from .keys import public_keys
from .launching import (
    Arrival,
    account_of,
    known_account,
    may_join,
    place_of,
    refuse_to_open,
    sign_in,
)
from .models import Platform
from .pending import keep, look, take
from .registering import configuration
from .registering import register as registered
from .scopes import CLAIM
from .tool import Launch, OnceSession, Platforms, our_requests, platform_of

ARRIVAL = "lti-arrival"
LOGIN_FIELDS = (
    "iss", "login_hint", "target_link_uri", "lti_message_hint", "lti_deployment_id", "client_id",
)  # fmt: skip


def _refused(request: HttpRequest, why: str, status: int = 400) -> HttpResponse:
    return render(request, "lti/refused.html", {"why": why}, status=status)


@csrf_exempt
@never_cache
@xframe_options_exempt
@require_http_methods(["GET", "POST"])
def login(request: HttpRequest) -> HttpResponse:
    """A platform begins a launch. In a frame of its page, a window of our own is asked for: there
    the session needs no cookie that a browser withholds from frames."""
    said = request.POST if request.method == "POST" else request.GET
    fields = {name: said.get(name, "") for name in LOGIN_FIELDS if said.get(name)}
    platform = platform_of(fields.get("iss", ""), fields.get("client_id", ""))
    if platform is None:
        return _refused(request, gettext("Your school hasn’t let this platform in."))
    if request.headers.get("Sec-Fetch-Dest") in {"iframe", "frame"}:
        page = render(request, "lti/window.html", {"fields": fields, "platform": platform})
        there = [_origin(platform.login_url)]
        page._csp_replace = {"frame-ancestors": there}  # type: ignore[attr-defined]
        page._csp_update = {"form-action": there}  # type: ignore[attr-defined]
        return page
    begun: Any = DjangoOIDCLogin(request, Platforms(), OnceSession(_asked(request)))  # type: ignore[no-untyped-call]
    try:
        reply: HttpResponse = begun.redirect(request.build_absolute_uri("/lti/launch"))
    except (OIDCException, LtiException, DisallowedRedirect) as error:
        return _refused(request, str(error))
    return reply


def _asked(request: HttpRequest) -> Any:
    """A request as the library has it: all it wants is that it has a session."""
    return request


def _origin(url: str) -> str:
    parts = urlsplit(url)
    return f"{parts.scheme}://{parts.netloc}"


@csrf_exempt
@never_cache
@require_POST
def launch(request: HttpRequest) -> HttpResponse:
    """A platform says who comes, and to what. Everything is checked here; who it is here is seen to
    by the next request, which carries our own cookies."""
    checked = Launch(  # type: ignore[no-untyped-call]
        request,
        Platforms(),
        session_service=OnceSession(_asked(request)),
        requests_session=our_requests(),
    )
    try:
        says: Any = checked.validate().get_launch_data()
    except (LtiException, RequestException, ValueError, KeyError, TypeError) as error:
        why = gettext("This launch isn’t valid: {why}").format(why=str(error)[:200])
        return _refused(request, why)
    platform = platform_of(checked.get_iss(), checked.get_client_id())
    if platform is None:
        return _refused(request, gettext("Your school hasn’t let this platform in."))
    key = keep("arrival", {"platform": platform.pk, "says": says})
    reply = HttpResponseRedirect(f"/lti/arrive/{key}")
    # Nobody is signed in by an address that somebody else sent them.
    reply.set_cookie(
        ARRIVAL,
        key,
        path="/lti/",
        max_age=600,
        httponly=True,
        secure=request.is_secure(),
        samesite="Lax",
    )
    return reply


def _arrival(value: Any) -> Arrival | None:
    if value is None:
        return None
    platform = Platform.objects.select_related("school").filter(pk=value["platform"], on=True)
    found = platform.first()
    return None if found is None else Arrival(found, value["says"])


@never_cache
@require_http_methods(["GET", "POST"])
def arrive(request: HttpRequest, key: str) -> HttpResponse:
    """Who comes, and where to. Somebody who is signed in here already is asked whether that is
    them, the first time they come."""
    arrival = _arrival(look("arrival", key))
    if arrival is None or request.COOKIES.get(ARRIVAL) != key:
        return _refused(request, gettext("Follow the link again: this one was used."), 410)
    here = request.user if isinstance(request.user, User) else None
    try:
        role = arrival.role
        known = known_account(arrival)
        may = known is None and here is not None and may_join(here, arrival)
        if may and request.method == "GET":
            more = {"here": here, "arrival": arrival, "name": arrival.says.get("name", "")}
            return render(request, "lti/join.html", more)
        if take("arrival", key) is None:
            return _refused(request, gettext("Follow the link again: this one was used."), 410)
        joined = here if may and request.POST.get("whose") == "mine" else None
        with transaction.atomic():
            person = account_of(arrival, joined).person
            refuse_to_open(arrival, person)
            place = place_of(arrival, person)
        sign_in(request, arrival, person)
    except DomainError as error:
        return _refused(request, str(error), int(error.status))
    kind = arrival.says.get(f"{CLAIM}message_type")
    if kind == "LtiDeepLinkingRequest":
        if role is not Role.TUTOR:
            return _refused(request, gettext("Only tutors can set work."), 403)
        kept = keep("pick", {"platform": arrival.platform.pk, "says": arrival.says})
        return HttpResponseRedirect(f"/lti/pick/{kept}")
    return HttpResponseRedirect(place)


@never_cache
@require_http_methods(["GET", "POST"])
def pick(request: HttpRequest, key: str) -> HttpResponse:
    """A tutor picks work for a course on their platform."""
    arrival = _arrival(look("pick", key))
    if arrival is None:
        return _refused(request, gettext("Begin again on your platform: this page has ended."), 410)
    account = known_account(arrival)
    if account is None or request.user != account.person:
        return _refused(request, gettext("Somebody else is signed in here now."), 403)
    shown = {"choices": picking.choices(arrival), "platform": arrival.platform, "problem": ""}
    if request.method == "GET":
        return render(request, "lti/pick.html", shown)
    try:
        picked = picking.pick(arrival, account.person, request.POST.get("work", ""))
    except DomainError as error:
        shown["problem"] = "; ".join(error.fields.values()) or str(error)
        return render(request, "lti/pick.html", shown, status=422)
    take("pick", key)
    page = render(request, "lti/back.html", {"picked": picked, "platform": arrival.platform})
    page._csp_update = {"form-action": [_origin(picked.address)]}  # type: ignore[attr-defined]
    return page


@never_cache
@require_http_methods(["GET", "POST"])
def register(request: HttpRequest) -> HttpResponse:
    """A platform wants to be let in: somebody of the office says whether."""
    person = request.user if isinstance(request.user, User) else None
    held = None if person is None else person.memberships.filter(role=Role.OFFICE, until=None)
    office = None if held is None else held.select_related("school").order_by("pk").first()
    if person is None or office is None:
        says = gettext("Sign in here as the office of your school, then register us again.")
        return _refused(request, says, 403)
    try:
        known = configuration(request.GET.get("openid_configuration", ""))
        shown: dict[str, object] = {"known": known, "school": office.school, "made": None}
        if request.method == "POST":
            token = request.GET.get("registration_token", "")
            shown["made"] = registered(office.school, known, token, person, request)
    except DomainError as error:
        return _refused(request, str(error), int(error.status))
    return render(request, "lti/register.html", shown)


@require_GET
def keys(request: HttpRequest) -> HttpResponse:
    """Our public keys."""
    return JsonResponse({"keys": public_keys()})


urlpatterns = [
    path("login", login),
    path("launch", launch),
    path("arrive/<str:key>", arrive),
    path("pick/<str:key>", pick),
    path("register", register),
    path("keys", keys),
]
