"""Music, and sounds."""

from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import Group, Lane, Offer, Showing
from hovvet.core.value import APART, SLIDES, when


class Sound(Showing):
    """A recording heard from ``start`` seconds on, ``loud`` beside the speech (1: as loud as that). It ``ends`` with its
    words, begun ``again`` where it is shorter, or when it is over, however long they are; it comes in ``fade_in`` and goes
    in ``fade_out`` seconds."""

    kind: Literal["sound"] = "sound"
    start: Annotated[float, Field(ge=0, le=200_000, title="From, seconds", json_schema_extra=APART)] = 0.0
    loud: Annotated[float, Field(ge=0, le=1.5, title="How loud, beside the speech", json_schema_extra=SLIDES)] = 0.4
    ends: Annotated[Literal["with its words", "when it is over"], Field(title="It ends")] = "with its words"
    again: Annotated[
        bool, Field(title="Begun again where it is shorter", json_schema_extra=when({"ends": "with its words"}))
    ] = True
    fade_in: Annotated[float, Field(ge=0, le=10, title="Comes in, seconds")] = 0.0
    fade_out: Annotated[float, Field(ge=0, le=10, title="Goes in, seconds")] = 0.4

    lane: ClassVar[Lane] = "sound"
    most: ClassVar[int] = 100
    alone: ClassVar[bool] = False
    title: ClassVar[str] = "Sound"
    group: ClassVar[Group | None] = "sound"
    offers: ClassVar[tuple[Offer, ...]] = (
        Offer(label="Sound over the selected words", place=10, keys=("Q",), preset="Once, to its end"),
        Offer(
            label="Music under the selected words",
            place=20,
            id="music-words",
            keys=("Shift+Q",),
            preset="Under the speech",
        ),
        Offer(label="Music under the whole clip", place=30, over="clip", preset="Under the speech"),
    )
    presets: ClassVar[dict[str, dict[str, Any]]] = {
        "Under the speech": {"ends": "with its words", "again": True, "loud": 0.15, "fade_in": 0.5, "fade_out": 1.5},
        "Once, to its end": {"ends": "when it is over", "loud": 0.4, "fade_in": 0.0, "fade_out": 0.4},
    }

    def label(self) -> str:
        """Music lasts as long as its words, other sounds as long as they last."""
        return "Music" if self.ends == "with its words" else "Sound"
