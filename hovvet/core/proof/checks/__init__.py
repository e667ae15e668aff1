"""What is checked: a module for what belongs together, each function of it one check; loaded with the package."""

from hovvet.core.modules import load_modules
from hovvet.core.proof.registry import CHECKS

load_modules(__name__, __path__)

__all__ = ["CHECKS"]
