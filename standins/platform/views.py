"""The platform: a course page, launches, picked work, marks."""

from __future__ import annotations

import json
from secrets import token_urlsafe
from typing import Any
from urllib.parse import urlencode

import jwt
from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.views.decorators.csrf import csrf_exempt

from standins.faults.models import Way
from standins.faults.ways import as_told, behaviour

from .models import Hint, Item, Score, Token
from .people import COURSE, COURSE_TITLE, PEOPLE
from .tokens import AGS, launch, of_the_tool, public_key

NAME = "platform"
CONTENT = "https://purl.imsglobal.org/spec/lti-dl/claim/content_items"


def course(request: HttpRequest) -> HttpResponse:
    """The course, as one of its people sees it."""
    who = request.GET.get("who", "u-101")
    return render(
        request,
        "platform/course.html",
        {
            "title": COURSE_TITLE,
            "person": PEOPLE[who],
            "people": PEOPLE.values(),
            "items": Item.objects.order_by("pk").prefetch_related("scores"),
            "names": {key: one.name for key, one in PEOPLE.items()},
            "register": f"{settings.VENDAVAL}/lti/register?"
            + urlencode({"openid_configuration": f"{settings.ADDRESS}/platform/openid"}),
            "registered": {
                "issuer": settings.ADDRESS,
                "client_id": settings.CLIENT_ID,
                "login_url": f"{settings.ADDRESS}/platform/auth",
                "token_url": f"{settings.ADDRESS}/platform/token",
                "keys_url": f"{settings.ADDRESS}/platform/keys",
                "deployment": settings.DEPLOYMENT,
            },
            "framed": request.GET.get("framed", ""),
            "now": behaviour(NAME),
            "ways": Way.choices,
        },
    )


def begin(request: HttpRequest) -> HttpResponse:
    """Begin a launch: somebody follows a link, or picks work."""
    item = Item.objects.filter(pk=request.GET.get("item") or 0).first()
    hint = Hint.objects.create(who=request.GET["who"], item=item)
    fields = {
        "iss": settings.ADDRESS,
        "login_hint": hint.who,
        "target_link_uri": f"{settings.VENDAVAL}/lti/launch",
        "lti_message_hint": hint.pk,
        "lti_deployment_id": settings.DEPLOYMENT,
        "client_id": settings.CLIENT_ID,
    }
    there = f"{settings.VENDAVAL}/lti/login"
    return render(request, "platform/post.html", {"address": there, "fields": fields})


def auth(request: HttpRequest) -> HttpResponse:
    """Say who it is that launches (OpenID Connect, by a form that is posted)."""
    said = request.GET
    hint = Hint.objects.filter(pk=said.get("lti_message_hint") or 0).first()
    there = f"{settings.VENDAVAL}/lti/launch"
    if hint is None or hint.who != said.get("login_hint"):
        return HttpResponse("no such launch", status=400)
    if said.get("client_id") != settings.CLIENT_ID or said.get("redirect_uri") != there:
        return HttpResponse("no such tool, or another address of it", status=400)
    fields = {"id_token": launch(hint, said.get("nonce", "")), "state": said.get("state", "")}
    return render(request, "platform/post.html", {"address": there, "fields": fields})


def openid_configuration(request: HttpRequest) -> HttpResponse:
    """What we say of ourselves, for a tool that is to be registered."""
    at = f"{settings.ADDRESS}/platform"
    return JsonResponse(
        {
            "issuer": settings.ADDRESS,
            "authorization_endpoint": f"{at}/auth",
            "token_endpoint": f"{at}/token",
            "jwks_uri": f"{at}/keys",
            "registration_endpoint": f"{at}/register",
            "https://purl.imsglobal.org/spec/lti-platform-configuration": {
                "product_family_code": "Platform stand-in"
            },
        }
    )


