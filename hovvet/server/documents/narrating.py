"""Sentences that are read for the clips of a workspace: spoken in the background, once for all clips that have them."""

import os
from collections.abc import Sequence
from contextlib import suppress
from functools import lru_cache
from pathlib import Path

from hovvet.core.compile.source import Source
from hovvet.core.plan.model import Spoken
from hovvet.core.render.speaking import is_spoken, sound_file, speak, spoken_source
from hovvet.server.documents.models import Document
from hovvet.server.documents.prepared_sounds import prepared_folder
from hovvet.server.jobs.making import Making
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import Report, handles, start_job

SPEAK = "speak"
_SPEAKS, _FAILED = (
    "The narration is being spoken.",
    "The narration could not be spoken: {} Change it, or press Speak again.",
)


def narrated(document: Document, wanted: Sequence[Spoken]) -> tuple[dict[str, Source], Making]:
    """Sentences of a document as sources, of those that are spoken already; what a person has to know of the others."""
    folder = prepared_folder(document.workspace)
    there = {each.media: _source(folder, each.media) for each in wanted if is_spoken(folder, each.media)}
    for media in there:
        with suppress(OSError):
            os.utime(sound_file(folder, media))  # it is in use
    missing = [each for each in wanted if each.media not in there]
    return there, speak_soon(document, missing) if missing else Making()


def speak_soon(document: Document, missing: Sequence[Spoken], again: bool = False) -> Making:
    """Have sentences spoken; where that failed, only ``again``, or others. What a person has to know of it."""
    asked = [each.model_dump(mode="json") for each in missing]
    last = Job.objects.filter(kind=SPEAK, target=document.pk).first()
    stopped = last is not None and last.state in (Job.State.FAILED, Job.State.CANCELLED)
    if last and stopped and not again and last.wanted.get("sentences") == asked:
        return Making(_FAILED.format(last.error or "it was stopped."))
    start_job(document.workspace, SPEAK, document.pk, sentences=asked)
    return Making(_SPEAKS, comes=True)


@lru_cache(maxsize=512)
def _source(folder: Path, media: str) -> Source:
    return spoken_source(folder, media)


@handles(SPEAK, priority=25)
def speak_sentences(report: Report) -> None:
    """Speak what is missing; who had asked for less when this began asks again."""
    document = Document.objects.select_related("workspace").get(pk=report.target)
    folder = prepared_folder(document.workspace)
    folder.mkdir(parents=True, exist_ok=True)
    report.stage("Speaking", 0, 1)
    speak([Spoken.model_validate(each) for each in report.job.wanted["sentences"]], folder, report)
