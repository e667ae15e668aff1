"""What of the Shelf an edition shows and plays: whether it may, and what its owners ask for."""

from collections.abc import Iterator
from dataclasses import dataclass

from hovvet.core.plan.model import Plan
from hovvet.core.shelf.licence import credits_for
from hovvet.core.view.shown import used
from hovvet.server.accounts.models import Workspace
from hovvet.server.assets.models import Asset
from hovvet.server.documents.sources import as_uuid
from hovvet.server.problems import Problem


@dataclass(frozen=True)
class Refused:
    """Something shown or heard that may not be (any more): what names it, what it is called, why not, and from which second
    of the clip it is there."""

    media: str
    name: str
    why: str
    seconds: float


def refused_in(workspace: Workspace, plan: Plan) -> list[Refused]:
    """What an edition shows or plays that it may not, as it comes."""
    found = _used(workspace, plan)
    return [
        Refused(asset.key, asset.name, asset.refusal, plan.rate.seconds(first))
        for first, asset in found
        if asset.refusal
    ]


def check_permission(workspace: Workspace, plan: Plan) -> None:
    """Raises Problem where something is shown or heard that may not be (any more), and says where."""
    for each in refused_in(workspace, plan):
        at = each.seconds
        raise Problem(
            409,
            f"“{each.name}”, at {int(at // 60)}:{at % 60:04.1f}, may not be used: {each.why}. Choose another one "
            "there, or change its licence on the Shelf.",
        )


def credits_of(workspace: Workspace, plan: Plan) -> list[str]:
    """The lines that a post of an edition has to have, as what they are for comes."""
    return credits_for((asset.name, asset.terms) for _, asset in _used(workspace, plan))


def _used(workspace: Workspace, plan: Plan) -> Iterator[tuple[int, Asset]]:
    """What of the Shelf is shown or heard, and the frame from which it is, in that order."""
    firsts = used(plan)
    ids = [pk for media in firsts if (pk := as_uuid(media)) is not None]
    own = Asset.objects.filter(workspace=workspace)
    assets = [*own.filter(pk__in=ids), *own.filter(recording__in=ids)]
    yield from sorted(((firsts[asset.key], asset) for asset in assets), key=lambda each: each[0])
