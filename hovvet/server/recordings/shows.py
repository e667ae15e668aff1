"""Shows: folders of recordings with what they have in common, and the names & terms of a show or a recording."""

from collections.abc import Sequence

from hovvet.core.words.glossary import Term, with_term
from hovvet.server.recordings.models import Defaults, Recording, Show


def move_to_show(recording: Recording, show: Show | None) -> None:
    """Put a recording into a show; its own names & terms are added to the show's."""
    if show is not None and recording.show_id is None and recording.terms:
        terms: Sequence[Term] = show.terms
        for term in recording.terms:
            for heard in term.heard or ("",):
                terms = with_term(terms, term.text, heard)
        set_terms(show, terms)
        recording.terms_json = []
    recording.show = show


def set_terms(kept_with: Defaults, terms: Sequence[Term]) -> None:
    """Write down the names & terms of a show or a recording."""
    kept_with.terms_json = [term.model_dump(mode="json") for term in terms]
    kept_with.save(update_fields=["terms_json"])
