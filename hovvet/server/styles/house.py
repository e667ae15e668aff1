"""House styles: kept from a clip, and laid onto others."""

from collections.abc import Sequence

from hovvet.core.compile.repairs import repaired_house
from hovvet.core.sheet.edits import Edit
from hovvet.core.sheet.house import HouseStyle, house_of
from hovvet.core.sheet.house_laying import changes, dress, wear
from hovvet.core.sheet.model import Sheet
from hovvet.core.sheet.places import Places
from hovvet.core.sheet.upgrade import read_house
from hovvet.server.documents.changing import apply_made, apply_to_newest
from hovvet.server.documents.kit import kit_of
from hovvet.server.documents.making import WordsOf, make_clip_of, show_of
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import Opened, sheet_of
from hovvet.server.documents.outlets import outlets_of
from hovvet.server.documents.sources import as_uuid, sources_of
from hovvet.server.recordings.models import Recording, Show
from hovvet.server.styles.models import NamedSettings


def style_of(row: NamedSettings) -> HouseStyle:
    """A house style as it is kept, without what is no longer there."""
    return repaired_house(HouseStyle.model_validate(read_house(row.settings_json)), kit_of(row.workspace))[0]


def style_shown_by(clip: Document, naming: str) -> HouseStyle:
    """The house style that a clip shows, with the names & terms of what it is from; its files are called by ``naming``."""
    sheet = sheet_of(clip)
    first = Recording.objects.filter(workspace=clip.workspace_id, pk__in=sheet.recordings[:1]).first()
    terms = first.defaults.terms if first else ()
    return house_of(sheet, Places(sheet, sources_of(clip, sheet).transcripts), terms, naming)


def wear_kept(clip: Document, row: NamedSettings, author_id: int | None) -> None:
    """Let a clip wear the house style that was just kept from it."""
    style, said = style_of(row), sources_of(clip, sheet_of(clip)).transcripts
    apply_to_newest(clip, lambda sheet: wear(sheet, style, row.key, row.version, clip.title, said), author_id)


def edit_that_dresses(clip: Document, sheet: Sheet, row: NamedSettings) -> Edit:
    """What dressing a sheet of a clip in a house style, as it is now, comes to. Raises CoreError."""
    return dress(sheet, style_of(row), row.key, row.version, clip.title, sources_of(clip, sheet).transcripts)


def changes_by(clip: Document, row: NamedSettings) -> list[str]:
    """What dressing a clip in a house style would change in it."""
    sheet = sheet_of(clip)
    return changes(sheet, edit_that_dresses(clip, sheet, row), outlets_of(clip.workspace))


def make_dressed_clip(
    recording: Recording,
    first: int,
    last: int,
    author_id: int | None,
    row: NamedSettings | None = None,
    title: str = "",
) -> Document:
    """A clip of the words ``first`` to ``last``, called after what is said first or by a ``title``, dressed in a house style
    (None: that of its show, where it has one): as a change of its own, that can be undone."""
    return make_dressed_clip_of([WordsOf(recording, first, last)], author_id, row, title)


def make_dressed_clip_of(
    stretches: Sequence[WordsOf], author_id: int | None, row: NamedSettings | None = None, title: str = ""
) -> Document:
    """Likewise of stretches of several recordings, one after the other; the show is that of the first."""
    clip = make_clip_of(stretches, title)
    show = stretches[0].recording.show
    row = row or (_kept(show) if show else None)
    return dress_clip(clip, clip.version, row, author_id).document if row else clip


def house_of_show(show: Show) -> HouseStyle | None:
    """The house style that new clips of a show are dressed in; None where there is none (any more)."""
    row = _kept(show)
    return style_of(row) if row else None


def _kept(show: Show) -> NamedSettings | None:
    """The house style of a show; None where it has none (any more)."""
    pk = as_uuid(show.house.removeprefix("own-"))
    return (
        NamedSettings.objects.filter(workspace=show.workspace_id, kind=NamedSettings.Kind.HOUSE, pk=pk).first()
        if pk
        else None
    )


def house_for_show(clip: Document, key: str) -> Show:
    """Let new clips of the show that a clip is from be dressed in a house style ("" for none); the show. Raises Problem
    without one."""
    show = show_of(clip)
    show.house = key
    show.save(update_fields=["house"])
    return show


def dress_clip(
    clip: Document, version: int, row: NamedSettings, author_id: int | None, edition: str | None = None
) -> Opened:
    """Dress a clip in a house style as it is now. Raises Stale, Problem, CoreError."""
    return apply_made(clip, version, lambda sheet: edit_that_dresses(clip, sheet, row), author_id, edition)
