"""Music, and sounds."""

from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import LOUDEST, SILENT, Group, Lane, Offer, Showing
from hovvet.core.value import APART, SLIDES, called, when


class Sound(Showing):
    """A recording heard from ``start`` seconds on, at a ``volume`` in dB beside the speech (0: as loud as that),
    ``under`` dB lower wherever somebody speaks. It ``begins`` with its words, or with the first caption over them. It ``ends``
    with its words, in a ``loop`` where it is shorter; with its own ending on the last of them, bars left out or repeated for
    that; or when it is over, however long they are. It comes in ``fade_in`` and goes in ``fade_out`` seconds."""

    kind: Literal["sound"] = "sound"
    start: Annotated[float, Field(ge=0, le=200_000, title="Starts at (s)", json_schema_extra=APART)] = 0.0
    begins: Annotated[
        Literal["with its words", "with the first caption"],
        Field(title="Begins", json_schema_extra=when({"ends": "when it is over"})),
    ] = "with its words"
    volume: Annotated[
        float, Field(ge=SILENT, le=LOUDEST, title="Volume, beside the speech (dB)", json_schema_extra=SLIDES)
    ] = -8.0
    under: Annotated[float, Field(ge=0, le=30, title="Ducking: lower under speech (dB)", json_schema_extra=SLIDES)] = (
        0.0
    )
    ends: Annotated[
        Literal["with its words", "fitted", "when it is over"],
        Field(
            title="Ends",
            json_schema_extra=called(
                {
                    "with its words": "Stop with the selection",
                    "fitted": "Fit, with its own ending",
                    "when it is over": "Play out",
                }
            ),
        ),
    ] = "with its words"
    loop: Annotated[bool, Field(title="Loop if shorter", json_schema_extra=when({"ends": "with its words"}))] = True
    fade_in: Annotated[float, Field(ge=0, le=10, title="Fade in (s)")] = 0.0
    fade_out: Annotated[float, Field(ge=0, le=10, title="Fade out (s)")] = 0.4

    lane: ClassVar[Lane] = "sound"
    most: ClassVar[int] = 100
    alone: ClassVar[bool] = False
    title: ClassVar[str] = "Sound"
    group: ClassVar[Group | None] = "sound"
    offers: ClassVar[tuple[Offer, ...]] = (
        Offer(label="Sound effect", place=10, here=True, keys=("Q",), preset="Play once"),
        Offer(
            label="Sound effect at the first caption",
            place=15,
            id="effect-first-caption",
            over="clip",
            preset="Play once",
            sets={"begins": "with the first caption"},
        ),
        Offer(
            label="Music under the selected words",
            place=20,
            id="music-words",
            keys=("Shift+Q",),
            preset="Background music",
        ),
        Offer(
            label="Music from these words to the end",
            place=25,
            id="music-to-end",
            over="to the end",
            preset="Background music",
        ),
        Offer(label="Music under the whole clip", place=30, over="clip", preset="Background music"),
    )
    presets: ClassVar[dict[str, dict[str, Any]]] = {
        "Background music": {
            "ends": "with its words",
            "loop": True,
            "volume": -9.0,
            "under": 9.0,
            "fade_in": 0.5,
            "fade_out": 1.5,
        },
        "Play once": {"ends": "when it is over", "volume": -8.0, "fade_in": 0.0, "fade_out": 0.4},
    }

    @property
    def heard_at(self) -> float | None:
        """Its volume."""
        return self.volume

    def label(self) -> str:
        """Music lasts as long as its words, other sounds as long as they last."""
        return "Sound" if self.ends == "when it is over" else "Music"
