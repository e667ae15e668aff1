"""The app of deliveries: all clips and how far they are, on one board."""

from django.apps import AppConfig


class DeliveriesConfig(AppConfig):
    """Its models."""

    name = "hovvet.server.deliveries"
