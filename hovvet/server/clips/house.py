"""House styles: kept from a clip, and laid onto others."""

from hovvet.core.sheet.edits import Edit
from hovvet.core.sheet.house import HouseStyle, dress, house_of, repaired
from hovvet.core.sheet.model import Sheet
from hovvet.core.sheet.places import Places
from hovvet.server.clips.documents import Opened, apply_made, sheet_of
from hovvet.server.clips.models import Document, Kept
from hovvet.server.clips.shelf import shelf_of
from hovvet.server.clips.sources import sources_of


def style_of(row: Kept) -> HouseStyle:
    """A house style as it is kept, without what is no longer there."""
    return repaired(HouseStyle.model_validate(row.settings_json), shelf_of(row.workspace))[0]


def style_shown_by(clip: Document) -> HouseStyle:
    """The house style that a clip shows."""
    sheet = sheet_of(clip)
    return house_of(sheet, Places(sheet, sources_of(clip, sheet).transcripts))


def dress_clip(clip: Document, version: int, row: Kept, author_id: int | None, edition: str | None = None) -> Opened:
    """Dress a clip in a house style as it is now. Raises Stale, Problem, CoreError."""
    house = style_of(row)

    def make(sheet: Sheet) -> Edit:
        return dress(sheet, house, row.key, row.version, clip.title, sources_of(clip, sheet).transcripts)

    return apply_made(clip, version, make, author_id, edition)
