"""Faces on films of drawn people at known places, and frames that follow them."""

import math

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from hovvet.core.compile.framing import covering, whole
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile
from hovvet.core.compile.target import Target
from hovvet.core.engines.faces import squares
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.process import MediaError
from hovvet.core.picture.faces import Faces, Track, find_faces
from hovvet.core.picture.following import follow
from hovvet.core.picture.talking import nearest, watched
from hovvet.core.plan.knots import place_at
from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import outlet
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.punch import Punch
from hovvet.core.sheet.edits import CutWords
from hovvet.core.sheet.model import Layer, Piece, Sheet
from hovvet.core.time import Rate
from hovvet.core.words.transcript import Transcript, Word
from tests.media import ScratchCase, counted, even_words
from tests.people import RATE, Person, Shot, film

TALL = (9 / 16) / (16 / 9)  # of the width of a wide picture is seen in a tall one
FASTEST = 0.6  # windows a second


def talks(t: float) -> float:
    return abs(math.sin(t * 9))


def calm(t: float) -> tuple[float, float]:
    return 0.3 + 0.03 * math.sin(t) + 0.02 * math.sin(0.7 * t + 1), 0.4 + 0.01 * math.sin(2 * t)


FILMS = {
    "calm": [Shot(12, [Person(calm, mouth=talks)])],
    "walking and turning": [
        Shot(14, [Person(lambda t: (0.5 + 0.3 * math.sin(t / 4), 0.4), mouth=talks, turn=lambda t: 14 * math.sin(t))])
    ],
    "cuts": [
        Shot(3, [Person(lambda t: (0.25, 0.42), mouth=talks)]),
        Shot(3.2, [Person(lambda t: (0.6 + 0.02 * math.sin(t), 0.4), size=0.4)], wall=(120, 140, 160)),
        Shot(3, [Person(lambda t: (0.4, 0.4), size=0.3, skin=(150, 100, 75))]),
    ],
    "dim": [Shot(10, [Person(lambda t: (0.4 + 0.1 * math.sin(t / 2), 0.4))], light=0.3)],
    "far away": [Shot(6, [Person(lambda t: (0.7 + 0.03 * math.sin(t), 0.45), size=0.13)])],
}


class FilmCase(ScratchCase):
    def film(self, shots: list[Shot]) -> tuple[Faces, list[tuple[float, list[tuple[float, float]]]]]:
        """The faces found in a film, and the true ones of each frame."""
        made = self.scratch / "film.mp4"
        truth = film(made, shots)
        return find_faces(made, len(truth) / RATE), truth


