"""Other cameras of a recording: added, and put in step by a job."""

from contextlib import suppress
from typing import Any

from django.db import IntegrityError, transaction
from django.db.models import F
from django.db.models.signals import post_delete

from hovvet.core.compile.angles import MOST
from hovvet.core.errors import CoreError
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.media.wav import wav_length
from hovvet.server.jobs.events import ended
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import Report, handles, start_job
from hovvet.server.problems import Problem
from hovvet.server.recordings.models import Angle, Recording, Upload

STEP = "step"
_PREPARE = "prepare"
_SILENT = "There is no sound in it, so it cannot be put in step by that. Say by hand by how much it begins later."


def add_angle(upload: Upload, film: Recording) -> None:
    """Make another camera of what was uploaded as one; where its recording is gone, or has enough, it stays an ordinary recording."""
    talk = (
        Recording.objects.filter(workspace=upload.workspace_id, pk=upload.angle_of).first() if upload.angle_of else None
    )
    if talk is None:
        return
    with suppress(Problem):
        angle_of(talk, film)
        film.camera_only = True
        film.save(update_fields=["camera_only"])


def angle_of(talk: Recording, film: Recording) -> Angle:
    """Make a film another camera of a talk, and begin to put it in step. Raises Problem."""
    if talk.pk == film.pk:
        raise Problem(409, "This is the recording itself.")
    taken = set(talk.angles.values_list("number", flat=True))
    number = next((each for each in range(2, MOST + 1) if each not in taken), None)
    if number is None:
        raise Problem(409, f"A talk has {MOST} cameras and microphones at most. Take one away first.")
    try:
        with transaction.atomic():
            made = Angle.objects.create(recording=talk, film=film, number=number, name=film.title[:120])
    except IntegrityError:
        raise Problem(409, "That is a camera of this talk already.") from None
    step_soon(film)
    return made


def step_soon(film: Recording) -> None:
    """Put a film in step with the talks that it is a camera of, once both have been prepared."""
    if film.playable and film.taken_of.filter(offset=None, told="").exists():
        start_job(film.workspace, STEP, film.pk)


def after_preparing(job: Job, **_: Any) -> None:
    """Begin once a film, or its talk, has been prepared."""
    if job.kind != _PREPARE:
        return
    for film in Recording.objects.filter(pk=job.target) | Recording.objects.filter(taken_of__recording=job.target):
        step_soon(film)


def take_along(instance: Angle, **_: Any) -> None:
    """What was brought in as a camera alone goes with the last talk that it is one of."""
    film = Recording.objects.filter(pk=instance.film_id, camera_only=True, taken_of=None).first()
    if film:
        film.delete()


post_delete.connect(take_along, sender=Angle, dispatch_uid="cameras go along")
ended.connect(after_preparing, dispatch_uid="put in step")


@handles(STEP, priority=5, part="in the background")
def put_in_step(report: Report) -> None:
    """Put a film in step with each talk that it is a camera of; what is not of the same talk is told."""
    report.stage("Putting the cameras in step", 0, 1)
    film = Recording.objects.get(pk=report.target)
    waiting = list(film.taken_of.filter(offset=None, told="").select_related("recording"))
    for n, angle in enumerate(waiting):
        if not angle.recording.playable:
            continue
        wavs = [each.folder / "speech.wav" for each in (angle.recording, film)]
        if not all(each.exists() for each in wavs):
            Angle.objects.filter(pk=angle.pk).update(told=_SILENT, version=F("version") + 1)
            continue
        first, second = (wav_length(each)[0] / SPEECH_RATE for each in wavs)
        try:
            from hovvet.core.sound.in_step import in_step_of  # here: slow to load, and seldom needed

            found = in_step_of(wavs[0], wavs[1], (first, second))
            Angle.objects.filter(pk=angle.pk).update(offset=found.offset, drift=found.drift, version=F("version") + 1)
        except CoreError as error:
            Angle.objects.filter(pk=angle.pk).update(told=str(error), version=F("version") + 1)
        report((n + 1) / len(waiting))
