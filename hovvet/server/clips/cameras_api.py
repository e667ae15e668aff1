"""The cameras of a clip over HTTP."""

import uuid

from django.http import HttpRequest
from ninja import Router

from hovvet.core.compile.directing import directed
from hovvet.core.sheet.edits import Edit
from hovvet.core.sheet.model import Sheet
from hovvet.core.sheet.places import Places
from hovvet.server.accounts.access import find
from hovvet.server.documents.answers import Answer, DocumentOut, Newer, changed
from hovvet.server.documents.changing import apply_made
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents
from hovvet.server.documents.sources import sources_of
from hovvet.server.schema import Schema

router = Router(tags=["documents"])


class Directing(Schema):
    """On top of which version cameras are laid, and the edition that is looked at."""

    version: int
    edition: str | None = None


@router.post("/{document_id}/cameras/who-talks", response={200: DocumentOut, 409: Newer})
def direct(request: HttpRequest, document_id: uuid.UUID, given: Directing) -> Answer:
    """Lay cameras over the whole clip by who talks, as one change."""
    clip = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)

    def make(sheet: Sheet) -> Edit:
        sources = sources_of(clip, sheet)
        return directed(sheet, sources.sources, Places(sheet, sources.transcripts))

    by, edition = request.user.pk, given.edition
    return changed(request, clip, lambda: apply_made(clip, given.version, make, by, edition), edition)
