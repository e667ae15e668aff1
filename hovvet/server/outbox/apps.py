"""The app of the outbox: what goes out to outlets, and when."""

from django.apps import AppConfig


class OutboxConfig(AppConfig):
    """Declares the job that sends, and the look at what is due."""

    name = "hovvet.server.outbox"

    def ready(self) -> None:
        """Make them known."""
        from hovvet.server.outbox import due, sending  # noqa: F401
