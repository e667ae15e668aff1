"""A clip, or a whole desk with its mistakes taken out, for another editor: OpenTimelineIO and CMX 3600 EDL.

The base picture with its speech is the first video and the first audio track: a clip for each stretch between two cuts, with
what names its piece as metadata, so that it can come back (``interchange_in``). Pictures over words, sounds, captions and
markers follow on tracks of their own. Times are whole frames of the plan's rate; sounds beside the speech are in samples.
"""

from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import Any, Literal, NamedTuple, TypeVar

import opentimelineio as otio
from opentimelineio.opentime import RationalTime, TimeRange

from hovvet.core.compile.blocks import blocks
from hovvet.core.compile.scene import Scene
from hovvet.core.plan.knots import source_frame
from hovvet.core.plan.model import Crop, Plan, SoundLayer, Still, Stretch, Video
from hovvet.core.time import SAMPLE_RATE

T = TypeVar("T")
Kind = Literal["otio", "edl"]
TYPES: dict[Kind, str] = {"otio": "application/json", "edl": "text/plain; charset=utf-8"}
OURS = "hovvet"  # what our metadata is under
SPEECH = "Speech"  # the track that comes back
_TAPE = 8  # letters that an EDL has for the name of a tape
_SAME = 1.5  # frames by which a film may go on, for two layers of it to be one


class Medium(NamedTuple):
    """What a recording, film, picture or sound is called: its file, its title, the timecode with which it begins ("" for
    0), its length in seconds (None: a still)."""

    file: str
    title: str
    timecode: str = ""
    seconds: float | None = None


def timeline(title: str, plan: Plan, scene: Scene, media: Mapping[str, Medium]) -> otio.schema.Timeline:
    """All of a plan that another editor can take on."""
    made = _Making(plan, scene, media, plan.rate.fps)
    whole = otio.schema.Timeline(title, global_start_time=made.at(0), metadata={OURS: {"version": 1}})
    tracks: list[otio.schema.Track] = [made.speech("Video"), *made.pictures()]
    captions = made.captions()
    sounds = [made.speech("Audio"), *made.sounds()]
    whole.tracks.extend([*tracks, *([captions] if captions else []), *sounds])
    whole.tracks.markers.extend(made.markers())
    return whole


def written(title: str, plan: Plan, scene: Scene, media: Mapping[str, Medium], kind: Kind) -> str:
    """A plan as a file of a kind. An EDL has one track: cuts, crossfades, speeds, gaps, and markers as comments."""
    if kind == "otio":
        text: str = timeline(title, plan, scene, media).to_json_string(indent=1)
        return text
    # Its timecodes count whole frames a second: 29.97 is counted as 30, frame for frame.
    made = _Making(plan, scene, media, float(round(plan.rate.fps)))
    whole = otio.schema.Timeline(_plain(title), global_start_time=made.at(0))
    whole.tracks.append(made.speech("Video", for_edl=True))
    edl: str = otio.adapters.write_to_string(whole, "cmx_3600", rate=made.rate, reelname_len=_TAPE)
    notes = [f"* LOC: {made.at(mark.first).to_timecode()} GREEN   {_plain(mark.note)}" for mark in plan.markers]
    return "\n".join([edl.rstrip(), *notes, ""])


def _plain(text: str) -> str:
    """One line of letters that every reader of an EDL knows."""
    return " ".join(text.encode("ascii", "replace").decode().split())


