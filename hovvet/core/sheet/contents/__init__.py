"""The kinds of content: a module here for each, loaded with the package, and one in ``core/compile/contents``."""

from typing import Annotated

from hovvet.core.modules import load_modules
from hovvet.core.sheet.contents import base
from hovvet.core.sheet.contents.base import KINDS, OfAnyKind

load_modules(__name__, __path__)

Content = Annotated[base.Content, OfAnyKind()]

__all__ = ["KINDS", "Content"]
