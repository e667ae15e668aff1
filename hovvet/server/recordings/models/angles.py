"""Other cameras and microphones of a recording."""

from django.db import models

from hovvet.server.recordings.models.recordings import Recording


class Angle(models.Model):
    """A film, or a sound, of the same talk as a recording. ``offset`` and ``drift`` are None until it has been put in step
    (``core.sound.in_step``), or where it could not be: then ``told`` says why. ``nudge`` (seconds) is added by hand."""

    recording = models.ForeignKey(Recording, models.CASCADE, related_name="angles")
    film = models.ForeignKey(Recording, models.CASCADE, related_name="taken_of")
    number = models.PositiveSmallIntegerField()  # 2 and up: the recording itself is 1
    name = models.CharField(max_length=120)
    offset = models.FloatField(null=True)
    drift = models.FloatField(default=0.0)
    nudge = models.FloatField(default=0.0)
    told = models.TextField(default="", blank=True)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["recording", "number"], name="one_camera_of_a_number"),
            models.UniqueConstraint(fields=["recording", "film"], name="a_film_once"),
        ]

    def __str__(self) -> str:
        return f"Camera {self.number} of {self.recording}"
