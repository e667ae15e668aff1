"""Layers on words: where they are after any edits, and what they make of the plan."""

import unittest
from itertools import pairwise

from hypothesis import given, settings
from hypothesis import strategies as st

from hovvet.core.captions.style import CaptionStyle
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile
from hovvet.core.compile.target import Target
from hovvet.core.formats.subtitles import subtitles
from hovvet.core.media.info import MediaInfo
from hovvet.core.plan.knots import place_at, source_frame, value_at
from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import outlet
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.asking import (
    AddGap,
    AddWords,
    Around,
    Lay,
    Move,
    PunchAtCuts,
    SetApart,
    SplitBefore,
    Trim,
    edit_for,
)
from hovvet.core.sheet.contents.fades import Fades
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.freeze import Freeze
from hovvet.core.sheet.contents.marker import Marker
from hovvet.core.sheet.contents.punch import Punch
from hovvet.core.sheet.contents.speed import Speed
from hovvet.core.sheet.contents.transition import Transition
from hovvet.core.sheet.copying import dressing_edit, parts_of
from hovvet.core.sheet.edits import BringBack, CutWords, EditError, RemoveLayer, RemovePiece, SplitPiece
from hovvet.core.sheet.limits import LONGEST_GAP, SHORTEST_GAP
from hovvet.core.sheet.model import Edition, Layer, Sheet, WordRef
from hovvet.core.sheet.places import Places
from hovvet.core.sheet.starting import clip_sheet, desk_sheet
from hovvet.core.sound.silence import Levels
from hovvet.core.time import SAMPLE_RATE, Rate
from hovvet.core.words.transcript import Transcript
from tests.media import even_words

WORDS = even_words(40)
OTHER = even_words(30, length=0.25, gap=0.15)
INFO = MediaInfo(duration=WORDS.duration, has_picture=True, has_sound=True, width=1920, height=1080)
SOURCES = {
    "r1": Source(WORDS, INFO),
    "r2": Source(OTHER, INFO.model_copy(update={"duration": OTHER.duration, "rate": Rate(num=25), "lufs": -24.0})),
}
TRANSCRIPTS = {key: source.transcript for key, source in SOURCES.items()}
DESKS = {"r2": desk_sheet("r2", OTHER.duration)}
AROUND = Around(TRANSCRIPTS, Rate(), DESKS)
CLIP = clip_sheet(desk_sheet("r1", WORDS.duration), WORDS, 1, 40)


def ref(word: int | None, origin: str = "p1") -> WordRef:
    return WordRef(origin=origin, word=word)


def asked(sheet: Sheet, *asks) -> Sheet:
    for ask in asks:
        sheet = apply(sheet, edit_for(ask, sheet, AROUND))
    return sheet


def laid(content, first: int, last: int) -> Sheet:
    return asked(CLIP, Lay(content=content, first=ref(first), last=ref(last)))


def planned(sheet: Sheet, **more) -> Plan:
    return compile(sheet, SOURCES, Target(outlet("tall"), **more))


def lies_over(sheet: Sheet, transcripts: dict[str, Transcript] | None = None, n: int = 0) -> list[int | None]:
    """The words, kept ones only, that a layer of a sheet lies over."""
    places = Places(sheet, transcripts or TRANSCRIPTS)
    kept = places.kept(sheet.layers[n].span)
    if kept is None:
        return []
    stands = places.spots[kept[0] : kept[1] + 1]
    return [stand.word.id if stand.word else None for stand in stands if stand.kept]


spans = st.tuples(st.integers(1, 40), st.integers(1, 40)).map(sorted)


