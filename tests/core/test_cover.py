"""The cover: frames that would do, one that stays with its words, and the picture that is drawn of it."""

import io
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path

import numpy as np
from PIL import Image

from hovvet.core.compile.kit import EVERYBODYS
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, planned, staged
from hovvet.core.compile.target import target_of
from hovvet.core.cover.cover import Cover, at_moment, covered, moment, usual_title
from hovvet.core.cover.drawing import drawn, plan_of
from hovvet.core.cover.frames import best_frames, sharpness
from hovvet.core.media.probe import probe
from hovvet.core.media.process import Limits
from hovvet.core.render.sources import Original
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.progress import Progress
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.contents.transition import Transition
from hovvet.core.sheet.edits import CutWords
from hovvet.core.sheet.model import Layer, Piece, Sheet, WordRef
from hovvet.core.sheet.places import Places
from tests.core.test_proof import clip, face, spoken
from tests.media import counted, even_words

LIMITS = Limits(seconds=30, cpu=30, output=64 * 1024**2, memory=2 * 1024**3)
CHANCE = np.random.default_rng(3)
SHARP = CHANCE.integers(0, 255, (270, 480)).astype(np.uint8)
SOFT = np.full((270, 480), 120, np.uint8)


class Frames(unittest.TestCase):
    def setUp(self):
        self.clip = clip()

    def best(self, read) -> list[float]:
        return [each.seconds for each in best_frames(self.clip.plan, self.clip.scene, read)]

    def test_sharp_ones_are_offered_before_soft_ones(self):
        half = self.clip.plan.frames // 2
        found = self.best(lambda _media, frame: SHARP if frame > half else SOFT)
        middle = self.clip.plan.seconds / 2
        self.assertEqual(len(found), 5)
        self.assertGreaterEqual(sum(each > middle for each in found), 4, found)
        self.assertEqual(found, sorted(found))
        self.assertGreater(sharpness(SHARP), 10 * sharpness(SOFT) + 1)

    def test_open_eyes_count(self):
        def read(_media, frame):
            picture = SOFT.copy()
            if 150 <= frame < 170:  # something to be seen where the eyes are
                picture[40:90, 200:280] = SHARP[40:90, 200:280]
            return picture

        found = best_frames(self.clip.plan, self.clip.scene, read)
        self.assertTrue(any(5.0 <= each.seconds < 5.7 for each in found), found)
        self.assertTrue(all(each.face for each in found))

    def test_what_crosses_and_what_is_not_there_is_not_offered(self):
        cut = CutWords(piece="p1", words=tuple(range(12, 16)))
        over = Places(self.clip.sheet, {"r": self.clip.sources["r"].transcript}).over
        ref = WordRef(origin="p1", word=16)
        sheet = self.clip.sheet.model_copy(
            update={
                "layers": (*self.clip.sheet.layers, Layer(id="t", span=over(ref, ref), content=Transition(seconds=2)))
            }
        )
        looked = replace(self.clip, sheet=sheet).with_edits(cut)
        crossing = next(layer for layer in looked.plan.picture if layer.opacity)
        first, last = crossing.first / looked.fps, crossing.opacity[-1].at / looked.fps
        found = best_frames(looked.plan, looked.scene, lambda *_: SHARP)
        self.assertTrue(found)
        self.assertFalse([each for each in found if first < each.seconds < last], (first, last, found))
        self.assertEqual(best_frames(looked.plan, looked.scene, lambda *_: None), [])


class Moments(unittest.TestCase):
    def test_its_frame_stays_when_what_is_before_it_is_cut_and_falls_back_when_it_is_cut_itself(self):
        looked = clip(spoken())
        cover = at_moment(5.0, looked.plan.words, None)
        self.assertAlmostEqual(moment(cover, looked.scene), 5.0, 2)
        earlier = looked.with_edits(CutWords(piece="p1", words=(2, 3)))
        there = next(w for w in looked.plan.words if w.id == cover.word.word)
        now = next(w for w in earlier.plan.words if w.id == cover.word.word)
        self.assertAlmostEqual(moment(cover, earlier.scene) - now.start, 5.0 - there.start, 2)
        self.assertLess(moment(cover, earlier.scene), 4.6)
        gone = looked.with_edits(CutWords(piece="p1", words=(cover.word.word,)))
        self.assertEqual(moment(cover, gone.scene), 0.0)

    def test_beyond_the_end_it_is_the_last_frame_and_before_the_first_word_the_beginning(self):
        looked = clip()
        self.assertLess(moment(at_moment(10_000, looked.plan.words, None), looked.scene), looked.plan.seconds)
        self.assertEqual(moment(at_moment(0.1, looked.plan.words, None), looked.scene), 0.1)

    def test_captions_and_what_comes_and_goes_are_left_out_and_its_title_is_as_the_clip_has_them(self):
        own = Title(text="Said", template="plate", colour="#FF0000", height=0.4, counts=True)
        looked = clip(None, (own, 3, 9), (Progress(), 0, 0))
        title = usual_title(looked.sheet, "On the cover")
        self.assertEqual((title.template, title.colour, title.height), ("plate", "#FF0000", None))
        sheet, edition = covered(looked.sheet, looked.edition, Cover(title=title))
        target = target_of(sheet, edition, looked.kit)
        scene = staged(sheet, looked.sources, target)
        plan = planned(scene, target)
        self.assertIsNone(target.captions)
        self.assertEqual([each.content.label() for each in scene.of(Title)], ["On the cover"])
        self.assertEqual(scene.of(Progress), [])
        self.assertIn("On", plan.script)
        self.assertEqual(usual_title(Sheet(), "x" * 300).text, "x" * 160)


class Drawing(unittest.TestCase):
    def test_a_picture_of_the_outlet_s_size_in_both_kinds_of_file(self):
        with tempfile.TemporaryDirectory() as folder:
            film = Path(folder) / "film.mp4"
            counted(film, 3)
            media = probe(film)
            sheet = Sheet(
                pieces=(Piece(id="p1", recording="r", start=0, end=2.5),),
                layers=(Layer(id="l1", content=Framing(mode="fill")),),
            )
            sources = {"r": Source(even_words(5), media, None, face())}
            originals = {"r": Original(film, media)}
            cover = Cover(after=1.0, title=Title(text="Cover"))
            plan, seconds = plan_of(sheet, sheet.editions[0], cover, EVERYBODYS, sources, 120)
            self.assertEqual(seconds, 1.0)
            sizes = {}
            for kind, name in (("png", "PNG"), ("jpg", "JPEG")):
                with Image.open(io.BytesIO(drawn(plan, seconds, originals, kind, LIMITS))) as picture:
                    sizes[kind] = picture.size
                    self.assertEqual(picture.format, name)
            self.assertEqual(sizes, {"png": (120, 214), "jpg": (120, 214)})
            self.assertEqual(compile(sheet, sources, target_of(sheet, sheet.editions[0])).width, 1080)


if __name__ == "__main__":
    unittest.main()
