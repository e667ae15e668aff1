"""The stand-in drive: a page that lists shared files, each with a link to copy. It plays the part of an outside service."""

from urllib.parse import quote

from django.http import HttpRequest, HttpResponse, HttpResponseBase
from django.utils.html import format_html, format_html_join

from hovvet.core.errors import CoreError
from hovvet.server.drive.files import shared_file, shared_files
from hovvet.server.ranges import ranged_file

_PAGE = """<!doctype html><html lang="en"><meta charset="utf-8"><title>Harbour drive</title>
<style>body {{ font: 16px/1.6 sans-serif; max-width: 64rem; margin: 3rem auto; color: #20242b; background: #faf6ee }}
td {{ padding: .3rem 1.5rem .3rem 0; white-space: nowrap }} code {{ user-select: all }}</style>
<h1>Harbour drive</h1><p>A pretend drive that ships with Hovvet. Copy a link, then bring it in from your recordings.</p>
<table>{rows}</table></html>"""


def listing(request: HttpRequest) -> HttpResponse:
    """All shared files."""
    if not request.user.is_authenticated:
        return HttpResponse("Sign in to Hovvet first.", status=401, content_type="text/plain")
    rows = format_html_join(
        "",
        "<tr><td>{}</td><td>{} kB</td><td><code>{}</code></td></tr>",
        (
            (
                file.name,
                f"{file.stat().st_size / 1e3:.0f}",
                request.build_absolute_uri(f"/drive/files/{quote(file.name)}"),
            )
            for file in shared_files()
        ),
    )
    return HttpResponse(format_html(_PAGE, rows=rows))


def download(request: HttpRequest, name: str) -> HttpResponseBase:
    """One shared file."""
    if not request.user.is_authenticated:
        return HttpResponse("Sign in to Hovvet first.", status=401, content_type="text/plain")
    try:
        return ranged_file(request, shared_file(name), "application/octet-stream", download=name)
    except CoreError as error:
        return HttpResponse(str(error), status=404, content_type="text/plain; charset=utf-8")
