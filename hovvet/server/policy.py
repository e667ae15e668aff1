"""Response headers for every page."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

# Everything comes from this server. WebAssembly draws the captions; blobs are its workers and pictures.
_POLICY = (
    "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; worker-src 'self' blob:; "
    "style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; media-src 'self' blob:; "
    "connect-src 'self' blob: data:; font-src 'self' data:; frame-ancestors 'none'; base-uri 'self'; form-action 'self'"
)


def content_policy(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware that lets pages load nothing from elsewhere."""

    def respond(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response.setdefault("Content-Security-Policy", _POLICY)
        return response

    return respond
