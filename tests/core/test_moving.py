"""Words in any order: the algebra of pieces, and what is then seen and heard."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, staged
from hovvet.core.compile.target import Target
from hovvet.core.media.info import MediaInfo
from hovvet.core.plan.outlets import outlet
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.cutting import kept_words
from hovvet.core.sheet.edits import (
    BringBack,
    CopyPieces,
    CutPause,
    CutWords,
    EditError,
    MovePieces,
    RemovePiece,
    SplitPiece,
)
from hovvet.core.sheet.model import Sheet, WordRef
from hovvet.core.sheet.moving import move_words
from hovvet.core.sheet.starting import clip_sheet, desk_sheet
from hovvet.core.sheet.wording import Before, edit_in_words
from hovvet.core.view.rows import rows
from tests.media import even_words

WORDS = even_words(40)
SOURCE = Source(WORDS, MediaInfo(duration=WORDS.duration, has_picture=True, has_sound=True, width=320, height=180))
SOURCES = {"r1": SOURCE}
CLIP = clip_sheet(desk_sheet("r1", WORDS.duration), WORDS, 1, 40)


def said(sheet: Sheet) -> list[int]:
    """The kept words in the order in which they are heard."""
    return [word.id for piece in sheet.pieces for word in kept_words(WORDS, piece)]


def ref(sheet: Sheet, word: int) -> WordRef:
    piece = next(each for each in sheet.pieces if any(w.id == word for w in WORDS.between(each.start, each.end)))
    return WordRef(origin=piece.origin, word=word)


def holder(sheet: Sheet, word: int) -> str:
    """The piece in which a word stands."""
    return next(p.id for p in sheet.pieces if any(w.id == word for w in WORDS.between(p.start, p.end)))


def moved(sheet: Sheet, first: int, last: int, before: int | None, repeat: bool = False) -> Sheet:
    place = None if before is None else ref(sheet, before)
    edit = move_words(sheet, {"r1": WORDS}, ref(sheet, first), ref(sheet, last), place, repeat)
    return apply(sheet, edit)


def alike(one: Sheet, two: Sheet) -> bool:
    """The same pieces with the same cuts, however the cuts are bundled and the pieces called."""

    def plain(sheet: Sheet) -> list[tuple]:
        return [
            (
                piece.start,
                piece.end,
                sorted((word, cut.reason) for cut in piece.word_cuts for word in cut.words),
                sorted((cut.start, cut.end, cut.reason) for cut in piece.pause_cuts),
            )
            for piece in sheet.pieces
        ]

    return plain(one) == plain(two)


struck = st.lists(st.integers(1, 40), max_size=12, unique=True)


def with_cuts(words: list[int]) -> Sheet:
    sheet = apply(CLIP, CutWords(piece="p1", words=tuple(words))) if words else CLIP
    return apply(sheet, CutPause(piece="p1", start=4.3, end=4.4))


class Algebra(unittest.TestCase):
    @given(struck, st.integers(2, 40), st.integers(0, 38), st.integers(1, 40))
    def test_moving_keeps_every_word_once_and_in_the_order_asked_for(self, cut, first, length, before):
        last = min(first + length, 40)
        sheet = with_cuts(cut)
        after = moved(sheet, first, last, before)
        kept = [n for n in range(1, 41) if n not in cut]
        block = [n for n in kept if first <= n <= last]
        rest = [n for n in kept if not first <= n <= last]
        if first <= before <= last:
            self.assertEqual(after, sheet, "onto itself: nothing changes")
            return
        place = sum(n < before for n in rest)
        self.assertEqual(said(after), [*rest[:place], *block, *rest[place:]])

    @given(struck, st.integers(2, 39), st.integers(0, 10))
    def test_there_and_back_is_where_it_was(self, cut, first, length):
        last = min(first + length, 39)
        sheet = with_cuts(cut)
        after = moved(moved(sheet, first, last, 1), first, last, last + 1)
        self.assertTrue(alike(after, sheet))

    @given(struck, st.lists(st.tuples(st.integers(1, 40), st.integers(0, 6), st.integers(1, 40)), max_size=6))
    def test_many_moves_lose_nothing_and_compile(self, cut, moves):
        sheet = with_cuts(cut)
        for first, length, before in moves:
            order = [word.id for piece in sheet.pieces for word in WORDS.between(piece.start, piece.end)]
            at = order.index(first)
            sheet = moved(sheet, first, order[min(at + length, 39)], before)
        self.assertEqual(sorted(said(sheet)), [n for n in range(1, 41) if n not in cut])
        plan = compile(sheet, SOURCES, Target(outlet("tall")))
        self.assertEqual([word.id for word in plan.words], said(sheet))
        self.assertTrue(all(a.end <= b.start + 1e-6 for a, b in zip(plan.words, plan.words[1:], strict=False)))
        # Frames and samples stay together, over any number of joins.
        for picture, sound in zip(plan.picture[1:], plan.sound[1:], strict=True):
            begins = (sound.sample + sound.fade_in // 2) / plan.sample_rate
            self.assertAlmostEqual(picture.first / plan.rate.fps, begins, delta=1 / plan.sample_rate)

    @given(struck, st.integers(2, 40))
    def test_splitting_and_joining_again_changes_nothing(self, cut, at):
        sheet = with_cuts(cut)
        word = WORDS.word(at)
        after = tuple(n for n in cut if n >= at)
        halves = apply(sheet, SplitPiece(piece="p1", at=word.start - 0.05, fresh="p2", struck=after))
        self.assertEqual((len(halves.pieces), said(halves)), (2, said(sheet)))
        self.assertTrue(alike(apply(halves, MovePieces(pieces=("p2",))), sheet))

    def test_what_is_brought_back_after_a_split_stays_back(self):
        sheet = apply(CLIP, CutWords(piece="p1", words=(5, 30)))
        apart = moved(sheet, 25, 35, 1)
        back = apply(apart, BringBack(piece=holder(apart, 30), words=(30,)))
        home = moved(back, 25, 35, 36)
        self.assertEqual((len(home.pieces), said(home)), (1, [n for n in range(1, 41) if n != 5]))


class Repeating(unittest.TestCase):
    def test_a_line_opens_the_clip_and_stays_where_it_was(self):
        sheet = moved(CLIP, 20, 24, 1, repeat=True)
        self.assertEqual(said(sheet), [*range(20, 25), *range(1, 41)])
        plan = compile(sheet, SOURCES, Target(outlet("tall")))
        self.assertEqual(len(plan.words), 45)
        first = sheet.pieces[0].id
        cut = apply(sheet, CutWords(piece=first, words=(22,)))
        self.assertEqual(said(cut), [20, 21, 23, 24, *range(1, 41)], "the two are cut apart")

    def test_rows_know_which_of_the_two_they_are(self):
        sheet = moved(CLIP, 20, 24, 1, repeat=True)
        cut = apply(sheet, CutWords(piece=sheet.pieces[0].id, words=(22,)))
        tokens = [
            token
            for row in rows(cut, staged(cut, SOURCES, Target(outlet("tall"))))
            for token in row.tokens
            if token.word
        ]
        self.assertEqual([token.word.id for token in tokens], [*range(20, 25), *range(1, 41)])
        self.assertEqual([n for n, token in enumerate(tokens) if token.at is None], [2])
        times = [token.at for token in tokens if token.at is not None]
        self.assertEqual(times, sorted(times))
        plan = compile(cut, SOURCES, Target(outlet("tall")))
        for token, word in zip([each for each in tokens if each.at is not None], plan.words, strict=True):
            self.assertAlmostEqual(token.at, word.start, delta=0.001)


class Refused(unittest.TestCase):
    def test_what_makes_no_sense(self):
        split = SplitPiece(piece="p1", at=5.0, fresh="p2")
        two = apply(CLIP, split)
        for sheet, edit in (
            (CLIP, SplitPiece(piece="p1", at=500, fresh="p2")),
            (CLIP, RemovePiece(piece="p1")),
            (CLIP, MovePieces(pieces=("p1",), before="p1")),
            (two, split),
            (two, MovePieces(pieces=("p2",), before="p9")),
            (two, CopyPieces(pieces=("p2",), fresh=("p1",))),
            (two, MovePieces(pieces=("p9",))),
        ):
            with self.assertRaises(EditError, msg=edit):
                apply(sheet, edit)
        gone = WordRef(origin="p1", word=99)
        for first, last in ((gone, ref(CLIP, 3)), (ref(CLIP, 3), gone), (ref(CLIP, 9), ref(CLIP, 3))):
            with self.assertRaises(EditError):
                move_words(CLIP, {"r1": WORDS}, first, last, ref(CLIP, 1))

    def test_a_piece_is_taken_away(self):
        two = apply(CLIP, SplitPiece(piece="p1", at=5.0, fresh="p2"))
        self.assertEqual([piece.id for piece in apply(two, RemovePiece(piece="p1")).pieces], ["p2"])

    def test_in_words(self):
        edit = move_words(CLIP, {"r1": WORDS}, ref(CLIP, 20), ref(CLIP, 24), ref(CLIP, 1))
        self.assertEqual(edit_in_words(edit), "Moved words")
        self.assertEqual(edit_in_words(edit, before=Before(CLIP, {"r1": WORDS})), "Moved “w20 w21 w22 w23 w24”")
        cut = apply(CLIP, edit)
        cutting = CutWords(piece=holder(cut, 21), words=(21, 22), reason="filler")
        before = Before(cut, {"r1": WORDS})
        self.assertEqual(edit_in_words(cutting, before=before), "Cut “w21 w22” (filler sounds)")
        self.assertEqual(edit_in_words(cutting, before=Before(cut, {})), "Cut 2 words (filler sounds)")
        back = BringBack(piece=holder(cut, 21), words=tuple(range(1, 20)))
        self.assertEqual(edit_in_words(back, before=before), "Restored “w1 w2 w3 w4 w5 w6 w7 w8 w9 w10 w11 w12…”")
