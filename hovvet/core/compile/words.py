"""The words of a clip: when each is heard, and what captions make of it."""

from collections.abc import Collection, Sequence

from hovvet.core.compile.contents.extra_caption import seconds_of
from hovvet.core.compile.saying import with_said
from hovvet.core.compile.scene import Scene
from hovvet.core.plan.model import PlanWord
from hovvet.core.sheet.contents.extra_caption import ExtraCaption
from hovvet.core.sheet.contents.wording import Wording
from hovvet.core.sheet.model import WordRef
from hovvet.core.sheet.places import Spot
from hovvet.core.value import with_changes


def heard(scene: Scene, keywords: Collection[WordRef] = ()) -> tuple[PlanWord, ...]:
    """The kept words at their output times, those among ``keywords`` marked; and where captions of their own come."""
    fps = scene.timeline.rate.fps
    voices = _Voices(scene)
    words: list[PlanWord] = []
    places: dict[int, int] = {}  # which of the words stands at a place of the sheet
    for place, (spot, part) in enumerate(zip(scene.places.spots, scene.parts, strict=True)):
        if spot.word is None or part is None:
            continue
        begins, ends = part.knots[0][1], part.knots[-1][1]
        places[place] = len(words)
        words.append(
            PlanWord(
                id=spot.word.id,
                piece=spot.piece.id,
                origin=spot.piece.origin,
                text=spot.word.text,
                start=part.output(max(spot.start, begins)) / fps,
                end=part.output(min(spot.end, ends)) / fps,
                voice=voices.of(spot),
                key=bool(keywords) and spot.ref in keywords,
            )
        )
    for laid in scene.of(Wording):
        wording = laid.content
        own = [places[place] for place in range(laid.reach.begin, laid.reach.end + 1) if place in places]
        for n, changes in zip(own, _changes(wording, len(own)), strict=True):
            words[n] = with_changes(words[n], **changes)
        if wording.text and not wording.hidden:
            _spoken_for(words, own)
    extras = [(each, seconds) for each in scene.of(ExtraCaption) if (seconds := seconds_of(each, scene))]
    for extra, (start, end) in sorted(extras, key=lambda each: (each[0].reach.end, each[1][0]), reverse=True):
        at = sum(place <= extra.reach.end for place in places)
        voice = words[at - 1].voice if at else 0
        words.insert(
            at,
            PlanWord(
                id=0,
                piece="",
                origin=extra.layer,
                text=extra.content.text,
                start=start,
                end=end,
                voice=voice,
                layer=extra.layer,
            ),
        )
    return with_said(words, scene.said) if scene.said else tuple(words)


class _Voices:
    """Who speaks, counted as they are first heard; a name is one person in all recordings."""

    def __init__(self, scene: Scene) -> None:
        self._names = {
            key: {speaker.key: speaker.name for speaker in source.transcript.speakers if speaker.name}
            for key, source in scene.sources.items()
        }
        self._known: dict[str | tuple[str, str], int] = {}

    def of(self, spot: Spot) -> int:
        """The number of who says a word."""
        recording, word = spot.piece.recording, spot.word
        if recording is None or word is None:
            return 0
        who = self._names[recording].get(word.speaker) or (recording, word.speaker)
        return self._known.setdefault(who, len(self._known))


def _changes(wording: Wording, count: int) -> Sequence[dict[str, object]]:
    """What a wording does to each of its words."""
    made: list[dict[str, object]] = [{} for _ in range(count)]
    shown = [""] * count if wording.hidden else _spread(wording.text.split(), count) if wording.text else []
    for changes, text in zip(made, shown, strict=False):
        changes["shown"] = text
    for changes in made:
        if wording.colour is not None:
            changes["colour"] = wording.colour
        if wording.size != 1:
            changes["size"] = wording.size
    if made:
        made[0]["earlier"], made[-1]["longer"] = wording.earlier, wording.longer
    return made


def _spread(texts: Sequence[str], count: int) -> list[str]:
    """Another text over so many words, so that it is marked as it is said: as evenly as can be, from the first on."""
    shown: list[list[str]] = [[] for _ in range(count)]
    for k, text in enumerate(texts):
        shown[min(k * count // len(texts), count - 1)].append(text)
    return [" ".join(own) for own in shown]


def _spoken_for(words: list[PlanWord], own: Sequence[int]) -> None:
    """Let each word of a shorter text last as long as what it stands for."""
    at = own[0] if own else 0
    for n in own:
        if words[n].shown:
            at = n
        else:
            words[at] = with_changes(words[at], end=words[n].end)
