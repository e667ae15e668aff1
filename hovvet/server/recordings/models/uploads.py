"""Uploads under way."""

import uuid
from pathlib import Path

from django.conf import settings
from django.core.files.storage import default_storage
from django.db import models

from hovvet.server.accounts.models import Workspace
from hovvet.server.files import HasFiles
from hovvet.server.recordings.models.shows import Show


class Upload(HasFiles):
    """A file on its way in, by the open tus protocol."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="uploads")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="uploads")
    show = models.ForeignKey(Show, models.SET_NULL, null=True)
    for_shelf = models.BooleanField(default=False)
    file_name = models.CharField(max_length=255)
    length = models.BigIntegerField()
    expires = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.file_name} ({self.length} bytes)"

    @property
    def path(self) -> Path:
        """Where its bytes are gathered."""
        return Path(default_storage.path(f"uploads/{self.pk}"))

    stored = path

    @property
    def offset(self) -> int:
        """How many bytes have arrived."""
        return self.path.stat().st_size if self.path.exists() else 0
