"""Other cameras and microphones of a recording over HTTP."""

import uuid

from django.http import HttpRequest, HttpResponse
from ninja import Field, Router

from hovvet.core.compile.angles import FARTHEST, LONGEST_NUDGE
from hovvet.core.media.alike import unlike
from hovvet.core.text import SomeText
from hovvet.core.words.heard_alike import are_alike
from hovvet.server.accounts.access import find, visible_to
from hovvet.server.changing import change_row
from hovvet.server.jobs.api import JobOut
from hovvet.server.jobs.models import latest_jobs
from hovvet.server.problems import Problem
from hovvet.server.recordings.models import Angle, Recording
from hovvet.server.recordings.stepping import angle_of, step_soon
from hovvet.server.schema import Schema

router = Router(tags=["recordings"])

_OFFERED = 5
_HEARD = 12  # those most alike from outside: whether they are of one talk is told by their words


class AngleOut(Schema):
    """Another camera or microphone of a recording."""

    number: int
    """2 and up: the recording itself is 1."""
    version: int
    name: str
    film: uuid.UUID
    """What it plays as."""
    has_picture: bool
    has_sound: bool
    playable: bool
    duration: float
    """Seconds."""
    offset: float | None
    """Second of the recording at which it begins, nudge included; None until it is in step."""
    drift: float
    """By which its clock is slower."""
    nudge: float
    """Seconds of that by hand."""
    told: str
    """Why it is not in step; "" where it is, or is being put there."""
    jobs: list[JobOut]


class OfferedAngle(Schema):
    """A recording that may be of the same talk."""

    id: uuid.UUID
    title: str
    duration: float
    heard: bool
    """Whether what is said in it is said in this one, at the same moments."""


class AngleWanted(Schema):
    """Which recording is another camera."""

    film: uuid.UUID


class AngleChange(Schema):
    """What is changed of a camera; what is not given stays. ``offset`` puts it in step by hand."""

    version: int
    name: SomeText | None = Field(default=None, max_length=120)
    nudge: float | None = Field(default=None, ge=-LONGEST_NUDGE, le=LONGEST_NUDGE)
    offset: float | None = Field(default=None, ge=-FARTHEST, le=FARTHEST)


def _talk(request: HttpRequest, recording_id: uuid.UUID) -> Recording:
    return find(request, Recording.objects.all(), pk=recording_id)


def _angle(talk: Recording, number: int) -> Angle:
    found = talk.angles.select_related("film").filter(number=number).first()
    if found is None:
        raise Problem(404, "That camera is no longer there.")
    return found


def _all(talk: Recording) -> list[AngleOut]:
    rows = list(talk.angles.select_related("film"))
    jobs = latest_jobs(each.film_id for each in rows)
    return [_out(each, [JobOut.from_orm(job) for job in jobs.get(each.film_id, [])]) for each in rows]


def _out(row: Angle, jobs: list[JobOut]) -> AngleOut:
    media = row.film.media
    return AngleOut(
        number=row.number,
        version=row.version,
        name=row.name,
        film=row.film_id,
        has_picture=bool(media and media.has_picture),
        has_sound=bool(media and media.has_sound),
        playable=row.film.playable,
        duration=media.duration if media else 0.0,
        offset=None if row.offset is None else row.offset + row.nudge,
        drift=row.drift,
        nudge=row.nudge,
        told=row.told,
        jobs=jobs,
    )


@router.get("/{recording_id}/angles", response=list[AngleOut])
def list_angles(request: HttpRequest, recording_id: uuid.UUID) -> list[AngleOut]:
    """The other cameras and microphones of a recording."""
    return _all(_talk(request, recording_id))


@router.get("/{recording_id}/angles/offered", response=list[OfferedAngle])
def offered(request: HttpRequest, recording_id: uuid.UUID) -> list[OfferedAngle]:
    """Recordings that may be of the same talk: by what is heard in them, then by name, by when they were brought in, by length."""
    talk = _talk(request, recording_id)
    own = talk.media.duration if talk.media else 0.0
    taken = set(talk.angles.values_list("film_id", flat=True))

    def far(other: Recording) -> float:
        length = other.media.duration if other.media else 0.0
        apart = abs((talk.created - other.created).total_seconds())
        return unlike((talk.file_name, other.file_name), apart, (own, length))

    rows = visible_to(
        request,
        Recording.objects.filter(for_shelf=False, camera_only=False, voiced=False)
        .exclude(pk=talk.pk)
        .exclude(pk__in=taken),
    )
    near = sorted(rows, key=far)[:_HEARD]
    said = _said(talk)
    heard = {each.pk: bool(said) and are_alike(said, _said(each)) for each in near}
    return [
        OfferedAngle(
            id=each.pk, title=each.title, duration=each.media.duration if each.media else 0.0, heard=heard[each.pk]
        )
        for each in sorted(near, key=lambda each: not heard[each.pk])[:_OFFERED]
    ]


def _said(recording: Recording) -> list[tuple[str, float]]:
    """What was heard in a recording, and when."""
    return [(word["text"], word["start"]) for word in (recording.transcript_json or {}).get("words", ())]


@router.post("/{recording_id}/angles", response=list[AngleOut])
def add(request: HttpRequest, recording_id: uuid.UUID, wanted: AngleWanted) -> list[AngleOut]:
    """Make a recording another camera of this one; it is put in step in the background."""
    talk = _talk(request, recording_id)
    angle_of(talk, _talk(request, wanted.film))
    return _all(talk)


@router.patch("/{recording_id}/angles/{number}", response=list[AngleOut])
def change_angle(request: HttpRequest, recording_id: uuid.UUID, number: int, given: AngleChange) -> list[AngleOut]:
    """Name a camera, nudge it, or put it in step by hand."""
    talk = _talk(request, recording_id)
    values = given.model_dump(exclude_unset=True, exclude={"version"})
    if values.get("offset") is not None:
        values |= {"told": "", "nudge": 0.0, "drift": 0.0}
    change_row(_angle(talk, number), given.version, **{key: each for key, each in values.items() if each is not None})
    return _all(talk)


@router.post("/{recording_id}/angles/{number}/step", response=list[AngleOut])
def step_again(request: HttpRequest, recording_id: uuid.UUID, number: int) -> list[AngleOut]:
    """Put a camera in step once more, by its sound."""
    talk = _talk(request, recording_id)
    row = _angle(talk, number)
    change_row(row, row.version, offset=None, drift=0.0, nudge=0.0, told="")
    step_soon(row.film)
    return _all(talk)


@router.delete("/{recording_id}/angles/{number}", response={204: None})
def take_away(request: HttpRequest, recording_id: uuid.UUID, number: int) -> HttpResponse:
    """Take a camera away. What was brought in as a camera alone is deleted with it; a recording of its own stays."""
    _angle(_talk(request, recording_id), number).delete()
    return HttpResponse(status=204)
