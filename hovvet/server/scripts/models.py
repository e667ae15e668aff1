"""Scripts and their takes."""

import uuid

from django.db import models

from hovvet.core.script.lines import Script as Lines
from hovvet.core.script.lines import ScriptKind, script_of
from hovvet.core.script.pace import USUAL
from hovvet.server.accounts.models import Workspace
from hovvet.server.recordings.models import Recording, Show


class Script(models.Model):
    """A text that is read to a camera."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="scripts")
    show = models.ForeignKey(Show, models.SET_NULL, null=True, related_name="scripts")
    title = models.CharField(max_length=200)
    text = models.TextField(default="")
    kind: "models.CharField[ScriptKind, ScriptKind]" = models.CharField(max_length=10, default="flowing")
    pace = models.PositiveIntegerField(default=USUAL)  # words a minute
    drafted = models.BooleanField(default=False)  # made for a draft: it is in the list once somebody has recorded it
    version = models.PositiveIntegerField(default=1)
    highest = models.PositiveIntegerField(default=0)  # number that a take was given: none is given twice
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-changed"]

    def __str__(self) -> str:
        return self.title

    @property
    def lines(self) -> Lines:
        """What is read, line by line."""
        return script_of(self.text, self.kind)


class Take(models.Model):
    """One recording of a script being read, or of a part of it."""

    script = models.ForeignKey(Script, models.CASCADE, related_name="takes")
    recording = models.OneToOneField(Recording, models.CASCADE, related_name="take")
    number = models.PositiveIntegerField()
    line = models.PositiveIntegerField(default=0)  # with which it was begun
    starred = models.BooleanField(default=False)
    looks_json = models.JSONField(null=True)  # a Looks; None until that was looked for

    class Meta:
        ordering = ["number"]

    def __str__(self) -> str:
        return f"Take {self.number} of {self.script}"
