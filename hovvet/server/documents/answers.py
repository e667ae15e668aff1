"""What the API answers about a document, and how a change is answered."""

import uuid
from collections.abc import Callable, Iterator

from django.http import HttpRequest

from hovvet.core.captions.layout import layout_name
from hovvet.core.compile.mixing.voices import amounts
from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import Outlet, grid_square, outlet_name
from hovvet.core.sheet.copying import parts_of
from hovvet.core.sheet.model import Sheet
from hovvet.core.view.rows import Bar, Row, bars, rows
from hovvet.core.view.shown import ShortPause, short_pauses, struck_words, uncut
from hovvet.core.words.corrections import difference
from hovvet.core.words.layout import Paragraph, Pause, paragraphs, pauses
from hovvet.core.words.transcript import Speaker, Word
from hovvet.server.documents.changing import Stale, correction_to_undo, next_revision
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import Opened, documents, opened
from hovvet.server.documents.prepared_sounds import still_preparing
from hovvet.server.documents.stamps import stamp_of
from hovvet.server.documents.transcripts import Corrected, corrected_of, transcript_at, transcript_of
from hovvet.server.recordings.looking import look_for_faces
from hovvet.server.recordings.measuring import measure_soon
from hovvet.server.recordings.models import Recording
from hovvet.server.schema import Schema


class WordsChange(Schema):
    """What an edit did to the transcript."""

    before: int
    """The correction at which the page had it."""
    now: int
    """The correction at which it is."""
    gone: list[int]
    """Words that are no more, by id."""
    come: list[Word]
    """Words that replace those of their id, or are new."""
    paragraphs: list[Paragraph]
    """All of them."""
    pauses: list[Pause] | None  # None when they are as before
    """All of them; None when they are as before."""
    speakers: list[Speaker]
    """All of them."""


class SourceOut(Schema):
    """A recording that a document shows, as the page plays it."""

    id: uuid.UUID
    title: str
    duration: float
    """Seconds."""
    has_picture: bool
    width: int
    """Pixels, as shown."""
    height: int
    """Pixels, as shown."""
    playable: bool
    """Whether its working copy is ready."""


class CameraOut(Schema):
    """Another camera or microphone of a recording that a clip shows, in step with it."""

    number: int
    """2 and up: the recording itself is 1."""
    name: str
    recording: str
    """Of which it is one."""
    media: str
    """What it plays as."""
    offset: float
    """Second of the recording at which it begins."""
    drift: float
    """By which its clock is slower."""
    has_picture: bool
    has_sound: bool


class EditionOut(Schema):
    """An edition, and what its outlet is called."""

    id: str
    name: str
    """What its outlet is called."""
    outlet: str
    """By key."""
    dressing: str
    """How much of what is laid it has."""


class VoiceOut(Schema):
    """Somebody who is heard in a recording of a clip."""

    speaker: str
    """By key."""
    name: str
    lufs: float
    """How loud they were recorded."""
    evened: float
    """dB that bring them to the loudness of the others."""


class LevelOut(Schema):
    """How loud a clip is over time."""

    step: float
    """Seconds of each level."""
    lufs: list[float]
    quiet: list[tuple[float, float]]
    """From and to which second it is too quiet to be understood."""
    loud: list[tuple[float, float]]
    """From and to which second it is much louder than the outlet wants."""
    too_loud: float
    """LUFS over which it is that."""


class DocumentOut(Schema):
    """A document as it stands, compiled for one edition of it."""

    id: uuid.UUID
    stamp: str
    """Another one when there may be something new to see."""
    recording: uuid.UUID | None
    """Whose desk it is; None for a clip."""
    sources: list[SourceOut]
    """The recordings that it shows."""
    cameras: list[CameraOut]
    """Their other cameras and microphones."""
    edition: str
    """The one that it is compiled for."""
    editions: list[EditionOut]
    """All of them."""
    dressing: dict[str, str]
    """Parts of what it wears that can be laid onto other clips, and what they are called."""
    layout_name: str
    """What its captions' layout is called; "" for one of a person's own."""
    preparing: bool
    """Whether sounds of its plan are still being made."""
    looking: bool
    """Whether faces that it follows are still being looked for."""
    kind: Document.Kind
    title: str
    version: int
    """Of the document; every change has the next."""
    sheet: Sheet
    """As it is kept."""
    plan: Plan
    """As it is seen and heard."""
    seconds: float
    """Its length."""
    uncut: float
    """Its length with nothing taken out, in seconds."""
    outlet: Outlet
    """Of the edition."""
    grid: tuple[int, int, int, int] | None
    """The margins of the square that a profile's grid shows of the outlet: left, top, right, bottom in pixels. None where
    that shows all."""
    rows: list[Row]
    """Of a clip: its words and pauses, a phrase to a row."""
    bars: list[Bar]
    """Of a clip: what is laid over them."""
    voices: list[VoiceOut]
    """Of a clip in which several are heard: how loud each is."""
    level: LevelOut | None
    """Of a clip: how loud it is over time, as far as that is known."""
    beats: tuple[float, ...]
    """When beats of its music are heard, in seconds of the output."""
    clear_height: float | None
    """Where in the safe area its captions would lie over no face (0 to 1, from above); None where they do not, or always
    would."""
    struck: tuple[int, ...]
    """Of a desk: the words that are cut, by id."""
    short: list[ShortPause]
    """Of a desk: the pauses that are not whole."""
    newest: int
    """Its newest revision."""
    undoes: int | None
    """The revision that undo takes back; None where there is nothing to undo."""
    can_redo: bool
    words_at: int
    """The correction at which the transcript stands."""
    words: WordsChange | None
    """What the last change did to the transcript."""
    told: str
    """Something the person should know; "" for nothing."""


