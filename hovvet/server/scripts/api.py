"""Scripts over HTTP: written, read from files, timed, followed; their takes laid beside them and put together."""

import uuid
from collections.abc import Sequence
from datetime import datetime
from pathlib import PurePath

from django.conf import settings
from django.db.models import Count, Q
from django.http import HttpRequest, HttpResponse
from ninja import Field, File, Router, UploadedFile

from hovvet.core.script.beside import Reading
from hovvet.core.script.choosing import best, cost, in_one_go, looks_away
from hovvet.core.script.following import Followed
from hovvet.core.script.lines import MOST_LETTERS, ScriptKind, script_of, words_of
from hovvet.core.script.pace import FASTEST, SLOWEST, pace_of, seconds_of
from hovvet.core.script.text_in import LARGEST, text_apart
from hovvet.core.text import SomeText
from hovvet.server.accounts.access import find, visible_to, workspace_of
from hovvet.server.changing import change_row
from hovvet.server.documents.answers import DocumentOut, document_out
from hovvet.server.documents.making import WordsOf
from hovvet.server.documents.opening import opened
from hovvet.server.files import room
from hovvet.server.jobs.api import JobOut
from hovvet.server.jobs.models import Job, latest_jobs
from hovvet.server.problems import Problem
from hovvet.server.recordings.models import Show
from hovvet.server.schema import Schema
from hovvet.server.scripts.comparing import read_in, takes_of
from hovvet.server.scripts.hearing import followed
from hovvet.server.scripts.models import Script, Take
from hovvet.server.styles.house import make_dressed_clip_of

router = Router(tags=["scripts"])

_UNTITLED = "Untitled script"


class ListedScript(Schema):
    """A script as the list shows it."""

    id: uuid.UUID
    title: str
    words: int
    takes: int
    """How many there are."""
    changed: datetime


class LineOut(Schema):
    """A line of a script."""

    text: str
    part: int
    """The paragraph, or the card, that it is from."""
    words: int
    """How many there are to be said."""


class TakeOut(Schema):
    """A take."""

    id: uuid.UUID
    """Of its recording."""
    number: int
    name: str
    """As its recording is called."""
    line: int
    """With which it was begun."""
    starred: bool
    duration: float
    """Seconds; 0 until it was looked into."""
    playable: bool
    ready: bool
    """Whether its words are there."""
    jobs: list[JobOut]
    """What is under way for it, or went wrong."""


class ScriptOut(Schema):
    """A script with its takes."""

    id: uuid.UUID
    version: int
    title: str
    text: str
    kind: ScriptKind
    show: uuid.UUID | None
    """The one that its takes belong to."""
    pace: int
    """Words a minute."""
    seconds: float
    """How long it takes at that pace."""
    right_to_left: bool
    lines: list[LineOut]
    takes: list[TakeOut]


class NewScript(Schema):
    """A script to be written."""

    title: str = Field(default="", max_length=200)
    text: str = Field(default="", max_length=10 * MOST_LETTERS)
    kind: ScriptKind = "flowing"
    show: uuid.UUID | None = None


class ScriptChange(Schema):
    """What is changed of a script, on top of a version; what is not given stays."""

    version: int
    title: SomeText | None = Field(default=None, max_length=200)
    text: str | None = Field(default=None, max_length=10 * MOST_LETTERS)
    kind: ScriptKind | None = None
    show: uuid.UUID | None = None
    pace: int | None = Field(default=None, ge=SLOWEST, le=FASTEST)


class ReadThrough(Schema):
    """How long it took to read some words."""

    words: int = Field(ge=1, le=100_000)
    seconds: float = Field(gt=0, le=36_000)


class TextOut(Schema):
    """The text of a file."""

    title: str
    text: str


class ReadingOut(Schema):
    """A reading of a line in a take."""

    take: uuid.UUID
    reading: Reading
    against: float
    """How much there is against it; the less the better."""
    looks_away: bool
    """Whether one looks elsewhere for most of it, as far as that is known."""


