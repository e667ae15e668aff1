"""Levels in a file, meaning in a process of its own, values remembered by weight: the same as before, in less memory."""

import threading
import unittest

import numpy as np

from hovvet.core.engines import meaning
from hovvet.core.media.wav import read_wav
from hovvet.core.sound.level_file import open_levels, write_levels
from hovvet.core.sound.silence import Levels, levels, silences, silences_of
from hovvet.server.documents.remembered import Remembered
from tests.media import DEMO, ScratchCase, ffmpeg


class LevelFiles(ScratchCase):
    def test_levels_of_a_file_are_those_of_its_sound_also_over_the_edges_of_what_is_read_at_a_time(self):
        wav, out = self.scratch / "speech.wav", self.scratch / "levels.f32"
        ffmpeg("-t", 130, "-i", DEMO / "speech" / "talk.opus", "-ac", 1, "-ar", 16_000, wav)
        write_levels(wav, out)
        sound = read_wav(wav)
        wanted, found = levels(sound, 16_000), open_levels(out)
        self.assertEqual(len(found), len(wanted))
        np.testing.assert_allclose(found, wanted, atol=1e-4)
        self.assertEqual(silences_of(found, 0.3), silences(sound, 16_000, 0.3))
        for at in (0.0, 59.995, 60.0, 119.99, 129.9, 500.0):
            self.assertAlmostEqual(Levels(found).at(at), Levels(wanted).at(at), places=3)
        self.assertTrue(np.shares_memory(Levels(found)._level, found), "it is not read whole")

    def test_no_sound_is_no_levels(self):
        wav, out = self.scratch / "none.wav", self.scratch / "levels.f32"
        ffmpeg("-f", "lavfi", "-t", 0.004, "-i", "sine=r=16000", "-ac", 1, wav)
        write_levels(wav, out)
        self.assertEqual(len(open_levels(out)), 0)


class Apart(unittest.TestCase):
    TEXTS = ("A clock on the wall", "tax return", "", "A clock on the wall", 'ding\n"dong"')

    def test_a_process_of_its_own_answers_the_same_goes_when_idle_and_comes_again(self):
        apart = meaning.Apart(idle=0.2)
        self.addCleanup(apart._rest)
        wanted = meaning.vectors(self.TEXTS)
        np.testing.assert_array_equal(apart.vectors(self.TEXTS), wanted)
        self.assertEqual(apart.vectors([]).shape, (0, meaning.SIZE))
        assert apart._end
        apart._end.join(60)
        self.assertIsNone(apart._process)
        np.testing.assert_array_equal(apart.vectors(["another"]), meaning.vectors(["another"]))

    def test_one_that_was_killed_is_started_again(self):
        apart = meaning.Apart()
        self.addCleanup(apart._rest)
        apart.vectors(["one"])
        assert apart._process
        apart._process.kill()
        apart._process.wait()
        np.testing.assert_array_equal(apart.vectors(["two"]), meaning.vectors(["two"]))

    def test_many_ask_at_once(self):
        apart = meaning.Apart()
        self.addCleanup(apart._rest)
        found: dict[int, np.ndarray] = {}
        asking = [
            threading.Thread(target=lambda n=n: found.update({n: apart.vectors([f"text {n}"])})) for n in range(8)
        ]
        for each in asking:
            each.start()
        for each in asking:
            each.join(120)
        for n in range(8):
            np.testing.assert_allclose(found[n], meaning.vectors([f"text {n}"]), atol=1e-6)


class Weights(unittest.TestCase):
    def test_as_much_is_kept_as_may_be_the_newest_always(self):
        kept: Remembered[str, str] = Remembered(10, len)
        for key, value in (("a", "xxxx"), ("b", "xxxx"), ("a", "xx")):
            kept.keep(key, value)
        kept.get("b")
        kept.keep("c", "xxxxx")
        self.assertEqual([kept.get(key) for key in "abc"], [None, "xxxx", "xxxxx"])
        kept.keep("d", "x" * 99)
        self.assertEqual([kept.get(key) for key in "abcd"], [None, None, None, "x" * 99])
        kept.keep("e", "x")
        self.assertEqual([kept.get(key) for key in "de"], [None, "x"])
