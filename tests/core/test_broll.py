"""Pictures over words: what of them is seen when, how stills move, what is told where something is missing."""

import itertools
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from hovvet.core.compile.covering import CLOSER, parts_of, shown, view_of
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, staged
from hovvet.core.compile.target import Target
from hovvet.core.media.info import NO_MEDIA, MediaInfo
from hovvet.core.media.probe import probe
from hovvet.core.plan.knots import place_at, source_frame
from hovvet.core.plan.model import Plan, Still, Video
from hovvet.core.plan.outlets import OUTLETS, Outlet
from hovvet.core.render.chunks import chunks
from hovvet.core.render.compositor import Compositor
from hovvet.core.render.mix import mix
from hovvet.core.render.sources import Original
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.asking import Around, Lay, Move, edit_for
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.sheet.contents.look import Look
from hovvet.core.sheet.edits import CutWords
from hovvet.core.sheet.model import Piece, Sheet, WordRef
from hovvet.core.time import Rate
from hovvet.core.view.rows import bars, rows
from tests.media import LEVELS, ScratchCase, counted, even_words

TALL = OUTLETS["tall"]
SMALL = Outlet(key="small", name="Small", width=216, height=384, longest=60, safe=(10, 10, 10, 60))
TALK = even_words(40)
SHORT = ("held", "slowed down", "looped", "as long as it lasts")
MOVES = ("stands still", "comes closer", "goes away", "to the right", "to the left", "from part to part")


class Shown(unittest.TestCase):
    @given(st.sampled_from(SHORT), st.floats(0, 30), st.floats(0.5, 30), st.integers(0, 900), st.integers(1, 900))
    def test_every_frame_shows_one_that_there_is(self, short, start, length, first, frames):
        last = first + frames
        parts = [*shown(Broll(media="b", start=start, short=short), length, 30, first, last)]
        self.assertEqual(parts[0][0], first)
        self.assertTrue(all(a[1] == b[0] for a, b in itertools.pairwise(parts)), "one after the other")
        there = int(length * 30) + 1
        seen = [source_frame(knots, frame) for a, b, knots in parts for frame in range(a, b)]
        self.assertTrue(all(0 <= frame <= there for frame in seen))
        if short != "as long as it lasts":
            self.assertEqual(len(seen), frames)
        begins = min(start, max(length - 1 / 30, 0)) * 30
        self.assertAlmostEqual(seen[0], begins, delta=1)
        if short in ("held", "slowed down", "as long as it lasts"):
            self.assertEqual(seen, sorted(seen))

    def test_where_it_is_shorter_it_does_what_the_person_chose(self):
        def seen(short: str) -> list[int]:
            parts = shown(Broll(media="b", start=1.0, short=short), 2.0, 30, 0, 75)
            return [source_frame(knots, frame) for a, b, knots in parts for frame in range(a, b)]

        self.assertEqual(seen("held"), [*range(30, 60), *([59] * 45)])
        self.assertEqual(seen("as long as it lasts"), [*range(30, 60)])
        self.assertEqual(seen("looped"), [*range(30, 60), *range(30, 60), *range(30, 45)])
        self.assertEqual((seen("slowed down")[0], seen("slowed down")[-1]), (30, 60))


