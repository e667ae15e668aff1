"""The careful recogniser: its weights joined and checked, languages, and what it hears."""

import itertools
import subprocess
import unittest
from pathlib import Path
from unittest import mock

from hovvet.core.engines import careful
from hovvet.core.engines.careful import careful_model, join
from hovvet.core.engines.whisper import WhisperRecogniser, qualities, shipped_model
from hovvet.core.errors import CoreError
from hovvet.core.media.decode import speech_wav
from hovvet.core.words.timing import ByLevel, refiner
from hovvet.core.words.transcribe import transcribe
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
        german = self.heard(WhisperRecogniser(language="de"), said)
        self.assertLess(word_error_rate(normal_words(SAID), german), 0.5)
