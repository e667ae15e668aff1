"""What a background is taken out of, and the colour of its screen."""

from collections.abc import Sequence

from hovvet.core.colour.screen import Colour
from hovvet.core.media.info import NO_MEDIA
from hovvet.core.render.picking import Spot, screen_at, screen_found
from hovvet.core.render.sources import Original
from hovvet.core.sheet.contents.background import Background
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.view.shown import Moment, moment
from hovvet.server.assets.models import Asset
from hovvet.server.documents.opening import Opened
from hovvet.server.problems import Problem

_NOTHING = "Nothing is seen there that a screen could be taken out of. Go to a place of the clip where there is, and try again."
_GONE = "This background is no longer there, or its words are all cut."


def seen_under(now: Opened, layer_id: str, seconds: float) -> Moment:
    """What a background is taken out of at some seconds of the output, or where it begins if it does not lie there. Raises Problem."""
    layer = next((each for each in now.sheet.layers if each.id == layer_id), None)
    reach = now.scene.reach(layer.span) if layer else None
    if layer is None or not isinstance(layer.content, Background) or reach is None:
        raise Problem(409, _GONE)
    frame = min(max(now.plan.rate.frame_at(seconds), reach.first), reach.last - 1)
    over = {each.content.media for each in now.sheet.layers if isinstance(each.content, Broll)} - {""}
    talks = {*now.sheet.recordings, *(angle.media for each in now.sources.sources.values() for angle in each.angles)}
    found = moment(now.plan, frame, over - talks if layer.content.of == "pictures over words" else talks)
    if found is None:
        raise Problem(409, _NOTHING)
    return found


def colour_of(now: Opened, seen: Moment, spots: Sequence[Spot]) -> Colour:
    """The colour of a screen by places of what is seen; without any, by what is around. Raises CoreError, Problem."""
    if seen.seconds is None:
        asset = Asset.objects.get(workspace=now.document.workspace, pk=seen.media)
        original = Original(asset.file, NO_MEDIA)
    else:
        recording = now.sources.recordings[seen.media]
        if recording.media is None:
            raise Problem(409, _NOTHING)
        original = Original(recording.source_file, recording.media)
    return screen_at(original, spots) if spots else screen_found(original, seen.seconds)
