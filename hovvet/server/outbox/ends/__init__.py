"""Where posts are sent to. A real outlet is one module more here, with a ``PostingEnd`` that it registers."""

from hovvet.core.modules import load_modules
from hovvet.server.outbox.ends.base import ENDS

load_modules(__name__, __path__)

__all__ = ["ENDS"]
