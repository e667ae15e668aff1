"""To another editor and back: cuts exact to the frame, one change of the sheet, and nothing taken from elsewhere."""

import json
import unittest

import opentimelineio as otio
from hypothesis import given, settings
from hypothesis import strategies as st

from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import planned, staged
from hovvet.core.compile.target import Target
from hovvet.core.errors import CoreError
from hovvet.core.formats.interchange import OURS, SPEECH, Medium, timeline, written
from hovvet.core.formats.interchange_in import Read, TakenIn, read_apart, read_here, shape_of, taken_in
from hovvet.core.media.info import MediaInfo
from hovvet.core.plan.outlets import OUTLETS
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.sheet.contents.freeze import Freeze
from hovvet.core.sheet.contents.marker import Marker
from hovvet.core.sheet.contents.sound import Sound
from hovvet.core.sheet.contents.speed import Speed
from hovvet.core.sheet.contents.transition import Transition
from hovvet.core.sheet.edits import Batch, CutPause, CutWords
from hovvet.core.sheet.model import Layer, Piece, Sheet, WordRef
from hovvet.core.sheet.places import Places
from hovvet.core.time import Rate
from hovvet.core.words.transcript import Transcript
from tests.media import even_words

RATES = (Rate(num=25, den=1), Rate(num=30000, den=1001), Rate(num=24, den=1), Rate(num=60, den=1))
WORDS = even_words(40, length=0.311, gap=0.263)
FILM = MediaInfo(duration=30, has_picture=True, has_sound=True, width=960, height=540, rate=RATES[0])
MEDIA = {
    "r1": Medium("talk.mp4", "A talk", "01:00:00:00", 30.0),
    "r2": Medium("other.mp4", "Another one", "", 30.0),
    "film": Medium("gears.mp4", "Gears", "", 30.0),
    "music": Medium("hope.mp3", "Hope", "", 60.0),
    "still": Medium("clock.png", "A clock"),
}


class Going:
    """A sheet, compiled, to be sent and taken in again."""

    def __init__(self, sheet: Sheet, rate: Rate = RATES[0]) -> None:
        self.sheet = sheet
        music = Source(Transcript(duration=60), MediaInfo(duration=60, has_picture=False, has_sound=True))
        self.sources = {
            "r1": Source(WORDS, FILM),
            "r2": Source(WORDS, FILM),
            "film": Source(Transcript(duration=30), FILM),
            "music": music,
        }
        target = Target(OUTLETS["wide"], rate=rate, pictures={"still": (800, 600)})
        self.scene = staged(sheet, self.sources, target)
        self.plan = planned(self.scene, target)

        self._given: list[otio.schema.Timeline] = []  # a timeline takes its tracks along when it is let go of

    @property
    def whole(self) -> otio.schema.Timeline:
        """A fresh one."""
        self._given.append(self._whole())
        return self._given[-1]

    def _whole(self) -> otio.schema.Timeline:
        return timeline("A clip", self.plan, self.scene, MEDIA)

    @property
    def cuts(self) -> list[tuple[str | None, int, int]]:
        """What is shown, from which frame of it, for how many."""
        fps = self.plan.rate.fps
        return [(each.recording, int(each.start * fps + 0.5), each.frames) for each in self.plan.stretches]

    def back(self, whole: otio.schema.Timeline, known: dict[str, str] | None = None) -> TakenIn:
        read = read_here(whole.to_json_string())
        own = self.whole
        others = [json.loads(json.dumps(shape_of(each))) for each in own.tracks if each.name != SPEECH]
        return taken_in(read, self.sheet, self.plan, others, {"r1": WORDS, "r2": WORDS}, known or {})


def sheet_of(*pieces: Piece, layers: tuple[Layer, ...] = ()) -> Sheet:
    return Sheet(pieces=pieces, layers=layers, captions="bold")


def cut_sheet() -> Sheet:
    """One piece with words and a pause taken out, then a gap, then a piece of another recording."""
    sheet = sheet_of(
        Piece(id="p1", recording="r1", start=0.44, end=12.1),
        Piece(id="g1", recording=None, start=0, end=1.6),
        Piece(id="p2", recording="r2", start=5.0, end=9.0),
    )
    cut = CutWords(piece="p1", words=(5, 6, 13)), CutPause(piece="p1", start=1.99, end=2.19)
    return apply(sheet, Batch(edits=cut))


