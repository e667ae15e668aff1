"""What the core says of the rules that the page computes too, as files that both read: ``python -m tests.golden.make`` writes
them anew, ``tests/core/test_golden.py`` holds the core to them, ``web/src/**/golden.test.ts`` the page."""

import base64
import gzip
import json
import random
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np

from hovvet.core.colour.grade import LOOKS, Grade
from hovvet.core.colour.keying import tables_of, taken_out
from hovvet.core.colour.lut import applied, lut_of, packed
from hovvet.core.colour.screen import Screen
from hovvet.core.colour.sharpening import stronger
from hovvet.core.compile.scene import Box
from hovvet.core.plan.knots import place_at, source_frame, value_at
from hovvet.core.plan.model import (
    Blur,
    Crop,
    Fill,
    Keyed,
    Knot,
    PictureLayer,
    PlaceKnot,
    Plan,
    SoundLayer,
    Still,
    TimeKnot,
    Video,
    Window,
)  # fmt: skip
from hovvet.core.plan.outlets import OUTLETS
from hovvet.core.render.limiter import limit
from hovvet.core.render.mix import mix
from hovvet.core.render.visible import visible
from hovvet.core.sound.energy import integrated, measure
from hovvet.core.time import Rate
from hovvet.core.view.placing import edges_of, overlapping, snapped, within
from hovvet.core.view.rows import Bar

FOLDER = Path(__file__).parent
_WIDE, _HIGH = 1080, 1920


def knots() -> Any:
    """Values between knots, places, and frames of a source."""
    chance, cases = random.Random(1), []
    for _ in range(20):
        at = sorted(chance.sample(range(0, 200), chance.randint(1, 6)))
        values = [Knot(at=n, value=round(chance.random(), 4)) for n in at]
        places = [
            PlaceKnot(
                frame=n,
                x=chance.randint(0, _WIDE),
                y=chance.randint(0, _HIGH),
                width=chance.randint(2, 2000),
                turn=chance.randint(-90, 90),
            )
            for n in at
        ]
        source = 0.0
        times = []
        for n in at:
            times.append(TimeKnot(frame=n, source=round(source, 3)))
            source += chance.random() * 40
        frames = sorted({*at, *(chance.randrange(220) for _ in range(8))})
        cases.append(
            {
                "values": [each.model_dump() for each in values],
                "places": [each.model_dump() for each in places],
                "times": [each.model_dump() for each in times],
                "frames": frames,
                "value": [value_at(values, n) for n in frames],
                "place": [place_at(places, n).model_dump(exclude={"frame"}) for n in frames],
                "source": [source_frame(times, n) for n in frames],
            }
        )
    return cases


def visibility() -> Any:
    """Which layers are seen at a frame: by their numbers."""
    chance, cases = random.Random(2), []
    crop = Crop(x=0, y=0, width=1920, height=1080)
    for _ in range(30):
        layers = []
        for _ in range(chance.randint(1, 6)):
            first = chance.randrange(60)
            last = first + chance.randint(1, 60)
            rise = (Knot(at=first, value=0.0), Knot(at=first + 10, value=1.0)) if chance.random() < 0.3 else ()
            covering = chance.random() < 0.5
            place = PlaceKnot(
                frame=first,
                x=_WIDE / 2,
                y=_HIGH / 2,
                width=3414 if covering else 700,
                turn=chance.choice([0.0, 0.0, 5.0]),
            )
            kind = chance.choice(["fill", "video", "keyed", "still", "clear", "blurred", "windowed"])
            layer = PictureLayer(first=first, last=last, source=Fill(colour="#102030"), opacity=rise)
            if kind == "keyed" or kind == "video":
                layer = layer.model_copy(
                    update={
                        "keyed": Keyed(screen=Screen()) if kind == "keyed" else None,
                        "source": Video(media="r", knots=(TimeKnot(frame=0, source=0),)),
                        "crop": crop,
                        "place": (place,),
                    }
                )
            elif kind in ("still", "clear"):
                layer = layer.model_copy(
                    update={"source": Still(media="s", clear=kind == "clear"), "crop": crop, "place": (place,)}
                )
            elif kind == "blurred":
                behind = Blur(crop=crop, width=54, height=96, sigma=4)
                layer = layer.model_copy(
                    update={"source": Still(media="s"), "crop": crop, "place": (place,), "backdrop": behind}
                )
            elif kind == "windowed":
                layer = layer.model_copy(update={"window": Window(x=0, y=0, width=200, height=200)})
            layers.append(layer)
        plan = Plan(rate=Rate(), width=_WIDE, height=_HIGH, frames=120, samples=192_000, picture=tuple(layers))
        frames = sorted(chance.sample(range(125), 12))
        numbers = {id(layer): n for n, layer in enumerate(plan.picture)}
        shown = [[numbers[id(layer)] for layer in visible(plan, n)] for n in frames]
        cases.append(
            {
                "picture": [layer.model_dump(mode="json") for layer in plan.picture],
                "width": _WIDE,
                "height": _HIGH,
                "frames": frames,
                "shown": shown,
            }
        )
    return cases


