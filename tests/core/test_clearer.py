"""Clearer speech: what is taken away, what stays, and where it stands; clipping mended."""

import unittest
import wave
from pathlib import Path

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, staged
from hovvet.core.compile.target import Target
from hovvet.core.engines.clearer import cleared
from hovvet.core.media.decode import sound
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.probe import probe
from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import OUTLETS
from hovvet.core.render.clearing import write_clearer
from hovvet.core.sheet.contents.clearer import Clearer
from hovvet.core.sheet.contents.speed import Speed
from hovvet.core.sheet.model import Layer, Piece, Run, Sheet, Span
from hovvet.core.sound.clearer import LOWER, Strength, clearer_media, declipped, told_by
from hovvet.core.view.rows import bars, rows
from tests.media import DEMO, ScratchCase, even_words

RATE = 48_000
TARGET = Target(OUTLETS["tall"], texts=False)


def likeness(speech: np.ndarray, heard: np.ndarray) -> float:
    """SI-SDR in dB: how much more of the speech there is in what is heard than of anything else (Le Roux et al. 2019)."""
    part = (heard @ speech) / (speech @ speech) * speech
    return float(10 * np.log10((part @ part) / ((heard - part) @ (heard - part))))


def write(out: Path, *sides: np.ndarray) -> Path:
    with wave.open(str(out), "wb") as wav:
        wav.setparams((len(sides), 2, RATE, 0, "NONE", ""))
        wav.writeframes((np.stack(sides, axis=1) * 32767).astype("<i2").tobytes())
    return out


