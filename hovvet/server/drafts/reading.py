"""What is read of a draft: by a voice, or by people to a camera."""

import uuid
from collections.abc import Sequence
from typing import NamedTuple

from django.db import transaction
from django.db.models import F

from hovvet.core.draft.choosing import BETWEEN
from hovvet.core.engines.narrator import LONGEST, Narrator
from hovvet.core.media.checked import check_wav, published
from hovvet.core.plan.model import Spoken, spoken
from hovvet.core.render.in_a_row import in_a_row
from hovvet.core.render.speaking import speak
from hovvet.core.script.beside import readings
from hovvet.core.script.choosing import ReadIn, best
from hovvet.core.script.lines import Script as Lines
from hovvet.server.documents.prepared_sounds import prepared_folder
from hovvet.server.documents.sources import as_uuid
from hovvet.server.documents.transcripts import transcript_of
from hovvet.server.drafts.models import Draft
from hovvet.server.drafts.progress import READ_ALOUD
from hovvet.server.jobs.running import Report, handles, start_job
from hovvet.server.recordings.describing import describe_words
from hovvet.server.recordings.models import Recording
from hovvet.server.recordings.preparing import PREPARE
from hovvet.server.scripts.comparing import read_aloud, takes_of
from hovvet.server.scripts.looking import looks_of
from hovvet.server.scripts.models import Script, Take


class Then(NamedTuple):
    """A job that is begun when something has been read: it is told of the recording, and what else it ``wants``."""

    kind: str
    target: uuid.UUID
    wants: dict[str, object]


def begin_reading(script: Script, texts: Sequence[str], narrator: Narrator, pace: float, then: Then) -> Recording:
    """Have a voice read texts, as another take of a script, and ``then`` go on with it."""
    for take in read_aloud(script):  # what came to nothing
        if not take.recording.words_ready:
            take.recording.delete()
    sentences = [spoken(text[:LONGEST], narrator, pace) for text in texts]
    with transaction.atomic():
        recording = Recording(
            workspace=script.workspace,
            show=script.show,
            title=f"{script.title}, read aloud"[:200],
            file_name="read-aloud.wav",
            voiced=True,
        )
        recording.folder.mkdir(parents=True, exist_ok=True)
        recording.save()
        Script.objects.filter(pk=script.pk).update(highest=F("highest") + 1)
        script.refresh_from_db(fields=["highest"])
        Take.objects.create(script=script, recording=recording, number=script.highest)
        start_job(
            script.workspace,
            READ_ALOUD,
            recording.pk,
            sentences=[each.model_dump(mode="json") for each in sentences],
            then={
                "kind": then.kind,
                "target": str(then.target),
                "wanted": then.wants | {"recording": str(recording.pk)},
            },
        )
    return recording


@handles(READ_ALOUD, priority=26)
def read_sentences(report: Report) -> None:
    """Speak the sentences, put them in a row, and have that prepared as a recording whose words are known."""
    recording = Recording.objects.select_related("workspace").get(pk=report.target)
    wanted = [Spoken.model_validate(each) for each in report.job.wanted["sentences"]]
    folder = prepared_folder(recording.workspace)
    folder.mkdir(parents=True, exist_ok=True)
    report.stage("Speaking", 0, 1)
    speak(wanted, folder, report)
    with published(recording.original, check_wav) as part:
        transcript = in_a_row(wanted, folder, part, BETWEEN)
    then = report.job.wanted["then"]
    with transaction.atomic():
        Recording.objects.filter(pk=recording.pk).update(
            transcript_json=transcript.model_dump(mode="json"), size=recording.original.stat().st_size
        )
        describe_words(recording, transcript)
        prepared = start_job(recording.workspace, PREPARE, recording.pk)
        start_job(recording.workspace, then["kind"], uuid.UUID(then["target"]), after=prepared, **then["wanted"])


def read_by_people(draft: Draft) -> dict[int, ReadIn]:
    """The best reading of each sentence that is said, in the takes that people recorded; those left out of which there is none."""
    if draft.script is None:
        return {}
    lines = draft.lines
    found: list[ReadIn] = []
    for take in takes_of(draft.script):
        if not (take.recording.words_ready and take.recording.playable):
            continue
        looks = looks_of(take)
        for reading in readings(lines, transcript_of(take.recording)):
            part = looks.part(reading.start, reading.end) if looks else None
            found.append(ReadIn(take=str(take.recording_id), reading=reading, starred=take.starred, looks=part))
    return best(len(lines.lines), found)


def recording_of(key: str) -> Recording | None:
    """What a voice read, by its id."""
    pk = as_uuid(key)
    return Recording.objects.filter(pk=pk, voiced=True).first() if pk else None


def read_by_voice(lines: Lines, recording: Recording) -> dict[int, ReadIn]:
    """Where each line is in what a voice read."""
    found = [ReadIn(take=str(recording.pk), reading=each) for each in readings(lines, transcript_of(recording))]
    return best(len(lines.lines), found)
