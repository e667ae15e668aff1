"""Framings other than fit and fill: two parts at once, placed by hand, round corners, mirrored."""

from itertools import product
from typing import get_args

import numpy as np

from hovvet.core.compile.framing import framed, panes
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, staged
from hovvet.core.compile.target import Target
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.probe import probe
from hovvet.core.picture.faces import Faces, Track
from hovvet.core.plan.knots import place_at
from hovvet.core.plan.model import PictureLayer, Plan
from hovvet.core.plan.outlets import OUTLETS, Outlet
from hovvet.core.render.compositor import Compositor
from hovvet.core.render.sources import Original
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.look import Look
from hovvet.core.sheet.contents.punch import Punch
from hovvet.core.sheet.model import Layer, Piece, Run, Sheet, Span
from hovvet.core.time import Rate
from hovvet.core.view.rows import bars, rows
from tests.media import LEVELS, ScratchCase, counted, even_words, ffmpeg

SMALL = Outlet(key="small", name="Small", width=216, height=384, longest=60, safe=(10, 10, 10, 60))
ARRANGED = get_args(Framing.model_fields["arrange"].annotation)
LEFT, RIGHT, GROUND = 60, 200, 235  # luma of the picture's halves, and of white behind it


def two_faces(left: float, right: float, looks: int = 40) -> Faces:
    """Two that sit still, two looks a second."""
    tracks = tuple(
        Track(first=0, x=(x,) * looks, y=(0.42,) * looks, side=(0.1,) * looks, moved=(0.0,) * looks)
        for x in (right, left)
    )
    return Faces(times=tuple(n / 2 for n in range(looks)), tracks=tracks)


class FramingCase(ScratchCase):
    MEDIA = MediaInfo(duration=20, has_picture=True, has_sound=True, width=1920, height=1080, rate=Rate(num=30, den=1))

    def plan(self, framing: Framing, where: Outlet, *more: Layer, faces: Faces | None = None, media=MEDIA) -> Plan:
        layers = (Layer(id="l1", content=framing), *more)
        sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=0.0, end=4.0),), layers=layers)
        return compile(sheet, {"r": Source(even_words(20), media, None, faces)}, Target(where))


class Two(FramingCase):
    def seen(self, layer: PictureLayer, x: float, y: float) -> tuple[float, float]:
        """Where in its window, from 0 to 1, a place of the recording is (in shares of its picture)."""
        place, crop, window = place_at(layer.place, layer.first), layer.crop, layer.window
        assert crop and window
        scale = place.width / crop.width
        across = place.x + (x * 1920 - crop.x - crop.width / 2) * scale
        down = place.y + (y * 1080 - crop.y - crop.height / 2) * scale
        return (across - window.x) / window.width, (down - window.y) / window.height

    def test_each_keeps_its_own_face_in_view_in_every_outlet(self):
        faces = two_faces(0.3, 0.72)
        for arrange, (key, where), swapped in product(ARRANGED, OUTLETS.items(), (False, True)):
            framing = Framing(mode="two", arrange=arrange, swapped=swapped, closeness=1.6)
            plan = self.plan(framing, where, faces=faces)
            with self.subTest(arrange=arrange, outlet=key, swapped=swapped):
                self.assertEqual({(layer.first, layer.last) for layer in plan.picture}, {(0, plan.frames)})
                first, second = plan.picture
                for layer, x in zip((second, first) if swapped else (first, second), (0.3, 0.72), strict=True):
                    across, down = self.seen(layer, x, 0.42)
                    self.assertTrue(0.2 <= across <= 0.8, across)
                    self.assertTrue(0.2 <= down <= 0.8, down)

    def test_panes_are_inside_the_output_on_even_pixels_and_cover_it(self):
        for arrange, where in product(ARRANGED, (*OUTLETS.values(), SMALL)):
            one, two = (
                pane.window for pane in panes(Framing(mode="two", arrange=arrange), (where.width, where.height))
            )
            shown = np.zeros((where.height, where.width), int)
            for window in (one, two):
                self.assertFalse(any(side % 2 for side in (window.x, window.y, window.width, window.height)))
                shown[window.y : window.y + window.height, window.x : window.x + window.width] += 1
            self.assertEqual(shown.min(), 1, "nothing is left over")
            self.assertEqual(shown.sum(), shown.size + (two.width * two.height if "corner" in arrange else 0))

    def test_without_faces_the_two_show_two_places(self):
        one, two = self.plan(Framing(mode="two", closeness=2), OUTLETS["tall"]).picture
        assert one.crop and two.crop
        self.assertLess(one.crop.x + one.crop.width / 2, 960)
        self.assertGreater(two.crop.x + two.crop.width / 2, 960)

    def test_it_is_told_where_there_are_not_two(self):
        alone = two_faces(0.3, 0.7)
        alone = alone.model_copy(update={"tracks": alone.tracks[:1]})
        for faces, told in (
            (two_faces(0.3, 0.7), ""),
            (alone, "not two faces"),
            (Faces(), "No face"),
            (None, "Faces have not"),
        ):
            layer = Layer(id="l1", content=Framing(mode="two"))
            sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=0.0, end=4.0),), layers=(layer,))
            scene = staged(sheet, {"r": Source(even_words(20), self.MEDIA, None, faces)}, Target(OUTLETS["tall"]))
            (bar,) = bars(sheet, scene, rows(sheet, scene))
            self.assertIn(told, bar.note)
            self.assertEqual(bool(told), bool(bar.note))

    def test_a_punch_in_stays_inside_each(self):
        punch = Layer(id="l2", content=Punch(amount=1.5, across=0.5, down=0.5))
        plain = self.plan(Framing(mode="two"), OUTLETS["tall"], faces=two_faces(0.3, 0.7))
        closer = self.plan(Framing(mode="two"), OUTLETS["tall"], punch, faces=two_faces(0.3, 0.7))
        for a, b in zip(plain.picture, closer.picture, strict=True):
            self.assertEqual((a.window, a.place[0].x, a.place[0].y), (b.window, b.place[0].x, b.place[0].y))
            self.assertAlmostEqual(b.place[0].width, 1.5 * a.place[0].width)


