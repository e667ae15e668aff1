"""What of the Shelf an edition shows and plays: whether it may, and what its owners ask for."""

from hovvet.core.plan.model import Plan
from hovvet.core.shelf.licence import credits_for
from hovvet.core.shelf.used import OnShelf
from hovvet.core.view.shown import used
from hovvet.server.accounts.models import Workspace
from hovvet.server.assets.models import Asset
from hovvet.server.documents.sources import as_uuid


def shelf_used(workspace: Workspace, plan: Plan) -> list[OnShelf]:
    """What of the Shelf is shown or heard, in the order in which it is first."""
    firsts = used(plan)
    ids = [pk for media in firsts if (pk := as_uuid(media)) is not None]
    own = Asset.objects.filter(workspace=workspace)
    assets = [*own.filter(pk__in=ids), *own.filter(recording__in=ids)]
    found = [
        OnShelf(
            asset.key, asset.name, firsts[asset.key], asset.refusal, "".join(credits_for([(asset.name, asset.terms)]))
        )
        for asset in assets
    ]
    return sorted(found, key=lambda each: each.frame)


def credits_of(workspace: Workspace, plan: Plan) -> list[str]:
    """The lines that a post of an edition has to have, each once, as what they are for comes."""
    return list(dict.fromkeys(each.credit for each in shelf_used(workspace, plan) if each.credit))
