"""What happens to documents, for the apps that come later: they listen, and are never called by name."""

from django.dispatch import Signal

copied = Signal()
"""Of a ``clip`` there is a ``copy``."""
