"""The app of the outside: a stand-in for outlets, with accounts, limits and moods, that keeps what it was sent."""

from django.apps import AppConfig


class OutsideConfig(AppConfig):
    """Its models."""

    name = "hovvet.server.outside"
