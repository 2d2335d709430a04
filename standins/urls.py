"""Addresses of the stand-ins."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import path

from standins.faults.models import Behaviour, Way
from standins.platform import views as platform
from standins.store import views as store


def first(request: HttpRequest) -> HttpResponse:
    """What there is."""
    return render(request, "first.html")


def behave(request: HttpRequest, name: str) -> HttpResponse:
    """Tell a stand-in how to behave."""
    way = Way(request.POST["way"])
    Behaviour.objects.update_or_create(name=name, defaults={"way": way})
    return redirect(request.POST.get("back", "/"))


def forget(request: HttpRequest, name: str) -> HttpResponse:
    """Let a stand-in begin anew."""
    if request.method == "POST":
        Behaviour.objects.filter(name=name).delete()
        FORGET[name]()
    return redirect(request.POST.get("back", "/"))


FORGET = {"store": store.forget, "platform": platform.forget}
urlpatterns = [
    path("", first),
    path("behave/<slug:name>", behave),
    path("forget/<slug:name>", forget),
    path("xapi/statements", store.statements),
    path("xapi/counts", store.counts),
    path("records", store.listed),
    path("platform", platform.course),
    path("platform/begin", platform.begin),
    path("platform/auth", platform.auth),
    path("platform/back", platform.back),
    path("platform/keys", platform.keys),
    path("platform/token", platform.token),
    path("platform/members", platform.members),
    path("platform/items/<int:item>/scores", platform.scores),
    path("platform/openid", platform.openid_configuration),
    path("platform/register", platform.register),
    path("platform/told", platform.told),
]
