"""Captions: where they break, when they show, and that the renderer draws them where we think."""

import itertools
import random
import subprocess
import unittest

import cv2
import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from hovvet.core.captions.ass import caption_script
from hovvet.core.captions.fonts import CAPTION_FONTS, FALLBACK, FONTS
from hovvet.core.captions.lay_out import OPENING, lay_out_captions
from hovvet.core.captions.layout import LAYOUTS, USUAL, CaptionLayout
from hovvet.core.captions.metrics import covers, unwritten, width
from hovvet.core.captions.phrases import break_phrases
from hovvet.core.captions.style import STYLES, Box, CaptionStyle, Entrance, Spoken, caption_style
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile
from hovvet.core.compile.target import Target
from hovvet.core.formats.subtitles import subtitles
from hovvet.core.media.info import MediaInfo
from hovvet.core.plan.model import Caption, Plan, PlanWord
from hovvet.core.plan.outlets import OUTLETS, Outlet, outlet
from hovvet.core.render.chunks import TEXT_FROM, text_time
from hovvet.core.render.colour import yuv_of
from hovvet.core.render.compositor import Frame
from hovvet.core.render.text import Text
from hovvet.core.sheet.starting import desk_sheet
from hovvet.core.time import Rate
from tests.media import ScratchCase, demo_transcript

RATE = Rate()
BOLD = caption_style("bold")


def plan_words(*said: tuple[str, float, float]) -> list[PlanWord]:
    return [PlanWord(id=n + 1, piece="p1", text=text, start=a, end=b) for n, (text, a, b) in enumerate(said)]


@st.composite
def speech(draw) -> list[PlanWord]:
    at, words = 0.0, []
    texts = st.from_regex(r"[a-z]{1,14}[,.]?", fullmatch=True)
    for text, gap, length in draw(
        st.lists(st.tuples(texts, st.integers(0, 900), st.integers(40, 700)), min_size=1, max_size=60)
    ):
        start = at + gap / 1000
        at = start + length / 1000
        words.append((text, start, at))
    return plan_words(*words)


@st.composite
def layouts(draw) -> CaptionLayout:
    shortest = draw(st.floats(0.1, 3))
    return CaptionLayout(
        characters=draw(st.integers(8, 60)), lines=draw(st.integers(1, 3)), words=draw(st.integers(1, 24)),
        shortest=shortest, longest=draw(st.floats(max(shortest, 1), 10)), linger=draw(st.floats(0, 3)),
        flicker=draw(st.floats(0, 1)),
    )  # fmt: skip


