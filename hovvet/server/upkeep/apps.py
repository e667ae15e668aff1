"""The app of upkeep: what keeps the house tidy."""

from django.apps import AppConfig


class UpkeepConfig(AppConfig):
    """Names the app."""

    name = "hovvet.server.upkeep"
