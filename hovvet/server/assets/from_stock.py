"""Taking something from elsewhere: the stock library (it keeps its licence), a link, a part of a recording."""

import tempfile
from pathlib import Path, PurePath

from django.db import IntegrityError, transaction

from hovvet.core.errors import CoreError
from hovvet.core.media.naming import saved_name, title_of
from hovvet.core.media.part import check_part
from hovvet.server.accounts.models import Workspace
from hovvet.server.assets.bringing import bring_in, check_room, fill, largest
from hovvet.server.assets.models import PREPARED, Asset
from hovvet.server.jobs.running import Report, handles, start_job
from hovvet.server.problems import Problem
from hovvet.server.recordings.links import STOCK, checked_importer, importer_for
from hovvet.server.recordings.models import Recording
from hovvet.server.recordings.parts import link_to
from hovvet.server.recordings.preparing import PREPARE
from hovvet.server.stock.asked import library_with
from hovvet.server.stock.library import StockItem

FETCH = "fetch"


def take(workspace: Workspace, item_id: str) -> Asset:
    """Put an item of a stock library on the Shelf; what is there already is not taken twice. A film or a sound is
    fetched by the job that prepares it. Raises CoreError."""
    item = library_with(item_id).item(item_id)
    known = Asset.objects.filter(workspace=workspace, stock=item.id)
    if asset := known.first():
        return asset
    asset = _picture(workspace, item) if item.kind in ("picture", "sticker") else _recording(workspace, item)
    asset.name, asset.tags = item.name, list(item.tags)
    asset.terms_json = item.licence.model_dump(mode="json")
    asset.info_json |= {"people": item.people}
    asset.stock = item.id
    try:
        with transaction.atomic():
            asset.save()
    except IntegrityError:  # somebody else took it just now
        (asset.recording or asset).delete()
        return known.get()
    return asset


def _picture(workspace: Workspace, item: StockItem) -> Asset:
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "fetched"
        library_with(item.id).fetch(item.id, file, lambda _: None)
        with file.open("rb") as fetched:
            return bring_in(workspace, Asset.Kind(item.kind), item.name, fetched.read)


def _recording(workspace: Workspace, item: StockItem) -> Asset:
    recording = Recording(
        workspace=workspace,
        title=item.name,
        file_name=f"{item.id}.{'wav' if item.kind == 'sound' else 'mp4'}",
        for_shelf=True,
        link=f"{STOCK}{item.id}",
    )
    return _prepared(recording)


def take_part(recording: Recording, start: float, end: float, name: str) -> Asset:
    """Keep some seconds of a recording as a film (or a sound) on the Shelf. Raises CoreError."""
    media = recording.media
    if media is None:
        raise CoreError("This recording is still being looked into. Try again when its words are there.")
    check_part(media, start, end)
    ending = "mp4" if media.has_picture else "m4a"
    part = Recording(
        workspace=recording.workspace,
        title=name,
        file_name=f"part.{ending}",
        for_shelf=True,
        link=link_to(recording, start, end),
    )
    return _prepared(part)


def take_link(workspace: Workspace, kind: Asset.Kind, link: str) -> Asset:
    """Put what a link leads to on the Kit, fetched by a job: a film or a sound by the one that prepares it. Raises Problem,
    CoreError."""
    importer = checked_importer(link)
    name = saved_name(PurePath(importer.name_of(link)).name, kind.label)
    if kind in PREPARED:
        title = title_of(name)
        asset = _prepared(Recording(workspace=workspace, title=title, file_name=name, for_shelf=True, link=link))
        asset.kind = kind  # which the name of the file need not tell
        asset.save()
        return asset
    check_room(workspace, kind)
    with transaction.atomic():
        asset = Asset.objects.create(workspace=workspace, kind=kind, name=title_of(name)[:80], info_json={"link": link})
        start_job(workspace, FETCH, asset.pk)
    return asset


def fetch_again(asset: Asset) -> None:
    """Try once more to fetch what is not there yet. Raises Problem where there is nothing to be fetched."""
    if not asset.link:
        raise Problem(409, "There is nothing left to fetch: this is on the Shelf.")
    start_job(asset.workspace, FETCH, asset.pk)


@handles(FETCH, priority=30, part="bringing in")
def fetch(report: Report) -> None:
    """Fetch a picture or a sticker from its link, and keep it once it is checked."""
    asset = Asset.objects.get(pk=report.target)
    if not asset.link:
        return
    report.stage("Fetching the file", 0, 0.8)
    most = largest(Asset.Kind(asset.kind))
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "fetched"
        importer_for(asset.link).fetch(asset.link, file, report, most)
        report.stage("Looking into it", 0.8, 1)
        fill(asset, file.read_bytes())


def _prepared(recording: Recording) -> Asset:
    recording.folder.mkdir(parents=True)
    with transaction.atomic():
        recording.save()
        start_job(recording.workspace, PREPARE, recording.pk)
    return recording.asset