class Following(FilmCase):
    def test_a_face_stays_in_the_middle_of_calm_frames(self):
        for name, shots in FILMS.items():
            with self.subTest(name):
                faces, truth = self.film(shots)
                seconds = np.array([at for at, _ in truth])
                path = follow(faces, watched(faces, ()), "x", TALL, seconds)
                off = np.array([abs(people[0][0] - at) for (_, people), at in zip(truth, path.centres, strict=True)])
                self.assertGreaterEqual((off <= 0.3 * TALL).mean(), 0.95, "in the middle 60 %")
                speed = np.diff(path.centres) / TALL * RATE
                speed[np.diff(path.shot) != 0] = 0  # a cut is no move
                self.assertLessEqual(np.abs(speed).max(), FASTEST)
                ways = np.sign(speed[np.abs(speed) > 1e-6])
                minutes = len(truth) / RATE / 60
                self.assertLessEqual(np.count_nonzero(np.diff(ways)), 12 * minutes)
                if name == "calm":
                    self.assertEqual(np.abs(speed).max(), 0, "it stands")

    def test_cuts_are_found_on_their_frame(self):
        faces, _ = self.film(FILMS["cuts"])
        self.assertEqual(len(faces.cuts), 2)
        for found, true in zip(faces.cuts, (3.0, 6.2), strict=True):
            self.assertAlmostEqual(found, true, delta=0.5 / RATE)

    def test_of_two_who_talks_is_watched(self):
        """They take turns of five seconds; the transcript knows two speakers, or does not."""

        def first(t: float) -> float:
            return talks(t) if int(t / 5) % 2 == 0 else 0.1

        def second(t: float) -> float:
            return talks(t + 1) if int(t / 5) % 2 else 0.1

        left = Person(lambda t: (0.27 + 0.01 * math.sin(t), 0.42), mouth=first)
        right = Person(lambda t: (0.74, 0.4 + 0.01 * math.sin(t)), mouth=second, skin=(150, 100, 75))
        faces, _ = self.film([Shot(20, [left, right])])
        self.assertEqual(len(faces.tracks), 2)
        for known in (True, False):
            words = [
                Word(id=n + 1, text="w", start=t, end=t + 0.3, speaker=f"S{1 + int(t / 5) % 2}" if known else "S1")
                for n, t in enumerate(np.arange(0.2, 19.8, 0.4))
                if known or t % 5 < 3.8  # a silence ends the turn
            ]
            with self.subTest(speakers_known=known):
                whom = watched(faces, words)
                seen = follow(faces, whom, "x", TALL, np.arange(0.5, 19.5, 0.1))
                right_one = np.where(np.arange(0.5, 19.5, 0.1) % 10 < 5, 0.27, 0.74)
                near = np.abs(seen.centres - right_one) < 0.06
                self.assertGreater(near.mean(), 0.93)
                self.assertEqual(len(np.unique(seen.shot)), 4, "it cuts from one to the other")
        chosen = follow(faces, nearest(faces, (0.8, 0.5)), "x", TALL, np.arange(0, 20, 0.1))
        self.assertAlmostEqual(float(np.median(chosen.centres)), 0.74, delta=0.03)

    def test_no_face_is_seen_where_there_is_none(self):
        counted(self.scratch / "c.mp4", 6, "15", "960x540")
        faces = find_faces(self.scratch / "c.mp4", 6)
        self.assertEqual(faces.tracks, ())
        path = follow(faces, watched(faces, ()), "x", TALL, np.arange(0, 6, 0.1))
        self.assertFalse(path.known)
        self.assertTrue((path.centres == 0.5).all())
        (self.scratch / "broken.mp4").write_bytes(b"no film at all")
        with self.assertRaises(MediaError):
            find_faces(self.scratch / "broken.mp4", 6)


class Paths(FilmCase):
    """Following by made tracks: what no film is needed for."""

    @given(st.lists(st.floats(0, 1), min_size=3, max_size=120), st.sampled_from([0.25, TALL, 0.6]))
    def test_any_walk_is_followed_at_a_bearable_speed_and_inside_the_picture(self, places, part):
        faces = faces_at(places)
        seconds = np.arange(0, len(places) / 2 - 0.5, 1 / 30)
        path = follow(faces, watched(faces, ()), "x", part, seconds)
        self.assertLessEqual(np.abs(np.diff(path.centres)).max() * 30 / part, FASTEST)
        self.assertGreaterEqual(path.centres.min(), part / 2 - 1e-9)
        self.assertLessEqual(path.centres.max(), 1 - part / 2 + 1e-9)

    @given(st.integers(40, 2_000), st.integers(40, 2_000), st.sampled_from([1, 2]))
    def test_squares_cover_a_picture(self, width, height, parts):
        seen = np.zeros((height, width), bool)
        for left, top, side in squares(width, height, parts):
            self.assertLessEqual(left + side, width)
            self.assertLessEqual(top + side, height)
            seen[top : top + side, left : left + side] = True
        self.assertTrue(seen.all())


def faces_at(*shots: list[float]) -> Faces:
    """One face in each shot, at these places from left to right, two looks a second."""
    tracks, at = [], 0
    for places in shots:
        count = len(places)
        tracks.append(Track(first=at, x=tuple(places), y=(0.4,) * count, side=(0.1,) * count, moved=(0.0,) * count))
        at += count
    cuts = tuple(track.first / 2 for track in tracks[1:])
    return Faces(times=tuple(n / 2 for n in range(at)), cuts=cuts, tracks=tuple(tracks))