def layered() -> Sheet:
    sheet = cut_sheet()
    places = Places(sheet, {"r1": WORDS, "r2": WORDS})

    def over(first: int, last: int):
        return places.over(WordRef(origin="p1", word=first), WordRef(origin="p1", word=last))

    kinds = (
        (Broll(media="film", start=3.0), 2, 4), (Broll(media="still"), 3, 8), (Sound(media="music"), 2, 10),
        (Marker(note="Look – here"), 9, 9), (Transition(seconds=0.4), 7, 7), (Freeze(seconds=1.0), 10, 10), (Speed(), 16, 17),
    )  # fmt: skip
    laid = [Layer(id=f"l{n}", span=over(a, b), content=content) for n, (content, a, b) in enumerate(kinds)]
    return sheet.model_copy(update={"layers": tuple(laid)})


def speech_of(whole: otio.schema.Timeline) -> otio.schema.Track:
    return next(each for each in whole.tracks if each.name == SPEECH and each.kind == "Video")


def frames_of(track: otio.schema.Track, offset: int = 0) -> list[tuple[int, int]]:
    """(first frame, frames) of its clips."""
    found = []
    for item in track:
        if isinstance(item, otio.schema.Clip):
            start = item.source_range.start_time - item.media_reference.available_range.start_time
            found.append((round(start.value), round(item.source_range.duration.value)))
    return found


class Goes(unittest.TestCase):
    def test_every_stretch_pause_and_speed_is_in_it_frame_by_frame(self):
        for rate in RATES:
            going = Going(layered(), rate)
            track = speech_of(going.whole)
            self.assertEqual(frames_of(track), [(first, count) for recording, first, count in going.cuts if recording])
            self.assertEqual(round(track.duration().value), going.plan.frames)
            kinds = [
                type(each.effects[0]).__name__ for each in track if isinstance(each, otio.schema.Clip) and each.effects
            ]
            self.assertIn("FreezeFrame", kinds)
            self.assertIn("LinearTimeWarp", kinds)
            (join,) = [each for each in track if isinstance(each, otio.schema.Transition)]
            self.assertEqual(round((join.in_offset + join.out_offset).to_seconds(), 1), 0.4)

    def test_pictures_sounds_captions_and_markers_are_on_tracks_of_their_own_by_the_names_of_their_files(self):
        going = Going(layered())
        tracks = {each.name: each for each in going.whole.tracks if each.name != SPEECH}
        self.assertEqual(
            [*tracks], ["Over words 1", "Over words 2", "Captions", "Music 1"], "two pictures lie over one another"
        )
        urls = {clip.media_reference.target_url for each in tracks.values() for clip in each.find_clips()
                if isinstance(clip.media_reference, otio.schema.ExternalReference)}  # fmt: skip
        self.assertEqual(urls, {"gears.mp4", "clock.png", "hope.mp3"})
        gears = next(clip for clip in tracks["Over words 1"].find_clips() if clip.name == "Gears")
        self.assertEqual(gears.source_range.start_time.to_seconds(), 3.0)
        self.assertEqual(len(list(tracks["Captions"].find_clips())), len(going.plan.captions))
        (mark,) = going.whole.tracks.markers
        self.assertEqual((mark.name, mark.marked_range.start_time.value), ("Look – here", going.plan.markers[0].first))

    def test_media_begin_with_their_timecode(self):
        clip = next(iter(speech_of(Going(cut_sheet()).whole).find_clips()))
        self.assertEqual(clip.media_reference.available_range.start_time.to_timecode(), "01:00:00:00")
        self.assertEqual(clip.source_range.start_time.to_timecode(), "01:00:00:11")

    @settings(deadline=None, max_examples=15)
    @given(st.sets(st.integers(1, 28), max_size=14), st.sampled_from(RATES))
    def test_an_edl_says_the_same_cuts(self, words, rate):
        sheet = sheet_of(Piece(id="p1", recording="r1", start=0.2, end=16.0))
        if words:
            sheet = apply(sheet, CutWords(piece="p1", words=tuple(words)))
        going = Going(sheet, rate)
        nominal = float(round(rate.fps))
        edl = written("A clip", going.plan, going.scene, MEDIA, "edl")
        read = otio.adapters.read_from_string(edl, "cmx_3600", rate=nominal)
        begins = otio.opentime.from_timecode("01:00:00:00", nominal).value
        came = [
            (round(c.source_range.start_time.value - begins), round(c.source_range.duration.value))
            for c in read.tracks[0]
        ]
        self.assertEqual(came, [(first, count) for _, first, count in going.cuts])

    def test_an_edl_has_its_gaps_and_its_markers(self):
        going = Going(layered())
        edl = written("A clip, “quoted”", going.plan, going.scene, MEDIA, "edl")
        self.assertIn("* LOC: ", edl)
        self.assertTrue(edl.isascii())
        read = otio.adapters.read_from_string(edl, "cmx_3600", rate=25)
        self.assertEqual(round(read.tracks[0].duration().value), going.plan.frames)


