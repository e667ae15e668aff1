"""Titles: broken into lines that fit, inside the safe area, clear of the captions, in templates of our own."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from hovvet.core.captions.ass import caption_lettering
from hovvet.core.captions.style import caption_style
from hovvet.core.captions.title_styles import TEMPLATES
from hovvet.core.captions.titles import band, title_lettering, title_style
from hovvet.core.media.info import MediaInfo
from hovvet.core.plan.compile import compile, staged, unwritten_in
from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import OUTLETS, grid_square
from hovvet.core.plan.source import Source
from hovvet.core.plan.target import Target, target_of
from hovvet.core.render.compositor import Frame
from hovvet.core.render.text import Text
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.model import Edition, Layer, Piece, Run, Sheet, Span
from hovvet.core.time import Rate
from tests.media import even_words

TALL = OUTLETS["tall"]
WORDS = ["Nobody", "throws", "away", "a", "clock", "because", "extraordinarily", "it", "stopped.", "40", "–", "Ωμεγα"]


class Set(unittest.TestCase):
    @given(
        st.sampled_from([*TEMPLATES]), st.lists(st.sampled_from(WORDS), min_size=1, max_size=16),
        st.lists(st.sampled_from(WORDS), max_size=5), st.sampled_from([*OUTLETS.values()]), st.floats(0.4, 2),
    )  # fmt: skip
    @settings(max_examples=200)
    def test_they_are_inside_the_safe_area_by_the_measures_of_their_font(self, template, words, second, where, size):
        text = " ".join(words)[:160]
        title = Title(text=text, second=" ".join(second)[:80], template=template, size=size)
        lettering = title_lettering(title, 0, 90, where, Rate())
        setting = lettering.writer.setting
        lines = setting.lines(lettering.parts[0][1].lines)
        left, top, right, bottom = where.safe
        self.assertGreaterEqual(min(line.left for line in lines), left - 0.6)
        self.assertLessEqual(max(line.right for line in lines), where.width - right + 0.6)
        above, below = band(lines, setting.padding)
        self.assertGreaterEqual(above, top - 0.6)
        self.assertLessEqual(below, where.height - bottom + 0.6)
        said = [word.word.text for line in lines for word in line.words]
        style = title_style(title)
        self.assertEqual(said, [style.written(word) for word in (text + " " + title.second).split()])

    def test_a_persons_own_lines_stay_and_long_ones_are_broken_evenly(self):
        def lines(text: str) -> list[str]:
            lettering = title_lettering(Title(text=text, template="tape"), 0, 60, TALL, Rate())
            return [" ".join(word.text for word in line) for line in lettering.parts[0][1].lines]

        self.assertEqual(lines("A clock\nthat stopped"), ["A clock", "that stopped"])
        self.assertEqual(lines("Nobody throws away a clock"), ["Nobody throws", "away a clock"])
        self.assertEqual(max(map(len, lines(" ".join(["clock"] * 26)))), 11)

    def test_templates_are_told_apart_and_settings_change_them(self):
        self.assertGreaterEqual(len(TEMPLATES), 16)
        looks = {template.style.model_dump_json(exclude={"key", "name"}) for template in TEMPLATES.values()}
        self.assertEqual(len(looks), len(TEMPLATES))
        own = title_style(Title(template="plate", colour="#112233", behind="#445566", size=0.5, height=0.4))
        usual = TEMPLATES["plate"].style
        assert own.box
        self.assertEqual(
            (own.colour, own.box.colour, own.size, own.height), ("#112233", "#445566", usual.size / 2, 0.4)
        )


class Grid(unittest.TestCase):
    def test_the_grid_of_a_profile_shows_the_square_in_the_middle(self):
        self.assertEqual(grid_square(TALL), (0, 420, 0, 420))
        self.assertEqual([grid_square(OUTLETS[key]) for key in ("square", "wide")], [None, None])


class InThePlan(unittest.TestCase):
    def plan(self, *titles: Title, edition: Edition | None = None, captions: str | None = "bold") -> Plan:
        self.sheet = Sheet(
            pieces=(Piece(id="p1", recording="r", start=0.0, end=12.0),),
            layers=tuple(
                Layer(id=f"l{n}", span=Span(runs=(Run(origin="p1", start=2.0, end=6.0),)), content=title)
                for n, title in enumerate(titles)
            ),
            editions=(edition or Edition(id="e1"),),
            captions=captions,
        )
        media = MediaInfo(duration=13, has_picture=False, has_sound=True)
        self.sources = {"r": Source(even_words(30), media)}
        self.target = target_of(self.sheet, self.sheet.editions[0])
        return compile(self.sheet, self.sources, self.target)

    def lines(self, plan: Plan, text: str) -> list[str]:
        return [line for line in (plan.script or "").splitlines() if line.startswith("Dialogue") and text in line]

    def test_it_stands_over_its_words_over_the_captions_and_in_dressed_editions_alone(self):
        plan = self.plan(Title(text="Nobody", template="plate"))
        (own,) = self.lines(plan, "Nobody")
        layer, begins, ends, style = own.removeprefix("Dialogue: ").split(",")[:4]
        self.assertGreaterEqual(int(layer), 10)
        self.assertEqual((begins, ends), ("0:00:02.10", "0:00:06.00"))
        self.assertIn(f"Style: {style},Hovvet Wide", plan.script or "")
        self.assertTrue(self.lines(plan, "w3"))
        for dressing in ("captioned", "plain"):
            self.assertFalse(
                self.lines(self.plan(Title(text="Nobody"), edition=Edition(id="e1", dressing=dressing)), "Nobody")
            )
        alone = self.plan(Title(text="Nobody"), captions=None)
        self.assertTrue(self.lines(alone, "NOBODY"))
        self.assertFalse(self.lines(alone, "w3"))

    def test_it_keeps_clear_of_captions(self):
        for template in TEMPLATES:
            title = Title(text="Nobody throws away a clock", second="or a lamp", template=template, height=1.0)
            plan = self.plan(title)
            scene = staged(self.sheet, self.sources, self.target)
            first, last, _ = scene.titles[0]
            style = caption_style("bold")
            captions = caption_lettering(plan.captions, plan.words, plan.rate, TALL, style)
            setting = captions.writer.setting
            bands = [band(setting.lines(said.lines), setting.padding) for _, said in captions.parts]
            lettering = title_lettering(title, first, last, TALL, plan.rate, bands)
            own = lettering.writer.setting
            top, bottom = band(own.lines(lettering.parts[0][1].lines), own.padding)
            self.assertTrue(all(bottom < other[0] or top > other[1] for other in bands), template)
            self.assertGreaterEqual(top, TALL.safe[1] - 0.6)

    def test_letters_that_no_font_has_are_told(self):
        plan = self.plan(Title(text="Clock 🕰", second="漢"))
        scene = staged(self.sheet, self.sources, self.target)
        self.assertEqual(unwritten_in(plan, scene, self.target), "🕰漢")

    def test_it_is_drawn_where_it_stands_and_cannot_be_taken_for_a_tag(self):
        plan = self.plan(Title(text=r"{\pos(0,0)}Nobody", template="plate"), captions=None)
        text = Text(plan.script or "", TALL.width, TALL.height, [])
        frame = Frame(TALL.width, TALL.height)
        frame.planes[0][:] = 16
        text.draw(frame.planes, 4_000)
        text.close()
        rows = frame.planes[0].max(axis=1) > 40
        self.assertFalse(rows[: TALL.safe[1] - 2].any())
        self.assertTrue(rows[TALL.safe[1] : TALL.height // 2].any())
        self.assertEqual(Target(TALL).titles, True)
