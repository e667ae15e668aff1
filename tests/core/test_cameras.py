"""A talk by several cameras: what is seen of which, where each was running, what is heard, and who is shown when they talk."""

import unittest
from dataclasses import replace

from hovvet.core.compile.angles import Angle, said_in
from hovvet.core.compile.directing import SHORTEST, directed
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, staged
from hovvet.core.compile.target import Target
from hovvet.core.media.info import MediaInfo
from hovvet.core.picture.faces import Faces, Track
from hovvet.core.plan.model import PictureLayer, Plan
from hovvet.core.plan.outlets import OUTLETS
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.contents.camera import Camera
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.microphone import Microphone
from hovvet.core.sheet.edits import EditError
from hovvet.core.sheet.model import Layer, Piece, Sheet, WordCut, WordRef
from hovvet.core.sheet.places import Places
from hovvet.core.time import Rate
from hovvet.core.value import with_changes
from hovvet.core.view.cuts import jumps
from hovvet.core.view.rows import bars, rows
from hovvet.core.words.transcript import Transcript, Word
from tests.media import even_words

FILM = MediaInfo(duration=60, has_picture=True, has_sound=True, width=1920, height=1080, rate=Rate(num=30, den=1))
OFFSET, DRIFT = 3.2, 100e-6
SHEET = Sheet(pieces=(Piece(id="p1", recording="r", start=5.0, end=25.0),))


def talk(second: MediaInfo = FILM, words: Transcript | None = None, **more) -> dict[str, Source]:
    """A recording and its second camera."""
    angle = Angle(2, "Side", "side", OFFSET, DRIFT)
    words = words or even_words(60)
    return {
        "r": Source(words, FILM, angles=(angle,), **more),
        "side": Source(said_in(words, angle, second.duration), second),
    }


def laid(content, first: int = 20, last: int = 30, sheet: Sheet = SHEET) -> Sheet:
    places = Places(sheet, {"r": even_words(60)})
    span = places.over(*(WordRef(origin="p1", word=word) for word in (first, last)))
    return with_changes(
        sheet, layers=(*sheet.layers, Layer(id=f"l{len(sheet.layers) + 1}", span=span, content=content))
    )


def plan_of(sheet: Sheet, sources: dict[str, Source]) -> Plan:
    return compile(sheet, sources, Target(OUTLETS["wide"]))


def seconds_of(layer: PictureLayer, frame: int, fps: float = 30.0) -> float:
    """The second of its film at a frame."""
    knots = layer.source.knots
    if len(knots) == 1:
        return (knots[0].source + frame - knots[0].frame) / fps
    a, b = knots[0], knots[-1]
    return (a.source + (frame - a.frame) * (b.source - a.source) / (b.frame - a.frame)) / fps