class Panned(FramingCase):
    """A view that goes across a wide picture while it is shown."""

    def edges(self, plan: Plan, frame: int) -> tuple[float, float, float]:
        """Where the left edge of the recording, its right one and its top are in the output, in pixels."""
        (layer,) = (each for each in plan.picture if each.first <= frame < each.last)
        place = place_at(layer.place, frame)
        return place.x - place.width / 2, place.x + place.width / 2, place.y - place.width * 1080 / 1920 / 2

    def test_it_goes_from_side_to_side_gently_and_never_shows_what_is_not_there(self):
        for pan, where in product(("to the right", "to the left"), (OUTLETS["tall"], OUTLETS["square"])):
            plan = self.plan(Framing(mode="fill", pan=pan), where)
            edges = [self.edges(plan, frame) for frame in range(plan.frames)]
            self.assertLessEqual(max(left for left, _, _ in edges), 0.01)
            self.assertGreaterEqual(min(right for _, right, _ in edges), where.width - 0.01)
            self.assertTrue(all(abs(top) < 0.01 for *_, top in edges))
            first, last = edges[0], edges[-1]
            if pan == "to the left":
                first, last = last, first
            self.assertAlmostEqual(first[0], 0, delta=0.01)
            self.assertAlmostEqual(last[1], where.width, delta=0.01)
            steps = np.abs(np.diff([left for left, _, _ in edges]))
            self.assertLess(max(steps[0], steps[-1]), 0.3 * steps.max(), "it begins and ends slowly")

    def test_it_goes_on_over_a_look_and_a_punch_in(self):
        span = Span(runs=(Run(origin="p1", start=1.0, end=2.0),))
        whole = self.plan(Framing(mode="fill", pan="to the right"), SMALL)
        parted = self.plan(
            Framing(mode="fill", pan="to the right"), SMALL, Layer(id="l2", span=span, content=Look(contrast=0.4))
        )
        self.assertGreater(len(parted.picture), len(whole.picture))
        for frame in range(0, whole.frames, 7):
            self.assertAlmostEqual(self.edges(whole, frame)[0], self.edges(parted, frame)[0], delta=4.0)

    def test_a_tall_picture_is_gone_over_from_top_to_bottom(self):
        tall = self.MEDIA.model_copy(update={"width": 1080, "height": 1920})
        plan = self.plan(Framing(mode="fill", pan="to the right"), OUTLETS["wide"], media=tall)
        (layer,) = plan.picture
        high = layer.place[0].width * 1920 / 1080
        self.assertAlmostEqual(layer.place[0].y - high / 2, 0, delta=0.01)
        self.assertAlmostEqual(layer.place[-1].y + high / 2, 1080, delta=0.01)


