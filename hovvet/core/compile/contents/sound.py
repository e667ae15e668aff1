"""Music and sounds in the plan."""

from collections.abc import Iterator, Sequence
from typing import ClassVar

from hovvet.core.compile.contents.base import Placement
from hovvet.core.compile.scene import Beside, Laid, Scene
from hovvet.core.compile.speech import source_gain
from hovvet.core.plan.model import PlanWord, SoundLayer, stretched
from hovvet.core.sheet.contents.base import SILENT
from hovvet.core.sheet.contents.sound import Sound
from hovvet.core.sound.beats import Beats
from hovvet.core.sound.fitting import Fit, fitted
from hovvet.core.time import SAMPLE_RATE, to_samples

_UNHEARD = 2e-5  # by so much less or more a piece need not be stretched: a sample in a second
CROSS = 960  # samples over which its end crosses with its beginning, where it loops
_SHORTEST = 480  # samples: less of it is not heard
_MOST = 500  # times that it is heard in a loop
_NOTHING = "Choose what is to be heard here."
_GONE = "What was heard here was deleted, or is still being prepared. Choose another one, or take this off."
_UNFIT = (
    "No beat was found in it that it could be fitted by, or this length is out of its reach: it stops, and fades out."
)
_MUTE = "There is no sound in this. Choose another one."


