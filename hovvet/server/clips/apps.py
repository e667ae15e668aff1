"""The app of clips."""

from django.apps import AppConfig


class ClipsConfig(AppConfig):
    """Names the app."""

    name = "hovvet.server.clips"
