"""When things happen in a file: how long it honestly is, and the jumps of its clock.

``python -m hovvet.core.media.clock FILE [OUT]`` does the reading, as a program of its own under limits, since the
file comes from outside; ``read_clock`` and ``bridge`` start it.
"""

import itertools
import json
import sys
from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import Any

import av
from pydantic import BaseModel, ConfigDict

from hovvet.core.media.ffmpeg import GUARD_OPTIONS
from hovvet.core.media.process import Limits, MediaError, run
from hovvet.core.spans import Span, merge

LONGEST_GAP = 10.0  # seconds without sound and picture: anything longer is a jump of the clock, not a pause
_READ = Limits(seconds=900, cpu=900, output=0)


class Clock(BaseModel):
    """``start`` is where the file's clock begins, ``length`` how much lies between its first and last moment,
    both in seconds; ``gaps`` are the jumps, as (start, end) on the file's own clock."""

    model_config = ConfigDict(frozen=True)

    start: float = 0.0
    length: float = 0.0
    gaps: tuple[Span, ...] = ()

    @property
    def held(self) -> float:
        """Seconds that the file holds, its gaps left out."""
        return self.since_start(self.start + self.length)

    def since_start(self, at: float) -> float:
        """A time of the file's clock as seconds from its start, the gaps before it left out."""
        return at - self.start - sum(min(max(at - start, 0.0), end - start) for start, end in self.gaps)


def read_clock(path: Path) -> Clock:
    """Go through the packets of a file without decoding them. Raises MediaError."""
    return Clock.model_validate_json(run(_program(path), _READ))


def bridge(path: Path, out: Path) -> None:
    """Copy a file, packet by packet, into a Matroska file whose clock starts at 0 and has no gaps. Raises MediaError."""
    size = path.stat().st_size
    run(_program(path, out), Limits(seconds=900, cpu=900, output=2 * size + 10_000_000))


def _program(*paths: Path) -> list[str]:
    return [sys.executable, "-P", "-m", "hovvet.core.media.clock", *(str(path.resolve()) for path in paths)]


def clock_of(spans: Sequence[Span]) -> Clock:
    """The clock of packets that last these spans, in any order."""
    if not spans:
        return Clock()
    covered = merge(spans)
    edges = itertools.pairwise(covered)
    gaps = tuple((a[1], b[0]) for a, b in edges if b[0] - a[1] > LONGEST_GAP)
    return Clock(start=covered[0][0], length=covered[-1][1] - covered[0][0], gaps=gaps)


def _opened(path: Path) -> Any:
    return av.open(str(path), options=dict(GUARD_OPTIONS))


def _kept(container: Any) -> list[Any]:
    cover = av.stream.Disposition.attached_pic
    return [each for each in container.streams if each.type in ("video", "audio") and not each.disposition & cover]


def _spans(container: Any) -> Iterable[Span]:
    for packet in container.demux(_kept(container)):
        at = packet.pts if packet.pts is not None else packet.dts
        if at is not None:
            start = float(at * packet.time_base)
            yield start, start + float((packet.duration or 0) * packet.time_base)


def _scan(path: Path) -> Clock:
    with _opened(path) as container:
        return clock_of(list(_spans(container)))


def _bridge(path: Path, out: Path) -> None:
    clock = _scan(path)
    with _opened(path) as source, av.open(str(out), "w", format="matroska") as target:
        streams = {each.index: target.add_stream_from_template(each) for each in _kept(source)}
        before: dict[int, int] = {}  # the decoding time of the last packet of each stream, which must grow
        for packet in source.demux(_kept(source)):
            if packet.dts is None:
                continue
            last = packet.dts = max(_shifted(clock, packet, packet.dts), before.get(packet.stream.index, -(2**62)) + 1)
            before[packet.stream.index] = last
            if packet.pts is not None:
                packet.pts = max(_shifted(clock, packet, packet.pts), last)
            packet.stream = streams[packet.stream.index]
            target.mux(packet)


def _shifted(clock: Clock, packet: Any, at: int) -> int:
    """A time of a packet, in its time base, on the clock without gaps."""
    return round(clock.since_start(float(at * packet.time_base)) / float(packet.time_base))


def main(arguments: Sequence[str]) -> int:
    """Print the clock of a file as JSON, or write its bridged copy."""
    try:
        if len(arguments) == 2:
            _bridge(Path(arguments[0]), Path(arguments[1]))
        else:
            print(json.dumps(_scan(Path(arguments[0])).model_dump()))
    except (av.FFmpegError, MediaError) as error:
        print(error, file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
