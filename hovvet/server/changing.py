"""Changing what several people share: each change names the version it was made on."""

from django.db import models
from django.db.models import F

from hovvet.server.problems import Problem


def change_row(row: models.Model, version: int, **values: object) -> None:
    """Write values into a row with a ``version`` that is still this one. Raises Problem when it has moved on."""
    rows = type(row)._default_manager.filter(pk=row.pk, version=version)
    if not rows.update(version=F("version") + 1, **values):
        raise Problem(409, "Somebody else changed this in the meantime. Look at it again, then make your change.")
    row.refresh_from_db(fields=["version", *values])
