"""The app of the proof: what is wrong with clips."""

from django.apps import AppConfig


class ProofConfig(AppConfig):
    """Its models."""

    name = "hovvet.server.proof"
