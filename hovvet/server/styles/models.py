"""Settings that a workspace keeps under a name."""

import uuid

from django.db import models

from hovvet.server.accounts.models import Workspace


class NamedSettings(models.Model):
    """Settings that a workspace keeps under a name, to begin from: caption styles, looks, house styles. Clips have what they
    took of them in full."""

    class Kind(models.TextChoices):
        STYLE = "style"
        LOOK = "look"
        HOUSE = "house"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="named_settings")
    kind = models.CharField(max_length=8, choices=Kind)
    name = models.CharField(max_length=60)
    settings_json = models.JSONField()
    version = models.PositiveIntegerField(default=1)  # grows whenever other settings are kept under the name
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["created"]
        db_table = "clips_kept"  # where they have been since they were first kept

    def __str__(self) -> str:
        return self.name

    @property
    def key(self) -> str:
        """What tells it from others."""
        return f"own-{self.pk}"
