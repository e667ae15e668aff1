"""Addresses: the API, uploads, and the page, which has addresses of its own."""

import sys

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

from hovvet.server.api import api
from hovvet.server.drive.views import download, listing
from hovvet.server.health import health
from hovvet.server.problems import unexpected
from hovvet.server.recordings.tus import OneUpload, Uploads
from hovvet.server.share.pages import embedded, oembed, share_captions, share_cover, share_film, share_page


@ensure_csrf_cookie
def page(_request: HttpRequest) -> HttpResponse:
    """The one page; its router shows the view for the address."""
    index = settings.WEB_DIST / "index.html"
    if not index.exists():
        raise Http404("The page has not been built. Run `make setup`.")
    return HttpResponse(index.read_bytes(), headers={"Cache-Control": "no-cache"})


def broken(request: HttpRequest) -> HttpResponse:
    """The answer where even the middleware failed (a full disk, most often)."""
    return unexpected(request, sys.exc_info()[1] or RuntimeError("unknown"))


handler500 = broken
urlpatterns = [
    path("healthz", health),
    path("api/uploads", Uploads.as_view()),
    path("api/uploads/<uuid:upload_id>", OneUpload.as_view()),
    path("api/", api.urls),
    path("drive/", listing),
    path("drive/files/<str:name>", download),
    path("share/<str:token>", share_page),
    path("share/<str:token>/film", share_film),
    path("share/<str:token>/captions.vtt", share_captions),
    path("share/<str:token>/cover.jpg", share_cover),
    path("embed/<str:token>", embedded),
    path("oembed", oembed),
    re_path(r"^(?!api/|static/|drive/|share/|embed/|oembed|healthz).*$", page),
]
