"""The real recogniser on real (synthesised) speech."""

import itertools
import json
import wave
from pathlib import Path
from unittest import TestCase

import numpy as np

from hovvet.core.engines.speech import Heard
from hovvet.core.engines.whisper import WhisperRecogniser
from hovvet.core.media.wav import read_wav
from hovvet.core.sound.silence import levels
from hovvet.core.words.chunks import chunks
from hovvet.core.words.edges import Edges, without_overlaps
from hovvet.core.words.fuller import repaired, sensible
from hovvet.core.words.pronounce import phones
from hovvet.core.words.timing import Aligner, _said
from hovvet.core.words.transcribe import stretches, to_words, transcribe, unheard
from hovvet.core.words.vocabulary import bare
from tests.compare import normal_words, word_error_rate
from tests.media import DEMO, ScratchCase, demo_truth, ffmpeg

SECONDS = 70.0


class Recognised(ScratchCase):
    recogniser = WhisperRecogniser()
    aligner = Aligner()

    def talk(self, seconds: float = SECONDS):
        wav = self.scratch / "talk.wav"
        ffmpeg("-t", seconds, "-i", DEMO / "speech" / "talk.opus", "-ac", "1", "-ar", "16000", wav)
        return wav

    def said(self, seconds: float = SECONDS) -> list[dict]:
        return [each for each in demo_truth()["utterances"] if each["end"] < seconds - 0.3]

    def test_words_fillers_and_times(self):
        shown: list[float] = []
        transcript = transcribe(self.talk(), self.recogniser, self.aligner, shown.append)
        said = self.said()
        words = [word for word in transcript.words if word.end < said[-1]["end"] + 0.2]
        rate = word_error_rate(
            normal_words(" ".join(each["text"] for each in said)), normal_words(" ".join(word.text for word in words))
        )
        self.assertLess(rate, 0.15)
        self.assertGreaterEqual(sum(word.kind == "filler" for word in words), 2)
        self.assertEqual(shown, sorted(shown))
        self.assertAlmostEqual(shown[-1], 1.0)
        # Where an utterance begins after a silence, a word begins.
        off = [min(abs(word.start - each["start"] - 0.0136) for word in words) for each in said]
        self.assertLess(np.median(off), 0.03)
        self.assertLess(np.percentile(off, 90), 0.12)

    def test_going_on_after_a_stretch_gives_the_same_words(self):
        wav = self.talk(45)
        whole = list(stretches(wav, self.recogniser, self.aligner))
        self.assertGreater(len(whole), 1)
        done, _ = whole[0]
        rest = list(stretches(wav, self.recogniser, self.aligner, start=done))
        resumed = normal_words(" ".join(word.text for _, heard in rest for word in heard))
        straight = normal_words(" ".join(word.text for _, heard in whole[1:] for word in heard))
        self.assertLess(word_error_rate(straight, resumed), 0.06)

    def test_silence_and_noise_give_no_words(self):
        wav = self.scratch / "quiet.wav"
        ffmpeg("-f", "lavfi", "-t", "20", "-i", "anoisesrc=a=0.002:r=16000", wav)
        self.assertEqual(transcribe(wav, self.recogniser, self.aligner, lambda _: None).words, ())


class PlacedInNoise(ScratchCase):
    def test_words_are_placed_also_for_a_low_voice_in_a_noisy_room(self):
        labelled = Path(__file__).parents[2] / "bench" / "labelled"
        truth = json.loads((labelled / "edges.json").read_text())
        wav = self.scratch / "edges.wav"
        ffmpeg("-i", labelled / "edges-tolliver.opus", "-ac", "1", "-ar", "16000", wav)
        clean = read_wav(wav)
        speech = np.sqrt(np.mean(clean[np.abs(clean) > 0.01] ** 2))
        noisy = clean + np.random.default_rng(5).normal(0, speech / 10, len(clean))  # 20 dB under the speech
        with wave.open(str(wav), "wb") as file:
            file.setparams((1, 2, 16000, 0, "NONE", ""))
            file.writeframes((np.clip(noisy, -1, 1) * 32767).astype("<i2").tobytes())
        found = transcribe(wav, Recognised.recogniser, Recognised.aligner, lambda _: None).words
        off = [
            min(abs(word.start - label["start"]) for word in found if bare(word.text) == bare(label["text"]))
            for label in truth
            if any(bare(word.text) == bare(label["text"]) for word in found)
        ]
        self.assertGreater(len(off), 150)
        self.assertLess(np.median(off), 0.03)  # 0.054 with the second pass over the lattice