def fades() -> Any:
    """How a sound layer rises, falls and is heard: of a sound that is 1 all along."""
    cases = []
    for samples, rise, fall, gain, *knots in (
        (200, 0, 0, 0.0),
        (200, 40, 60, -6.0),
        (100, 50, 50, 3.5),
        (64, 64, 0, -12.25),
        (30, 1, 1, 0.0),
        (200, 20, 0, -3.0, (20, 1.0), (60, 0.25), (70, 0.5), (150, 0.5), (190, 0.0)),
        (90, 0, 0, 0.0, (-30, 0.2), (120, 1.7)),
    ):
        level = tuple(Knot(at=at, value=value) for at, value in knots)
        layer = SoundLayer(
            media="m", sample=0, samples=samples, source_sample=0, gain=gain, level=level, fade_in=rise, fade_out=fall
        )
        plan = Plan(rate=Rate(), width=2, height=2, frames=1, samples=samples, sound=(layer,))
        heard = np.zeros((samples, 2), np.float32)
        mix(plan, lambda media, first, count: np.ones((count, 2), np.float32), heard)
        cases.append({"layer": layer.model_dump(), "heard": [round(float(each), 5) for each in heard[:, 0]]})
    return cases


def limiter() -> Any:
    """What is left of a sound under a ceiling in dB."""
    n = np.arange(2_400)
    sound = np.sin(n / 7) * np.where((n > 700) & (n < 1_100), 1.6, 0.5) + np.where(n == 2_000, 1.2, 0.0)
    sound = np.round(sound, 5)
    made = np.stack([sound, sound / 2], axis=1).astype(np.float32)
    limit(made, -1.5)
    return {"ceiling": -1.5, "sound": sound.tolist(), "limited": [round(float(each), 5) for each in made[:, 0]]}


def loudness() -> Any:
    """How loud a sound is in each 100 ms, and as a whole."""
    chance = np.random.default_rng(7)
    swells = np.repeat([0.3, 0.02, 0.3, 0.0, 0.5, 0.1, 0.0005, 0.4], 4_800)
    sound = (chance.uniform(-1, 1, len(swells)) * swells).round(4).astype(np.float32)
    (moments,) = measure(iter([np.stack([sound, sound / 2], axis=1)]))
    powers = moments.power.astype(float).reshape(-1, 10).mean(axis=1)
    return {
        "sound": base64.b64encode(gzip.compress(sound.astype("<f4").tobytes(), mtime=0)).decode(),
        "power": powers.tolist(),
        "peak": moments.peak.reshape(-1, 10).max(axis=1).round(5).tolist(),
        "integrated": integrated(np.repeat(powers, 10)),
    }


def grades() -> Any:
    """What looks make of colours; the table as the page is sent it."""
    chance, cases = random.Random(3), []
    for name in ("Warm evening", "Punchy", "Print"):
        grade: Grade = LOOKS[name]
        colours = [[chance.randrange(256) for _ in range(3)] for _ in range(12)] + [
            [0, 0, 0],
            [255, 255, 255],
            [128, 128, 128],
        ]
        made = applied(lut_of(grade), np.array(colours) / 255) * 255
        table = base64.b64encode(gzip.compress(packed(lut_of(grade)), mtime=0)).decode()
        cases.append({"look": name, "table": table, "colours": colours, "graded": np.round(made, 2).tolist()})
    return cases


def sharpening() -> Any:
    """Greys with what is soft of them, and what they become."""
    chance, cases = random.Random(4), []
    for amount in (0.2, 0.75, 1.5):
        grey = [chance.randint(70, 180) for _ in range(24)]
        soft = [min(max(each + chance.randint(-20, 20), 60), 190) for each in grey]
        made = stronger(np.array([grey], np.uint8), np.array([soft], np.uint8), amount)
        cases.append({"amount": amount, "grey": grey, "soft": soft, "sharpened": made[0].tolist()})
    return cases


