"""What a sheet may hold, and that edits of the largest size are answered at once."""

import time
import unittest

import numpy as np
from pydantic import TypeAdapter, ValidationError

from hovvet.core.compile.repairs import repaired
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import planned, staged
from hovvet.core.compile.target import target_of
from hovvet.core.errors import CoreError
from hovvet.core.media.info import MediaInfo
from hovvet.core.sheet.applying import apply, replayed
from hovvet.core.sheet.contents.freeze import LONGEST_FREEZE, Freeze
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.contents.waveform import LONGEST_BARS, Waveform
from hovvet.core.sheet.edits import (
    Batch,
    CopyPieces,
    CutPause,
    CutWords,
    Edit,
    EditError,
    InsertPieces,
    PutEdition,
    PutLayer,
    RemoveLayer,
    SplitPiece,
    TrimPiece,
)
from hovvet.core.sheet.limits import LONGEST_CLIP, LONGEST_GAP, MOST_EDITIONS, MOST_PIECES, check_ends
from hovvet.core.sheet.model import Edition, Layer, Piece, Run, Sheet, Span
from hovvet.core.sheet.upgrade import read_edit, read_sheet
from hovvet.core.sound.silence import Levels
from hovvet.core.view.rows import bars, rows
from tests.media import even_words

_edit: TypeAdapter[Edit] = TypeAdapter(Edit)


def sheet(seconds: float = 60.0) -> Sheet:
    return Sheet(pieces=(Piece(id="p1", recording="r", start=0, end=seconds),))


class Bounds(unittest.TestCase):
    def test_numbers_that_no_recording_has_are_refused_by_the_schema(self):
        for edit in (
            {"type": "trim_piece", "piece": "p1", "start": 0, "end": 1e15},
            {"type": "trim_piece", "piece": "p1", "start": 0, "end": 1e308},
            {"type": "cut_words", "piece": "p1", "words": [10**400]},
            {"type": "put_edition", "edition": {"id": "e1", "rate": {"num": 10**9, "den": 1}}},
            {"type": "put_edition", "edition": {"id": "e1", "rate": {"num": 1, "den": 10**400}}},
            {"type": "insert_pieces", "pieces": [{"id": "g", "recording": None, "start": 0, "end": 1e308}]},
        ):
            with self.assertRaises(ValidationError, msg=edit["type"]):
                _edit.validate_python(edit)

    def test_a_gap_and_a_clip_have_a_longest_length(self):
        with self.assertRaisesRegex(EditError, "gap is 0.1 to 60 seconds"):
            apply(sheet(), InsertPieces(pieces=(Piece(id="g", recording=None, start=0, end=LONGEST_GAP + 1),)))
        apply(sheet(), InsertPieces(pieces=(Piece(id="g", recording=None, start=0, end=LONGEST_GAP),)))
        with self.assertRaisesRegex(EditError, "at most 60 minutes"):
            apply(sheet(), TrimPiece(piece="p1", start=0, end=LONGEST_CLIP + 1))

    def test_what_is_over_a_limit_already_may_shrink_and_not_grow(self):
        desk = sheet(4 * 3600.0)
        self.assertEqual(len(apply(desk, CutWords(piece="p1", words=(1,))).pieces[0].word_cuts), 1)
        shorter = apply(desk, TrimPiece(piece="p1", start=0, end=2 * 3600.0))
        with self.assertRaises(EditError):
            apply(shorter, TrimPiece(piece="p1", start=0, end=3 * 3600.0))

    def test_pieces_editions_and_costly_layers_are_counted(self):
        splits = [SplitPiece(piece=f"s{n}" if n else "p1", at=(n + 1) * 0.02, fresh=f"s{n + 1}") for n in range(2_500)]
        began = time.process_time()
        with self.assertRaisesRegex(EditError, "2,000 pieces"):
            apply(sheet(), Batch(edits=tuple(splits)))
        self.assertLess(time.process_time() - began, 5)
        self.assertEqual(len(apply(sheet(), Batch(edits=tuple(splits[: MOST_PIECES - 1]))).pieces), MOST_PIECES)
        editions = [PutEdition(edition=Edition(id=f"x{n}")) for n in range(MOST_EDITIONS)]
        with self.assertRaisesRegex(EditError, "24 editions"):
            apply(sheet(), Batch(edits=tuple(editions)))
        waves = [PutLayer(layer=Layer(id=f"l{n}", content=Waveform())) for n in range(Waveform.most + 1)]
        full = apply(sheet(), Batch(edits=tuple(waves[:-1])))
        with self.assertRaisesRegex(EditError, "at most 10 layers of the kind “Audio waveform”"):
            apply(full, waves[-1])
        self.assertEqual(len(apply(full, Batch(edits=(RemoveLayer(layer="l0"), waves[-1]))).layers), Waveform.most)

    def test_copies_of_copies_end_before_they_are_many(self):
        made, names = sheet(1.0), ["p1"]
        began = time.process_time()
        with self.assertRaises(EditError):
            for _ in range(40):
                fresh = [f"c{len(names) + n}" for n in range(len(names))]
                made = apply(made, CopyPieces(pieces=tuple(names[:2_000]), fresh=tuple(fresh[:2_000])))
                names += fresh
        self.assertLess(time.process_time() - began, 5)

    def test_a_piece_ends_where_its_recording_does(self):
        longer = apply(sheet(50), TrimPiece(piece="p1", start=0, end=70))
        with self.assertRaisesRegex(CoreError, "ends at 1:00"):
            check_ends(sheet(50), longer, {"r": 60.0})
        check_ends(longer, longer, {"r": 60.0})  # as it was kept before

    def test_what_was_kept_without_limits_opens_within_them(self):
        rate = {"num": 10**400, "den": 1}
        stored = sheet().model_dump(mode="json") | {"editions": [{"id": "e1", "outlet": "tall", "rate": rate}]}
        stored["pieces"].append({"id": "g", "recording": None, "start": 0, "end": 300_000.0})
        opened, told = repaired(read_sheet(stored))
        self.assertIsNone(opened.editions[0].rate)
        self.assertEqual(opened.pieces[1].end, LONGEST_GAP)
        self.assertIn("gap", told)
        kept = read_edit({"type": "put_edition", "edition": {"id": "e1", "rate": rate}})
        self.assertIsNone(replayed(sheet(), _edit.validate_python(kept)).editions[0].rate)


