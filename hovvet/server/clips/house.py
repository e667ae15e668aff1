"""House styles: kept from a clip, and laid onto others."""

from hovvet.core.sheet.edits import Edit
from hovvet.core.sheet.house import HouseStyle, changes, dress, house_of, repaired
from hovvet.core.sheet.model import Sheet
from hovvet.core.sheet.places import Places
from hovvet.server.clips.documents import Opened, apply_made, make_clip, sheet_of, show_of
from hovvet.server.clips.models import Document, Kept
from hovvet.server.clips.outlets import outlets_of
from hovvet.server.clips.shelf import shelf_of
from hovvet.server.clips.sources import as_uuid, sources_of
from hovvet.server.recordings.models import Recording, Show


def style_of(row: Kept) -> HouseStyle:
    """A house style as it is kept, without what is no longer there."""
    return repaired(HouseStyle.model_validate(row.settings_json), shelf_of(row.workspace))[0]


def style_shown_by(clip: Document) -> HouseStyle:
    """The house style that a clip shows."""
    sheet = sheet_of(clip)
    return house_of(sheet, Places(sheet, sources_of(clip, sheet).transcripts))


def changes_by(clip: Document, row: Kept) -> list[str]:
    """What dressing a clip in a house style would change in it."""
    sheet = sheet_of(clip)
    transcripts = sources_of(clip, sheet).transcripts
    edit = dress(sheet, style_of(row), row.key, row.version, clip.title, transcripts)
    return changes(sheet, edit, outlets_of(clip.workspace))


def make_dressed_clip(recording: Recording, first: int, last: int, author_id: int | None) -> Document:
    """A clip of the words ``first`` to ``last``, dressed in the house style of its show, where that has one: as a change of
    its own, that can be undone."""
    clip = make_clip(recording, first, last)
    row = _kept(recording.show) if recording.show else None
    return dress_clip(clip, clip.version, row, author_id).document if row else clip


def _kept(show: Show) -> Kept | None:
    """The house style of a show; None where it has none (any more)."""
    pk = as_uuid(show.house.removeprefix("own-"))
    return Kept.objects.filter(workspace=show.workspace_id, kind=Kept.Kind.HOUSE, pk=pk).first() if pk else None


def house_for_show(clip: Document, key: str) -> Show:
    """Let new clips of the show that a clip is from be dressed in a house style ("" for none); the show. Raises Problem
    without one."""
    show = show_of(clip)
    show.house = key
    show.save(update_fields=["house"])
    return show


def dress_clip(clip: Document, version: int, row: Kept, author_id: int | None, edition: str | None = None) -> Opened:
    """Dress a clip in a house style as it is now. Raises Stale, Problem, CoreError."""
    house = style_of(row)

    def make(sheet: Sheet) -> Edit:
        return dress(sheet, house, row.key, row.version, clip.title, sources_of(clip, sheet).transcripts)

    return apply_made(clip, version, make, author_id, edition)