class InThePlan(FilmCase):
    WIDE = MediaInfo(duration=40, has_picture=True, has_sound=True, width=1920, height=1080, rate=Rate(num=30, den=1))

    def plan(
        self, faces: Faces | None, where: str = "tall", *more: Layer, transcript: Transcript | None = None
    ) -> Plan:
        words = transcript or even_words(80)
        layers = (Layer(id="l1", content=Framing(mode="speaker")), *more)
        sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=0.0, end=32.0),), layers=layers)
        sheet = apply(sheet, CutWords(piece="p1", words=(40, 41, 42)))
        return compile(sheet, {"r": Source(words, self.WIDE, None, faces)}, Target(outlet(where)))

    def middles(self, plan: Plan) -> list[float]:
        """The place of the recording in the middle of each frame, in its pixels."""
        made = []
        for frame in range(plan.frames):
            (layer,) = [each for each in plan.picture if each.first <= frame < each.last]
            place, crop = place_at(layer.place, frame), layer.crop
            assert crop
            made.append(crop.x + crop.width / 2 + (plan.width / 2 - place.x) * crop.width / place.width)
        return made

    def test_every_frame_is_seen_once_and_moves_without_a_jerk(self):
        walk = [0.3] * 20 + [0.3 + 0.02 * n for n in range(20)] + [0.7] * 40
        plan = self.plan(faces_at(walk))
        middles = self.middles(plan)
        cut = next(
            layer.first
            for layer in plan.picture
            if layer.first and layer.source.knots[0] != plan.picture[0].source.knots[0]
        )
        steps = np.abs(np.diff(middles))
        steps[cut - 1] = 0
        self.assertLessEqual(steps.max(), FASTEST * TALL * 1920 / 30 + 2.01, "no more than a move and a whole pixel")
        self.assertAlmostEqual(middles[30], 0.3 * 1920, delta=0.18 * 608)
        self.assertAlmostEqual(middles[-30], 0.7 * 1920, delta=0.18 * 608)
        still = [layer for layer in plan.picture if len(layer.place) == 1]
        self.assertTrue(still and len(still) < len(plan.picture))
        for layer in still:
            self.assertEqual(layer.crop, covering((1920, 1080), (1080, 1920), ((layer.crop.x + 304) / 1920, 0.5)))

    def test_a_cut_of_the_recording_is_no_move(self):
        plan = self.plan(faces_at([0.3] * 20, [0.7] * 60))
        first = plan.picture[0]
        self.assertTrue(all(len(layer.place) == 1 for layer in plan.picture))
        self.assertEqual(first.last, 300)

    def test_without_faces_it_fills_from_the_middle(self):
        for faces in (None, Faces(times=(0.0, 0.5)), faces_at([0.5] * 80)):
            plan = self.plan(faces)
            self.assertEqual({layer.crop for layer in plan.picture}, {covering((1920, 1080), (1080, 1920), (0.5, 0.5))})
        wide = self.plan(faces_at([0.3] * 80), "wide")
        self.assertEqual(whole((wide.width, wide.height)).sees((1920, 1080)), None)
        self.assertEqual({layer.crop.width for layer in wide.picture}, {1920})

    def test_a_punch_in_goes_along(self):
        walk = [0.3] * 20 + [0.3 + 0.02 * n for n in range(20)] + [0.7] * 40
        for move in ("at once", "slowly"):
            closer = self.plan(faces_at(walk), "tall", Layer(id="l2", content=Punch(amount=1.5, across=0.5, move=move)))
            plain = self.plan(faces_at(walk))
            self.assertEqual(closer.frames, plain.frames)
            off = np.abs(np.array(self.middles(closer)) - np.array(self.middles(plain)))
            self.assertLess(off.max(), 3, "the middle stays the middle")
            widths = [place_at(layer.place, layer.last - 1).width for layer in closer.picture]
            self.assertGreater(widths[-1], 1.45 * place_at(plain.picture[-1].place, plain.frames).width)
