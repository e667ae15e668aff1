"""Cuts at which the picture jumps, and the words around each over which something could be laid that hides it."""

from bisect import bisect_left
from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import NamedTuple

from hovvet.core.compile.angles import MAIN
from hovvet.core.compile.blocks import blocks
from hovvet.core.compile.looks import latest
from hovvet.core.compile.scene import Scene
from hovvet.core.plan.model import PlanWord
from hovvet.core.sheet.contents.camera import Camera
from hovvet.core.shelf.suggesting import LONGEST, SHORTEST, Stretch

_BEFORE = 0.9  # seconds before a cut from which it is covered, so that nobody waits for it

_AT = 0.05  # seconds before a cut at which a word that belongs after it may begin


class Cut(NamedTuple):
    """A cut at some seconds of the output; the words over which it is covered; those up to the next cut, which could be a
    shot of their own."""

    at: float
    around: Stretch
    shot: Stretch


def jumps(scene: Scene) -> list[float]:
    """When, in seconds of the output, one recording is cut so that its picture jumps: not where it crosses or dips, or another
    camera is seen from there on."""
    fps = scene.timeline.rate.fps
    return [
        after.frame / fps
        for before, after in pairwise(blocks(scene))
        if after.recording is not None
        and after.recording == before.recording
        and scene.sources[after.recording].media.has_picture
        and (after.join is None or after.join.picture == "cut")
        and _camera(scene, after.frame - 1) == _camera(scene, after.frame)
    ]


def _camera(scene: Scene, frame: int) -> int:
    """Which camera is to be seen in a frame."""
    seen = latest(scene.of(Camera), frame, frame + 1)
    return seen.content.camera if seen else MAIN


def cuts_to_cover(words: Sequence[PlanWord], at: Sequence[float]) -> list[Cut]:
    """The cuts of what is said; those so near to one another that one thing covers them are one."""
    said = [n for n, word in enumerate(words) if word.layer is None]
    return list(_cuts(words, said, at)) if said else []


def _cuts(words: Sequence[PlanWord], said: Sequence[int], at: Sequence[float]) -> Iterator[Cut]:
    starts = [words[n].start for n in said]
    covered = -1.0
    for k, cut in enumerate(at):
        if cut < covered:
            continue
        first = max(bisect_left(starts, cut - _BEFORE) - 1, 0)
        last = first
        while last + 1 < len(said) and words[said[last]].end - starts[first] < SHORTEST:
            last += 1
        # As long as one thing may be looked at, cuts that follow soon are covered along.
        for later in at[k + 1 :]:
            beyond = min(bisect_left(starts, later), len(said) - 1)
            if words[said[beyond]].end - starts[first] > LONGEST:
                break
            last = max(last, beyond)
        covered = words[said[last]].end
        begins = min(bisect_left(starts, cut - _AT), len(said) - 1)
        after = next((later for later in at[k + 1 :] if later > cut), float("inf"))
        ends = max(bisect_left(starts, after - _AT) - 1, begins)
        yield Cut(cut, Stretch(said[first], said[last]), Stretch(said[begins], said[ends]))
