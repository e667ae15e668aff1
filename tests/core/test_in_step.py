"""Two recordings of one talk, made so that it is known by how much one begins later and how fast its clock runs."""

import contextlib
import io
import tempfile
from pathlib import Path

import numpy as np
from django.test import SimpleTestCase
from scipy.io import wavfile

from hovvet.cli import main
from hovvet.core.errors import CoreError
from hovvet.core.sound.in_step import RATE, InStep, find_in_step
from tests.media import ffmpeg

NEAR = 0.005  # seconds


def talk(seconds: float, seed: int) -> np.ndarray:
    """Something like speech: noise of changing colour in syllables, with pauses."""
    random = np.random.default_rng(seed)
    count = int(seconds * RATE)
    noise = random.standard_normal(count)
    warm = np.convolve(noise, np.exp(-np.arange(40) / 6), "same")
    knots = np.arange(0, count + RATE, RATE // 5)
    syllables = np.interp(np.arange(count), knots, random.uniform(0, 1, len(knots)))
    pauses = np.repeat(random.uniform(0, 1, int(seconds) + 1) > 0.15, RATE)[:count]
    return (0.1 * warm * syllables * pauses).astype(np.float32)


def seen_from(heard: np.ndarray, offset: float, drift: float, seconds: float) -> np.ndarray:
    """What another recorder has that begins ``offset`` seconds after it, with a clock that drifts."""
    times = offset + (1 + drift) * np.arange(int(seconds * RATE)) / RATE
    return np.interp(times * RATE, np.arange(len(heard)), heard, left=0.0, right=0.0).astype(np.float32)


def noisy(heard: np.ndarray, decibels: float, seed: int) -> np.ndarray:
    """With noise that many dB under it."""
    noise = np.random.default_rng(seed).standard_normal(len(heard))
    level = np.sqrt(np.mean(np.square(heard)) / 10 ** (decibels / 10))
    return (heard + level * noise).astype(np.float32)


def in_a_hall(heard: np.ndarray, seed: int) -> np.ndarray:
    """As it sounds far from who speaks."""
    tail = np.random.default_rng(seed).standard_normal(RATE // 4) * np.exp(-np.arange(RATE // 4) / 400)
    tail[0] = 4.0
    size = 1 << (len(heard) + len(tail)).bit_length()
    return np.fft.irfft(np.fft.rfft(heard, size) * np.fft.rfft(tail, size), size)[: len(heard)].astype(np.float32)


class Together(SimpleTestCase):
    def check(self, first: np.ndarray, second: np.ndarray, offset: float, drift: float = 0.0) -> None:
        found = find_in_step(first, second)
        ends = len(second) / RATE
        for at in (0.0, ends):  # at its beginning and at its end
            self.assertAlmostEqual(found.offset + found.drift * at, offset + drift * at, delta=NEAR)
        self.assertGreater(found.sure, 2)

    def test_one_that_begins_later_or_earlier_with_another_clock_and_level_in_noise(self):
        heard = talk(170, 1)
        first = noisy(heard, 10, 2)
        for offset, drift in ((0.0, 0.0), (37.2049, 1e-4), (-12.75, -1e-4), (100.0, 2e-5)):
            second = 0.05 * noisy(seen_from(heard, offset, drift, 65), 10, 3)
            with self.subTest(offset=offset):
                self.check(first, second, offset, drift)

    def test_ten_minutes_apart(self):
        heard = talk(700, 4)
        self.check(heard, seen_from(heard, 600.0, 5e-5, 90), 600.0, 5e-5)

    def test_from_the_back_of_a_hall_and_with_a_stretch_that_is_not_in_the_other(self):
        heard = talk(130, 5)
        self.check(heard, in_a_hall(noisy(seen_from(heard, 20.0, 0, 100), 15, 6), 7), 20.0)
        second = seen_from(heard, 20.0, 0, 100)
        second[40 * RATE : 60 * RATE] = 0  # it was stopped and begun again
        self.check(heard, second, 20.0)

    def test_what_is_not_of_the_same_talk_is_refused(self):
        first = talk(70, 8)
        for second in (
            talk(50, 9),
            np.zeros(60 * RATE, np.float32),
            np.zeros(100, np.float32),
            noisy(talk(30, 10), 0, 11),
        ):
            with self.assertRaisesRegex(CoreError, "not heard to be of the same talk"):
                find_in_step(first, second)
        with self.assertRaises(CoreError):
            find_in_step(np.zeros(60 * RATE, np.float32), first)

    def step(self, first: Path, second: Path, out: Path) -> tuple[InStep, str]:
        """What the command writes, and says."""
        with contextlib.redirect_stderr(io.StringIO()) as told:
            code = main(["step", str(first), str(second), "-o", str(out)])
        self.assertEqual(code, 0, told.getvalue())
        return InStep.model_validate_json(out.read_text()), told.getvalue()

    def test_files_of_other_rates_and_kinds(self):
        heard = talk(90, 12)
        with tempfile.TemporaryDirectory() as holder:
            given, first, second = (Path(holder) / name for name in ("given.wav", "first.flac", "second.mp3"))
            wavfile.write(given, RATE, heard)
            ffmpeg("-i", given, "-ar", 44_100, first)
            ffmpeg("-ss", 7.5, "-i", given, "-t", 60, "-ar", 48_000, "-b:a", "64k", second)
            found, told = self.step(first, second, Path(holder) / "step.json")
            ffmpeg("-f", "lavfi", "-t", 2, "-i", "color=black:s=64x64", silent := Path(holder) / "silent.mp4")
            with self.assertRaisesRegex(AssertionError, "There is no sound in"):
                self.step(first, silent, Path(holder) / "none.json")
        self.assertIn("the second begins 7.50", told)
        self.assertAlmostEqual(found.offset, 7.5, delta=NEAR)
        self.assertAlmostEqual(found.offset + 60 * found.drift, 7.5, delta=NEAR)
