"""The limiter: nothing over the ceiling, nothing else changed, the same in one piece and in many."""

import unittest
from unittest import mock

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hovvet.core.render import limiter
from hovvet.core.render.limiter import REACH, limit

CEILING = 10 ** (-1.5 / 20)


def reference(sound: np.ndarray) -> np.ndarray:
    """As it is written down, sample by sample."""
    peaks = np.abs(sound).max(axis=1)
    need = np.pad(np.minimum(1, CEILING / np.maximum(peaks, 1e-9)), 2 * REACH, constant_values=1)
    held = np.array([need[max(n - REACH, 0) : n + REACH + 1].min() for n in range(len(need))])
    gain = [held[n + REACH : n + 3 * REACH + 1].mean() for n in range(len(sound))]
    return sound * np.array(gain)[:, None]


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
        np.testing.assert_array_equal(sound[: 24_000 - 2 * REACH], before[: 24_000 - 2 * REACH])
        np.testing.assert_array_equal(sound[24_000 + 2 * REACH + 1 :], before[24_000 + 2 * REACH + 1 :])
        self.assertAlmostEqual(float(sound[24_000, 0]), CEILING, places=5)
