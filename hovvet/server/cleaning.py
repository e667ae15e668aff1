"""Texts that come in over HTTP, cleaned before anything looks at them."""

from typing import Any, cast

from django.http import HttpRequest
from django.utils.datastructures import MultiValueDict
from ninja.parser import Parser

from hovvet.core.text import clean_all


class CleanParser(Parser):
    """Reads bodies and queries for the API, so that no endpoint has to think of control characters."""

    def parse_body(self, request: HttpRequest) -> dict[str, Any]:
        """A body of JSON with clean texts."""
        return cast(dict[str, Any], clean_all(super().parse_body(request)))

    def parse_querydict(
        self, data: "MultiValueDict[str, Any]", list_fields: list[str], request: HttpRequest
    ) -> dict[str, Any]:
        """A query or a form with clean texts; files stay as they are."""
        return cast(dict[str, Any], clean_all(super().parse_querydict(data, list_fields, request)))
