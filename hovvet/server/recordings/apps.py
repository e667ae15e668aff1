"""The app of recordings."""

from django.apps import AppConfig


class RecordingsConfig(AppConfig):
    """Declares the jobs of this app."""

    name = "hovvet.server.recordings"

    def ready(self) -> None:
        """Make the job handlers known."""
        from hovvet.server.recordings import clearing, preparing, stepping  # noqa: F401
