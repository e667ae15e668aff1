"""What may be heard as it comes on screen."""

from typing import Annotated

from pydantic import Field

from hovvet.core.sheet.contents.base import LOUDEST, SILENT, Content
from hovvet.core.value import APART, SLIDES


class Entering(Content):
    """Something that comes on screen with an ``effect`` that is heard once at its first frame, at ``effect_volume`` dB beside
    the speech: it goes wherever its words go. "" is none."""

    effect: Annotated[
        str, Field(max_length=64, pattern=r"^[\w.-]*$", title="Sound at its entrance", json_schema_extra=APART)
    ] = ""
    effect_volume: Annotated[
        float, Field(ge=SILENT, le=LOUDEST, title="Volume of that sound (dB)", json_schema_extra=APART | SLIDES)
    ] = -8.0

    @property
    def media_shown(self) -> tuple[str, ...]:
        """Also what is heard at its entrance."""
        return (*super().media_shown, *((self.effect,) if self.effect else ()))
