"""Share pages, the player that other sites embed, and oEmbed (version 1.0): plain pages that need no script."""

import re
from urllib.parse import urlsplit

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse, HttpResponseBase, JsonResponse
from django.shortcuts import render
from django.views.decorators.clickjacking import xframe_options_exempt
from django.views.decorators.http import require_safe

from hovvet.core.formats.said import said
from hovvet.core.formats.subtitles import subtitles
from hovvet.core.plan.model import Plan
from hovvet.core.plan.upgrade import read_plan
from hovvet.core.render.output import TYPES
from hovvet.core.time import clock
from hovvet.server.delivery.models import Export
from hovvet.server.middleware import IN_ANY_FRAME
from hovvet.server.posts.writing import text_of
from hovvet.server.ranges import ranged_file
from hovvet.server.share.models import SharePage
from hovvet.server.share.sharing import absolute, as_xml, frame_code, frame_size

_GONE = "There is no such page, or not any more. Ask whoever sent you the link for another one."
_SHARED = re.compile(r"/share/([\w-]{10,64})/?$")
_CACHED = 3_600  # seconds that others may keep what oEmbed says


def _page(token: str) -> tuple[SharePage, Export]:
    """A page, and the film that it shows."""
    page = SharePage.objects.select_related("document", "workspace", "export").filter(token=token[:64]).first()
    if page is None or page.export is None or not page.export.main.exists():
        raise Http404(_GONE)
    return page, page.export


def _told(page: SharePage, answer: HttpResponseBase) -> HttpResponseBase:
    """An answer that tells search engines not to list what is not public."""
    if not page.public:
        answer["X-Robots-Tag"] = "noindex, nofollow"
    return answer


def _nothing(request: HttpRequest, status: int, told: str) -> HttpResponse:
    return render(request, "share/nothing.html", {"told": told}, status=status)


def _seen(request: HttpRequest, page: SharePage, export: Export, plan: Plan) -> dict[str, object]:
    """What the templates show."""
    return {
        "page": page,
        "by": page.workspace.name,
        "film": f"{page.path}/film?v={export.pk}",
        "kind": TYPES[export.output.kind],
        "captions": f"{page.path}/captions.vtt?v={export.pk}" if plan.words else "",
        "cover": f"{page.path}/cover.jpg?v={export.pk}" if page.cover.exists() else "",
        "width": plan.width,
        "height": plan.height,
        "address": absolute(request, page.path),
        "root": absolute(request, "/").rstrip("/"),
    }


@require_safe
def share_page(request: HttpRequest, token: str) -> HttpResponseBase:
    """The page itself."""
    try:
        page, export = _page(token)
    except Http404 as error:
        return _nothing(request, 404, str(error))
    plan = read_plan(export.plan)
    paragraphs = [
        {"at": clock(each.words[0].start), "text": " ".join(word.text for word in each.words)}
        for each in (said(plan) if page.words else ())
    ]
    seen = _seen(request, page, export, plan) | {
        "paragraphs": paragraphs,
        "about": text_of(page.document, page.edition).value.first_line,
        "oembed": absolute(request, f"/oembed?url={absolute(request, page.path)}"),
    }
    return _told(page, render(request, "share/page.html", seen))


@require_safe
def share_film(request: HttpRequest, token: str) -> HttpResponseBase:
    """The film, or the part of it that is asked for."""
    page, export = _page(token)
    return _told(page, ranged_file(request, export.main, TYPES[export.output.kind]))


@require_safe
def share_captions(request: HttpRequest, token: str) -> HttpResponseBase:
    """Its captions as a track."""
    page, export = _page(token)
    text = subtitles(read_plan(export.plan), "vtt") or "WEBVTT\n"
    return _told(page, HttpResponse(text, content_type="text/vtt; charset=utf-8"))


@require_safe
def share_cover(request: HttpRequest, token: str) -> HttpResponseBase:
    """Its cover."""
    page, _ = _page(token)
    return _told(page, ranged_file(request, page.cover, "image/jpeg"))


@require_safe
@xframe_options_exempt
def embedded(request: HttpRequest, token: str) -> HttpResponseBase:
    """The player for pages of other sites. What is private is in no frame."""
    try:
        page, export = _page(token)
    except Http404 as error:
        return _refused(request, 404, str(error))
    if not page.public:
        return _refused(request, 403, "This film is not public, so it cannot be embedded.")
    answer = render(request, "share/embed.html", _seen(request, page, export, read_plan(export.plan)))
    answer["Content-Security-Policy"] = IN_ANY_FRAME
    return answer


def _refused(request: HttpRequest, status: int, told: str) -> HttpResponse:
    answer = _nothing(request, status, told)
    answer["X-Frame-Options"] = "DENY"
    return answer


@require_safe
def oembed(request: HttpRequest) -> HttpResponse:
    """What another site needs to embed a share page (oembed.com): 401 for what is private, 404 for what is none of ours, 501 for
    a format other than JSON and XML."""
    form = request.GET.get("format", "json")
    if form not in ("json", "xml"):
        return HttpResponse("Ask for json or xml.", status=501, content_type="text/plain")
    token = _token_of(request, request.GET.get("url", "")[:2_000])
    try:
        page, export = _page(token)
    except Http404:
        return HttpResponse("There is no such page.", status=404, content_type="text/plain")
    if not page.public:
        return HttpResponse("This page is not public.", status=401, content_type="text/plain")
    plan = read_plan(export.plan)
    size = frame_size(plan.width, plan.height, _side(request, "maxwidth"), _side(request, "maxheight"))
    told: dict[str, object] = {
        "version": "1.0",
        "type": "video",
        "title": page.title,
        "author_name": page.workspace.name,
        "provider_name": "Hovvet",
        "provider_url": absolute(request, "/"),
        "cache_age": _CACHED,
        "html": frame_code(absolute(request, page.embed_path), page.title, size),
        "width": size[0],
        "height": size[1],
    }
    if page.cover.exists():
        small = frame_size(plan.width, plan.height)
        told |= {
            "thumbnail_url": absolute(request, f"{page.path}/cover.jpg"),
            "thumbnail_width": small[0],
            "thumbnail_height": small[1],
        }
    answer: HttpResponse = JsonResponse(told)
    if form == "xml":
        answer = HttpResponse(as_xml(told), content_type="text/xml; charset=utf-8")
    answer["Access-Control-Allow-Origin"] = "*"  # pages ask for it themselves, too
    return answer


def _token_of(request: HttpRequest, url: str) -> str:
    """The token of one of our addresses; "" for any other."""
    try:
        parts = urlsplit(url)
    except ValueError:
        return ""
    own = {request.get_host(), urlsplit(settings.ADDRESS).netloc}
    match = _SHARED.fullmatch(parts.path)
    return match[1] if match and parts.scheme in ("http", "https") and parts.netloc in own else ""


def _side(request: HttpRequest, name: str) -> int | None:
    """The most pixels that somebody has room for; None where they do not say."""
    given = request.GET.get(name, "")
    return int(given) if re.fullmatch(r"[0-9]{1,6}", given) and int(given) else None
