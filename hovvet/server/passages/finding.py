"""Passages of a recording: looked for by a job, changed by a person, made into clips."""

import uuid
from collections.abc import Callable, Sequence

import numpy as np
from django.db import transaction
from django.db.models import Count, F
from django.dispatch import receiver

from hovvet.core.engines.meaning import Vectors, vectors
from hovvet.core.passages.after_sweep import after_sweep
from hovvet.core.passages.chapters import chapter_times
from hovvet.core.passages.features import features
from hovvet.core.passages.find import Passage, passages_of
from hovvet.core.passages.judgements import judged, leanings
from hovvet.core.passages.scoring import SHORTEST
from hovvet.core.passages.sentences import sentences
from hovvet.core.passages.stepping import Step, stepped
from hovvet.core.sheet.model import FIRST_EDITION
from hovvet.core.sweep.sweep import sweep, sweep_edit
from hovvet.server.changing import change_row
from hovvet.server.documents.changing import apply_edit
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import sheet_of
from hovvet.server.documents.outlets import outlets_of
from hovvet.server.documents.transcripts import silences_of, transcript_of
from hovvet.server.jobs.running import Report, handles, start_job
from hovvet.server.passages.models import FoundPassage
from hovvet.server.recordings.events import counted, words_found, words_given_up
from hovvet.server.recordings.models import Recording
from hovvet.server.styles.house import house_of_show, make_dressed_clip

PASSAGES = "passages"
State = FoundPassage.State
_TOGETHER = 32  # sentences that are understood between two looks at whether to stop


@receiver(words_found)
def find_soon(recording: Recording, **_: object) -> None:
    """Have them looked for."""
    start_job(recording.workspace, PASSAGES, recording.pk)


@receiver(words_given_up)
def forget(recording: Recording, **_: object) -> None:
    """Those of words that are gone."""
    FoundPassage.objects.filter(recording=recording).delete()


@receiver(counted)
def waiting_in(recordings: Sequence[Recording], **_: object) -> dict[uuid.UUID, int]:
    """How many passages of each recording wait to be looked at, where there are any."""
    waiting = FoundPassage.objects.filter(recording__in=recordings, state=State.WAITING).order_by()
    return dict(waiting.values_list("recording").annotate(count=Count("pk")))


@handles(PASSAGES, priority=-2, part="in the background")
def look(report: Report) -> None:
    """Look for what of a recording is worth sharing. What a person has made into a clip or hidden stays as it is."""
    recording = Recording.objects.select_related("show", "workspace").get(pk=report.target)
    report.stage("Looking for passages", 0, 1)
    if recording.language != "en":  # what is looked for are signs of English
        return
    transcript = transcript_of(recording)
    if transcript.duration < SHORTEST:
        return
    kept = after_sweep(transcript, silences_of(recording), recording.defaults.sweep)
    meaning = _understood(report, len(transcript.words))
    of = features(sentences(transcript.words), meaning, leanings(recording.defaults.judged))
    found = passages_of(transcript, of, meaning, longest_of(recording), kept)
    with transaction.atomic():
        times = [round(at, 2) for at in chapter_times(of, transcript.duration)]
        Recording.objects.filter(pk=recording.pk).update(chapter_times=times)
        recording.passages.filter(state=State.WAITING).delete()
        known = list(recording.passages.all())
        fresh = [each for each in found if not any(_same(each, other) for other in known)]
        FoundPassage.objects.bulk_create(
            _row(recording, place, each, kept(each.start, each.end)) for place, each in enumerate(fresh)
        )


def longest_of(recording: Recording) -> float:
    """Seconds that a passage may last: what the longest outlet takes that clips of its show are made for."""
    outlets = outlets_of(recording.workspace)
    house = house_of_show(recording.show) if recording.show else None
    editions = house.editions if house and house.editions else (FIRST_EDITION,)
    return max(outlets[each.outlet].longest for each in editions if each.outlet in outlets)


def _understood(report: Report, words: int) -> Callable[[Sequence[str]], Vectors]:
    """What texts mean, told of as it goes on."""
    done = 0

    def meaning(texts: Sequence[str]) -> Vectors:
        nonlocal done
        made = [vectors([])]
        for n in range(0, len(texts), _TOGETHER):
            report(min(done / max(words, 1), 0.99))
            some = texts[n : n + _TOGETHER]
            made.append(vectors(some))
            done += sum(len(text.split()) for text in some)
        return np.concatenate(made)

    return meaning


def _row(recording: Recording, place: int, of: Passage, seconds: float) -> FoundPassage:
    return FoundPassage(
        recording=recording,
        place=place,
        first=of.words[0],
        last=of.words[1],
        start=of.start,
        end=of.end,
        seconds=seconds,
        strength=of.strength,
        reasons_json=[each.model_dump() for each in of.reasons],
        warnings_json=list(of.warnings),
        titles_json=list(of.titles),
    )


def _same(found: Passage, known: FoundPassage) -> bool:
    """Whether half of the shorter one is in both."""
    both = min(found.end, known.end) - max(found.start, known.start)
    return 2 * both >= min(found.end - found.start, known.end - known.start)


def step_passage(row: FoundPassage, version: int, step: Step) -> None:
    """Make a passage longer or shorter by a sentence. Raises Problem, CoreError."""
    transcript = transcript_of(row.recording)
    first, last = stepped(transcript, row.first, row.last, step)
    words, place = transcript.words, transcript.position
    start, end = words[place[first]].start, words[place[last]].end
    kept = after_sweep(transcript, silences_of(row.recording), row.recording.defaults.sweep)
    change_row(row, version, first=first, last=last, start=start, end=end, seconds=kept(start, end))


def hide_passage(row: FoundPassage, version: int, hidden: bool) -> None:
    """Hide a passage, or show it again. That it was hidden is remembered with its show. Raises Problem."""
    change_row(row, version, state=State.HIDDEN if hidden else State.WAITING)
    if hidden:
        _remember(row, kept=False)


def _remember(row: FoundPassage, kept: bool) -> None:
    kinds = [each["kind"] for each in row.reasons_json]
    row.recording.defaults.change_judged(lambda choices: judged(choices, kinds, kept))


def make_clips(rows: Sequence[FoundPassage], author_id: int | None) -> list[Document]:
    """A clip of each passage, called as its best title says, dressed and swept as its show has it. All or none."""
    with transaction.atomic():
        return [_made(row, author_id) for row in rows]


def _made(row: FoundPassage, author_id: int | None) -> Document:
    recording = row.recording
    clip = make_dressed_clip(recording, row.first, row.last, author_id, title=row.titles_json[0][:200])
    transcript, settings = transcript_of(recording), recording.defaults.sweep
    finds = sweep(transcript, silences_of(recording), settings)
    piece = next(each for each in sheet_of(clip).pieces if each.recording is not None)
    clip = apply_edit(clip, clip.version, sweep_edit(piece, transcript, finds, settings), author_id).document
    FoundPassage.objects.filter(pk=row.pk).update(state=State.MADE, version=F("version") + 1)
    _remember(row, kept=True)
    return clip
