"""Domain errors with a stable code, and the one handler that answers with them."""

from __future__ import annotations

import logging
from collections.abc import Mapping
from http import HTTPStatus
from typing import Any

from django.core.exceptions import BadRequest, RequestDataTooBig, SuspiciousOperation
from django.http import Http404, HttpRequest, HttpResponse, UnreadablePostError
from django.http.multipartparser import MultiPartParserError
from django.utils.translation import gettext
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError

from vendaval_core.errors import CoreError

# What SQLite's driver says of a number beyond 64 bits, which names no row.
OVERFLOWN = "too large to convert to SQLite INTEGER"  # not said
logger = logging.getLogger("vendaval.api")


class DomainError(Exception):
    """Something a caller asked for cannot be done. `code` never changes for a meaning."""

    status = HTTPStatus.BAD_REQUEST
    code = "bad_request"

    def __init__(
        self, detail: str, *, code: str | None = None, fields: Mapping[str, str] | None = None
    ) -> None:
        super().__init__(detail)
        self.detail = detail
        self.code = code or self.code
        self.fields = dict(fields or {})


class NotAllowed(DomainError):
    status = HTTPStatus.FORBIDDEN
    code = "not_allowed"


class NotFound(DomainError):
    status = HTTPStatus.NOT_FOUND
    code = "not_found"


class Conflict(DomainError):
    status = HTTPStatus.CONFLICT
    code = "conflict"


class Changed(Conflict):
    """Somebody else changed it since it was opened. current: what stands now, as a change of it
    would be sent; version: of that."""

    code = "changed"

    def __init__(self, version: str, current: Mapping[str, Any]) -> None:
        super().__init__(gettext("Somebody else changed this while you had it open."))
        self.version, self.current = version, dict(current)


class Unprocessable(DomainError):
    status = HTTPStatus.UNPROCESSABLE_ENTITY
    code = "unprocessable"


class TooMany(DomainError):
    """after: seconds until it is worth trying again."""

    status = HTTPStatus.TOO_MANY_REQUESTS
    code = "too_many"

    def __init__(self, detail: str, *, code: str, after: int) -> None:
        super().__init__(detail, code=code)
        self.after = after


def install(api: NinjaAPI) -> None:
    """Register the handlers on the API."""

    def answer(
        request: HttpRequest,
        status: int,
        code: str,
        detail: str,
        fields: Mapping[str, str] = {},
        **more: object,
    ) -> HttpResponse:
        body = {"code": code, "detail": detail, "fields": dict(fields), **more}
        return api.create_response(request, body, status=status)

    @api.exception_handler(DomainError)
    def domain(request: HttpRequest, error: DomainError) -> HttpResponse:
        more = (
            {"version": error.version, "current": error.current}
            if isinstance(error, Changed)
            else {}
        )
        response = answer(request, error.status, error.code, error.detail, error.fields, **more)
        if isinstance(error, TooMany):
            response["Retry-After"] = str(error.after)
        return response

    @api.exception_handler(CoreError)
    def core(request: HttpRequest, error: CoreError) -> HttpResponse:
        return answer(request, 422, error.code, str(error))

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        fields = {
            ".".join(str(x) for x in e["loc"][1:]) or "body": e["msg"].removeprefix(
                gettext("Value error, ")
            )
            for e in error.errors
        }
        return answer(
            request,
            422,
            "invalid",
            gettext("Some fields need another look. Fix what is marked."),
            fields,
        )

    @api.exception_handler(AuthenticationError)
    def anonymous(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return answer(request, 403, "signed_out", gettext("Sign in first."))

    @api.exception_handler(Http404)
    def missing(request: HttpRequest, error: Http404) -> HttpResponse:
        return answer(request, 404, "not_found", gettext("This page doesn’t exist."))

    @api.exception_handler(HttpError)
    def http(request: HttpRequest, error: HttpError) -> HttpResponse:
        code = "malformed" if error.status_code == 400 else "http_error"
        return answer(request, error.status_code, code, str(error))

    @api.exception_handler(RequestDataTooBig)
    def oversized(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
        return answer(request, 413, "too_large", gettext("That’s too long for an answer."))

    @api.exception_handler(BadRequest)
    @api.exception_handler(SuspiciousOperation)
    @api.exception_handler(MultiPartParserError)
    def unreadable(request: HttpRequest, error: Exception) -> HttpResponse:
        return answer(
            request,
            400,
            "malformed",
            gettext("We can’t read this request: {error}").format(error=error),
        )

    @api.exception_handler(OverflowError)
    def too_large_a_number(request: HttpRequest, error: OverflowError) -> HttpResponse:
        if OVERFLOWN not in str(error):
            return unexpected(request, error)
        return answer(
            request, 404, "not_found", gettext("We can’t find anything with that number.")
        )

    @api.exception_handler(UnreadablePostError)
    def broken_off(request: HttpRequest, error: UnreadablePostError) -> HttpResponse:
        return answer(
            request,
            408,
            "broken_off",
            gettext("The connection dropped too soon. Send it again."),
        )

    @api.exception_handler(Exception)
    def unexpected(request: HttpRequest, error: Exception) -> HttpResponse:
        request_id = getattr(request, "request_id", "")
        logger.error("unexpected error", exc_info=error, extra={"request_id": request_id})
        detail = gettext(
            "Something went wrong on our side. Nothing you typed is lost. Try again, or "
            "tell us this number: {request_id}."
        ).format(request_id=request_id)
        return answer(request, 500, "internal", detail)
