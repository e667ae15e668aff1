"""What is remembered for the proof: what was measured of finished files, and what was left as it is."""

from django.conf import settings
from django.db import models

from hovvet.core.proof.measured import Measured
from hovvet.server.documents.models import Document


class FileMeasured(models.Model):
    """What was measured of the newest finished film of an edition. It holds as long as its plan is the same."""

    document = models.ForeignKey(Document, models.CASCADE, related_name="measured_files")
    edition = models.CharField(max_length=64)
    plan_digest = models.CharField(max_length=64)
    measured_json = models.JSONField()
    when = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["document", "edition"], name="one_file_measured")]

    def __str__(self) -> str:
        return f"{self.document}, {self.edition}"

    @property
    def measured(self) -> Measured:
        """All of it."""
        return Measured.model_validate(self.measured_json)


class LeftAsItIs(models.Model):
    """A fault that somebody wants to leave, and why."""

    document = models.ForeignKey(Document, models.CASCADE, related_name="left_as_it_is")
    key = models.CharField(max_length=200)  # of the fault
    why = models.CharField(max_length=200, default="")
    who = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True)
    when = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["document", "key"], name="left_once")]

    def __str__(self) -> str:
        return f"{self.document}: {self.key}"
