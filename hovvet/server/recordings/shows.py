"""Shows: folders of recordings with what they have in common, and the names & terms of a show or a recording."""

from collections.abc import Sequence

from hovvet.core.words.glossary import Term, merged_terms
from hovvet.server.recordings.models import Defaults, Recording, Show


def move_to_show(recording: Recording, show: Show | None) -> None:
    """Put a recording into a show; its own names & terms are added to the show's."""
    if show is not None and recording.show_id is None and recording.terms:
        own = recording.terms
        show.change_terms(lambda terms: merged_terms(terms, own))
        recording.terms_json = []
    recording.show = show


def set_terms(kept_with: Defaults, terms: Sequence[Term]) -> None:
    """Write down the names & terms of a show or a recording, in place of those it has."""
    kept_with.change_terms(lambda _: terms)
