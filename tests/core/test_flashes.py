"""Flashes, black and frozen pictures, clicks: found in made pictures and files with a known truth."""

import tempfile
import unittest
from pathlib import Path

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from hovvet.core.picture.flashes import flashes
from hovvet.core.plan.model import Plan, Stretch
from hovvet.core.proof.measuring import is_click, measured
from hovvet.core.time import Rate
from tests.media import ffmpeg

FPS, SIDE = 30, 36
DARK, BRIGHT = (20, 20, 20), (235, 235, 235)


def blinking(hertz, seconds=2.0, one=DARK, two=BRIGHT, share=1.0, fps=FPS):
    """Frames that change from one colour to another and back so often a second, over a share of their height."""
    high = round(SIDE * share)
    for n in range(round(seconds * fps)):
        frame = np.full((SIDE, SIDE, 3), one, np.uint8)
        if int(n * hertz * 2 / fps) % 2:
            frame[:high, :high] = two
        yield frame


class Flashes(unittest.TestCase):
    def test_more_than_three_a_second_are_found_and_three_are_not(self):
        self.assertEqual(flashes(blinking(3), FPS), ([], []))
        self.assertEqual(flashes(blinking(2), FPS), ([], []))
        for hertz in (5, 7.5, 15):
            (general, red) = flashes(blinking(hertz), FPS)
            self.assertEqual(len(general), 1, hertz)
            self.assertEqual(red, [])
        ((start, end),) = flashes([*blinking(0, 2), *blinking(5, 1.5), *blinking(0, 2)], FPS)[0]
        self.assertTrue(1.5 < start <= 2.6 and 3.4 <= end <= 4.6, (start, end))

    def test_what_is_faint_bright_or_small_is_none(self):
        self.assertEqual(
            flashes(blinking(6, one=(100, 100, 100), two=(120, 120, 120)), FPS)[0], [], "less than a tenth"
        )
        self.assertEqual(flashes(blinking(6, one=(232, 232, 232), two=(255, 255, 255)), FPS)[0], [], "both are bright")
        self.assertEqual(flashes(blinking(6, share=0.15), FPS)[0], [], "a fortieth of the frame")
        self.assertTrue(flashes(blinking(6, share=0.4), FPS)[0], "a sixth of it")

    def test_saturated_red_counts_by_itself(self):
        general, red = flashes(blinking(6, one=(0, 0, 0), two=(160, 0, 0)), FPS)
        self.assertEqual((general, len(red)), ([], 1), "too dark to count as light")
        self.assertEqual(flashes(blinking(6, one=(0, 0, 0), two=(80, 80, 80)), FPS), ([], []))
        self.assertEqual(flashes(blinking(3, one=(0, 0, 0), two=(200, 0, 0)), FPS)[1], [])

    @given(st.floats(0.2, 3.0), st.sampled_from([24.0, 25.0, 30.0, 60.0]))
    def test_what_changes_slowly_never_counts(self, hertz, fps):
        steps = np.sin(np.arange(int(2 * fps)) / fps * 2 * np.pi * hertz / 2) * 110 + 120
        frames = [np.full((8, 8, 3), int(step), np.uint8) for step in steps]
        self.assertEqual(flashes(frames, fps)[0], [])

    @given(st.floats(5.0, 11.0), st.sampled_from([24.0, 25.0, 30.0, 50.0]))
    def test_what_blinks_fast_always_does(self, hertz, fps):
        self.assertTrue(flashes(blinking(hertz, fps=fps), fps)[0])


class Measuring(unittest.TestCase):
    """Of a file of six seconds: a moving picture, a second of black, and three in which it stands still."""

    @classmethod
    def setUpClass(cls):
        cls.folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(cls.folder.cleanup)
        cls.file = Path(cls.folder.name) / "made.mp4"
        moving = "testsrc2=size=360x640:rate=30:duration=2"
        ffmpeg(
            "-f", "lavfi", "-i", moving, "-f", "lavfi", "-i", "color=black:size=360x640:rate=30:duration=1",
            "-f", "lavfi", "-i", "testsrc=size=360x640:rate=1:duration=1",
            "-f", "lavfi", "-i", "sine=440:sample_rate=48000:duration=6",
            "-filter_complex",
            "[2:v]fps=30,loop=loop=90:size=1:start=0,trim=end_frame=90,setpts=N/30/TB[s];[0:v][1:v][s]concat=n=3:v=1[v]",
            "-map", "[v]", "-map", "3:a", "-pix_fmt", "yuv420p", "-r", "30", cls.file,
        )  # fmt: skip
        cls.plan = Plan(rate=Rate(num=30, den=1), width=360, height=640, frames=180, samples=288_000)

    def test_black_and_still_are_found_where_they_are(self):
        found = measured(self.file, self.plan)
        ((start, end),) = found.black
        self.assertLess(abs(start - 2), 0.1)
        self.assertLess(abs(end - 3), 0.1)
        longest = max(found.still, key=lambda span: span[1] - span[0])
        self.assertTrue(abs(longest[0] - 3) < 0.2 and abs(longest[1] - 6) < 0.1, found.still)
        self.assertEqual((found.flashes, found.red_flashes, found.clicks), ((), (), ()))
        self.assertEqual(found.bytes, self.file.stat().st_size)
        self.assertTrue(-25 < found.lufs < -15, found.lufs)

    def test_sound_alone_has_no_picture_to_look_at(self):
        found = measured(self.file, self.plan, has_picture=False)
        self.assertEqual((found.black, found.still), ((), ()))
        self.assertIsNotNone(found.peak)

    def test_a_click_at_a_join_is_heard_and_speech_is_none(self):
        chance = np.random.default_rng(7)
        times = np.arange(96_000) / 48_000
        voice = sum(np.sin(2 * np.pi * 120 * k * times) / k for k in range(1, 20)) * 0.1
        voice = (voice + chance.normal(0, 0.005, len(times))).astype(np.float32)
        self.assertFalse(is_click(voice, 48_000))
        for step in (0.25, 0.5):
            broken = voice.copy()
            broken[48_000:] += step
            self.assertTrue(is_click(broken, 48_000), step)
        self.assertFalse(is_click(np.zeros(96_000, np.float32), 48_000))

    def test_a_click_is_looked_for_at_the_joins_of_the_plan(self):
        file = Path(self.folder.name) / "click.wav"
        ffmpeg(
            "-f", "lavfi", "-i", "aevalsrc=0.2*sin(2*PI*220*t)+0.4*gte(t\\,2):s=48000:d=4", "-c:a", "pcm_s16le", file
        )  # fmt: skip
        joins = (Stretch(piece="p", recording="r", frame=0, frames=60, start=0, end=2),
                 Stretch(piece="p", recording="r", frame=60, frames=60, start=3, end=5))  # fmt: skip
        plan = Plan(rate=Rate(num=30, den=1), width=64, height=64, frames=120, samples=192_000, stretches=joins)
        self.assertEqual(measured(file, plan, has_picture=False).clicks, (2.0,))
        later = plan.model_copy(update={"stretches": (joins[0], joins[1].model_copy(update={"frame": 75}))})
        self.assertEqual(measured(file, later, has_picture=False).clicks, ())


if __name__ == "__main__":
    unittest.main()
