"""What a chunk is known by: all that is seen in it, whatever fields a plan gets."""

import unittest
from collections.abc import Iterator

from pydantic import BaseModel

from hovvet.core.captions.ass import Shape, script
from hovvet.core.colour.grade import Grade
from hovvet.core.colour.screen import Screen
from hovvet.core.plan.model import (
    Crop,
    Fill,
    Ground,
    Keyed,
    Knot,
    Pictured,
    PictureLayer,
    PlaceKnot,
    Plain,
    Plan,
    Sharpening,
    Still,
    TimeKnot,
    Video,
    Vignette,
    Window,
)
from hovvet.core.plan.outlets import OUTLETS
from hovvet.core.render.chunks import chunks
from hovvet.core.time import Rate


class ChunkKeys(unittest.TestCase):
    """What a chunk is kept by holds every field of what is seen in it."""

    LAYER = PictureLayer(
        first=0,
        last=60,
        source=Video(media="r1", knots=(TimeKnot(frame=0, source=5),)),
        crop=Crop(x=0, y=0, width=320, height=180),
        place=(PlaceKnot(frame=0, x=108, y=192, width=216, turn=3.0),),
        opacity=(Knot(at=0, value=0.5),),
        backdrop=Pictured(media="b", crop=Crop(x=0, y=0, width=32, height=18), strength=0.5, colour="#102030"),
        window=Window(x=0, y=0, width=100, height=100, radius=4),
        mirrored=True,
        keyed=Keyed(
            screen=Screen(light=90, blue=90, red=80, right=0.9, bottom=0.9),
            ground=Ground(source=Still(media="g"), crop=Crop(x=0, y=0, width=32, height=18), sigma=2.0),
        ),
        look=Grade(table="t", exposure=0.3),
        sharpening=Sharpening(amount=0.3, sigma=1.2),
        vignette=Vignette(begin=0.4, dark=0.2),
    )
    PLAN = Plan(
        rate=Rate(), width=216, height=384, frames=60, samples=96_000, picture=(LAYER,), fonts=("f",), script=""
    )
    # Nothing of these is seen in a frame: what is heard has a key of its own, and the script says what is written.
    NOT_SEEN = {
        "spoken",
        "version",
        "frames",
        "samples",
        "sample_rate",
        "master",
        "peak_db",
        "loudness",
        "sound",
        "prepared",
        "stretches",
        "words",
        "captions",
        "markers",
    }

    def key(self, layer: PictureLayer, **plan: object) -> str:
        return chunks(self.PLAN.model_copy(update={"picture": (layer,), "script": None} | plan), str, "e")[0].key

    def others(self, value: object, path: tuple[str, ...] = ()) -> Iterator[tuple[tuple[str, ...], object]]:
        """The value with each thing in it otherwise, one after the other; times apart."""
        if isinstance(value, BaseModel):
            for name in type(value).model_fields:
                if name not in ("type", "at", "frame", "first", "last", "kind"):
                    for where, other in self.others(getattr(value, name), (*path, name)):
                        yield where, value.model_copy(update={name: other})
        elif isinstance(value, tuple) and value and isinstance(value[0], BaseModel):
            for where, other in self.others(value[0], path):
                yield where, (other, *value[1:])
        elif isinstance(value, bool):
            yield path, not value
        elif isinstance(value, int | float):
            yield path, value + 1
        elif isinstance(value, str):
            yield path, f"{value}1"

    def test_every_field_of_a_layer_is_in_it(self):
        known = self.key(self.LAYER)
        seen = set()
        for path, other in self.others(self.LAYER):
            with self.subTest(field=".".join(path)):
                self.assertNotEqual(self.key(other), known)
            seen.add(path[0])
        self.assertEqual(seen, set(PictureLayer.model_fields) - {"first", "last"})

    def test_another_source_backdrop_or_extent_is_too(self):
        known = self.key(self.LAYER)
        changes = [
            {"source": Still(media="r1")}, {"source": Still(media="r1", clear=True)}, {"source": Fill(colour="#000000")},
            {"backdrop": Plain(colour="#102030")}, {"backdrop": None}, {"first": 3}, {"last": 57}, {"look": None},
            {"keyed": None}, {"keyed": Keyed(screen=Screen())},
        ]  # fmt: skip
        keys = [self.key(self.LAYER.model_copy(update=each)) for each in changes]
        self.assertEqual(len({known, *keys}), len(changes) + 1)

    def test_of_a_plan_all_that_is_seen_is(self):
        known = self.key(self.LAYER)
        changes = {
            "rate": Rate(num=25, den=1), "width": 218, "height": 386, "ground": "#111111", "fonts": ("g",),
            "script": script(OUTLETS["tall"], [], Rate(), [Shape(0, 60, 0, 0, "#FFFFFF", 1.0, "", "m 0 0 l 9 0 9 9 0 9")]),
        }  # fmt: skip
        for name, value in changes.items():
            with self.subTest(field=name):
                self.assertNotEqual(self.key(self.LAYER, **{name: value}), known)
        self.assertEqual(set(changes) | {"picture"} | self.NOT_SEEN, set(Plan.model_fields))

    def test_a_table_that_has_no_part_in_it_is_not_looked_for(self):
        def digest(media: str) -> str:
            self.assertNotEqual(media, "t")
            return media

        layer = self.LAYER.model_copy(update={"look": Grade(table="t", strength=0.0, exposure=0.3)})
        self.assertTrue(chunks(self.PLAN.model_copy(update={"picture": (layer,), "script": None}), digest, "e"))
