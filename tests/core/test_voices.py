"""Telling voices apart, and telling what is wrong with a recording."""

import itertools
import pickle
import unittest
from io import BytesIO
from pathlib import Path
from unittest import mock

import numpy as np

from hovvet.core.engines import clearer, voices
from hovvet.core.engines.speech import Heard
from hovvet.core.errors import CoreError
from hovvet.core.media.wav import open_wav, read_wav
from hovvet.core.sound.noise import without_noise
from hovvet.core.words.corrections import SuggestSpeakers, correct
from hovvet.core.words.doubted import believed, doubted
from hovvet.core.words.sounds import held, held_alone, stands_alone
from hovvet.core.words.speakers import suggest_speakers
from hovvet.core.words.transcript import Word
from hovvet.core.words.trouble import given_trouble, near_names, sound_trouble, unsure_stretches, words_trouble
from tests.media import DEMO, ScratchCase, demo_transcript, demo_truth, ffmpeg

RATE = 16_000


class Voices(ScratchCase):
    def test_the_two_voices_of_the_podcast_are_told_apart(self):
        wav = self.scratch / "notes.wav"
        ffmpeg("-t", 80, "-i", DEMO / "speech" / "interview.opus", "-ac", "1", "-ar", RATE, wav)
        whole = demo_transcript("interview")
        transcript = whole.model_copy(update={"words": tuple(word for word in whole.words if word.end < 80)})
        shown: list[float] = []
        turns = suggest_speakers(open_wav(wav), transcript.words, 2, shown.append)
        self.assertEqual(shown[-1], 1.0)
        after = correct(transcript, SuggestSpeakers(turns=tuple(turns)))
        self.assertEqual(after.words[0].speaker, "S1", "called in the order they are heard")
        truth = demo_truth("interview")["utterances"]
        wrong = total = 0.0
        for word in after.words:
            middle = (word.start + word.end) / 2
            spoken = next((each["speaker"] for each in truth if each["start"] <= middle <= each["end"]), None)
            if spoken:
                total += word.end - word.start
                wrong += (word.end - word.start) * (word.speaker != {"tolliver": "S1", "maren": "S2"}[spoken])
        self.assertLess(wrong / total, 0.05)

    def test_every_word_is_in_one_turn_and_one_speaker_is_one_turn(self):
        words = demo_transcript("interview").words[:60]
        sound = np.random.default_rng(0).normal(0, 0.1, RATE * 30).astype(np.float32)
        turns = suggest_speakers(sound, words, 3)
        self.assertEqual((turns[0].first, turns[-1].last), (words[0].id, words[-1].id))
        for one, two in itertools.pairwise(turns):
            self.assertEqual(two.first, one.last + 1)
        self.assertEqual(len(suggest_speakers(sound, words, 1)), 1)
        self.assertEqual(suggest_speakers(sound, (), 2), [])
        with self.assertRaisesRegex(CoreError, "from 1 to 8"):
            suggest_speakers(sound, words, 9)

    def test_how_many_there_are_is_suggested(self):
        wav = self.scratch / "notes.wav"
        ffmpeg("-t", 40, "-i", DEMO / "speech" / "interview.opus", "-ac", "1", "-ar", RATE, wav)
        words = [word for word in demo_transcript("interview").words if word.end < 40]
        self.assertEqual({turn.speaker for turn in suggest_speakers(open_wav(wav), words)}, {"S1", "S2"})
        ffmpeg("-t", 30, "-i", DEMO / "speech" / "talk.opus", "-ac", "1", "-ar", RATE, wav)
        words = [word for word in demo_transcript("talk").words if word.end < 30]
        self.assertEqual({turn.speaker for turn in suggest_speakers(open_wav(wav), words)}, {"S1"})


