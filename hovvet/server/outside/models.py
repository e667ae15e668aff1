"""Made-up outlets: accounts that behave as outlets do, and the feeds of what they took."""

import uuid
from pathlib import Path

from django.core.files.storage import default_storage
from django.db import models

from hovvet.server.accounts.models import Workspace
from hovvet.server.files import HasFiles


class OutsideAccount(models.Model):
    """An account at a made-up outlet, which takes what the outlet of its ``sort`` takes, in a mood that can be chosen."""

    class Mood(models.TextChoices):
        FINE = "fine"
        SLOW = "slow"
        LATER = "asks to come again later"
        REFUSES = "refuses"
        SILENT = "takes it and never answers"
        DROPS = "loses it and never answers"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="outside_accounts")
    name = models.CharField(max_length=60)
    sort = models.CharField(max_length=64)  # by the key of an outlet
    mood = models.CharField(max_length=40, choices=Mood, default=Mood.FINE)
    knows_keys = models.BooleanField(default=True)  # takes what has the same key once
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["created"]

    def __str__(self) -> str:
        return self.name


MOODS: dict[str, str] = {
    OutsideAccount.Mood.FINE: "Takes what it is sent",
    OutsideAccount.Mood.SLOW: "Is slow",
    OutsideAccount.Mood.LATER: "Asks to come again later",
    OutsideAccount.Mood.REFUSES: "Refuses",
    OutsideAccount.Mood.SILENT: "Takes it and never answers",
    OutsideAccount.Mood.DROPS: "Loses it and never answers",
}


class OutsidePost(HasFiles):
    """What an account was sent, as it looks there."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    account = models.ForeignKey(OutsideAccount, models.CASCADE, related_name="posts")
    key = models.CharField(max_length=64, db_index=True)  # what the sender calls it
    title = models.CharField(max_length=200)
    text = models.TextField()
    kind = models.CharField(max_length=8)
    seconds = models.FloatField()
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created"]

    def __str__(self) -> str:
        return self.title

    @property
    def folder(self) -> Path:
        """Where its files are."""
        return Path(default_storage.path(f"outside/{self.pk}"))

    stored = folder

    @property
    def film(self) -> Path:
        """The film that it was sent."""
        return self.folder / f"film.{self.kind}"

    @property
    def cover(self) -> Path:
        """The picture that it was sent with it, if any."""
        return self.folder / "cover.jpg"
