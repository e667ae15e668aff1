"""Assets: files that a workspace brings in to make its clips with. They never change: another file is another asset."""

import uuid
from pathlib import Path

from django.core.files.storage import default_storage
from django.db import models

from hovvet.core.captions.fonts import Font
from hovvet.server.accounts.models import Workspace
from hovvet.server.files import Filed


class Asset(Filed):
    """A checked file. ``info_json`` is what was found in it, by its kind; ``licence`` what its owner asks for."""

    class Kind(models.TextChoices):
        FONT = "font"
        TABLE = "table"
        PICTURE = "picture"
        STICKER = "sticker"  # logos too

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="assets")
    kind = models.CharField(max_length=16, choices=Kind)
    name = models.CharField(max_length=80)
    licence = models.CharField(max_length=200, default="")
    info_json = models.JSONField(default=dict)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["created"]

    def __str__(self) -> str:
        return self.name

    @property
    def folder(self) -> Path:
        """Where its file is."""
        return Path(default_storage.path(f"assets/{self.pk}"))

    stored = folder

    @property
    def file(self) -> Path:
        """What was brought in, checked."""
        return self.folder / "file"

    @property
    def font(self) -> Font:
        """A font, as captions know it."""
        return Font(self.name, self.info_json["family"], str(self.file), asset=str(self.pk))

    @property
    def size(self) -> tuple[int, int]:
        """Width and height of a picture or sticker, in pixels."""
        return self.info_json["width"], self.info_json["height"]
