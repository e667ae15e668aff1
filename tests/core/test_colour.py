"""Colour: settings that do what they say, tables that hold them, pictures that have them."""

import tempfile
import unittest
from collections.abc import Callable
from pathlib import Path

import cv2
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hovvet.core.colour.cube_file import LARGEST, read_cube
from hovvet.core.colour.grade import LOOKS, LUMA, Grade, graded
from hovvet.core.colour.lut import POINTS, applied, cube, keep, lut_of, packed, regraded
from hovvet.core.colour.matching import matched, skin_turn, statistics
from hovvet.core.colour.sharpening import sharpened
from hovvet.core.colour.vignette import darkening
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile
from hovvet.core.compile.target import Target
from hovvet.core.errors import CoreError
from hovvet.core.media.info import MediaInfo
from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import outlet
from hovvet.core.render.chunks import chunks
from hovvet.core.render.colour import to_yuv
from hovvet.core.render.compositor import Compositor
from hovvet.core.render.sources import Original
from hovvet.core.sheet.contents.look import Look
from hovvet.core.sheet.model import Layer, Piece, Run, Sheet, Span
from hovvet.core.time import Rate
from tests.media import ScratchCase, even_words, ffmpeg

GREYS = np.repeat(np.linspace(0, 1, 21)[:, None], 3, axis=1)
SKIN, SKY = np.array([[0.8, 0.6, 0.5]]), np.array([[0.4, 0.6, 0.9]])


@st.composite
def grades(draw) -> Grade:
    apart = ("exposure", "vignette", "sharpen", "table", "strength")
    shares = {name: draw(st.floats(-1, 1)) for name in Grade.model_fields if name not in apart}
    return Grade(exposure=draw(st.floats(-2, 2)), **shares)


class Settings(unittest.TestCase):
    def test_each_does_what_it_says(self):
        light = graded(np.array([[0.5, 0.5, 0.5]]), Grade(exposure=1))
        self.assertAlmostEqual(float(light[0, 0]), 0.5 * 2 ** (1 / 2.4), places=6)
        warm, cold = (graded(GREYS[10:11], Grade(temperature=t))[0] for t in (0.5, -0.5))
        self.assertTrue(warm[0] > warm[1] > warm[2] and cold[0] < cold[1] < cold[2])
        self.assertAlmostEqual(float((warm**2.4) @ LUMA), float((GREYS[10] ** 2.4) @ LUMA), places=6)
        pink = graded(GREYS[10:11], Grade(tint=0.5))[0]
        self.assertTrue(pink[0] > pink[1] < pink[2])
        contrast = graded(GREYS, Grade(contrast=0.6))[:, 0]
        self.assertTrue(contrast[4] < GREYS[4, 0] and contrast[16] > GREYS[16, 0])
        self.assertEqual((round(contrast[0], 6), round(contrast[-1], 6)), (0, 1))
        grey = graded(SKIN, Grade(saturation=-1))[0]
        self.assertLess(np.ptp(grey), 1e-9)
        lifted = graded(GREYS, Grade(shadows=0.6))[:, 0] - GREYS[:, 0]
        self.assertTrue(lifted[4] > 0.05 > lifted[18])
        held = graded(GREYS, Grade(highlights=-0.6))[:, 0] - GREYS[:, 0]
        self.assertTrue(held[16] < -0.05 < held[3])
        more = [np.ptp(graded(c, Grade(vibrance=0.8))) / np.ptp(c) for c in (SKIN, np.array([[1.0, 0.2, 0.1]]))]
        self.assertGreater(more[0], more[1], "what has little colour gets more of it")

    @given(grades())
    def test_any_settings_make_colours_and_keep_greys_in_order(self, grade):
        made = graded(np.vstack([GREYS, SKIN, SKY]), grade)
        self.assertTrue(np.isfinite(made).all() and made.min() >= 0 and made.max() <= 1)
        steps = np.diff(made[:21] @ LUMA)
        self.assertGreater(steps.min(), -0.02, "no grey gets darker than a darker one")

    def test_looks_are_told_apart_and_named(self):
        self.assertGreaterEqual(len(LOOKS), 12)
        made = {tuple(graded(np.vstack([GREYS, SKIN, SKY]), grade).round(3).ravel()) for grade in LOOKS.values()}
        self.assertEqual(len(made), len(LOOKS))
        for name, grade in LOOKS.items():
            self.assertEqual(Look(**grade.model_dump()).label(), f"Colour: {name}")
        self.assertEqual(Look(exposure=0.05).label(), "Colour: your own")
        self.assertFalse(Grade(vignette=1, sharpen=1, table="t", strength=0).changes_colours)


