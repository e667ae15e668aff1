"""Narration over HTTP: hearing a sentence before it is laid, and speaking again what could not be spoken."""

import tempfile
import uuid
from pathlib import Path
from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from hovvet.core.engines.narrator import FASTEST, LONGEST, SLOWEST, Narrator, narrate
from hovvet.core.words.spoken_text import sentences
from hovvet.server.accounts.access import find
from hovvet.server.documents.answers import DocumentOut, document_out
from hovvet.server.documents.models import Document
from hovvet.server.documents.narrating import speak_soon
from hovvet.server.documents.opening import documents, opened
from hovvet.server.problems import Problem
from hovvet.server.turns import takes_turns

router = Router(tags=["narration"])


@router.get("/heard", response={200: None}, include_in_schema=False)
@takes_turns()
def hear_sentence(
    request: HttpRequest,
    text: Annotated[str, Query(max_length=1_000)],
    narrator: Narrator = "natural",
    pace: Annotated[float, Query(ge=SLOWEST, le=FASTEST)] = 1.0,
) -> HttpResponse:
    """The first sentence of a text as a voice speaks it, as WAV."""
    found = sentences(text, LONGEST)
    if not found:
        raise Problem(400, "There is nothing in this that could be spoken. Type a sentence.")
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder) / "heard.wav"
        narrate(found[:1], narrator, pace, [out])
        return HttpResponse(out.read_bytes(), content_type="audio/wav")


@router.post("/{document_id}/again", response=DocumentOut)
def speak_again(request: HttpRequest, document_id: uuid.UUID, edition: str | None = None) -> DocumentOut:
    """Have spoken what could not be spoken before."""
    now = opened(find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id), edition)
    missing = [each for each in now.sheet.spoken if each.media not in now.sources.sources]
    if missing:
        speak_soon(now.document, missing, again=True)
    return document_out(now, request.user.pk)