class Weights(ScratchCase):
    def test_weights_that_are_not_those_that_are_known_are_not_used(self):
        spec = mock.Mock(submodule_search_locations=[str(self.scratch)])
        for engine in (voices, clearer):
            file = self.scratch / engine._FILE
            file.parent.mkdir(exist_ok=True)
            file.write_bytes(b"something else")
            kept = self.scratch / "models" / engine.__name__
            with (
                mock.patch.object(engine, "_KEPT", kept),
                mock.patch("hovvet.core.engines.weights.find_spec", return_value=spec),
                self.assertRaisesRegex(CoreError, "not those that Hovvet"),
            ):
                engine.take_out()
            self.assertFalse(kept.exists())
            with (
                mock.patch.object(engine, "_KEPT", kept),
                mock.patch("hovvet.core.engines.weights.find_spec", return_value=None),
                self.assertRaisesRegex(CoreError, "not installed"),
            ):
                engine.take_out()

    def test_a_file_that_would_make_something_else_makes_nothing(self):
        with self.assertRaises(pickle.UnpicklingError):
            voices._Weights(BytesIO(pickle.dumps(Path("x")))).load()

    def test_without_them_it_says_what_to_do(self):
        voices._weights.cache_clear()
        self.addCleanup(voices._weights.cache_clear)
        none = mock.patch.object(voices, "_KEPT", self.scratch / "none.npz")
        with none, self.assertRaisesRegex(CoreError, "Run `make setup` again"):
            list(voices.voice_vectors(np.ones(RATE, np.float32), [(0.0, 1.0)]))


def vowel(seconds: float, pitch: float = 120.0) -> np.ndarray:
    """A held vowel: harmonics under two formants."""
    time = np.arange(round(seconds * RATE)) / RATE
    parts = [np.sin(2 * np.pi * pitch * k * time) / (1 + ((pitch * k - 600) / 300) ** 2) for k in range(1, 20)]
    return (0.3 * sum(parts) / 2).astype(np.float32)