class Cleared(ScratchCase):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.speech = sound(DEMO / "speech" / "talk.opus", 0, 20, RATE, 1)[:, 0] * 0.5
        t = np.arange(len(cls.speech)) / RATE
        white = np.random.default_rng(5).standard_normal(len(t))
        hum = sum(np.sin(2 * np.pi * 50 * n * t + n) / n for n in range(1, 9))
        level = np.sqrt((cls.speech**2).mean() / 10)  # 10 dB under the speech
        cls.noises = {"white": white * level, "hum": hum / hum.std() * level}

    def made(self, heard: np.ndarray, strength: Strength = "strong") -> np.ndarray:
        file = write(self.scratch / "in.wav", heard)
        out = self.scratch / "out.flac"
        write_clearer(file, probe(file), strength, out)
        return sound(out, 0, len(heard) / RATE, RATE, 1)[:, 0]

    def test_noise_and_hum_go_and_speech_stays_in_its_place(self):
        for name, least in (("white", 16.0), ("hum", 17.0)):
            with self.subTest(name):
                noisy = (self.speech + self.noises[name]).astype(np.float32)
                self.assertAlmostEqual(likeness(self.speech, noisy), 10, delta=0.3)
                self.assertGreater(likeness(self.speech, self.made(noisy)), least)

    def test_clean_speech_is_left_as_it_was_also_where_blocks_meet(self):
        made = self.made(self.speech)
        self.assertGreater(likeness(self.speech, made), 25)
        seam = slice(15 * RATE - RATE // 4, 15 * RATE + RATE // 4)  # a block has 15 seconds
        self.assertGreater(likeness(self.speech[seam], made[seam]), 15)
        lag = np.argmax(np.correlate(made[RATE : 2 * RATE], self.speech[RATE + 64 : 2 * RATE - 64], "valid")) - 64
        self.assertEqual(lag, 0)

    def test_the_weaker_the_more_of_the_room_is_left(self):
        noise = self.noises["white"][:, None].astype(np.float32)[: 3 * RATE]
        left = {
            each: 20 * np.log10(cleared(noise, limit)[RATE:].std() / noise[RATE:].std())
            for each, limit in LOWER.items()
        }
        self.assertAlmostEqual(left["light"], -LOWER["light"], delta=1.5)
        self.assertAlmostEqual(left["medium"], -LOWER["medium"], delta=3)
        self.assertLess(left["strong"], -25)

    def test_both_sides_of_a_stereo_recording_stay_where_they_were(self):
        both = np.stack([self.speech, 0.3 * self.speech], axis=1)[: 5 * RATE].astype(np.float32)
        made = cleared(both, 100)
        self.assertAlmostEqual(float(made[:, 1].std() / made[:, 0].std()), 0.3, delta=0.01)


class Declipped(unittest.TestCase):
    def test_what_was_recorded_too_loudly_is_mended(self):
        speech = sound(DEMO / "speech" / "talk.opus", 0, 10, RATE, 1)[:, 0]
        for over, gained in ((6, 4.0), (12, 4.5)):
            clipped = np.clip(speech / np.abs(speech).max() * 10 ** (over / 20) * 0.7, -0.7, 0.7).astype(np.float32)
            made = declipped(clipped[:, None])[:, 0]
            self.assertGreater(likeness(speech, made), likeness(speech, clipped) + gained)
            same = np.abs(clipped) < 0.69
            np.testing.assert_array_equal(made[same], clipped[same])

    @given(st.integers(0, 3), st.floats(0.01, 0.9))
    def test_what_was_not_is_left_alone(self, seed, loud):
        noise = np.random.default_rng(seed).standard_normal((4_000, 2)).astype(np.float32)
        noise *= np.float32(loud / np.abs(noise).max())
        np.testing.assert_array_equal(declipped(noise), noise)
        self.assertEqual(declipped(noise[:0]).shape, (0, 2))


class InAPlan(unittest.TestCase):
    def setUp(self) -> None:
        heard = MediaInfo(duration=17, has_picture=False, has_sound=True, lufs=-20)
        self.medium = clearer_media("r", "medium")
        self.sources = {
            "r": Source(even_words(40), heard),
            self.medium: Source(even_words(40), MediaInfo(**{**heard.model_dump(), "lufs": -26})),
        }

    def plan(self, *content) -> Plan:
        layers = [Layer(id=f"l{n}", span=Span(), content=each) for n, each in enumerate(content)]
        over = Run(origin="p1", start=4.0, end=8.0)
        layers.append(Layer(id="fast", span=Span(runs=(over,)), content=Speed(rate=1.5)))
        self.sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=0.0, end=16.0),), layers=tuple(layers))
        return compile(self.sheet, self.sources, TARGET)

    def heard(self, plan: Plan) -> set[tuple[str, float]]:
        made = {each.media: each.recording for each in plan.prepared}
        return {(made.get(layer.media, layer.media), layer.gain) for layer in plan.sound}

    def test_it_is_heard_where_a_clip_or_its_recording_wants_it_and_it_is_there(self):
        self.assertEqual(self.heard(self.plan()), {("r", 6.0)})
        self.assertEqual(self.heard(self.plan(Clearer())), {(self.medium, 12.0)})
        self.assertEqual(self.heard(self.plan(Clearer(strength="strong"))), {("r", 6.0)})
        (bar,) = [each for each in self.bars() if each.layer == "l0"]
        self.assertIn("not made yet", bar.note)
        self.sources["r"] = Source(even_words(40), self.sources["r"].media, clearer="medium")
        self.assertEqual(self.heard(self.plan()), {(self.medium, 12.0)})
        self.assertEqual(self.heard(self.plan(Clearer(strength="off"))), {("r", 6.0)})
        self.assertEqual([each.note for each in self.bars() if each.layer == "l0"], [""])

    def bars(self):
        scene = staged(self.sheet, self.sources, TARGET)
        return bars(self.sheet, scene, rows(self.sheet, scene))

    def test_its_name_tells_what_it_is_of(self):
        self.assertEqual(told_by(self.medium), ("r", "medium"))
        for name in ("r", "clearer0-medium-r", "clearer1-off-r", "made1-x", f"{self.medium}/../x"):
            self.assertIsNone(told_by(name))
