"""Passages that were found."""

import uuid

from django.db import models

from hovvet.server.accounts.models import Workspace
from hovvet.server.recordings.models import Recording


class FoundPassage(models.Model):
    """A stretch of a recording that may be worth sharing: the ids of its ``first`` and ``last`` word, ``seconds`` of it that a
    sweep leaves; why, and what it could be called, as the core found it."""

    class State(models.TextChoices):
        WAITING = "waiting"
        MADE = "made"  # a clip was made of it
        HIDDEN = "hidden"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    recording = models.ForeignKey(Recording, models.CASCADE, related_name="passages")
    place = models.PositiveIntegerField()  # best first
    first = models.BigIntegerField()
    last = models.BigIntegerField()
    start = models.FloatField()
    end = models.FloatField()
    seconds = models.FloatField()
    strength = models.CharField(max_length=20)
    reasons_json = models.JSONField(default=list)
    warnings_json = models.JSONField(default=list)
    titles_json = models.JSONField(default=list)
    state = models.CharField(max_length=10, choices=State, default=State.WAITING)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["place"]
        db_table = "recordings_foundpassage"  # where they have been since they were first found

    def __str__(self) -> str:
        return f"{self.titles_json[0]} ({self.start:.0f} to {self.end:.0f} s)"

    @property
    def workspace(self) -> Workspace:
        """Whose it is."""
        return self.recording.workspace
