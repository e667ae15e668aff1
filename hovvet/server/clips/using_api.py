"""Where assets are used, over HTTP."""

import uuid

from django.http import HttpRequest
from ninja import Router

from hovvet.server.accounts.access import find
from hovvet.server.assets.models import Asset
from hovvet.server.clips.using import clips_using
from hovvet.server.documents.models import Document
from hovvet.server.schema import Schema

router = Router(tags=["assets"])


class ClipNamed(Schema):
    """A clip by its title."""

    id: uuid.UUID
    title: str


@router.get("/{asset_id}/clips", response=list[ClipNamed])
def list_clips_using(request: HttpRequest, asset_id: uuid.UUID) -> list[Document]:
    """The clips that use an asset."""
    return clips_using(find(request, Asset.objects.all(), pk=asset_id))
