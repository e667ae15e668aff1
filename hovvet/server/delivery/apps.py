"""The app of delivery: exports."""

from django.apps import AppConfig


class DeliveryConfig(AppConfig):
    """Declares the jobs of this app."""

    name = "hovvet.server.delivery"

    def ready(self) -> None:
        """Make the job handlers known."""
        from hovvet.server.delivery import comparing, covers, exporting, packing  # noqa: F401
