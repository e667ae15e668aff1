"""Lines of a clip that could open it, over HTTP."""

import uuid

from django.http import HttpRequest
from ninja import Router

from hovvet.core.engines.meaning import vectors
from hovvet.core.passages.hooks import hooks
from hovvet.core.sheet.model import WordRef
from hovvet.server.accounts.access import find
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents, opened
from hovvet.server.schema import Schema

router = Router(tags=["documents"])


class HookOut(Schema):
    """A line of a clip: its words, when they are said (seconds of the output), and whether it gives the ending away."""

    first: WordRef
    last: WordRef
    text: str
    start: float
    end: float
    ending: bool


@router.get("/{document_id}/hooks", response=list[HookOut])
def list_hooks(request: HttpRequest, document_id: uuid.UUID, edition: str | None = None) -> list[HookOut]:
    """Up to three lines that could open a clip, best first. Nothing is moved."""
    document = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    words = opened(document, edition).plan.words
    return [
        HookOut(
            first=WordRef(origin=words[each.first].origin, word=words[each.first].id),
            last=WordRef(origin=words[each.last].origin, word=words[each.last].id),
            text=each.text,
            start=words[each.first].start,
            end=words[each.last].end,
            ending=each.ending,
        )
        for each in hooks(words, vectors)
    ]
