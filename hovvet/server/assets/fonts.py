"""The fonts of a workspace: those that everybody has, and its own."""

from collections.abc import Mapping

from hovvet.core.captions.fonts import CAPTION_FONTS, Font
from hovvet.server.accounts.models import Workspace
from hovvet.server.assets.models import Asset


def fonts_of(workspace: Workspace) -> Mapping[str, Font]:
    """All fonts that captions of a workspace can be set in, by key."""
    own = Asset.objects.filter(workspace=workspace, kind=Asset.Kind.FONT)
    return CAPTION_FONTS | {str(row.pk): row.font for row in own}
