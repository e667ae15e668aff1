"""The mix of a clip: its layers at their levels, and what is done to their sum."""

from collections.abc import Iterator, Sequence
from typing import NamedTuple

from hovvet.core.compile.mixing.curve import FLAT, Curve
from hovvet.core.compile.mixing.ducked import ducked, spoken
from hovvet.core.compile.mixing.predicted import Predicted
from hovvet.core.compile.mixing.told import LevelCurve, level_curve
from hovvet.core.compile.mixing.voices import amounts, evened
from hovvet.core.compile.mixing.volumes import volumes
from hovvet.core.compile.scene import Scene
from hovvet.core.plan.model import PlanWord, Prepared, SoundLayer
from hovvet.core.sheet.contents.over_speech import MUTED
from hovvet.core.sheet.contents.voices import Voices

MUTE = 100.0  # dB lower is silence


class Mix(NamedTuple):
    """Layers at their levels, the ``master`` in dB on their sum, the ``loudness`` in LUFS that it comes to, and how loud it is
    over time; None where that is not known."""

    layers: tuple[SoundLayer, ...]
    master: float = 0.0
    loudness: float | None = None
    curve: LevelCurve | None = None


def mixed(
    scene: Scene,
    speech: Sequence[SoundLayer],
    prepared: Sequence[Prepared],
    words: Sequence[PlanWord],
    mastered: bool = True,
) -> Mix:
    """The speech with its speakers evened out, what is heard beside it stepping back for it, all at the volumes that a person
    gave it, and, if it is ``mastered``, brought to the loudness of the outlet."""
    own = volumes(scene, "speech")
    said = evened(_gains(scene, words)).times(own)
    for under in {each.under for each in scene.said if each.under}:
        lower = MUTE if under >= MUTED else under
        said = said.times(ducked(spoken((), [each.span for each in scene.said if each.under == under]), lower))
    beside = volumes(scene, "music and sounds")
    talk = spoken(words, [each.span for each in scene.said if each.sound])
    curves: dict[float, Curve] = {0.0: beside}
    for each in scene.sound:
        if each.under not in curves:
            curves[each.under] = ducked(talk, each.under).times(beside)
    layers = (
        *(_at(said, layer) for layer in speech),
        *(_at(own, each.sound) for each in scene.said if each.sound),
        *(_at(curves[each.under], each.layer) for each in scene.sound),
    )
    if not mastered:
        return Mix(layers)
    outlet = scene.outlet
    sum_ = Predicted(layers, prepared, scene.sources, scene.timeline.rate.sample(scene.timeline.frames))
    if not sum_.complete:
        return Mix(layers)
    master = sum_.master(outlet.lufs, outlet.peak)
    curve = level_curve(sum_.over_time(master, outlet.peak), talk, outlet.lufs)
    return Mix(layers, master, sum_.loudness(master, outlet.peak), curve)


def _at(level: Curve, layer: SoundLayer) -> SoundLayer:
    return layer if level is FLAT else level.given_to(layer)


def _gains(scene: Scene, words: Sequence[PlanWord]) -> Iterator[tuple[PlanWord, float]]:
    """Words that are heard, with the dB of who says them."""
    own = scene.of(Voices)
    content = own[-1].content if own else Voices()
    of = {part.piece.id: part.piece.recording for part in scene.timeline.parts}
    found = {key: amounts(source) if content.even else {} for key, source in scene.sources.items()}
    if not any(found.values()) and not content.amounts:
        return
    for word in words:
        recording = of.get(word.piece)
        if word.layer is None and recording is not None and recording in found:
            transcript = scene.sources[recording].transcript
            speaker = transcript.words[transcript.position[word.id]].speaker
            given = content.of(speaker)
            yield word, found[recording].get(speaker, 0.0) if given is None else given
