"""What happened in a workspace, who has seen it, and who wants to have it by mail."""

from django.conf import settings
from django.db import models

from hovvet.server.accounts.models import Workspace
from hovvet.server.documents.models import Document
from hovvet.server.recordings.models import Recording


class NoticeKind(models.TextChoices):
    """What sort of thing happened."""

    READY = "ready"
    COMMENTED = "commented"
    APPROVED = "approved"
    CHANGES = "changes wanted"
    FAILED = "failed"
    ASKS = "asks"  # it goes on when somebody says how
    SENT = "sent"


class Notice(models.Model):
    """Something that happened. It goes when what it is about does."""

    Kind = NoticeKind

    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="notices")
    kind = models.CharField(max_length=16, choices=NoticeKind)
    text = models.CharField(max_length=400)
    clip = models.ForeignKey(Document, models.CASCADE, null=True, related_name="notices")
    recording = models.ForeignKey(Recording, models.CASCADE, null=True, related_name="notices")
    place = models.CharField(max_length=16, default="", blank=True)  # where on the page it is gone into
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True)  # who need not be told
    created = models.DateTimeField(auto_now_add=True)
    mailed = models.BooleanField(default=False)

    class Meta:
        ordering = ["-pk"]
        indexes = [models.Index(fields=["mailed", "created"], name="notices_to_mail")]

    def __str__(self) -> str:
        return self.text


KINDS: dict[str, str] = {
    Notice.Kind.READY: "Something is ready",
    Notice.Kind.COMMENTED: "Somebody comments",
    Notice.Kind.APPROVED: "Somebody approves",
    Notice.Kind.CHANGES: "Somebody wants changes",
    Notice.Kind.FAILED: "Something fails",
    Notice.Kind.ASKS: "Something waits for you to decide",
    Notice.Kind.SENT: "A post has gone out",
}
USUAL = (Notice.Kind.COMMENTED, Notice.Kind.APPROVED, Notice.Kind.CHANGES, Notice.Kind.FAILED, Notice.Kind.ASKS)


def _usual() -> list[str]:
    return [str(each) for each in USUAL]


class Wishes(models.Model):
    """How far a person has read what happened, and of what they want mail."""

    user = models.OneToOneField(settings.AUTH_USER_MODEL, models.CASCADE, related_name="wishes")
    read = models.BigIntegerField(default=0)  # the newest notice they have seen
    mail_json = models.JSONField(default=_usual)  # kinds

    def __str__(self) -> str:
        return f"wishes of {self.user}"

    @classmethod
    def of(cls, user_id: int) -> "Wishes":
        """Those of a person, as they are usual where they said nothing."""
        return cls.objects.get_or_create(user_id=user_id)[0]
