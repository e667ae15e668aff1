"""Whoever talks is seen by the camera that shows them best, the wide one now and then."""

from collections.abc import Iterator, Mapping, Sequence
from itertools import groupby

import numpy as np

from hovvet.core.compile.angles import MAIN
from hovvet.core.compile.source import Source
from hovvet.core.picture.talking import shown_talking
from hovvet.core.sheet.contents.camera import Camera
from hovvet.core.sheet.edits import Batch, EditError, PutLayer, RemoveLayer
from hovvet.core.sheet.model import Layer, Sheet
from hovvet.core.sheet.moving import fresh_names
from hovvet.core.sheet.places import Places, Spot
from hovvet.core.words.transcript import Word
from hovvet.core.words.vocabulary import ends_sentence

SHORTEST = 2.5  # seconds for which a camera is seen at least
_LONG = 15.0  # seconds of one camera after which the wide one is seen for a sentence
_WIDE_MOST = 6.0  # seconds
_NONE = "There is no second camera in this clip. Bring one in on the desk of its recording, under Cameras."


def directed(sheet: Sheet, sources: Mapping[str, Source], places: Places) -> Batch:
    """The edit that lays a camera over all words of a clip whose talk has several: each turn by the camera that shows best who has
    it, no camera shorter than ``SHORTEST`` seconds. Those that were laid before go. Raises EditError where there is but one."""
    shots = list(_shots(places.spots, sources))
    if not shots:
        raise EditError(_NONE)
    names = fresh_names(sheet, "l")
    gone = [RemoveLayer(layer=layer.id) for layer in sheet.layers if isinstance(layer.content, Camera)]
    laid = [
        PutLayer(
            layer=Layer(
                id=next(names),
                span=places.over(places.spots[first].ref, places.spots[last].ref),
                content=Camera(camera=number),
            )
        )
        for first, last, number in shots
        if number != MAIN
    ]
    return Batch(edits=(*gone, *laid))


def _cameras(source: Source, sources: Mapping[str, Source]) -> list[tuple[int, Source]]:
    """The cameras of a talk, by number."""
    others = [(angle.number, sources[angle.media]) for angle in source.angles if angle.media in sources]
    return [(MAIN, source), *((number, film) for number, film in others if film.media.has_picture)]


def _shots(spots: Sequence[Spot], sources: Mapping[str, Source]) -> Iterator[tuple[int, int, int]]:
    """(first and last place, camera) of stretches of a sheet, in order."""
    for recording, group in groupby(range(len(spots)), key=lambda n: spots[n].piece.recording):
        own = [n for n in group if spots[n].kept and spots[n].word]
        if recording not in sources or not own:
            continue
        cameras = _cameras(sources[recording], sources)
        if len(cameras) > 1:
            yield from _directed(own, spots, cameras)


def _directed(
    own: Sequence[int], spots: Sequence[Spot], cameras: Sequence[tuple[int, Source]]
) -> Iterator[tuple[int, int, int]]:
    best, wide = _of_speakers(cameras), _wide(cameras)
    turns = [list(group) for _, group in groupby(own, key=lambda n: _word(spots[n]).speaker)]
    shots: list[tuple[list[int], int]] = []
    for turn in turns:
        number = best.get(_word(spots[turn[0]]).speaker, MAIN)
        if shots and (shots[-1][1] == number or _seconds(turn, spots) < SHORTEST):
            shots[-1][0].extend(turn)
        elif shots and _seconds(shots[-1][0], spots) < SHORTEST:
            shots[-1] = ([*shots[-1][0], *turn], number)
        else:
            shots.append((list(turn), number))
    for members, number in shots:
        for part, seen in _with_wide(members, number, wide, spots):
            yield part[0], part[-1], seen


def _with_wide(
    members: Sequence[int], number: int, wide: int | None, spots: Sequence[Spot]
) -> Iterator[tuple[list[int], int]]:
    """A long shot with the wide camera for a sentence now and then."""
    sentences: list[list[int]] = [[]]
    for n in members:
        sentences[-1].append(n)
        if ends_sentence(_word(spots[n]).text):
            sentences.append([])
    held: list[int] = []
    for sentence in filter(None, sentences):
        length = _seconds(sentence, spots)
        is_wide = wide not in (None, number) and _seconds(held, spots) >= _LONG and SHORTEST <= length <= _WIDE_MOST
        if is_wide and wide is not None:
            yield held, number
            yield sentence, wide
            held = []
        else:
            held = [*held, *sentence]
    if held:
        yield held, number


def _of_speakers(cameras: Sequence[tuple[int, Source]]) -> dict[str, int]:
    """The camera that shows each speaker best."""
    found: dict[str, tuple[float, int]] = {}
    for number, source in cameras:
        if source.faces is None:
            continue
        for speaker, much in shown_talking(source.faces, source.transcript.words).items():
            found[speaker] = max(found.get(speaker, (0.0, MAIN)), (much, number), key=lambda each: each[0])
    return {speaker: number for speaker, (_, number) in found.items()}


def _wide(cameras: Sequence[tuple[int, Source]]) -> int | None:
    """The camera whose faces are smallest; None where faces are not known."""
    sizes = [
        (float(np.median([np.median(track.side) for track in source.faces.tracks])), number)
        for number, source in cameras
        if source.faces and source.faces.tracks
    ]
    return min(sizes)[1] if len(sizes) > 1 else None


def _word(spot: Spot) -> Word:
    assert spot.word
    return spot.word


def _seconds(members: Sequence[int], spots: Sequence[Spot]) -> float:
    return sum(spots[n].end - spots[n].start for n in members)