class HeldVowels(unittest.TestCase):
    def sound(self) -> np.ndarray:
        sound = np.random.default_rng(1).normal(0, 0.0005, RATE * 3).astype(np.float32)
        sound[RATE : RATE + len(vowel(0.25))] += vowel(0.25)
        sound[2 * RATE : 2 * RATE + RATE // 4] += np.random.default_rng(2).normal(0, 0.1, RATE // 4).astype(np.float32)
        return sound

    def test_a_vowel_held_alone_is_found(self):
        self.assertEqual([(round(a, 2), round(b, 2)) for a, b in held_alone(self.sound())], [(1.0, 1.25)])

    def test_words_that_stand_alone_and_may_be_a_filler_are_doubted(self):
        words = [Heard("we", 0.2, 0.5, 1), Heard("at,", 1.0, 1.25, 0.5), Heard("clocks", 2.0, 2.25, 1)]
        self.assertEqual(list(doubted(words, self.sound())), [1])
        beside = [Heard("we", 0.7, 0.98, 1), Heard("at,", 1.0, 1.25, 0.5)]
        self.assertEqual(doubted(beside, self.sound()), {1: (1.0, 1.25)}, "the sound says that it does stand alone")
        joined = self.sound()
        joined[round(0.7 * RATE) : RATE] += vowel(0.3)
        self.assertEqual(doubted(beside, joined), {}, "it does not stand alone")
        sure = [Heard("we", 0.2, 0.5, 1), Heard("at,", 1.0, 1.25, 0.99)]
        self.assertEqual(doubted(sure, self.sound()), {})
        again = [Heard("at", 0.7, 0.9, 0.9), Heard("at,", 1.0, 1.25, 0.5)]
        self.assertEqual(doubted(again, self.sound()), {}, "said twice, it is found as that")

    def test_they_are_fillers_where_that_is_the_likelier_reading(self):
        class Weighing:
            def __init__(self, um: float) -> None:
                self.um, self.readings, self.seconds = um, [], 0.0

            def weigh(self, sound, readings):
                self.seconds = max(self.seconds, len(sound) / RATE)
                self.readings += readings
                return [self.um if "um" in each else -20.0 if "uh" in each else -9.0 for each in readings]

        words = [Heard("we", 0.2, 0.5, 1), Heard("at,", 1.0, 1.25, 0.5), Heard("clocks", 2.0, 2.25, 1)]
        likely = Weighing(-8.5)
        self.assertEqual([word.text for word in believed(words, self.sound(), likely)], ["we", "um,", "clocks"])
        self.assertEqual(likely.readings, ["we at, clocks", "we um, clocks", "we uh, clocks"])
        self.assertEqual(believed(words, self.sound(), Weighing(-9.5)), words)
        odd = [words[0], Heard("dumb", 1.0, 1.25, 0.9), words[2]]
        self.assertEqual(believed(odd, self.sound(), Weighing(-9.5))[1].text, "um", "nobody says that alone")

        far = np.concatenate([self.sound(), np.zeros(40 * RATE, np.float32), self.sound()])
        apart = [Heard("we", 0.2, 0.5, 1), Heard("at,", 44.0, 44.25, 0.5), Heard("clocks", 45.5, 45.8, 1)]
        self.assertEqual(believed(apart, far, likely)[1].text, "um,")
        self.assertEqual(likely.readings[-3], "at, clocks", "no further than it can listen at once")
        self.assertLess(likely.seconds, 6)

    def test_voice_and_hiss(self):
        self.assertTrue(held(self.sound(), 1.0, 1.25))
        self.assertFalse(held(self.sound(), 2.0, 2.25))
        self.assertTrue(stands_alone(self.sound(), 1.0, 1.25))
        self.assertFalse(stands_alone(self.sound(), 1.0, 1.12))


class Noise(unittest.TestCase):
    def test_steady_noise_goes_and_a_voice_stays(self):
        noise = np.random.default_rng(4).normal(0, 0.02, 3 * RATE).astype(np.float32)
        sound = noise.copy()
        sound[RATE : 2 * RATE] += vowel(1.0)
        clear = without_noise(sound)
        self.assertEqual(len(clear), len(sound))

        def level(part: np.ndarray) -> float:
            return float(10 * np.log10(np.mean(part**2)))

        self.assertLess(level(clear[: RATE // 2]), level(noise) - 6)
        self.assertAlmostEqual(level(clear[RATE + 2000 : 2 * RATE - 2000]), level(vowel(1.0)), delta=0.5)


class Trouble(ScratchCase):
    def speech(self, *filters: str) -> np.ndarray:
        wav = self.scratch / "t.wav"
        ffmpeg(
            "-t",
            30,
            "-i",
            DEMO / "speech" / "talk.opus",
            "-af",
            ",".join(["anull", *filters]),
            "-ac",
            "1",
            "-ar",
            RATE,
            wav,
        )
        return read_wav(wav)

    def test_good_sound_is_not_spoken_of(self):
        self.assertEqual(sound_trouble(self.speech(), RATE), "")

    def test_quiet_silent_and_clipped_sound_is_told(self):
        self.assertIn("very quiet", sound_trouble(self.speech("volume=-34dB"), RATE))
        self.assertIn("silent", sound_trouble(np.zeros(RATE, np.float32), RATE))
        clipped = np.clip(self.speech() * 12, -0.9, 0.9)
        self.assertIn("clipped", sound_trouble(clipped, RATE))

    def words(self, *confidence: float) -> list[Word]:
        return [
            Word(id=n + 1, text="word", start=n * 0.4, end=n * 0.4 + 0.3, confidence=each)
            for n, each in enumerate(confidence)
        ]

    def test_words_that_somebody_gave_for_a_part_only_are_told(self):
        self.assertIn("from 0:00 to 0:11 of 0:29", given_trouble(self.words(*[1.0] * 30), 29))
        self.assertEqual(given_trouble(self.words(*[1.0] * 30), 15), "")
        self.assertEqual(given_trouble([], 15), "")
        self.assertIn("“Odelys” (“Odalys”?)", near_names([("Odelys", "Odalys")] * 2))
        self.assertEqual(near_names([]), "")

    def test_what_was_recognised_tells_of_trouble(self):
        self.assertIn("only music or noise", words_trouble([], 60, loud=True))
        self.assertIn("can be heard", words_trouble([], 60, loud=False))
        self.assertIn("another language", words_trouble(self.words(*[0.5] * 60), 60, loud=True))
        self.assertEqual(words_trouble(self.words(*[0.95, 0.3, 0.9] * 20), 60, loud=True), "")
        both = self.words(*[0.95] * 50, *[0.4] * 16, *[0.95] * 50)
        self.assertIn("two people at once", words_trouble(both, 60, loud=True))
        self.assertIn("0:20 to 0:26", words_trouble(both, 60, loud=True))
        self.assertEqual(unsure_stretches(self.words(0.1)), [])
