"""Waveforms: how loud speech is, as a picture that is drawn by the script."""

import unittest

import numpy as np

from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, staged
from hovvet.core.compile.target import Target
from hovvet.core.media.info import MediaInfo
from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import Outlet
from hovvet.core.render.chunks import Script, text_time
from hovvet.core.render.text import Text
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.contents.waveform import Waveform
from hovvet.core.sheet.edits import CutWords
from hovvet.core.sheet.model import Layer, Piece, Sheet
from hovvet.core.sound.silence import Levels
from hovvet.core.view.rows import bars, rows
from tests.media import even_words

SMALL = Outlet(key="small", name="Small", width=216, height=384, longest=60, safe=(10, 12, 14, 60))
TALK = even_words(40)
LOUD = (4.0, 8.0)  # seconds in which it is loud; else it is nearly quiet


class Waveforms(unittest.TestCase):
    def setUp(self) -> None:
        level = np.full(1_700, -58.0)
        level[int(LOUD[0] * 100) : int(LOUD[1] * 100)] = -20.0
        media = MediaInfo(duration=TALK.duration, has_picture=False, has_sound=True)
        self.sources = {"r1": Source(TALK, media, Levels(level))}
        self.sheet = Sheet(pieces=(Piece(id="p1", recording="r1", start=0.0, end=16.0),), captions=None)

    def plan(self, waveform: Waveform) -> Plan:
        sheet = self.sheet.model_copy(update={"layers": (Layer(id="l1", content=waveform),)})
        return compile(sheet, self.sources, Target(SMALL))

    def drawn(self, plan: Plan, seconds: float) -> np.ndarray:
        """The brightness of what the script draws over black, as an export's chunk has it at that moment."""
        at = plan.rate.frame(seconds)
        first = at // 25 * 25
        text = Text(Script(plan).of(first, first + 25), SMALL.width, SMALL.height)
        planes = tuple(np.full((SMALL.height // part, SMALL.width // part), 16, np.uint8) for part in (1, 2, 2))
        text.draw(planes, text_time(at - first, plan.rate))
        text.close()
        return planes[0].astype(int) - 16

    def test_bars_are_tall_while_it_is_loud_and_low_while_it_is_quiet(self):
        plan = self.plan(Waveform(bars=9, tall=0.5))
        middle = slice(SMALL.width // 2 - 12, SMALL.width // 2 + 12)
        loud, quiet = (int((self.drawn(plan, at)[:, middle].max(axis=1) > 90).sum()) for at in (6.0, 12.0))
        self.assertAlmostEqual(loud, 0.5 * SMALL.height, delta=4)
        self.assertLess(quiet, 0.06 * SMALL.height)
        self.assertGreater(quiet, 2, "a bar of silence is there still")

    def test_what_comes_is_to_the_right_of_what_is_being_said(self):
        seen = self.drawn(self.plan(Waveform(bars=15, tall=0.5)), LOUD[0] - 0.3)
        half = SMALL.width // 2
        self.assertGreater((seen[:, half + 20 :] > 90).sum(), 5 * (seen[:, : half - 20] > 90).sum())

    def test_the_whole_of_it_takes_its_colour_as_it_is_heard(self):
        plan = self.plan(Waveform(shows="all that is said", bars=40, tall=0.4, rest=0.3))
        left, _, right, _ = SMALL.safe
        for seconds in (5.0, 11.0):
            seen = self.drawn(plan, seconds)
            strong = np.flatnonzero((seen > 150).any(axis=0))
            there = left + (SMALL.width - left - right) * seconds / 16
            self.assertAlmostEqual(int(strong[-1]), there, delta=6)
            self.assertGreater(np.flatnonzero((seen > 30).any(axis=0))[-1], SMALL.width - right - 8, "what is to come")

    def test_it_follows_what_is_kept(self):
        whole = self.plan(Waveform())
        words = tuple(word.id for word in TALK.words if LOUD[0] - 0.2 < word.start < LOUD[1])
        self.sheet = apply(self.sheet, CutWords(piece="p1", words=words))
        cut = self.plan(Waveform())
        self.assertLess(cut.frames, whole.frames - 80)
        self.assertNotEqual(cut.script, whole.script)

    def test_it_is_told_where_nothing_is_known(self):
        self.sources = {"r1": Source(TALK, self.sources["r1"].media)}
        sheet = self.sheet.model_copy(update={"layers": (Layer(id="l1", content=Waveform()),)})
        target = Target(SMALL)
        scene = staged(sheet, self.sources, target)
        (bar,) = bars(sheet, scene, rows(sheet, scene))
        self.assertIn("is not known", bar.note)
        self.assertIsNotNone(compile(sheet, self.sources, target).script, "bars of silence")