def keying() -> Any:
    """How much of colours is a screen, and what is left of them; and how much of a picture covers what is behind it."""
    chance, cases = random.Random(6), []
    for screen in (
        Screen(light=138, blue=95, red=72),
        Screen(light=81, blue=195, red=98, reach=0.3, softness=0.6, spill=0.4),
    ):
        places = [(chance.randrange(16, 240), chance.randrange(16, 240)) for _ in range(60)]
        places += [(round(screen.blue) + n, round(screen.red) - n) for n in range(-12, 13, 3)]
        share, blue, red = (table[[cb * 256 + cr for cb, cr in places]].tolist() for table in tables_of(screen))
        cases.append({"screen": screen.model_dump(), "places": places, "share": share, "blue": blue, "red": red})
    screen = Screen(light=138, blue=95, red=72, left=0.25)
    size = 24
    light = np.full((size, size), 138, np.uint8)
    u, v = np.full((size // 2, size // 2), 95, np.uint8), np.full((size // 2, size // 2), 72, np.uint8)
    u[4:9, 5:10], v[4:9, 5:10], light[8:18, 10:20] = 118, 150, 190  # somebody
    u[:4, 7], v[:4, 7], light[:8, 14] = 110, 105, 165  # a hair
    covers = taken_out((light, u, v), screen, (size // 4, 0, size, size)).covers
    rgb = np.stack(_rgb_of(light, *(np.kron(each, np.ones((2, 2))) for each in (u, v))), axis=-1)
    picture = {
        "rgb": np.clip(np.round(rgb), 0, 255).astype(int).reshape(-1).tolist(),
        "covers": covers.reshape(-1).tolist(),
    }
    return {"tables": cases, "screen": screen.model_dump(), "size": size, **picture}


def _rgb_of(light: Any, blue: Any, red: Any) -> tuple[Any, Any, Any]:
    """R'G'B' of Y'CbCr: BT.709, limited range."""
    luma, cb, cr = (light - 16.0) / 219 * 255, (blue - 128.0) / 224 * 255, (red - 128.0) / 224 * 255
    r, b = luma + 1.5748 * cr, luma + 1.8556 * cb
    return r, (luma - 0.2126 * r - 0.0722 * b) / 0.7152, b


def placing() -> Any:
    """Where what is dragged is drawn to, what it meets, and whether a clip is too long."""
    chance = random.Random(5)
    snaps = []
    for _ in range(60):
        value, size = round(chance.uniform(-0.2, 1.2), 4), round(chance.uniform(0.05, 0.6), 3)
        edges = edges_of(size, (0.1, 0.85))
        at, line = snapped(value, 0.0, 1.0, edges)
        snaps.append(
            {
                "value": value,
                "size": size,
                "free": [0.1, 0.85],
                "at": at,
                "line": line,
                "within": within(value, 0.0, 1.0),
            }
        )
    bars = []
    for n in range(8):
        begins = round(chance.uniform(0, 10), 2)
        box = Box(left=chance.random() * 0.7, top=chance.random() * 0.7, width=0.3, height=0.2) if n % 4 else None
        bars.append(
            Bar(
                layer=f"l{n}",
                kind="title",
                lane="screen",
                label=f"Thing {n}",
                first=0,
                last=1,
                start=begins,
                end=begins + 4,
                shown=begins + 0.6,
                whole=False,
                note="",
                box=box,
            )
        )
    meets = []
    for _ in range(40):
        box = Box(left=chance.random() * 0.8, top=chance.random() * 0.8, width=0.25, height=0.15)
        layer = f"l{chance.randrange(8)}"
        meets.append({"layer": layer, "box": box.model_dump(), "meets": overlapping(bars, layer, box)})
    outlet = OUTLETS["tall"]
    long = [{"seconds": seconds, "too_long": outlet.too_long(seconds)} for seconds in (1.0, 59.99, 60.0, 60.04, 300.0)]
    return {
        "snaps": snaps,
        "bars": [bar.model_dump() for bar in bars],
        "meets": meets,
        "longest": outlet.longest,
        "long": long,
    }


def moments() -> Any:
    """The first frame that is all of what begins at a time."""
    chance, cases = random.Random(6), []
    for rate in (Rate(num=25, den=1), Rate(num=30000, den=1001), Rate(num=24, den=1)):
        times = [round(chance.uniform(0, 60), 4) for _ in range(12)] + [rate.seconds(n) for n in (0, 1, 7, 1000)]
        cases.append({"rate": rate.model_dump(), "times": times, "frames": [rate.frame_from(each) for each in times]})
    return cases


GOLDEN: dict[str, Callable[[], Any]] = {
    each.__name__: each
    for each in (knots, visibility, fades, limiter, loudness, grades, sharpening, keying, placing, moments)
}


def written(name: str) -> str:
    """A file as it would be written now."""
    return json.dumps(GOLDEN[name](), sort_keys=True, separators=(",", ":")) + "\n"


if __name__ == "__main__":
    for name in GOLDEN:
        (FOLDER / f"{name}.json").write_text(written(name))
