"""The outlets of a workspace: those that everybody has, and its own."""

from hovvet.core.plan.outlets import OUTLETS, Outlet
from hovvet.server.accounts.models import Workspace
from hovvet.server.documents.models import CustomOutlet


def outlets_of(workspace: Workspace) -> dict[str, Outlet]:
    """All outlets that clips of a workspace can be made for, by key."""
    own = CustomOutlet.objects.filter(workspace=workspace)
    return OUTLETS | {row.key: row.outlet for row in own}
