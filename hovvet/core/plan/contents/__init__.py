"""How each kind of content gets into the plan: one module and one line here for each."""

from hovvet.core.plan.contents.aside import AsidePlacement
from hovvet.core.plan.contents.base import Placement
from hovvet.core.plan.contents.broll import BrollPlacement
from hovvet.core.plan.contents.ends import EndsPlacement
from hovvet.core.plan.contents.framing import FramingPlacement
from hovvet.core.plan.contents.hold import HoldPlacement
from hovvet.core.plan.contents.join import JoinPlacement
from hovvet.core.plan.contents.logo import LogoPlacement
from hovvet.core.plan.contents.look import LookPlacement
from hovvet.core.plan.contents.marker import MarkerPlacement
from hovvet.core.plan.contents.progress import ProgressPlacement
from hovvet.core.plan.contents.punch import PunchPlacement
from hovvet.core.plan.contents.slide import SlidePlacement
from hovvet.core.plan.contents.sound import SoundPlacement
from hovvet.core.plan.contents.speed import SpeedPlacement
from hovvet.core.plan.contents.sticker import StickerPlacement
from hovvet.core.plan.contents.title import TitlePlacement
from hovvet.core.plan.contents.waveform import WaveformPlacement
from hovvet.core.plan.contents.wording import WordingPlacement

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
