"""How loud recordings are heard: measured by the job that prepares them, or in the background where an earlier release
prepared them."""

from functools import lru_cache
from pathlib import Path

from hovvet.core.media.checked import published
from hovvet.core.media.info import MediaInfo
from hovvet.core.sound.beats import Beats, beats_of
from hovvet.core.sound.energy import Energy, energy_of, integrated, open_energy, write_energy
from hovvet.server.jobs.running import Report, handles, start_unasked
from hovvet.server.recordings.models import Recording

MEASURE = "measure"


def measured(recording: Recording, media: MediaInfo, file: Path) -> float | None:
    """Measure a recording by its file, unless that is done, and what stands on the Shelf for its beats; its loudness in LUFS."""
    if recording.for_shelf and not recording.beats.exists():
        with published(recording.beats) as part:
            part.write_text(beats_of(file, media.duration).model_dump_json())
    if not recording.energy.exists():
        with published(recording.energy) as part:
            write_energy(energy_of(file, media.channels, media.duration), part)
    return integrated(open_energy(recording.energy).power)


def measure_soon(recording: Recording) -> bool:
    """Have a prepared recording measured where that is still to be done; whether it is being done."""
    media = recording.media
    known = recording.energy.exists() and (recording.beats.exists() or not recording.for_shelf)
    if known or media is None or not media.has_sound or not recording.working.exists():
        return False
    return start_unasked(recording.workspace, MEASURE, recording.pk)


@handles(MEASURE, priority=-4, part="in the background")
def measure(report: Report) -> None:
    """Measure the original."""
    recording = Recording.objects.get(pk=report.target)
    report.stage("Measuring the loudness", 0, 1)
    if recording.media:
        measured(recording, recording.media, recording.source_file)


def energy_known(recording: Recording) -> Energy | None:
    """How loud a recording is heard; None before it was measured."""
    file = recording.energy
    return _opened(file) if file.exists() else None


@lru_cache(maxsize=32)
def _opened(file: Path) -> Energy:
    return open_energy(file)


def beats_known(recording: Recording) -> Beats | None:
    """The beats of music; None before they were looked for."""
    file = recording.beats
    return _read(file) if file.exists() else None


@lru_cache(maxsize=32)
def _read(file: Path) -> Beats:
    return Beats.model_validate_json(file.read_bytes())