class OnWords(unittest.TestCase):
    @given(spans, st.lists(st.integers(1, 40), min_size=1, max_size=20, unique=True))
    def test_cut_then_brought_back_nothing_has_changed(self, span, cut):
        sheet = laid(Marker(), *span)
        struck = apply(sheet, CutWords(piece="p1", words=tuple(cut)))
        self.assertEqual(lies_over(struck), [n for n in range(span[0], span[1] + 1) if n not in cut])
        self.assertEqual(apply(struck, BringBack(piece="p1", words=tuple(cut))), sheet)

    @given(spans, st.integers(2, 39), st.integers(0, 12))
    def test_there_and_back_it_lies_over_the_same(self, span, first, length):
        last = min(first + length, 39)
        sheet = laid(Marker(), *span)
        there = asked(sheet, Move(first=ref(first), last=ref(last), before=ref(1)))
        back = asked(there, Move(first=ref(first), last=ref(last), before=ref(last + 1)))
        self.assertEqual(back.layers, sheet.layers)
        self.assertEqual(lies_over(back), lies_over(sheet))

    @given(spans, st.integers(2, 40))
    def test_a_split_changes_nothing_for_it(self, span, at):
        sheet = laid(Marker(), *span)
        self.assertEqual(lies_over(asked(sheet, SplitBefore(word=ref(at)))), lies_over(sheet))

    @given(spans, st.lists(st.tuples(st.integers(1, 40), st.integers(0, 6), st.integers(1, 40)), max_size=5))
    def test_wherever_words_are_moved_it_lies_over_some_of_its_own(self, span, moves):
        sheet = laid(Marker(), *span)
        for first, length, before in moves:
            order = [stand.word.id for stand in Places(sheet, TRANSCRIPTS).spots]
            last = order[min(order.index(first) + length, 39)]
            sheet = asked(sheet, Move(first=ref(first), last=ref(last), before=ref(before)))
        over = lies_over(sheet)
        own = [n for n in over if span[0] <= n <= span[1]]
        self.assertGreater(len(own), 0)
        self.assertTrue(own[0] == over[0] and own[-1] == over[-1], "it begins and ends with its own")
        self.assertLessEqual(len(over), 2 * len(own), "and takes in no more than a few others")

    def test_all_its_words_cut_it_sleeps_and_wakes(self):
        sheet = laid(Marker(note="look here"), 5, 8)
        self.assertEqual([mark.note for mark in planned(sheet).markers], ["look here"])
        struck = apply(sheet, CutWords(piece="p1", words=(5, 6, 7, 8)))
        self.assertEqual((planned(struck).markers, len(struck.layers)), ((), 1))
        self.assertEqual(len(planned(apply(struck, BringBack(piece="p1", words=(6,)))).markers), 1)

    def test_markers_are_comments_of_a_vtt_file(self):
        plan = planned(laid(Marker(note="a --> b\nand c"), 5, 8))
        vtt = subtitles(plan, "vtt")
        self.assertTrue(vtt.startswith("WEBVTT\n\nNOTE 00:00:01.733 a → b and c\n\n"), vtt[:90])
        self.assertEqual(vtt.count("-->"), len(plan.captions))
        self.assertNotIn("NOTE", subtitles(plan, "srt"))

    def test_words_that_move_take_it_along_and_a_repeat_does_not(self):
        sheet = laid(Marker(), 20, 24)
        moved = asked(sheet, Move(first=ref(20), last=ref(24), before=ref(1)))
        self.assertEqual((lies_over(moved), planned(moved).markers[0].first), ([20, 21, 22, 23, 24], 0))
        twice = asked(sheet, Move(first=ref(20), last=ref(24), before=ref(1), repeat=True))
        self.assertGreater(planned(twice).markers[0].first, planned(sheet).markers[0].first)

    def test_a_piece_that_is_taken_away_and_a_word_that_a_correction_split(self):
        sheet = asked(laid(Marker(), 30, 36), SplitBefore(word=ref(33)))
        gone = apply(sheet, RemovePiece(piece=sheet.pieces[1].id))
        self.assertEqual(lies_over(gone), [30, 31, 32])
        other = WORDS.model_copy(
            update={"words": tuple(w.model_copy(update={"id": 900}) if w.id == 30 else w for w in WORDS.words)}
        )
        self.assertEqual(lies_over(sheet, {"r1": other}), [900, 31, 32, 33, 34, 35, 36])

    def test_laid_again_over_the_same_words_it_takes_the_place_of_what_was_there(self):
        sheet = laid(Speed(rate=2), 5, 8)
        again = asked(sheet, Lay(content=Speed(rate=3), first=ref(5), last=ref(8)))
        self.assertEqual([layer.content.rate for layer in again.layers], [3])
        notes = asked(laid(Marker(), 5, 8), Lay(content=Marker(), first=ref(5), last=ref(8)))
        self.assertEqual(len(notes.layers), 2, "two notes may stand at one word")


