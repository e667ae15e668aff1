"""Captions as a person wants them: broken, joined, worded and timed by hand."""

import itertools
import unittest

from hypothesis import given
from hypothesis import strategies as st

from hovvet.core.captions.lay_out import lay_out_captions
from hovvet.core.captions.layout import LAYOUTS
from hovvet.core.captions.setting import Setting, Written
from hovvet.core.captions.style import caption_style
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile
from hovvet.core.compile.target import target_of
from hovvet.core.formats.subtitles import subtitles
from hovvet.core.media.info import MediaInfo
from hovvet.core.plan.model import Plan, PlanWord
from hovvet.core.plan.outlets import outlet
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.asking import Around, Lay, edit_for
from hovvet.core.sheet.contents.wording import Wording
from hovvet.core.sheet.edits import Batch, BreakCaption, CutWords, Edit, SetLayout
from hovvet.core.sheet.model import Piece, Sheet, WordRef
from hovvet.core.sheet.wording import edit_in_words
from hovvet.core.time import Rate
from hovvet.core.words.transcript import Transcript, Word
from tests.core.test_captions import speech

RATE = Rate()
SAID = "Nobody throws a clock away because it stopped. They throw it away because nobody nearby can open it."


@st.composite
def broken(draw) -> tuple[list[PlanWord], dict[int, str]]:
    """Speech, some of it hidden or worded otherwise, with a person's own breaks."""
    words = draw(speech())
    places = st.integers(0, len(words) - 1)
    shown = draw(st.dictionaries(places, st.sampled_from(["", "other", "two words"])))
    words = [word.model_copy(update={"shown": shown.get(n)}) for n, word in enumerate(words)]
    return words, draw(st.dictionaries(places, st.sampled_from(["caption", "join", "line"])))


class Breaks(unittest.TestCase):
    @given(broken(), st.sampled_from([*LAYOUTS.values()]))
    def test_they_hold_for_any_speech_and_layout(self, given_, layout):
        words, breaks = given_
        captions = lay_out_captions(words, RATE, RATE.frame(words[-1].end + 3), layout, breaks)
        groups = [[n for line in caption.lines for n in line] for caption in captions]
        seen = {n for group in groups for n in group}
        begins = {group[0] for group in groups}
        lines = {line[0] for caption in captions for line in caption.lines}
        visible = [n for n, word in enumerate(words) if word.written]
        self.assertLessEqual(seen, set(visible))
        for n, how in breaks.items():
            if n in seen and visible.index(n):
                before = visible[visible.index(n) - 1]
                if how == "caption":
                    self.assertIn(n, begins)
                elif before in seen:
                    self.assertNotIn(n, begins)
                    self.assertTrue(how == "join" or n in lines)
        for one, two in itertools.pairwise(captions):
            self.assertLessEqual(one.last, two.first)

    def test_those_that_are_left_out_have_no_time(self):
        """A caption is lost only where the next one begins on the very same frame."""
        words = [PlanWord(id=n, piece="p", text="w", start=n * 0.01, end=n * 0.01 + 0.009) for n in range(8)]
        captions = lay_out_captions(words, RATE, 60, breaks=dict.fromkeys(range(8), "caption"))
        self.assertEqual(len(captions), len({RATE.frame_from(word.start) for word in words}))


class Clip:
    """A clip of two sentences, changed by edits and by what is laid over its words."""

    def __init__(self) -> None:
        words = tuple(
            Word(id=n + 1, text=text, start=0.5 + n * 0.4, end=0.8 + n * 0.4) for n, text in enumerate(SAID.split())
        )
        self.transcript = Transcript(duration=9.0, words=words)
        self.sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=0.0, end=9.0),))

    def edit(self, *edits: Edit) -> "Clip":
        self.sheet = apply(self.sheet, Batch(edits=edits))
        return self

    def lay(self, first: int, last: int, **changes: object) -> "Clip":
        around = Around({"r": self.transcript}, RATE, {})
        lay = Lay(content=Wording(**changes), first=ref(first), last=ref(last))
        return self.edit(edit_for(lay, self.sheet, around))

    def plan(self) -> Plan:
        media = MediaInfo(duration=9.0, has_picture=False, has_sound=True)
        return compile(
            self.sheet, {"r": Source(self.transcript, media)}, target_of(self.sheet, self.sheet.edition(None))
        )

    def captions(self) -> list[str]:
        return (subtitles(self.plan(), "txt") or "").splitlines()