class Seen(unittest.TestCase):
    def test_a_camera_is_seen_over_its_words_at_the_same_moment(self):
        plan, plain = plan_of(laid(Camera(camera=2)), talk()), plan_of(SHEET, talk())
        films = [layer.source.media for layer in plan.picture]
        self.assertEqual(films, ["r", "side", "r"])
        side, whole = plan.picture[1], plain.picture[0]
        for frame in (side.first, side.last - 1):
            self.assertAlmostEqual(
                OFFSET + (1 + DRIFT) * seconds_of(side, frame), seconds_of(whole, frame), delta=0.002
            )
        self.assertEqual(
            [(each.first, each.last) for each in plan.picture], sorted((a.first, a.last) for a in plan.picture)
        )
        self.assertEqual((plan.picture[0].last, plan.picture[2].first), (side.first, side.last))
        self.assertEqual(plan.sound, plain.sound, "cuts of the picture never move the sound")
        self.assertEqual(plan.words, plain.words)

    def test_a_camera_that_is_not_there_is_told_and_the_first_is_seen(self):
        sheet, sources = laid(Camera(camera=3)), talk()
        self.assertEqual({layer.source.media for layer in plan_of(sheet, sources).picture}, {"r"})
        scene = staged(sheet, sources, Target(OUTLETS["wide"]))
        self.assertIn("no camera 3", bars(sheet, scene, rows(sheet, scene))[0].note)

    def test_where_it_was_not_running_the_first_is_seen(self):
        begins_late = talk(replace_duration(FILM, 60))
        sources = begins_late | {"r": replace(begins_late["r"], angles=(Angle(2, "Side", "side", 12.0),))}
        plan = plan_of(with_changes(SHEET, layers=(Layer(id="l1", content=Camera(camera=2)),)), sources)
        self.assertEqual([layer.source.media for layer in plan.picture], ["r", "side"])
        self.assertAlmostEqual(plan.picture[1].first / 30, 12.0 - 5.0, delta=0.1)
        short = talk(replace_duration(FILM, 10.0))
        plan = plan_of(with_changes(SHEET, layers=(Layer(id="l1", content=Camera(camera=2)),)), short)
        self.assertEqual([layer.source.media for layer in plan.picture], ["side", "r"])
        self.assertAlmostEqual(plan.picture[0].last / 30, OFFSET + 10.0 - 5.0, delta=0.1)

    def test_a_cut_to_another_camera_is_no_jump(self):
        cut = with_changes(SHEET, pieces=(with_changes(SHEET.pieces[0], word_cuts=(WordCut(words=(25, 26)),)),))
        scenes = [
            staged(sheet, talk(), Target(OUTLETS["wide"])) for sheet in (cut, laid(Camera(camera=2), 27, 34, cut))
        ]
        self.assertEqual([len(jumps(scene)) for scene in scenes], [1, 0])

    def test_two_at_once(self):
        above = plan_of(laid(Camera(camera=2, second=1, arrange="one above the other")), talk())
        both = above.picture[1:3]
        self.assertEqual([layer.source.media for layer in both], ["side", "r"])
        self.assertTrue(all(layer.window for layer in both))
        corner = plan_of(laid(Camera(camera=1, second=2, arrange="small in a corner")), talk())
        big, small = corner.picture[1:3]
        self.assertEqual((big.source.media, small.source.media), ("r", "side"))
        self.assertLess(small.window.width, big.window.width / 2)

    def test_framing_and_punches_hold_for_whichever_camera_is_seen(self):
        tall = MediaInfo(
            duration=60, has_picture=True, has_sound=True, width=1080, height=1920, rate=Rate(num=30, den=1)
        )
        sheet = with_changes(
            laid(Camera(camera=2)),
            layers=(*laid(Camera(camera=2)).layers, Layer(id="l9", content=Framing(mode="fill"))),
        )
        plan = plan_of(sheet, talk(tall))
        crop = plan.picture[1].crop
        self.assertLessEqual(crop.y + crop.height, 1920)
        self.assertAlmostEqual(crop.width / crop.height, 16 / 9, delta=0.02)


def replace_duration(media: MediaInfo, seconds: float) -> MediaInfo:
    return with_changes(media, duration=seconds)


class Heard(unittest.TestCase):
    def test_the_other_microphone_is_heard_in_step(self):
        sheet = with_changes(SHEET, layers=(Layer(id="l1", content=Microphone(camera=2)),))
        plan, plain = plan_of(sheet, talk()), plan_of(SHEET, talk())
        wanted = [("side", each.sample, each.samples) for each in plain.sound]
        self.assertEqual([(each.media, each.sample, each.samples) for each in plan.sound], wanted)
        for own, first in zip(plan.sound, plain.sound, strict=True):
            self.assertAlmostEqual(
                OFFSET + (1 + DRIFT) * own.source_sample / 48_000, first.source_sample / 48_000, delta=0.001
            )

    def test_what_was_not_running_or_is_silent_is_not_heard(self):
        sheet = with_changes(SHEET, layers=(Layer(id="l1", content=Microphone(camera=2)),))
        for second in (replace_duration(FILM, 10.0), with_changes(FILM, has_sound=False)):
            self.assertEqual({each.media for each in plan_of(sheet, talk(second)).sound}, {"r"})
            self.assertTrue(self.note(sheet, talk(second)))
        self.assertEqual(self.note(sheet, talk()), "")
        self.assertIn("no microphone 2", self.note(sheet, {"r": replace(talk()["r"], angles=())}))

    def note(self, sheet: Sheet, sources: dict[str, Source]) -> str:
        scene = staged(sheet, sources, Target(OUTLETS["wide"]))
        return bars(sheet, scene, rows(sheet, scene))[0].note


