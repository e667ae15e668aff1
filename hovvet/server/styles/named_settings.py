"""Settings that a workspace keeps under a name."""

import uuid
from collections.abc import Container

from django.db.models import QuerySet
from django.http import HttpRequest

from hovvet.core.text import is_blank
from hovvet.server.accounts.access import find, visible_to, workspace_of
from hovvet.server.problems import Problem
from hovvet.server.styles.models import NamedSettings

MOST = 50  # of a kind


def kept_of(request: HttpRequest, kind: NamedSettings.Kind) -> QuerySet[NamedSettings]:
    """All that the person's workspace keeps of a kind, oldest first."""
    return visible_to(request, NamedSettings.objects.filter(kind=kind))


def find_kept(request: HttpRequest, kind: NamedSettings.Kind, key: str) -> NamedSettings:
    """One of them. Raises Problem for what is everybody's, or is not there."""
    try:
        pk = uuid.UUID(key.removeprefix("own-"))
    except ValueError:
        raise Problem(
            409, f"This {kind} is everybody's, so it cannot be changed. Keep a changed one as your own."
        ) from None
    return find(request, NamedSettings.objects.filter(kind=kind), pk=pk)


def keep(
    request: HttpRequest,
    kind: NamedSettings.Kind,
    name: str,
    settings: object,
    everybodys: Container[str],
    key: str = "",
) -> NamedSettings:
    """Keep settings under a name that is not taken, nor one of ``everybodys`` (in lower case); in place of those of ``key``,
    where there is one. Raises Problem."""
    name, others = name.strip(), kept_of(request, kind)
    row = find_kept(request, kind, key) if key else NamedSettings(workspace=workspace_of(request), kind=kind)
    others = others.exclude(pk=row.pk)
    if not key and others.count() >= MOST:
        raise Problem(409, f"There are {MOST} of them already. Delete a {kind} that is not used.")
    if is_blank(name) or name.lower() in everybodys or others.filter(name__iexact=name).exists():
        raise Problem(409, f"There is a {kind} called “{name}” already. Give this one another name.")
    row.name, row.settings_json = name, settings
    row.version += bool(key)
    row.save()
    return row
