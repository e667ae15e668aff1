"""Documents: the sheets of desks and clips, with every revision kept."""

import uuid

from django.conf import settings
from django.db import models

from hovvet.server.accounts.models import Workspace
from hovvet.server.recordings.models import Recording


class Document(models.Model):
    """A sheet that changes. ``version`` grows with every change, undo and redo included."""

    class Kind(models.TextChoices):
        DESK = "desk"  # the cuts on a whole recording
        CLIP = "clip"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="documents")
    recording = models.ForeignKey(Recording, models.CASCADE, related_name="documents")
    kind = models.CharField(max_length=8, choices=Kind)
    title = models.CharField(max_length=200)
    version = models.PositiveIntegerField(default=1)
    head = models.ForeignKey("Revision", models.SET_NULL, null=True, related_name="+")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["created"]
        verbose_name = "clip"
        constraints = [
            models.UniqueConstraint(fields=["recording"], condition=models.Q(kind="desk"), name="one_desk"),
        ]

    def __str__(self) -> str:
        return self.title


class Revision(models.Model):
    """One state of a sheet, and the edit that led to it.

    The sheet itself is written down with every 20th revision only (``depth``); what lies between is made again from
    the edits (``history.sheet_at``), so that history grows by what is edited and not by what there is.
    """

    document = models.ForeignKey(Document, models.CASCADE, related_name="revisions")
    parent = models.ForeignKey("self", models.CASCADE, null=True, related_name="children")
    depth = models.PositiveIntegerField(default=0)
    sheet = models.JSONField(null=True)
    edit = models.JSONField(null=True)  # of the sheet, a correction of the transcript, or a return to another revision
    # The newest revision up to this one that corrected the transcript; the transcript is what it led to.
    corrected = models.ForeignKey("self", models.SET_NULL, null=True, related_name="+")
    author = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.document} #{self.pk}"
