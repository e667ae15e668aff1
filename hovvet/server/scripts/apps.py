"""The app of scripts: what is to be read to a camera, and the takes of it."""

from django.apps import AppConfig


class ScriptsConfig(AppConfig):
    """Listens to what comes in, and to who looks where."""

    name = "hovvet.server.scripts"

    def ready(self) -> None:
        """Begin to listen."""
        from hovvet.server.scripts import looking, taking  # noqa: F401
