"""Errors on their way to a person: always a status of 4xx and one plain message."""

from django.http import Http404, HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, Throttled, ValidationError

from hovvet.core.errors import CoreError


class Problem(Exception):
    """A request that cannot be done, with the status to answer and a message for people."""

    def __init__(self, status: int, message: str) -> None:
        super().__init__(message)
        self.status = status


def handle_problems(api: NinjaAPI) -> None:
    """Answer every expected error as ``{"detail": message}``."""

    def answer(request: HttpRequest, message: str, status: int) -> HttpResponse:
        return api.create_response(request, {"detail": message}, status=status)

    @api.exception_handler(Problem)
    def problem(request: HttpRequest, error: Problem) -> HttpResponse:
        return answer(request, str(error), error.status)

    @api.exception_handler(CoreError)
    def core_error(request: HttpRequest, error: CoreError) -> HttpResponse:
        return answer(request, str(error), 422)

    @api.exception_handler(Http404)
    def missing(request: HttpRequest, error: Http404) -> HttpResponse:
        return answer(request, str(error) or "There is nothing at this address.", 404)

    @api.exception_handler(AuthenticationError)
    def unknown(request: HttpRequest, _error: AuthenticationError) -> HttpResponse:
        return answer(request, "You are signed out. Sign in again; nothing was lost.", 401)

    @api.exception_handler(Throttled)
    def too_often(request: HttpRequest, _error: Throttled) -> HttpResponse:
        return answer(request, "Too many tries in a short time. Wait a minute, then try again.", 429)

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        first = error.errors[0] if error.errors else {}
        where = ".".join(str(part) for part in first.get("loc", ())[1:])
        return answer(
            request, f"The request does not make sense at {where or 'its start'}: {first.get('msg', '')}.", 422
        )
