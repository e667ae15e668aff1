"""Drafts over HTTP: a text taken in, its sentences kept or left out, its clip made, and sentences of that said otherwise."""

import tempfile
import uuid
from datetime import datetime
from pathlib import Path, PurePath

from django.http import HttpRequest, HttpResponse
from ninja import Field, File, Router, UploadedFile

from hovvet.core.draft.choosing import LONGEST, OVER, SHORTEST, USUAL, choose, seconds_of
from hovvet.core.draft.laying import CARD
from hovvet.core.draft.written import MOST_LETTERS, MOST_SENTENCES, BlockKind, Sentence, sentences_of, title_of
from hovvet.core.engines.meaning import vectors
from hovvet.core.engines.narrator import FASTEST, SLOWEST, Narrator
from hovvet.core.script.text_in import LARGEST, text_apart
from hovvet.core.text import SomeText
from hovvet.server.accounts.access import find, visible_to, workspace_of
from hovvet.server.changing import change_row
from hovvet.server.documents.answers import DocumentOut, document_out
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents, opened, sheet_of
from hovvet.server.documents.outlets import outlets_of
from hovvet.server.documents.sources import sources_of
from hovvet.server.drafts.beginning import begin
from hovvet.server.drafts.making import begin_making, script_for
from hovvet.server.drafts.models import Draft
from hovvet.server.drafts.otherwise import begin_otherwise, draft_of, sentence_at, speak_instead
from hovvet.server.drafts.progress import jobs_of
from hovvet.server.drafts.reading import read_by_people
from hovvet.server.drafts.seeing import another_picture
from hovvet.server.jobs.api import JobOut
from hovvet.server.problems import Problem
from hovvet.server.recordings.links import checked_importer
from hovvet.server.recordings.models import Show
from hovvet.server.schema import Schema
from hovvet.server.scripts.comparing import takes_of
from hovvet.server.styles.models import NamedSettings
from hovvet.server.styles.named_settings import find_kept
from hovvet.server.turns import takes_turns

router = Router(tags=["drafts"])


class ListedDraft(Schema):
    """A draft as the list shows it."""

    id: uuid.UUID
    title: str
    sentences: int
    """How many are said."""
    clip: uuid.UUID | None
    changed: datetime


class DraftSentence(Schema):
    """A sentence of a draft."""

    text: str = Field(max_length=2_000)
    """As it is written."""
    said: str = Field(max_length=2_000)
    """As it is said."""
    kind: BlockKind
    part: int
    """The block of the text that it is from."""
    kept: bool
    seconds: float = 0.0
    """How long it takes to say."""


class DraftOut(Schema):
    """A draft."""

    id: uuid.UUID
    version: int
    title: str
    text: str
    outlet: str
    """By key."""
    seconds: float
    """How long the clip is to be."""
    lasts: float
    """How long what is kept takes to say, and the card at its end."""
    too_long: bool
    """Whether that is longer than was asked for."""
    narrator: Narrator | None
    """Who reads it; None for the person."""
    pace: float
    house: str
    """The house style that the clip is dressed in, "" for that of its show."""
    card: str
    """What stands on the card at its end, "" for none."""
    show: uuid.UUID | None
    sentences: list[DraftSentence]
    script: uuid.UUID | None
    """What is read of it, once there is such."""
    recorded: int
    """How many of the sentences that are said people have recorded."""
    clip: uuid.UUID | None
    jobs: list[JobOut]
    """What is under way for it, or went wrong."""


class NewDraft(Schema):
    """A text that a clip is to be made of."""

    text: str = Field(max_length=10 * MOST_LETTERS)
    title: str = Field(default="", max_length=200)
    outlet: str = Field(default="tall", max_length=64)
    seconds: float = Field(default=USUAL, ge=SHORTEST, le=LONGEST)
    narrator: Narrator | None = "natural"
    pace: float = Field(default=1.0, ge=SLOWEST, le=FASTEST)
    house: str = Field(default="", max_length=64)
    show: uuid.UUID | None = None


class DraftChange(Schema):
    """What is changed of a draft, on top of a version; what is not given stays."""

    version: int
    title: SomeText | None = Field(default=None, max_length=200)
    outlet: str | None = Field(default=None, max_length=64)
    seconds: float | None = Field(default=None, ge=SHORTEST, le=LONGEST)
    narrator: Narrator | None = None
    myself: bool | None = None
    """Whether the person reads it, no voice."""
    pace: float | None = Field(default=None, ge=SLOWEST, le=FASTEST)
    house: str | None = Field(default=None, max_length=64)
    card: str | None = Field(default=None, max_length=160)
    show: uuid.UUID | None = None
    sentences: list[DraftSentence] | None = Field(default=None, max_length=MOST_SENTENCES)


class DraftText(Schema):
    """The text of a file or a link."""

    title: str
    text: str


class DraftLink(Schema):
    """Where a text is."""

    link: str = Field(min_length=1, max_length=2_000)


