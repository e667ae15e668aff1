"""Faces: what is written stands clear of them, and a new clip follows who speaks."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from hovvet.core.captions.style import STYLES
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import planned, staged
from hovvet.core.compile.target import Target
from hovvet.core.media.info import MediaInfo
from hovvet.core.picture.faces import Faces, Track
from hovvet.core.plan.outlets import OUTLETS, Outlet
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.model import Layer, Piece, Run, Sheet, Span
from hovvet.core.sheet.starting import framed
from hovvet.core.time import Rate
from hovvet.core.value import with_changes
from hovvet.core.view.rows import bars, rows
from tests.core.test_framings import two_faces
from tests.media import even_words

MEDIA = MediaInfo(duration=20, has_picture=True, has_sound=True, width=1920, height=1080, rate=Rate(num=30, den=1))


class ClearOfFaces(unittest.TestCase):
    """Where a title stands beside a face that sits in the middle of the picture."""

    def written(self, where: Outlet, faces: Faces, **title: object) -> tuple[float, float, str]:
        """Top and bottom of a title, in shares of the output, and what is told of it."""
        over = Span(runs=(Run(origin="p1", start=0.0, end=3.0),))
        content = Title(text="Nobody throws away", template="plate", **title)
        layers = (
            Layer(id="l1", content=Framing(mode="fill")),
            Layer(id="l2", span=over, content=content),
        )
        sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=0.0, end=4.0),), layers=layers)
        scene = staged(sheet, {"r": Source(even_words(20), MEDIA, None, faces)}, Target(where))
        planned(scene, Target(where))
        box = scene.boxes["l2"]
        note = next(bar.note for bar in bars(sheet, scene, rows(sheet, scene)) if bar.layer == "l2")
        return box.top, box.top + box.height, note

    @given(y=st.floats(0.15, 0.85), side=st.floats(0.05, 0.2))
    def test_a_title_is_clear_of_a_face_or_says_so(self, y, side):
        count = 12
        track = Track(first=0, x=(0.5,) * count, y=(y,) * count, side=(side,) * count, moved=(0.0,) * count)
        faces = Faces(times=tuple(n / 2 for n in range(count)), tracks=(track,))
        square = OUTLETS["square"]
        top, bottom, note = self.written(square, faces)
        half = (
            side * 1920 / 1080 / 2
        )  # the face alone: a square, in shares of the height, which is all of the picture's
        overlaps = top < y + half and bottom > y - half
        self.assertEqual(overlaps and not note, False, (top, bottom, y, side))

    def test_it_stands_where_a_person_put_it_and_says_what_is_there(self):
        faces = Faces(
            times=(0.0, 0.5), tracks=(Track(first=0, x=(0.5,) * 2, y=(0.5,) * 2, side=(0.1,) * 2, moved=(0.0,) * 2),)
        )
        top, bottom, note = self.written(OUTLETS["square"], faces, height=0.5)
        self.assertAlmostEqual((top + bottom) / 2, 0.5, delta=0.06)
        self.assertIn("over a face", note)
        _, _, note = self.written(OUTLETS["square"], Faces(), height=0.5)
        self.assertEqual(note, "")


class Captions(unittest.TestCase):
    """Captions that lie over a face are marked, and the height at which none does is known."""

    SHEET = Sheet(
        pieces=(Piece(id="p1", recording="r", start=0.0, end=8.0),),
        layers=(Layer(id="l1", content=Framing(mode="fill")),),
    )

    def captions(self, y: float, height: float) -> tuple[list[bool], float | None]:
        count = 16
        track = Track(first=0, x=(0.5,) * count, y=(y,) * count, side=(0.1,) * count, moved=(0.0,) * count)
        faces = Faces(times=tuple(n / 2 for n in range(count)), tracks=(track,))
        target = Target(OUTLETS["square"], captions=with_changes(STYLES["label"], height=height))
        scene = staged(self.SHEET, {"r": Source(even_words(20), MEDIA, None, faces)}, target)
        return [each.over_face for each in planned(scene, target).captions], scene.clear_height

    def test_all_are_over_a_face_that_stays_and_clear_of_it_where_told(self):
        over, clear = self.captions(0.8, 0.8)
        self.assertEqual(set(over), {True})
        self.assertIsNotNone(clear)
        over, again = self.captions(0.8, clear)
        self.assertEqual((set(over), again), ({False}, None))

    def test_nothing_is_told_of_captions_that_are_clear(self):
        over, clear = self.captions(0.3, 0.9)
        self.assertEqual((set(over), clear), ({False}, None))

    def test_where_a_face_fills_the_picture_there_is_nowhere_else(self):
        count = 16
        track = Track(first=0, x=(0.5,) * count, y=(0.5,) * count, side=(0.5,) * count, moved=(0.0,) * count)
        faces = Faces(times=tuple(n / 2 for n in range(count)), tracks=(track,))
        target = Target(OUTLETS["square"], captions=STYLES["label"])
        scene = staged(self.SHEET, {"r": Source(even_words(20), MEDIA, None, faces)}, target)
        self.assertTrue(all(each.over_face for each in planned(scene, target).captions))
        self.assertIsNone(scene.clear_height)


class AtFirst(unittest.TestCase):
    """How a new clip is framed."""

    SHEET = Sheet(pieces=(Piece(id="p1", recording="r", start=0.0, end=4.0),))

    def framing(self, size: tuple[int, int], outlet: str, faces: Faces | None) -> list[str]:
        made = framed(self.SHEET, size, OUTLETS[outlet], faces)
        return [layer.content.mode for layer in made.layers if isinstance(layer.content, Framing)]

    def test_the_speaker_is_followed_in_a_shape_narrower_than_the_picture(self):
        faces = two_faces(0.3, 0.7)
        self.assertEqual(self.framing((1920, 1080), "tall", faces), ["speaker"])
        self.assertEqual(self.framing((1920, 1080), "square", faces), ["speaker"])
        self.assertEqual(self.framing((1920, 1080), "wide", faces), [])
        self.assertEqual(self.framing((1080, 1920), "tall", faces), [])

    def test_nobody_is_followed_where_nobody_is_seen(self):
        self.assertEqual(self.framing((1920, 1080), "tall", None), [])
        self.assertEqual(self.framing((1920, 1080), "tall", Faces()), [])
        self.assertEqual(self.framing((1920, 1080), "tall", two_faces(0.3, 0.7, looks=3)), [], "for a second of four")
        self.assertEqual(self.framing((0, 0), "tall", two_faces(0.3, 0.7)), [], "there is no picture")
