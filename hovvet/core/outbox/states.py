"""The one line of states of an edition, from not made yet to sent, told from what is known of its newest film."""

from typing import Literal

from hovvet.core.value import Value

State = Literal[
    "none", "making", "failed", "exported", "review", "changes", "approved", "changed", "planned", "asks", "sent"
]
STATES: dict[State, str] = {
    "none": "Not exported",
    "making": "Being made",
    "failed": "Export failed",
    "exported": "Exported",
    "review": "To review",
    "changes": "Changes wanted",
    "approved": "Approved",
    "changed": "Out of date",
    "planned": "Planned",
    "asks": "Needs you",
    "sent": "Sent",
}
Film = Literal["", "making", "failed", "ready"]
Verdict = Literal["", "open", "changes", "approved"]
Sending = Literal["", "planned", "sending", "waiting", "missed", "held", "failed", "sent"]
SENDINGS: dict[Sending, str] = {
    "planned": "Planned",
    "sending": "Being sent",
    "waiting": "Will be tried again",
    "missed": "Missed its time",
    "held": "Held back",
    "failed": "Not sent",
    "sent": "Sent",
}
ASKS: tuple[Sending, ...] = ("missed", "held", "failed")  # somebody has to say how it goes on
UNSENT: tuple[Sending, ...] = ("planned", "missed", "held", "failed", "waiting")  # can still be put off, or taken back
UNMADE: tuple[State, ...] = ("none", "failed", "changed")  # there is no film of it as its clip is now


class Known(Value):
    """What is known of an edition's newest film. ``sendings`` are those of that film, to any account."""

    film: Film = ""
    current: bool = True
    """Whether the clip is still as the film has it."""
    verdict: Verdict = ""
    """What is said of it where it is looked at; "open": nothing yet."""
    sendings: tuple[Sending, ...] = ()


def state_of(known: Known) -> State:
    """How far it is. What asks for a person goes before all, what is out of date before what was said of it; a film that has
    gone out stays sent when its clip changes, for it is."""
    if any(each in ASKS for each in known.sendings):
        return "asks"
    if known.film != "ready":
        return known.film or "none"
    if any(each in ("planned", "sending", "waiting") for each in known.sendings):
        return "planned"
    if "sent" in known.sendings:
        return "sent"
    if not known.current:
        return "changed"
    if known.verdict:
        return "review" if known.verdict == "open" else known.verdict
    return "exported"
