"""The app of clips: documents, and the words they are made of."""

from django.apps import AppConfig


class ClipsConfig(AppConfig):
    """Declares the jobs of this app."""

    name = "hovvet.server.clips"

    def ready(self) -> None:
        """Make the job handlers known."""
        from hovvet.server.clips import passages, preparing, speaking  # noqa: F401
