"""The algebra of edits, and what they compile to."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile
from hovvet.core.compile.target import Target
from hovvet.core.media.info import MediaInfo
from hovvet.core.plan.outlets import outlet
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.cutting import REACH, kept_spans, kept_words
from hovvet.core.sheet.edits import Batch, BringBack, CutPause, CutWords, EditError, SetCaptions
from hovvet.core.sheet.model import Piece, Sheet
from hovvet.core.sheet.starting import clip_sheet, desk_sheet
from hovvet.core.sound.silence import Levels
from hovvet.core.time import SAMPLE_RATE, Rate
from hovvet.core.words.layout import pauses
from hovvet.core.words.transcript import Transcript, Word
from tests.media import even_words

RATES = [Rate(num=30), Rate(num=25), Rate(num=24), Rate(num=30000, den=1001), Rate(num=24000, den=1001)]


@st.composite
def transcripts(draw) -> Transcript:
    """Transcripts with words and gaps of many lengths, some of them none."""
    steps = draw(st.lists(st.tuples(st.integers(0, 1500), st.integers(40, 900)), min_size=1, max_size=40))
    at, words = 0.0, []
    for n, (gap, length) in enumerate(steps):
        start = at + gap / 1000
        at = start + length / 1000
        words.append(Word(id=n + 1, text=f"w{n + 1}", start=start, end=at))
    return Transcript(duration=at + draw(st.integers(0, 2000)) / 1000, words=tuple(words))


@st.composite
def cut_sheets(draw) -> tuple[Transcript, Sheet]:
    """A desk with some words and pauses cut."""
    transcript = draw(transcripts())
    sheet = desk_sheet("r", transcript.duration)
    ids = [word.id for word in transcript.words]
    for words in draw(st.lists(st.lists(st.sampled_from(ids), min_size=1, max_size=8), max_size=5)):
        sheet = apply(sheet, CutWords(piece="p1", words=tuple(words)))
    gaps = pauses(transcript.words, transcript.duration)
    if gaps:
        for gap in draw(st.lists(st.sampled_from(gaps), max_size=4)):
            sheet = apply(sheet, CutPause(piece="p1", start=gap.start, end=gap.end))
    return transcript, sheet


def planned(transcript: Transcript, sheet: Sheet, rate: Rate = RATES[0]):
    media = MediaInfo(duration=transcript.duration, has_picture=True, has_sound=True, width=1280, height=720, rate=rate)
    return compile(sheet, {"r": Source(transcript, media)}, Target(outlet("tall")))


class QuietPlaces(unittest.TestCase):
    @given(cut_sheets(), st.integers(0, 2**32 - 1))
    def test_edges_move_little_and_never_into_a_kept_word(self, made, seed):
        transcript, sheet = made
        level = np.random.default_rng(seed).uniform(-70, -10, int(transcript.duration * 100) + 1)
        piece = sheet.pieces[0]
        plain, quiet = kept_spans(transcript, piece), kept_spans(transcript, piece, Levels(level))
        for word in kept_words(transcript, piece):
            self.assertTrue(
                any(a - 1e-6 <= word.start and word.end <= b + 1e-6 for a, b in quiet) or not quiet, "kept whole"
            )
        kept = [sum(b - a for a, b in spans) for spans in (plain, quiet)]
        self.assertLessEqual(abs(kept[0] - kept[1]), 2 * (REACH + 0.05) * (len(plain) + len(quiet)))

    def test_a_cut_begins_where_it_is_quiet(self):
        words = (
            Word(id=1, text="a", start=0.5, end=1.0), Word(id=2, text="b", start=1.0, end=1.5),
            Word(id=3, text="c", start=1.5, end=2.0),
        )  # fmt: skip
        transcript = Transcript(duration=2.5, words=words)
        level = np.full(250, -20.0)
        level[102], level[147] = -50.0, -50.0  # 20 ms into b, and 30 ms before its end
        sheet = apply(desk_sheet("r", 2.5), CutWords(piece="p1", words=(2,)))
        self.assertEqual(kept_spans(transcript, sheet.pieces[0], Levels(level)), [(0.0, 1.025), (1.475, 2.5)])
        flat = kept_spans(transcript, sheet.pieces[0], Levels(np.full(250, -20.0)))
        self.assertEqual(flat, kept_spans(transcript, sheet.pieces[0]))


class Algebra(unittest.TestCase):
    @given(cut_sheets(), st.data())
    def test_cutting_then_bringing_back_is_identity(self, made, data):
        transcript, sheet = made
        struck = {word for cut in sheet.pieces[0].word_cuts for word in cut.words}
        free = [word.id for word in transcript.words if word.id not in struck]
        if not free:
            return
        words = tuple(data.draw(st.lists(st.sampled_from(free), min_size=1, max_size=10)))
        cut = apply(sheet, CutWords(piece="p1", words=words))
        self.assertNotEqual(cut, sheet)
        self.assertEqual(apply(cut, BringBack(piece="p1", words=words)), sheet)

    @given(cut_sheets())
    def test_bringing_everything_back_gives_the_whole_recording(self, made):
        transcript, sheet = made
        everything = BringBack(
            piece="p1",
            words=tuple(word.id for word in transcript.words),
            spans=((0.0, transcript.duration),),
        )
        self.assertEqual(apply(sheet, everything), desk_sheet("r", transcript.duration))

    @given(cut_sheets())
    def test_cutting_again_changes_nothing(self, made):
        _, sheet = made
        for cut in sheet.pieces[0].word_cuts:
            self.assertEqual(apply(sheet, CutWords(piece="p1", words=cut.words)), sheet)

    def test_a_batch_is_its_edits_in_order(self):
        sheet = desk_sheet("r", 20)
        edits = (CutWords(piece="p1", words=(1, 2)), BringBack(piece="p1", words=(2,)), SetCaptions(captions=None))
        one_by_one = sheet
        for edit in edits:
            one_by_one = apply(one_by_one, edit)
        self.assertEqual(apply(sheet, Batch(edits=edits)), one_by_one)
        self.assertEqual(one_by_one.pieces[0].word_cuts[0].words, (1,))

    def test_edits_that_do_not_fit_are_refused(self):
        sheet = desk_sheet("r", 20)
        with self.assertRaises(EditError):
            apply(sheet, CutWords(piece="gone", words=(1,)))
        with self.assertRaises(EditError):
            apply(sheet, CutPause(piece="p1", start=30, end=31))


class Plans(unittest.TestCase):
    @given(cut_sheets(), st.sampled_from(RATES))
    def test_the_plan_is_as_long_as_what_is_kept_to_a_frame_for_each_stretch(self, made, rate):
        transcript, sheet = made
        plan = planned(transcript, sheet, rate)
        spans = kept_spans(transcript, sheet.pieces[0])
        kept = sum(end - start for start, end in spans)
        self.assertLessEqual(abs(plan.frames - kept * rate.fps), len(spans))
        self.assertEqual(plan.samples, rate.sample(plan.frames))
        at = 0
        for stretch in plan.stretches:
            self.assertEqual(stretch.frame, at)
            self.assertAlmostEqual(stretch.end - stretch.start, rate.seconds(stretch.frames), places=6)
            at += stretch.frames
        self.assertEqual(at, plan.frames)
        self.assertEqual(sum(layer.last - layer.first for layer in plan.picture), plan.frames)

    @given(cut_sheets(), st.data())
    def test_taking_a_word_out_moves_the_rest_by_whole_frames_and_leaves_it_as_it_is(self, made, data):
        transcript, sheet = made
        kept = [word.id for word in kept_words(transcript, sheet.pieces[0])]
        if len(kept) < 3:
            return
        struck = data.draw(st.sampled_from(kept[:-1]))
        before = planned(transcript, sheet).stretches
        after = planned(transcript, apply(sheet, CutWords(piece="p1", words=(struck,)))).stretches
        # Up to the next word that is kept the edges of this very cut may move.
        at = transcript.position[struck] + 1
        while at < len(transcript.words) and transcript.words[at].id not in kept:
            at += 1
        until = transcript.words[at].start
        own = [(each.start, each.end, each.frames) for each in before if each.start > until]
        self.assertEqual([(each.start, each.end, each.frames) for each in after][len(after) - len(own) :], own)

    @given(cut_sheets())
    def test_every_kept_word_is_heard_whole_and_once_and_no_struck_word_is(self, made):
        transcript, sheet = made
        piece = sheet.pieces[0]
        spans = kept_spans(transcript, piece)
        struck = {word for cut in piece.word_cuts for word in cut.words}
        for word in transcript.words:
            heard = sum(max(0.0, min(end, word.end) - max(start, word.start)) for start, end in spans)
            if word.id in struck:
                self.assertAlmostEqual(heard, 0, places=6, msg=f"{word} is struck")
            else:
                self.assertAlmostEqual(heard, word.end - word.start, places=6, msg=f"{word} is kept")
        plan = planned(transcript, sheet)
        self.assertEqual([word.id for word in plan.words], [word.id for word in kept_words(transcript, piece)])

    @given(cut_sheets(), st.sampled_from(RATES))
    def test_picture_and_sound_of_every_stretch_agree_within_half_a_frame(self, made, rate):
        transcript, sheet = made
        plan = planned(transcript, sheet, rate)
        heard = {layer.sample + layer.samples - 1: layer for layer in plan.sound}
        self.assertEqual(len(heard), len(plan.picture))
        for picture, sound in zip(plan.picture, plan.sound, strict=True):
            lead = rate.sample(picture.first) - sound.sample
            seen = picture.source.knots[0].source / rate.fps
            self.assertLessEqual(abs(seen - (sound.source_sample + lead) / SAMPLE_RATE), 0.5 / rate.fps + 1e-3)

    def test_frames_and_samples_do_not_drift_over_a_thousand_joins(self):
        transcript = even_words(2001, length=0.217, gap=0.0331)
        sheet = desk_sheet("r", transcript.duration)
        sheet = apply(sheet, CutWords(piece="p1", words=tuple(range(2, 2001, 2))))
        for rate in RATES:
            plan = planned(transcript, sheet, rate)
            self.assertGreaterEqual(len(plan.picture), 1000)
            half = plan.sound[1].fade_in // 2
            worst = max(
                abs(picture.first / rate.fps - (sound.sample + (half if n else 0)) / SAMPLE_RATE)
                for n, (picture, sound) in enumerate(zip(plan.picture, plan.sound, strict=True))
            )
            self.assertLess(worst, 1 / SAMPLE_RATE)

    def test_a_shown_pause_stays_when_the_word_beside_it_goes(self):
        words = (
            Word(id=1, text="one", start=1.0, end=1.4),
            Word(id=2, text="um", start=1.45, end=1.7),
            Word(id=3, text="two", start=2.7, end=3.0),
        )
        transcript = Transcript(duration=4, words=words)
        sheet = apply(desk_sheet("r", 4), CutWords(piece="p1", words=(2,)))
        spans = kept_spans(transcript, sheet.pieces[0])
        kept_gap = sum(max(0.0, min(end, 2.7) - max(start, 1.4)) for start, end in spans)
        self.assertGreater(kept_gap, 0.9)

    def test_two_pieces_are_heard_in_the_order_of_the_sheet(self):
        transcript = even_words(10)
        late = Piece(id="late", recording="r", start=transcript.words[6].start, end=transcript.words[9].end)
        early = Piece(id="early", recording="r", start=transcript.words[0].start, end=transcript.words[2].end)
        plan = planned(transcript, Sheet(pieces=(late, early)))
        self.assertEqual([word.id for word in plan.words], [7, 8, 9, 10, 1, 2, 3])
        self.assertEqual(sorted(plan.words, key=lambda word: word.start), list(plan.words))

    def test_everything_cut_is_an_empty_plan(self):
        transcript = even_words(3)
        sheet = apply(desk_sheet("r", transcript.duration), CutWords(piece="p1", words=(1, 2, 3)))
        self.assertEqual(planned(transcript, sheet).frames, 0)


class Clips(unittest.TestCase):
    def test_a_clip_holds_the_passage_with_the_cuts_of_the_desk(self):
        transcript = even_words(20)
        desk = apply(desk_sheet("r", transcript.duration), CutWords(piece="p1", words=(3, 8, 9)))
        plan = planned(transcript, clip_sheet(desk, transcript, 6, 12))
        self.assertEqual([word.id for word in plan.words], [6, 7, 10, 11, 12])

    def test_a_passage_of_struck_words_is_refused(self):
        transcript = even_words(5)
        desk = apply(desk_sheet("r", transcript.duration), CutWords(piece="p1", words=(2, 3)))
        with self.assertRaisesRegex(Exception, "Every word of that passage is cut"):
            clip_sheet(desk, transcript, 2, 3)
