"""Titles: broken into lines that fit, inside the safe area, clear of the captions, in templates of our own."""

import itertools
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from hovvet.core.captions.ass import caption_lettering
from hovvet.core.captions.style import caption_style
from hovvet.core.captions.title_styles import TEMPLATES
from hovvet.core.compile.building import COUNTING, counted, line_starts
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, staged, unwritten_in
from hovvet.core.compile.target import Target, target_of
from hovvet.core.compile.titles import band, title_letterings, title_style
from hovvet.core.media.info import MediaInfo
from hovvet.core.plan.model import Fill, Plan, PlanWord, Still
from hovvet.core.plan.outlets import OUTLETS, grid_square
from hovvet.core.render.compositor import Frame
from hovvet.core.render.text import Text
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.asking import AddCard, Around, edit_for
from hovvet.core.sheet.contents.slide import Slide
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
        (lettering,) = title_letterings(title, 0, 90, where, Rate())
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
            (lettering,) = title_letterings(Title(text=text, template="tape"), 0, 60, TALL, Rate())
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


class Building(unittest.TestCase):
    @given(st.integers(0, 5_000_000), st.integers(10, 400))
    def test_a_number_counts_up_to_what_is_written(self, number, frames):
        for text in (f"{number} clocks", f"{number:,} clocks", f"about {number / 10:.1f} hours"):
            steps = counted(text, frames, 30.0)
            self.assertEqual((steps[0][0], steps[-1][1]), (0, text))
            self.assertLessEqual(steps[-1][0], min(COUNTING * 30, frames * 0.6) + 1)
            values = [float("".join(c for c in said if c.isdigit() or c == ".")) for _, said in steps]
            self.assertEqual(values, sorted(values))
            self.assertEqual([at for at, _ in steps], sorted({at for at, _ in steps}))
            rest = {"".join(c for c in said if c not in "0123456789.,") for _, said in steps}
            self.assertEqual(len(rest), 1, "what is around it stays")
        self.assertEqual(counted("nobody", 60, 30.0), [(0, "nobody")])

    def test_the_lines_of_a_list_come_as_they_are_said(self):
        said = "first you open the case then clean the wheels and oil it a little".split()
        words = [
            PlanWord(id=n, piece="p", text=word, start=1 + n * 0.5, end=1.4 + n * 0.5) for n, word in enumerate(said)
        ]
        lines = ["Open it", "Clean every wheel", "Oil", "Close it again"]
        starts = line_starts(lines, words, 30, 330, 30.0)
        self.assertEqual(starts[:2], [0, said.index("clean") * 15])
        self.assertEqual(starts, sorted(set(starts)))
        self.assertEqual(line_starts(["a", "b", "c"], [], 0, 90, 30.0), [0, 30, 60], "evenly where nothing is said")
        self.assertEqual(len(line_starts([str(n) for n in range(9)], [], 0, 4, 30.0)), 9)

    def test_they_are_written_so(self):
        def shown(title: Title) -> list[tuple[int, int, list[str]]]:
            made = title_letterings(title, 30, 150, TALL, Rate())
            return [
                (first + event.first, first + event.last, event.text.rpartition("}")[2])
                for each in made
                for first, said in each.parts
                for event in each.writer.events(said)
                if not event.is_shape
            ]

        listed = shown(Title(text="Open\nClean\nOil", template="list", builds=True))
        self.assertEqual(listed, [(30, 150, "Open"), (70, 150, "Clean"), (110, 150, "Oil")])
        counting = [
            each for each in shown(Title(text="40 clocks", template="number", counts=True)) if each[2] != "CLOCKS"
        ]
        numbers = [int(text) for _, _, text in counting if text.isdigit()]
        self.assertEqual((numbers[0], numbers[-1], numbers), (0, 40, sorted(numbers)))
        self.assertTrue(all(a[1] == b[0] for a, b in itertools.pairwise(counting) if a[2].isdigit() and b[2].isdigit()))


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
            laid = scene.of(Title)[0]
            style = caption_style("bold")
            captions = caption_lettering(plan.captions, plan.words, plan.rate, TALL, style)
            setting = captions.writer.setting
            bands = [band(setting.lines(said.lines), setting.padding) for _, said in captions.parts]
            (lettering,) = title_letterings(title, laid.first, laid.last, TALL, plan.rate, bands)
            own = lettering.writer.setting
            top, bottom = band(own.lines(lettering.parts[0][1].lines), own.padding)
            self.assertTrue(all(bottom < other[0] or top > other[1] for other in bands), template)
            self.assertGreaterEqual(top, TALL.safe[1] - 0.6)

    def test_a_slide_covers_the_picture_and_its_words_stand_in_captioned_editions_too(self):
        for edition in (Edition(id="e1"), Edition(id="e1", dressing="captioned")):
            slide = Slide(text="What is broken?", ground="#47713F")
            plan = self.plan(slide, edition=edition)
            (layer,) = [
                each for each in plan.picture if isinstance(each.source, Fill) and each.source.colour == "#47713F"
            ]
            self.assertEqual((layer.first, layer.last), (63, 180))
            self.assertEqual(len(self.lines(plan, "broken")), 1)
        on = self.plan(Slide(text="What?", media="p1", strength=0.3))
        self.assertFalse([each for each in on.picture if isinstance(each.source, Still)], "nothing of what is gone")
        target = Target(TALL, pictures={"p1": (640, 360)})
        still = next(
            each for each in compile(self.sheet, self.sources, target).picture if isinstance(each.source, Still)
        )
        self.assertEqual((still.source.media, still.opacity[0].value), ("p1", 0.3))

    def test_a_card_stands_at_the_end_or_the_beginning_over_a_gap_of_its_own(self):
        before = self.plan()
        around = Around({"r": self.sources["r"].transcript}, Rate(), {})
        for at, frames in (("end", (before.frames, before.frames + 60)), ("beginning", (0, 60))):
            ask = AddCard(at=at, seconds=2.0, content=Slide(text="Bring yours on Tuesday"))
            sheet = apply(self.sheet, edit_for(ask, self.sheet, around))
            plan = compile(sheet, self.sources, self.target)
            card = next(
                each for each in plan.picture if isinstance(each.source, Fill) and each.source.colour == "#20242B"
            )
            self.assertEqual((card.first, card.last, plan.frames), (*frames, before.frames + 60))
            self.assertEqual(len(self.lines(plan, "Tuesday")), 1)
            self.assertEqual(len(sheet.pieces), 2)

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
