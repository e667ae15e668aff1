"""Reading plans as they were written by earlier releases: a file that waits to be exported has one."""

import re

from hovvet.core.errors import CoreError
from hovvet.core.plan.model import VERSION, Plan
from hovvet.core.versions import Stored, Upgrades

_OLDEST = 2  # plans before did not say all that is drawn
_upgraded = Upgrades(VERSION)


def read_plan(stored: Stored) -> Plan:
    """A stored plan. Raises CoreError for one that is too old, or from a later release, pydantic's ValidationError for what
    is none."""
    if not _OLDEST <= stored.get("version", 1) <= VERSION:
        raise CoreError("This export was asked for in another release. Export the clip again.")
    return Plan.model_validate(_upgraded(stored))


@_upgraded.step(2)
def _named_as_the_trade_does(plan: Stored) -> Stored:
    """Vignette and sharpening were called corners and edges, and captions that nobody says asides; what had to be made had no version in its name."""
    fields = {"corners": "vignette", "edges": "sharpening"}
    picture = [{fields.get(key, key): value for key, value in layer.items()} for layer in plan.get("picture", ())]
    words = [
        {"layer" if key == "aside" else key: value for key, value in word.items()} for word in plan.get("words", ())
    ]
    named = {"picture": picture, "words": words}
    for part in ("sound", "prepared"):
        named[part] = [each | {"media": re.sub("^made-", "made1-", each["media"])} for each in plan.get(part, ())]
    return plan | named
