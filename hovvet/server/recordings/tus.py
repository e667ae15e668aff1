"""Uploads by the open tus protocol 1.0.0, which goes on after a lost connection.

Core protocol with the extensions creation (also of what has no length yet), termination, expiration and checksum.
"""

import base64
import errno
import fcntl
import hashlib
import re
import uuid
from contextlib import suppress
from datetime import timedelta
from typing import BinaryIO

from django.conf import settings
from django.db import transaction
from django.http import Http404, HttpRequest, HttpResponse, HttpResponseBase, JsonResponse, UnreadablePostError
from django.utils import timezone
from django.utils.http import http_date
from django.views import View

from hovvet.core.media.checked import flushed
from hovvet.core.media.naming import saved_name, title_of
from hovvet.server.accounts.access import find, user_of, workspace_of
from hovvet.server.files import room
from hovvet.server.jobs.running import start_job
from hovvet.server.problems import DISK_FULL, Problem
from hovvet.server.recordings.events import came_in
from hovvet.server.recordings.models import Recording, Show, Upload
from hovvet.server.recordings.preparing import PREPARE
from hovvet.server.recordings.stepping import add_angle

_VERSION = "1.0.0"
_BLOCK = 1024 * 1024
_LARGEST_PART = 16 * 1024 * 1024  # bytes that the page sends in one request
LEAST_KEPT = 48_000  # bytes of what was broken off: half a second of a voice-over
_ALGORITHMS = ("sha1", "sha256")


class TusView(View):
    """What all uploads share: sign-in, protocol version, answers in plain words."""

    def dispatch(self, request: HttpRequest, *args: object, **kwargs: object) -> HttpResponseBase:
        """Check who asks, then do it."""
        response: HttpResponseBase
        try:
            if not request.user.is_authenticated:
                raise Problem(401, "You are signed out. Sign in again, then go on with the upload.")
            if request.method not in ("OPTIONS", "GET") and request.headers.get("Tus-Resumable") != _VERSION:
                raise Problem(412, f"This server speaks tus {_VERSION} only.")
            response = super().dispatch(request, *args, **kwargs)
        except Problem as problem:
            response = _refused(request, str(problem), problem.status)
        except Http404:
            message = "This upload is no longer there: it was finished, cancelled or too old. Choose the file again."
            response = _refused(request, message, 404)
        except OSError as error:
            if error.errno not in (errno.ENOSPC, errno.EDQUOT, errno.EFBIG):
                raise
            response = _refused(request, DISK_FULL, 507)
        response["Tus-Resumable"] = _VERSION
        response["Cache-Control"] = "no-store"
        return response


def _refused(request: HttpRequest, message: str, status: int) -> HttpResponse:
    """An answer that arrives: a body that is still being sent is read first, as much of it as one part has."""
    left = _LARGEST_PART
    with suppress(OSError):
        while left > 0 and (block := request.read(min(_BLOCK, left))):
            left -= len(block)
    return JsonResponse({"detail": message}, status=status)


class Uploads(TusView):
    """Where uploads begin."""

    def options(self, _request: HttpRequest) -> HttpResponse:
        """What this server can do."""
        headers = {
            "Tus-Version": _VERSION,
            "Tus-Extension": "creation,creation-defer-length,termination,expiration,checksum",
            "Tus-Max-Size": str(settings.UPLOAD_BYTES),
            "Tus-Checksum-Algorithm": ",".join(_ALGORITHMS),
        }
        return HttpResponse(status=204, headers=headers)

    def post(self, request: HttpRequest) -> HttpResponse:
        """Begin an upload."""
        length = _length(request)
        if length is None and request.headers.get("Upload-Defer-Length") != "1":
            raise Problem(400, "The length of the file is missing, or is no number.")
        name = _metadata(request).get("filename", "").replace("\\", "/").rsplit("/", 1)[-1]
        _check_size(_BLOCK if length is None else length)
        forget_expired()
        show = _metadata(request).get("show")
        upload = Upload.objects.create(
            workspace=workspace_of(request),
            user=user_of(request),
            show=show_of(request, show) if show else None,
            for_shelf=_metadata(request).get("shelf") == "yes",
            **_read_in(_metadata(request)),
            file_name=saved_name(name, "Recording"),
            length=length,
            expires=timezone.now() + timedelta(hours=settings.UPLOAD_HOURS),
        )
        upload.path.parent.mkdir(parents=True, exist_ok=True)
        upload.path.touch()
        return _told(HttpResponse(status=201, headers={"Location": f"/api/uploads/{upload.pk}"}), upload)


class OneUpload(TusView):
    """One upload under way."""

    def head(self, request: HttpRequest, upload_id: uuid.UUID) -> HttpResponse:
        """How much has arrived."""
        upload = _find(request, upload_id)
        told = {"Upload-Defer-Length": "1"} if upload.length is None else {"Upload-Length": str(upload.length)}
        response = HttpResponse(headers={"Upload-Offset": str(upload.offset), **told})
        return _told(response, upload)

    def patch(self, request: HttpRequest, upload_id: uuid.UUID) -> HttpResponse:
        """Take in the next bytes; what arrived before a lost connection stays."""
        upload = _find(request, upload_id)
        if request.content_type != "application/offset+octet-stream":
            raise Problem(415, "The upload must be sent as application/offset+octet-stream.")
        _is_over(request, upload)
        most = settings.UPLOAD_BYTES if upload.length is None else upload.length
        _check_space(_BLOCK if upload.length is None else upload.length - upload.offset)
        with _opened(upload) as file:
            _lock(file)
            if request.headers.get("Upload-Offset") != str(file.seek(0, 2)):
                raise Problem(409, "The upload went on elsewhere. Ask how much has arrived, then go on from there.")
            _take_in(request, file, most)
            offset = file.tell()
            response = _told(HttpResponse(status=204, headers={"Upload-Offset": str(offset)}), upload)
            if offset == upload.length:
                file.flush()
                response["Hovvet-Recording"] = str(finish(upload).pk)
        return response

    def delete(self, request: HttpRequest, upload_id: uuid.UUID) -> HttpResponse:
        """Give an upload up."""
        upload = _find(request, upload_id)
        upload.delete()
        return HttpResponse(status=204)