class Growing(unittest.TestCase):
    """Times are of the processor, and generous: what these find is what grows with the square of what there is."""

    def compiled(self, made: Sheet, words: int, longest: float | None = LONGEST_CLIP):
        transcript = even_words(words)
        media = MediaInfo(duration=transcript.duration, has_picture=False, has_sound=True)
        source = Source(transcript, media, Levels(np.full(int(transcript.duration * 100), -20.0)))
        target = target_of(made, made.editions[0])
        target = type(target)(**{**target.__dict__, "longest": longest})
        scene = staged(made, {"r": source}, target)
        return scene, planned(scene, target)

    def test_thousands_of_cuts_in_one_edit_take_no_time(self):
        cuts = tuple(CutPause(piece="p1", start=n * 0.1, end=n * 0.1 + 0.05) for n in range(20_000))
        began = time.process_time()
        made = apply(sheet(3_000), Batch(edits=cuts))
        self.assertLess(time.process_time() - began, 2)
        self.assertEqual(len(made.pieces[0].pause_cuts), 20_000)

    def test_titles_over_an_hour_cost_little_each(self):
        span = Span(runs=(Run(origin="p1", start=10, end=20),))
        layers = tuple(Layer(id=f"l{n}", span=span, content=Title(text="One clock")) for n in range(Title.most))
        plain = sheet(3_600)
        began = time.process_time()
        self.compiled(plain, 9_000)
        bare = time.process_time() - began
        self.compiled(plain.model_copy(update={"layers": layers}), 9_000)
        both = time.process_time() - began
        self.assertLess(both - bare, 3 * bare + 1)

    def test_level_bars_move_for_five_minutes_and_say_so(self):
        made = apply(sheet(400), PutLayer(layer=Layer(id="l1", content=Waveform())))
        scene, plan = self.compiled(made, 1_000)
        drawn = [scene.shapes[0].first, scene.shapes[-1].last]
        self.assertEqual(drawn, [0, LONGEST_BARS * plan.rate.fps])
        (bar,) = bars(made, scene, rows(made, scene))
        self.assertIn("5 minutes", bar.note)

    def test_freeze_frames_cannot_make_a_clip_longer_than_clips_are(self):
        made = sheet(3_590)
        spans = [Span(runs=(Run(origin="p1", start=n * 10.0, end=n * 10.0 + 5),)) for n in range(5)]
        holds = [Layer(id=f"l{n}", span=span, content=Freeze(seconds=LONGEST_FREEZE)) for n, span in enumerate(spans)]
        held = made.model_copy(update={"layers": tuple(holds)})
        with self.assertRaisesRegex(CoreError, "freeze frames"):
            self.compiled(held, 9_000)
        self.compiled(held, 9_000, longest=None)  # one that was kept before opens
