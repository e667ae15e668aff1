"""Titles as lettering: broken into lines, in the size that fits, clear of the captions."""

from collections.abc import Iterable, Iterator, Sequence
from itertools import pairwise

from hovvet.core.captions.ass import Lettering, Said, writer
from hovvet.core.captions.lines import even_lines
from hovvet.core.captions.setting import Line, Setting, Written
from hovvet.core.captions.style import Box, CaptionStyle, Spoken
from hovvet.core.captions.title_styles import TEMPLATES
from hovvet.core.compile.building import counted, line_starts
from hovvet.core.compile.scene import Band
from hovvet.core.compile.scene import Box as OnScreen
from hovvet.core.plan.model import PlanWord
from hovvet.core.plan.outlets import Outlet
from hovvet.core.sheet.contents.lettered import Lettered
from hovvet.core.time import Rate
from hovvet.core.value import with_changes

_FEW = 3  # lines up to which all ways to break them are looked at
_SMALLER, _SMALLEST = 0.92, 12.0  # by which letters are made smaller where there is no room; never under these pixels
_A_LITTLE = 0.8  # of its size that a title keeps where it makes way for faces
_APART = 0.015  # of the output's height: so far a title keeps from captions


def title_style(title: Lettered) -> CaptionStyle:
    """The style of its letters, as they are set."""
    style = TEMPLATES[title.template].style
    changed: dict[str, object] = {"size": min(max(style.size * title.size, 20), 300)}
    if title.colour is not None:
        changed["colour"] = title.colour
    if title.behind is not None:
        changed["box"] = with_changes(style.box or Box(), colour=title.behind)
    if title.height is not None:
        changed["height"] = title.height
    if title.builds:
        changed["spoken"] = Spoken(how="so far")
    return with_changes(style, **changed)


def title_letterings(
    title: Lettered,
    first: int,
    last: int,
    outlet: Outlet,
    rate: Rate,
    taken: Iterable[Band] = (),
    words: Sequence[PlanWord] = (),
    faces: Iterable[Band] = (),
) -> list[Lettering]:
    """A title from frame ``first`` up to ``last``. It stands above or below the bands that captions have ``taken``, and those
    of ``faces`` where there is room for that and nobody put it elsewhere; the lines of a list come as the ``words`` of the
    plan are heard."""
    style = title_style(title)
    lines = _written(title, style, line_starts(title.text.splitlines(), words, first, last, rate.fps))
    clear_of = list(faces) if title.height is None else []
    size, shift = _placed(style, outlet, lines, list(taken), clear_of)
    steps = _counting(lines, style, last - first, rate.fps) if title.counts else [(0, lines)]
    # What changes while it is there comes once, and goes once.
    stays = with_changes(style, entrance=with_changes(style.entrance, leaves=False))
    made = []
    for (at, shown), (end, _) in pairwise([*steps, (last - first, lines)]):
        said = Said(tuple(shown), end - at, first + at == 0, comes=at == 0)
        own = style if end == last - first else stays
        made.append(Lettering(writer(own, outlet, None, size, rate, shift), ((first + at, said),), is_title=True))
    return made


_Lines = Sequence[tuple[Written, ...]]


def _written(title: Lettered, style: CaptionStyle, starts: Sequence[int]) -> list[tuple[Written, ...]]:
    """The lines of a title; where it builds up, those that a person made begin at ``starts``."""
    template = TEMPLATES[title.template]
    given = [line for line in title.text.splitlines() if line.strip()]
    lines = [
        tuple(Written(style.written(word), begins=at if title.builds else 0) for word in line)
        for own, at in zip(given, starts, strict=False)
        for line in _lines(own, template.characters)
    ]
    begins = lines[-1][0].begins if lines else 0
    if title.second.strip():
        lines += [
            tuple(Written(style.written(word), template.small, begins=begins) for word in line)
            for line in _lines(title.second, round(template.characters / template.small))
        ]
    return lines