@csrf_exempt
def register(request: HttpRequest) -> HttpResponse:
    """Register the one tool there is."""
    said: dict[str, Any] = json.loads(request.body)
    tool = {"deployment_id": settings.DEPLOYMENT}
    known = "https://purl.imsglobal.org/spec/lti-tool-configuration"
    return JsonResponse({**said, "client_id": settings.CLIENT_ID, known: tool}, status=201)


def back(request: HttpRequest) -> HttpResponse:
    """Work that was picked comes back."""
    try:
        said = of_the_tool(request.POST.get("JWT", ""), settings.ADDRESS)
    except jwt.InvalidTokenError as error:
        return HttpResponse(f"not the tool’s: {error}", status=400)
    for one in said.get(CONTENT, []):
        Item.objects.create(
            title=one.get("title", "Work")[:200],
            custom=one.get("custom", {}),
            most=one.get("lineItem", {}).get("scoreMaximum", 100.0),
        )
    return redirect("/platform?who=u-900")


def keys(request: HttpRequest) -> HttpResponse:
    """Our public key."""
    return JsonResponse({"keys": [public_key()]})


@as_told(NAME)
def token(request: HttpRequest) -> HttpResponse:
    """A token for a tool that shows who it is (client credentials, by a signed assertion)."""
    try:
        said = of_the_tool(
            request.POST.get("client_assertion", ""), f"{settings.ADDRESS}/platform/token"
        )
    except jwt.InvalidTokenError as error:
        return JsonResponse(
            {"error": "invalid_client", "error_description": str(error)}, status=400
        )
    if said.get("iss") != settings.CLIENT_ID:
        return JsonResponse({"error": "invalid_client"}, status=400)
    scopes = request.POST.get("scope", "").split()
    made = Token.objects.create(value=token_urlsafe(24), scopes=scopes)
    return JsonResponse(
        {
            "access_token": made.value,
            "token_type": "Bearer",
            "expires_in": 3600,
            "scope": " ".join(scopes),
        }
    )


def _may(request: HttpRequest, scope: str) -> bool:
    _, _, value = request.headers.get("Authorization", "").partition(" ")
    found = Token.objects.filter(pk=value).first()
    return found is not None and scope in found.scopes


@as_told(NAME)
def scores(request: HttpRequest, item: int) -> HttpResponse:
    """A mark arrives. An older one never takes the place of a newer."""
    if not _may(request, f"{AGS}scope/score"):
        return HttpResponse("no token for this", status=401)
    said: dict[str, Any] = json.loads(request.body)
    found = Item.objects.filter(pk=item).first()
    if found is None or said.get("userId") not in PEOPLE:
        return HttpResponse("no such item or person", status=404)
    last = Score.objects.filter(item=found, who=said["userId"]).first()
    if last is not None and last.timestamp > said["timestamp"]:
        return HttpResponse("a newer one is here", status=409)
    again = last is not None and last.timestamp == said["timestamp"]
    Score.objects.update_or_create(
        item=found,
        who=said["userId"],
        defaults={
            "given": said["scoreGiven"],
            "of": said["scoreMaximum"],
            "timestamp": said["timestamp"],
            "arrived": last.arrived + 1 if last is not None and again else 1,
        },
    )
    return HttpResponse(status=204)


@as_told(NAME)
def members(request: HttpRequest) -> HttpResponse:
    """Who is in the course."""
    if not _may(
        request, "https://purl.imsglobal.org/spec/lti-nrps/scope/contextmembership.readonly"
    ):
        return HttpResponse("no token for this", status=401)
    listed = [
        {"user_id": one.key, "name": one.name, "status": "Active", "roles": one.roles}
        for one in PEOPLE.values()
    ]
    return JsonResponse({"id": settings.ADDRESS, "context": {"id": COURSE}, "members": listed})


def told(request: HttpRequest) -> HttpResponse:
    """The marks that arrived, for tests."""
    fields = "item__title", "who", "given", "of", "arrived"
    return JsonResponse({"scores": list(Score.objects.order_by("pk").values(*fields))})


def forget() -> None:
    """Take away picked work and its marks."""
    Item.objects.all().delete()
