"""The app of assets: what a workspace brings in to make its clips with."""

from typing import Any

from django.apps import AppConfig
from django.db.models.signals import post_save

from hovvet.core.media.info import is_sound


class AssetsConfig(AppConfig):
    """Sees to it that each video or sound that is brought in for the Shelf stands there."""

    name = "hovvet.server.assets"

    def ready(self) -> None:
        """Listen for recordings that are made."""
        from hovvet.server.assets import from_stock, seeing  # noqa: F401  # their jobs are known from now on

        post_save.connect(_stand, sender="recordings.Recording", dispatch_uid="videos on the shelf")


def _stand(instance: Any, created: bool, **_: object) -> None:
    if created and instance.for_shelf:
        from hovvet.server.assets.models import Asset

        kind = Asset.Kind.SOUND if is_sound(instance.file_name) else Asset.Kind.VIDEO
        Asset.objects.create(workspace=instance.workspace, kind=kind, name=instance.title[:80], recording=instance)