class Layout(unittest.TestCase):
    @given(speech())
    def test_every_word_stands_in_exactly_one_caption_in_order(self, words):
        groups = break_phrases(words)
        self.assertEqual([n for first, end in groups for n in range(first, end)], list(range(len(words))))

    @given(speech(), st.one_of(st.sampled_from([*LAYOUTS.values()]), layouts()))
    def test_limits_hold_for_any_speech_and_layout(self, words, layout):
        frames = RATE.frame(words[-1].end + 3)
        captions = lay_out_captions(words, RATE, frames, layout)
        for caption in captions:
            self.assertLessEqual(len(caption.lines), layout.lines)
            self.assertLessEqual(sum(map(len, caption.lines)), layout.words)
            for line in caption.lines:
                text = " ".join(words[n].text for n in line)
                self.assertTrue(len(text) <= layout.characters or len(line) == 1, text)
            first = words[caption.lines[0][0]]
            if caption.first > 0 or first.start > OPENING:
                self.assertGreaterEqual(RATE.seconds(caption.first), first.start - 1e-6, "before its word")
        for one, two in itertools.pairwise(captions):
            gap = RATE.seconds(two.first - one.last)
            self.assertGreaterEqual(gap, 0)
            self.assertFalse(0 < gap < layout.flicker - 1e-6, f"a gap of {gap:.3f} s flickers")
            if two.first > one.last:  # nothing hurried it
                self.assertGreaterEqual(RATE.seconds(one.last - one.first), layout.shortest - 2 / RATE.fps)

    def test_real_speech_gets_captions_that_stay_long_enough(self):
        transcript = demo_transcript()
        words = plan_words(*((w.text, w.start, w.end) for w in transcript.words))
        captions = lay_out_captions(words, RATE, RATE.frame(transcript.duration))
        short = [c for c in captions if RATE.seconds(c.last - c.first) < USUAL.shortest - 1 / RATE.fps]
        self.assertGreater(len(captions), 100)
        self.assertEqual(short, [])

    def test_captions_end_at_punctuation_and_pauses(self):
        words = plan_words(
            ("Nobody", 0, 0.4), ("throws", 0.4, 0.7), ("it", 0.7, 0.8), ("away.", 0.8, 1.2), ("They", 1.9, 2.1), ("mend", 2.1, 2.5), ("it.", 2.5, 2.8)
        )  # fmt: skip
        self.assertEqual(break_phrases(words), [(0, 4), (4, 7)])

    def test_a_clip_opens_with_its_caption(self):
        for start, first in ((0.25, 0), (0.4, 12)):
            captions = lay_out_captions(plan_words(("Nobody", start, start + 0.5)), RATE, 90)
            self.assertEqual(captions[0].first, first, start)

    def test_a_short_word_does_not_stand_alone_where_it_can_join(self):
        said = ("So.", 0, 0.3), ("Nobody", 0.9, 1.3), ("throws", 1.3, 1.7), ("it", 1.7, 1.8), ("away.", 1.8, 2.2)
        self.assertEqual(break_phrases(plan_words(*said)), [(0, 5)])
        trailing = ("Nobody", 0, 0.4), ("throws", 0.4, 0.8), ("it", 0.8, 0.9), ("away.", 0.9, 1.3), ("No.", 2.0, 2.3)
        self.assertEqual(break_phrases(plan_words(*trailing)), [(0, 5)])
        far = ("So.", 0, 0.3), ("Nobody", 2.5, 2.9), ("throws", 2.9, 3.3)
        self.assertEqual(break_phrases(plan_words(*far)), [(0, 1), (1, 3)])


class Script(unittest.TestCase):
    def test_text_that_looks_like_a_tag_is_drawn_as_text(self):
        words = plan_words((r"{\an8}x\Ny", 0, 1))
        script = caption_script(lay_out_captions(words, RATE, 60), words, RATE, outlet("tall"), BOLD)
        spoken = next(line for line in script.splitlines() if line.startswith("Dialogue"))
        self.assertNotIn(r"\an8}", spoken)
        self.assertNotIn(r"\Ny", spoken)

    def test_letters_missing_from_the_font_are_drawn_by_the_fallback(self):
        self.assertFalse(covers("Ωμέγα", BOLD.face.file))
        files = BOLD.face.file, FALLBACK.file
        self.assertEqual(
            unwritten(("Ωμέγα", "a b", "tea ☕\ufe0f 茶", "☕"), *files), "☕茶", "each once, joiners are none"
        )
        words = plan_words(("Ωμέγα", 0, 1))
        script = caption_script(lay_out_captions(words, RATE, 60), words, RATE, outlet("tall"), BOLD)
        self.assertIn(r"{\fnHovvet Fallback}Ωμέγα", script)

    def test_a_mark_lies_on_each_word_in_turn(self):
        words = plan_words(("one", 0, 0.5), ("two", 0.5, 1.0))
        script = caption_script(lay_out_captions(words, RATE, 60), words, RATE, outlet("tall"), BOLD)
        lines = [line for line in script.splitlines() if line.startswith("Dialogue")]
        self.assertEqual(len(lines), 2, "each word is an event")
        for frame in (0, 14, 15, 44):
            with self.subTest(frame=frame):
                self.assertEqual(self.marked(script, frame), "one" if frame < 15 else "two")

    def marked(self, script: str, frame: int) -> str:
        """Which half of the caption has the spoken word's colour in a frame."""
        drawn = Frame(1080, 1920)
        for plane, value in zip(drawn.planes, (16, 128, 128), strict=True):
            plane[:] = value
        text = Text(script, 1080, 1920)
        text.draw(drawn.planes, text_time(frame, RATE) - TEXT_FROM)
        text.close()
        blue = np.abs(drawn.planes[1].astype(int) - yuv_of(BOLD.spoken.colour)[1]) < 4
        columns = np.flatnonzero(blue.any(axis=0))
        self.assertGreater(len(columns), 10)
        return "one" if columns.mean() < 270 else "two"

    def test_the_word_spoken_comes_out_in_its_colour_as_bt709_has_it(self):
        words = (PlanWord(id=1, piece="p1", text="MMMM", start=0.0, end=1.0),)
        script = caption_script((Caption(lines=((0,),), first=0, last=30),), words, RATE, outlet("tall"), BOLD)
        frame = Frame(1080, 1920)
        for plane, value in zip(frame.planes, (16, 128, 128), strict=True):
            plane[:] = value
        text = Text(script, 1080, 1920)
        text.draw(frame.planes, 500)
        text.close()
        y, u, v = frame.planes
        inside = cv2.erode((y >= y.max() - 1).astype(np.uint8), np.ones((9, 9), np.uint8))[::2, ::2] > 0
        found = y.max(), np.median(u[inside]), np.median(v[inside])
        for got, wanted in zip(found, yuv_of(BOLD.spoken.colour), strict=True):
            self.assertLessEqual(abs(int(got) - wanted), 1)


