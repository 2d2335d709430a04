"""Views that behave as their stand-in was told to."""

from __future__ import annotations

import time
from collections.abc import Callable
from functools import wraps

from django.db.models import F
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import csrf_exempt

from .models import Behaviour, Way

SLOW_SECONDS = 20
View = Callable[..., HttpResponse]


def behaviour(name: str) -> Behaviour:
    """How a stand-in behaves now."""
    return Behaviour.objects.get_or_create(name=name)[0]


def as_told(name: str) -> Callable[[View], View]:
    """Let a view of a stand-in behave as that was told to."""

    def around(view: View) -> View:
        @csrf_exempt
        @wraps(view)
        def asked(request: HttpRequest, *args: object, **more: object) -> HttpResponse:
            behaviour(name)
            Behaviour.objects.filter(name=name).update(asked=F("asked") + 1)
            now = behaviour(name)
            down = now.way == Way.DOWN or (now.way == Way.HALF and now.asked % 2 == 1)
            if down:
                return HttpResponse("down", status=503)
            if now.way == Way.SLOW:
                time.sleep(SLOW_SECONDS)
            reply = view(request, *args, **more)
            return HttpResponse("lost", status=504) if now.way == Way.LOSES else reply

        return asked

    return around
