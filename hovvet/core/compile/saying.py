"""Voices over the clip: what is heard of them and when, and the words that they say."""

from collections.abc import Iterable

from hovvet.core.compile.mixing.ducked import spoken
from hovvet.core.compile.scene import Laid, Said, Scene
from hovvet.core.compile.speech import heard_as, source_gain
from hovvet.core.plan.model import PlanWord, SoundLayer
from hovvet.core.sheet.contents.base import SILENT
from hovvet.core.sheet.contents.over_speech import OverSpeech
from hovvet.core.time import SAMPLE_RATE, to_samples
from hovvet.core.value import with_changes

_EDGE = 240  # samples: what begins or ends amid a sound does not click


def say(
    scene: Scene, layer: str, content: OverSpeech, media: str, at: float, start: float = 0.0, end: float | None = None
) -> float:
    """Let a recording be heard over the clip at a moment of the output (seconds), from ``start`` up to ``end`` of it. When it is
    over, in seconds of the output, be that after the end of the clip."""
    source = scene.sources[media]
    last = min(end or source.media.duration, source.media.duration)
    over = at + max(last - start, 0)
    early = max(-to_samples(at), 0)  # it begins before the clip does
    first = to_samples(at) + early
    source_sample = to_samples(start) + early
    samples = min(to_samples(max(last - start, 0)) - early, scene.timeline.rate.sample(scene.timeline.frames) - first)
    if samples <= 0:
        return over
    name = heard_as(scene, media)
    sound = SoundLayer(
        bus="voice",
        layer=layer,
        media=name,
        sample=first,
        samples=samples,
        source_sample=source_sample,
        gain=round(source_gain(scene, name) + content.volume, 2),
        fade_in=min(_EDGE, samples // 2),
        fade_out=min(_EDGE, samples // 2),
    )
    words = tuple(
        PlanWord(
            id=word.id,
            piece="",
            origin=layer,
            text=word.text,
            start=word.start - start + at,
            end=min(word.end - start + at, (first + samples) / SAMPLE_RATE),
            layer=layer,
        )
        for word in source.transcript.words
        if start <= word.start < last and 0 <= word.start - start + at < (first + samples) / SAMPLE_RATE
    )
    heard = content.volume > SILENT
    span = first / SAMPLE_RATE, (first + samples) / SAMPLE_RATE
    scene.said.append(
        Said(span, content.under if heard else 0.0, sound if heard else None, words if content.captions else ())
    )
    return over


def room_note(laid: Laid[OverSpeech], scene: Scene) -> str:
    """Whether a voice has room over its words, and in the clip."""
    takes, rate = scene.lasts[laid.layer], scene.timeline.rate
    words, left = rate.seconds(laid.last - laid.first), rate.seconds(scene.timeline.frames - laid.first)
    if takes > left:
        return f"The clip is over before it is: it takes {takes:.1f} s, and there are {left:.1f} s left."
    return f"It goes on after its words: it takes {takes:.1f} s, they take {words:.1f} s." if takes > words else ""


def with_said(words: Iterable[PlanWord], said: Iterable[Said]) -> tuple[PlanWord, ...]:
    """The words of a clip with those that are said over it: these are written while they are said, and no others."""
    own, over = list(words), [each for each in said if each.words]
    for first, last in spoken((), [each.span for each in over]):
        own = [
            with_changes(word, shown="") if word.start < last and word.end > first and word.layer is None else word
            for word in own
        ]
    return tuple(sorted((*own, *(word for each in over for word in each.words)), key=_start))


def _start(word: PlanWord) -> float:
    return word.start
