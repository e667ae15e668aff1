"""Exports: files made from clips."""

import uuid
from pathlib import Path

from django.conf import settings
from django.core.files.storage import default_storage
from django.db import models

from hovvet.core.render.output import Output
from hovvet.server.accounts.models import Workspace
from hovvet.server.documents.models import Document
from hovvet.server.files import HasFiles
from hovvet.server.posts.per_edition import PerEdition


class Export(HasFiles):
    """One edition of a clip as files. The plan is kept as it was when the export was asked for.

    ``digest`` tells it from every other export: what is seen and heard in it, and what kind of file it is.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="exports")
    document = models.ForeignKey(Document, models.CASCADE, related_name="exports")
    edition = models.CharField(max_length=64, default="e1")
    outlet = models.CharField(max_length=64)
    name = models.CharField(max_length=60, default="")  # what the outlet was called
    output_json = models.JSONField(default=dict)
    encoding_json = models.JSONField(default=dict)
    version = models.PositiveIntegerField()
    plan = models.JSONField()
    digest = models.CharField(max_length=64, default="")
    stamp = models.CharField(max_length=64, default="")  # of its clip, when that was last compared with it
    lufs = models.FloatField(null=True)  # measured of the file: its loudness,
    peak = models.FloatField(null=True)  # and its true peak in dBTP
    current = models.BooleanField(default=True)  # whether it was the same then
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created"]
        constraints = [  # asked for twice, made once
            models.UniqueConstraint(fields=["document", "edition", "digest"], name="one_export_of_an_edition")
        ]

    def __str__(self) -> str:
        return f"{self.document} for {self.outlet}"

    @property
    def seconds(self) -> float:
        """How long it is."""
        return float(self.plan["samples"] / self.plan["sample_rate"])

    @property
    def folder(self) -> Path:
        """Where its files are."""
        return Path(default_storage.path(f"exports/{self.pk}"))

    stored = folder

    @property
    def output(self) -> Output:
        """What kind of file it is."""
        return Output.model_validate(self.output_json)

    @property
    def main(self) -> Path:
        """The file that was asked for."""
        return self.file(self.output_json.get("kind", Output().kind))

    def file(self, kind: str) -> Path:
        """The file of a kind: the one that was asked for, SRT or VTT."""
        return self.folder / f"clip.{kind}"


class Watched(models.Model):
    """Somebody has watched an export to its end."""

    export = models.ForeignKey(Export, models.CASCADE, related_name="watched")
    who = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE)
    when = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["export", "who"], name="watched_once")]

    def __str__(self) -> str:
        return f"{self.export}, by {self.who}"


class CoverChosen(PerEdition):
    """A ``Cover``."""

    class Meta(PerEdition.Meta):
        pass


class Package(HasFiles):
    """What goes with clips, as one .zip. It is made by a job, and kept for a day."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="packages")
    wanted_json = models.JSONField()  # which clips, which of their editions, which parts
    left_out_json = models.JSONField(default=list)  # what is missing in it, and why
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created"]

    def __str__(self) -> str:
        return f"package {self.pk}"

    @property
    def folder(self) -> Path:
        """Where its file is."""
        return Path(default_storage.path(f"packages/{self.pk}"))

    stored = folder

    @property
    def file(self) -> Path:
        """The .zip."""
        return self.folder / "package.zip"
