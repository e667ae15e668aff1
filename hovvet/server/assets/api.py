"""The assets of a workspace over HTTP."""

import uuid
from typing import Annotated, Literal

from django.db import transaction
from django.http import HttpRequest, HttpResponse, HttpResponseBase
from ninja import File, Query, Router
from ninja.files import UploadedFile
from pydantic import Field

from hovvet.core.engines.meaning import vectors
from hovvet.core.shelf.licence import SORTS, Licence, LicenceChange
from hovvet.core.shelf.tagging import tags_for
from hovvet.core.shelf.traits import length_of, shape_of
from hovvet.core.text import SomeText
from hovvet.server.accounts.access import find, visible_to, workspace_of
from hovvet.server.assets.bringing import bring_in
from hovvet.server.assets.from_stock import FETCH, fetch_again, take_link, take_part
from hovvet.server.assets.models import PREPARED, Asset
from hovvet.server.assets.searching import matching
from hovvet.server.changing import change_row
from hovvet.server.jobs.api import JobOut
from hovvet.server.jobs.models import Job
from hovvet.server.ranges import ranged_file
from hovvet.server.recordings.models import Recording
from hovvet.server.recordings.preparing import PREPARE
from hovvet.server.schema import Schema
from hovvet.server.stock.stand_in import LIBRARY
from hovvet.server.turns import takes_turns

router = Router(tags=["assets"])

_TYPES = {
    Asset.Kind.FONT: "font/sfnt",
    Asset.Kind.TABLE: "application/octet-stream",
    Asset.Kind.PICTURE: "image/png",
    Asset.Kind.STICKER: "image/png",
}
Tag = Annotated[SomeText, Field(min_length=1, max_length=40)]


class AssetOut(Schema):
    """Something on the Shelf."""

    id: uuid.UUID
    key: str
    """What names it in clips."""
    version: int
    """Of what a person can change of it; a change names the one it is made on."""
    kind: Asset.Kind
    name: str
    licence: str
    """What it is called."""
    tags: list[str]
    terms: Licence
    """In full."""
    told: str
    """What they ask for, in a few words."""
    refusal: str
    """Why it may not be used; "" where it may."""
    favourite: bool
    traits: dict[str, list[str]]
    """What it can be told apart by, in words: "Shape": ["wide"]."""
    width: int
    """Pixels; 0 for a sound."""
    height: int
    """Pixels; 0 for a sound."""
    seconds: float | None
    """The length of a film or sound; None for a picture."""
    moves: bool
    """A sticker that moves is a strip of frames."""
    ready: bool
    """Whether it is seen. It can be laid over words before."""
    job: JobOut | None
    """The newest that prepares it."""


class PartOf(Schema):
    """Seconds of a recording, and what they are to be called."""

    recording: uuid.UUID
    start: float = Field(ge=0)
    end: float = Field(gt=0)
    name: SomeText = Field(min_length=1, max_length=80)


class LinkTo(Schema):
    """A link, and what it leads to."""

    link: str = Field(min_length=1, max_length=2000)
    kind: Literal["video", "sound", "picture", "sticker"]


class AssetChange(Schema):
    """What is not given stays. ``version`` is what it is made on."""

    version: int
    name: SomeText | None = Field(default=None, min_length=1, max_length=80)
    tags: list[Tag] | None = Field(default=None, max_length=30)
    terms: LicenceChange | None = None
    favourite: bool | None = None


def asset_out(asset: Asset, job: Job | None = None) -> AssetOut:
    """An asset as the page takes it, with the job that prepares it."""
    media = asset.recording.media if asset.recording else None
    width, height = (media.width, media.height) if media else asset.size
    return AssetOut(
        id=asset.pk,
        key=asset.key,
        version=asset.version,
        kind=Asset.Kind(asset.kind),
        name=asset.name,
        licence=asset.licence,
        tags=asset.tags,
        terms=asset.terms,
        told=asset.terms.told,
        refusal=asset.refusal,
        favourite=asset.favourite,
        traits=_traits(asset, width, height, media.duration if media else None),
        width=width,
        height=height,
        seconds=media.duration if media else None,
        moves=asset.strip.frames > 1,
        ready=asset.ready,
        job=JobOut.from_orm(job) if job else None,
    )


def _traits(asset: Asset, width: int, height: int, seconds: float | None) -> dict[str, list[str]]:
    people = asset.info_json.get("people")
    told = {
        "Shape": [shape_of(width, height)] if width and height else [],
        "Length": [length_of(seconds)] if seconds is not None else [],
        "Colour": asset.info_json.get("colours", []),
        "Licence": [SORTS[asset.terms.sort]],
        "People": [] if people is None else ["with people" if people else "nobody"],
    }
    return {name: values for name, values in told.items() if values}


