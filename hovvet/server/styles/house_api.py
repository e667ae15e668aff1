"""House styles over HTTP."""

import uuid

from django.http import HttpRequest, HttpResponse
from ninja import Field, File, Router
from ninja.files import UploadedFile

from hovvet.core.sheet.house_file import LARGEST
from hovvet.core.text import SomeText
from hovvet.core.value import Naming
from hovvet.server.accounts.access import find
from hovvet.server.documents.answers import Answer, DocumentOut, Newer, changed
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents
from hovvet.server.ranges import attachment
from hovvet.server.recordings.models import Show
from hovvet.server.schema import Schema
from hovvet.server.styles.house import changes_by, dress_clip, house_for_show, style_of, style_shown_by, wear_kept
from hovvet.server.styles.house_file import bring_in_house, house_file
from hovvet.server.styles.models import NamedSettings
from hovvet.server.styles.named_settings import find_kept, keep, kept_of
from hovvet.server.turns import takes_turns

router = Router(tags=["house"])
_EVERYBODYS: frozenset[str] = frozenset()  # there is none that everybody has


class HouseOut(Schema):
    """A house style of the workspace: its version, what there is of it, in words, what it calls files ("" for the usual),
    and the shows whose new clips are dressed in it."""

    key: str
    name: str
    version: int
    parts: list[str]
    naming: str
    shows: list[str]


class BroughtHouse(Schema):
    """A house style that came from a file, and what could not be brought along ("" for nothing)."""

    house: HouseOut
    told: str


class HouseFrom(Schema):
    """A clip that shows how a house style looks, the style's name, and the pattern for the names of files ("" for the
    usual)."""

    clip: uuid.UUID
    name: SomeText = Field(min_length=1, max_length=60)
    naming: Naming = ""


class ForShow(Schema):
    """A clip of the show that is meant; whether its new clips are dressed."""

    clip: uuid.UUID
    on: bool = True


class ToDress(Schema):
    """A clip to be dressed, the version that it was asked on, and the edition that the page shows."""

    clip: uuid.UUID
    version: int
    edition: str | None = None


def _clip(request: HttpRequest, pk: uuid.UUID) -> Document:
    return find(request, documents().filter(kind=Document.Kind.CLIP), pk=pk)


def _out(row: NamedSettings) -> HouseOut:
    shows = Show.objects.filter(workspace=row.workspace_id, house=row.key).values_list("name", flat=True)
    style = style_of(row)
    return HouseOut(
        key=row.key, name=row.name, version=row.version, parts=style.told(), naming=style.naming, shows=list(shows)
    )


@router.get("", response=list[HouseOut])
def list_houses(request: HttpRequest) -> list[HouseOut]:
    """All house styles of the workspace, oldest first."""
    return [_out(row) for row in kept_of(request, NamedSettings.Kind.HOUSE).select_related("workspace")]


@router.post("", response=HouseOut)
def keep_house(request: HttpRequest, given: HouseFrom) -> HouseOut:
    """Keep how a clip looks as a house style. The clip wears it from then on."""
    return _keep(request, given)


@router.post("/file", response=BroughtHouse)
@takes_turns()
def bring_in_house_style(request: HttpRequest, file: File[UploadedFile]) -> BroughtHouse:
    """Keep a house style that was taken away elsewhere. What it needs is checked as all that is brought in."""
    row, told = bring_in_house(request, file.read(LARGEST + 1))
    return BroughtHouse(house=_out(row), told=told)


@router.put("/{key}", response=HouseOut)
def keep_house_as(request: HttpRequest, key: str, given: HouseFrom) -> HouseOut:
    """Let a house style be as a clip looks, which wears it from then on. Other clips that wear it stay as they are until they
    are dressed again."""
    return _keep(request, given, key)


def _keep(request: HttpRequest, given: HouseFrom, key: str = "") -> HouseOut:
    clip = _clip(request, given.clip)
    settings = style_shown_by(clip, given.naming).model_dump(mode="json")
    row = keep(request, NamedSettings.Kind.HOUSE, given.name, settings, _EVERYBODYS, key)
    wear_kept(clip, row, request.user.pk)
    return _out(row)


@router.get("/{key}/file", response={200: None}, include_in_schema=False)
@takes_turns()
def take_house_away(request: HttpRequest, key: str) -> HttpResponse:
    """A house style and what it needs, as one .zip file."""
    row = find_kept(request, NamedSettings.Kind.HOUSE, key)
    answer = HttpResponse(house_file(row), content_type="application/zip")
    answer["Content-Disposition"] = attachment(f"{row.name}.zip")
    return answer


@router.delete("/{key}", response={204: None})
def delete_house(request: HttpRequest, key: str) -> HttpResponse:
    """Delete a house style. Clips that were dressed in it stay as they are."""
    find_kept(request, NamedSettings.Kind.HOUSE, key).delete()
    return HttpResponse(status=204)


@router.get("/{key}/changes", response=list[str])
def changes_by_house(request: HttpRequest, key: str, clip: uuid.UUID) -> list[str]:
    """What dressing a clip in a house style would change in it. Nothing is changed."""
    return changes_by(_clip(request, clip), find_kept(request, NamedSettings.Kind.HOUSE, key))


@router.put("/{key}/show", response=HouseOut)
def house_of_show(request: HttpRequest, key: str, given: ForShow) -> HouseOut:
    """Dress new clips of a clip's show in a house style, or (``on`` false) no longer. Clips that are there stay as they are."""
    row = find_kept(request, NamedSettings.Kind.HOUSE, key)
    house_for_show(_clip(request, given.clip), row.key if given.on else "")
    return _out(row)


@router.post("/{key}/clips", response={200: DocumentOut, 409: Newer})
def dress_in_house(request: HttpRequest, key: str, given: ToDress) -> Answer:
    """Dress a clip in a house style, as one change. What a person has changed of it since stays as it is."""
    row, clip = find_kept(request, NamedSettings.Kind.HOUSE, key), _clip(request, given.clip)
    by, edition = request.user.pk, given.edition
    return changed(request, clip, lambda: dress_clip(clip, given.version, row, by, edition), edition)
