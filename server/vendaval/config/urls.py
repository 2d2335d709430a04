"""Addresses: the API, and the web application for everything else."""

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.urls import include, path, re_path
from django.views.decorators.cache import never_cache

from .api import api


@never_cache
def web(request: HttpRequest) -> HttpResponse:
    """The web application's page; its script reads the address."""
    return render(request, "index.html")


def no_such_endpoint(request: HttpRequest) -> JsonResponse:
    """An address below /api/ that is none."""
    body = {"code": "not_found", "detail": "This page doesn’t exist.", "fields": {}}
    return JsonResponse(body, status=404)


urlpatterns = [
    path("api/", api.urls),
    path("lti/", include("vendaval.lti.views")),
    re_path(r"^api/.*$", no_such_endpoint),
    re_path(r"^(?!static/).*$", web),
]
