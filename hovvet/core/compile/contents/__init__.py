"""How each kind of content gets into the plan: one module and one line here for each."""

from hovvet.core.compile.contents.aside import AsidePlacement
from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.contents.broll import BrollPlacement
from hovvet.core.compile.contents.ends import EndsPlacement
from hovvet.core.compile.contents.framing import FramingPlacement
from hovvet.core.compile.contents.hold import HoldPlacement
from hovvet.core.compile.contents.join import JoinPlacement
from hovvet.core.compile.contents.logo import LogoPlacement
from hovvet.core.compile.contents.look import LookPlacement
from hovvet.core.compile.contents.marker import MarkerPlacement
from hovvet.core.compile.contents.progress import ProgressPlacement
from hovvet.core.compile.contents.punch import PunchPlacement
from hovvet.core.compile.contents.slide import SlidePlacement
from hovvet.core.compile.contents.sound import SoundPlacement
from hovvet.core.compile.contents.speed import SpeedPlacement
from hovvet.core.compile.contents.sticker import StickerPlacement
from hovvet.core.compile.contents.title import TitlePlacement
from hovvet.core.compile.contents.waveform import WaveformPlacement
from hovvet.core.compile.contents.wording import WordingPlacement

PLACEMENTS: dict[str, Placement] = {
    "framing": FramingPlacement(),
    "broll": BrollPlacement(),
    "slide": SlidePlacement(),
    "waveform": WaveformPlacement(),
    "punch": PunchPlacement(),
    "look": LookPlacement(),
    "speed": SpeedPlacement(),
    "hold": HoldPlacement(),
    "join": JoinPlacement(),
    "ends": EndsPlacement(),
    "wording": WordingPlacement(),
    "title": TitlePlacement(),
    "sticker": StickerPlacement(),
    "logo": LogoPlacement(),
    "progress": ProgressPlacement(),
    "sound": SoundPlacement(),
    "aside": AsidePlacement(),
    "marker": MarkerPlacement(),
}
