"""Exports: files made from clips."""

import uuid
from pathlib import Path

from django.core.files.storage import default_storage
from django.db import models

from hovvet.server.accounts.models import Workspace
from hovvet.server.clips.models import Document
from hovvet.server.files import Filed


class Export(Filed):
    """One edition of a clip as files. The plan is kept as it was when the export was asked for."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="exports")
    document = models.ForeignKey(Document, models.CASCADE, related_name="exports")
    outlet = models.CharField(max_length=40)
    version = models.PositiveIntegerField()
    plan = models.JSONField()
    digest = models.CharField(max_length=64, default="")  # of the plan
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created"]
        constraints = [  # asked for twice, made once
            models.UniqueConstraint(fields=["document", "outlet", "digest"], name="one_export_of_a_plan")
        ]

    def __str__(self) -> str:
        return f"{self.document} for {self.outlet}"

    @property
    def folder(self) -> Path:
        """Where its files are."""
        return Path(default_storage.path(f"exports/{self.pk}"))

    stored = folder

    def file(self, kind: str) -> Path:
        """The MP4, SRT or VTT."""
        return self.folder / f"clip.{kind}"
