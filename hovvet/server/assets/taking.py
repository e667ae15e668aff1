"""Taking something from elsewhere: the stock library (it keeps its licence), a link, a part of a recording."""

import tempfile
from pathlib import Path, PurePath

from django.db import transaction

from hovvet.core.errors import CoreError
from hovvet.core.media.naming import title_of
from hovvet.core.media.part import check_part
from hovvet.server.accounts.models import Workspace
from hovvet.server.assets.bringing import bring_in
from hovvet.server.assets.models import PREPARED, Asset
from hovvet.server.jobs.running import start_job
from hovvet.server.recordings.links import STOCK, checked_importer
from hovvet.server.recordings.models import Recording
from hovvet.server.recordings.parts import link_to
from hovvet.server.recordings.preparing import PREPARE
from hovvet.server.stock.asked import library_with
from hovvet.server.stock.library import StockItem


def take(workspace: Workspace, item_id: str) -> Asset:
    """Put an item of a stock library on the Shelf; what is there already is not taken twice. A film or a sound is
    fetched by the job that prepares it. Raises CoreError."""
    item = library_with(item_id).item(item_id)
    if known := Asset.objects.filter(workspace=workspace, info_json__stock=item.id).first():
        return known
    asset = _picture(workspace, item) if item.kind in ("picture", "sticker") else _recording(workspace, item)
    asset.name, asset.tags = item.name, list(item.tags)
    asset.terms_json = item.licence.model_dump(mode="json")
    asset.info_json |= {"stock": item.id, "people": item.people}
    asset.save()
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
    """Put what a link leads to on the Shelf. A film or a sound is fetched by the job that prepares it, a picture or a
    sticker at once. Raises Problem, CoreError."""
    importer = checked_importer(link)
    name = PurePath(importer.name_of(link)).name[:255] or kind.label
    if kind in PREPARED:
        title = title_of(name)
        asset = _prepared(Recording(workspace=workspace, title=title, file_name=name, for_shelf=True, link=link))
        asset.kind = kind  # which the name of the file need not tell
        asset.save()
        return asset
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "fetched"
        importer.fetch(link, file, lambda _: None)
        with file.open("rb") as fetched:
            return bring_in(workspace, kind, name, fetched.read)


def _prepared(recording: Recording) -> Asset:
    recording.folder.mkdir(parents=True)
    with transaction.atomic():
        recording.save()
        start_job(recording.workspace, PREPARE, recording.pk)
    return recording.asset