class Drawn(ScratchCase):
    def draw(self, script: str, colour: str = "black") -> np.ndarray:
        """One frame of 1080x1920 with the script drawn on it, as grey (height, width)."""
        file = self.scratch / "c.ass"
        file.write_text(script)
        picture = f"color={colour}:s=1080x1920:r=30,format=yuv420p,ass=f={file}:fontsdir={FONTS}"
        command = [
            "ffmpeg",
            "-v",
            "error",
            "-f",
            "lavfi",
            "-i",
            picture,
            "-frames:v",
            "1",
            "-pix_fmt",
            "gray",
            "-f",
            "rawvideo",
            "-",
        ]
        return np.frombuffer(subprocess.run(command, capture_output=True, check=True).stdout, np.uint8).reshape(
            1920, 1080
        )

    def test_lines_are_as_wide_as_measured_and_inside_the_safe_area(self):
        words = plan_words(("Nobody", 0, 0.5), ("throws", 0.5, 1), ("a", 1, 1.1), ("clock", 1.1, 1.5))
        plain = BOLD.model_copy(update={"outline_width": 0, "shadow": 0, "spoken": Spoken(how="none")})
        captions = lay_out_captions(words, RATE, 60)
        seen = self.draw(caption_script(captions, words, RATE, outlet("tall"), plain)) > 100
        columns, lines = np.flatnonzero(seen.any(axis=0)), np.flatnonzero(seen.any(axis=1))
        drawn = columns[-1] - columns[0] + 1
        texts = [" ".join(words[n].text for n in line) for line in captions[0].lines]
        measured = max(width(text, BOLD.face.file, 96) for text in texts)
        self.assertLess(abs(drawn - measured) / measured, 0.04, f"drawn {drawn}, measured {measured:.0f}")
        left, top, right, bottom = outlet("tall").safe
        self.assertGreaterEqual(columns[0], left)
        self.assertLess(columns[-1], 1080 - right)
        self.assertGreaterEqual(lines[0], top)
        self.assertLess(lines[-1], 1920 - bottom + 4)

    def test_the_longest_lines_still_fit(self):
        words = plan_words(*((("W" * 20) + ".", n, n + 0.9) for n in range(2)))
        captions = lay_out_captions(words, RATE, 90)
        seen = self.draw(caption_script(captions, words, RATE, outlet("tall"), BOLD)) > 100
        columns = np.flatnonzero(seen.any(axis=0))
        self.assertGreaterEqual(columns[0], 80)
        self.assertLess(columns[-1], 1000)


