"""Passages of a recording over HTTP."""

import uuid

from django.http import HttpRequest
from ninja import Field, Router

from hovvet.core.passages.chapters import MOST, Chapter
from hovvet.core.passages.judgements import leanings
from hovvet.core.passages.reasons import Reason
from hovvet.core.passages.sentences import sentences
from hovvet.core.passages.stepping import Step
from hovvet.core.words.transcript import plain_text
from hovvet.server.accounts.access import find
from hovvet.server.changing import change_row
from hovvet.server.documents.transcripts import transcript_of
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import start_job
from hovvet.server.passages.finding import PASSAGES, hide_passage, longest_of, make_clips, step_passage
from hovvet.server.passages.models import FoundPassage
from hovvet.server.problems import Problem
from hovvet.server.recordings.models import Recording
from hovvet.server.schema import Schema

router = Router(tags=["passages"])
State = FoundPassage.State
_NEAR = 10.0  # seconds within which a chapter that is offered is one that was named


class PassageOut(Schema):
    """A passage: ids of its words, its stretch of the recording and the ``seconds`` that are left after a sweep, the sentence it
    begins with."""

    id: uuid.UUID
    version: int
    first: int
    last: int
    start: float
    end: float
    seconds: float
    line: str
    strength: str
    reasons: list[Reason]
    warnings: list[str]
    titles: list[str]
    state: State


class PassagesOut(Schema):
    """The passages of a recording, best first, and what one may last. ``state`` of the job that looks for them: None before it
    was begun. ``english``: whether the language is one that they are found in. ``shifted``: whether a person's own choices
    have a part in what is shown."""

    passages: list[PassageOut]
    longest: float
    state: Job.State | None
    english: bool
    shifted: bool


class PassageChange(Schema):
    """A sentence more or less, or whether it is hidden; ``version`` is what it is made on."""

    version: int
    step: Step | None = None
    hidden: bool | None = None


class ClipsOf(Schema):
    """The passages that clips are to be made of."""

    passages: list[uuid.UUID] = Field(min_length=1, max_length=50)


class MadeOut(Schema):
    """A clip that was made."""

    id: uuid.UUID
    title: str


def _recording(request: HttpRequest, pk: uuid.UUID) -> Recording:
    return find(
        request,
        Recording.objects.select_related("show", "workspace").filter(for_shelf=False, camera_only=False, voiced=False),
        pk=pk,
    )


def _passages(recording: Recording) -> list[PassageOut]:
    rows = list(recording.passages.all())
    if not rows:
        return []
    transcript = transcript_of(recording)
    words, place = transcript.words, transcript.position
    made = []
    for row in rows:
        if row.first not in place or row.last not in place:
            continue  # its words were corrected away
        said = sentences(words[place[row.first] : place[row.last] + 1])
        made.append(
            PassageOut(
                id=row.pk,
                version=row.version,
                first=row.first,
                last=row.last,
                start=row.start,
                end=row.end,
                seconds=row.seconds,
                line=said[0].text if said else plain_text(words[place[row.first] : place[row.first] + 1]),
                strength=row.strength,
                reasons=row.reasons_json,
                warnings=row.warnings_json,
                titles=row.titles_json,
                state=State(row.state),
            )
        )
    return made


def _out(recording: Recording) -> PassagesOut:
    job = Job.objects.filter(kind=PASSAGES, target=recording.pk).first()
    return PassagesOut(
        passages=_passages(recording),
        longest=longest_of(recording),
        state=Job.State(job.state) if job else None,
        english=recording.language == "en",
        shifted=any(leanings(recording.defaults.judged).values()),
    )


@router.get("/{recording_id}/passages", response=PassagesOut)
def list_passages(request: HttpRequest, recording_id: uuid.UUID) -> PassagesOut:
    """What of a recording is worth sharing, as far as it was found; made and hidden ones too."""
    return _out(_recording(request, recording_id))


@router.post("/{recording_id}/passages", response=PassagesOut)
def look_for_passages(request: HttpRequest, recording_id: uuid.UUID) -> PassagesOut:
    """Look for passages (again): those that wait are found anew, by the words and choices as they are now."""
    recording = _recording(request, recording_id)
    if not recording.words_ready:
        raise Problem(409, "Its words are still being found. Passages are looked for when all are there.")
    start_job(recording.workspace, PASSAGES, recording.pk)
    return _out(recording)


@router.post("/{recording_id}/passages/clips", response=list[MadeOut])
def make_clips_of(request: HttpRequest, recording_id: uuid.UUID, given: ClipsOf) -> list[MadeOut]:
    """Make a clip of each passage, swept and dressed as its show has it; all of them or none."""
    rows = _rows(_recording(request, recording_id), given.passages)
    return [MadeOut(id=clip.pk, title=clip.title) for clip in make_clips(rows, request.user.pk)]


@router.delete("/{recording_id}/passages/choices", response=PassagesOut)
def forget_choices(request: HttpRequest, recording_id: uuid.UUID) -> PassagesOut:
    """Forget which passages of its show were kept and hidden: they are weighed as at first."""
    recording = _recording(request, recording_id)
    recording.defaults.change_judged(lambda _: {})
    return _out(recording)


class ChaptersOut(Schema):
    """The chapters of a recording as a person named them, and seconds at which there could be more; ``version`` is the
    recording's."""

    version: int
    chapters: list[Chapter]
    offered: list[float]


class ChaptersWanted(Schema):
    """All chapters, in any order; ``version`` is what they are made on."""

    version: int
    chapters: list[Chapter] = Field(max_length=MOST)


@router.get("/{recording_id}/chapters", response=ChaptersOut)
def list_chapters(request: HttpRequest, recording_id: uuid.UUID) -> ChaptersOut:
    """The chapters of a recording, and where there could be more."""
    return _chapters(_recording(request, recording_id))


@router.put("/{recording_id}/chapters", response=ChaptersOut)
def set_chapters(request: HttpRequest, recording_id: uuid.UUID, given: ChaptersWanted) -> ChaptersOut:
    """Write down the chapters of a recording. They go into its words as TXT and VTT."""
    recording = _recording(request, recording_id)
    named = sorted((each for each in given.chapters if each.title.strip()), key=lambda each: each.start)
    change_row(recording, given.version, chapters_json=[each.model_dump() for each in named])
    return _chapters(recording)


def _chapters(recording: Recording) -> ChaptersOut:
    named = recording.chapters
    offered = [at for at in recording.chapter_times if all(abs(at - each.start) > _NEAR for each in named)]
    return ChaptersOut(version=recording.version, chapters=named, offered=offered)


@router.patch("/{recording_id}/passages/{passage_id}", response=PassagesOut)
def change_passage(
    request: HttpRequest, recording_id: uuid.UUID, passage_id: uuid.UUID, given: PassageChange
) -> PassagesOut:
    """Let a passage begin or end a sentence earlier or later, or hide it."""
    recording = _recording(request, recording_id)
    (row,) = _rows(recording, [passage_id])
    if given.step is not None:
        step_passage(row, given.version, given.step)
    elif given.hidden is not None:
        hide_passage(row, given.version, given.hidden)
    return _out(_recording(request, recording_id))


def _rows(recording: Recording, wanted: list[uuid.UUID]) -> list[FoundPassage]:
    """Passages of a recording, in the order asked for. Raises Problem for one that is not there."""
    rows = {row.pk: row for row in recording.passages.select_related("recording__show", "recording__workspace")}
    if any(pk not in rows for pk in wanted):
        raise Problem(404, "That passage is no longer there: they were looked for anew. Choose again.")
    return [rows[pk] for pk in dict.fromkeys(wanted)]
