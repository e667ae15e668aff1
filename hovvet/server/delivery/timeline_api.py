"""Timelines over HTTP: to another editor, and back."""

import uuid

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Router
from ninja.files import UploadedFile

from hovvet.core.formats.interchange import SPEECH, TYPES, Kind, timeline
from hovvet.core.formats.interchange_in import LARGEST, read_apart, shape_of, taken_in
from hovvet.core.sheet.edits import Batch
from hovvet.core.sheet.model import Sheet
from hovvet.server.accounts.access import find
from hovvet.server.delivery.timelines import media_of, timeline_file, title_of
from hovvet.server.documents.answers import DocumentOut, Newer, changed
from hovvet.server.documents.changing import apply_made
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents, opened
from hovvet.server.problems import Problem
from hovvet.server.ranges import attachment
from hovvet.server.recordings.models import Recording
from hovvet.server.schema import Schema
from hovvet.server.turns import takes_turns

router = Router(tags=["timelines"])


class TimelineTaken(Schema):
    """What became of a timeline that came back."""

    document: DocumentOut
    changed: bool
    """Whether the cuts were other ones; if so they are one change, which can be undone."""
    left_out: list[str]
    """What it says that was not taken in."""


@router.get("/{document_id}/editions/{edition}/timeline.{kind}", response={200: None}, include_in_schema=False)
def download_timeline(request: HttpRequest, document_id: uuid.UUID, edition: str, kind: Kind) -> HttpResponse:
    """An edition of a clip, or a desk with its mistakes taken out, for another editor."""
    now = opened(find(request, documents(), pk=document_id), edition)
    if now.edition.id != edition:
        raise Problem(404, "That edition is no longer there. Choose another one.")
    if not now.plan.frames:
        raise Problem(422, "Nothing is left in this clip: every word of it is cut. Bring some back first.")
    answer = HttpResponse(timeline_file(now, kind), content_type=TYPES[kind])
    answer["Content-Disposition"] = attachment(f"{title_of(now)}.{kind}")
    return answer


@router.post("/{document_id}/timeline", response={200: TimelineTaken, 409: Newer})
@takes_turns()
def take_in_timeline(
    request: HttpRequest, document_id: uuid.UUID, file: File[UploadedFile], version: Form[int], edition: Form[str]
) -> tuple[int, TimelineTaken | Newer]:
    """Take in a timeline that comes back from another editor: what was reordered and trimmed there is one change here."""
    document = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    if file.size is None or file.size > LARGEST:
        raise Problem(413, f"The file is larger than {LARGEST // 1_000_000} MB, too large for the timeline of a clip.")
    read = read_apart(file.read())
    now = opened(document, edition)
    own = timeline(document.title, now.plan, now.scene, media_of(now))
    others = [shape_of(each) for each in own.tracks if each.name != SPEECH]
    taken = taken_in(read, now.sheet, now.plan, others, now.sources.transcripts, _known(document))

    def make(_: Sheet) -> Batch:
        return Batch(edits=(taken.edit,) if taken.edit else ())

    by = request.user.pk
    status, answer = changed(request, document, lambda: apply_made(document, version, make, by, edition), edition)
    if isinstance(answer, Newer):
        return status, answer
    return 200, TimelineTaken(document=answer, changed=taken.edit is not None, left_out=taken.left_out)


def _known(document: Document) -> dict[str, str]:
    """The recordings of the workspace by the names of their files; a name that two have is none."""
    found: dict[str, str] = {}
    for pk, name in Recording.objects.filter(workspace=document.workspace).values_list("pk", "file_name"):
        found[name] = "" if name in found else str(pk)
    return {name: pk for name, pk in found.items() if pk}
