"""What every request and every answer carries."""

import uuid
from collections.abc import Callable

from django.core.exceptions import PermissionDenied, SuspiciousOperation
from django.http import Http404, HttpRequest, HttpResponse

from hovvet.server.problems import unexpected

# Everything comes from this server. WebAssembly draws the captions; blobs are its workers and pictures.
_POLICY = (
    "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; worker-src 'self' blob:; "
    "style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; media-src 'self' blob:; "
    "connect-src 'self' blob: data:; font-src 'self' data:; base-uri 'self'; form-action 'self'"
)
IN_NO_FRAME = f"{_POLICY}; frame-ancestors 'none'"
IN_ANY_FRAME = f"{_POLICY}; frame-ancestors *"  # for what is made to be embedded, and for nothing else
_Respond = Callable[[HttpRequest], HttpResponse]


def content_policy(get_response: _Respond) -> _Respond:
    """Middleware that lets pages load nothing from elsewhere."""

    def respond(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response.setdefault("Content-Security-Policy", IN_NO_FRAME)
        return response

    return respond


def fresh_answers(get_response: _Respond) -> _Respond:
    """Middleware that has browsers ask anew for what the API answers, by its ETag: what is the same is not sent again."""

    def respond(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        if request.path.startswith("/api/"):
            response.setdefault("Cache-Control", "private, no-cache")
        return response

    return respond


class Numbered:
    """Middleware that gives each request a number, for the log and for the person, and answers what went wrong."""

    def __init__(self, get_response: _Respond) -> None:
        self._respond = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        """Number the request; the number goes back as ``X-Request-ID``."""
        request.number = uuid.uuid4().hex[:12]  # type: ignore[attr-defined]
        response = self._respond(request)
        response["X-Request-ID"] = request.number  # type: ignore[attr-defined]
        return response

    def process_exception(self, request: HttpRequest, error: Exception) -> HttpResponse | None:
        """The answer to an error that no view has answered; what Django has an answer of its own for is left to it."""
        if isinstance(error, (Http404, PermissionDenied, SuspiciousOperation)):
            return None
        return unexpected(request, error)