class Kept(unittest.TestCase):
    """Everything stays in the safe area, at any moment of any caption."""

    def test_two_hundred_texts_styles_and_outlets(self):
        chance = random.Random(8)
        texts = [word.text for word in demo_transcript().words]
        rooms = [*OUTLETS.values(), Outlet(key="own", name="Own", width=720, height=1280, longest=60)]
        for n in range(200):
            style, where, layout = (
                chance.choice([*STYLES.values()]),
                chance.choice(rooms),
                chance.choice([*LAYOUTS.values()]),
            )
            if n % 3 == 0:
                style = self.changed(style, chance)
            begin = chance.randrange(len(texts) - 8)
            said = [(text, k * 0.3, (k + 1) * 0.3) for k, text in enumerate(texts[begin : begin + 8])]
            words = plan_words(*said)
            captions = lay_out_captions(words, RATE, 90, layout)
            script = caption_script(captions, words, RATE, where, style)
            with self.subTest(n=n, style=style, outlet=where.key):
                self.check(script, where, chance.randrange(captions[-1].last), style)

    def changed(self, style: CaptionStyle, chance: random.Random) -> CaptionStyle:
        """One of a person's own."""
        own = {
            "font": chance.choice([*CAPTION_FONTS]),
            "size": chance.uniform(40, 150),
            "align": chance.choice(["left", "centre", "right"]),
            "height": chance.random(),
            "box": chance.choice([None, Box(behind="line"), Box(padding=0.4)]),
            "entrance": Entrance(how=chance.choice(["none", "fade", "typed"])),
            "turn": 0.0,
        }
        return style.model_copy(update=own)

    def check(self, script: str, where: Outlet, frame: int, style: CaptionStyle) -> None:
        drawn = Frame(where.width, where.height)
        for plane, value in zip(drawn.planes, (126, 128, 128), strict=True):
            plane[:] = value
        text = Text(script, where.width, where.height)
        text.draw(drawn.planes, text_time(frame, RATE) - TEXT_FROM)
        text.close()
        seen = np.abs(drawn.planes[0].astype(int) - 126) > 12
        rows, columns = np.flatnonzero(seen.any(axis=1)), np.flatnonzero(seen.any(axis=0))
        if not len(rows):
            return
        left, top, right, bottom = where.safe
        scale = min(where.width, where.height) / 1080
        # What comes in moves; what is turned and underlined reaches a little further; letters swing past their line.
        moves = {"slide": 1.2, "rise": 0.3, "pop": 0.1}.get(style.entrance.how, 0) * style.size * scale
        slack = 12 * scale + (0.12 * style.size * scale) + moves + abs(style.turn) * 8 * scale
        self.assertGreaterEqual(columns[0], left - slack)
        self.assertLess(columns[-1], where.width - right + slack)
        self.assertGreaterEqual(rows[0], top - slack)
        self.assertLess(rows[-1], where.height - bottom + slack)


