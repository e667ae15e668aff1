"""Posts that go out, or went."""

import uuid

from django.conf import settings
from django.db import models
from django.db.models.signals import pre_delete
from django.dispatch import receiver

from hovvet.server.accounts.models import Workspace
from hovvet.server.delivery.models import Export
from hovvet.server.documents.models import Document
from hovvet.server.jobs.running import cancel_jobs_of


class PostingState(models.TextChoices):
    """How far a post is."""

    PLANNED = "planned"
    SENDING = "sending"
    WAITING = "waiting"  # was tried, and will be again
    MISSED = "missed"  # nobody was there to send it at its time
    HELD = "held"  # may not go out as it is
    FAILED = "failed"
    SENT = "sent"


class Posting(models.Model):
    """A film that goes to an account at a time, with the text for its post. Its id is the key by which the outlet knows it."""

    State = PostingState

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="postings")
    document = models.ForeignKey(Document, models.CASCADE, related_name="postings")
    export = models.ForeignKey(Export, models.SET_NULL, null=True, related_name="postings")
    edition = models.CharField(max_length=64)
    end = models.CharField(max_length=40)  # which kind of outlet
    account = models.CharField(max_length=100)  # what it is known by there
    account_name = models.CharField(max_length=60)
    at = models.DateTimeField()  # when it is, or was, to go
    zone = models.CharField(max_length=64, default="UTC")  # where that time was read off a clock
    due = models.DateTimeField()  # when it is tried next: at first the same
    state = models.CharField(max_length=10, choices=PostingState, default=PostingState.PLANNED)
    told = models.CharField(max_length=400, default="", blank=True)  # why it is as it is
    tries = models.PositiveIntegerField(default=0)
    receipt = models.CharField(max_length=100, default="", blank=True)  # what it is called there
    sent = models.DateTimeField(null=True)
    version = models.PositiveIntegerField(default=1)  # grows with what people change
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["at", "created"]
        indexes = [models.Index(fields=["state", "due"], name="postings_due")]
        constraints = [
            models.UniqueConstraint(fields=["export", "end", "account"], name="a_film_goes_to_an_account_once")
        ]

    def __str__(self) -> str:
        return f"{self.document} to {self.account_name}"


@receiver(pre_delete, sender=Posting)
def _stop_sending(instance: Posting, **_: object) -> None:
    cancel_jobs_of(instance.pk)