class Compiled(unittest.TestCase):
    @given(
        st.lists(st.tuples(spans, st.sampled_from(["speed", "freeze", "framing", "transition"])), max_size=6),
        st.lists(st.integers(1, 40), max_size=12, unique=True),
        st.sampled_from([Rate(), Rate(num=25), Rate(num=30000, den=1001)]),
    )
    @settings(max_examples=60)
    def test_any_layers_leave_every_frame_and_sample_covered_and_no_word_lost(self, layers, cut, rate):
        contents = {
            "speed": Speed(rate=1.7), "freeze": Freeze(seconds=0.7), "framing": Framing(mode="fill"), "transition": Transition(),
        }  # fmt: skip
        sheet = apply(CLIP, CutWords(piece="p1", words=tuple(cut))) if cut else CLIP
        for (first, last), kind in layers:
            sheet = asked(sheet, Lay(content=contents[kind], first=ref(first), last=ref(last)))
        plan = planned(sheet, rate=rate)
        self.assertEqual([word.id for word in plan.words], [n for n in range(1, 41) if n not in cut])
        self.assertTrue(all(a.end <= b.start + 1e-6 for a, b in zip(plan.words, plan.words[1:], strict=False)))
        covered = [0] * plan.frames
        for layer in plan.picture:
            self.assertTrue(0 <= layer.first < layer.last <= plan.frames)
            for frame in range(layer.first, layer.last):
                covered[frame] += value_at(layer.opacity, frame) == 1 and layer.source.type == "video"
        fades = sum(2 * layer.opacity[-1].at for layer in plan.picture if layer.opacity)
        self.assertTrue(all(covered) or fades, "something is seen in every frame")
        self.assertEqual(plan.samples, rate.sample(plan.frames))
        self.assertTrue(all(s.sample >= 0 and s.sample + s.samples <= plan.samples for s in plan.sound))
        at = 0
        for stretch in plan.stretches:
            self.assertEqual(stretch.frame, at)
            at += stretch.frames
        self.assertEqual(at, plan.frames)

    def test_a_hold_stops_the_picture_and_moves_the_rest(self):
        before, after = planned(CLIP), planned(laid(Freeze(seconds=2, sound="silence"), 10, 10))
        self.assertEqual(after.frames, before.frames + 60)
        knots = after.picture[0].source.knots
        held = [source_frame(knots, n) for n in range(after.frames)]
        still = [n for n in range(1, after.frames) if held[n] == held[n - 1]]
        self.assertEqual((len(still), still[-1] - still[0]), (60, 59))
        self.assertAlmostEqual(after.words[9].start, before.words[9].start + 2, delta=0.04)
        silent = [layer for layer in after.sound if layer.sample > after.sound[0].sample]
        self.assertEqual(len(silent), 1, "nothing is heard while it is held")

    def test_a_hold_in_the_sound_of_the_room(self):
        import numpy as np

        level = np.full(2000, -30.0)
        level[700:760] = -60.0
        room = {"r1": Source(WORDS, INFO, Levels(level))}
        plan = compile(laid(Freeze(seconds=2), 10, 10), room, Target(outlet("tall")))
        quiet = [layer for layer in plan.sound if 7.0 <= layer.source_sample / SAMPLE_RATE <= 7.2]
        self.assertGreaterEqual(len(quiet), 6, "the quietest moment, again and again")

    def test_a_speed_is_eased_and_ends_where_what_follows_begins(self):
        plan = planned(laid(Speed(rate=2.0, ramp=0.4), 10, 20))
        self.assertEqual(len(plan.picture), 1, "no cut in it")
        frames = [source_frame(plan.picture[0].source.knots, n) for n in range(plan.frames)]
        steps = [b - a for a, b in pairwise(frames)]
        self.assertTrue(all(0 <= step <= 2 for step in steps))
        self.assertEqual((steps[0], steps[-1]), (1, 1))
        self.assertGreater(steps.count(2), 60 * 0.6)
        (made,) = plan.prepared
        inside = next(layer for layer in plan.sound if layer.media == made.media)
        self.assertLessEqual(inside.source_sample + inside.samples, made.samples)
        self.assertTrue(all(a[0] < b[0] and a[1] < b[1] for a, b in zip(made.knots, made.knots[1:], strict=False)))
        muted = planned(laid(Speed(rate=2.0, sound="muted"), 10, 20))
        self.assertEqual((muted.prepared, muted.frames), ((), planned(laid(Speed(rate=2.0), 10, 20)).frames))

    def test_a_crossfade_takes_no_time_and_never_stands_at_the_beginning(self):
        cut = apply(CLIP, CutWords(piece="p1", words=(10,)))
        sheet = asked(cut, Lay(content=Transition(seconds=0.4, sound=0.2)))
        plan, plain = planned(sheet), planned(cut)
        self.assertEqual(plan.frames, plain.frames)
        first, second = plan.picture
        self.assertEqual((first.opacity, first.last - second.first), ((), 12))
        self.assertEqual([value_at(second.opacity, n) for n in (second.first, second.first + 6)], [0, 0.5])
        self.assertEqual((plan.sound[0].fade_out, plan.sound[1].fade_in), (9600, 9600))
        one = asked(cut, Lay(content=Transition(picture="dip"), first=ref(11), last=ref(11)))
        self.assertEqual([layer.source.type for layer in planned(one).picture], ["video", "video", "fill"])
        nowhere = asked(cut, Lay(content=Transition(), first=ref(1), last=ref(5)))
        self.assertEqual(planned(nowhere).picture, plain.picture, "there is no join before these words")

    def test_the_ends_have_fades_of_their_own(self):
        plan = planned(asked(CLIP, Lay(content=Fades(fade_in=0.5, fade_out=1))))
        rise, fall = plan.picture[1:]
        self.assertEqual((rise.first, rise.last, fall.last - fall.first, fall.last), (0, 15, 30, plan.frames))
        self.assertEqual((plan.sound[0].fade_in, plan.sound[-1].fade_out), (24_000, 48_000))

    def test_framing_holds_for_its_words_alone(self):
        plan = planned(laid(Framing(mode="fill", across=0.0), 10, 12))
        kinds = [layer.backdrop is None for layer in plan.picture]
        self.assertEqual(kinds, [False, True, False])
        self.assertEqual(plan.picture[1].crop.x, 0)
        self.assertEqual(plan.picture[0].last, plan.picture[1].first)

    def test_an_edition_may_leave_a_layer_out(self):
        sheet = laid(Marker(), 5, 8)
        self.assertEqual(planned(sheet, hidden=frozenset({sheet.layers[0].id})).markers, ())


