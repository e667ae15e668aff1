"""The fonts that ship for captions, each one file for all the letters it has."""

from dataclasses import dataclass
from pathlib import Path

FONTS = Path(__file__).parent / "fonts"


@dataclass(frozen=True)
class Font:
    """``family`` is its name in scripts, its own so that no other font of the machine is taken for it; ``file`` one of
    ``FONTS``, or the path of one that a workspace brought in, which ``asset`` names. ``package`` is the npm package that a
    shipped one is made from, in one ``weight`` and these ``subsets``."""

    name: str
    family: str
    file: str
    package: str = ""
    weight: int = 400
    subsets: tuple[str, ...] = ("latin", "latin-ext")
    asset: str = ""


# Where a letter is missing from a style's font, this one draws it, in preview and export alike.
FALLBACK = Font(
    "Fallback", "Hovvet Fallback", "fallback.ttf", "noto-sans", 700,
    ("latin", "latin-ext", "greek", "cyrillic", "vietnamese"),
)  # fmt: skip

CAPTION_FONTS: dict[str, Font] = {
    "condensed": Font("Condensed", "Hovvet Bold", "bold.ttf", "barlow-semi-condensed", 800),
    "wide": Font("Wide", "Hovvet Wide", "wide.ttf", "archivo-black", 400),
    "poster": Font("Poster", "Hovvet Poster", "poster.ttf", "anton", 400),
    "round": Font("Round", "Hovvet Round", "round.ttf", "nunito", 800),
    "plain": Font("Plain", "Hovvet Plain", "plain.ttf", "instrument-sans", 600),
    "book": Font("Book", "Hovvet Book", "book.ttf", "bitter", 700),
    "machine": Font("Machine", "Hovvet Machine", "machine.ttf", "courier-prime", 700),
    "hand": Font("Hand", "Hovvet Hand", "hand.ttf", "caveat", 700),
}