class Beside(Schema):
    """What was said, beside the script."""

    readings: list[ReadingOut]
    """Line by line, in the order in which they were read."""
    suggested: list[int]
    """For each line the place in ``readings`` of the one suggested; -1 where there is none."""
    waits: int
    """Takes whose words are not there yet."""


class Chosen(Schema):
    """A reading that is to be in a clip: by its take, and its first and last word."""

    take: uuid.UUID
    first: int
    last: int


class ClipOfTakes(Schema):
    """The readings that a clip is put together from, in their order."""

    chosen: list[Chosen] = Field(min_length=1, max_length=1_000)


class TakeChange(Schema):
    """A star for a take, or none any more; another name. What is not given stays."""

    starred: bool | None = None
    name: SomeText | None = Field(default=None, max_length=200)


class Room(Schema):
    """How much can still be recorded."""

    bytes: int
    """Left on the server's disk, and of the largest file."""


def script_out(script: Script) -> ScriptOut:
    """A script as the page takes it."""
    lines, takes = script.lines, takes_of(script)
    jobs = latest_jobs(each.recording_id for each in takes)
    return ScriptOut(
        id=script.pk,
        version=script.version,
        title=script.title,
        text=script.text,
        kind=script.kind,
        show=script.show_id,
        pace=script.pace,
        seconds=seconds_of(len(lines.words), script.pace),
        right_to_left=lines.right_to_left,
        lines=[LineOut(text=each.text, part=each.part, words=len(words_of(each.text))) for each in lines.lines],
        takes=[_take_out(each, jobs.get(each.recording_id, [])) for each in takes],
    )


def _take_out(take: Take, jobs: Sequence[Job]) -> TakeOut:
    row = take.recording
    return TakeOut(
        id=row.pk,
        number=take.number,
        name=row.title,
        line=take.line,
        starred=take.starred,
        duration=row.media.duration if row.media else 0.0,
        playable=row.playable,
        ready=row.words_ready,
        jobs=[JobOut.from_orm(job) for job in jobs],
    )


def _find(request: HttpRequest, script_id: uuid.UUID) -> Script:
    return find(request, Script.objects.select_related("show"), pk=script_id)


def _show(request: HttpRequest, show_id: uuid.UUID | None) -> Show | None:
    return find(request, Show.objects.all(), pk=show_id) if show_id else None


@router.get("", response=list[ListedScript])
def list_scripts(request: HttpRequest) -> list[ListedScript]:
    """The scripts of the workspace, the last changed first."""
    rows = visible_to(request, Script.objects.annotate(count=Count("takes", filter=Q(takes__recording__voiced=False))))
    return [
        ListedScript(
            id=each.pk, title=each.title, words=len(words_of(each.text)), takes=each.count, changed=each.changed
        )
        for each in rows
        if each.count or not each.drafted
    ]


@router.post("", response=ScriptOut)
def write_script(request: HttpRequest, given: NewScript) -> ScriptOut:
    """Begin a script."""
    script_of(given.text, given.kind)
    row = Script.objects.create(
        workspace=workspace_of(request),
        title=given.title.strip() or _UNTITLED,
        text=given.text,
        kind=given.kind,
        show=_show(request, given.show),
    )
    return script_out(row)


@router.post("/file", response=TextOut)
def read_file(request: HttpRequest, file: File[UploadedFile]) -> TextOut:
    """The text of a TXT, MD or DOCX file."""
    name = file.name or ""
    text = text_apart(file.read(LARGEST + 1), name)
    script_of(text, "flowing")
    return TextOut(title=PurePath(name).stem[:200], text=text)


@router.get("/room", response=Room)
def read_room(request: HttpRequest) -> Room:
    """How much can still be recorded."""
    return Room(bytes=max(min(room(), settings.UPLOAD_BYTES), 0))


@router.get("/{script_id}", response=ScriptOut)
def read_script(request: HttpRequest, script_id: uuid.UUID) -> ScriptOut:
    """One script."""
    return script_out(_find(request, script_id))


