"""What a workspace has to make clips with: what everybody has, and its own."""

from hovvet.core.captions.fonts import CAPTION_FONTS
from hovvet.core.compile.kit import Kit
from hovvet.server.accounts.models import Workspace
from hovvet.server.assets.models import PREPARED, Asset
from hovvet.server.documents.outlets import outlets_of


def kit_of(workspace: Workspace) -> Kit:
    """All of it, by the names that sheets have for it."""
    own: dict[str, list[Asset]] = {}
    needed = Asset.objects.filter(workspace=workspace).exclude(kind__in=PREPARED)
    for asset in needed.only("kind", "name", "info_json"):
        if asset.link:  # not there yet
            continue
        own.setdefault(asset.kind, []).append(asset)
    seen = (*own.get(Asset.Kind.PICTURE, ()), *own.get(Asset.Kind.STICKER, ()))
    return Kit(
        outlets=outlets_of(workspace),
        fonts=CAPTION_FONTS | {str(each.pk): each.font for each in own.get(Asset.Kind.FONT, ())},
        tables=frozenset(str(each.pk) for each in own.get(Asset.Kind.TABLE, ())),
        pictures={str(each.pk): each.size for each in own.get(Asset.Kind.PICTURE, ())},
        names={str(each.pk): each.name for each in seen},
        stickers={str(each.pk): each.strip for each in own.get(Asset.Kind.STICKER, ())},
    )