class Oracle:
    """A recogniser and aligner that know what is said; a word counts as heard when its middle is in the chunk."""

    language = "en"

    def __init__(self, words: list[Heard]) -> None:
        self.words = words
        self.at = 0.0  # where the sound that is asked about begins, told by its first sample

    def voiced(self, sound):
        self.at = float(sound[0]) * 32768 / 10
        spans: list[list[float]] = []
        for word in self.words:
            start, end = word.start - self.at, word.end - self.at
            if end > 0 and start < len(sound) / 16000:
                if spans and start - spans[-1][1] < 0.16:
                    spans[-1][1] = end
                else:
                    spans.append([max(start, 0), end])
        return [(a, min(b, len(sound) / 16000)) for a, b in spans]

    def recognise(self, sound, chunks, hints=(), fillers=True):
        return [
            Heard(word.text, word.start - self.at, word.end - self.at, 1.0)
            for a, b in chunks
            for word in self.words
            if a <= (word.start + word.end) / 2 - self.at < b
        ]

    def refine_with_fillers(self, words, sound, parts):
        return list(words)


class Seams(ScratchCase):
    def test_nothing_is_lost_or_doubled_in_half_an_hour(self):
        rng = np.random.default_rng(6)
        words, at = [], 0.4
        while at < 1790:
            length = rng.uniform(0.1, 0.6)
            words.append(Heard(f"w{len(words)}", round(at, 3), round(at + length, 3), 1.0))
            at += length + (rng.uniform(0.2, 2.5) if rng.random() < 0.1 else 0.0)
        # Each 100 ms of the sound tells its own time, too softly to be taken for a voice.
        wav = self.scratch / "long.wav"
        samples = np.repeat(np.arange(18_000), 1600).astype("<i2")
        with wave.open(str(wav), "wb") as file:
            file.setparams((1, 2, 16000, 0, "NONE", ""))
            file.writeframes(samples.tobytes())
        oracle = Oracle(words)
        transcript = transcribe(wav, oracle, oracle, lambda _: None)
        self.assertEqual([word.text for word in transcript.words if word.kind == "word"], [word.text for word in words])


class Chunks(ScratchCase):
    def test_chunks_hold_all_speech_and_are_short_enough(self):
        rng = np.random.default_rng(0)
        sound = rng.normal(0, 0.1, 16000 * 120).astype(np.float32)
        voiced = [(0.5, 9.0), (9.5, 18.0), (18.2, 26.0), (30.0, 75.0), (76.0, 119.0)]
        parts = chunks(voiced, sound, 16000)
        for start, end in parts:
            self.assertLessEqual(end - start, 20.0)
        for (_, one), (two, _) in itertools.pairwise(parts):
            self.assertLessEqual(one, two + 1e-9)
        for start, end in voiced:
            covered = sum(max(0.0, min(b, end) - max(a, start)) for a, b in parts)
            self.assertAlmostEqual(covered, end - start, places=6)


class Times(ScratchCase):
    def test_edges_at_pauses_move_to_where_the_sound_begins_and_ends(self):
        rng = np.random.default_rng(2)
        sound = rng.normal(0, 0.0005, 16000 * 3).astype(np.float32)
        sound[16000:24000] += rng.normal(0, 0.2, 8000).astype(np.float32)
        moved = Edges(sound).moved([Heard("word", 0.92, 1.61, 1.0)])
        self.assertAlmostEqual(moved[0].start, 1.0, delta=0.011)
        self.assertAlmostEqual(moved[0].end, 1.5, delta=0.011)

    def test_settled_words_never_overlap_and_have_a_length(self):
        heard = [Heard("a", 0.5, 0.4, 1), Heard("b", 0.45, 0.9, 1), Heard("c", 0.6, 0.7, 1), Heard("d", 9.99, 12, 1)]
        words = to_words(without_overlaps(heard, 10.0))
        for word in words:
            self.assertGreater(word.end, word.start)
        for one, two in itertools.pairwise(words):
            self.assertLessEqual(one.end, two.start)

    def test_signs_beside_a_number_are_said_too(self):
        self.assertEqual(
            [_said(text) for text in ("60%,", "$40.", "“Sixty”,", "1,000.")], ["60%", "$40", "sixty", "1,000"]
        )
        self.assertIn("P ER S EH N", phones(["60%"])["60%"])

    def test_voice_without_words_is_noticed(self):
        heard = [Heard("a", 1.0, 2.0, 1), Heard("b", 4.0, 5.0, 1)]
        self.assertEqual(unheard([(1.0, 5.0), (7.0, 7.3)], heard), [(2.0, 4.0)])

    def test_no_word_of_the_demo_lies_on_silence(self):
        from tests.media import demo_transcript

        wav = self.scratch / "talk.wav"
        ffmpeg("-i", DEMO / "speech" / "talk.opus", "-ac", "1", "-ar", "16000", wav)
        level = levels(read_wav(wav), 16000)
        for word in demo_transcript().words:
            loudest = level[round(word.start * 100) : max(round(word.end * 100), round(word.start * 100) + 1)].max()
            self.assertGreater(loudest, -50, word)