class ComesBack(unittest.TestCase):
    @settings(deadline=None, max_examples=20)
    @given(st.sets(st.integers(1, 28), max_size=14), st.sampled_from(RATES))
    def test_what_comes_back_as_it_went_changes_nothing(self, words, rate):
        sheet = layered()
        if words:
            sheet = apply(sheet, CutWords(piece="p1", words=tuple(words)))
        going = Going(sheet, rate)
        self.assertEqual(going.back(going.whole), TakenIn(None, []))

    @settings(deadline=None, max_examples=20)
    @given(st.data(), st.sampled_from(RATES))
    def test_any_other_order_is_one_change_and_shows_just_that(self, data, rate):
        going = Going(cut_sheet(), rate)
        whole = going.whole
        track = speech_of(whole)
        items = [each.deepcopy() for each in track]
        order = data.draw(st.permutations(range(len(items))))
        kept = order[: data.draw(st.integers(1, len(items)))]
        del track[:]
        track.extend([items[n].deepcopy() for n in kept])
        taken = going.back(whole)
        after = Going(apply(going.sheet, taken.edit), rate) if taken.edit else going
        self.assertEqual(merged(after.cuts), merged([going.cuts[n] for n in kept]))
        self.assertEqual(taken.left_out, [])

    @settings(deadline=None, max_examples=20)
    @given(st.integers(0, 3), st.integers(-6, 6), st.integers(-6, 6))
    def test_a_clip_that_was_trimmed_there_is_trimmed_here_by_as_many_frames(self, which, earlier, later):
        going = Going(cut_sheet())
        whole = going.whole
        clips = [each for each in speech_of(whole) if isinstance(each, otio.schema.Clip)]
        clip = clips[which]
        span = clip.source_range
        start, lasts = span.start_time.value + earlier, span.duration.value - earlier + later
        clip.source_range = otio.opentime.TimeRange(
            otio.opentime.RationalTime(start, 25), otio.opentime.RationalTime(max(lasts, 2), 25)
        )
        taken = going.back(whole)
        after = Going(apply(going.sheet, taken.edit)) if taken.edit else going
        wanted = frames_of(speech_of(whole))
        self.assertEqual(
            sum(count for _, count in frames_of(speech_of(after.whole))), sum(count for _, count in wanted)
        )
        self.assertEqual(frames_of(speech_of(after.whole))[0][0], wanted[0][0])

    def test_what_lies_over_words_stays_with_them(self):
        going = Going(layered())
        whole = going.whole
        track = speech_of(whole)
        last = track[-1].deepcopy()
        del track[-1]
        track.insert(0, last)
        taken = going.back(whole)
        after = Going(apply(going.sheet, taken.edit))
        before = {each.layer: each.reach for each in going.scene.laid}
        now = {each.layer: each.reach for each in after.scene.laid}
        self.assertEqual(before.keys(), now.keys())
        shift = round(last.source_range.duration.value)
        self.assertEqual(now["l1"].first, before["l1"].first + shift)
        self.assertEqual(after.plan.frames, going.plan.frames)

    def test_what_was_changed_elsewhere_and_what_is_unknown_is_told(self):
        going = Going(layered())
        whole = going.whole
        music = next(each for each in whole.tracks if each.name == "Music 1")
        del music[:]
        clip = speech_of(whole)[0].deepcopy()
        clip.metadata.clear()
        clip.media_reference = otio.schema.ExternalReference("/etc/passwd", clip.media_reference.available_range)
        speech_of(whole).append(clip)
        whole.tracks.append(otio.schema.Track("Mine", kind="Audio"))
        taken = going.back(whole)
        self.assertIsNone(taken.edit, "what is left is as it was")
        text = " ".join(taken.left_out)
        for told in ("“passwd” is none of your recordings", "“Music 1” was changed", "“Mine” is new"):
            self.assertIn(told, text)

    def test_a_recording_of_the_workspace_is_known_by_its_file(self):
        going = Going(cut_sheet())
        whole = going.whole
        clip = speech_of(whole)[0].deepcopy()
        clip.metadata.clear()
        clip.media_reference = otio.schema.ExternalReference(
            "file:///elsewhere/new.mp4", clip.media_reference.available_range
        )
        speech_of(whole).append(clip)
        taken = going.back(whole, {"new.mp4": "r9"})
        self.assertEqual(taken.edit.pieces[-1].recording, "r9")
        self.assertEqual(taken.left_out, [])


