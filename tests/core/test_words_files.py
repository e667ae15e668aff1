"""Words in and out of files, and given words on real speech."""

import itertools
import json
import subprocess
import unittest

from hovvet.core.engines.speech import Heard
from hovvet.core.engines.whisper import WhisperRecogniser
from hovvet.core.errors import CoreError
from hovvet.core.formats.transcripts import transcript_file
from hovvet.core.words.corrections import NameSpeaker, SetSpeaker, correct
from hovvet.core.words.given import from_cues, from_text, matched
from hovvet.core.words.timing import Aligner, refiner
from hovvet.core.words.transcript import Transcript
from hovvet.core.words.vocabulary import is_filler_sound
from hovvet.core.words.words_in import Said, read_words
from tests.compare import normal_words, word_error_rate
from tests.media import DEMO, ScratchCase, demo_transcript, demo_truth, ffmpeg

SRT = """1
00:00:01,000 --> 00:00:02,500
Maren: Good evening,
everybody.

2
00:00:03,000 --> 00:00:04,000
<i>Thank you.</i>
"""


class In(unittest.TestCase):
    def test_cues_with_speakers_and_tags(self):
        said = read_words(SRT.encode("utf-8-sig"), "a.SRT")
        self.assertEqual(said[0], Said("Good evening, everybody.", "Maren", 1.0, 2.5))
        self.assertEqual((said[1].text, said[1].start), ("Thank you.", 3.0))
        vtt = "WEBVTT\n\n00:01.000 --> 00:02.000\nHello there\n"
        self.assertEqual(read_words(vtt.encode(), "a.vtt"), [Said("Hello there", "", 1.0, 2.0)])

    def test_a_text_with_names_and_old_letters(self):
        said = read_words(
            "Maren: Good evening.\r\n\r\nAnd again: no.\nTolliver Brack: Caf\xe9".encode("cp1252"), "a.txt"
        )
        self.assertEqual([(each.speaker, each.text) for each in said],
                         [("Maren", "Good evening."), ("And again", "no."), ("Tolliver Brack", "Café")])  # fmt: skip

    def test_what_is_no_words_file_is_told(self):
        for data, name, about in [
            (b"x", "a.doc", "SRT, VTT and TXT"),
            (b"\0\1\2" * 99, "a.txt", "not a text file"),
            (b"  \n ", "a.txt", "no words"),
            (b"hello", "a.srt", "no words"),
            (b"x" * 5_000_001, "a.txt", "larger than"),
        ]:
            with self.assertRaisesRegex(CoreError, about):
                read_words(data, name)


class Out(unittest.TestCase):
    def test_every_kind_holds_all_words(self):
        transcript = demo_transcript()
        said = normal_words(" ".join(word.text for word in transcript.words if word.kind != "sound"))
        self.assertEqual(normal_words(transcript_file(transcript, "txt")), said)
        for kind in ("srt", "vtt"):
            cues = read_words(transcript_file(transcript, kind).encode(), f"a.{kind}")
            self.assertEqual(normal_words(" ".join(cue.text for cue in cues)), said)
            starts = [cue.start for cue in cues]
            self.assertEqual(starts, sorted(starts))
            self.assertAlmostEqual(starts[0], transcript.words[0].start, delta=0.001)
        self.assertEqual(Transcript.model_validate_json(transcript_file(transcript, "json")), transcript)

    def test_json_says_of_speakers_what_is_known_only(self):
        transcript = demo_transcript()
        self.assertNotIn("speakers", json.loads(transcript_file(transcript, "json")))
        named = correct(
            correct(transcript, SetSpeaker(words=(1,), speaker="S2")), NameSpeaker(speaker="S2", name="Ida")
        )
        document = json.loads(transcript_file(named, "json"))
        self.assertEqual(document["words"][0]["speaker_by"], "hand")
        self.assertNotIn("speaker_by", document["words"][1])
        self.assertEqual(Transcript.model_validate(document), named)
        self.assertTrue(transcript_file(named, "txt").startswith("Ida: "))


