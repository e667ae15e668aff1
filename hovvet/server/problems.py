"""Errors on their way to a person: a status, one plain message, and for our own mistakes a number to tell us."""

import errno
import logging

from django.core.exceptions import RequestDataTooBig
from django.db import OperationalError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError

from hovvet.core.errors import CoreError

logger = logging.getLogger("hovvet.problems")

DISK_FULL = "The server's disk is full, so this was not saved. Free some space, then try again; nothing was lost."
_BUSY = "The server is very busy, so this was not saved. Try again in a moment; nothing was lost."


class Problem(Exception):
    """A request that cannot be done, with the status to answer and a message for people."""

    def __init__(self, status: int, message: str, wait: int | None = None) -> None:
        super().__init__(message)
        self.status = status
        self.wait = wait  # seconds after which it makes sense to try again


def unexpected(request: HttpRequest, error: BaseException) -> HttpResponse:
    """The answer to an error nobody thought of, which is logged: a full disk is told, anything else gets a number."""
    if _disk_is_full(error):
        logger.error("disk full: %r", error)
        return JsonResponse({"detail": DISK_FULL}, status=507)
    if isinstance(error, OperationalError) and "locked" in str(error):
        logger.error("database locked: %r", error)
        return JsonResponse({"detail": _BUSY}, status=503)
    number = getattr(request, "number", "-")
    logger.error("request %s: %s %s", number, request.method, request.path, exc_info=error)
    message = (
        f"Something went wrong on our side; what you had is unchanged. If it happens again, tell us number {number}."
    )
    return JsonResponse({"detail": message}, status=500)


def _disk_is_full(error: BaseException) -> bool:
    if isinstance(error, OSError):
        return error.errno in (errno.ENOSPC, errno.EDQUOT)
    return isinstance(error, OperationalError) and "full" in str(error)


def handle_problems(api: NinjaAPI) -> None:
    """Answer every error as ``{"detail": message}``."""

    def answer(request: HttpRequest, message: str, status: int) -> HttpResponse:
        return api.create_response(request, {"detail": message}, status=status)

    @api.exception_handler(Problem)
    def problem(request: HttpRequest, error: Problem) -> HttpResponse:
        response = answer(request, str(error), error.status)
        if error.wait is not None:
            response["Retry-After"] = str(error.wait)
        return response

    @api.exception_handler(CoreError)
    def core_error(request: HttpRequest, error: CoreError) -> HttpResponse:
        return answer(request, str(error), 422)

    @api.exception_handler(Http404)
    def missing(request: HttpRequest, error: Http404) -> HttpResponse:
        return answer(request, str(error) or "There is nothing at this address.", 404)

    @api.exception_handler(AuthenticationError)
    def unknown(request: HttpRequest, _error: AuthenticationError) -> HttpResponse:
        return answer(request, "You are signed out. Sign in again; nothing was lost.", 401)

    @api.exception_handler(RequestDataTooBig)
    def too_big(request: HttpRequest, _error: RequestDataTooBig) -> HttpResponse:
        return answer(request, "That is more than can be sent at once. Do it in smaller parts.", 413)

    @api.exception_handler(HttpError)
    def refused(request: HttpRequest, error: HttpError) -> HttpResponse:
        return answer(request, f"The request does not make sense: {error}.", error.status_code)

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        first = error.errors[0] if error.errors else {}
        where = ".".join(str(part) for part in first.get("loc", ())[1:])
        return answer(
            request, f"The request does not make sense at {where or 'its start'}: {first.get('msg', '')}.", 422
        )

    @api.exception_handler(Exception)
    def anything(request: HttpRequest, error: Exception) -> HttpResponse:
        return unexpected(request, error)
