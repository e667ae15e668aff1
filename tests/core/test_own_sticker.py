"""Logos and stickers: what may be used is drawn, what would reach outside is refused, nothing is run."""

import base64
import io
import itertools
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from hovvet.core.errors import CoreError
from hovvet.core.picture.own_sticker import LONGEST_SIDE, bring_in_sticker, cleaned
from hovvet.core.picture.strip import Strip
from tests.media import ScratchCase

HEAD = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 40 20">'
DISC = '<circle cx="10" cy="10" r="8" fill="#ff0000"/>'


def svg(inside: str) -> bytes:
    return f"{HEAD}{DISC}{inside}</svg>".encode()


def png(picture: Image.Image, **how) -> bytes:
    file = io.BytesIO()
    picture.save(file, how.pop("format", "PNG"), **how)
    return file.getvalue()


class Drawings(unittest.TestCase):
    def test_one_is_drawn_large_and_cut_to_what_is_seen(self):
        made, _ = cleaned(svg(""))
        self.assertEqual(made.mode, "RGBA")
        self.assertEqual(made.width, made.height)
        self.assertAlmostEqual(made.width, 16 / 40 * LONGEST_SIDE, delta=3)
        self.assertEqual(made.getpixel((made.width // 2, made.height // 2)), (255, 0, 0, 255))
        self.assertEqual(made.getpixel((0, 0))[3], 0)

    def test_nothing_is_run(self):
        plain = np.asarray(cleaned(svg(""))[0])
        for inside in (
            "<script>document.body.remove()</script>",
            '<rect width="0" height="0" onload="alert(1)"/>',
            "<foreignObject><p>Hello</p></foreignObject>",
        ):
            self.assertTrue(np.array_equal(np.asarray(cleaned(svg(inside))[0]), plain), inside)

    def test_what_reaches_outside_is_refused(self):
        for inside in (
            '<image width="9" height="9" href="http://example.test/a.png"/>',
            '<image width="9" height="9" xlink:href="/etc/hostname"/>',
            '<image width="9" height="9" href="data:image/svg+xml;base64,PHN2Zy8+"/>',
            '<use href="other.svg#a"/>',
            '<style>@import "a.css";</style>',
            '<rect style="fill: url(http://example.test/x#y)"/>',
        ):
            with self.subTest(inside), self.assertRaisesRegex(CoreError, "outside itself"):
                cleaned(svg(inside))

    def test_what_is_embedded_is_drawn(self):
        inner = base64.b64encode(png(Image.new("RGB", (4, 4), "#0000ff"))).decode()
        made, _ = cleaned(svg(f'<image x="20" width="20" height="20" href="data:image/png;base64,{inner}"/>'))
        self.assertEqual(made.getpixel((made.width - 20, made.height // 2))[:3], (0, 0, 255))
        ramp = '<linearGradient id="g"><stop stop-color="#00f"/></linearGradient><rect x="20" width="9" height="9" fill="url(#g)"/>'
        self.assertGreater(cleaned(svg(ramp))[0].width, cleaned(svg(""))[0].width)

    def test_bombs_and_what_is_no_drawing_are_told(self):
        bomb = f'<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]>{HEAD}&b;</svg>'.encode()
        for data in (bomb, b"<svg", svg("<g>" * 3)):
            with self.subTest(data[:20]), self.assertRaisesRegex(CoreError, "no SVG as it should be"):
                cleaned(data)
        with self.assertRaisesRegex(CoreError, "too many parts"):
            cleaned(svg("<g/>" * 20_001))


class Rasters(ScratchCase):
    def test_one_is_cut_shrunk_and_kept_clear(self):
        given = Image.new("RGBA", (3000, 2000), (0, 0, 0, 0))
        given.paste((10, 200, 30, 128), (500, 500, 2701, 1000))
        found = bring_in_sticker(png(given), self.scratch / "out")
        self.assertEqual((found.width, found.height), (LONGEST_SIDE, 246))
        with Image.open(self.scratch / "out") as made:
            self.assertEqual(made.size, (found.width, found.height))
            seen = made.getpixel((500, 100))
            self.assertEqual(seen[3], 128)
            self.assertLessEqual(max(abs(a - b) for a, b in zip(seen, (10, 200, 30), strict=False)), 1)

    def test_what_cannot_be_used_is_told_and_leaves_nothing(self):
        frames = [Image.new("RGB", (4, 4), (n % 256, n // 256, 90)) for n in range(1_001)]
        many = png(frames[0], format="GIF", save_all=True, append_images=frames[1:], duration=20)
        long = png(frames[0], format="GIF", save_all=True, append_images=frames[1:30], duration=1_000)
        clear = png(Image.new("RGBA", (40, 40), (0, 0, 0, 0)))
        for data, told in (
            (many, "1,001 frames"), (long, "30 seconds"), (clear, "all of it is clear"), (b"GIF89a" + bytes(40), "broken"),
            (b"BM" + bytes(40), "PNG, WebP, GIF or SVG"),
            (png(Image.new("RGB", (64, 64)))[:60], "broken"), (svg('<use href="a.svg"/>'), "outside itself"),
        ):  # fmt: skip
            with self.subTest(told), self.assertRaisesRegex(CoreError, told):
                bring_in_sticker(data, self.scratch / "out")
        self.assertEqual([*self.scratch.iterdir()], [])

    def test_what_moves_becomes_a_strip_of_frames_at_their_times(self):
        for kind, ground, size in (("GIF", (0, 0, 0, 0), (36, 32)), ("WEBP", (90, 90, 90, 255), (64, 48))):
            frames = []
            for n, colour in enumerate(((250, 10, 10, 255), (10, 250, 10, 255), (10, 10, 250, 255))):
                frame = Image.new("RGBA", (64, 48), ground)
                frame.paste(colour, (8 + 10 * n, 8, 24 + 10 * n, 40))
                frames.append(frame)
            data = png(
                frames[0], format=kind, save_all=True, append_images=frames[1:], duration=[200, 400, 200], disposal=2
            )
            strip = bring_in_sticker(data, self.scratch / kind)
            self.assertEqual((strip.size, strip.frames), (size, 12), kind)
            self.assertAlmostEqual(strip.frames * strip.step, 0.8, places=3)
            left, high = (0, 32) if kind == "GIF" else (8, 48)
            with Image.open(self.scratch / kind) as made:
                self.assertEqual(made.size, (size[0], high * 12))
                for n, each in enumerate((0, 0, 0, 1, 1, 1, 1, 1, 1, 2, 2, 2)):
                    pixel = made.getpixel((left + 10 * each + 8, high * n + high // 2))
                    self.assertEqual(max(range(3), key=pixel.__getitem__), each, (kind, n))

    @given(st.integers(1, 40), st.floats(0.03, 0.4), st.integers(0, 500), st.integers(1, 900))
    def test_its_frames_follow_one_another_over_and_over(self, frames, step, first, lasts):
        runs = [*Strip(10, 10, frames, step).runs(first, first + lasts, 30.0)]
        self.assertEqual((runs[0][0], runs[-1][1]), (first, first + lasts))
        self.assertTrue(all(a[1] == b[0] for a, b in itertools.pairwise(runs)))
        for begins, _, frame in runs:
            wanted = (begins - first) / 30 / step
            self.assertLessEqual(
                abs(wanted - round((wanted - frame) / frames) * frames - frame), 0.5 / 30 / step + 0.51
            )