class Tables(unittest.TestCase):
    @given(grades(), st.lists(st.tuples(*[st.floats(0, 1)] * 3), min_size=1, max_size=30))
    def test_a_table_is_near_what_it_holds(self, grade, colours):
        exact = graded(np.array(colours), grade)
        self.assertLess(np.abs(applied(lut_of(grade), np.array(colours)) - exact).mean(), 0.03)

    def test_as_a_cube_file(self):
        lines = cube(lut_of(LOOKS["Punchy"]), 'My "own"').splitlines()
        self.assertEqual(lines[:2], ["TITLE \"My 'own'\"", f"LUT_3D_SIZE {POINTS}"])
        rows = np.array([[float(value) for value in line.split()] for line in lines[2:]])
        self.assertEqual(rows.shape, (POINTS**3, 3))
        red = graded(np.array([[1 / 32, 0.0, 0.0]]), LOOKS["Punchy"])[0]
        np.testing.assert_allclose(rows[1], red, atol=1e-6)  # red runs fastest
        self.assertEqual(packed(lut_of(Grade()))[:9], bytes([0, 0, 0, 8, 0, 0, 16, 0, 0]))

    def test_planes_get_the_colours_of_a_table(self):
        rng = np.random.default_rng(3)
        colours = rng.integers(20, 236, (400, 3))
        yuv = np.array([to_yuv(*map(int, colour)) for colour in colours])
        planes = [
            np.repeat(np.repeat(yuv[:, k].round().astype(np.uint8).reshape(20, 20), n, 0), n, 1)
            for k, n in ((0, 2), (1, 1), (2, 1))
        ]
        for name, grade in LOOKS.items():
            with self.subTest(name):
                made = regraded(tuple(planes), grade)
                wanted = graded(colours / 255, grade) * 255
                target = np.array([to_yuv(*colour) for colour in wanted])
                got = np.stack([made[0][::2, ::2].ravel(), made[1].ravel(), made[2].ravel()], axis=-1)
                off = np.abs(got - target)
                self.assertLess(off.mean(), 1.5)
                self.assertLess(np.percentile(off, 99), 6)
        for plane, same in zip(regraded(tuple(planes), Grade()), planes, strict=True):
            np.testing.assert_array_equal(plane, same)

    def test_edges_stand_out_and_what_is_even_stays(self):
        step = np.full((40, 60), 60, np.uint8)
        step[:, 30:] = 160
        made = sharpened(step, 1.0, 2.0)
        self.assertTrue(made[20, 29] < 50 and made[20, 30] > 170)
        np.testing.assert_array_equal(made[:, [0, 10, 50, 59]], step[:, [0, 10, 50, 59]])
        np.testing.assert_array_equal(sharpened(step, 0.0, 2.0), step)

    def test_corners(self):
        left = darkening(200, 400, 0.5, 0.6)
        self.assertEqual(left[200, 100], 1)
        self.assertAlmostEqual(float(left[0, 0]), 0.4, delta=0.01)
        self.assertEqual(left[200, 0], left[200, -1])