class SoundPlacement(Placement[Sound]):
    """Is heard beside the speech."""

    writes: ClassVar[bool] = True  # only to know where captions are

    def note(self, laid: Laid[Sound], scene: Scene) -> str:
        """What is missing."""
        sound = laid.content
        if not sound.media:
            return _NOTHING
        source = scene.sources.get(sound.media)
        if source is None:
            return _GONE
        if not source.media.has_sound:
            return _MUTE
        if sound.ends == "fitted":
            return "" if self._fit(laid, scene) else _UNFIT
        lasts, needed = source.media.duration - sound.start, scene.timeline.rate.seconds(laid.last - laid.first)
        if sound.ends == "with its words" and not sound.loop and lasts < needed:
            return f"It lasts {max(lasts, 0):.1f} of these {needed:.1f} seconds, then it is quiet."
        return ""

    def place(self, laid: Laid[Sound], scene: Scene) -> None:
        """Put it beside the speech, as often as it takes."""
        if not _waits(laid.content):
            self._lay(laid, laid.first, scene)

    def write(self, laid: Laid[Sound], scene: Scene, words: Sequence[PlanWord]) -> None:
        """Put what waits for the first caption beside the speech, now that it is known where that is."""
        if _waits(laid.content):
            rate = scene.timeline.rate
            written = (round(word.start * rate.fps) - word.earlier for word in words if word.written.strip())
            first = next((frame for frame in written if laid.first <= frame < laid.last), laid.first)
            self._lay(laid, first, scene)

    def _lay(self, laid: Laid[Sound], first: int, scene: Scene) -> None:
        sound = laid.content
        source, rate = scene.sources.get(sound.media), scene.timeline.rate
        if source is None or not source.media.has_sound or sound.volume <= SILENT:
            return
        if fit := self._fit(laid, scene):
            _fitted(fit, laid, scene)
            return
        begins, clip_ends = rate.sample(first), rate.sample(scene.timeline.frames)
        from_sample = min(to_samples(sound.start), to_samples(source.media.duration))
        there = to_samples(source.media.duration) - from_sample
        ends = begins + there if sound.ends == "when it is over" else rate.sample(laid.last)
        ends = min(ends, clip_ends)
        gain = round(source_gain(scene, sound.media) + sound.volume, 2)
        loop = sound.loop and sound.ends != "when it is over"
        turns = _turns(source.beats, sound.start, source.media.duration) if loop and there < ends - begins else None
        runs = _at_bars(begins, ends, from_sample, *turns) if turns else _runs(begins, ends, there, loop, from_sample)
        for at, samples, source_sample, fade_in, fade_out in runs:
            first, last = at == begins, at + samples >= ends or not loop
            layer = SoundLayer(
                bus="effect" if sound.ends == "when it is over" else "music",
                layer=laid.layer,
                media=sound.media,
                sample=at,
                samples=samples,
                source_sample=source_sample,
                gain=gain,
                fade_in=min(to_samples(sound.fade_in), samples // 2) if first else fade_in,
                fade_out=min(to_samples(sound.fade_out), samples // 2) if last else fade_out,
            )
            scene.sound.append(Beside(layer, sound.under))

    def _fit(self, laid: Laid[Sound], scene: Scene) -> Fit | None:
        """How it comes to the length of its words, where it is to and can be."""
        source = scene.sources.get(laid.content.media)
        if laid.content.ends != "fitted" or source is None or source.beats is None:
            return None
        return fitted(source.beats, scene.timeline.rate.seconds(laid.last - laid.first))


def _waits(sound: Sound) -> bool:
    """Whether it is not known where it begins before captions are."""
    return sound.begins == "with the first caption" and sound.ends == "when it is over"


def _fitted(fit: Fit, laid: Laid[Sound], scene: Scene) -> None:
    """Put the parts of a piece beside the speech, each crossing into the next around the beat at which it begins."""
    sound, rate = laid.content, scene.timeline.rate
    begins, ends = rate.sample(laid.first), rate.sample(laid.last)
    gain = round(source_gain(scene, sound.media) + sound.volume, 2)
    length = sum(end - start for start, end in fit.parts)
    passed, at = 0.0, int(begins)
    for n, (start, end) in enumerate(fit.parts):
        passed += end - start
        until = ends if n + 1 == len(fit.parts) else begins + round((ends - begins) * passed / length)
        before, after = CROSS // 2 if n else 0, CROSS // 2 if n + 1 < len(fit.parts) else 0
        samples = until - at + before + after
        first = to_samples(max(start, 0)) - round(before / fit.stretch)
        media = sound.media
        if abs(fit.stretch - 1) > _UNHEARD:
            made = stretched(media, ((0, first), (samples, first + round(samples / fit.stretch))))
            scene.prepared.append(made)
            media, first = made.media, 0
        layer = SoundLayer(
            bus="music",
            layer=laid.layer,
            media=media,
            sample=at - before,
            samples=samples,
            source_sample=first,
            gain=gain,
            fade_in=2 * before or min(to_samples(sound.fade_in), samples // 2),
            fade_out=2 * after,
        )
        scene.sound.append(Beside(layer, sound.under))
        at = until


_Run = tuple[int, int, int, int, int]  # first sample, samples, that of the source, those in which it rises, falls


def _runs(begins: int, ends: int, there: int, loop: bool, source: int) -> Iterator[_Run]:
    """Each time that a sound of so many samples is heard."""
    if there < _SHORTEST or ends - begins < _SHORTEST:
        return
    cross = min(CROSS, there // 4)
    at = begins
    for _ in range(_MOST if loop else 1):
        samples = min(there, ends - at)
        yield at, samples, source, cross, cross
        at += there - cross
        if ends - at <= cross:
            return


def _turns(beats: Beats | None, start: float, duration: float) -> tuple[int, int] | None:
    """The samples of music between which it goes round: the first bar that begins after ``start`` seconds, and the last one's
    end; None where no bars are known, or too few."""
    bars = [at for at in beats.times[beats.first :: 4] if start <= at < duration - CROSS / SAMPLE_RATE] if beats else []
    return (to_samples(bars[0]), to_samples(bars[-1])) if len(bars) > 1 else None


def _at_bars(begins: int, ends: int, source: int, back: int, turn: int) -> Iterator[_Run]:
    """The runs of music that is heard from a sample of it on, and at ``turn`` goes back to ``back``: at every turn what is heard
    crosses within the same bar."""
    at, first = begins, source
    for n in range(_MOST):
        before = min(CROSS // 2, first) if n else 0
        last = at + turn - first
        is_over = last >= ends
        samples = (ends if is_over else last + CROSS // 2) - at + before
        yield at - before, samples, first - before, 2 * before, 0 if is_over else CROSS
        if is_over:
            return
        at, first = last, back
