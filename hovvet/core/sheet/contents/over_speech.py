"""A voice over the clip: what is recorded for it, and what is read for it."""

from typing import Annotated

from pydantic import Field

from hovvet.core.sheet.contents.base import LOUDEST, SILENT, Content
from hovvet.core.value import SLIDES

MUTED = 40.0  # dB: speech that much lower is not heard


class OverSpeech(Content):
    """A voice that begins with its words, at a ``volume`` in dB beside the speech. While it speaks, the speech of the clip is
    ``under`` dB lower, at ``MUTED`` not heard; its words are those of the captions then, if it has ``captions``."""

    volume: Annotated[
        float, Field(ge=SILENT, le=LOUDEST, title="Volume, beside the speech (dB)", json_schema_extra=SLIDES)
    ] = 0.0
    under: Annotated[
        float,
        Field(ge=0, le=MUTED, title=f"Speech under it: lower by (dB, {MUTED:.0f} mutes)", json_schema_extra=SLIDES),
    ] = MUTED
    captions: Annotated[bool, Field(title="Captions from its words")] = True

    @property
    def heard_at(self) -> float | None:
        """Its volume."""
        return self.volume

    @property
    def travels(self) -> bool:
        """What is said over one clip means nothing over another."""
        return False