class SeveralRecordings(unittest.TestCase):
    SHEET = asked(CLIP, AddWords(recording="r2", first=3, last=6, before=ref(10)), AddGap(seconds=1.5, before=ref(20)))

    def test_words_of_another_recording_and_a_gap_stand_where_they_were_put(self):
        plan = planned(self.SHEET)
        heard = [(word.piece, word.id) for word in plan.words]
        at = [
            n for n, (_, word) in enumerate(heard) if heard[n][0] not in ("p1", heard[-1][0]) and word in (3, 4, 5, 6)
        ]
        self.assertEqual(at, [9, 10, 11, 12])
        gap = next(stretch for stretch in plan.stretches if stretch.recording is None)
        self.assertEqual(gap.frames, 45)
        self.assertFalse([layer for layer in plan.picture if layer.first < gap.frame + 45 and layer.last > gap.frame])
        self.assertEqual(self.SHEET.recordings, ("r1", "r2"))

    def test_each_has_its_own_gain_and_is_counted_at_the_rate_of_the_plan(self):
        for rate in (None, Rate(num=25), Rate(num=50)):
            plan = planned(self.SHEET, rate=rate)
            self.assertEqual({layer.gain for layer in plan.sound if layer.media == "r2"}, {10.0})
            self.assertEqual({layer.gain for layer in plan.sound if layer.media == "r1"}, {0.0})
            other = next(layer for layer in plan.picture if layer.source.media == "r2")
            begins = OTHER.word(3).start - 0.1
            self.assertAlmostEqual(other.source.knots[0].source / plan.rate.fps, begins, delta=0.06)
        self.assertEqual(planned(self.SHEET).rate, Rate(), "that of what is shown longest")

    def test_what_is_gone_is_left_out_and_the_rest_stays(self):
        plan = compile(self.SHEET, {"r1": SOURCES["r1"]}, Target(outlet("tall")))
        self.assertEqual([word.id for word in plan.words], list(range(1, 41)))

    def test_what_cannot_be_added_is_refused(self):
        for ask in (
            AddGap(seconds=0, before=None),
            AddGap(seconds=99, before=None),
            AddWords(recording="r9", first=1, last=2, before=None),
            Lay(content=Marker(), first=ref(99), last=ref(99)),
            Lay(content=Marker(), layer="l9"),
            Trim(piece="p9", edge="start"),
        ):
            with self.assertRaises(EditError, msg=ask):
                asked(CLIP, ask)
        with self.assertRaises(EditError):
            gap = next(piece for piece in self.SHEET.pieces if piece.is_gap)
            apply(self.SHEET, SplitPiece(piece=gap.id, at=0.5, fresh="x1"))


