"""A screen taken out from behind somebody: measured where the truth is known, and where it stands in a plan and a file."""

import tempfile
import unittest
from pathlib import Path

import cv2
import numpy as np
from PIL import Image

from hovvet.core.colour.keying import Left, Planes, colour_at, found, laid_over, taken_out
from hovvet.core.colour.screen import Colour, Screen, picked
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, staged
from hovvet.core.compile.target import Target
from hovvet.core.errors import CoreError
from hovvet.core.media.info import NO_MEDIA, MediaInfo
from hovvet.core.media.probe import probe
from hovvet.core.plan.knots import source_frame
from hovvet.core.plan.model import Fill, Plan, Still, Video
from hovvet.core.plan.outlets import OUTLETS
from hovvet.core.render.compositor import Compositor
from hovvet.core.render.picking import Spot, screen_at, screen_found
from hovvet.core.render.sources import Original
from hovvet.core.render.visible import visible
from hovvet.core.sheet.contents.background import Background
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.look import Look
from hovvet.core.sheet.model import Layer, Piece, Sheet
from hovvet.core.time import Rate
from hovvet.core.value import with_changes
from hovvet.core.view.rows import bars, rows
from tests.media import even_words
from tests.screens import COLOURS, HEIGHT, WIDTH, film, filmed, planes_of

PLACES = ((0.05, 0.08), (0.95, 0.08), (0.06, 0.9), (0.9, 0.4))
WHOLE = (0, 0, WIDTH, HEIGHT)
AROUND = np.ones((5, 5), np.uint8)


def screen_of(planes: Planes, **more) -> Screen:
    """As somebody picks it, at four places."""
    return Screen(**picked([colour_at(planes, *place) for place in PLACES])._asdict(), **more)


def edges(matte: np.ndarray) -> np.ndarray:
    """What is partly covered, and two pixels around it."""
    return cv2.dilate(((matte > 0.02) & (matte < 0.98)).astype(np.uint8), AROUND) > 0


def well_within(part: np.ndarray) -> np.ndarray:
    return cv2.erode(part.astype(np.uint8), np.ones((9, 9), np.uint8)) > 0


def edge_error(covers: np.ndarray, matte: np.ndarray) -> float:
    """How far a matte is from the true one at edges, on average."""
    return float(np.abs(covers - matte)[edges(matte)].mean())


def by_the_usual_filter(planes: Planes, screen: Screen) -> np.ndarray:
    """What is opaque by the distance of its chroma from the screen's: similarity 0.02, blend 0.16."""
    blue, red = (cv2.resize(plane, (WIDTH, HEIGHT)).astype(np.float32) for plane in planes[1:])
    return np.clip((np.hypot(blue - screen.blue, red - screen.red) / 255 - 0.02) / 0.16, 0, 1)


def plain(colour: tuple[int, int, int]) -> Planes:
    return planes_of(np.full((HEIGHT, WIDTH, 3), colour, np.uint8))


