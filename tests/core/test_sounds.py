"""Music and sounds beside the speech: how loud, how long, looped, in and out."""

import itertools
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from hovvet.core.captions.style import caption_style
from hovvet.core.compile.contents.sound import CROSS
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, planned, staged
from hovvet.core.compile.target import Target
from hovvet.core.media.info import MediaInfo, is_sound
from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import OUTLETS
from hovvet.core.render.mix import mix
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.asking import Around, ToBeats, edit_for
from hovvet.core.sheet.contents.base import Content
from hovvet.core.sheet.contents.slide import Slide
from hovvet.core.sheet.contents.sound import Sound
from hovvet.core.sheet.contents.sticker import Sticker
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.edits import CutWords, EditError
from hovvet.core.sheet.model import Layer, Piece, Run, Sheet, Span, WordRef
from hovvet.core.sound.beats import Beats, find_beats
from hovvet.core.view.rows import Bar, bars, rows
from hovvet.core.view.shown import used
from tests.made_music import track
from tests.media import even_words

TARGET = Target(OUTLETS["tall"], texts=False)
RATE = 48_000


class Sounds(unittest.TestCase):
    def setUp(self) -> None:
        self.sources = {
            "r": Source(even_words(40), MediaInfo(duration=17, has_picture=False, has_sound=True, lufs=-20)),
            "m": Source(even_words(1), MediaInfo(duration=3, has_picture=False, has_sound=True, lufs=-26)),
        }

    def laid(self, sound: Content, start: float | None = 2.0, end: float = 10.0) -> Plan:
        span = Span() if start is None else Span(runs=(Run(origin="p1", start=start, end=end),))
        self.sheet = Sheet(
            pieces=(Piece(id="p1", recording="r", start=0.0, end=16.0),),
            layers=(Layer(id="l1", span=span, content=sound),),
        )
        return compile(self.sheet, self.sources, TARGET)

    def test_what_is_heard_is_used_as_what_is_seen_is(self):
        plan = self.laid(Sound(media="m", start=0), 2.0, 10.0)
        first = next(layer.sample for layer in plan.sound if layer.media == "m")
        self.assertEqual(used(plan), {"r": 0, "m": plan.rate.frame_at(first / RATE)})

    def bars(self) -> list[Bar]:
        scene = staged(self.sheet, self.sources, TARGET)
        return bars(self.sheet, scene, rows(self.sheet, scene))

    def note(self) -> str:
        (bar,) = self.bars()
        return bar.note

    @given(st.floats(0.5, 9), st.floats(0, 2.9), st.booleans(), st.sampled_from(["with its words", "when it is over"]))
    @settings(max_examples=60)
    def test_it_is_heard_from_its_words_on_and_never_beyond_the_clip(self, seconds, start, again, ends):
        plan = self.laid(Sound(media="m", start=start, loop=again, ends=ends), 4.0, 4.0 + seconds)
        own = [layer for layer in plan.sound if layer.media == "m"]
        scene = staged(self.sheet, self.sources, TARGET)
        reach = scene.reach(self.sheet.layers[0].span)
        if reach is None or not own:
            return
        first, last = plan.rate.sample(reach.first), plan.rate.sample(reach.last)
        self.assertEqual(own[0].sample, first)
        self.assertTrue(all(each.source_sample + each.samples <= 3 * RATE for each in own))
        end = own[-1].sample + own[-1].samples
        self.assertLessEqual(end, plan.samples)
        there = 3 * RATE - own[0].source_sample
        if ends == "when it is over":
            self.assertEqual((len(own), end), (1, min(first + there, plan.samples)))
        elif again:
            self.assertLessEqual(last - end, CROSS)
        else:
            self.assertEqual((len(own), end), (1, min(first + there, last)))
        for before, after in itertools.pairwise(own):
            self.assertEqual(before.sample + before.samples - after.sample, before.fade_out)
            self.assertEqual(before.fade_out, after.fade_in)

    def test_it_is_as_loud_as_is_wanted_beside_the_speech_and_comes_and_goes(self):
        plan = self.laid(Sound(media="m", volume=-6.02, fade_in=0.25, fade_out=0.5))
        gains = {layer.media: layer.gain for layer in plan.sound}
        self.assertAlmostEqual(gains["m"] + -26, gains["r"] + -20 - 6.02, delta=0.02)

        def decode(media: str, first: int, count: int) -> np.ndarray:
            return np.full((count, 2), 0.01 if media == "m" else 0.0, np.float32)

        mixed = np.zeros((plan.samples, 2), np.float32)
        mix(plan, decode, mixed)
        own = [layer for layer in plan.sound if layer.media == "m"]
        first, last = own[0].sample, own[-1].sample + own[-1].samples
        loud = 0.01 * 10 ** (gains["m"] / 20)
        heard = np.abs(mixed[:, 0])
        self.assertEqual(float(heard[:first].max()), 0.0)
        self.assertAlmostEqual(float(heard[first + RATE]), loud, delta=loud * 0.01)
        self.assertLess(float(heard[first + 10]), loud * 0.1)
        self.assertLess(float(heard[last - 10]), loud * 0.1)
        self.assertLess(float(heard.max()), loud * 1.5, "two that cross add up to no bump")

    def test_it_travels_and_sleeps_with_its_words_and_lies_under_a_whole_clip(self):
        self.laid(Sound(media="m"))
        gone = tuple(word.id for word in self.sources["r"].transcript.between(1.5, 10.5))
        cut = apply(self.sheet, CutWords(piece="p1", words=gone))
        self.assertEqual({layer.media for layer in compile(cut, self.sources, TARGET).sound}, {"r"})
        plan = self.laid(Sound(media="m"), None)
        own = [layer for layer in plan.sound if layer.media == "m"]
        self.assertEqual(own[0].sample, 0)
        self.assertLessEqual(plan.samples - own[-1].sample - own[-1].samples, CROSS)

    def test_what_is_missing_is_told(self):
        for media, told in (("", "Choose what"), ("x", "deleted"), ("m", "")):
            plan = self.laid(Sound(media=media))
            self.assertTrue(self.note().startswith(told) if told != "deleted" else told in self.note())
            self.assertEqual(any(layer.media == "m" for layer in plan.sound), media == "m")
        self.laid(Sound(media="m", loop=False))
        self.assertIn("It lasts 3.0 of these", self.note())
        self.sources["m"] = Source(even_words(1), MediaInfo(duration=3, has_picture=True, has_sound=False))
        self.laid(Sound(media="m"))
        self.assertIn("no sound", self.note())

    def test_what_comes_on_screen_with_a_sound_takes_it_along(self):
        for content in (
            Title(text="Now", effect="m", effect_volume=-3),
            Sticker(media="s", effect="m"),
            Slide(text="a", effect="m"),
        ):
            plan = self.laid(content, 4.0, 8.0)
            (own,) = [layer for layer in plan.sound if layer.media == "m"]
            first = next(bar.start for bar in self.bars())
            self.assertEqual((own.bus, own.sample, own.samples), ("effect", round(first * RATE), 3 * RATE))
            self.assertEqual(own.gain, round(-14 + 26 + content.effect_volume, 2))
            cut = apply(self.sheet, CutWords(piece="p1", words=(0, 1, 2)))
            (moved,) = [layer for layer in compile(cut, self.sources, TARGET).sound if layer.media == "m"]
            self.assertLess(moved.sample, own.sample)
        self.laid(Title(text="Now", effect="gone"), 4.0, 8.0)
        self.assertIn("entrance", self.note())

    def test_an_effect_waits_for_the_first_caption(self):
        sound = Sound(media="m", ends="when it is over", begins="with the first caption")
        plan = self.laid(sound, None)
        self.assertEqual([layer.sample for layer in plan.sound if layer.media == "m"], [0])
        spoken = compile(self.sheet, self.sources, Target(OUTLETS["tall"], caption_style("bold")))
        (own,) = [layer for layer in spoken.sound if layer.media == "m"]
        self.assertAlmostEqual(own.sample / RATE, spoken.captions[0].first / spoken.rate.fps, delta=0.05)

    def test_files_of_sound_are_known_by_their_names(self):
        self.assertEqual(
            [is_sound(name) for name in ("a.MP3", "b.wav", "c.mp4", "wav", "d")], [True, True, False, True, False]
        )


