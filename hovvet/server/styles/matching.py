"""Colours of one part of a clip brought near to those of another."""

from hovvet.core.colour.grade import Colours, Grade
from hovvet.core.colour.looking import colours_at, colours_of
from hovvet.core.colour.lut import applied, lut_of
from hovvet.core.colour.matching import How, matched
from hovvet.core.sheet.contents.look import Look
from hovvet.core.view.shown import Moment, moment
from hovvet.server.assets.models import Asset
from hovvet.server.documents.opening import Opened
from hovvet.server.problems import Problem

_LOOKS = 5  # frames of the part that are looked at


def matched_look(now: Opened, layer_id: str, seconds: float, how: How, strength: float) -> Grade:
    """The colour of a layer, so set that what it lies over is like what is seen at some seconds of the output. Raises
    Problem, CoreError."""
    layer = next((each for each in now.sheet.layers if each.id == layer_id), None)
    reach = now.scene.reach(layer.span) if layer else None
    if layer is None or not isinstance(layer.content, Look) or reach is None:
        raise Problem(409, "This colour is no longer there, or its words are all cut.")
    step = (reach.last - reach.first) / _LOOKS
    said = now.sheet.recordings
    among = said if layer.content.of == "who speaks" else now.sheet.media
    own = _seen(now, [reach.first + int(step * (n + 0.5)) for n in range(_LOOKS)], among)
    reference = _seen(now, [min(now.plan.rate.frame_at(seconds), now.plan.frames - 1)], said)
    if not own or not reference:
        raise Problem(409, "There is no picture of a recording there. Go to one that shows the colours you want.")
    wanted = _colours(now, reference)
    if look := reference[0].look:
        own_table = (
            Asset.objects.filter(workspace=now.document.workspace, pk=look.table).first() if look.has_table else None
        )
        wanted = applied(lut_of(look, own_table.file if own_table else None), wanted)
    return matched(_colours(now, own), wanted, how, strength, layer.content.grade)


def _seen(now: Opened, frames: list[int], among: tuple[str, ...]) -> list[Moment]:
    return [seen for frame in frames if (seen := moment(now.plan, frame, among)) is not None]


def _colours(now: Opened, moments: list[Moment]) -> Colours:
    """What a recording or a still shows, as it was filmed; of several that which is seen first."""
    first = moments[0].media
    if moments[0].seconds is None:
        return colours_of(Asset.objects.get(workspace=now.document.workspace, pk=first).file)
    working = now.sources.recordings[first].working
    if not working.exists():
        raise Problem(409, "The preview of this recording is still being made. Try again when it is there.")
    return colours_at(working, [each.seconds for each in moments if each.media == first and each.seconds is not None])