class AsDrawn(FramingCase):
    def setUp(self) -> None:
        super().setUp()
        made = self.scratch / "halves.mkv"
        halves = f"nullsrc=s=320x180:r=30,format=yuv420p,geq=lum='if(lt(X,160),{LEFT},{RIGHT})':cb=128:cr=128"
        ffmpeg("-f", "lavfi", "-t", 5, "-i", halves, "-c:v", "ffv1", made)
        self.media = MediaInfo(
            duration=5, has_picture=True, has_sound=False, width=320, height=180, rate=Rate(num=30, den=1)
        )
        self.originals = {"r": Original(made, self.media)}

    def drawn(self, framing: Framing, *more: Layer, faces: Faces | None = None) -> np.ndarray:
        plan = self.plan(framing, SMALL, *more, faces=faces, media=self.media)
        compositor = Compositor(plan, self.originals)
        luma = compositor.frame(20)[0].astype(int)
        compositor.close()
        return luma

    def test_two_are_drawn_each_in_its_part(self):
        luma = self.drawn(Framing(mode="two", closeness=2), faces=two_faces(0.2, 0.8))
        self.assertEqual((luma[96, 40], luma[288, 180]), (LEFT, RIGHT))
        self.assertLessEqual(abs(luma[190, 40] - LEFT), 1)
        self.assertLessEqual(abs(luma[193, 180] - RIGHT), 1)
        swapped = self.drawn(Framing(mode="two", closeness=2, swapped=True), faces=two_faces(0.2, 0.8))
        self.assertEqual((swapped[96, 180], swapped[288, 40]), (RIGHT, LEFT))

    def test_one_that_walks_is_seen_in_its_own_part_alone(self):
        walk = two_faces(0.2, 0.8)
        left = walk.tracks[1].model_copy(update={"x": tuple(0.2 + 0.03 * min(n, 6) for n in range(40))})
        faces = walk.model_copy(update={"tracks": (walk.tracks[0], left)})
        framing = Framing(mode="two", closeness=3)
        plan = self.plan(framing, SMALL, faces=faces, media=self.media)
        moving = [layer for layer in plan.picture if len(layer.place) > 1]
        self.assertTrue(moving)
        compositor = Compositor(plan, self.originals)
        luma = compositor.frame((moving[0].first + moving[0].last) // 2)[0].astype(int)
        compositor.close()
        self.assertLessEqual(np.abs(luma[196:] - RIGHT).max(), 1, "the other one is not drawn over")
        self.assertLessEqual(np.abs(luma[:190, :80] - LEFT).max(), 1)

    def test_a_small_picture_has_round_corners_over_the_large_one(self):
        framing = Framing(mode="two", arrange="small in a corner", corner="bottom left", closeness=2, small=0.4)
        luma = self.drawn(framing, faces=two_faces(0.2, 0.8))
        window = panes(framing, (216, 384))[1].window
        x, y = window.x + window.width // 2, window.y + window.height // 2
        self.assertEqual((luma[y, x], luma[y, window.x + window.width + 4]), (RIGHT, luma[100, 100]))
        self.assertEqual(luma[window.y, window.x], luma[100, window.x], "what is behind it")
        self.assertEqual(luma[window.y, x], RIGHT)
        rimmed = framing.model_copy(update={"border": 0.03, "border_colour": "#ffffff"})
        drawn = self.drawn(rimmed, faces=two_faces(0.2, 0.8))
        wide = 216 * 0.03 // 2 * 2
        for aside, there in ((2, True), (wide + 2, False)):
            at = int(window.x + window.width + aside)
            self.assertEqual(abs(drawn[y, at] - GROUND) < 2, there, aside)
        self.assertEqual(drawn[y, x], RIGHT)

    def test_placed_by_hand_it_stands_there_in_that_size(self):
        luma = self.drawn(Framing(mode="by hand", x=0.25, y=0.25, scale=0.5, colour="#ffffff"))
        columns = np.flatnonzero(luma[96] < 220)
        rows = np.flatnonzero(luma[:, 40] < 220)
        self.assertEqual((columns[0], columns[-1] + 1), (0, 108))
        self.assertAlmostEqual(rows.mean(), 96, delta=1.5)
        self.assertAlmostEqual(len(rows), 108 * 180 / 320, delta=2)
        self.assertAlmostEqual(luma[300, 100], GROUND, delta=1)

    def test_turned_it_stands_on_its_side(self):
        luma = self.drawn(Framing(mode="by hand", scale=0.8, turn=90, colour="#ffffff"))
        rows, columns = np.flatnonzero(luma[:, 108] < 220), np.flatnonzero(luma[192] < 220)
        self.assertAlmostEqual(len(rows), 0.8 * 216, delta=3)
        self.assertAlmostEqual(len(columns), 0.8 * 216 * 180 / 320, delta=3)
        self.assertLess(luma[192 - 40, 108], luma[192 + 40, 108], "its left is up")

    def test_mirrored_left_is_right_also_behind_it(self):
        for content in (Framing(), Framing(mode="by hand", scale=0.6), Framing(mode="fill")):
            plain = self.drawn(content)
            mirrored = self.drawn(content.model_copy(update={"mirrored": True}))
            self.assertLessEqual(np.abs(plain - mirrored[:, ::-1]).max(), 3)
            self.assertGreater(np.abs(plain - mirrored).max(), 100)

    def test_a_film_runs_behind_it_over_and_over(self):
        film = counted(self.scratch / "behind.mp4", 1)
        self.originals["b"] = Original(film, probe(film))
        layer = Layer(id="l1", content=Framing(picture="b", strength=0.5, colour="#000000"))
        sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=0.0, end=4.0),), layers=(layer,))
        sources = {name: Source(even_words(n), self.originals[name].media, None) for name, n in (("r", 20), ("b", 2))}
        plan = compile(sheet, sources, Target(SMALL))
        self.assertEqual(plan.recordings, ("b", "r"))
        compositor = Compositor(plan, self.originals)
        for frame in (3, 20, 33, 75):
            luma = compositor.frame(frame)[0].astype(int)
            self.assertAlmostEqual(luma[20, 100], (16 + 16 + 9 * (frame % 30 % LEVELS)) / 2, delta=2)
            self.assertEqual((luma[192, 50], luma[192, 160]), (LEFT, RIGHT))
        compositor.close()

    def test_space_around_and_round_corners_show_what_is_behind(self):
        luma = self.drawn(Framing(colour="#ffffff", padding=0.2, rounded=0.3))
        view = framed(Framing(padding=0.2, rounded=0.3), (320, 180), (216, 384))
        window = view.window
        assert window
        self.assertAlmostEqual(window.width, 0.8 * 216, delta=2)
        self.assertAlmostEqual(luma[192, window.x - 3], GROUND, delta=1)
        self.assertAlmostEqual(luma[window.y, window.x], GROUND, delta=1)
        self.assertEqual(luma[192, window.x + 1], LEFT)
        self.assertEqual(luma[window.y + 1, window.x + window.width // 4], LEFT)


class TowardsTheFace(FramingCase):
    def test_a_punch_in_goes_towards_whoever_is_seen_and_the_face_stays_where_it_is(self):
        faces = two_faces(0.3, 0.3)
        faces = faces.model_copy(update={"tracks": faces.tracks[:1]})
        for framing in (Framing(), Framing(mode="fill"), Framing(mode="speaker"), Framing(mirrored=True)):
            plans = [
                self.plan(framing, OUTLETS["tall"], *more, faces=faces)
                for more in ((), (Layer(id="l2", content=Punch(amount=1.5, toward="the face")),))
            ]
            with self.subTest(framing=framing.label()):
                before, after = (self.face_at(plan.picture[0]) for plan in plans)
                self.assertAlmostEqual(plans[1].picture[0].place[0].width, 1.5 * plans[0].picture[0].place[0].width)
                inside = tuple(min(max(at, 0), most) for at, most in zip(before, (1080, 1920), strict=True))
                if before == inside:
                    self.assertAlmostEqual(after[0], before[0], delta=1)
                    self.assertAlmostEqual(after[1], before[1], delta=1)
                else:
                    self.assertEqual(framing.mode, "fill", "the middle alone may leave a face out")

    def face_at(self, layer: PictureLayer) -> tuple[float, float]:
        """Where in the output the face at 0.3, 0.42 of the recording is."""
        place, crop = place_at(layer.place, 0), layer.crop
        assert crop
        scale = place.width / crop.width * (-1 if layer.mirrored else 1)
        across = place.x + (0.3 * 1920 - crop.x - crop.width / 2) * scale
        return across, place.y + (0.42 * 1080 - crop.y - crop.height / 2) * abs(scale)

    def test_without_a_face_it_goes_towards_its_point(self):
        punch = Punch(amount=1.5, toward="the face", across=0.5, down=0.5)
        (layer,) = self.plan(Framing(), OUTLETS["tall"], Layer(id="l2", content=punch)).picture
        self.assertEqual((layer.place[0].x, layer.place[0].y), (540, 960))