def ref(word: int) -> WordRef:
    return WordRef(origin="p1", word=word)


class OnTheSheet(unittest.TestCase):
    def test_split_join_and_back(self):
        clip = Clip()
        before = clip.captions()
        self.assertGreater(len(before), 2)
        split = clip.edit(BreakCaption(word=ref(3), how="caption")).captions()
        self.assertEqual(split[:2], ["Nobody throws", split[1]])
        self.assertTrue(split[1].startswith("a clock"))
        joined = [BreakCaption(word=ref(n), how="join") for n in range(2, 9)]
        self.assertEqual(clip.edit(*joined).captions()[0], SAID[: SAID.index(" They")])
        cleared = [BreakCaption(word=ref(n), how=None) for n in range(2, 9)]
        self.assertEqual(clip.edit(*cleared).captions(), before)
        self.assertEqual(clip.sheet.breaks, ())
        self.assertEqual(edit_in_words(BreakCaption(word=ref(3), how="caption")), "Split a caption")

    def test_breaks_stay_when_the_layout_changes_and_words_are_cut(self):
        clip = Clip().edit(BreakCaption(word=ref(5), how="caption"), SetLayout(layout=LAYOUTS["A phrase"]))
        self.assertTrue(any(text.startswith("away") for text in clip.captions()))
        clip.edit(CutWords(piece="p1", words=(2, 3)))
        self.assertEqual(clip.captions()[:2], ["Nobody clock", clip.captions()[1]])
        self.assertTrue(clip.captions()[1].startswith("away"))

    def test_another_text_is_marked_as_it_is_said(self):
        clip = Clip().lay(2, 4, text="never bins his good old clock")
        plan = clip.plan()
        self.assertEqual([word.written for word in plan.words[1:4]], ["never bins", "his good", "old clock"])
        self.assertIn("never bins his good old clock", " ".join(clip.captions()))
        self.assertEqual(plan.words[1].text, "throws", "what is said stays as it is")
        self.assertIn("never bins", plan.script or "")
        self.assertIn("never bins", subtitles(plan, "vtt") or "")
        shorter = Clip().lay(1, 8, text="It stopped.")
        self.assertEqual(shorter.captions()[0].split()[:2], ["It", "stopped."])
        self.assertEqual(len([word for word in shorter.plan().words if word.written == ""]), 6)

    def test_hidden_words_are_in_no_caption(self):
        clip = Clip().lay(1, 8, hidden=True)
        self.assertEqual(" ".join(clip.captions()), SAID[SAID.index("They") :])
        self.assertEqual(clip.plan().frames, Clip().plan().frames, "but they are heard")
        self.assertEqual(Clip().lay(1, 18, hidden=True).captions(), [])

    def test_words_have_a_colour_and_a_size_of_their_own(self):
        plan = Clip().lay(1, 1, colour="#12ab34", size=1.5).plan()
        assert plan.script
        own = [
            line for line in plan.script.splitlines() if line.startswith("Dialogue") and "Nobody" in line.split("}")[-1]
        ]
        self.assertTrue(own and all(r"\fs" in line and r"\c&H34AB12&" in line for line in own))
        self.assertNotIn(r"\c&H34AB12&", "".join(line for line in plan.script.splitlines() if line not in own))
        setting = Setting(caption_style("bold"), outlet("tall"), size=100)
        first = (plan.words[plan.captions[0].lines[0][0]] for plan in (Clip().plan(), plan))
        (one,), (two,) = (setting.lines([[Written(word.written, word.size)]])[0].words for word in first)
        self.assertAlmostEqual(two.width, 1.5 * one.width, delta=0.01)

    def test_a_caption_comes_earlier_and_stays_longer_as_far_as_it_can(self):
        usual = Clip().plan().captions
        second = usual[1].lines[0][0] + 1
        moved = Clip().lay(second, second, earlier=5, longer=0).plan().captions
        self.assertEqual(moved[1].first, usual[1].first - 5)
        self.assertLessEqual(moved[0].last, moved[1].first)
        greedy = Clip().lay(second, 18, earlier=250, longer=250).plan()
        self.assertGreater(greedy.captions[0].last, greedy.captions[0].first)
        self.assertEqual(greedy.captions[-1].last, greedy.frames)
        for one, two in itertools.pairwise(greedy.captions):
            self.assertLessEqual(one.last, two.first)