class OwnTables(unittest.TestCase):
    """Tables of colours that people bring in."""

    def written(self, size: int, make: Callable[[float, float, float], tuple[float, ...]], top: str = "") -> bytes:
        """A 3D table of a function of red, green and blue from 0 to 1."""
        steps = [n / (size - 1) for n in range(size)]
        rows = [" ".join(f"{each:.7f}" for each in make(r, g, b)) for b in steps for g in steps for r in steps]
        return "\n".join([top, "# by hand", f"LUT_3D_SIZE {size}", *rows, ""]).encode()

    @given(grades())
    @settings(max_examples=8)  # each is 36,000 lines to be read
    def test_one_of_ours_comes_back_as_it_was(self, grade):
        made = read_cube(cube(lut_of(grade), "Ours").encode())
        self.assertEqual((made.title, made.points, made.is_3d), ("Ours", POINTS, True))
        np.testing.assert_allclose(made.lut, lut_of(grade), atol=1e-6)

    def test_any_size_and_any_domain(self):
        for size in (2, 7, 33, 64, 65):
            made = read_cube(self.written(size, lambda r, g, b: (b, r * 0.5, 1 - g)))
            np.testing.assert_allclose(applied(made.lut, SKIN), [[0.5, 0.4, 0.4]], atol=1e-6)
        # Over a domain of 0 to 2 the first half of the table is all that is used.
        wide = read_cube(self.written(9, lambda r, g, b: (r, g, b), "DOMAIN_MAX 2.0 2.0 2.0"))
        np.testing.assert_allclose(applied(wide.lut, SKIN), SKIN / 2, atol=1e-6)
        curves = [b"LUT_1D_SIZE 3", b"DOMAIN_MIN 0.5 0 0", b"0 0 1", b"0.5 0.25 0.5", b"1 1 0"]
        made = applied(read_cube(b"\r\n".join(curves)).lut, np.array([[0.75, 0.5, 0.25], [0.1, 1.0, 0.0]]))
        np.testing.assert_allclose(made, [[0.5, 0.25, 0.75], [0.0, 1.0, 1.0]], atol=0.02)

    def test_broken_ones_are_told_and_where(self):
        good = self.written(2, lambda r, g, b: (r, g, b))
        for data, told in (
            (b"", "not a .cube file"),
            (bytes(range(256)) * 20, "not a .cube file"),
            (b"hello\nLUT_3D_SIZE 2\n", "not a .cube file"),
            (good.replace(b"SIZE 2", b"SIZE 66"), "Line 3 gives the table a size of “66”. It can be 2 to 65"),
            (good.replace(b"SIZE 2", b"SIZE two"), "“two”"),
            (good[:-20], "should have 8 colours and has 7|three numbers"),
            (good + b"0 0 0\n", "8 colours and has more"),
            (good.replace(b"0.0000000 0.0000000 0.0000000", b"1e999 0 0", 1), "Line 4 has a number that is none"),
            (good.replace(b"0.0000000 0.0000000 0.0000000", b"0 0", 1), "Line 4 should be three numbers"),
            (b"LUT_1D_SIZE 2\n" + good, "once more"),
            (b"DOMAIN_MIN 1 1 1\n" + good, "DOMAIN_MAX must be above"),
            (good + b"SPARKLE 1\n", "begins with “SPARKLE”"),
            (b"0" * (LARGEST + 1), "larger than 12 MB"),
        ):
            with self.subTest(told), self.assertRaisesRegex(CoreError, told):
                read_cube(data)

    def test_it_comes_after_the_settings_at_its_strength(self):
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "table"
            keep(read_cube(self.written(5, lambda r, g, b: (1 - r, 1 - g, 1 - b))).lut, path)
            light = Grade(exposure=0.5)
            usual = lut_of(light)
            for strength, wanted in ((0.0, usual), (0.5, usual + (1 - 2 * usual) / 2), (1.0, 1 - usual)):
                made = lut_of(Grade(exposure=0.5, table="t", strength=strength), path)
                np.testing.assert_allclose(made, wanted, atol=1e-5)


class Matched(unittest.TestCase):
    """Parts of a clip whose colours are brought near to those of another."""

    ROOM = np.clip(np.random.default_rng(1).normal([0.45, 0.4, 0.35], [0.2, 0.18, 0.17], (3000, 3)), 0.02, 0.98)
    OTHERWISE = (
        Grade(exposure=0.7, temperature=0.4),
        Grade(exposure=-0.8, temperature=-0.3, tint=0.2, contrast=0.3, saturation=-0.4),
        Grade(exposure=0.3, temperature=-0.6, contrast=-0.2),
    )

    def distances(self, colours: np.ndarray) -> tuple[float, float]:
        """Of means and of spreads to those of the room."""
        off = statistics(colours) - statistics(self.ROOM)
        return float(np.linalg.norm(off[:3])), float(np.linalg.norm(off[3:]))

    def test_even_out_brings_means_together_and_match_spreads_too(self):
        for other in self.OTHERWISE:
            filmed = graded(self.ROOM, other)
            means, spreads = self.distances(filmed)
            evened = matched(filmed, self.ROOM)
            self.assertLess(self.distances(graded(filmed, evened))[0], 0.03 * means)
            self.assertEqual((evened.contrast, evened.saturation), (0, 0))
            made = matched(filmed, self.ROOM, "match")
            after = self.distances(graded(filmed, made))
            self.assertLess(after[0], 0.05 * means)
            self.assertLess(after[1], 0.3 * spreads)
            self.assertLessEqual(skin_turn(made), 12)
            print(f"matched: means {means:.3f} to {after[0]:.4f}, spreads {spreads:.3f} to {after[1]:.4f}")

    def test_skin_is_not_turned_to_match_a_pond(self):
        pond = graded(self.ROOM, Grade(temperature=-1.0, tint=-0.8, saturation=0.6))
        self.assertGreater(skin_turn(matched(self.ROOM, pond)), 12, "evened out it would be")
        held = matched(self.ROOM, pond, "match")
        self.assertLessEqual(skin_turn(held), 12)
        self.assertLess(held.temperature, 0)

    def test_half_the_way_and_on_top_of_what_is_set(self):
        filmed = graded(self.ROOM, self.OTHERWISE[0])
        base = Grade(vibrance=0.3, temperature=0.2)
        whole, half = (matched(filmed, self.ROOM, strength=strength, base=base) for strength in (1.0, 0.5))
        self.assertEqual((whole.vibrance, half.vibrance), (0.3, 0.3))
        self.assertAlmostEqual(half.exposure, whole.exposure / 2, places=2)
        self.assertAlmostEqual(half.temperature, (0.2 + whole.temperature) / 2, places=2)
        self.assertEqual(matched(filmed, self.ROOM, strength=0.0, base=base), base)


