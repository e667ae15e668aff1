"""The app of passages."""

from django.apps import AppConfig


class PassagesConfig(AppConfig):
    """Declares the jobs of this app."""

    name = "hovvet.server.passages"

    def ready(self) -> None:
        """Make the job handlers known."""
        from hovvet.server.passages import finding  # noqa: F401
