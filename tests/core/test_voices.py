"""Telling voices apart, and telling what is wrong with a recording."""

import itertools
import unittest

import numpy as np

from hovvet.core.engines.speech import Heard
from hovvet.core.errors import CoreError
from hovvet.core.media.wav import open_wav, read_wav
from hovvet.core.words.corrections import SuggestSpeakers, correct
from hovvet.core.words.sounds import held, lookalikes, stands_alone
from hovvet.core.words.speakers import suggest_speakers
from hovvet.core.words.transcript import Word
from hovvet.core.words.trouble import sound_trouble, unsure_stretches, words_trouble
from tests.media import DEMO, ScratchCase, demo_transcript, demo_truth, ffmpeg

RATE = 16_000


class Voices(ScratchCase):
    def test_the_two_voices_of_the_podcast_are_told_apart(self):
        wav = self.scratch / "notes.wav"
        ffmpeg("-i", DEMO / "speech" / "interview.opus", "-ac", "1", "-ar", RATE, wav)
        transcript = demo_transcript("interview")
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
        words = demo_transcript("interview").words
        sound = np.random.default_rng(0).normal(0, 0.1, RATE * 160).astype(np.float32)
        turns = suggest_speakers(sound, words, 3)
        self.assertEqual((turns[0].first, turns[-1].last), (words[0].id, words[-1].id))
        for one, two in itertools.pairwise(turns):
            self.assertEqual(two.first, one.last + 1)
        self.assertEqual(len(suggest_speakers(sound, words, 1)), 1)
        self.assertEqual(suggest_speakers(sound, (), 2), [])
        with self.assertRaisesRegex(CoreError, "from 1 to 8"):
            suggest_speakers(sound, words, 9)


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

    def test_a_lone_held_at_is_an_um_and_other_words_are_not(self):
        words = [Heard("we", 0.2, 0.5, 1), Heard("at,", 1.0, 1.25, 0.5), Heard("on", 2.0, 2.25, 1)]
        self.assertEqual([word.text for word in lookalikes(words, self.sound())], ["we", "um,", "on"])
        beside = [Heard("we", 0.7, 0.95, 1), Heard("at,", 1.0, 1.25, 0.5)]
        self.assertEqual(lookalikes(beside, self.sound()), beside, "it does not stand alone")

    def test_voice_and_hiss(self):
        self.assertTrue(held(self.sound(), 1.0, 1.25))
        self.assertFalse(held(self.sound(), 2.0, 2.25))
        self.assertTrue(stands_alone(self.sound(), 1.0, 1.25))
        self.assertFalse(stands_alone(self.sound(), 1.0, 1.12))


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

    def test_what_was_recognised_tells_of_trouble(self):
        self.assertIn("only music or noise", words_trouble([], 60, loud=True))
        self.assertIn("can be heard", words_trouble([], 60, loud=False))
        self.assertIn("another language", words_trouble(self.words(*[0.5] * 60), 60, loud=True))
        self.assertEqual(words_trouble(self.words(*[0.95, 0.3, 0.9] * 20), 60, loud=True), "")
        both = self.words(*[0.95] * 50, *[0.4] * 16, *[0.95] * 50)
        self.assertIn("two people at once", words_trouble(both, 60, loud=True))
        self.assertIn("0:20 to 0:26", words_trouble(both, 60, loud=True))
        self.assertEqual(unsure_stretches(self.words(0.1)), [])
