"""Workspaces and their members. Every other object belongs to one workspace."""

import uuid

from django.conf import settings
from django.db import models


class Workspace(models.Model):
    """A team and all it has."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    name = models.CharField(max_length=120)

    def __str__(self) -> str:
        return self.name


class Membership(models.Model):
    """A user's place in a workspace."""

    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="memberships")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="memberships")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workspace", "user"], name="one_membership")]

    def __str__(self) -> str:
        return f"{self.user} in {self.workspace}"
