"""Sheet to plan: the one place where it is decided what is seen and heard when."""

from collections.abc import Mapping
from dataclasses import dataclass

from hovvet.core.captions.ass import caption_script
from hovvet.core.captions.phrases import lay_out_captions
from hovvet.core.captions.style import CaptionStyle
from hovvet.core.media.info import MediaInfo
from hovvet.core.picture.framing import fit_over_blur
from hovvet.core.plan.kept import kept_spans, kept_words
from hovvet.core.plan.model import Plan, PlanWord, Segment
from hovvet.core.plan.outlets import Outlet
from hovvet.core.sheet.model import Piece, Sheet
from hovvet.core.sound.silence import Levels
from hovvet.core.time import Frames, Rate, Samples, to_samples
from hovvet.core.words.transcript import Transcript

QUIETEST_GAIN, LOUDEST_GAIN = -20.0, 20.0  # dB


@dataclass(frozen=True)
class Source:
    """A recording as the plan needs it; with its ``levels``, cuts are placed where it is quiet."""

    transcript: Transcript
    media: MediaInfo
    levels: Levels | None = None


@dataclass(frozen=True)
class Edition:
    """One dressing of a clip for one outlet; ``captions`` None leaves the picture plain."""

    outlet: Outlet
    captions: CaptionStyle | None = None
    texts: bool = True  # False leaves out words and captions: enough to play a whole recording


@dataclass
class _Clock:
    """Output time. Boundaries are rounded from one running sum, so frames and samples cannot drift apart."""

    rate: Rate
    seconds: float = 0.0

    @property
    def frame(self) -> Frames:
        return self.rate.frame(self.seconds)

    @property
    def sample(self) -> Samples:
        return to_samples(self.seconds)


def compile(sheet: Sheet, sources: Mapping[str, Source], edition: Edition) -> Plan:
    """Compile a sheet for one edition.

    ``sources`` maps recording ids to their transcript and media. Raises KeyError
    for a recording that is missing from it.
    """
    outlet = edition.outlet
    first = sources[sheet.pieces[0].recording] if sheet.pieces else None
    rate = first.media.rate if first else Rate()
    clock = _Clock(rate)
    segments: list[Segment] = []
    words: list[PlanWord] = []
    for piece in sheet.pieces:
        transcript = sources[piece.recording].transcript
        spans = kept_spans(transcript, piece, sources[piece.recording].levels)
        if edition.texts:
            words += _heard(transcript, piece, spans, clock.seconds)
        for start, end in spans:
            segments.append(_segment(piece.recording, start, end, clock))
    framing = None
    if first and first.media.has_picture:
        framing = fit_over_blur((first.media.width, first.media.height), (outlet.width, outlet.height))
    captions = lay_out_captions(words, rate, clock.frame) if edition.texts else ()
    script = caption_script(captions, words, rate, outlet, edition.captions) if edition.captions else None
    return Plan(
        rate=rate,
        width=outlet.width,
        height=outlet.height,
        frames=clock.frame,
        samples=clock.sample,
        gain_db=_gain(outlet, first.media if first else None),
        peak_db=outlet.peak,
        segments=tuple(segments),
        framing=framing,
        words=tuple(words),
        captions=captions,
        script=script,
    )


def _segment(recording: str, start: float, end: float, clock: _Clock) -> Segment:
    """The next segment; moves the clock on to its end."""
    frame, sample, began = clock.frame, clock.sample, clock.seconds
    # The source time that belongs to the first output frame, which may begin up
    # to half a frame before or after the cut.
    at_frame = start + clock.rate.seconds(frame) - began
    clock.seconds += end - start
    return Segment(
        recording=recording,
        frame=frame,
        frames=clock.frame - frame,
        source_frame=max(clock.rate.frame(max(at_frame, 0.0)), 0),
        sample=sample,
        samples=clock.sample - sample,
        source_sample=to_samples(start),
    )


def _heard(transcript: Transcript, piece: Piece, spans: list[tuple[float, float]], at: float) -> list[PlanWord]:
    """The kept words of a piece at their output times; ``at`` is where the piece begins."""
    heard = []
    n = 0
    for word in kept_words(transcript, piece):
        middle = (word.start + word.end) / 2
        while n < len(spans) and spans[n][1] <= middle:
            at += spans[n][1] - spans[n][0]
            n += 1
        if n == len(spans):
            break
        start, end = spans[n]
        heard.append(
            PlanWord(
                id=word.id,
                piece=piece.id,
                text=word.text,
                start=at + max(word.start, start) - start,
                end=at + min(word.end, end) - start,
            )
        )
    return heard


def _gain(outlet: Outlet, media: MediaInfo | None) -> float:
    """dB that bring the recording to the outlet's loudness; 0 where it has not been measured."""
    if media is None or media.lufs is None:
        return 0.0
    return round(min(max(outlet.lufs - media.lufs, QUIETEST_GAIN), LOUDEST_GAIN), 2)
