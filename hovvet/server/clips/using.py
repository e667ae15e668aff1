"""Which clips use what stands on the Shelf."""

from hovvet.server.assets.models import Asset
from hovvet.server.documents.listing import listing_of
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents


def clips_using(asset: Asset) -> list[Document]:
    """The clips of the workspace that use an asset, as they stand, by title."""
    clips = documents().filter(workspace=asset.workspace_id, kind=Document.Kind.CLIP).order_by("title")
    return [clip for clip in clips if asset.key in listing_of(clip).assets]
