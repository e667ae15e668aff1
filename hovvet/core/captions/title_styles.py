"""How titles look: templates of our own."""

from dataclasses import dataclass
from typing import Literal

from hovvet.core.captions.style import Box, CaptionStyle, Entrance, Spoken

Sort = Literal["Hook", "Header", "Lower third", "Quote", "Call to action", "Chapter", "Number", "List", "Slide"]
_PAPER, _INK, _BLUE, _RUST, _MOSS, _OCHRE = "#FAF6EE", "#20242B", "#2B5FC7", "#C2412D", "#47713F", "#FFD66B"


@dataclass(frozen=True)
class Template:
    """A style of letters for titles of a ``sort``. A line has about so many ``characters``; a second text under the first is
    ``small`` times as large. Who chooses it mostly wants what it ``sets``."""

    sort: Sort
    style: CaptionStyle
    characters: int = 16
    small: float = 0.6

    @property
    def sets(self) -> dict[str, bool]:
        """Whether titles of its sort build up, and count."""
        return {"builds": self.sort == "List", "counts": self.sort == "Number"}


def _template(sort: Sort, key: str, name: str, characters: int, height: float, **style: object) -> Template:
    usual = {"spoken": Spoken(how="none"), "keyword": None, "smallest": 10, "height": height}
    return Template(sort, CaptionStyle(key=key, name=name, **usual | style), characters)  # type: ignore[arg-type]


def _box(colour: str, behind: Literal["whole", "line"] = "whole", opacity: float = 1.0, radius: float = 0.1) -> Box:
    return Box(behind=behind, colour=colour, opacity=opacity, padding=0.24, radius=radius)


def _comes(
    how: Literal["none", "fade", "rise", "pop", "slide", "typed"], seconds: float = 0.25, leaves: bool = True
) -> Entrance:
    return Entrance(how=how, seconds=seconds, leaves=leaves)


_BARE = {"outline_width": 0, "shadow": 0, "line_height": 1.12}

TEMPLATES: dict[str, Template] = {
    each.style.key: each
    for each in (
        _template("Hook", "headline", "Headline", 14, 0.1, font="poster", size=132, case="upper", outline_width=9,
                  word_spacing=0.08, line_height=0.98, entrance=_comes("pop")),
        _template("Hook", "tape", "Tape", 16, 0.12, font="plain", size=88, colour=_INK, box=_box(_OCHRE, "line"), turn=-3,
                  entrance=_comes("slide"), **_BARE),
        _template("Hook", "plate", "Plate", 14, 0.14, font="wide", size=84, box=_box(_RUST, radius=0.16),
                  entrance=_comes("rise"), **_BARE),
        _template("Hook", "typewriter", "Typewriter", 18, 0.14, font="machine", size=68, colour=_PAPER, align="left",
                  box=_box(_INK, opacity=0.85), entrance=_comes("typed", 0.9), **_BARE),
        _template("Header", "header", "Header", 24, 0.0, font="condensed", size=64, box=_box(_INK, "line", 0.85),
                  entrance=_comes("fade"), **_BARE),
        _template("Header", "quiet-header", "Quiet header", 28, 0.0, font="book", size=50, outline_width=3, shadow=1,
                  entrance=_comes("fade", 0.4)),
        _template("Lower third", "name-card", "Name card", 22, 0.72, font="plain", size=62, colour=_INK, align="left",
                  box=_box(_PAPER), entrance=_comes("rise"), **_BARE),
        _template("Lower third", "name-line", "Name line", 22, 0.74, font="condensed", size=70, outline_width=5,
                  align="left", entrance=_comes("slide")),
        _template("Lower third", "name-stamp", "Name stamp", 22, 0.72, font="round", size=60, align="left",
                  box=_box(_BLUE, "line", radius=0.3), entrance=_comes("pop"), **_BARE),
        _template("Quote", "quote", "Quote", 20, 0.45, font="book", size=78, box=_box(_INK, opacity=0.8),
                  entrance=_comes("fade", 0.4), **_BARE),
        _template("Quote", "by-hand", "By hand", 18, 0.42, font="hand", size=126, colour=_OCHRE, outline_width=4, turn=-3,
                  line_height=0.86, entrance=_comes("typed", 0.8)),
        _template("Call to action", "button", "Button", 18, 0.6, font="wide", size=62, colour=_INK,
                  box=_box(_OCHRE, radius=0.34), entrance=_comes("pop"), **_BARE),
        _template("Call to action", "reminder", "Reminder", 20, 0.62, font="round", size=64, box=_box(_MOSS, "line", radius=0.2),
                  entrance=_comes("rise"), **_BARE),
        _template("Chapter", "chapter", "Chapter", 20, 0.05, font="condensed", size=76, case="upper", colour=_OCHRE,
                  outline_width=6, align="left", entrance=_comes("slide")),
        _template("Chapter", "step", "Step", 20, 0.05, font="machine", size=60, colour=_PAPER, align="left",
                  box=_box(_RUST, "line"), entrance=_comes("fade"), **_BARE),
        _template("List", "list", "List", 22, 0.4, font="plain", size=66, colour=_INK, align="left", box=_box(_PAPER, "line"),
                  entrance=_comes("rise"), **_BARE),
        _template("List", "list-board", "On a board", 24, 0.4, font="machine", size=58, colour=_PAPER, align="left",
                  box=_box(_INK, opacity=0.85), entrance=_comes("fade"), **_BARE),
        _template("Slide", "slide", "Slide", 14, 0.42, font="wide", size=100, entrance=_comes("rise"), **_BARE),
        _template("Slide", "slide-book", "Page", 18, 0.42, font="book", size=88, colour=_OCHRE, align="left",
                  entrance=_comes("fade", 0.4), **_BARE),
        _template("Number", "number", "Number", 8, 0.3, font="poster", size=230, colour=_OCHRE, outline_width=10,
                  entrance=_comes("pop")),
    )
}  # fmt: skip