class SaidOtherwise(Schema):
    """A sentence of a clip, by its piece, in other words; as it is written."""

    piece: str = Field(max_length=64)
    text: SomeText = Field(max_length=1_000)


class SentenceAt(Schema):
    """A sentence of a drafted clip as it is written and as it is said."""

    piece: str
    text: str
    said: str
    voiced: bool
    """Whether a voice can say it otherwise."""


class ClipsDraft(Schema):
    """The draft of a clip, and its sentences in the order of the clip."""

    draft: uuid.UUID
    recorded: int
    """How many of its sentences people have recorded."""
    sentences: list[SentenceAt]
    jobs: list[JobOut]
    """What is being said otherwise, or went wrong."""


class Put(Schema):
    """A clip in which sentences were exchanged, and how many."""

    document: DocumentOut
    sentences: int


def _sentence_out(sentence: Sentence, pace: float) -> DraftSentence:
    return DraftSentence(**sentence.model_dump(), seconds=round(seconds_of(sentence.said, pace), 2))


def draft_out(draft: Draft) -> DraftOut:
    """A draft as the page takes it."""
    sentences = draft.sentences
    lasts = sum(seconds_of(each.said, draft.pace) for each in sentences if each.kept) + (CARD if draft.card else 0)
    return DraftOut(
        id=draft.pk,
        version=draft.version,
        title=draft.title,
        text=draft.text,
        outlet=draft.outlet,
        seconds=draft.seconds,
        lasts=round(lasts, 1),
        too_long=lasts > OVER * draft.seconds,
        narrator=draft.voice,
        pace=draft.pace,
        house=draft.house,
        card=draft.card,
        show=draft.show_id,
        sentences=[_sentence_out(each, draft.pace) for each in sentences],
        script=draft.script_id,
        recorded=len(read_by_people(draft)),
        clip=draft.clip_id,
        jobs=[JobOut.from_orm(job) for job in jobs_of(draft)],
    )


def _find(request: HttpRequest, draft_id: uuid.UUID) -> Draft:
    return find(request, Draft.objects.select_related("workspace", "show", "script"), pk=draft_id)


def _clip(request: HttpRequest, document_id: uuid.UUID) -> tuple[Document, Draft]:
    clip = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    draft = draft_of(clip)
    if draft is None:
        raise Problem(409, "This clip was not made from a text, or the text has been deleted.")
    return clip, draft


def _outlet(request: HttpRequest, key: str) -> str:
    if key not in outlets_of(workspace_of(request)):
        raise Problem(409, "That outlet is not there (any more). Choose another one.")
    return key


def _house(request: HttpRequest, key: str) -> str:
    return find_kept(request, NamedSettings.Kind.HOUSE, key).key if key else ""


def _show(request: HttpRequest, pk: uuid.UUID | None) -> Show | None:
    return find(request, Show.objects.all(), pk=pk) if pk else None


def _rows(sentences: list[Sentence] | tuple[Sentence, ...]) -> list[dict[str, object]]:
    return [each.model_dump(mode="json") for each in sentences]


@router.get("", response=list[ListedDraft])
def list_drafts(request: HttpRequest) -> list[ListedDraft]:
    """The drafts of the workspace, the last changed first."""
    rows = visible_to(request, Draft.objects.all())
    return [
        ListedDraft(id=each.pk, title=each.title, sentences=len(each.kept), clip=each.clip_id, changed=each.changed)
        for each in rows
    ]


@router.post("", response=DraftOut)
@takes_turns()
def begin_draft(request: HttpRequest, given: NewDraft) -> DraftOut:
    """Take a text in, and choose the sentences that a clip of that length is best made of."""
    draft = begin(
        workspace_of(request),
        given.text,
        given.title,
        show=_show(request, given.show),
        outlet=_outlet(request, given.outlet),
        seconds=given.seconds,
        narrator=given.narrator or "",
        pace=given.pace,
        house=_house(request, given.house),
    )
    return draft_out(draft)


@router.post("/file", response=DraftText)
@takes_turns()
def read_draft_file(request: HttpRequest, file: File[UploadedFile]) -> DraftText:
    """The text of a TXT, MD, DOCX or HTML file, with light marks."""
    name = file.name or ""
    return _text_of(file.read(LARGEST + 1), name)


@router.post("/link", response=DraftText)
@takes_turns()
def read_draft_link(request: HttpRequest, given: DraftLink) -> DraftText:
    """Likewise of what a link leads to."""
    importer = checked_importer(given.link)
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "fetched"
        importer.fetch(given.link, file, lambda _: None, LARGEST)
        return _text_of(file.read_bytes(), importer.name_of(given.link))


def _text_of(data: bytes, name: str) -> DraftText:
    text = text_apart(data, name, marked=True)
    sentences_of(text)  # raises for what no clip could be made of
    return DraftText(title=title_of(text) or PurePath(name).stem[:200], text=text)


@router.get("/{draft_id}", response=DraftOut)
def read_draft(request: HttpRequest, draft_id: uuid.UUID) -> DraftOut:
    """One draft."""
    return draft_out(_find(request, draft_id))