def _length(request: HttpRequest) -> int | None:
    """How long a request says that a file is."""
    length = request.headers.get("Upload-Length", "")
    return int(length) if re.fullmatch(r"[0-9]{1,18}", length) else None


def _is_over(request: HttpRequest, upload: Upload) -> None:
    """Note how long an upload is, once that is told. Raises Problem where it is shorter than what has arrived."""
    length = _length(request)
    if upload.length is not None or length is None:
        return
    if length < upload.offset:
        raise Problem(409, "More of this has arrived than it is said to have.")
    _check_size(length)
    upload.length = length
    upload.save(update_fields=["length"])


def _find(request: HttpRequest, upload_id: uuid.UUID) -> Upload:
    return find(request, Upload.objects.filter(expires__gt=timezone.now()), pk=upload_id)


def _told(response: HttpResponse, upload: Upload) -> HttpResponse:
    response["Upload-Expires"] = http_date(upload.expires.timestamp())
    return response


def show_of(request: HttpRequest, show_id: str) -> Show:
    """The show that is asked for. Raises Problem, Http404."""
    try:
        return find(request, Show.objects.all(), pk=uuid.UUID(show_id))
    except ValueError:
        raise Problem(400, "The show could not be read. Choose it again.") from None


def _metadata(request: HttpRequest) -> dict[str, str]:
    """The tus header ``Upload-Metadata``: names with base64 values."""
    found = {}
    for pair in request.headers.get("Upload-Metadata", "").split(","):
        key, _, value = pair.strip().partition(" ")
        try:
            found[key] = base64.b64decode(value, validate=True).decode()
        except ValueError:
            raise Problem(400, "The name of the file could not be read.") from None
    return found


def _read_in(told: dict[str, str]) -> dict[str, object]:
    """Which script is read in what is being recorded, and from which line on; which recording it is another camera of."""
    found: dict[str, object] = {}
    try:
        if told.get("script"):
            found |= {"script": uuid.UUID(told["script"]), "line": min(max(int(told.get("line", "0")), 0), 100_000)}
        if told.get("angle_of"):
            found["angle_of"] = uuid.UUID(told["angle_of"])
    except ValueError:
        raise Problem(400, "What this belongs to could not be read. Open the page again.") from None
    return found


def _check_size(length: int) -> None:
    if length == 0:
        raise Problem(400, "The file is empty. Choose the recording again.")
    if length > settings.UPLOAD_BYTES:
        most = settings.UPLOAD_BYTES / 1024**3
        raise Problem(413, f"The file is {length / 1024**3:.1f} GB. The largest file Hovvet takes is {most:.1f} GB.")
    _check_space(length)


def _check_space(length: int) -> None:
    if room() < length:
        raise Problem(
            507, "There is not enough free space on the server's disk for this file. Free some, then try again."
        )


def _opened(upload: Upload) -> BinaryIO:
    """The bytes so far, to be added to. Raises Http404 for an upload that another request has just finished."""
    try:
        return upload.path.open("r+b")
    except FileNotFoundError:
        raise Http404 from None


def _lock(file: BinaryIO) -> None:
    """Be the only one who writes into an upload, until the file is closed."""
    try:
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        raise Problem(423, "This upload is being sent from elsewhere right now. It goes on by itself.") from None


def _take_in(request: HttpRequest, file: BinaryIO, length: int) -> None:
    """Append the body to the file, at most to ``length``; taken back when its checksum is wrong."""
    began = file.tell()
    algorithm, _, wanted = request.headers.get("Upload-Checksum", "").partition(" ")
    if algorithm and algorithm not in _ALGORITHMS:
        raise Problem(400, f"Checksums are taken with {' or '.join(_ALGORITHMS)} only.")
    hashing = hashlib.new(algorithm) if algorithm else None
    try:
        while file.tell() < length and (block := request.read(min(_BLOCK, length - file.tell()))):
            file.write(block)
            if hashing:
                hashing.update(block)
    except UnreadablePostError:
        if not hashing:
            return  # the connection is lost: what has arrived stays
    if hashing and base64.b64encode(hashing.digest()).decode() != wanted:
        file.truncate(began)
        raise Problem(460, "A part of the file arrived damaged. It will be sent again.")


def finish(upload: Upload) -> Recording:
    """Make a recording of a complete upload and begin to prepare it."""
    recording = Recording(
        workspace=upload.workspace,
        show=upload.show,
        for_shelf=upload.for_shelf,
        title=title_of(upload.file_name),
        file_name=upload.file_name,
        size=upload.offset,
    )
    recording.folder.mkdir(parents=True)
    flushed(upload.path)
    upload.path.replace(recording.original)
    flushed(recording.folder)
    with transaction.atomic():
        recording.save()
        add_angle(upload, recording)
        came_in.send(Upload, upload=upload, recording=recording)
        upload.delete()
        start_job(recording.workspace, PREPARE, recording.pk)
    return recording


def forget_expired() -> int:
    """Remove uploads that nobody finished; how many. What was recorded and broken off becomes a recording: there is no other
    copy of it."""
    expired = list(Upload.objects.filter(expires__lte=timezone.now()))
    for upload in expired:
        if upload.length is None and upload.offset > LEAST_KEPT:
            finish(upload)
        else:
            upload.delete()
    return len(expired)