class Newer(Schema):
    """The answer to an edit on a stale version."""

    detail: str
    """What happened."""
    document: DocumentOut
    """As it is now."""


def _words_change(recording: Recording | None, before: Corrected) -> WordsChange | None:
    if recording is None or (now := corrected_of(recording)) == before:
        return None
    transcript = transcript_at(recording, now)
    earlier = transcript_at(recording, before)
    gone, come = difference(earlier, transcript)
    same = not gone and len(earlier.words) == len(transcript.words)
    return WordsChange(
        before=before or 0,
        now=now or 0,
        gone=list(gone),
        come=list(come),
        paragraphs=paragraphs(transcript.words),
        pauses=None if same else pauses(transcript.words, transcript.duration),
        speakers=transcript.cast(),
    )


def document_out(now: Opened, user_id: int | None, words: WordsChange | None = None) -> DocumentOut:
    """A document as the page of a user takes it."""
    document, sheet, plan = now.document, now.sheet, now.plan
    preparing, looking = still_preparing(document, plan) or now.sources.making, _looking(now)
    stamp = stamp_of(document)
    for recording in now.sources.recordings.values():
        measure_soon(recording)
    made = [] if document.recording else rows(sheet, now.scene)
    gaps = _pauses(document.recording) if document.recording else []
    corrected = [corrected_of(recording) or 0 for recording in now.sources.recordings.values()]
    return DocumentOut(
        id=document.pk,
        stamp=stamp,
        recording=document.recording_id,
        sources=[_source_out(each) for each in now.sources.recordings.values()],
        cameras=list(_cameras(now)),
        edition=now.edition.id,
        editions=[
            EditionOut(
                id=each.id, name=outlet_name(each.outlet, now.kit.outlets), outlet=each.outlet, dressing=each.dressing
            )
            for each in sheet.editions
        ],
        dressing=parts_of(sheet),
        layout_name=layout_name(sheet.layout),
        preparing=preparing,
        looking=looking,
        kind=Document.Kind(document.kind),
        title=document.title,
        version=document.version,
        sheet=sheet,
        plan=plan,
        seconds=plan.seconds,
        uncut=uncut(sheet),
        outlet=now.kit.outlets[now.edition.outlet],
        grid=grid_square(now.kit.outlets[now.edition.outlet]),
        rows=made,
        bars=bars(sheet, now.scene, made, now.edition.hidden, _names(now)),
        voices=_voices(now),
        level=LevelOut(**now.scene.level._asdict()) if now.scene.level else None,
        clear_height=now.scene.clear_height,
        beats=now.scene.beats,
        struck=struck_words(sheet) if document.recording else (),
        short=short_pauses(gaps, plan),
        newest=max([document.head_id or 0, *corrected]),
        undoes=_undoes(document, user_id),
        can_redo=next_revision(document) is not None,
        words_at=max(corrected, default=0),
        words=words,
        told=now.told,
    )


def _voices(now: Opened) -> list[VoiceOut]:
    """Of each recording in which several speak; nobody hears of the loudness of one who speaks alone."""
    found = []
    for key in now.sheet.recordings:
        if (source := now.sources.sources.get(key)) is None:
            continue
        names = {each.key: each.name for each in source.transcript.speakers}
        for speaker, volume in amounts(source).items():
            lufs = round(source.voices[speaker][0], 1)
            found.append(VoiceOut(speaker=speaker, name=names.get(speaker) or speaker, lufs=lufs, evened=volume))
    return found


def _names(now: Opened) -> dict[str, str]:
    """What a person calls the media of a document."""
    return {**now.kit.names, **{key: recording.title for key, recording in now.sources.recordings.items()}}


def _looking(now: Opened) -> bool:
    """Whether the sheet follows faces that are still being looked for; it is begun where it was not."""
    if not any(layer.content.follows_faces for layer in now.sheet.layers):
        return False
    looking = [look_for_faces(recording) for recording in now.sources.recordings.values()]  # each is begun
    return any(looking)


def _pauses(recording: Recording) -> list[Pause]:
    transcript = transcript_of(recording)
    return pauses(transcript.words, transcript.duration)


def _cameras(now: Opened) -> Iterator[CameraOut]:
    for recording, source in now.sources.sources.items():
        for angle in source.angles:
            film = now.sources.sources.get(angle.media)
            if film:
                yield CameraOut(
                    number=angle.number,
                    name=angle.name,
                    recording=recording,
                    media=angle.media,
                    offset=angle.offset,
                    drift=angle.drift,
                    has_picture=film.media.has_picture,
                    has_sound=film.media.has_sound,
                )


def _source_out(recording: Recording) -> SourceOut:
    media = recording.media
    return SourceOut(
        id=recording.pk,
        title=recording.title,
        duration=media.duration if media else 0.0,
        has_picture=bool(media and media.has_picture),
        width=media.width if media else 0,
        height=media.height if media else 0,
        playable=recording.playable,
    )


def _undoes(document: Document, user_id: int | None) -> int | None:
    if desk := correction_to_undo(document, user_id):
        return desk.head_id
    return document.head_id if document.head and document.head.parent_id else None


Answer = tuple[int, DocumentOut | Newer]


def changed(
    request: HttpRequest, document: Document, change: Callable[[], Opened], edition: str | None = None
) -> Answer:
    """Make a change and answer with what it led to; 409 with the newer document when it was made on a stale one."""
    recording = document.recording
    before = corrected_of(recording) if recording else None
    try:
        after = change()
        return 200, document_out(after, request.user.pk, _words_change(recording, before))
    except Stale:
        fresh = document_out(opened(documents().get(pk=document.pk), edition), request.user.pk)
        return 409, Newer(detail="This was changed elsewhere in the meantime.", document=fresh)
