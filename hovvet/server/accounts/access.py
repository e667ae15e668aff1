"""Who is asking, and what they may see."""

from typing import TypeVar

from django.contrib.auth.models import User
from django.db.models import Model, QuerySet
from django.http import Http404, HttpRequest

from hovvet.server.accounts.models import Workspace

M = TypeVar("M", bound=Model)


def user_of(request: HttpRequest) -> User:
    """The signed-in user. Raises Http404 for nobody."""
    if not isinstance(request.user, User):
        raise Http404("Nobody is signed in.")
    return request.user


def workspace_of(request: HttpRequest) -> Workspace:
    """The workspace of the signed-in user. Raises Http404 for a user without one."""
    workspace = Workspace.objects.filter(memberships__user=user_of(request)).order_by("memberships__pk").first()
    if workspace is None:
        raise Http404("You are not a member of any workspace. Ask whoever invited you.")
    return workspace


def visible_to(request: HttpRequest, objects: QuerySet[M]) -> QuerySet[M]:
    """Those of the asker's workspace. Another workspace's objects do not exist."""
    return objects.filter(workspace=workspace_of(request))


def find(request: HttpRequest, objects: QuerySet[M], **lookup: object) -> M:
    """One object of the asker's workspace. Another workspace's object does not exist: Http404."""
    found = visible_to(request, objects).filter(**lookup).first()
    if found is None:
        raise Http404(f"That {objects.model._meta.verbose_name} does not exist, or it has been deleted.")
    return found
