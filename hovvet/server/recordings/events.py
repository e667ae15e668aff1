"""What happens to recordings, for the apps that come later: they listen, and are never called by name."""

from django.dispatch import Signal

words_found = Signal()
"""All words of a ``recording`` have been found, or found anew."""

words_given_up = Signal()
"""The words of a ``recording`` are to be found anew: what was found in them is of no use any more."""

counted = Signal()
"""Asked of whoever found something in ``recordings``: how much of it waits to be looked at, by the id of the recording."""

ready_to_be_seen = Signal()
"""A ``recording`` for the Shelf has been prepared, and has a picture."""

came_in = Signal()
"""An ``upload`` is there, all of it or what was kept of it, and has become a ``recording``."""
