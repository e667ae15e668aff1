"""Stickers, logos and progress bars: where they stand, how they come and go, what of the picture is seen through them."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, staged
from hovvet.core.compile.sticking import cornered, stuck
from hovvet.core.compile.target import Target
from hovvet.core.media.probe import probe
from hovvet.core.picture.strip import Strip
from hovvet.core.plan.knots import place_at, value_at
from hovvet.core.plan.model import Plan, Still
from hovvet.core.plan.outlets import OUTLETS, Outlet
from hovvet.core.render.chunks import Script
from hovvet.core.render.compositor import Compositor
from hovvet.core.render.sources import Original
from hovvet.core.render.text import Text
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.asking import Around, Lay, edit_for
from hovvet.core.sheet.contents.base import Content
from hovvet.core.sheet.contents.logo import Logo
from hovvet.core.sheet.contents.progress import Progress
from hovvet.core.sheet.contents.sticker import Sticker
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.model import Piece, Sheet, WordRef
from hovvet.core.time import Rate
from hovvet.core.view.rows import bars, rows
from tests.media import LEVELS, ScratchCase, counted, even_words

SMALL = Outlet(key="small", name="Small", width=216, height=384, longest=60, safe=(10, 12, 14, 60))
TALK = even_words(40)
COMES = ("pops up", "slides in", "fades in", "is there")
MEANWHILE = ("stands still", "wiggles", "bounces")
RATE = Rate()


class Stuck(unittest.TestCase):
    @given(
        st.sampled_from(COMES), st.sampled_from(MEANWHILE), st.integers(1, 200), st.floats(0.03, 1), st.floats(0, 1),
        st.floats(0, 1), st.integers(0, 900),
    )  # fmt: skip
    def test_it_is_where_it_was_put_once_it_has_come(self, comes, meanwhile, there, size, across, down, first):
        sticker = Sticker(media="s", comes=comes, meanwhile=meanwhile, size=size, across=across, down=down)
        place, opacity = stuck(sticker, (200, 100), (1080, 1920), first, first + there, RATE)
        frames = [knot.frame for knot in place]
        self.assertEqual(frames, sorted(set(frames)))
        self.assertTrue(all(first <= frame < first + there for frame in frames))
        frame = first + min(int(there * 0.45), there - 1)
        amid = place_at(place, frame)
        if there > 4:
            self.assertAlmostEqual(amid.x, across * 1080, delta=0.01)
            self.assertAlmostEqual(amid.width, max(size * 1080, 2), delta=0.01)
            self.assertEqual(value_at(opacity, frame), 1.0)
            self.assertLessEqual(amid.y, down * 1920 + 0.01)
            self.assertGreaterEqual(amid.y, down * 1920 - 0.13 * size * 540)
        self.assertLessEqual(max(knot.width for knot in place), max(size * 1080 * 1.11, 2))

    def test_it_pops_beyond_its_size_and_goes(self):
        place, _ = stuck(Sticker(media="s"), (100, 100), (1000, 1000), 30, 90, RATE)
        widths = [place_at(place, frame).width for frame in range(30, 90)]
        self.assertLess(widths[0], 10)
        self.assertAlmostEqual(max(widths) / 260, 1.1, delta=0.02)
        self.assertEqual(widths[12:50], [260.0] * 38)
        self.assertLess(widths[-1], 10)

    @given(
        st.sampled_from(["top left", "top right", "bottom left", "bottom right"]), st.floats(0.03, 0.4),
        st.integers(20, 4000), st.integers(20, 4000), st.sampled_from([*OUTLETS.values()]),
    )  # fmt: skip
    def test_a_logo_is_inside_the_safe_area(self, corner, size, width, height, where):
        place = cornered(Logo(corner=corner, size=size), (width, height), (where.width, where.height), where.safe)
        high = place.width * height / width
        left, top, right, bottom = where.safe
        self.assertGreaterEqual(place.x - place.width / 2, left - 0.1)
        self.assertLessEqual(place.x + place.width / 2, where.width - right + 0.1)
        self.assertGreaterEqual(place.y - high / 2, top - 0.1)
        self.assertLessEqual(place.y + high / 2, where.height - bottom + 0.1)
        self.assertLessEqual(max(place.width, high), size * min(where.width, where.height) + 0.1)


class OnTheSheet(ScratchCase):
    def setUp(self) -> None:
        super().setUp()
        self.file = counted(self.scratch / "r1.mp4", 17)
        mark = Image.new("RGBA", (80, 40), (0, 0, 0, 0))
        mark.paste((255, 255, 255, 255), (0, 0, 40, 40))  # its right half can be seen through
        mark.paste((255, 255, 255, 128), (20, 0, 40, 40))
        mark.save(self.scratch / "mark.png")
        self.originals = {
            "r1": Original(self.file, probe(self.file), "r1"),
            "s1": Original(self.scratch / "mark.png", probe(self.file), "s1"),
        }
        self.sources = {"r1": Source(TALK, self.originals["r1"].media)}
        self.sheet = Sheet(pieces=(Piece(id="q1", recording="r1", start=0.0, end=16.0),))

    def lay(self, content: Content, first: int | None = None, last: int | None = None) -> None:
        names = [WordRef(origin="q1", word=word) if word is not None else None for word in (first, last)]
        lay = Lay(content=content, first=names[0], last=names[1])
        self.sheet = apply(self.sheet, edit_for(lay, self.sheet, Around({"r1": TALK}, RATE, {})))

    def target(self, **how) -> Target:
        return Target(SMALL, stickers={"s1": Strip(80, 40), "s2": Strip(40, 40, 2, 0.2)}, **how)

    def plan(self) -> Plan:
        return compile(self.sheet, self.sources, self.target())

    def luma(self, plan: Plan, frame: int) -> np.ndarray:
        compositor = Compositor(plan, self.originals)
        drawn = compositor.frame(frame)[0].copy()
        compositor.close()
        return drawn

    def test_what_is_behind_is_seen_through(self):
        for content in (
            Logo(media="s1", corner="top left", size=80 / 216, opacity=1.0),
            Sticker(media="s1", comes="is there", size=80 / 216, across=(10 + 40) / 216, down=(12 + 20) / 384),
            Sticker(media="s1", meanwhile="bounces", size=80 / 216, across=50 / 216, down=32 / 384),
        ):
            with self.subTest(content.kind):
                self.sheet = self.sheet.model_copy(update={"layers": ()})
                self.lay(content)
                plan = self.plan()
                frame = 12 if isinstance(content, Sticker) else 40  # has come, has not bounced yet
                drawn = self.luma(plan, frame)
                behind = self.luma(compile(self.sheet, self.sources, self.target(titles=False)), frame)
                self.assertGreater(drawn[32, 15], 230)
                self.assertAlmostEqual(int(drawn[32, 40]), (235 + int(behind[32, 40])) / 2, delta=4)
                self.assertEqual(drawn[32, 75], behind[32, 75])
                self.assertEqual(drawn[200, 100], behind[200, 100])
                self.assertEqual((plan.assets, plan.picture[-1].source), (("s1",), Still(media="s1", clear=True)))

    def test_what_moves_shows_its_frames_one_after_the_other(self):
        strip = Image.new("RGBA", (40, 80), (255, 255, 255, 255))
        strip.paste((0, 0, 0, 255), (0, 40, 40, 80))
        strip.save(self.scratch / "strip.png")
        self.originals["s2"] = Original(self.scratch / "strip.png", probe(self.file), "s2")
        self.lay(Sticker(media="s2", comes="is there", size=40 / 216, across=0.5, down=0.5))
        plan = self.plan()
        compositor = Compositor(plan, self.originals)
        seen = [int(compositor.frame(frame)[0][192, 108]) for frame in (0, 5, 6, 11, 12, 18)]
        compositor.close()
        self.assertEqual([value > 200 for value in seen], [True, True, False, False, True, False])
        self.assertEqual({layer.crop.height for layer in plan.picture[1:]}, {40})

    def test_what_comes_in_its_own_way_is_looked_at_once_it_is_there(self):
        self.lay(Sticker(media="s1"), 3, 8)
        scene = staged(self.sheet, self.sources, self.target())
        (bar,) = bars(self.sheet, scene, rows(self.sheet, scene))
        self.assertAlmostEqual(bar.shown, bar.start + 0.6)
        self.assertLess(bar.shown, bar.end)
        self.sheet = self.sheet.model_copy(update={"layers": ()})
        self.lay(Logo(media="s1"))
        scene = staged(self.sheet, self.sources, self.target())
        self.assertEqual([bar.shown for bar in bars(self.sheet, scene, rows(self.sheet, scene))], [None])

    def test_a_logo_stands_over_pictures_and_under_nothing_in_the_plan(self):
        self.lay(Logo(media="s1"))
        plan = self.plan()
        self.assertEqual([layer.source.type for layer in plan.picture], ["video", "still"])
        self.assertEqual(value_at(plan.picture[-1].opacity, 100), 0.9)

    def test_what_is_missing_is_told(self):
        for content, told in ((Logo(), "Choose"), (Sticker(media="gone"), "deleted"), (Sticker(media="s1"), "")):
            self.sheet = self.sheet.model_copy(update={"layers": ()})
            self.lay(content, 3, 5)
            scene = staged(self.sheet, self.sources, self.target())
            (note,) = [bar.note for bar in bars(self.sheet, scene, rows(self.sheet, scene))]
            self.assertTrue(note.startswith(told) if told == "Choose" else told in note, note)
            self.assertEqual(len(scene.over), told == "")

    def test_a_bar_grows_evenly_and_is_full_at_the_end_in_every_chunk(self):
        for place, row in (("along the top", 0), ("along the bottom", 383), ("inside, at the top", 13)):
            self.sheet = self.sheet.model_copy(update={"layers": ()})
            self.lay(Progress(place=place, thickness=0.01, colour="#FFFFFF", rest=0.0))
            plan = self.plan()
            begins, width = (10, 192) if place.startswith("inside") else (0, 216)
            for frame in (3, plan.frames // 3, plan.frames // 2, plan.frames - 2):
                first = max(frame - 20, 0)  # as a chunk has it that begins there
                own = Script(plan).of(first, min(first + 60, plan.frames))
                text = Text(own, 216, 384)
                planes = tuple(np.full((384 // part, 216 // part), 16, np.uint8) for part in (1, 2, 2))
                text.draw(planes, 10_000 + (frame - first) * 1000 // 30)
                text.close()
                lit = np.flatnonzero(planes[0][row] > 120)
                share = (lit.max() + 1 - begins) / width if lit.size else 0
                self.assertAlmostEqual(share, frame / plan.frames, delta=0.02, msg=f"{place}, frame {frame}")

    def test_titles_keep_clear_of_a_bar(self):
        self.lay(Title(text="One clock", template="header", height=0.0))
        free = self.plan().script
        self.lay(Progress(place="inside, at the top", thickness=0.03))
        self.assertNotEqual([line for line in self.plan().script.splitlines() if "clock" in line],
                            [line for line in free.splitlines() if "clock" in line])  # fmt: skip

    def test_the_picture_behind_is_that_of_its_frame(self):
        self.lay(Logo(media="s1"))
        plan = self.plan()
        for frame in (20, 50):
            self.assertAlmostEqual(float(self.luma(plan, frame)[190, 100]), 16 + 9 * (frame % LEVELS), delta=3)