class InThePlan(ScratchCase):
    def plan(self, *layers: Layer) -> Plan:
        media = MediaInfo(
            duration=40, has_picture=True, has_sound=True, width=320, height=180, rate=Rate(num=25, den=1)
        )
        sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=0.0, end=40.0),), layers=layers)
        return compile(sheet, {"r": Source(even_words(95), media)}, Target(outlet("wide")))

    def test_it_holds_for_its_words_and_changes_their_chunks_alone(self):
        span = Span(runs=(Run(origin="p1", start=20.0, end=21.0),))
        whole = Layer(id="l1", content=Look(**LOOKS["Soft"].model_dump()))
        part = Layer(id="l2", span=span, content=Look(saturation=-1.0, vignette=0.5))
        plain, both = self.plan(whole), self.plan(whole, part)
        looks = [layer.look for layer in both.picture]
        self.assertEqual([look.saturation if look else None for look in looks], [-0.1, -1.0, -0.1])
        self.assertEqual([bool(layer.vignette) for layer in both.picture], [False, True, False])
        keys = {chunk.key for chunk in chunks(plain, str, "e")}
        again = chunks(both, str, "e")
        self.assertTrue(any(chunk.key in keys for chunk in again))
        self.assertTrue(any(chunk.key not in keys for chunk in again))
        self.assertIsNone(self.plan(Layer(id="l1", content=Look())).picture[0].look)

    def test_what_is_apart_from_colours_is_told_apart_and_a_table_by_its_bytes(self):
        (layer,) = self.plan(Layer(id="l1", content=Look(sharpen=0.4, vignette=0.2))).picture
        self.assertIsNone(layer.look)
        assert layer.sharpening
        self.assertAlmostEqual(layer.sharpening.sigma, 180 / 600)
        plan = self.plan(Layer(id="l1", content=Look(table="t1", sharpen=0.4)))
        self.assertEqual((plan.assets, plan.recordings), (("t1",), ("r",)))
        one, other, same = ([chunk.key for chunk in chunks(plan, lambda media, w=w: media + w, "e")] for w in "aba")
        self.assertEqual(one, same)
        self.assertFalse(set(one) & set(other))

    def test_the_compositor_draws_it(self):
        file = self.scratch / "blue.mp4"
        ffmpeg("-f", "lavfi", "-i", "color=0x4080c0:s=320x180:r=25:d=8,format=yuv420p", "-c:v", "libx264", "-preset", "ultrafast",
               "-crf", "5", "-colorspace", "bt709", "-vf", "scale=out_color_matrix=bt709", file)  # fmt: skip
        plan = self.plan(Layer(id="l1", content=Look(saturation=-1.0, exposure=0.5, vignette=1.0)))
        media = MediaInfo(
            duration=8, has_picture=True, has_sound=False, width=320, height=180, rate=Rate(num=25, den=1)
        )
        compositor = Compositor(plan, {"r": Original(file, media)})
        y, u, v = (plane.copy() for plane in compositor.frame(10))
        compositor.close()
        middle = graded(np.array([[0x40, 0x80, 0xC0]]) / 255, Grade(saturation=-1.0, exposure=0.5))[0, 0]
        self.assertAlmostEqual(float(y[540, 960]), 16 + 219 * middle, delta=3)
        self.assertLessEqual(max(abs(int(u[270, 480]) - 128), abs(int(v[270, 480]) - 128)), 2)
        self.assertAlmostEqual((float(y[0, 0]) - 16) / (float(y[540, 960]) - 16), 0.3, delta=0.03)
        self.assertLess(cv2.absdiff(u, np.full_like(u, 128)).max(), 4)
