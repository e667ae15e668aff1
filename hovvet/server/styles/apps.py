"""The app of styles."""

from django.apps import AppConfig


class StylesConfig(AppConfig):
    """Its models."""

    name = "hovvet.server.styles"