class _Making:
    """What tracks are made of; ``rate`` is that in which frames are counted."""

    def __init__(self, plan: Plan, scene: Scene, media: Mapping[str, Medium], rate: float) -> None:
        self.plan, self.scene, self.media, self.rate = plan, scene, media, rate
        self._pieces = {part.piece.id: part.piece for part in scene.timeline.parts}

    def at(self, frame: int) -> RationalTime:
        return RationalTime(frame, self.rate)

    def span(self, first: int, frames: int) -> TimeRange:
        return TimeRange(self.at(first), self.at(frames))

    def begins(self, media: str) -> RationalTime:
        """The timecode of the first frame of a medium."""
        told = self.media[media].timecode if media in self.media else ""
        try:
            time: RationalTime = otio.opentime.from_timecode(told, self.rate) if told else self.at(0)
        except ValueError:  # of another rate than the plan's: counted from 0 then
            time = self.at(0)
        return time

    def reference(self, media: str, rate: float | None = None) -> otio.core.MediaReference:
        """A medium by its name."""
        known = self.media.get(media)
        if known is None:
            return otio.schema.MissingReference(name=media)
        there = None
        if known.seconds is not None:
            own = rate or self.rate
            begins = self.begins(media) if rate is None else RationalTime(0, own)
            there = TimeRange(begins, RationalTime(int(known.seconds * own + 0.5), own))
        return otio.schema.ExternalReference(known.file, there, metadata={OURS: {"media": media}})

    def title(self, media: str) -> str:
        return self.media[media].title if media in self.media else media

    def speech(self, kind: Literal["Video", "Audio"], for_edl: bool = False) -> otio.schema.Track:
        """The base: what is said, stretch by stretch."""
        track = otio.schema.Track(SPEECH, kind=kind)
        joins = self._joins() if kind == "Video" else {}
        before: Stretch | None = None
        for stretch in self.plan.stretches:
            half = joins.get(stretch.frame)
            plainly = before is not None and before.even and stretch.even and before.recording and stretch.recording
            if half and before is not None and (plainly or not for_edl):
                track.append(otio.schema.Transition("Crossfade", "SMPTE_Dissolve", self.at(half), self.at(half)))
            track.append(self._stretch(stretch, for_edl))
            before = stretch
        return track

    def _stretch(self, stretch: Stretch, for_edl: bool) -> otio.core.Item:
        piece = self._pieces[stretch.piece]
        told = {OURS: {"piece": piece.id, "origin": piece.origin, "recording": stretch.recording}}
        if stretch.recording is None:
            return otio.schema.Gap(source_range=self.span(0, stretch.frames), name="Gap", metadata=told)
        first = int(stretch.start * self.plan.rate.fps + 0.5)
        span = TimeRange(self.begins(stretch.recording) + self.at(first), self.at(stretch.frames))
        title = self.title(stretch.recording)
        clip = otio.schema.Clip(
            _plain(title) if for_edl else title, self.reference(stretch.recording), span, metadata=told
        )
        if not stretch.even:
            clip.effects.append(self._speed(stretch))
        return clip

    def _speed(self, stretch: Stretch) -> otio.schema.TimeEffect:
        lasts = (stretch.end - stretch.start) * self.plan.rate.fps
        if lasts < 1:
            return otio.schema.FreezeFrame()
        return otio.schema.LinearTimeWarp(name="Speed", time_scalar=round(lasts / stretch.frames, 6))

    def _joins(self) -> dict[int, int]:
        """Half the frames of the crossfade at each frame at which one is."""
        own = blocks(self.scene)
        crossing = {block.frame for block in own if block.join and block.join.picture == "crossfade"}
        found = {}
        for layer in self.plan.picture:
            for knot, after in zip(layer.opacity, layer.opacity[1:], strict=False):
                middle = (knot.at + after.at) // 2
                if middle in crossing:
                    found[middle] = (after.at - knot.at) // 2
        return found

    def pictures(self) -> Iterator[otio.schema.Track]:
        """Pictures over words, on as many tracks as lie over one another."""
        for n, row in enumerate(_rows(_over_words(self.scene), lambda each: (each.first, each.last))):
            track = otio.schema.Track(f"Over words {n + 1}", kind="Video")
            at = 0
            for over in row:
                if over.first > at:
                    track.append(otio.schema.Gap(source_range=self.span(0, over.first - at)))
                track.append(self._picture(over))
                at = over.last
            yield track

    def _picture(self, over: "_Over") -> otio.schema.Clip:
        source, frames = over.source, over.last - over.first
        first = source_frame(source.knots, over.first) if isinstance(source, Video) else 0
        span = TimeRange(self.begins(source.media) + self.at(first), self.at(frames))
        clip = otio.schema.Clip(self.title(source.media), self.reference(source.media), span)
        if isinstance(source, Video):
            shown = source_frame(source.knots, over.last) - first
            if abs(shown - frames) > _SAME:
                clip.effects.append(otio.schema.LinearTimeWarp(name="Speed", time_scalar=round(shown / frames, 6)))
        return clip

    def sounds(self) -> Iterator[otio.schema.Track]:
        """What is heard beside the speech, a track a bus, and as many as sound at once."""
        made = {each.media: each.recording for each in self.plan.prepared}
        for bus, name in (("voice", "Voice"), ("music", "Music"), ("effect", "Sounds")):
            own = [each for each in self.plan.sound if each.bus == bus]
            for n, row in enumerate(_rows(own, lambda each: (max(each.sample, 0), each.sample + each.samples))):
                track = otio.schema.Track(f"{name} {n + 1}", kind="Audio")
                at = 0
                for layer in row:
                    if layer.sample > at:
                        track.append(otio.schema.Gap(source_range=_samples(0, layer.sample - at)))
                    track.append(self._sound(layer, made.get(layer.media, layer.media)))
                    at = max(layer.sample, 0) + layer.samples
                yield track

    def _sound(self, layer: SoundLayer, media: str) -> otio.schema.Clip:
        told: dict[str, Any] = {OURS: {"gain_db": layer.gain, "fade_in": layer.fade_in, "fade_out": layer.fade_out}}
        span = _samples(layer.source_sample, layer.samples)
        return otio.schema.Clip(self.title(media), self.reference(media, SAMPLE_RATE), span, metadata=told)

    def captions(self) -> otio.schema.Track | None:
        """Captions as a track; None where there are none."""
        if not self.plan.captions:
            return None
        track, at = otio.schema.Track("Captions", kind="Subtitle"), 0
        for each in self.plan.captions:
            if each.first > at:
                track.append(otio.schema.Gap(source_range=self.span(0, each.first - at)))
            text = "\n".join(" ".join(self.plan.words[n].written for n in line) for line in each.lines)
            last = max(each.last, each.first + 1)
            track.append(otio.schema.Clip(text, otio.schema.MissingReference(), self.span(0, last - each.first)))
            at = last
        return track

    def markers(self) -> Iterator[otio.schema.Marker]:
        """Notes of the person's."""
        for mark in self.plan.markers:
            yield otio.schema.Marker(mark.note, self.span(mark.first, mark.last - mark.first), "GREEN")