class Lossy:
    """A recogniser that loses words where it is asked for filler sounds; ``asked`` are the parts it heard without."""

    language = "en"

    def __init__(self, with_fillers: str, without: str) -> None:
        self._texts, self.asked = {True: with_fillers.split(), False: without.split()}, []

    def recognise(self, sound, chunks, hints=(), fillers=True):
        if not fillers:
            self.asked += chunks
        return [word for a, b in chunks for word in spread(self._texts[fillers], 0.0, 12.0) if a <= word.start < b]


def spread(texts: list[str], start: float, end: float) -> list[Heard]:
    """Words over a stretch, one after the other."""
    step = (end - start) / max(len(texts), 1)
    return [Heard(text, start + n * step, start + (n + 0.9) * step, 1.0) for n, text in enumerate(texts)]


class Fuller(TestCase):
    VOICED, PART = [(0.0, 5.8), (6.2, 12.0)], (0.0, 12.0)
    WHOLE = " ".join(f"w{n}" for n in range(30))

    def heard(self, first: list[Heard], recogniser: Lossy) -> list[str]:
        sound = np.zeros(12 * 16_000, np.float32)
        return [word.text for word in repaired(first, sound, [self.PART], self.VOICED, recogniser)]

    def test_where_voice_has_too_few_words_the_fuller_reading_wins_and_keeps_filler_sounds(self):
        first = [
            *spread(["w0", "w1", "w2"], 0.0, 1.2),
            Heard("um,", 5.82, 6.18, 1.0),
            *spread(["w28", "w29"], 11.2, 12.0),
        ]
        recogniser = Lossy("", self.WHOLE)
        made = self.heard(first, recogniser)
        self.assertEqual([text for text in made if text != "um,"], self.WHOLE.split())
        self.assertEqual(recogniser.asked, [self.PART])

    def test_where_it_is_no_fuller_the_first_reading_stays(self):
        first = spread(["w0", "w1", "w2"], 0.0, 1.2)
        recogniser = Lossy("", "w0 w1 w2 w3")
        self.assertEqual(self.heard(first, recogniser), ["w0", "w1", "w2"])
        self.assertEqual(recogniser.asked, [self.PART, (0.0, 6.0), (6.0, 12.0)], "whole, then in halves at the pause")

    def test_words_spread_over_those_that_were_lost_are_too_few_beside_the_rest(self):
        whole = spread(self.WHOLE.split(), 12.0, 24.0)
        thin = spread([f"w{n}" for n in range(10)], 0.0, 12.0)
        parts, voiced = [self.PART, (12.0, 24.0)], [(0.0, 24.0)]
        recogniser = Lossy("", self.WHOLE)
        made = repaired([*thin, *whole], np.zeros(24 * 16_000, np.float32), parts, voiced, recogniser)
        self.assertEqual(recogniser.asked[0], self.PART)
        self.assertEqual(len(made), 60)

    def test_what_is_whole_is_not_heard_again(self):
        recogniser = Lossy("", self.WHOLE)
        first = spread(self.WHOLE.split(), 0.0, 12.0)
        self.assertEqual(self.heard(first, recogniser), self.WHOLE.split())
        self.assertEqual(recogniser.asked, [])

    def test_the_same_few_words_over_and_over_are_no_fuller_reading(self):
        nonsense = "we have it " * 12
        recogniser = Lossy("", self.WHOLE)
        self.assertEqual(self.heard(spread(nonsense.split(), 0.0, 12.0), recogniser), self.WHOLE.split())
        recogniser = Lossy("", nonsense)
        self.assertEqual(self.heard(spread(["w0", "w1"], 0.0, 1.0), recogniser), ["w0", "w1"])

    def test_what_was_only_expected_is_not_counted(self):
        expected = "okay let me think here's what i'm thinking".split()
        self.assertEqual(sensible(spread(expected, 0.0, 3.0)), 0)
        self.assertEqual(sensible(spread("no no no really no".split(), 0.0, 3.0)), 5)
