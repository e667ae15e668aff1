"""What a clip has once for all its editions, or otherwise for one of them: each with a version, so that two who change it at
once lose nothing."""

from dataclasses import dataclass
from typing import Any, Generic, Self, TypeVar

from django.db import IntegrityError, models, transaction
from pydantic import BaseModel

from hovvet.server.documents.models import Document

V = TypeVar("V", bound=BaseModel)


class Newer(Exception):
    """Somebody has kept something else in the meantime."""


@dataclass(frozen=True)
class Chosen(Generic[V]):
    """What an edition has; ``own`` says whether that is of it alone. Version 0 is not kept yet."""

    value: V
    own: bool
    version: int


class PerEdition(models.Model):
    """One for all editions of a clip (``edition`` is ""), and one for each that has another."""

    document = models.ForeignKey(Document, models.CASCADE, related_name="%(class)ss")
    edition = models.CharField(max_length=64, default="")
    kept_json = models.JSONField(default=dict)
    version = models.PositiveIntegerField(default=1)  # grows with every change

    class Meta:
        abstract = True
        constraints = [models.UniqueConstraint(fields=["document", "edition"], name="one_%(class)s_of_an_edition")]

    def __str__(self) -> str:
        return f"{self.document}, {self.edition or 'all editions'}"

    @classmethod
    def _rows(cls) -> "models.Manager[Self]":
        return cls._default_manager

    @classmethod
    def chosen(cls, document: Document, edition: str, kind: type[V]) -> Chosen[V]:
        """What an edition has: its own, that of all, or nothing yet."""
        rows = {row.edition: row for row in cls._rows().filter(document=document, edition__in=("", edition))}
        row = rows.get(edition) or rows.get("")
        if row is None:
            return Chosen(kind(), own=False, version=0)
        return Chosen(kind.model_validate(row.kept_json), bool(row.edition), row.version)

    @classmethod
    def keep(cls, document: Document, edition: str, value: V, version: int) -> Chosen[V]:
        """Keep it, for all editions ("") or for one, over what had this ``version``. Raises Newer."""
        kept: dict[str, Any] = value.model_dump(mode="json")
        if version == 0:
            try:
                with transaction.atomic():
                    cls._rows().create(document=document, edition=edition, kept_json=kept)
            except IntegrityError:
                raise Newer from None
        elif not (
            cls._rows()
            .filter(document=document, edition=edition, version=version)
            .update(kept_json=kept, version=version + 1)
        ):
            raise Newer
        return Chosen(value, bool(edition), version + 1)

    @classmethod
    def as_for_all(cls, document: Document, edition: str) -> None:
        """Let an edition have what all have again."""
        cls._rows().filter(document=document, edition=edition).exclude(edition="").delete()

    @classmethod
    def copy(cls, document: Document, onto: Document) -> None:
        """A copy of a clip has the same."""
        rows = cls._rows().filter(document=document)
        cls._rows().bulk_create(cls(document=onto, edition=row.edition, kept_json=row.kept_json) for row in rows)
