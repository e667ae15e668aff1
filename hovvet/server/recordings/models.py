"""Recordings, the words in them, and uploads under way."""

import uuid
from pathlib import Path

from django.conf import settings
from django.core.files.storage import default_storage
from django.db import models

from hovvet.core.media.info import MediaInfo
from hovvet.core.words.transcript import Transcript
from hovvet.server.accounts.models import Workspace


class Recording(models.Model):
    """One long recording. Its files stand together in a folder of the storage."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="recordings")
    title = models.CharField(max_length=200)
    file_name = models.CharField(max_length=255)
    media_json = models.JSONField(null=True)
    transcript_json = models.JSONField(null=True)
    skyline = models.JSONField(default=list)
    notice = models.TextField(default="")  # something the person should know, which is no error
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created"]

    def __str__(self) -> str:
        return self.title

    @property
    def media(self) -> MediaInfo | None:
        """What is known of the original, once it has been looked into."""
        return MediaInfo.model_validate(self.media_json) if self.media_json else None

    @property
    def transcript(self) -> Transcript | None:
        """The transcript, once all of it is recognised."""
        return Transcript.model_validate(self.transcript_json) if self.transcript_json else None

    @property
    def folder(self) -> Path:
        """Where its files are."""
        return Path(default_storage.path(f"recordings/{self.pk}"))

    @property
    def original(self) -> Path:
        """The file as it was brought in; never changed."""
        return self.folder / "original"


class Stretch(models.Model):
    """The words of one stretch while the rest is still being recognised; ``done`` in seconds."""

    recording = models.ForeignKey(Recording, models.CASCADE, related_name="stretches")
    done = models.FloatField()
    words = models.JSONField(default=list)

    class Meta:
        ordering = ["done"]

    def __str__(self) -> str:
        return f"{self.recording} to {self.done:.1f} s"


class Upload(models.Model):
    """A file on its way in, by the open tus protocol."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="uploads")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="uploads")
    file_name = models.CharField(max_length=255)
    length = models.BigIntegerField()
    expires = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.file_name} ({self.length} bytes)"

    @property
    def path(self) -> Path:
        """Where its bytes are gathered."""
        return Path(default_storage.path(f"uploads/{self.pk}"))

    @property
    def offset(self) -> int:
        """How many bytes have arrived."""
        return self.path.stat().st_size if self.path.exists() else 0
