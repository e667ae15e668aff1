"""Sending files in parts: HTTP range requests, which players need to seek."""

import re
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import quote

from django.http import FileResponse, Http404, HttpRequest, HttpResponse, HttpResponseBase, StreamingHttpResponse

from hovvet.core.media.naming import saved_name

_BLOCK = 256 * 1024
_RANGE = re.compile(r"bytes=([0-9]{0,18})-([0-9]{0,18})")  # anything else is answered as if nothing had been asked


def ranged_file(request: HttpRequest, path: Path, kind: str, download: str | None = None) -> HttpResponseBase:
    """Answer with a file, or with the one range of it that is asked for (RFC 9110, section 14).

    ``download`` names the file for saving. Raises Http404 when it is not there.
    """
    if not path.is_file():
        raise Http404("That file is not there yet, or it has been deleted.")
    size = path.stat().st_size
    asked = _RANGE.fullmatch(request.headers.get("Range", ""))
    response: HttpResponseBase
    if not asked or not any(asked.groups()):
        response = FileResponse(path.open("rb"), content_type=kind)
    else:
        first = int(asked[1]) if asked[1] else max(size - int(asked[2]), 0)
        last = min(int(asked[2]), size - 1) if asked[1] and asked[2] else size - 1
        if first > last:
            return HttpResponse(status=416, headers={"Content-Range": f"bytes */{size}"})
        response = StreamingHttpResponse(_read(path, first, last), status=206, content_type=kind)
        response["Content-Length"] = str(last - first + 1)
        response["Content-Range"] = f"bytes {first}-{last}/{size}"
    response["Accept-Ranges"] = "bytes"
    response["Cache-Control"] = "private, no-cache"
    response["X-Content-Type-Options"] = "nosniff"
    if download:
        response["Content-Disposition"] = attachment(download)
    return response


def attachment(name: str) -> str:
    """A header that saves a file under a name of any script (RFC 6266, RFC 5987), as any disk can keep it."""
    safe = saved_name(name)
    plain = safe.encode("ascii", "replace").decode().replace("?", "_")
    return f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(safe, safe='')}"


def _read(path: Path, first: int, last: int) -> Iterator[bytes]:
    with path.open("rb") as file:
        file.seek(first)
        left = last - first + 1
        while left > 0 and (block := file.read(min(_BLOCK, left))):
            left -= len(block)
            yield block