class Moving(unittest.TestCase):
    """What a style does in time, seen in drawn frames."""

    def ink(self, style: CaptionStyle, frame: int, late: float = 1.0) -> int:
        """How many pixels of letters a caption has in a frame of it; it begins ``late`` seconds into the clip."""
        said = ("Nobody", 0, 0.5), ("throws", 0.5, 1.0), ("it", 1.0, 1.2), ("away", 1.2, 2.0)
        words = plan_words(*((text, a + late, b + late) for text, a, b in said))
        captions = lay_out_captions(words, RATE, 60 + round(late * 30))
        self.assertEqual(len(captions), 1)
        drawn = Frame(1080, 1080)
        text = Text(caption_script(captions, words, RATE, outlet("square"), style), 1080, 1080)
        text.draw(drawn.planes, text_time(captions[0].first + frame, RATE) - TEXT_FROM)
        text.close()
        return int((drawn.planes[0] > 60).sum())

    def style(self, **own: object) -> CaptionStyle:
        usual = {"outline_width": 0, "shadow": 0, "spoken": Spoken(how="none")}
        return BOLD.model_copy(update=usual | own)

    def test_only_what_was_said_so_far(self):
        style = self.style(spoken=Spoken(how="so far"))
        seen = [self.ink(style, frame) for frame in (0, 14, 15, 30, 36, 59)]
        self.assertEqual(seen[0], seen[1], "nothing comes early")
        self.assertTrue(seen[1] < seen[2] < seen[3] < seen[4] == seen[5], seen)

    def test_letters_are_typed_one_by_one(self):
        style = self.style(entrance=Entrance(how="typed", seconds=0.8))
        seen = [self.ink(style, frame) for frame in range(0, 30, 3)]
        self.assertEqual(seen, sorted(seen))
        self.assertGreater(len(set(seen)), 6)
        whole = self.ink(self.style(), 40)
        self.assertAlmostEqual(self.ink(style, 40), whole, delta=0.01 * whole, msg="and then all is there")

    def test_a_caption_fades_in_and_out(self):
        style = self.style(entrance=Entrance(how="fade", seconds=0.3, leaves=True))
        whole = self.ink(style, 30)
        self.assertLess(self.ink(style, 0), 0.1 * whole)
        self.assertLess(self.ink(style, 59), 0.9 * whole)
        self.assertEqual(self.ink(style, 12), whole)

    def test_the_first_frame_of_a_clip_has_its_caption(self):
        for how in ("fade", "rise", "pop", "slide", "typed"):
            with self.subTest(how=how):
                style = self.style(entrance=Entrance(how=how, seconds=0.5))
                self.assertGreater(self.ink(style, 0, late=0), 0.3 * self.ink(self.style(), 0, late=0))

    def test_the_spoken_word_grows_and_gives_its_size_back(self):
        style = self.style(spoken=Spoken(how="size", colour="#FFFFFF", scale=1.4))
        quiet, large = self.ink(self.style(), 7), self.ink(style, 7)
        self.assertGreater(large, quiet * 1.1)
        self.assertAlmostEqual(self.ink(style, 20), large, delta=0.2 * large)

    def test_a_box_lies_under_the_spoken_word_alone(self):
        none, boxed = self.style(), self.style(spoken=Spoken(how="box", colour="#C2412D"))
        more = [self.ink(boxed, frame) - self.ink(none, frame) for frame in (7, 33)]
        self.assertGreater(more[0], 2 * more[1], "Nobody is wider than it")
        self.assertGreater(more[1], 1000)


class Subtitles(unittest.TestCase):
    def test_srt_and_vtt_tell_the_same_words_and_times(self):
        transcript = demo_transcript("interview")
        media = MediaInfo(duration=transcript.duration, has_picture=False, has_sound=True)
        plan = compile(desk_sheet("r", transcript.duration), {"r": Source(transcript, media)}, Target(outlet("tall")))
        srt, vtt = subtitles(plan, "srt"), subtitles(plan, "vtt")
        self.assertTrue(vtt.startswith("WEBVTT"))
        text = " ".join(line for line in srt.splitlines() if line and "-->" not in line and not line.isdigit())
        self.assertEqual(text.split(), [word for w in transcript.words for word in w.text.split()])
        self.assertEqual(srt.count("-->"), vtt.count("-->"))
        self.assertEqual(srt.count("-->"), len(plan.captions))

    def test_vtt_has_a_time_for_each_word_and_no_tags_of_others(self):
        words = plan_words(("Salt", 0, 0.5), ("<b>&", 0.5, 1.0), ("vinegar.", 1.0, 1.6))
        plan = Plan(
            rate=RATE, width=64, height=64, frames=60, samples=96_000, peak_db=-1.5, words=tuple(words),
            captions=lay_out_captions(words, RATE, 60),
        )  # fmt: skip
        vtt = subtitles(plan, "vtt")
        self.assertIn("00:00:00.000 --> 00:00:02.000\nSalt <00:00:00.500>&lt;b&gt;&amp; <00:00:01.000>vinegar.", vtt)
        self.assertEqual(subtitles(plan, "txt"), "Salt <b>& vinegar.\n")
        self.assertIsNone(subtitles(plan, "ass"), "nothing is drawn, so there is no script")
