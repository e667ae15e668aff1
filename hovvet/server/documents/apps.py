"""The app of documents, and the words they are made of."""

from django.apps import AppConfig


class DocumentsConfig(AppConfig):
    """Declares the jobs of this app."""

    name = "hovvet.server.documents"

    def ready(self) -> None:
        """Make the job handlers known."""
        from hovvet.server.documents import narrating, prepared_sounds, speaking  # noqa: F401
