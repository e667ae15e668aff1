"""The app of clips: making them, and finding what to show in them."""

from django.apps import AppConfig


class ClipsConfig(AppConfig):
    """Has no models any more; its migrations made the tables of documents and styles."""

    name = "hovvet.server.clips"
