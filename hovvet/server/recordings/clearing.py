"""Clearer speech of recordings: made in the background, one file for each strength that is wanted."""

from collections.abc import Iterable, Iterator
from functools import lru_cache
from pathlib import Path

from django.db import transaction

from hovvet.core.media.checked import check_media, published
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.working import working_copy
from hovvet.core.render.clearing import write_clearer
from hovvet.core.sound.clearer import Strength, clearer_media, told_by
from hovvet.core.sound.energy import Energy, energy_of, integrated, open_energy, write_energy
from hovvet.core.value import with_changes
from hovvet.server.jobs.making import Making
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import Report, handles, start_job
from hovvet.server.recordings.models import Recording

CLEAR = "clear"
_MADE, _FAILED = (
    "The clearer speech of “{}” is being made. Until it is there, you hear it as it was recorded.",
    "The clearer speech of “{}” could not be made: {} You hear it as it was recorded.",
)


def clear_soon(recording: Recording, strengths: Iterable[Strength], again: bool = False) -> Making:
    """Have the speech of a recording made clearer, as often as it is wanted and not there yet (where that failed, only
    ``again``); what a person has to know of that."""
    missing = [
        each
        for each in strengths
        if each != "off" and clearer_media(str(recording.pk), each) not in recording.clearer_made
    ]
    if not missing or recording.media is None or not recording.media.has_sound:
        return Making()
    last = Job.objects.filter(kind=CLEAR, target=recording.pk).first()
    if (
        not again
        and last
        and last.state in (Job.State.FAILED, Job.State.CANCELLED)
        and last.wanted.get("strengths") == missing
    ):
        return Making(_FAILED.format(recording.title, last.error or "it was stopped."))
    start_job(recording.workspace, CLEAR, recording.pk, strengths=missing)
    return Making(_MADE.format(recording.title), comes=True)


@handles(CLEAR, priority=-6)
def clear(report: Report) -> None:
    """Make it, and what the page plays of it; then what it belongs to is compiled anew."""
    recording = Recording.objects.get(pk=report.target)
    media, wanted = recording.media, report.job.wanted["strengths"]
    if media is None:
        return
    for n, strength in enumerate(wanted):
        name = clearer_media(str(recording.pk), strength)
        heard, played, level = (recording.clearer_file(name, ending) for ending in ("flac", "m4a", "f32"))
        report.stage("Making the speech clearer", n / len(wanted), (n + 0.9) / len(wanted))
        if not heard.exists():
            with published(heard, lambda part: check_media(part, media.duration, False, True)) as part:
                write_clearer(recording.source_file, media, strength, part, report)
        with published(level) as part:
            write_energy(energy_of(heard, media.channels, media.duration), part)
        with published(played, lambda part: check_media(part, media.duration, False, True)) as part:
            working_copy(heard, _sound_of(media), part)
        _is_made(recording, name)


def _sound_of(media: MediaInfo) -> MediaInfo:
    return with_changes(media, has_picture=False)


def _is_made(recording: Recording, name: str) -> None:
    with transaction.atomic():
        row = Recording.objects.select_for_update().get(pk=recording.pk)
        made = [*(each for each in row.clearer_made if each != name), name]
        Recording.objects.filter(pk=recording.pk).update(clearer_made=made)


def clearer_of(recording: Recording) -> Iterator[tuple[str, MediaInfo, Energy]]:
    """The clearer sounds of a recording that are there: how plans call them, what they are, and how loud."""
    for name in recording.clearer_made:
        if recording.media and told_by(name):
            energy = _opened(recording.clearer_file(name, "f32"))
            yield name, with_changes(_sound_of(recording.media), lufs=integrated(energy.power)), energy


@lru_cache(maxsize=32)
def _opened(file: Path) -> Energy:
    return open_energy(file)
