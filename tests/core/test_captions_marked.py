"""Captions that tell more than what is said: marked words, who speaks, what is heard where nobody does."""

import itertools
import unittest

from hypothesis import given
from hypothesis import strategies as st

from hovvet.core.captions.keywords import keywords
from hovvet.core.captions.style import CaptionStyle, caption_style
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, staged
from hovvet.core.compile.target import target_of
from hovvet.core.errors import CoreError
from hovvet.core.formats.subtitles import subtitles
from hovvet.core.media.info import MediaInfo
from hovvet.core.plan.model import Plan
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.asking import AddGap, Around, Ask, FindKeywords, Lay, edit_for
from hovvet.core.sheet.contents.extra_caption import ExtraCaption
from hovvet.core.sheet.contents.wording import Wording
from hovvet.core.sheet.edits import CutWords, Edit, MarkKeywords, SetCaptions
from hovvet.core.sheet.model import Piece, Sheet, WordRef
from hovvet.core.sheet.wording import edit_in_words
from hovvet.core.time import Rate
from hovvet.core.view.rows import bars, rows
from hovvet.core.words.transcript import Speaker, Transcript, Word
from tests.media import demo_transcript, spoken

TEAL = "\\c&HC0E08F&"  # the usual colour of marked words, as a script has it


class Keywords(unittest.TestCase):
    def found(self, text: str) -> list[str]:
        words = spoken(text).words
        return [words[n].text for n in keywords(words)]

    def test_numbers_names_and_what_is_said_seldom(self):
        self.assertEqual(self.found("We mended forty clocks there."), ["forty"])
        self.assertEqual(self.found("And then we asked Maren about it."), ["Maren"])
        self.assertEqual(self.found("It was all because of the screwdriver."), ["screwdriver."])
        self.assertEqual(self.found("And so it was, you know, what it was."), [])
        self.assertEqual(self.found("Something without everything."), [], "long, and yet plain")

    def test_one_of_a_phrase_at_most_and_about_as_many_as_a_person_would(self):
        words = demo_transcript().words
        found = keywords(words)
        self.assertEqual(found, sorted(set(found)))
        self.assertTrue(len(words) / 25 < len(found) < len(words) / 6, len(found) / len(words))
        self.assertNotIn("because", {words[n].text.lower() for n in found})

    @given(st.lists(st.sampled_from(["the", "Forty", "um", "clock.", "…", "it's", "extraordinary,", "7"]), max_size=40))
    def test_any_words(self, texts):
        words = spoken(" ".join(texts)).words
        found = keywords(words)
        self.assertTrue(all(0 <= n < len(words) for n in found))
        self.assertEqual(found, sorted(set(found)))


def talk(
    texts: str, speakers: str = "", pauses: dict[int, float] | None = None, names: tuple[Speaker, ...] = ()
) -> Transcript:
    """Words of 0.3 s, 0.1 s apart and more after some; ``speakers`` a digit for each."""
    at, words = 0.5, []
    for n, text in enumerate(texts.split()):
        words.append(
            Word(
                id=n + 1, text=text, start=round(at, 3), end=round(at + 0.3, 3), speaker=f"S{(speakers or '1' * 99)[n]}"
            )
        )
        at += 0.4 + (pauses or {}).get(n + 1, 0.0)
    return Transcript(duration=at + 0.5, words=tuple(words), speakers=names)


class Clip:
    """A clip of a whole talk, changed by asks and edits."""

    def __init__(self, transcript: Transcript, **style: object) -> None:
        self.transcript = transcript
        self.sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=0.0, end=transcript.duration),))
        if style:
            own = caption_style("bold").model_copy(update={"key": "changed", **style})
            self.edit(SetCaptions(captions="changed", style=CaptionStyle.model_validate(own.model_dump())))

    def edit(self, *edits: Edit) -> "Clip":
        for each in edits:
            self.sheet = apply(self.sheet, each)
        return self

    def ask(self, ask: Ask) -> "Clip":
        return self.edit(edit_for(ask, self.sheet, Around({"r": self.transcript}, Rate(), {})))

    def sources(self) -> dict[str, Source]:
        return {
            "r": Source(
                self.transcript, MediaInfo(duration=self.transcript.duration, has_picture=False, has_sound=True)
            )
        }

    def plan(self) -> Plan:
        return compile(self.sheet, self.sources(), target_of(self.sheet, self.sheet.edition(None)))

    def notes(self) -> list[str]:
        scene = staged(self.sheet, self.sources(), target_of(self.sheet, self.sheet.edition(None)))
        return [bar.note for bar in bars(self.sheet, scene, rows(self.sheet, scene))]

    def captions(self) -> list[str]:
        return (subtitles(self.plan(), "txt") or "").splitlines()


def ref(word: int | None, origin: str = "p1") -> WordRef:
    return WordRef(origin=origin, word=word)


