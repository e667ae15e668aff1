"""The limiter: nothing over the ceiling, nothing else changed, the same in one piece and in many."""

import unittest
from unittest import mock

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.signal import resample_poly

from hovvet.core.render import limiter
from hovvet.core.render.limiter import BETWEEN, LOOK, REACH, limit, true_peaks

FAR = 2 * REACH + LOOK  # samples
CEILING = 10 ** (-1.5 / 20)


def reference(sound: np.ndarray) -> np.ndarray:
    """As it is written down, sample by sample."""
    padded = np.pad(sound, ((LOOK, LOOK), (0, 0)))
    after = [
        max(abs(np.dot(weights, padded[n + 1 : n + 1 + 2 * LOOK, side])) for weights in BETWEEN for side in (0, 1))
        for n in range(len(sound))
    ]
    peaks = [max(*np.abs(sound[n]), after[n], after[n - 1] if n else 0) for n in range(len(sound))]
    need = np.pad(np.minimum(1, CEILING / np.maximum(peaks, 1e-9)), 2 * REACH, constant_values=1)
    held = np.array([need[max(n - REACH, 0) : n + REACH + 1].min() for n in range(len(need))])
    gain = [held[n + REACH : n + 3 * REACH + 1].mean() for n in range(len(sound))]
    return sound * np.array(gain)[:, None]


def true_peak(sound: np.ndarray) -> float:
    """The highest of 32 times as many samples, away from the ends, in dB."""
    return float(20 * np.log10(np.abs(resample_poly(sound.astype(float), 32, 1)[3_200:-3_200]).max()))


class Peaks(unittest.TestCase):
    def loud(self, seed: int, count: int = 1_600) -> np.ndarray:
        rng = np.random.default_rng(seed)
        envelope = np.interp(np.arange(count), np.linspace(0, count, 9), rng.uniform(0, 2, 9))
        return (rng.uniform(-1, 1, (count, 2)) * envelope[:, None]).astype(np.float32)

    @settings(max_examples=25)
    @given(st.integers(0, 10_000), st.sampled_from([500, 900, 10_000]))
    def test_it_does_what_is_written_down_in_any_blocks(self, seed, block):
        sound = self.loud(seed)
        wanted = reference(sound)
        with mock.patch.object(limiter, "_BLOCK", block):
            limit(sound, -1.5)
        np.testing.assert_allclose(sound, wanted, atol=1e-5)
        self.assertLessEqual(float(np.abs(sound).max()), CEILING + 1e-6)

    def test_what_is_far_from_any_peak_stays_bit_by_bit(self):
        sound = (np.sin(np.arange(48_000) / 20) * 0.6).astype(np.float32).repeat(2).reshape(-1, 2)
        sound[24_000] = 1.7
        before = sound.copy()
        limit(sound, -1.5)
        np.testing.assert_array_equal(sound[: 24_000 - FAR], before[: 24_000 - FAR])
        np.testing.assert_array_equal(sound[24_000 + FAR + 1 :], before[24_000 + FAR + 1 :])
        self.assertLessEqual(float(sound[24_000, 0]), CEILING + 1e-6)
        self.assertGreater(float(sound[24_000, 0]), CEILING * 0.97)

    @given(st.floats(100, 18_000), st.floats(0, np.pi))
    def test_what_is_between_two_samples_is_known(self, pitch, phase):
        sound = np.sin(np.arange(4_800) * 2 * np.pi * pitch / 48_000 + phase).astype(np.float32)
        told = true_peaks(sound[:, None].repeat(2, 1))[100:-100].max()
        self.assertAlmostEqual(20 * np.log10(told), true_peak(sound), delta=0.13)

    def test_a_wave_that_is_highest_between_its_samples_stays_under_the_ceiling(self):
        wave = 1.6 * np.sin(np.arange(48_000) * np.pi / 2 + np.pi / 4)  # its samples are 3 dB lower than it goes
        sound = wave.astype(np.float32)[:, None].repeat(2, 1)
        limit(sound, -1.5)
        self.assertAlmostEqual(true_peak(sound[:, 0]), -1.5, delta=0.1)