class Trimmed(unittest.TestCase):
    PART = clip_sheet(desk_sheet("r1", WORDS.duration), WORDS, 10, 20)

    def words(self, *asks) -> list[int]:
        return [word.id for word in planned(asked(self.PART, *asks)).words]

    def test_by_words_beyond_the_edge_or_inside_it(self):
        self.assertEqual(self.words(Trim(piece="p1", edge="start", word=7)), list(range(7, 21)))
        self.assertEqual(self.words(Trim(piece="p1", edge="end", word=15)), list(range(10, 16)))
        with self.assertRaisesRegex(EditError, "must keep something"):
            self.words(Trim(piece="p1", edge="start", word=30))

    def test_by_frames(self):
        before, after = planned(self.PART), planned(asked(self.PART, Trim(piece="p1", edge="start", frames=-15)))
        self.assertEqual(after.frames, before.frames + 15)
        there_and_back = [Trim(piece="p1", edge="end", frames=n) for n in (7, -7)]
        self.assertAlmostEqual(asked(self.PART, *there_and_back).pieces[0].end, self.PART.pieces[0].end)

    def test_a_gap_within_its_limits(self):
        sheet = asked(self.PART, AddGap(seconds=2, before=None))
        gap = next(piece for piece in sheet.pieces if piece.is_gap)
        for frames, seconds in ((15, 2.5), (-9_000, SHORTEST_GAP), (9_000, LONGEST_GAP)):
            trimmed = asked(sheet, Trim(piece=gap.id, edge="end", frames=frames))
            self.assertAlmostEqual(trimmed.piece(gap.id).end, seconds)

    def test_to_the_sentence(self):
        full = {4, 17, 25}
        words = tuple(w.model_copy(update={"text": f"{w.text}."}) if w.id in full else w for w in WORDS.words)
        around = Around({"r1": WORDS.model_copy(update={"words": words})}, Rate(), {})
        sheet = self.PART
        for edge in ("start", "end"):
            sheet = apply(sheet, edit_for(Trim(piece="p1", edge=edge, sentence=True), sheet, around))
        self.assertEqual([word.id for word in planned(sheet).words], list(range(5, 26)))


STYLE = CaptionStyle(key="own-1", name="Workshop", font="hand")


class Dressing(unittest.TestCase):
    def test_what_is_set_for_all_of_a_clip_can_be_laid_onto_another(self):
        dressed = asked(
            CLIP, Lay(content=Framing(mode="fill")), Lay(content=Fades()), Lay(content=Marker(), first=ref(2))
        )
        dressed = dressed.model_copy(
            update={"style": STYLE, "editions": (Edition(id="e1", outlet="square"), Edition(id="e2", outlet="wide"))}
        )
        self.assertEqual(set(parts_of(dressed)), {"captions", "editions", "framing", "fades"})
        plain = asked(CLIP, Lay(content=Framing()))
        got = apply(plain, dressing_edit(plain, dressed, {"captions", "editions", "framing"}))
        self.assertEqual((got.caption_style, got.editions), (STYLE, dressed.editions))
        self.assertEqual([layer.content for layer in got.layers], [Framing(mode="fill")])
        self.assertEqual(Layer(id="l9", content=Fades()).span.is_whole, True)


