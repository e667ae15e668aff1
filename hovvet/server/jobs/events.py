"""What happens to jobs, for the apps that come later: they listen, and are never called by name."""

from django.dispatch import Signal

ended = Signal()
"""A ``job`` is done, or has failed for good."""