class Matte(unittest.TestCase):
    def test_hair_and_motion_are_nearer_to_the_truth_than_by_the_usual_filter(self):
        for screen, moved, most in (("green", 0, 0.07), ("green", 14, 0.07), ("blue", 0, 0.12), ("blue", 14, 0.1)):
            with self.subTest(screen=screen, moved=moved):
                planes, matte, _ = filmed(screen, moved)
                own = screen_of(planes)
                error = edge_error(taken_out(planes, own, WHOLE).covers / 255, matte)
                usual = edge_error(by_the_usual_filter(planes, own), matte)
                self.assertLess(error, most)
                self.assertLess(error, 0.75 * usual)

    def test_the_screen_is_gone_and_somebody_is_whole(self):
        planes, matte, _ = filmed("green")
        covers = taken_out(planes, screen_of(planes), WHOLE).covers
        self.assertLess(np.percentile(covers[well_within(matte == 0)], 99), 5)
        self.assertGreater(np.percentile(covers[well_within(matte == 1)], 1), 250)

    def test_before_another_ground_it_looks_as_if_it_had_been_filmed_there(self):
        planes, matte, before = filmed("green")
        ground = (150, 120, 100)
        made = laid_over(taken_out(planes, screen_of(planes), WHOLE), plain(ground))
        wanted = planes_of(np.clip(before + (1 - matte[..., None]) * ground, 0, 255).astype(np.uint8))
        rim = edges(cv2.resize(matte, (WIDTH // 2, HEIGHT // 2), interpolation=cv2.INTER_AREA))
        for own, true in zip(made[1:], wanted[1:], strict=True):
            self.assertLess(abs(float((own.astype(float) - true)[rim].mean())), 4, "no rim of the screen's light")
        away = well_within(matte == 0)
        self.assertLess(np.abs(made[0].astype(float) - wanted[0])[away].mean(), 0.6, "nor of its grain")

    def test_a_frame_makes_screen_of_what_is_outside(self):
        planes = filmed("green").planes
        left = taken_out(planes, screen_of(planes), (WIDTH // 2, 0, WIDTH, HEIGHT))
        self.assertEqual(int(left.covers[:, : WIDTH // 2].max()), 0)
        self.assertEqual(int(left.light[:, : WIDTH // 2].max()), 0)
        self.assertEqual(int(left.covers[190, WIDTH // 2 + 20]), 255)

    def test_reach_softness_and_spill_do_what_they_say(self):
        planes, matte, _ = filmed("green", 14)
        screen = screen_of(planes)

        def part(changed: Screen) -> Left:
            return taken_out(planes, changed, WHOLE)

        def covered(changed: Screen) -> float:
            return float(part(changed).covers.mean())

        self.assertLess(covered(with_changes(screen, reach=0.5)), covered(screen))
        half = edges(matte)
        soft, hard = (part(with_changes(screen, softness=each)).covers[half] for each in (1.0, 0.1))
        between = [float(((each > 10) & (each < 245)).mean()) for each in (soft, hard)]
        self.assertLess(between[1], 0.6 * between[0])
        greens = [
            float((part(with_changes(screen, spill=each)).blue.astype(float))[edges(matte)[::2, ::2]].mean())
            for each in (0.0, 1.0)
        ]
        self.assertNotAlmostEqual(greens[0], greens[1], places=1)


class Picking(unittest.TestCase):
    def test_it_is_found_by_what_is_around(self):
        for screen in COLOURS:
            planes = filmed(screen).planes
            by_hand = screen_of(planes)
            colour = found(planes)
            self.assertIsNotNone(colour)
            self.assertLess(abs(colour.blue - by_hand.blue) + abs(colour.red - by_hand.red), 6)
        self.assertIsNone(found(plain((120, 122, 125))), "grey is none")
        chance = np.random.default_rng(3)
        many = np.kron(chance.integers(0, 255, (36, 64, 3)), np.ones((10, 10, 1))).astype(np.uint8)
        self.assertIsNone(found(planes_of(many)), "nor are many colours")

    def test_what_cannot_be_told_apart_is_refused_in_words(self):
        with self.assertRaisesRegex(CoreError, "too little colour"):
            picked([Colour(120, 126, 131)])
        with self.assertRaisesRegex(CoreError, "different colours"):
            picked([Colour(138, 95, 72), Colour(138, 96, 71), Colour(80, 195, 98)])

    def test_in_a_film_and_in_a_still_by_a_program_of_its_own(self):
        with tempfile.TemporaryDirectory() as scratch:
            path = film(Path(scratch) / "green.mp4", 1.0)
            original = Original(path, probe(path))
            spots = [Spot(seconds=0.5, across=x, down=y) for x, y in PLACES]
            colour = screen_at(original, spots)
            true = planes_of(np.full((4, 4, 3), COLOURS["green"], np.uint8))
            self.assertLess(max(abs(a - int(b[0, 0])) for a, b in zip(colour, true, strict=True)), 4)
            self.assertLess(max(abs(a - b) for a, b in zip(colour, screen_found(original, 0.5), strict=True)), 4)
            still = Path(scratch) / "still.png"
            Image.fromarray(np.full((90, 160, 3), (120, 122, 125), np.uint8)).save(still)
            with self.assertRaisesRegex(CoreError, "No screen of one colour"):
                screen_found(Original(still, NO_MEDIA), None)


TALK = MediaInfo(duration=60, has_picture=True, has_sound=True, width=1920, height=1080, rate=Rate(num=30, den=1))
OTHER = with_changes(TALK, duration=2.0)
GREEN = {"light": 138.0, "blue": 95.0, "red": 72.0}
BACKGROUND = Background(**GREEN, colour="#112233")
SHEET = Sheet(pieces=(Piece(id="p1", recording="r", start=5.0, end=25.0),))


def sources(**more) -> dict[str, Source]:
    return {"r": Source(even_words(60), TALK, **more), "f": Source(even_words(1), OTHER)}


def plan_of(*contents, given: dict[str, Source] | None = None, outlet: str = "wide") -> Plan:
    layers = tuple(Layer(id=f"l{n}", content=content) for n, content in enumerate(contents))
    target = Target(OUTLETS[outlet], pictures={"s": (1600, 1600)})
    return compile(with_changes(SHEET, layers=layers), given or sources(), target)


class InThePlan(unittest.TestCase):
    def test_who_speaks_has_it_and_what_is_heard_stays(self):
        plan, without = plan_of(BACKGROUND), plan_of()
        (layer,) = plan.picture
        self.assertEqual(layer.keyed.ground.source, Fill(colour="#112233"))
        self.assertEqual(layer.keyed.screen.blue, 95.0)
        self.assertFalse(layer.is_clear)
        self.assertEqual(plan.sound, without.sound)
        self.assertIsNone(without.picture[0].keyed)

    def test_a_screen_that_is_not_picked_is_left_and_told(self):
        target = Target(OUTLETS["wide"])
        sheet = with_changes(SHEET, layers=(Layer(id="l", content=Background()),))
        scene = staged(sheet, sources(), target)
        self.assertIsNone(compile(sheet, sources(), target).picture[0].keyed)
        (bar,) = bars(sheet, scene, rows(sheet, scene))
        self.assertIn("Pick the screen", bar.note)

    def test_a_picture_covers_the_whole_of_what_was_filmed(self):
        ground = (
            plan_of(with_changes(BACKGROUND, behind="a picture or film", media="s", blur=0.5)).picture[0].keyed.ground
        )
        self.assertEqual(ground.source, Still(media="s"))
        self.assertAlmostEqual(ground.crop.width / ground.crop.height, 16 / 9, delta=0.01)
        self.assertGreater(ground.sigma, 10)

    def test_a_film_runs_over_and_over_from_where_it_is_laid(self):
        plan = plan_of(with_changes(BACKGROUND, behind="a picture or film", media="f"))
        ground = plan.picture[0].keyed.ground
        self.assertIsInstance(ground.source, Video)
        length = int(OTHER.duration * plan.rate.fps)
        shown = [source_frame(ground.source.knots, frame) for frame in range(3 * length)]
        self.assertEqual(shown, [n % length for n in range(3 * length)])
        self.assertIn("f", plan.recordings)

    def test_what_is_gone_is_a_colour(self):
        plan = plan_of(with_changes(BACKGROUND, behind="a picture or film", media="gone"))
        self.assertEqual(plan.picture[0].keyed.ground.source, Fill(colour="#112233"))

    def test_what_is_kept_with_a_recording_holds_until_a_clip_says_otherwise(self):
        given = sources(background=BACKGROUND)
        self.assertEqual(plan_of(given=given).picture[0].keyed.ground.source, Fill(colour="#112233"))
        own = with_changes(BACKGROUND, colour="#445566")
        self.assertEqual(plan_of(own, given=given).picture[0].keyed.ground.source, Fill(colour="#445566"))
        filmed = with_changes(BACKGROUND, behind="as it was filmed")
        self.assertIsNone(plan_of(filmed, given=given).picture[0].keyed)

    def test_pictures_over_words_are_seen_through(self):
        over = Background(**GREEN, of="pictures over words", behind="what is below")
        plan = plan_of(Broll(media="f", short="looped"), over)
        talk, broll = plan.picture[0], plan.picture[1]
        self.assertIsNone(talk.keyed, "who speaks stays as filmed")
        self.assertTrue(broll.is_clear)
        self.assertEqual(visible(plan, 10), [talk, broll])
        ordinary = plan_of(Broll(media="f", short="looped"))
        self.assertEqual([each.source.media for each in visible(ordinary, 10)], ["f"])
        whole = plan_of(Broll(media="f", fit="whole", short="looped"), over, outlet="tall")
        self.assertIsNone(whole.picture[1].backdrop, "nothing of its own is between")

    def test_both_may_have_one(self):
        over = Background(**GREEN, of="pictures over words", behind="what is below")
        self.assertFalse(over.replaces(BACKGROUND))
        self.assertTrue(BACKGROUND.replaces(with_changes(BACKGROUND, colour="#445566")))


class Drawn(unittest.TestCase):
    """In pictures: a green film keyed over a colour, a still, another film."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.scratch = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        cls.green = film(cls.scratch / "green.mp4", 2.0)
        cls.media = probe(cls.green)
        cls.still = cls.scratch / "still.png"
        Image.fromarray(np.full((200, 300, 3), (200, 40, 40), np.uint8)).save(cls.still)
        cls.screen = Screen(**screen_found(Original(cls.green, cls.media), 0.5)._asdict())

    def frame(self, *contents, outlet: str = "wide", at: int = 20) -> np.ndarray:
        """R'G'B' of a frame of a clip of the film."""
        given = {"r": Source(even_words(4), self.media), "f": Source(even_words(1), self.media)}
        sheet = Sheet(
            pieces=(Piece(id="p1", recording="r", start=0.0, end=1.8),),
            layers=tuple(Layer(id=f"l{n}", content=content) for n, content in enumerate(contents)),
        )
        kit = Target(
            with_changes(OUTLETS[outlet], width=320, height=180, safe=(8, 8, 8, 8))
            if outlet == "wide"
            else OUTLETS[outlet],
            pictures={"s": Image.open(self.still).size},
        )
        plan = compile(sheet, given, kit)
        originals = {key: Original(self.green, self.media) for key in ("r", "f")} | {
            "s": Original(self.still, NO_MEDIA)
        }
        compositor = Compositor(plan, originals)
        try:
            planes = np.concatenate([plane.reshape(-1) for plane in compositor.frame(at)])
        finally:
            compositor.close()
        size = (plan.height * 3 // 2, plan.width)
        return cv2.cvtColor(planes.reshape(size), cv2.COLOR_YUV2RGB_I420).astype(int)

    def background(self, **more) -> Background:
        return Background(**self.screen.model_dump(), **more)

    def near(self, colour: np.ndarray, wanted: tuple[int, int, int], most: int = 14) -> None:
        self.assertLess(int(np.abs(colour - wanted).max()), most, (colour, wanted))

    def test_a_colour(self):
        plain, made = self.frame(), self.frame(self.background(colour="#C82828"))
        self.assertGreater(plain[10, 10, 1], plain[10, 10, 0] + 60, "filmed green")
        self.near(made[10, 10], (200, 40, 40), 30)  # that table is for another kind of colours
        self.near(made[170, 160], tuple(plain[170, 160]))

    def test_a_still_and_a_look_and_a_fit_over_its_blur(self):
        made = self.frame(
            self.background(behind="a picture or film", media="s"),
            Look(exposure=-1.0),
            Framing(mode="fit"),
            outlet="tall",
        )
        middle, above = made[960, 40], made[200, 540]
        for each in (middle, above):
            self.assertGreater(each[0], each[1] + 30, "red is behind, in the blur above it too")

    def test_what_moves_and_what_is_turned(self):
        made = self.frame(
            self.background(behind="a picture or film", media="s"),
            Framing(mode="by hand", turn=8, scale=1.4, mirrored=True),
            outlet="wide",
        )
        self.assertGreater(made[90, 40, 0], made[90, 40, 1] + 60)

    def test_over_words_the_talk_is_seen_through(self):
        over = self.background(of="pictures over words", behind="what is below")
        talk = self.background(colour="#2828C8")
        for fit in ("fill", "in a corner"):
            with self.subTest(fit=fit):
                made = self.frame(
                    talk,
                    Broll(media="f", fit=fit, corner="top right"),
                    over,
                    Look(of="pictures over words", exposure=0.2),
                )
                self.assertGreater(made[6, 6, 2], made[6, 6, 1] + 60, "the talk's own background, not the green")
                corner = made[22:26, 300:304].mean(axis=(0, 1))
                self.assertGreater(corner[2], corner[1] + 40)

    def test_a_still_of_odd_sides_that_moves(self):
        Image.fromarray(np.full((201, 301, 3), COLOURS["green"], np.uint8)).save(self.scratch / "odd.png")
        self.addCleanup(setattr, self, "still", self.still)
        self.still = self.scratch / "odd.png"
        for behind, wanted in (("a colour", (40, 40, 200)), ("what is below", (200, 40, 40))):
            with self.subTest(behind=behind):
                over = self.background(of="pictures over words", behind=behind, colour="#2828C8")
                talk = self.background(colour="#C82828")
                made = self.frame(talk, Broll(media="s", move="comes closer"), over)
                self.near(made[10, 10], wanted, 30)
