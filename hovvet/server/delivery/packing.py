"""The job that packs what goes with clips into one .zip."""

import json
import uuid
from collections.abc import Iterator
from datetime import date, timedelta
from typing import Annotated

from django.utils import timezone
from pydantic import BaseModel, Field

from hovvet.core.errors import CoreError
from hovvet.core.formats.package import PARTS, Item, folder_of, pack
from hovvet.core.formats.subtitles import SUBTITLES, subtitles
from hovvet.core.media.checked import published
from hovvet.core.plan.outlets import outlet_name
from hovvet.core.sheet.model import Edition
from hovvet.server.accounts.models import Workspace
from hovvet.server.delivery.comparing import is_current
from hovvet.server.delivery.covers import cover_of, picture_of
from hovvet.server.delivery.made import ClipNow
from hovvet.server.delivery.models import Export, Package
from hovvet.server.delivery.naming import file_name
from hovvet.server.delivery.timelines import timeline_file
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents, opened
from hovvet.server.documents.stamps import stamps_of
from hovvet.server.jobs.running import Report, handles
from hovvet.server.posts.shelf_used import credits_of
from hovvet.server.posts.writing import text_of

PACK = "package"
MOST_CLIPS = 200
KEPT = timedelta(days=1)


class Packing(BaseModel):
    """Which clips, which of their editions (none: all), and which parts of each."""

    clips: Annotated[list[uuid.UUID], Field(min_length=1, max_length=MOST_CLIPS)]
    editions: Annotated[list[str], Field(max_length=100)] = []
    parts: Annotated[list[str], Field(min_length=1, max_length=len(PARTS))] = list(PARTS)
    pattern: Annotated[str, Field(max_length=200)] = ""


@handles(PACK, priority=-10)
def write_package(report: Report) -> None:
    """Pack what is there of each clip now; what is not there yet is told in the list."""
    row = Package.objects.select_related("workspace").get(pk=report.target)
    row.folder.mkdir(parents=True, exist_ok=True)
    wanted = Packing.model_validate(row.wanted_json)
    left_out: list[str] = []
    report.stage("Packing", 0, 1)
    with published(row.file, lasting=False) as part:
        pack(part, _items(row.workspace, wanted, left_out, report), left_out)
    Package.objects.filter(pk=row.pk).update(left_out_json=left_out)


def _items(workspace: Workspace, wanted: Packing, left_out: list[str], report: Report) -> Iterator[Item]:
    clips = {
        row.pk: row for row in documents().filter(workspace=workspace, pk__in=wanted.clips, kind=Document.Kind.CLIP)
    }
    alone, folders = len(wanted.clips) == 1, set[str]()
    for n, pk in enumerate(wanted.clips):
        report(n / len(wanted.clips))
        if pk not in clips:
            left_out.append("A clip was deleted.")
            continue
        folder = "" if alone else folder_of(clips[pk].title, folders)
        yield from _of_clip(clips[pk], wanted, folder, left_out)


def _of_clip(clip: Document, wanted: Packing, folder: str, left_out: list[str]) -> Iterator[Item]:
    now = ClipNow(clip)
    editions = [each for each in now.sheet.editions if not wanted.editions or each.id in wanted.editions]
    films = _newest(clip, now)
    for edition in editions:
        yield from _of_edition(clip, edition, wanted, films.get(edition.id), folder, left_out)
    if "sheet" in wanted.parts:
        told = {"title": clip.title, "sheet": now.sheet.model_dump(mode="json")}
        yield Item(f"{folder}sheet.json", json.dumps(told, indent=1, ensure_ascii=False).encode())


def _of_edition(
    clip: Document, edition: Edition, wanted: Packing, film: Export | None, folder: str, left_out: list[str]
) -> Iterator[Item]:
    now = opened(clip, edition.id)
    outlet = outlet_name(edition.outlet, now.kit.outlets)
    pattern = wanted.pattern or (now.sheet.house.naming if now.sheet.house else "")

    def named(kind: str, more: str = "") -> str:
        return folder + file_name(pattern, kind, f"{clip.title}{more}", outlet, now.plan.seconds, date.today())

    what = f"“{clip.title}” for {outlet}"
    if "film" in wanted.parts:
        if film is None:
            left_out.append(f"The film of {what}: it is not exported as the clip is now.")
        else:
            yield Item(named(film.output.kind), film.main)
    for kind in SUBTITLES:
        if kind in wanted.parts and now.plan.captions and (text := subtitles(now.plan, kind)) is not None:
            yield Item(named(kind), text.encode())
    if "timeline" in wanted.parts:
        yield Item(named("otio"), timeline_file(now, "otio").encode())
    if "cover" in wanted.parts:
        try:
            yield Item(named("jpg", ", cover"), picture_of(now, cover_of(clip, edition.id).value, "jpg"))
        except CoreError as error:
            left_out.append(f"The cover of {what}: {error}")
    if "post" in wanted.parts:
        post = text_of(clip, edition.id).value
        if post.is_empty:
            left_out.append(f"The text for the post of {what}: it is not written yet.")
        else:
            yield Item(named("txt", ", text"), (post.written(credits_of(clip.workspace, now.plan)) + "\n").encode())


def _newest(clip: Document, now: ClipNow) -> dict[str, Export]:
    """The newest finished film (or sound) of each edition that is still what the clip is."""
    stamp = stamps_of([clip])[clip.pk]
    found: dict[str, Export] = {}
    for row in clip.exports.all():
        if row.output.has_sound and row.edition not in found and row.main.exists() and is_current(row, stamp, now):
            found[row.edition] = row
    return found


def forget_old_packages() -> int:
    """Delete packages that are older than they are kept; how many there were."""
    old = Package.objects.filter(created__lt=timezone.now() - KEPT)
    count = len(old)
    for row in old:
        row.delete()
    return count
