"""Who sees to a clip, and by when."""

from django.conf import settings
from django.db import models

from hovvet.server.documents.models import Document


class Duty(models.Model):
    """What was agreed about a clip: by whom, and by which day, it is delivered."""

    document = models.OneToOneField(Document, models.CASCADE, related_name="duty")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True)  # None: whoever made it
    due = models.DateField(null=True)

    def __str__(self) -> str:
        return f"{self.document} by {self.due}"
