"""Louder, softer or mute, over words."""

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from hovvet.core.sheet.contents.base import SILENT, Content, Group, Lane, Offer
from hovvet.core.value import SLIDES, called

Of = Literal["speech", "music and sounds", "all"]


class Volume(Content):
    """What is heard over words is ``volume`` dB louder, or softer; at ``SILENT`` it is mute. It comes to that in
    ``fade_in`` seconds from their beginning on, and is back after ``fade_out`` seconds at their end. The rest of the mix
    stays as it is."""

    kind: Literal["volume"] = "volume"
    of: Annotated[
        Of,
        Field(
            title="Of",
            json_schema_extra=called({"speech": "Speech", "music and sounds": "Music and sounds", "all": "Everything"}),
        ),
    ] = "speech"
    volume: Annotated[float, Field(ge=SILENT, le=12, title="Volume (dB)", json_schema_extra=SLIDES)] = -6.0
    fade_in: Annotated[float, Field(ge=0, le=10, title="Fade into it (s)")] = 0.0
    fade_out: Annotated[float, Field(ge=0, le=10, title="Fade back (s)")] = 0.0

    lane: ClassVar[Lane] = "sound"
    alone: ClassVar[bool] = False
    title: ClassVar[str] = "Volume"
    group: ClassVar[Group | None] = "sound"
    offers: ClassVar[tuple[Offer, ...]] = (
        Offer(label="Volume over these words", place=40),
        Offer(label="Mute speech", place=50, id="mute-speech", sets={"volume": SILENT}),
    )

    def label(self) -> str:
        """How loud, and what."""
        name = {"speech": "Speech", "music and sounds": "Music", "all": "All"}[self.of]
        return f"{name} muted" if self.volume <= SILENT else f"{name} {self.volume:+g} dB"