class Given(ScratchCase):
    def setUp(self) -> None:
        super().setUp()
        self.wav = self.scratch / "talk.wav"
        ffmpeg("-t", 60, "-i", DEMO / "speech" / "talk.opus", "-ac", "1", "-ar", "16000", self.wav)
        self.said = [each for each in demo_truth()["utterances"] if each["end"] < 59]

    def edges_off(self, transcript: Transcript) -> list[float]:
        """How far the first word of each utterance begins from where it was spoken, in seconds."""
        texts = [normal_words(word.text) for word in transcript.words]
        off, at = [], 0
        for each in self.said:
            wanted = normal_words(each["text"])[0]
            near = [
                abs(word.start - each["start"] - 0.0136)
                for word, text in zip(transcript.words, texts, strict=True)
                if text[:1] == [wanted] and abs(word.start - each["start"]) < 1.5
            ]
            if near:
                off.append(min(near))
                at += 1
        self.assertGreater(at, len(self.said) * 0.8)
        return sorted(off)

    def test_cues_are_spread_to_words_by_the_speech(self):
        # Cues as people make them: a little early, a little long, two utterances in some.
        cues = [
            Said(f"{one['text']} {two['text']}", "Maren" if n % 4 else "Ida", one["start"] - 0.1, two["end"] + 0.2)
            for n, (one, two) in enumerate(zip(self.said[::2], self.said[1::2], strict=False))
        ]
        transcript = from_cues(self.wav, cues, Aligner(), lambda _: None)
        given = normal_words(" ".join(cue.text for cue in cues))
        self.assertEqual(normal_words(" ".join(word.text for word in transcript.words if word.confidence == 1)), given)
        off = self.edges_off(transcript)
        self.assertLess(off[len(off) // 2], 0.03)
        self.assertLess(off[int(len(off) * 0.9)], 0.15)
        self.assertEqual({speaker.name for speaker in transcript.speakers}, {"Ida", "Maren"})
        self.assertEqual({word.speaker_by for word in transcript.words}, {"hand"}, "whom a file names is settled")

    def test_cues_in_another_language_are_told_apart_and_placed_in_it(self):
        wav = self.scratch / "said.wav"
        subprocess.run(["espeak-ng", "-v", "de", "-w", wav, "Er geht, äh, um zwölf."], check=True)
        ffmpeg("-i", wav, "-ac", "1", "-ar", "16000", self.wav)
        transcript = from_cues(self.wav, [Said("Er geht, äh, um zwölf.", "", 0.0, 3.0)], refiner("de"), lambda _: None)
        written = [(word.text, word.kind) for word in transcript.words if word.confidence == 1]
        kinds = ["word", "word", "filler", "word", "word"]
        self.assertEqual(written, list(zip("Er geht, äh, um zwölf.".split(), kinds, strict=True)))
        self.assertEqual(transcript.language, "de")
        self.assertLess(transcript.words[0].start, 0.2)
        for one, two in itertools.pairwise(transcript.words):
            self.assertLessEqual(one.end, two.start)

    def test_a_text_is_aligned_and_fillers_that_are_heard_are_kept(self):
        text = " ".join(word for each in self.said for word in each["text"].split() if not is_filler_sound(word))
        transcript = from_text(self.wav, [Said(text)], WhisperRecogniser(), Aligner(), lambda _: None)
        written = [word.text for word in transcript.words if word.kind == "word"]
        self.assertEqual(word_error_rate(normal_words(text), normal_words(" ".join(written))), 0)
        self.assertEqual({word.speaker_by for word in transcript.words}, {"nobody"})
        self.assertGreaterEqual(sum(word.kind == "filler" for word in transcript.words), 2)
        off = self.edges_off(transcript)
        self.assertLess(off[len(off) // 2], 0.03)

    def test_the_wrong_text_and_cues_beyond_the_end_are_told(self):
        stranger = Said("entirely different matters concerning geology and volcanic islands " * 20)
        with self.assertRaisesRegex(CoreError, "hardly a word in common"):
            from_text(self.wav, [stranger], WhisperRecogniser(), Aligner(), lambda _: None)
        with self.assertRaisesRegex(CoreError, "after the end"):
            from_cues(self.wav, [Said("late", "", 900.0, 901.0)], Aligner(), lambda _: None)

    def test_words_are_matched_by_the_fewest_edits(self):
        heard = [Heard(text, n, n + 0.5, 1) for n, text in enumerate(["we", "men", "it", "all", "now"])]
        self.assertEqual(matched(["We", "mend", "it,", "now!"], heard), [0, 1, 2, 4])
