"""Beats, on music of which every beat is known."""

import unittest
from itertools import pairwise

import numpy as np

from hovvet.core.sound.beats import Beats, find_beats
from hovvet.core.sound.fitting import MOST, fitted
from tests.made_music import RATE, track

WITHIN = 0.07  # seconds


def f_measure(found, wanted) -> float:
    """Of beats that are found within 70 ms of one that is there, each counted once."""
    left, hit = list(wanted), 0
    for at in found:
        near = min(left, key=lambda each: abs(each - at), default=None)
        if near is not None and abs(near - at) <= WITHIN:
            left.remove(near)
            hit += 1
    return 2 * hit / (len(found) + len(wanted))


TRACKS = {
    "slow": {"tempo": 76},
    "usual": {"tempo": 104},
    "quick": {"tempo": 140},
    "swung": {"tempo": 96, "swing": 0.67},
    "without drums": {"tempo": 90, "drums": False},
    "with a pick-up": {"tempo": 120, "pickup": 1.5},
}


class Found(unittest.TestCase):
    def test_beats_of_made_tracks_are_found(self):
        for name, how in TRACKS.items():
            with self.subTest(name):
                made = track(seconds=60, **how)
                beats = find_beats(made.sound)
                score = f_measure(beats.times, made.beats)
                print(f"beats, {name}: F {score:.3f}")
                self.assertGreaterEqual(score, 0.95)
                self.assertEqual((len(beats.chroma), len(beats.level)), (len(beats.times), len(beats.times)))

    def test_bars_begin_where_they_do(self):
        made = track(104, 40)
        beats = find_beats(made.sound)
        at = beats.times[beats.first]
        nearest = int(np.argmin(np.abs(made.beats - at)))
        self.assertEqual(nearest % 4, 0)

    def test_what_has_no_beat_has_none(self):
        chance = np.random.default_rng(1)
        noise = chance.uniform(-0.3, 0.3, 20 * RATE).astype(np.float32)
        n = np.arange(20 * RATE) / RATE
        drone = (0.3 * np.sin(2 * np.pi * 200 * n) * (1 + 0.2 * np.sin(n))).astype(np.float32)
        for sound in (noise, drone, np.zeros(20 * RATE, np.float32), noise[: RATE // 2]):
            self.assertEqual(find_beats(sound).times, ())


class Fitted(unittest.TestCase):
    """Tracks brought to other lengths: what is heard of them, one part after the other."""

    def test_a_track_of_three_minutes_comes_to_any_length_on_its_beats(self):
        for name, how in TRACKS.items():
            made = track(seconds=180, **how)
            beats = find_beats(made.sound)
            beat = 60 / how["tempo"]
            for wanted in (20.0, 41.0, 75.0, 200.0):
                with self.subTest(name, seconds=wanted):
                    fit = fitted(beats, wanted)
                    self.assertIsNotNone(fit)
                    length = sum(end - start for start, end in fit.parts) * fit.stretch
                    self.assertAlmostEqual(length, wanted, delta=0.05)
                    self.assertLessEqual(abs(fit.stretch - 1), MOST)
                    self.assertIn(fit.parts[0][0], (0.0, *beats.times[1:4]))
                    self.assertEqual(fit.parts[-1][1], beats.ends, "its own ending")
                    for (_, end), (start, _) in pairwise(fit.parts):
                        grid = [at - made.beats[0] for at in (end, start)]
                        off = ((grid[1] - grid[0]) / beat + 0.5) % 1 - 0.5  # of a beat
                        self.assertLessEqual(abs(off * beat), 0.015, "the beat goes on")
                        before, after = (level(made.sound, at, beat) for at in (end, start))
                        self.assertLessEqual(abs(before - after), 1.5, "dB")

    def test_what_has_no_beat_is_not_fitted_unless_it_is_as_long_already(self):
        self.assertIsNone(fitted(Beats(ends=60), 20))
        self.assertEqual(fitted(Beats(ends=20.1), 20).parts, ((0.0, 20.1),))


def level(sound: np.ndarray, at: float, beat: float) -> float:
    """Of the beat that begins there, in dB."""
    part = sound[round(at * RATE) : round((at + beat) * RATE)]
    return float(10 * np.log10((part**2).mean()))
