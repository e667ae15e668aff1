"""JSON that is written down before the database is locked for it."""

from typing import Any

from django.core.serializers.json import DjangoJSONEncoder


class Written(dict[str, Any]):
    """A JSON object, and its text."""

    def __init__(self, value: dict[str, Any]) -> None:
        super().__init__(value)
        self.text = DjangoJSONEncoder().encode(value)


class Encoder(DjangoJSONEncoder):
    """Takes the text of what is written already."""

    def encode(self, o: Any) -> str:
        """See JSONEncoder."""
        return o.text if isinstance(o, Written) else super().encode(o)