@router.get("", response=list[AssetOut])
def list_assets(
    request: HttpRequest,
    kind: Annotated[list[Asset.Kind], Query(min_length=1, max_length=8)],
    text: Annotated[str, Query(max_length=200)] = "",
) -> list[AssetOut]:
    """The assets of some kinds, oldest first; with a text, those that answer it, by their words or by what they mean, best
    first."""
    own = visible_to(request, Asset.objects.filter(kind__in=kind)).select_related("recording")
    assets = matching(list(own), text)
    targets = [asset.recording_id for asset in assets if asset.recording_id]
    targets += [asset.pk for asset in assets if asset.link]
    jobs: dict[uuid.UUID, Job] = {}
    for job in Job.objects.filter(target__in=targets, kind__in=(PREPARE, FETCH)):
        jobs.setdefault(job.target, job)
    return [asset_out(asset, jobs.get(asset.recording_id or asset.pk)) for asset in assets]


@router.post("", response=AssetOut)
@takes_turns()
def bring_in_asset(request: HttpRequest, kind: Asset.Kind, file: File[UploadedFile]) -> AssetOut:
    """Bring in a font (TTF, OTF, WOFF, WOFF2), a table of colours (.cube), a picture (PNG, JPEG, WebP), or a logo or
    sticker (PNG, WebP, SVG). It is checked and written anew; the same file twice is one asset. Videos are uploaded like
    recordings, with ``shelf yes`` in their metadata."""
    return asset_out(bring_in(workspace_of(request), kind, file.name or "", file.read))


@router.post("/links", response=AssetOut)
def fetch_asset(request: HttpRequest, given: LinkTo) -> AssetOut:
    """Bring in what a link leads to. It is fetched by a job."""
    return asset_out(take_link(workspace_of(request), Asset.Kind(given.kind), given.link.strip()))


@router.post("/{asset_id}/fetch", response={204: None})
def fetch_asset_again(request: HttpRequest, asset_id: uuid.UUID) -> HttpResponse:
    """Try once more to fetch a picture or a sticker from its link."""
    fetch_again(find(request, Asset.objects.all(), pk=asset_id))
    return HttpResponse(status=204)


@router.get("/{asset_id}/tags", response=list[str])
def suggest_tags(request: HttpRequest, asset_id: uuid.UUID) -> list[str]:
    """Tags that an asset could have besides its own, best first."""
    asset = find(request, Asset.objects.all(), pk=asset_id)
    others = Asset.objects.filter(workspace=asset.workspace_id).exclude(pk=asset.pk).values_list("tags", flat=True)
    known = [tag for tags in (*others, *(item.tags for item in LIBRARY.search("", None))) for tag in tags]
    return tags_for(asset.name, asset.tags, known, vectors)


@router.post("/parts", response=AssetOut)
def keep_part(request: HttpRequest, given: PartOf) -> AssetOut:
    """Keep a part of a recording on the Shelf, to be laid over words elsewhere. It is cut by a job."""
    recording = find(request, Recording.objects.all(), pk=given.recording)
    return asset_out(take_part(recording, given.start, given.end, given.name))


@router.patch("/{asset_id}", response=AssetOut)
def change_asset(request: HttpRequest, asset_id: uuid.UUID, given: AssetChange) -> AssetOut:
    """Give an asset another name, other tags or terms, or make it a favourite."""
    asset = find(request, Asset.objects.select_related("recording"), pk=asset_id)
    values = given.model_dump(exclude={"version", "terms"}, exclude_none=True)
    if given.terms is not None:
        values["terms_json"] = given.terms.of(asset.terms).model_dump(mode="json")
    with transaction.atomic():
        change_row(asset, given.version, **values)
        asset.save(update_fields=["meaning"])
        if asset.recording and given.name is not None:
            Recording.objects.filter(pk=asset.recording.pk).update(title=given.name)
    return asset_out(asset)


@router.delete("/{asset_id}", response={204: None})
def delete_asset(request: HttpRequest, asset_id: uuid.UUID) -> HttpResponse:
    """Delete an asset and its files. Clips that use it take what is usual in its place, or leave it out, and say so."""
    asset = find(request, Asset.objects.select_related("recording"), pk=asset_id)
    (asset.recording or asset).delete()
    return HttpResponse(status=204)


@router.get("/{asset_id}/file", response={200: None}, include_in_schema=False)
def read_asset(request: HttpRequest, asset_id: uuid.UUID) -> HttpResponseBase:
    """The file itself."""
    row = find(request, Asset.objects.exclude(kind__in=PREPARED), pk=asset_id)
    return ranged_file(request, row.file, _TYPES[Asset.Kind(row.kind)])