def merged(cuts):
    """Cuts, those that go on from one another as one."""
    made = []
    for recording, first, count in cuts:
        if made and recording and made[-1][0] == recording and made[-1][1] + made[-1][2] == first:
            made[-1] = (recording, made[-1][1], made[-1][2] + count)
        else:
            made.append((recording, first, count))
    return made


class FromOutside(unittest.TestCase):
    def test_what_is_no_timeline_is_refused_in_words(self):
        ref = {"OTIO_SCHEMA": "SerializableObjectRef.1", "id": "Timeline-1"}
        cyclic = {"OTIO_SCHEMA": "Timeline.1", "OTIO_REF_ID": "Timeline-1", "name": "x", "tracks": ref, "metadata": {}}
        deep = "[" * 100_000 + "]" * 100_000
        clip = otio.schema.Clip("a").to_json_string()
        for each in (
            b"",
            b"\0\xff",
            b"{}",
            b"[]",
            b'{"OTIO_SCHEMA": "Nothing.1"}',
            json.dumps(cyclic),
            deep,
            clip,
            "x" * 1000,
        ):
            data = each if isinstance(each, bytes) else each.encode()
            with self.assertRaises(CoreError, msg=data[:40]) as caught:
                read_apart(data)
            self.assertTrue(str(caught.exception).strip())

    def test_what_is_huge_is_not_read(self):
        with self.assertRaises(CoreError) as caught:
            read_apart(b" " * 20_000_001)
        self.assertIn("20 MB", str(caught.exception))

    def test_times_that_cannot_be_and_tracks_within_tracks_are_left_out(self):
        whole = Going(cut_sheet()).whole
        track = speech_of(whole)
        bad = track[0].deepcopy()
        bad.source_range = otio.opentime.TimeRange(
            otio.opentime.RationalTime(-1e9, 25), otio.opentime.RationalTime(9, 25)
        )
        track.append(bad)
        track.append(otio.schema.Stack("Nested", [otio.schema.Track("t")]))
        read = read_apart(whole.to_json_string().encode())
        self.assertEqual(len(read.left_out), 2)
        self.assertEqual(len(read.clips), len(track) - 2)

    def test_files_that_it_names_are_names(self):
        whole = Going(cut_sheet()).whole
        clip = speech_of(whole)[0]
        clip.media_reference.target_url = "../../../../etc/shadow"
        clip.metadata[OURS] = {"recording": "x" * 5000, "piece": 5}
        read = read_apart(whole.to_json_string().encode())
        self.assertEqual((read.clips[0].file, read.clips[0].piece), ("shadow", ""))
        self.assertEqual(read.clips[0].recording, "r1", "the reference still names it")

    def test_a_timeline_of_something_else_takes_nothing(self):
        going = Going(cut_sheet())
        with self.assertRaises(CoreError) as caught:
            taken_in(Read([], [], []), going.sheet, going.plan, [], {}, {})
        self.assertIn("not taken in", str(caught.exception))


if __name__ == "__main__":
    unittest.main()
