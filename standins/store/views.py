"""The record store: its resource for statements, and a page that lists what arrived."""

from __future__ import annotations

import json
from base64 import b64encode
from typing import Any
from uuid import UUID

from django.conf import settings
from django.core.paginator import Paginator
from django.db import transaction
from django.db.models import F, Sum
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render

from standins.faults.models import Way
from standins.faults.ways import as_told, behaviour

from .models import Statement
from .rules import fault_of

NAME, VERSION, MOST = "store", "1.0.3", 500
PAGE = 50


def _refused(request: HttpRequest) -> HttpResponse | None:
    """Why a request is not taken: nobody known, or another version."""
    pair = f"{settings.RECORDS_NAME}:{settings.RECORDS_SECRET}".encode()
    if request.headers.get("Authorization") != f"Basic {b64encode(pair).decode()}":
        return HttpResponse("not known", status=401)
    if not request.headers.get("X-Experience-API-Version", "").startswith("1.0"):
        return HttpResponse("X-Experience-API-Version is missing", status=400)
    return None


@as_told(NAME)
def statements(request: HttpRequest) -> HttpResponse:
    """Statements sent and asked for, as xAPI 1.0.3 has them."""
    refused = _refused(request)
    if refused is None:
        refused = _get(request) if request.method == "GET" else _post(request)
    refused["X-Experience-API-Version"] = VERSION
    return refused


def _get(request: HttpRequest) -> HttpResponse:
    wanted = request.GET.get("statementId")
    if wanted:
        found = Statement.objects.filter(pk=UUID(wanted)).first()
        return HttpResponse(status=404) if found is None else JsonResponse(found.body)
    limit = min(MOST, int(request.GET.get("limit", MOST)) or MOST)
    rows = Statement.objects.order_by("-stored_at")[:limit]
    return JsonResponse({"statements": [row.body for row in rows], "more": ""})


def _post(request: HttpRequest) -> HttpResponse:
    try:
        said: Any = json.loads(request.body)
    except ValueError:
        return HttpResponse("no JSON", status=400)
    sent = said if isinstance(said, list) else [said]
    for number, one in enumerate(sent, start=1):
        if fault := fault_of(one):
            return HttpResponse(f"statement {number}: {fault}", status=400)
    ids = [UUID(one["id"]) for one in sent]
    if len(set(ids)) < len(ids):
        return HttpResponse("an id stands there twice", status=400)
    with transaction.atomic():
        known = Statement.objects.in_bulk(ids)
        for id_, one in zip(ids, sent, strict=True):
            if id_ in known and known[id_].body != one:
                return HttpResponse(f"{id_} is another statement here", status=409)
        Statement.objects.filter(pk__in=known).update(arrived=F("arrived") + 1)
        new = [(id_, one) for id_, one in zip(ids, sent, strict=True) if id_ not in known]
        Statement.objects.bulk_create(Statement(pk=id_, body=one) for id_, one in new)
    return JsonResponse([str(id_) for id_ in ids], safe=False)


def forget() -> None:
    """Take away all that arrived."""
    Statement.objects.all().delete()


def counts(request: HttpRequest) -> HttpResponse:
    """How many statements there are, and how often any arrived."""
    many = Statement.objects.count()
    arrived = Statement.objects.aggregate(all=Sum("arrived"))["all"] or 0
    return JsonResponse({"statements": many, "arrived": arrived})


def listed(request: HttpRequest) -> HttpResponse:
    """What arrived, the newest first."""
    rows = Statement.objects.order_by("-stored_at", "pk")
    page = Paginator(rows, PAGE).get_page(request.GET.get("page"))
    return render(
        request,
        "store/listed.html",
        {
            "page": page,
            "name": settings.RECORDS_NAME,
            "secret": settings.RECORDS_SECRET,
            "address": f"{settings.ADDRESS}/xapi/",
            "now": behaviour(NAME),
            "ways": Way.choices,
        },
    )
