"""The app of assets: what a workspace brings in to make its clips with."""

from django.apps import AppConfig


class AssetsConfig(AppConfig):
    """Nothing but its name."""

    name = "hovvet.server.assets"
