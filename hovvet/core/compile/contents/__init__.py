"""How each kind of content gets into the plan: a module here for each, loaded with the package."""

from hovvet.core.compile.contents.base import PLACEMENTS, Placement, placement_of
from hovvet.core.modules import load_modules

load_modules(__name__, __path__)

__all__ = ["PLACEMENTS", "Placement", "placement_of"]
