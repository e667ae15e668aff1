"""How captions look."""

from pathlib import Path

from pydantic import BaseModel, ConfigDict

from hovvet.core.errors import CoreError

FONTS = Path(__file__).parent / "fonts"


class CaptionStyle(BaseModel):
    """Sizes in pixels of a 1080 pixel wide picture; colours as ``#RRGGBB``."""

    model_config = ConfigDict(frozen=True)

    key: str
    name: str
    family: str
    file: str
    size: float
    smallest: float
    colour: str = "#FFFFFF"
    spoken: str = "#FFD66B"
    outline: str = "#20242B"
    outline_width: float = 7.0
    shadow: float = 2.0


# Where a letter is missing from a style's font, this one draws it, in preview and export alike.
FALLBACK_FAMILY, FALLBACK_FILE = "Hovvet Fallback", "fallback.ttf"

STYLES: dict[str, CaptionStyle] = {
    style.key: style
    for style in (CaptionStyle(key="bold", name="Bold", family="Hovvet Bold", file="bold.ttf", size=96, smallest=44),)
}


def caption_style(key: str) -> CaptionStyle:
    """The style with this key. Raises CoreError when there is none."""
    try:
        return STYLES[key]
    except KeyError:
        raise CoreError(f"There is no caption style “{key}”. Choose one of: {', '.join(STYLES)}, none.") from None