class Stills(unittest.TestCase):
    @given(
        st.sampled_from(MOVES), st.integers(16, 4000), st.integers(16, 4000), st.floats(0, 1), st.floats(0, 1),
        st.sampled_from([*OUTLETS.values()]),
    )  # fmt: skip
    def test_they_always_cover_the_frame(self, move, width, height, across, down, where):
        width, height = width // 2 * 2, height // 2 * 2
        ends = {"from_across": down, "from_size": 0.2 + 0.8 * across, "to_down": across, "to_across": down}
        broll = Broll(media="b", move=move, across=across, down=down, **ends)
        view = view_of(broll, (width, height), (where.width, where.height), 10, 100, is_still=True)
        for frame in range(10, 100, 7):
            place = place_at(view.place, frame)
            high = place.width * view.crop.height / view.crop.width
            # A crop has whole even pixels, so its shape may be off by a few of them.
            slack = 6 * place.width / view.crop.width
            self.assertLessEqual(place.x - place.width / 2, slack)
            self.assertGreaterEqual(place.x + place.width / 2, where.width - slack)
            self.assertLessEqual(place.y - high / 2, slack)
            self.assertGreaterEqual(place.y + high / 2, where.height - slack)

    @given(
        st.sampled_from(["top left", "top right", "bottom left", "bottom right"]), st.floats(0.15, 0.9),
        st.integers(16, 4000), st.integers(16, 4000), st.sampled_from([*OUTLETS.values()]),
    )  # fmt: skip
    def test_in_a_corner_they_are_inside_the_safe_area_and_fill_their_window(self, corner, small, width, height, where):
        size = width // 2 * 2, height // 2 * 2
        broll = Broll(media="b", fit="in a corner", corner=corner, small=small)
        view = view_of(broll, size, (where.width, where.height), 0, 9, is_still=False, safe=where.safe)
        left, top, right, bottom = where.safe
        window = view.window
        self.assertTrue(left - 2 <= window.x and window.x + window.width <= where.width - right)
        self.assertTrue(top - 2 <= window.y and window.y + window.height <= where.height - bottom)
        self.assertLessEqual(window.width, small * where.width)
        (place,) = view.place
        self.assertEqual(place.x, window.x + window.width / 2)
        self.assertGreaterEqual(place.width, window.width)
        self.assertGreaterEqual(place.width * view.crop.height / view.crop.width, window.height * 0.98 - 1)

    def test_two_halves_are_the_whole_frame(self):
        for where in OUTLETS.values():
            output = where.width, where.height
            halves = [
                view_of(Broll(media="b", fit=fit), (1920, 1080), output, 0, 9, is_still=False).window
                for fit in ("upper or left half", "lower or right half")
            ]
            self.assertEqual(sum(each.width * each.height for each in halves), where.width * where.height)
            a, b = halves
            self.assertTrue((b.x, b.y) == ((a.width, 0) if where.width > where.height else (0, a.height)))
            self.assertFalse(any(value % 2 for each in halves for value in (each.x, each.y, each.width, each.height)))

    @given(st.floats(0, 1), st.floats(0, 1), st.floats(0.2, 1), st.sampled_from([*OUTLETS.values()]))
    def test_they_begin_and_end_with_the_parts_that_were_drawn(self, across, down, size, where):
        broll = Broll(media="b", move="from part to part", to_across=across, to_down=down, to_size=size)
        picture, output = (2000, 1200), (where.width, where.height)
        view = view_of(broll, picture, output, 10, 100, is_still=True)
        for frame, (x, y, width) in zip((10, 99), parts_of(broll, picture, output), strict=True):
            place = place_at(view.place, frame)
            scale = place.width / picture[0]
            self.assertAlmostEqual(output[0] / scale, width, delta=0.01)
            self.assertAlmostEqual(picture[0] / 2 + (output[0] / 2 - place.x) / scale, x, delta=0.01)
            self.assertAlmostEqual(picture[1] / 2 + (output[1] / 2 - place.y) / scale, y, delta=0.01)
        last = parts_of(broll, picture, output)[1]
        if last.width / 2 < across * picture[0] < picture[0] - last.width / 2:
            self.assertAlmostEqual(last.x, across * picture[0])

    def test_they_come_closer_and_go_away(self):
        for move, first, last in (("comes closer", 1, CLOSER), ("goes away", CLOSER, 1)):
            view = view_of(Broll(media="b", move=move), (1920, 1080), (1080, 1920), 0, 90, is_still=True)
            usual = 1920 * 1920 / 1080
            self.assertAlmostEqual(place_at(view.place, 0).width / usual, first, places=3)
            self.assertAlmostEqual(place_at(view.place, 89).width / usual, last, places=3)