class Looped(unittest.TestCase):
    def test_music_goes_round_at_a_bar_and_its_beats_go_on(self):
        music = track(100, 12)
        beats = find_beats(music.sound)
        heard = MediaInfo(duration=60, has_picture=False, has_sound=True, lufs=-20)
        own = MediaInfo(duration=12, has_picture=False, has_sound=True, lufs=-20)
        sources = {"r": Source(even_words(140), heard), "m": Source(even_words(1), own, beats=beats)}
        piece = Piece(id="p1", recording="r", start=0.0, end=40.0)
        sheet = Sheet(pieces=(piece,), layers=(Layer(id="l1", span=Span(), content=Sound(media="m")),))
        runs = [layer for layer in compile(sheet, sources, TARGET).sound if layer.media == "m"]
        self.assertGreater(len(runs), 3)
        bars = np.array(beats.times[beats.first :: 4])
        for before, after in itertools.pairwise(runs):
            middle = after.sample + after.fade_in // 2
            self.assertEqual(middle, before.sample + before.samples - before.fade_out // 2)
            left = (before.source_sample + middle - before.sample) / RATE
            back = (after.source_sample + after.fade_in // 2) / RATE
            for at in (left, back):
                self.assertLess(np.abs(bars - at).min(), 1e-3)
            self.assertGreater(left, back)
        last = runs[-1]
        self.assertEqual(last.sample + last.samples, 40 * RATE)


class OnBeats(unittest.TestCase):
    def setUp(self) -> None:
        music = track(100, 40)
        self.beats = find_beats(music.sound)
        heard = MediaInfo(duration=60, has_picture=False, has_sound=True, lufs=-20)
        own = MediaInfo(duration=40, has_picture=False, has_sound=True, lufs=-20)
        self.sources = {"r": Source(even_words(140), heard), "m": Source(even_words(1), own, beats=self.beats)}

    def scene(self, *layers: Layer):
        piece = Piece(id="p1", recording="r", start=0.0, end=30.0)
        self.sheet = Sheet(pieces=(piece,), layers=layers)
        scene = staged(self.sheet, self.sources, TARGET)
        planned(scene, TARGET)
        return scene

    def test_beats_are_where_the_music_has_them_also_where_it_is_stretched(self):
        scene = self.scene(Layer(id="m", span=Span(), content=Sound(media="m", start=5.0)))
        expected = [at - 5 for at in self.beats.times if 5 <= at < 35]
        np.testing.assert_allclose(scene.beats, expected, atol=2e-3)
        fitted = self.scene(Layer(id="m", span=Span(), content=Sound(media="m", ends="fitted")))
        apart = np.diff(fitted.beats)
        self.assertLess(np.abs(apart / np.median(apart) - 1).max(), 0.1)
        self.assertEqual(self.scene().beats, ())

    def test_edges_of_pictures_go_to_the_nearest_beats_and_words_stay(self):
        over = lambda start, end: Span(runs=(Run(origin="p1", start=start, end=end),))  # noqa: E731
        music = Layer(id="m", span=Span(), content=Sound(media="m"))
        layers = [
            Layer(id="t1", span=over(3.0, 6.0), content=Title(text="a")),
            Layer(id="t2", span=over(9.0, 12.0), content=Title(text="b")),
        ]
        effect = Layer(id="e", span=over(9.0, 12.0), content=Sound(media="m", ends="when it is over"))
        scene = self.scene(music, *layers, effect)
        rate = scene.timeline.rate
        edges = {each.layer: (rate.seconds(each.first), rate.seconds(each.last)) for each in scene.laid}
        around = Around({"r": self.sources["r"].transcript}, rate, {}, scene.beats, edges)
        moved = apply(
            self.sheet,
            edit_for(
                ToBeats(first=WordRef(origin="p1", word=7), last=WordRef(origin="p1", word=9)), self.sheet, around
            ),
        )
        self.assertEqual(
            [each.id for each, was in zip(moved.layers, self.sheet.layers, strict=True) if each != was], ["t1"]
        )
        self.assertEqual(moved.pieces, self.sheet.pieces)
        one = apply(self.sheet, edit_for(ToBeats(layer="e"), self.sheet, around))
        self.assertEqual(
            [each.id for each, was in zip(one.layers, self.sheet.layers, strict=True) if each != was], ["e"]
        )
        everything = apply(self.sheet, edit_for(ToBeats(), self.sheet, around))
        after = staged(everything, self.sources, TARGET)
        for each in after.laid:
            if each.layer in ("t1", "t2"):
                for frame in (each.first, each.last):
                    self.assertLessEqual(
                        min(abs(beat - rate.seconds(frame)) for beat in scene.beats), 0.5 / rate.fps + 1e-3
                    )
        with self.assertRaises(EditError):
            edit_for(ToBeats(), self.sheet, Around(around.transcripts, rate, {}))


class Fitted(unittest.TestCase):
    """Music that ends with the clip: parts of it, one after the other, over all of its words."""

    MUSIC = MediaInfo(duration=62, has_picture=False, has_sound=True, lufs=-20)

    def plan(self, seconds: float, beats: Beats | None) -> tuple[Plan, str]:
        sheet = Sheet(
            pieces=(Piece(id="p1", recording="r", start=0.0, end=seconds),),
            layers=(Layer(id="l1", content=Sound(media="m", ends="fitted", fade_in=0.0)),),
        )
        sources = {
            "r": Source(even_words(200), MediaInfo(duration=81, has_picture=False, has_sound=True, lufs=-20)),
            "m": Source(even_words(1), self.MUSIC, beats=beats),
        }
        scene = staged(sheet, sources, TARGET)
        (bar,) = bars(sheet, scene, rows(sheet, scene))
        return compile(sheet, sources, TARGET), bar.note

    def test_it_is_over_with_the_clip_and_each_part_begins_where_the_last_is_over(self):
        beats = find_beats(track(104, 60).sound)
        for seconds in (20.0, 41.0, 75.0):
            plan, note = self.plan(seconds, beats)
            music = [layer for layer in plan.sound if layer.bus == "music"]
            self.assertEqual(note, "")
            self.assertGreater(len(music), 1)
            self.assertEqual((music[0].sample, music[-1].sample + music[-1].samples), (0, plan.samples))
            for before, after in itertools.pairwise(music):
                self.assertEqual(before.sample + before.samples - after.sample, CROSS)
                self.assertEqual((before.fade_out, after.fade_in), (CROSS, CROSS))
            made = {each.media: each for each in plan.prepared}
            last = (
                made[music[-1].media].knots[-1][1]
                if music[-1].media in made
                else music[-1].source_sample + music[-1].samples
            )
            self.assertAlmostEqual(last / RATE, beats.ends, delta=0.01, msg="its own ending")

    def test_without_a_beat_it_fades_and_says_so(self):
        for beats in (None, Beats(ends=60.0)):
            plan, note = self.plan(20.0, beats)
            self.assertIn("No beat was found", note)
            (music,) = (layer for layer in plan.sound if layer.bus == "music")
            self.assertEqual((music.samples, music.fade_out), (plan.samples, round(0.4 * RATE)))