class Closer(unittest.TestCase):
    """Punch-ins: the point that the picture goes towards stays where it was, and what was covered stays covered."""

    @given(
        st.sampled_from(["tall", "square", "wide"]),
        st.sampled_from(["fit", "fill"]),
        st.sampled_from(["at once", "slowly"]),
        st.floats(1.05, 2),
        st.floats(0, 1),
        st.floats(0, 1),
    )
    def test_the_point_stays_and_nothing_is_uncovered(self, where, mode, move, amount, across, down):
        punch = Punch(amount=amount, move=move, across=across, down=down)
        sheet = asked(CLIP, Lay(content=Framing(mode=mode)), Lay(content=punch, first=ref(10), last=ref(20)))
        plan = compile(sheet, SOURCES, Target(outlet(where)))
        before, during, after = plan.picture
        widths = []
        for frame in range(during.first, during.last):
            usual, place = before.place[0], place_at(during.place, frame)
            high = usual.width * during.crop.height / during.crop.width
            times = place.width / usual.width
            widths.append(times)
            for own, old, side, share in (
                (place.x, usual.x, usual.width, across), (place.y, usual.y, high, down),
            ):  # fmt: skip
                self.assertAlmostEqual(own + (share - 0.5) * side * times, old + (share - 0.5) * side, delta=0.02)
                self.assertLessEqual(own - side * times / 2, old - side / 2 + 0.02)
                self.assertGreaterEqual(own + side * times / 2, old + side / 2 - 0.02)
        self.assertEqual(widths, sorted(widths), "never back")
        self.assertAlmostEqual(widths[-1], amount, delta=0.001)
        self.assertAlmostEqual(widths[0], amount if move == "at once" else 1.0, delta=0.001)
        self.assertEqual(after.place, before.place)

    def test_every_other_shot_between_cuts_is_closer(self):
        cut = apply(CLIP, CutWords(piece="p1", words=(10, 20, 21, 30)))
        sheet = asked(cut, PunchAtCuts(content=Punch(amount=1.3)))
        self.assertEqual([lies_over(sheet, n=n) for n in range(2)], [[*range(11, 20)], [*range(31, 41)]])
        widths = [layer.place[0].width for layer in planned(sheet).picture]
        self.assertEqual(widths, [1080.0, 1404.0, 1080.0, 1404.0])
        self.assertEqual(len(asked(sheet, PunchAtCuts()).layers), 2, "again: those before go")
        self.assertEqual(lies_over(asked(cut, PunchAtCuts(first=ref(15), last=ref(25)))), [22, 23, 24, 25])

    def test_where_nothing_jumps_it_says_so(self):
        with self.assertRaisesRegex(EditError, "no cut"):
            asked(CLIP, PunchAtCuts())

    def test_a_shot_is_long_enough_to_be_seen(self):
        cut = apply(CLIP, CutWords(piece="p1", words=(10, 12, 14, 30)))
        sheet = asked(cut, PunchAtCuts())
        self.assertEqual(lies_over(sheet)[0], 11)
        self.assertGreaterEqual(len(lies_over(sheet)), 5)


class Apart(unittest.TestCase):
    """What one edition has otherwise than the others."""

    def setUp(self) -> None:
        both = (Edition(id="e1", outlet="tall"), Edition(id="e2", outlet="wide"))
        self.sheet = asked(CLIP.model_copy(update={"editions": both}), Lay(content=Framing(mode="fill")))

    def framings(self, sheet: Sheet) -> dict[str, list[Framing]]:
        return {
            edition.id: [layer.content for layer in sheet.layers if layer.id not in edition.hidden]
            for edition in sheet.editions
        }

    def test_a_copy_is_that_editions_alone(self):
        apart = asked(self.sheet, SetApart(layer=self.sheet.layers[0].id, edition="e2"))
        self.assertEqual(self.framings(apart), {"e1": [Framing(mode="fill")], "e2": [Framing(mode="fill")]})
        copy = apart.layers[-1].id
        changed = asked(apart, Lay(content=Framing(colour="#ffffff"), layer=copy))
        self.assertEqual(self.framings(changed), {"e1": [Framing(mode="fill")], "e2": [Framing(colour="#ffffff")]})
        again = asked(changed, Lay(content=Framing(), edition="e2"))
        self.assertEqual(self.framings(again), {"e1": [Framing(mode="fill")], "e2": [Framing()]}, "its own is changed")

    def test_what_is_laid_later_is_not_left_out_for_another_ones_sake(self):
        apart = asked(self.sheet, SetApart(layer=self.sheet.layers[0].id, edition="e2"))
        without = apply(apart, RemoveLayer(layer=apart.layers[-1].id))
        later = asked(without, Lay(content=Fades()))
        self.assertFalse(any(later.layers[-1].id in edition.hidden for edition in later.editions))

    def test_it_is_told_where_there_is_nothing_to_be_apart_from(self):
        alone = asked(CLIP, Lay(content=Framing()))
        for sheet, layer, edition in ((alone, "l1", "e1"), (self.sheet, "l9", "e1"), (self.sheet, "l1", "e9")):
            with self.assertRaises(EditError):
                asked(sheet, SetApart(layer=layer, edition=edition))
