"""Links under which clips are looked at, their versions, and what is said of them."""

import secrets
import uuid

from django.conf import settings
from django.contrib.auth.hashers import check_password, make_password
from django.db import models
from django.utils import timezone

from hovvet.core.review.carried import Spot
from hovvet.server.accounts.models import Workspace
from hovvet.server.delivery.models import Export
from hovvet.server.documents.models import Document


def _token() -> str:
    return secrets.token_urlsafe(24)  # 192 bits: not to be guessed


class ReviewLink(models.Model):
    """A private link to editions of one clip. Who has it needs no account."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="reviews")
    document = models.ForeignKey(Document, models.CASCADE, related_name="reviews")
    token = models.CharField(max_length=64, unique=True, default=_token)
    password = models.CharField(max_length=200, default="", blank=True)  # its hash; "" for none
    until = models.DateField(null=True)  # the last day on which it holds
    revoked = models.BooleanField(default=False)
    download = models.BooleanField(default=False)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created"]

    def __str__(self) -> str:
        return f"review of {self.document}"

    @property
    def holds(self) -> bool:
        """Whether it can be opened (still)."""
        return not self.revoked and (self.until is None or timezone.localdate() <= self.until)

    def set_password(self, password: str) -> None:
        """Ask for a password from now on; "" for none."""
        self.password = make_password(password) if password else ""

    def is_password(self, password: str) -> bool:
        """Whether this is its password."""
        return not self.password or check_password(password, self.password)


class ReviewItem(models.Model):
    """One edition under a link, with the versions of it that were shown there."""

    link = models.ForeignKey(ReviewLink, models.CASCADE, related_name="items")
    edition = models.CharField(max_length=64)
    name = models.CharField(max_length=60)  # of its outlet
    highest = models.PositiveIntegerField(default=1)  # number of a version so far: none is given twice

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["link", "edition"], name="an_edition_once_under_a_link")]

    def __str__(self) -> str:
        return f"{self.name} of {self.link}"


class ReviewVersion(models.Model):
    """An export as it was shown; the newest is what is looked at."""

    item = models.ForeignKey(ReviewItem, models.CASCADE, related_name="versions")
    number = models.PositiveIntegerField()
    export = models.ForeignKey(Export, models.CASCADE, related_name="reviewed")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-number"]
        constraints = [models.UniqueConstraint(fields=["item", "number"], name="one_version_of_a_number")]

    def __str__(self) -> str:
        return f"version {self.number} of {self.item}"


class Comment(models.Model):
    """Something said of a version, or an answer to that."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    item = models.ForeignKey(ReviewItem, models.CASCADE, related_name="comments")
    version = models.PositiveIntegerField()  # at which it was made
    answers = models.ForeignKey("self", models.CASCADE, null=True, related_name="answered")
    name = models.CharField(max_length=80)  # of who says it
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True)  # one of the workspace's own people
    text = models.CharField(max_length=4000)
    spot_json = models.JSONField(default=dict)
    resolved = models.CharField(max_length=80, default="", blank=True)  # by whom; "" while it is open
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["created", "pk"]

    def __str__(self) -> str:
        return f"{self.name}: {self.text[:40]}"

    @property
    def spot(self) -> Spot:
        """What it is about."""
        return Spot.model_validate(self.spot_json)


class Verdict(models.Model):
    """What somebody thinks of a version as a whole; the newest of a version counts."""

    class Says(models.TextChoices):
        APPROVED = "approved"
        CHANGES = "changes wanted"

    version = models.ForeignKey(ReviewVersion, models.CASCADE, related_name="verdicts")
    name = models.CharField(max_length=80)
    says = models.CharField(max_length=16, choices=Says)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-pk"]

    def __str__(self) -> str:
        return f"{self.says} by {self.name}"
