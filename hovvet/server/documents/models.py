"""Documents: the sheets of desks and clips, with every revision kept."""

import uuid

from django.conf import settings
from django.db import models

from hovvet.core.plan.outlets import Outlet
from hovvet.server.accounts.models import Workspace
from hovvet.server.documents.written import Encoder
from hovvet.server.recordings.models import Recording


class Document(models.Model):
    """A sheet that changes. ``version`` grows with every change, undo and redo included. A desk is its recording's own;
    what a clip shows is told by its sources."""

    class Kind(models.TextChoices):
        DESK = "desk"  # the cuts on a whole recording
        CLIP = "clip"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="documents")
    recording = models.ForeignKey(Recording, models.CASCADE, related_name="documents", null=True)  # of a desk
    kind = models.CharField(max_length=8, choices=Kind)
    title = models.CharField(max_length=200)
    version = models.PositiveIntegerField(default=1)
    listed_json = models.JSONField(null=True, encoder=Encoder)  # what lists show of it (listing.py)
    head = models.ForeignKey("Revision", models.SET_NULL, null=True, related_name="+")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        db_table = "clips_document"
        ordering = ["created"]
        verbose_name = "clip"
        constraints = [
            models.UniqueConstraint(fields=["recording"], condition=models.Q(kind="desk"), name="one_desk"),
            models.CheckConstraint(
                condition=models.Q(kind="desk", recording__isnull=False)
                | models.Q(kind="clip", recording__isnull=True),
                name="only_a_desk_is_a_recordings_own",
            ),
        ]

    def __str__(self) -> str:
        return self.title


class DocumentSource(models.Model):
    """A recording that a clip shows, as its sheet stands. It goes when the recording does; the clip stays."""

    document = models.ForeignKey(Document, models.CASCADE, related_name="sources")
    recording = models.ForeignKey(Recording, models.CASCADE, related_name="shown_in")

    class Meta:
        db_table = "clips_documentsource"
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["document", "recording"], name="one_source_of_a_recording")]

    def __str__(self) -> str:
        return f"{self.recording} in {self.document}"


class CustomOutlet(models.Model):
    """An outlet that a workspace made for itself."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="outlets")
    outlet_json = models.JSONField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        db_table = "clips_customoutlet"
        ordering = ["created"]

    def __str__(self) -> str:
        return str(self.outlet.name)

    @property
    def outlet(self) -> Outlet:
        """What the core knows it as."""
        return Outlet.model_validate(self.outlet_json | {"key": self.key})

    @property
    def key(self) -> str:
        """What editions name it by."""
        return f"own-{self.pk}"


class Revision(models.Model):
    """One state of a sheet, and the edit that led to it.

    The sheet itself is written down with every 20th revision only (``depth``); what lies between is made again from
    the edits (``history.sheet_at``), so that history grows by what is edited and not by what there is.
    """

    document = models.ForeignKey(Document, models.CASCADE, related_name="revisions")
    parent = models.ForeignKey("self", models.CASCADE, null=True, related_name="children")
    depth = models.PositiveIntegerField(default=0)
    sheet = models.JSONField(null=True, encoder=Encoder)
    edit = models.JSONField(
        null=True, encoder=Encoder
    )  # of the sheet, a correction of the transcript, or a return to another revision
    # The newest revision up to this one that corrected the transcript; the transcript is what it led to.
    corrected = models.ForeignKey("self", models.SET_NULL, null=True, related_name="+")
    author = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        db_table = "clips_revision"
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.document} #{self.pk}"