def _counting(lines: _Lines, style: CaptionStyle, frames: int, fps: float) -> list[tuple[int, _Lines]]:
    """(frame, lines) while the first number in some lines counts up, once they have come."""
    places = ((n, k) for n, line in enumerate(lines) for k, word in enumerate(line) if any(map(str.isdigit, word.text)))
    place = next(places, None)
    if place is None:
        return [(0, lines)]
    n, k = place
    comes = 0 if style.entrance.how == "none" else round(min(style.entrance.seconds * fps, frames / 4))
    made: list[tuple[int, _Lines]] = []
    for at, text in counted(lines[n][k].text, frames - comes, fps):
        own = (*lines[n][:k], lines[n][k]._replace(text=text), *lines[n][k + 1 :])
        made.append((at + comes if at else 0, [*lines[:n], own, *lines[n + 1 :]]))
    return made


def _placed(
    style: CaptionStyle, outlet: Outlet, lines: _Lines, taken: Sequence[Band], faces: Sequence[Band]
) -> tuple[float, float]:
    """The size of its letters, and by how many pixels it moves: the largest in which it is inside and clear of captions.
    Faces it is clear of where that makes it a little smaller at most."""
    size = fits = Setting(style, outlet).fitting(lines)
    while faces and size >= _A_LITTLE * fits:
        setting = Setting(style, outlet, size=size)
        shift = _between(setting.lines(lines), setting.padding, outlet, [*taken, *faces])
        if shift is not None:
            return size, shift
        size *= _SMALLER
    size = fits
    while True:
        setting = Setting(style, outlet, size=size)
        shift = _clear(setting.lines(lines), setting.padding, outlet, taken)
        if shift is not None or size <= _SMALLEST:
            return size, shift or 0.0
        size *= _SMALLER


def _lines(text: str, characters: int) -> Iterator[tuple[str, ...]]:
    """A person's own lines, those that are too long broken: into even ones where they are few."""
    for given in text.splitlines():
        words = tuple(given.split())
        if not words:
            continue
        filled = _filled(words, characters)
        edges = even_lines(words, characters, _FEW) if len(filled) <= _FEW + 1 else filled
        yield from (words[a:b] for a, b in pairwise(edges))


def _filled(words: Sequence[str], characters: int) -> list[int]:
    """Where lines begin that are filled one after the other, and the end of the last."""
    edges, used = [0], 0
    for n, word in enumerate(words):
        if used and used + 1 + len(word) > characters:
            edges.append(n)
            used = 0
        used += len(word) + (1 if used else 0)
    return [*edges, len(words)]


def band(lines: Iterable[Line], padding: float) -> Band:
    """What lines take up from top to bottom."""
    own = list(lines)
    return min(line.top for line in own) - padding, max(line.bottom for line in own) + padding


def box_of(lines: Sequence[Line], padding: float, outlet: Outlet) -> OnScreen:
    """Where lines stand."""
    top, bottom = band(lines, padding)
    left = min(line.left for line in lines) - padding
    right = max(line.right for line in lines) + padding
    wide, high = outlet.width, outlet.height
    return OnScreen(left=left / wide, top=top / high, width=(right - left) / wide, height=(bottom - top) / high)


def _between(lines: list[Line], padding: float, outlet: Outlet, taken: Sequence[Band]) -> float | None:
    """By how many pixels a title has to move, as little as can be, to stand between bands that are taken, or above or below
    all of them; None where there is no room for it."""
    top, bottom = band(lines, padding)
    _, safe_top, _, safe_bottom = outlet.safe
    gap = outlet.height * _APART
    free, at, over = [], float(safe_top), float(outlet.height - safe_bottom)
    for begins, ends in sorted(taken):
        free.append((at, min(begins - gap, over)))
        at = max(at, ends + gap)
    free.append((at, over))
    shifts = [
        min(max(top, begins), ends - (bottom - top)) - top for begins, ends in free if ends - begins >= bottom - top
    ]
    return min(shifts, key=abs, default=None)


def _clear(lines: list[Line], padding: float, outlet: Outlet, taken: Sequence[Band]) -> float | None:
    """By how many pixels a title has to move down (or, below 0, up) to be clear of what is taken, inside the safe area;
    None where there is no room for it."""
    top, bottom = band(lines, padding)
    _, safe_top, _, safe_bottom = outlet.safe
    gap = outlet.height * _APART
    meets = [each for each in taken if each[0] < bottom + gap and each[1] > top - gap]
    if not meets:
        return 0.0 if bottom - top <= outlet.height - safe_top - safe_bottom else None
    up, down = min(each[0] for each in meets) - gap - bottom, max(each[1] for each in meets) + gap - top
    if top + up >= safe_top:
        return up
    return down if bottom + down <= outlet.height - safe_bottom else None
