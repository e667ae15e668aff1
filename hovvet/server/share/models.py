"""Share pages."""

import secrets
import uuid
from pathlib import Path

from django.core.files.storage import default_storage
from django.db import models

from hovvet.server.accounts.models import Workspace
from hovvet.server.delivery.models import Export
from hovvet.server.documents.models import Document
from hovvet.server.files import HasFiles


def _token() -> str:
    return secrets.token_urlsafe(16)  # 128 bits: what is private is found by its link alone


class SharePage(HasFiles):
    """A page of one edition of a clip. What is not ``public`` is for who has the link: no search engine is to list it, and no
    other site may embed it."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="shared")
    document = models.ForeignKey(Document, models.CASCADE, related_name="shared")
    edition = models.CharField(max_length=64)
    export = models.ForeignKey(Export, models.SET_NULL, null=True, related_name="shared")  # the film that is shown
    token = models.CharField(max_length=64, unique=True, default=_token)
    title = models.CharField(max_length=200)
    public = models.BooleanField(default=False)
    words = models.BooleanField(default=True)  # whether what is said can be read there
    version = models.PositiveIntegerField(default=1)  # grows with what people change
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["created"]
        constraints = [models.UniqueConstraint(fields=["document", "edition"], name="one_share_page_of_an_edition")]

    def __str__(self) -> str:
        return f"page of {self.title}"

    @property
    def folder(self) -> Path:
        """Where its cover is."""
        return Path(default_storage.path(f"shared/{self.pk}"))

    stored = folder

    @property
    def cover(self) -> Path:
        """The picture that stands for it."""
        return self.folder / "cover.jpg"

    @property
    def path(self) -> str:
        """Its address on this server."""
        return f"/share/{self.token}"

    @property
    def embed_path(self) -> str:
        """That of the player which other sites embed."""
        return f"/embed/{self.token}"
