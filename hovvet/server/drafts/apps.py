"""The app of drafts: clips made from a text."""

from django.apps import AppConfig


class DraftsConfig(AppConfig):
    """Knows the jobs that make them."""

    name = "hovvet.server.drafts"

    def ready(self) -> None:
        """Declare its jobs."""
        from hovvet.server.drafts import making, otherwise  # noqa: F401