@router.patch("/{script_id}", response=ScriptOut)
def change_script(request: HttpRequest, script_id: uuid.UUID, given: ScriptChange) -> ScriptOut:
    """Change a script; 409 when somebody else has in the meantime."""
    row = _find(request, script_id)
    values = given.model_dump(exclude_unset=True, exclude={"version"})
    script_of(values.get("text", row.text), values.get("kind", row.kind))
    if "show" in values:
        values["show"] = _show(request, given.show)
    change_row(row, given.version, **values)
    row.save(update_fields=["changed"])
    return script_out(row)


@router.delete("/{script_id}", response={204: None})
def delete_script(request: HttpRequest, script_id: uuid.UUID) -> HttpResponse:
    """Delete a script. Its takes stay, as recordings."""
    _find(request, script_id).delete()
    return HttpResponse(status=204)


@router.post("/{script_id}/pace", response=ScriptOut)
def read_through(request: HttpRequest, script_id: uuid.UUID, given: ReadThrough) -> ScriptOut:
    """Take the pace at which it was read through."""
    row = _find(request, script_id)
    change_row(row, row.version, pace=pace_of(given.words, given.seconds))
    return script_out(row)


@router.post("/{script_id}/follow", response=Followed)
def follow_voice(request: HttpRequest, script_id: uuid.UUID, word: int) -> Followed:
    """Where one is who was before ``word`` and is heard in the body: seconds of 16 kHz mono sound, 16 bits, little-endian."""
    return followed(_find(request, script_id), max(word, 0), request.body)


@router.get("/{script_id}/beside", response=Beside)
def beside(request: HttpRequest, script_id: uuid.UUID) -> Beside:
    """What was said in all takes, beside the script, and which reading of each line is suggested."""
    script = _find(request, script_id)
    takes = takes_of(script)
    read = sorted(read_in(script, takes), key=lambda each: each.reading.line)
    chosen = best(len(script.lines.lines), read)
    return Beside(
        readings=[
            ReadingOut(
                take=uuid.UUID(each.take),
                reading=each.reading,
                against=round(cost(each), 2),
                looks_away=looks_away(each),
            )
            for each in read
        ],
        suggested=[read.index(chosen[n]) if n in chosen else -1 for n in range(len(script.lines.lines))],
        waits=sum(not each.recording.words_ready for each in takes),
    )


@router.post("/{script_id}/clip", response=DocumentOut)
def put_together(request: HttpRequest, script_id: uuid.UUID, given: ClipOfTakes) -> DocumentOut:
    """Make a clip of readings, one after the other; those that follow one another in a recording are one piece."""
    script = _find(request, script_id)
    takes = takes_of(script)
    rows = {each.recording_id: each.recording for each in takes}
    known = {(uuid.UUID(each.take), each.reading.first, each.reading.last): each for each in read_in(script, takes)}
    try:
        read = [known[each.take, each.first, each.last] for each in given.chosen]
    except KeyError:
        raise Problem(409, "The takes or their words have changed meanwhile. Look at them again.") from None
    stretches = [WordsOf(rows[uuid.UUID(each.take)], each.first, each.last) for each in in_one_go(read)]
    clip = make_dressed_clip_of(stretches, request.user.pk, title=script.title)
    return document_out(opened(clip), request.user.pk)


@router.patch("/takes/{recording_id}", response=TakeOut)
def change_take(request: HttpRequest, recording_id: uuid.UUID, given: TakeChange) -> TakeOut:
    """Give a take a star, or another name."""
    mine = Take.objects.filter(script__workspace=workspace_of(request), recording=recording_id)
    take = mine.select_related("recording").first()
    if take is None:
        raise Problem(404, "That take does not exist, or it has been deleted.")
    if given.starred is not None:
        take.starred = given.starred
        take.save(update_fields=["starred"])
    if given.name:
        change_row(take.recording, take.recording.version, title=given.name)
    return _take_out(take, latest_jobs([take.recording_id]).get(take.recording_id, []))