class Marked(unittest.TestCase):
    def test_words_are_marked_in_one_go_corrected_and_travel_with_what_is_said(self):
        clip = Clip(talk("We mended forty clocks there. Maren asked who Otto was."))
        plain = clip.plan()
        self.assertNotIn(TEAL, plain.script or "")
        clip.ask(FindKeywords())
        marked = [word.text for word in clip.plan().words if word.key]
        self.assertEqual(marked, ["forty", "Otto"])
        own = [line for line in (clip.plan().script or "").splitlines() if TEAL in line]
        self.assertEqual({line.rsplit("}", 1)[-1] for line in own}, set(marked))
        clip.edit(MarkKeywords(words=(ref(3),), marked=False), MarkKeywords(words=(ref(4), ref(6))))
        self.assertEqual([word.text for word in clip.plan().words if word.key], ["clocks", "Maren", "Otto"])
        clip.edit(CutWords(piece="p1", words=(4,)))
        self.assertEqual([word.text for word in clip.plan().words if word.key], ["Maren", "Otto"])
        self.assertEqual(len(clip.sheet.keywords), 3, "it is marked again when it comes back")
        self.assertEqual(edit_in_words(MarkKeywords(words=(ref(4), ref(6)))), "Marked 2 words")
        self.assertEqual(edit_in_words(MarkKeywords(words=(ref(4),), marked=False)), "No longer marked 1 word")

    def test_a_colour_of_ones_own_and_a_style_without_come_first(self):
        clip = Clip(talk("We mended forty clocks."))
        clip.edit(MarkKeywords(words=(ref(3),)))
        clip.ask(Lay(content=Wording(colour="#112233"), first=ref(3), last=ref(3)))
        self.assertNotIn(TEAL, clip.plan().script or "")
        self.assertIn("\\c&H332211&", clip.plan().script or "")
        without = Clip(talk("We mended forty clocks."), keyword=None).edit(MarkKeywords(words=(ref(3),)))
        self.assertNotIn(TEAL, without.plan().script or "")

    def test_where_nothing_stands_out_that_is_told(self):
        with self.assertRaisesRegex(CoreError, "No word stands out here"):
            Clip(talk("And so it was.")).ask(FindKeywords())


class Voices(unittest.TestCase):
    TEXT = "Who opened it? I did that myself. And why was that?"
    BY = "11122223333"

    def test_a_caption_never_has_two_speakers_and_each_has_a_colour(self):
        clip = Clip(talk(self.TEXT, self.BY), second="#9CC9FF", third="#F3B6D0")
        plan = clip.plan()
        self.assertEqual([word.voice for word in plan.words], [int(each) - 1 for each in self.BY])
        for caption in plan.captions:
            self.assertEqual(len({plan.words[n].voice for line in caption.lines for n in line}), 1)
        coloured = {n: "\\c&HFFC99C&" if n == 1 else "\\c&HD0B6F3&" for n in (1, 2)}
        for voice, tag in coloured.items():
            own = {line.rsplit("}", 1)[-1] for line in (plan.script or "").splitlines() if tag in line}
            self.assertEqual(own, {word.text for word in plan.words if word.voice == voice})
        self.assertNotIn("FFC99C", Clip(talk(self.TEXT, self.BY)).plan().script or "")

    def test_one_name_is_one_speaker(self):
        names = (Speaker(key="S1", name="Maren"), Speaker(key="S2", name="Otto"), Speaker(key="S3", name="Maren"))
        plan = Clip(talk(self.TEXT, self.BY, names=names)).plan()
        self.assertEqual([word.voice for word in plan.words], [0, 0, 0, 1, 1, 1, 1, 0, 0, 0, 0])


class Asides(unittest.TestCase):
    def laid(self, pause: float, **extra: object) -> Clip:
        clip = Clip(talk("We mended it. Then it stopped again.", pauses={3: pause}))
        return clip.ask(Lay(content=ExtraCaption(**extra), first=ref(3), last=ref(3)))

    def test_it_stands_in_the_pause_after_its_words_alone(self):
        clip = self.laid(2.0, seconds=1.0)
        self.assertEqual(clip.captions(), ["We mended it.", "[laughs]", "Then it stopped again."])
        plan = clip.plan()
        extra = next(word for word in plan.words if word.layer)
        said = plan.words[2].end
        self.assertAlmostEqual(extra.start, said, delta=0.04)
        self.assertAlmostEqual(extra.end - extra.start, 1.0, delta=0.04)
        for one, two in itertools.pairwise(plan.captions):
            self.assertLessEqual(one.last, two.first)
        self.assertIn("[laughs]", plan.script or "")
        self.assertIn("[laughs]", subtitles(plan, "srt") or "")
        self.assertEqual(clip.notes(), [""])

    def test_the_next_word_ends_it_and_where_there_is_no_room_that_is_told(self):
        plan = self.laid(1.0, seconds=9.0).plan()
        extra, after = next((a, b) for a, b in itertools.pairwise(plan.words) if a.layer)
        self.assertAlmostEqual(extra.end, after.start, delta=0.04)
        crowded = self.laid(0.0)
        self.assertNotIn("[laughs]", crowded.captions())
        self.assertIn("too soon", crowded.notes()[0])

    def test_over_a_gap_at_the_very_end_and_asleep(self):
        clip = Clip(talk("We mended it.")).ask(AddGap(seconds=2.0, before=None))
        gap = clip.sheet.pieces[-1].origin
        clip.ask(Lay(content=ExtraCaption(text="[applause]", seconds=5), first=ref(None, gap), last=ref(None, gap)))
        self.assertEqual(clip.captions(), ["We mended it.", "[applause]"])
        extra = clip.plan().words[-1]
        self.assertAlmostEqual(extra.end - extra.start, 2.0, delta=0.04)
        clip = self.laid(2.0).edit(CutWords(piece="p1", words=(3,)))
        self.assertNotIn("[laughs]", clip.captions())
