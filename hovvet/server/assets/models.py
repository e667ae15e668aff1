"""Assets: files that a workspace brings in to make its clips with. They never change: another file is another asset."""

import uuid
from pathlib import Path
from typing import Any

import numpy as np
from django.core.files.storage import default_storage
from django.db import models
from django.utils import timezone

from hovvet.core.captions.fonts import Font
from hovvet.core.engines.meaning import Vectors, vectors
from hovvet.core.picture.strip import Strip
from hovvet.core.shelf.licence import Licence
from hovvet.core.shelf.searching import Described
from hovvet.server.accounts.models import Workspace
from hovvet.server.files import HasFiles
from hovvet.server.recordings.models import Recording


class Asset(HasFiles):
    """A checked file. ``info_json`` is what was found in it, by its kind; ``licence`` what a font says of itself,
    ``terms`` who may use it. Videos and sounds are prepared like any recording: they have one of their own, without words."""

    class Kind(models.TextChoices):
        FONT = "font"
        TABLE = "table"
        PICTURE = "picture"
        STICKER = "sticker"  # logos too
        VIDEO = "video"
        SOUND = "sound"  # music too

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="assets")
    kind = models.CharField(max_length=16, choices=Kind)
    name = models.CharField(max_length=80)
    licence = models.CharField(max_length=200, default="")
    info_json = models.JSONField(default=dict)
    recording = models.OneToOneField(Recording, models.CASCADE, null=True, related_name="asset")
    tags = models.JSONField(default=list)
    terms_json = models.JSONField(default=dict)
    favourite = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)
    digest = models.CharField(max_length=64, default="")  # of the file that was brought in; "" for what was not
    stock = models.CharField(
        max_length=80, default=""
    )  # what it is in the stock library; "" for what is not from there
    meaning = models.BinaryField(default=bytes)  # of its name and tags, as numbers
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["created"]
        constraints = [  # the same file twice is one asset, and so is the same item
            models.UniqueConstraint(
                fields=["workspace", "kind", "digest"], condition=~models.Q(digest=""), name="one_asset_of_a_file"
            ),
            models.UniqueConstraint(
                fields=["workspace", "stock"], condition=~models.Q(stock=""), name="one_asset_of_an_item"
            ),
        ]

    def __str__(self) -> str:
        return self.name

    def save(self, *args: Any, **kwargs: Any) -> None:
        """Save it with what its name and tags mean."""
        if self.kind in STANDING:
            self.meaning = vectors([self.described.text]).tobytes()
        super().save(*args, **kwargs)

    @property
    def described(self) -> Described:
        """What it is found by."""
        return Described(self.name, self.tags)

    @property
    def means(self) -> Vectors:
        """What its name and tags mean: shape (SIZE,)."""
        return np.frombuffer(self.meaning, np.float32)

    @property
    def terms(self) -> Licence:
        """Who may use it."""
        return Licence.model_validate(self.terms_json)

    @property
    def refusal(self) -> str:
        """Why it may not be used today; "" where it may."""
        return self.terms.refusal(timezone.localdate())

    @property
    def link(self) -> str:
        """Where it is still to be fetched from; "" once it is there."""
        return str(self.info_json.get("link", ""))

    @property
    def ready(self) -> bool:
        """Whether it can be seen."""
        return self.recording.working.exists() if self.recording else not self.link

    @property
    def key(self) -> str:
        """What names it in clips: a video by its recording."""
        return str(self.recording_id or self.pk)

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
        """Width and height of a picture or sticker, in pixels; 0 for what has none."""
        return self.info_json.get("width", 0), self.info_json.get("height", 0)

    @property
    def strip(self) -> Strip:
        """The frames of a sticker."""
        return Strip(*self.size, self.info_json.get("frames", 1), self.info_json.get("step", 0.0))


PREPARED = (Asset.Kind.VIDEO, Asset.Kind.SOUND)  # kinds that have a recording
STANDING = (*PREPARED, Asset.Kind.PICTURE, Asset.Kind.STICKER)  # kinds that stand on the Shelf
