"""What the API takes and answers: each field may be described beneath it, and is so in the OpenAPI document."""

import ninja
from pydantic import ConfigDict

from hovvet.core.value import DOCUMENTED


class Schema(ninja.Schema):
    """A model of the API."""

    model_config = ConfigDict(use_attribute_docstrings=DOCUMENTED)