@router.patch("/{draft_id}", response=DraftOut)
def change_draft(request: HttpRequest, draft_id: uuid.UUID, given: DraftChange) -> DraftOut:
    """Change a draft; 409 when somebody else has in the meantime."""
    draft = _find(request, draft_id)
    values = given.model_dump(exclude_unset=True, exclude={"version", "sentences", "myself", "narrator"})
    if given.outlet is not None:
        values["outlet"] = _outlet(request, given.outlet)
    if given.house is not None:
        values["house"] = _house(request, given.house)
    if "show" in values:
        values["show"] = _show(request, given.show)
    if given.myself or given.narrator:
        values["narrator"] = given.narrator or ""
    if given.sentences is not None:
        values["sentences_json"] = _rows([_sentence_in(each) for each in given.sentences])
    change_row(draft, given.version, **values)
    draft.save(update_fields=["changed"])
    return draft_out(draft)


def _sentence_in(given: DraftSentence) -> Sentence:
    if not any(each.isalnum() for each in given.said):
        raise Problem(400, "A sentence has to have something in it that can be said. Leave it out instead.")
    return Sentence(text=given.text, said=given.said, kind=given.kind, part=given.part, kept=given.kept)


@router.post("/{draft_id}/choose", response=DraftOut)
@takes_turns()
def choose_again(request: HttpRequest, draft_id: uuid.UUID, version: int) -> DraftOut:
    """Choose the sentences anew, for the length that is asked for now."""
    draft = _find(request, draft_id)
    room = draft.seconds - (CARD if draft.card else 0)
    change_row(draft, version, sentences_json=_rows(choose(draft.sentences, room, vectors, draft.pace)))
    return draft_out(draft)


@router.delete("/{draft_id}", response={204: None})
def delete_draft(request: HttpRequest, draft_id: uuid.UUID) -> HttpResponse:
    """Delete a draft. Its clip stays, and so does what people have recorded of it."""
    draft = _find(request, draft_id)
    if draft.script and not takes_of(draft.script):
        draft.script.delete()
    draft.delete()
    return HttpResponse(status=204)


@router.post("/{draft_id}/script", response=DraftOut)
def script_of_draft(request: HttpRequest, draft_id: uuid.UUID) -> DraftOut:
    """Make a script of what is said, to be read to a camera."""
    draft = _find(request, draft_id)
    if not draft.kept:
        raise Problem(409, "Every sentence is left out. Keep at least one.")
    script_for(draft)
    return draft_out(draft)


@router.post("/{draft_id}/clip", response=DraftOut)
def make_clip_of_draft(request: HttpRequest, draft_id: uuid.UUID) -> DraftOut:
    """Have the clip made. It is named in the draft once it is there."""
    draft = _find(request, draft_id)
    begin_making(draft, request.user.pk)
    return draft_out(draft)


@router.get("/clips/{document_id}", response=ClipsDraft)
def draft_of_clip(request: HttpRequest, document_id: uuid.UUID) -> ClipsDraft:
    """The draft that a clip was made of."""
    clip, draft = _clip(request, document_id)
    sheet = sheet_of(clip)
    sources = sources_of(clip, sheet)
    return ClipsDraft(
        draft=draft.pk,
        recorded=len(read_by_people(draft)),
        sentences=[
            SentenceAt(piece=piece.id, text=found.text, said=found.said, voiced=voiced)
            for piece in sheet.pieces
            if not piece.is_gap
            for found, voiced in [sentence_at(draft, clip, piece, sources)]
        ],
        jobs=[JobOut.from_orm(job) for job in jobs_of(draft, clip)],
    )


@router.post("/clips/{document_id}/otherwise", response=ClipsDraft)
def say_otherwise(request: HttpRequest, document_id: uuid.UUID, given: SaidOtherwise) -> ClipsDraft:
    """Have a sentence said in other words; it takes its place once it is spoken."""
    clip, draft = _clip(request, document_id)
    begin_otherwise(draft, clip, given.piece, given.text, request.user.pk)
    return draft_of_clip(request, document_id)


@router.post("/clips/{document_id}/recorded", response=Put)
def put_recorded(request: HttpRequest, document_id: uuid.UUID, edition: str | None = None) -> Put:
    """Let what people recorded take the place of the voice, sentence by sentence, where they have."""
    clip, draft = _clip(request, document_id)
    count = speak_instead(draft, clip, request.user.pk)
    clip.refresh_from_db()
    return Put(document=document_out(opened(clip, edition), request.user.pk), sentences=count)


@router.post("/clips/{document_id}/pictures/{layer}", response=DocumentOut)
@takes_turns()
def show_another(
    request: HttpRequest, document_id: uuid.UUID, layer: str, version: int, edition: str | None = None
) -> DocumentOut:
    """Another picture for a layer of any clip: the next best that is not shown in it already."""
    clip = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    return document_out(another_picture(clip, layer, version, request.user.pk, edition), request.user.pk)