class Directed(unittest.TestCase):
    def conversation(self, *turns: tuple[str, int]) -> Transcript:
        words, at = [], 0.5
        for speaker, count in turns:
            for n in range(count):
                text = "word." if n == count - 1 or n % 8 == 7 else "word"
                words.append(Word(id=len(words) + 1, text=text, start=at, end=at + 0.35, speaker=speaker))
                at += 0.4
        return Transcript(duration=at + 1, words=tuple(words))

    def faces(self, words: Transcript, speaker: str, side: float = 0.2) -> Faces:
        """One face whose mouth moves while a speaker talks."""
        times = tuple(n / 2 for n in range(int(words.duration * 2)))
        moved = tuple(
            0.2 if any(w.speaker == speaker and w.start - 0.2 <= t <= w.end + 0.3 for w in words.words) else 0.01
            for t in times
        )
        count = len(times)
        return Faces(
            times=times, tracks=(Track(first=0, x=(0.5,) * count, y=(0.4,) * count, side=(side,) * count, moved=moved),)
        )

    def sources(self, words: Transcript, wide: bool = False) -> dict[str, Source]:
        angles = [Angle(2, "Guest", "guest", 0.0)] + ([Angle(3, "Wide", "wide", 0.0)] if wide else [])
        film = replace_duration(FILM, words.duration)
        made = {
            "r": Source(words, film, faces=self.faces(words, "S1"), angles=tuple(angles)),
            "guest": Source(words, film, faces=self.faces(words, "S2")),
        }
        if wide:
            made["wide"] = Source(words, film, faces=self.faces(words, "nobody", side=0.05))
        return made

    def shots(self, words: Transcript, sources: dict[str, Source]) -> list[tuple[str, float]]:
        """The cameras that are seen, and for how many seconds each."""
        sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=0.2, end=words.duration),))
        places = Places(sheet, {"r": words})
        plan = compile(apply(sheet, directed(sheet, sources, places)), sources, Target(OUTLETS["wide"]))
        return [(each.source.media, (each.last - each.first) / 30) for each in plan.picture]

    def test_whoever_talks_is_seen_and_no_camera_too_shortly(self):
        words = self.conversation(("S1", 20), ("S2", 20), ("S1", 2), ("S2", 15), ("S1", 12))
        shots = self.shots(words, self.sources(words))
        self.assertEqual([media for media, _ in shots], ["r", "guest", "r"])
        self.assertTrue(all(seconds >= SHORTEST for _, seconds in shots))

    def test_the_wide_one_now_and_then(self):
        words = self.conversation(("S1", 80), ("S2", 30))
        shots = self.shots(words, self.sources(words, wide=True))
        self.assertEqual([media for media, _ in shots], ["r", "wide", "r", "guest"])
        self.assertTrue(SHORTEST <= shots[1][1] <= 6.5, shots)

    def test_what_was_laid_before_goes_and_one_camera_is_told(self):
        words = self.conversation(("S1", 20), ("S2", 20))
        sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=0.2, end=words.duration),))
        places, sources = Places(sheet, {"r": words}), self.sources(words)
        once = apply(sheet, directed(sheet, sources, places))
        again = apply(once, directed(once, sources, Places(once, {"r": words})))
        self.assertEqual([each.content for each in again.layers], [Camera(camera=2)])
        with self.assertRaisesRegex(EditError, "no second camera"):
            directed(sheet, {"r": replace(sources["r"], angles=())}, places)
