"""The careful recogniser: its weights joined and checked, languages, and what it hears."""

import itertools
import subprocess
import unittest
from pathlib import Path
from unittest import mock

from hovvet.core.engines import careful
from hovvet.core.engines.careful import careful_model, join
from hovvet.core.engines.speech import Heard as Spoken
from hovvet.core.engines.whisper import WhisperRecogniser, qualities, shipped_model
from hovvet.core.errors import CoreError
from hovvet.core.media.decode import speech_wav
from hovvet.core.media.wav import read_wav
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.sweep.sweep import ALL_KINDS, sweep
from hovvet.core.words.languages import another_language, tastes
from hovvet.core.words.timing import ByLevel, refiner
from hovvet.core.words.transcribe import to_words, transcribe
from hovvet.core.words.transcript import Transcript
from hovvet.core.words.vocabulary import is_filler_sound
from tests.compare import normal_words, word_error_rate
from tests.media import DEMO, ScratchCase, demo_truth

SAID = "Guten Abend. Die Uhr an der Wand ist stehen geblieben. Wir öffnen sie mit einem Schraubenzieher."


class Joined(ScratchCase):
    def packages(self, weights: tuple[bytes, bytes]) -> mock._patch:
        """Packages that carry something else."""
        for n, (name, part) in enumerate(zip(("one", "two"), careful._PARTS, strict=True)):
            data = self.scratch / name / "data"
            data.mkdir(parents=True)
            (data / part).write_bytes(weights[n])
            for beside in careful._BESIDE:
                (data / beside).write_text("{}")
        specs = [mock.Mock(origin=str(self.scratch / name / "__init__.py")) for name in ("one", "two")]
        return mock.patch("importlib.util.find_spec", side_effect=specs)

    def test_weights_that_are_not_those_that_are_known_are_not_used(self):
        folder = self.scratch / "models" / "base"
        with mock.patch.object(careful, "_FOLDER", folder), self.packages((b"some", b"thing")):
            with self.assertRaisesRegex(CoreError, "not those that Hovvet knows"):
                join()
            self.assertIsNone(careful_model())
            self.assertEqual(list(folder.parent.iterdir()), [], "nothing is left behind")

    def test_those_that_are_known_are_joined_once(self):
        folder = self.scratch / "models" / "base"
        digest = "3fc9b689459d738f8c88a3a48aa9e33542016b7a4052e001aaa536fca74813cb"  # of "something"
        with mock.patch.object(careful, "_FOLDER", folder), mock.patch.object(careful, "_DIGEST", digest):
            with self.packages((b"some", b"thing")):
                self.assertEqual(join(), folder)
            self.assertEqual((folder / "model.bin").read_bytes(), b"something")
            self.assertEqual(join(), folder)

    def test_without_them_there_is_the_quick_one_in_english(self):
        with mock.patch("hovvet.core.engines.whisper.careful_model", return_value=None):
            self.assertEqual(list(qualities()), ["quick"])
            self.assertEqual(WhisperRecogniser(quality="careful")._folder, shipped_model())
            with self.assertRaisesRegex(CoreError, "understands English only"):
                WhisperRecogniser(language="de")


class Languages(unittest.TestCase):
    def test_another_language_is_told_where_two_parts_are_surely_in_it(self):
        for taken_for, language, told in (
            ([("de", 0.9), ("de", 0.95), ("en", 0.9)], "en", "de"),
            ([("de", 0.9), ("de", 0.5), ("en", 0.9)], "en", ""),
            ([("de", 0.9), ("de", 0.9)], "de", ""),
            ([("xx", 0.9), ("xx", 0.9)], "en", ""),
            ([None, None], "en", ""),
            ([], "en", ""),
        ):
            self.assertEqual(another_language(taken_for, language), told, taken_for)

    def test_three_parts_are_asked_and_none_twice(self):
        self.assertEqual(tastes(1025.0), [(200.0, 225.0), (500.0, 525.0), (800.0, 825.0)])
        short = tastes(12.0)
        self.assertEqual(len(set(short)), 3)
        for start, end in short:
            self.assertTrue(0 <= start < end <= 12.0)

    def test_words_of_a_language_are_no_filler_sounds_of_it(self):
        self.assertTrue(is_filler_sound("Ähm,", "de"))
        for text, language in (("er", "de"), ("um", "de"), ("um", "pt"), ("é", "pt"), ("este", "es"), ("e", "it")):
            self.assertFalse(is_filler_sound(text, language), (text, language))
        (word,) = to_words([Spoken("er", 0.0, 0.3, 1.0)], language="de")
        self.assertEqual(word.kind, "word")

    def test_the_sweep_of_another_language(self):
        said = [
            ("Wir", 0.0),
            ("ähm,", 0.5),
            ("wollten", 1.0),
            ("die,", 1.5),
            ("die", 2.0),
            ("kommen,", 2.5),
            ("wollten", 3.0),
            ("die", 3.5),
        ]
        words = to_words([Spoken(text, at, at + 0.3, 1.0) for text, at in said], language="de")
        transcript = Transcript(duration=5.0, language="de", words=tuple(words))
        finds = sweep(transcript, [], SweepSettings.usual("de").model_copy(update={"kinds": ALL_KINDS}))
        self.assertEqual([(find.kind, find.text) for find in finds.finds], [("filler", "ähm,")])


@unittest.skipUnless(careful_model(), "set-up could not get the careful model")
class Heard(ScratchCase):
    def heard(self, recogniser: WhisperRecogniser, source: Path) -> list[str]:
        wav = self.scratch / "speech.wav"
        speech_wav(source, wav, 12)
        words = transcribe(wav, recogniser, refiner(recogniser.language), lambda _: None).words
        for one, two in itertools.pairwise(words):
            self.assertLessEqual(one.end, two.start)
        return normal_words(" ".join(word.text for word in words if word.kind == "word"))

    def test_it_hears_english_and_another_language_that_it_is_told(self):
        self.assertEqual(list(qualities()), ["quick", "careful"])
        cut, said = self.scratch / "cut.wav", self.scratch / "said.wav"
        subprocess.run(["ffmpeg", "-v", "error", "-t", "12", "-i", DEMO / "speech" / "talk.opus", cut], check=True)
        truth = [
            word for each in demo_truth("talk")["utterances"] if each["end"] < 12 for word in normal_words(each["text"])
        ]
        told = [word for word in truth if word not in ("um", "uh")]
        english = self.heard(WhisperRecogniser(quality="careful"), cut)
        self.assertLess(word_error_rate(told, english[: len(told) + 2]), 0.3)
        subprocess.run(["espeak-ng", "-v", "de", "-s", "130", "-w", said, SAID], check=True)
        self.assertIsInstance(refiner("de"), ByLevel)
        self.assertIsNone(WhisperRecogniser(quality="quick").sounds_like(read_wav(self.scratch / "speech.wav")))
        code, likely = WhisperRecogniser(quality="careful").sounds_like(read_wav(self.scratch / "speech.wav")) or (
            "",
            0,
        )
        self.assertEqual(code, "en")
        self.assertGreater(likely, 0.8)
        german = self.heard(WhisperRecogniser(language="de"), said)
        self.assertLess(word_error_rate(normal_words(SAID), german), 0.5)