class OnTheSheet(ScratchCase):
    def setUp(self) -> None:
        super().setUp()
        self.files = {name: counted(self.scratch / f"{name}.mp4", seconds) for name, seconds in (("r1", 17), ("b1", 4))}
        Image.new("RGB", (320, 180), "#c04020").save(self.scratch / "still.png")
        self.originals = {name: Original(path, probe(path), name) for name, path in self.files.items()}
        self.originals["p1"] = Original(self.scratch / "still.png", NO_MEDIA, "p1")
        self.sources = {
            name: Source(TALK if name == "r1" else even_words(2), self.originals[name].media) for name in ("r1", "b1")
        }
        self.sheet = Sheet(pieces=(Piece(id="q1", recording="r1", start=0.0, end=16.0),))

    def lay(self, first: int, last: int, **broll: object) -> Sheet:
        lay = Lay(content=Broll(**broll), first=ref(first), last=ref(last))
        return self.ask(lay)

    def ask(self, ask) -> Sheet:
        self.sheet = apply(self.sheet, edit_for(ask, self.sheet, Around({"r1": TALK}, Rate(), {})))
        return self.sheet

    def plan(self) -> Plan:
        return compile(self.sheet, self.sources, self.target())

    def target(self) -> Target:
        return Target(SMALL, texts=False, pictures={"p1": (320, 180)})

    def notes(self) -> list[str]:
        scene = staged(self.sheet, self.sources, self.target())
        return [bar.note for bar in bars(self.sheet, scene, rows(self.sheet, scene))]

    def luma(self, plan: Plan, frames: list[int]) -> list[float]:
        compositor, found = Compositor(plan, self.originals), []
        for frame in frames:
            found.append(float(compositor.frame(frame)[0][150:230, 60:150].mean()))
        compositor.close()
        return found

    def test_a_recording_is_seen_over_its_words_alone_from_where_it_was_chosen(self):
        self.lay(5, 9, media="b1", start=1.0)
        plan = self.plan()
        layer = plan.picture[-1]
        self.assertEqual((plan.recordings, layer.source.media), (("r1", "b1"), "b1"))
        begins, ends = TALK.words[4].start, TALK.words[8].end
        self.assertAlmostEqual(layer.first / 30, begins, delta=0.06)
        self.assertAlmostEqual(layer.last / 30, ends, delta=0.06)
        frames = [layer.first - 2, layer.first + 3, layer.last - 2, layer.last + 1]
        base = plan.picture[0].source
        wanted = [
            source_frame(base.knots, frames[0]),
            33,
            30 + frames[2] - layer.first,
            source_frame(base.knots, frames[3]),
        ]
        for seen, number in zip(self.luma(plan, frames), wanted, strict=True):
            self.assertAlmostEqual(seen, 16 + 9 * (number % LEVELS), delta=2)
        self.assertEqual({each.media for each in plan.sound}, {"r1"}, "its own sound is not heard")

    def test_its_colours_are_its_own_and_those_of_who_speaks_stay(self):
        self.lay(5, 14, media="p1", move="stands still")
        self.ask(Lay(content=Look(exposure=1), first=ref(1), last=ref(30)))
        self.ask(Lay(content=Look(of="pictures over words", saturation=-1), first=ref(8), last=ref(20)))
        plan = self.plan()
        base = [layer.look for layer in plan.picture if isinstance(layer.source, Video)]
        first, second = (layer for layer in plan.picture if isinstance(layer.source, Still))
        self.assertEqual({look.exposure for look in base if look}, {1.0})
        self.assertEqual((first.look, second.look.saturation, first.last), (None, -1.0, second.first))
        compositor = Compositor(plan, self.originals)
        chroma = [float(compositor.frame(each.first + 2)[1].mean()) for each in (first, second)]
        compositor.close()
        self.assertGreater(abs(chroma[0] - 128), 10)
        self.assertAlmostEqual(chroma[1], 128, delta=1, msg="without colour, as it was asked for")
        self.assertEqual(self.notes()[1:], ["", ""])
        self.ask(Lay(content=Look(of="pictures over words", contrast=1), first=ref(8), last=ref(20)))
        self.assertEqual(len(self.sheet.layers), 3, "it takes the place of its like, not of the other")
        self.ask(Lay(content=Look(of="pictures over words"), first=ref(34), last=ref(36)))
        self.assertIn("No picture is laid over these words", self.notes()[-1])

    def test_it_travels_with_its_words_sleeps_with_them_and_draws_little_anew(self):
        self.lay(20, 24, media="p1", move="stands still")
        before = self.plan()
        (still,) = [layer for layer in before.picture if isinstance(layer.source, Still)]
        self.assertEqual((before.assets, before.recordings), (("p1",), ("r1",)))
        middle = (still.first + still.last) // 2
        red = 0.2126 * 0xC0 + 0.7152 * 0x40 + 0.0722 * 0x20
        self.assertAlmostEqual(self.luma(before, [middle])[0], 16 + red * 219 / 255, delta=2)
        self.ask(Move(first=ref(20), last=ref(24), before=ref(1)))
        moved = self.plan()
        self.assertLess(next(layer for layer in moved.picture if isinstance(layer.source, Still)).first, 20)
        known = {chunk.key for chunk in chunks(before, str, "e")}
        self.lay(20, 24, media="p1", move="comes closer")
        self.sheet = apply(self.sheet, CutWords(piece=self.sheet.pieces[0].id, words=(20, 21, 22, 23, 24)))
        self.assertEqual(self.plan().assets, ())
        self.assertTrue(known)

    def test_its_own_sound_is_heard_where_it_runs_at_its_own_speed_and_as_loud_as_wanted(self):
        self.lay(5, 9, media="b1", start=1.0, volume=-6.02)
        plan = self.plan()
        (own,) = [each for each in plan.sound if each.media == "b1"]
        over = plan.picture[-1]
        self.assertEqual((own.sample, own.source_sample, own.bus), (over.first * 1600, 48_000, "effect"))
        self.assertEqual(own.samples, (over.last - over.first) * 1600)
        self.assertAlmostEqual(own.gain - next(each for each in plan.sound if each.media == "r1").gain, -6.02, places=1)

        def decode(media: str, first: int, count: int) -> np.ndarray:
            """A tone of its own for what is laid over, silence for what is said."""
            tone = np.sin(2 * np.pi * 1000 * (first + np.arange(count)) / 48_000) * (media == "b1") * 0.1
            return np.repeat(tone[:, None], 2, axis=1).astype(np.float32)

        mixed = np.zeros((plan.samples, 2), np.float32)
        mix(plan, decode, mixed)
        heard = mixed[:, 0]
        amid = heard[own.sample + own.fade_in : own.sample + own.samples - own.fade_out]
        self.assertLess(np.abs(heard[: own.sample]).max(), 1e-6)
        self.assertAlmostEqual(float(np.sqrt(2 * np.mean(amid**2))), 0.1 * 10 ** (own.gain / 20), delta=0.002)
        self.sheet = self.sheet.model_copy(update={"layers": ()})
        self.lay(5, 20, media="b1", start=1.0, volume=-6.02, short="slowed down")
        self.assertEqual({each.media for each in self.plan().sound}, {"r1"})
        self.assertIn("its sound is not heard", self.notes()[0])

    def test_between_two_that_follow_soon_nothing_flickers_up(self):
        self.lay(5, 9, media="p1", move="stands still")
        self.lay(10, 14, media="b1", short="held")
        self.lay(20, 24, media="p1", move="stands still")
        over = self.plan().picture[1:]
        self.assertEqual(over[0].last, over[1].first, "held until the next begins")
        self.assertLess(over[-2].last, over[-1].first, "but not over what is seen for long")

    def test_what_is_missing_or_too_short_is_told(self):
        self.lay(1, 20, media="b1", start=1.0)
        self.assertIn("It lasts 3.0 of these", self.notes()[0])
        self.assertIn("held", self.notes()[0])
        self.lay(1, 20, media="b1", short="as long as it lasts")
        self.assertIn("seen only as long", self.notes()[0])
        for media, told in (("", "Choose what"), ("gone", "deleted"), ("p1", ""), ("b1", "It lasts")):
            self.lay(1, 20, media=media)
            self.assertEqual(len(self.sheet.layers), 1, "swapped in its place")
            self.assertTrue(
                self.notes()[0].startswith(told) if not told or told == "Choose what" else told in self.notes()[0]
            )
        self.sources["b1"] = Source(even_words(2), MediaInfo(duration=4, has_picture=False, has_sound=True))
        self.assertIn("no picture", self.notes()[0])
        self.assertEqual(len(self.plan().picture), 1)

    def test_a_moving_still_is_drawn_where_its_knots_say(self):
        half = Image.new("RGB", (320, 180), "#000000")
        half.paste("#ffffff", (160, 0, 320, 180))
        half.save(self.scratch / "still.png")
        self.lay(5, 20, media="p1", move="to the right")
        plan = self.plan()
        (layer,) = [each for each in plan.picture if isinstance(each.source, Still)]
        compositor = Compositor(plan, self.originals)
        seen = [float(compositor.frame(frame)[0].mean()) for frame in (layer.first, layer.last - 1)]
        edge = compositor.frame((layer.first + layer.last) // 2)[0][190]
        compositor.close()
        self.assertTrue(seen[0] < 30 and seen[1] > 220, seen)
        self.assertAlmostEqual(int(np.argmax(edge > 120)), 108, delta=8)


def ref(word: int) -> WordRef:
    return WordRef(origin="q1", word=word)
