"""The kinds of content. A new one is a module here, a line in ``Content``, and a module in ``core/compile/contents``."""

from typing import Annotated, Any, get_args

from pydantic import Field

from hovvet.core.sheet.contents import base
from hovvet.core.sheet.contents.aside import Aside
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.sheet.contents.ends import Ends
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.hold import Hold
from hovvet.core.sheet.contents.join import Join
from hovvet.core.sheet.contents.logo import Logo
from hovvet.core.sheet.contents.look import Look
from hovvet.core.sheet.contents.marker import Marker
from hovvet.core.sheet.contents.progress import Progress
from hovvet.core.sheet.contents.punch import Punch
from hovvet.core.sheet.contents.slide import Slide
from hovvet.core.sheet.contents.sound import Sound
from hovvet.core.sheet.contents.speed import Speed
from hovvet.core.sheet.contents.sticker import Sticker
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.contents.waveform import Waveform
from hovvet.core.sheet.contents.wording import Wording

Content = Annotated[
    Framing
    | Broll
    | Slide
    | Waveform
    | Punch
    | Look
    | Title
    | Sticker
    | Logo
    | Progress
    | Sound
    | Speed
    | Hold
    | Join
    | Ends
    | Wording
    | Aside
    | Marker,
    Field(discriminator="kind"),
]

_kinds: tuple[Any, ...] = get_args(get_args(Content)[0])
KINDS: dict[str, type[base.Content]] = {kind.model_fields["kind"].default: kind for kind in _kinds}
