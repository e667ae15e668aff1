"""The app of notices: what happened, told by a bell and by mail."""

from django.apps import AppConfig


class NoticesConfig(AppConfig):
    """Listens to jobs, and sends mail."""

    name = "hovvet.server.notices"

    def ready(self) -> None:
        """Begin to listen."""
        from hovvet.server.notices import mailing, telling  # noqa: F401
