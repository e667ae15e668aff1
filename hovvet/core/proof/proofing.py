"""What is wrong with an edition of a clip: all checks, one after the other."""

from hovvet.core.proof.checks import CHECKS
from hovvet.core.proof.fault import GRAVITIES, Fault
from hovvet.core.proof.looked import Looked
from hovvet.core.proof.registry import GROUPS

_GRAVITIES, _GROUPS = list(GRAVITIES), list(GROUPS)


def proof(looked: Looked) -> list[Fault]:
    """All that is wrong, the worst first; then by group, by check, and in the order of the clip."""
    if not looked.plan.frames:
        return []
    found = [fault for each in CHECKS.values() for fault in each.faults(looked)]
    order = {key: n for n, key in enumerate(CHECKS)}

    def rank(fault: Fault) -> tuple[int, int, int, float]:
        group = _GROUPS.index(CHECKS[fault.check].group)
        at = fault.where.start if fault.where else 0.0
        return _GRAVITIES.index(fault.gravity), group, order[fault.check], at

    return sorted(found, key=rank)


def stopping(looked: Looked) -> list[Fault]:
    """What keeps it from being exported: that alone is looked for."""
    return [fault for each in CHECKS.values() if each.gravity == "stops" for fault in each.faults(looked)]