def _samples(first: int, count: int) -> TimeRange:
    return TimeRange(RationalTime(first, SAMPLE_RATE), RationalTime(count, SAMPLE_RATE))


class _Over(NamedTuple):
    """A picture over words, from frame ``first`` up to ``last``."""

    first: int
    last: int
    source: Video | Still
    crop: Crop | None


def _over_words(scene: Scene) -> list[_Over]:
    """All of them in order; those that go on from one another (their colours alone change) as one."""
    found: list[_Over] = []
    for layer in sorted(scene.picture, key=lambda each: each.first):
        source = layer.source
        if not isinstance(source, (Video, Still)) or layer.crop is None:
            continue
        if found and (found[-1].last, found[-1].source, found[-1].crop) == (layer.first, source, layer.crop):
            found[-1] = found[-1]._replace(last=layer.last)
        else:
            found.append(_Over(layer.first, layer.last, source, layer.crop))
    return found


def _rows(items: Iterable[T], span: Callable[[T], tuple[int, int]]) -> list[list[T]]:
    """Items in as few rows as they need to be beside one another in none."""
    rows: list[list[T]] = []
    for item in sorted(items, key=lambda each: span(each)[0]):
        row = next((row for row in rows if span(row[-1])[1] <= span(item)[0]), None)
        if row is None:
            rows.append([item])
        else:
            row.append(item)
    return rows
