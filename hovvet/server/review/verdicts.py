"""What reviewers think of films, for all that list them."""

import uuid
from collections.abc import Iterable

from hovvet.core.outbox.states import Verdict as Thought
from hovvet.server.review.models import ReviewVersion, Verdict


def verdicts_of(exports: Iterable[uuid.UUID]) -> dict[uuid.UUID, Thought]:
    """What was last said of each film that is, or was, under a review link; "open" where nothing was said and somebody still can.
    Two queries for any number."""
    ids = list(exports)
    found: dict[uuid.UUID, Thought] = {}
    for version in ReviewVersion.objects.filter(export__in=ids).select_related("item__link"):
        if version.item.link.holds:
            found[version.export_id] = "open"
    said = Verdict.objects.filter(version__export__in=ids).order_by("pk").values_list("version__export_id", "says")
    for export, says in said:
        found[export] = "approved" if says == Verdict.Says.APPROVED else "changes"
    return found
