"""What the compositor draws, chunk by chunk: every kind of layer, the same bytes however they came to be."""

import io
import os
import shutil
import signal
import subprocess
import tempfile
import unittest
from dataclasses import replace
from itertools import pairwise
from pathlib import Path
from unittest import mock

import av
import numpy as np
from PIL import Image

from hovvet.core.captions.style import caption_style
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile
from hovvet.core.compile.target import Target
from hovvet.core.errors import CoreError
from hovvet.core.media.frames import Picker
from hovvet.core.media.info import NO_MEDIA, MediaInfo
from hovvet.core.media.probe import probe
from hovvet.core.media.process import KilledError, MediaError
from hovvet.core.media.sealed import seal_of, sealed
from hovvet.core.picture.own_picture import bring_in_picture
from hovvet.core.plan.knots import source_frame, value_at
from hovvet.core.plan.model import Crop, PictureLayer, PlaceKnot, Plan
from hovvet.core.plan.outlets import OUTLETS, Outlet
from hovvet.core.render.cache import ChunkCache
from hovvet.core.render.chunks import LONGEST, boundaries, chunks
from hovvet.core.render.compositor import Compositor, Frame
from hovvet.core.render.encoding import Encoder, Encoding
from hovvet.core.render.export import Folders, Shape, export, write_sound
from hovvet.core.render.output import KINDS, Output, bits_like, encoding_of, expected_bytes, sized
from hovvet.core.render.sources import Original, Sources
from hovvet.core.render.work import draw, order, side_by_side
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.asking import AddGap, AddWords, Around, Lay, edit_for
from hovvet.core.sheet.contents.fades import Fades
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.freeze import Freeze
from hovvet.core.sheet.contents.punch import Punch
from hovvet.core.sheet.contents.speed import Speed
from hovvet.core.sheet.contents.transition import Transition
from hovvet.core.sheet.edits import CutWords
from hovvet.core.sheet.model import Sheet, WordRef
from hovvet.core.sheet.starting import clip_sheet, desk_sheet
from hovvet.core.time import Rate
from hovvet.core.words.transcript import Transcript
from tests.media import LEVELS, ScratchCase, counted, decoded, even_words, ffmpeg, streams

SMALL = Outlet(key="small", name="Small", width=216, height=384, longest=60, safe=(10, 10, 10, 60))
WIDE = Outlet(key="flat", name="Flat", width=320, height=180, longest=60, safe=(4, 4, 4, 10))
TALK, OTHER = even_words(50), even_words(20, length=0.25, gap=0.15)
TALK = TALK.model_copy(
    update={"words": tuple(w.model_copy(update={"text": f"{w.text}."}) if w.id % 6 == 0 else w for w in TALK.words)}
)


class Drawn(ScratchCase):
    """Two recordings whose frames tell their number, at two rates."""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        holder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(holder.cleanup)
        folder = Path(holder.name)
        cls.made = {"r1": counted(folder / "a.mp4", 22), "r2": counted(folder / "b.mp4", 9, "25")}

    def setUp(self) -> None:
        super().setUp()
        paths = {key: shutil.copyfile(path, self.scratch / path.name) for key, path in self.made.items()}
        self.originals = {key: Original(path, probe(path), key) for key, path in paths.items()}
        self.sources = {key: Source(words, self.originals[key].media) for key, words in (("r1", TALK), ("r2", OTHER))}
        self.clip = clip_sheet(desk_sheet("r1", TALK.duration), TALK, 1, 48)
        self.around = Around({"r1": TALK, "r2": OTHER}, Rate(), {"r2": desk_sheet("r2", OTHER.duration)})

    def asked(self, sheet: Sheet, *asks) -> Sheet:
        for ask in asks:
            sheet = apply(sheet, edit_for(ask, sheet, self.around))
        return sheet

    def planned(self, sheet: Sheet, where: Outlet = WIDE, captions: bool = False) -> Plan:
        return compile(sheet, self.sources, Target(where, caption_style("bold") if captions else None))

    def numbers(self, plan: Plan, frames) -> list[int]:
        """The number that each frame shows, as it is drawn; -1 where it is dark."""
        compositor, found = Compositor(plan, self.originals), []
        for n in frames:
            y = compositor.frame(n)[0]
            middle = float(
                y[y.shape[0] * 3 // 8 : y.shape[0] * 5 // 8, y.shape[1] * 3 // 8 : y.shape[1] * 5 // 8].mean()
            )
            found.append(round((middle - 16) / 9))
        compositor.close()
        return found


def word(n: int, origin: str = "p1") -> WordRef:
    return WordRef(origin=origin, word=n)


class Frames(Drawn):
    def test_every_frame_is_that_of_the_plan_over_cuts_a_ramp_a_hold_and_another_rate(self):
        sheet = self.asked(
            apply(self.clip, CutWords(piece="p1", words=(5, 6, 30))),
            Lay(content=Speed(rate=2.0), first=word(10), last=word(16)),
            Lay(content=Freeze(seconds=0.5), first=word(20)),
            AddWords(recording="r2", first=3, last=8, before=word(35)),
        )
        plan = self.planned(sheet)
        wanted = []
        for n in range(plan.frames):
            layer = next(each for each in plan.picture if each.first <= n < each.last)
            place = source_frame(layer.source.knots, n)
            own = place if layer.source.media == "r1" else int(place * 25 / 30 + 1e-6)
            wanted.append(own % LEVELS)
        found = self.numbers(plan, range(plan.frames))
        other = [
            n for n in range(plan.frames) if any(p.source.media == "r2" and p.first <= n < p.last for p in plan.picture)
        ]
        own = [n for n in range(plan.frames) if n not in set(other)]
        self.assertEqual([found[n] for n in own], [wanted[n] for n in own])
        # At another rate a frame lies between two of its own: the nearest one before, by the grid of the plan.
        self.assertLessEqual(max(min(abs(found[n] - wanted[n]), LEVELS - abs(found[n] - wanted[n])) for n in other), 1)
        self.assertGreater(len(other), 40)

    def test_a_crossfade_mixes_both_a_dip_goes_through_its_colour_and_a_gap_is_ground(self):
        cut = apply(self.clip, CutWords(piece="p1", words=(20, 21)))
        plan = self.planned(self.asked(cut, Lay(content=Transition(seconds=0.4), first=word(22))))
        first, second = plan.picture
        middle = (second.first + first.last) // 2
        compositor = Compositor(plan, self.originals)
        y = float(compositor.frame(middle)[0].mean())
        lumas = [16 + 9 * (source_frame(layer.source.knots, middle) % LEVELS) for layer in plan.picture]
        part = value_at(second.opacity, middle)
        self.assertAlmostEqual(y, lumas[0] * (1 - part) + lumas[1] * part, delta=1.5)
        compositor.close()
        dip = self.planned(self.asked(cut, Lay(content=Transition(picture="dip", colour="#ffffff"), first=word(22))))
        self.assertAlmostEqual(self.luma(dip, dip.picture[1].first), 235, delta=1)
        ends = self.planned(self.asked(self.clip, Lay(content=Fades(fade_in=0.5, fade_out=0.5))))
        self.assertAlmostEqual(self.luma(ends, 0), 16, delta=1)
        self.assertAlmostEqual(self.luma(ends, ends.frames - 1), 16, delta=1)
        gap = self.planned(self.asked(self.clip, AddGap(seconds=1, before=word(20))))
        stretch = next(each for each in gap.stretches if each.recording is None)
        self.assertAlmostEqual(self.luma(gap, stretch.frame + 5), 46, delta=2)

    def luma(self, plan: Plan, n: int) -> float:
        compositor = Compositor(plan, self.originals)
        try:
            return float(compositor.frame(n)[0].mean())
        finally:
            compositor.close()

    def test_fit_stands_over_its_blur_or_a_colour_and_fill_covers_all(self):
        fit, fill, over = (
            self.planned(self.asked(self.clip, Lay(content=content)), SMALL)
            for content in (Framing(), Framing(mode="fill"), Framing(colour="#ffffff"))
        )
        edges = []
        for plan in (fit, fill, over):
            compositor = Compositor(plan, self.originals)
            y = compositor.frame(60)[0]
            edges.append((float(y[10].mean()), float(y[192].mean())))
            compositor.close()
        shown = 16 + 9 * (source_frame(fit.picture[0].source.knots, 60) % LEVELS)
        for above, middle in edges[:2]:
            self.assertAlmostEqual(above, shown, delta=2)
            self.assertAlmostEqual(middle, shown, delta=2)
        self.assertAlmostEqual(edges[2][0], 235, delta=1)

    def test_a_picture_stands_behind_what_does_not_cover_all(self):
        given = Image.new("RGB", (300, 200), "#ff0000")
        given.paste("#0000ff", (150, 0, 300, 200))
        data = io.BytesIO()
        given.save(data, "JPEG", quality=95)
        behind = self.scratch / "behind"
        found = bring_in_picture(data.getvalue(), behind)
        self.assertEqual((found.width, found.height), (300, 200))
        originals = self.originals | {"b1": Original(behind, NO_MEDIA, "b")}
        for framing, reds in (
            (Framing(picture="b1"), (255, 0)),
            (Framing(picture="b1", strength=0.5, colour="#000000"), (127, 0)),
            (Framing(picture="gone", colour="#000000"), (0, 0)),
        ):
            sheet = self.asked(self.clip, Lay(content=framing))
            plan = compile(sheet, self.sources, Target(SMALL, pictures={"b1": (300, 200)}))
            self.assertEqual(plan.assets, ("b1",) if framing.picture == "b1" else ())
            compositor = Compositor(plan, originals)
            y, _, v = (plane.astype(float) for plane in compositor.frame(60))
            compositor.close()
            seen = [
                (y[6, x] - 16) / 219 * 255 + 1.5748 * (v[3, x // 2] - 128) * 255 / 224 for x in (12, SMALL.width - 12)
            ]
            for red, wanted in zip(seen, reds, strict=True):
                self.assertAlmostEqual(red, wanted, delta=6)
        plan = compile(
            self.asked(self.clip, Lay(content=Framing(picture="b1"))),
            self.sources,
            Target(SMALL, pictures={"b1": (300, 200)}),
        )
        with self.assertRaisesRegex(CoreError, "A picture or a table of colours of this clip was deleted"):
            export(plan, self.originals, self.scratch / "without.mp4")

    def test_pictures_that_cannot_be_used_are_told(self):
        wide = io.BytesIO()
        Image.new("1", (30_000, 8_000)).save(wide, "PNG")
        photo = Image.new("RGB", (400, 200))
        turned = io.BytesIO()
        exif = photo.getexif()
        exif[0x0112] = 6  # to be turned by a quarter
        photo.save(turned, "JPEG", exif=exif)
        found = bring_in_picture(turned.getvalue(), self.scratch / "turned")
        self.assertEqual((found.width, found.height), (200, 400))
        for data, told in (
            (b"", "not a picture"),
            (b"<svg xmlns='http://www.w3.org/2000/svg'/>", "not a picture"),
            (turned.getvalue()[:300], "broken"),
            (wide.getvalue(), "30,000 by 8,000 pixels"),
            (b"RIFF" + bytes(100), "broken"),
            (b"\xff\xd8\xff" + bytes(60_000_001), "larger than 60 MB"),
        ):
            with self.subTest(told), self.assertRaisesRegex(CoreError, told):
                bring_in_picture(data, self.scratch / "no")
            self.assertFalse([*self.scratch.glob("*no*")])

    def test_a_punch_in_shows_more_of_less(self):
        marked = self.scratch / "marked.mkv"
        box = "color=black:s=320x180:r=30,format=yuv420p,drawbox=x=200:y=60:w=40:h=20:color=white:t=fill"
        ffmpeg("-f", "lavfi", "-t", 22, "-i", box, "-c:v", "ffv1", marked)
        originals = {"r1": Original(marked, probe(marked))}
        at_once = Punch(amount=1.5, across=200 / 320, down=60 / 180)  # towards a corner of the box, which stays
        for content, frame, times in ((at_once, 60, 1.5), (at_once.model_copy(update={"move": "slowly"}), 41, 1.0)):
            sheet = self.asked(self.clip, Lay(content=content, first=word(4), last=word(20)))
            plan = self.planned(sheet)
            compositor = Compositor(plan, originals)
            first = plan.picture[1].first
            bright = compositor.frame(first if times == 1 else max(frame, first))[0] > 120
            compositor.close()
            rows, columns = np.flatnonzero(bright.any(axis=1)), np.flatnonzero(bright.any(axis=0))
            self.assertAlmostEqual(columns[0], 200, delta=2)
            self.assertAlmostEqual(rows[0], 60, delta=2)
            self.assertAlmostEqual(len(columns), 40 * times, delta=2)
            self.assertAlmostEqual(len(rows), 20 * times, delta=2)

    def test_a_layer_that_moves_and_turns_is_where_its_knots_say(self):
        base = self.planned(self.clip)
        white = counted(self.scratch / "w.mkv", 1, size="80x40")
        originals = self.originals | {"w": Original(white, probe(white))}
        knots = (PlaceKnot(frame=0, x=60, y=60, width=40), PlaceKnot(frame=20, x=260, y=120, width=80, turn=90))
        still = ({"frame": 0, "source": 23}, {"frame": 30, "source": 23})
        layer = PictureLayer(
            first=0, last=30, source=base.picture[0].source.model_copy(update={"media": "w", "knots": still}),
            crop=Crop(x=0, y=0, width=80, height=40), place=knots,
        )  # fmt: skip
        plan = Plan.model_validate(base.model_copy(update={"picture": (layer,)}).model_dump())
        compositor = Compositor(plan, originals)
        for n, (x, y), (width, height) in ((0, (60, 60), (40, 20)), (20, (260, 120), (40, 80))):
            bright = compositor.frame(n)[0] > 100
            rows, columns = np.flatnonzero(bright.any(axis=1)), np.flatnonzero(bright.any(axis=0))
            self.assertAlmostEqual((columns[0] + columns[-1] + 1) / 2, x, delta=1)
            self.assertAlmostEqual((rows[0] + rows[-1] + 1) / 2, y, delta=1)
            self.assertAlmostEqual(len(columns), width, delta=2)
            self.assertAlmostEqual(len(rows), height, delta=2)
        compositor.close()


class Chunked(Drawn):
    def setUp(self) -> None:
        super().setUp()
        cut = apply(self.clip, CutWords(piece="p1", words=(5, 12, 13, 20, 33)))
        self.sheet = self.asked(
            cut, Lay(content=Transition(seconds=0.4), first=word(21)), Lay(content=Freeze(seconds=0.5), first=word(25))
        )
        self.folders = Folders(ChunkCache(self.scratch / "cache"), self.scratch)

    def digest(self, media: str) -> str:
        return media

    def export_bytes(self, plan: Plan, name: str, folders: Folders | None = None) -> bytes:
        out = self.scratch / name
        export(plan, self.originals, out, folders=folders)
        return out.read_bytes()

    def test_an_edit_draws_little_and_the_file_is_that_of_a_fresh_export_byte_for_byte(self):
        plan = self.planned(self.sheet, SMALL, captions=True)
        before = chunks(plan, self.digest, "e")
        self.assertGreaterEqual(len(before), 5)
        self.export_bytes(plan, "whole.mp4", self.folders)
        drawn = {path.stem for path in (self.scratch / "cache").glob("*/*.chunk")}
        self.assertEqual(len(drawn), len(before) + 1, "and the sound")
        words = TALK.model_copy(
            update={"words": tuple(w.model_copy(update={"text": "other"}) if w.id == 40 else w for w in TALK.words)}
        )
        corrected = compile(
            self.sheet,
            self.sources | {"r1": Source(words, self.sources["r1"].media)},
            Target(SMALL, caption_style("bold")),
        )
        without = self.planned(apply(self.sheet, CutWords(piece="p1", words=(3,))), SMALL, captions=True)
        for edited, most in ((corrected, 2), (without, 2)):
            with self.subTest(frames=edited.frames):
                after = chunks(edited, self.digest, "e")
                fresh = {chunk.key for chunk in after} - {chunk.key for chunk in before}
                self.assertTrue(1 <= len(fresh) <= most, f"{len(fresh)} of {len(after)} drawn anew")
                kept = self.export_bytes(edited, "kept.mp4", self.folders)
                self.assertEqual(kept, self.export_bytes(edited, "fresh.mp4"), "as if nothing had been kept")

    def test_a_chunk_that_is_not_as_it_was_written_is_drawn_again(self):
        plan = self.planned(self.sheet, SMALL, captions=True)
        good = self.export_bytes(plan, "good.mp4", self.folders)
        kept = sorted((self.scratch / "cache").glob("*/*.chunk"))
        harms = (
            lambda data: data[: len(data) // 2],
            lambda data: data[:-200] + bytes([data[-200] ^ 1]) + data[-199:],
            lambda data: b"",
        )
        for path, harm in zip(kept[::2], harms, strict=False):
            path.write_bytes(harm(path.read_bytes()))
        seal_of(kept[1]).write_text('{"bytes": 1}')
        seal_of(kept[3]).unlink()
        self.assertEqual(self.export_bytes(plan, "again.mp4", self.folders), good)

    def test_a_drawing_process_killed_from_outside_is_started_again_and_then_the_truth_is_told(self):
        plan = self.planned(self.sheet, SMALL, captions=True)
        good = self.export_bytes(plan, "good.mp4")
        left = [1]

        def kill(_part: float) -> None:
            own = Path(f"/proc/self/task/{os.getpid()}/children").read_text().split()
            for process in own if left[0] > 0 else []:
                os.kill(int(process), signal.SIGKILL)
                left[0] -= 1

        for times, told in ((1, None), (9_999, "ended from outside")):
            left[0] = times
            out = self.scratch / f"killed-{times}.mp4"
            if told is None:
                export(plan, self.originals, out, progress=kill)
                self.assertEqual((out.read_bytes() == good, left[0] <= 0), (True, True))
            else:
                with self.assertRaisesRegex(KilledError, told):
                    export(plan, self.originals, out, progress=kill)
                self.assertFalse(out.exists())

    @unittest.skipUnless(os.geteuid() == 0, "a small disk can be made by root only")
    def test_a_full_disk_is_told_and_leaves_nothing(self):
        plan = self.planned(self.sheet, SMALL, captions=True)
        disk = self.scratch / "disk"
        disk.mkdir()
        for size in (64, 200, 700):
            subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={size}k", "tmpfs", str(disk)], check=True)
            try:
                with self.assertRaisesRegex(CoreError, "disk is full"):
                    export(plan, self.originals, disk / "out.mp4")
                self.assertEqual(list(disk.iterdir()), [])
            finally:
                subprocess.run(["umount", str(disk)], check=True)

    def test_the_same_bytes_whatever_was_in_memory_before(self):
        plan = self.planned(clip_sheet(desk_sheet("r1", TALK.duration), TALK, 1, 12), SMALL, captions=True)
        made = []
        for value in ("85", "170"):
            with mock.patch.dict(os.environ, {"MALLOC_PERTURB_": value}):
                made.append(self.export_bytes(plan, f"in-{value}.mp4"))
        self.assertEqual(*made)

    def test_all_frames_are_there_in_even_steps_and_decode(self):
        plan = self.planned(self.sheet, SMALL, captions=True)
        out = self.scratch / "out.mp4"
        export(plan, self.originals, out)
        command = [
            "ffprobe",
            "-v",
            "error",
            "-select_streams",
            "v",
            "-show_entries",
            "packet=pts,dts",
            "-of",
            "csv=p=0",
            out,
        ]
        rows = subprocess.run(
            [str(each) for each in command], capture_output=True, text=True, check=True
        ).stdout.split()
        times = sorted(int(row.split(",")[0]) for row in rows)
        self.assertEqual(len(times), plan.frames)
        self.assertEqual({b - a for a, b in pairwise(times)}, {512})
        order = [int(row.split(",")[1]) for row in rows]
        self.assertEqual(order, sorted(set(order)))
        check = subprocess.run(
            ["ffmpeg", "-v", "error", "-i", str(out), "-f", "null", "-"], capture_output=True, check=True
        )
        self.assertEqual(check.stderr, b"")

    def test_boundaries_depend_on_what_is_shown_nearby_alone(self):
        long = even_words(600)
        sheet = clip_sheet(desk_sheet("r1", long.duration), long, 1, 599)
        source = Source(long, self.sources["r1"].media.model_copy(update={"duration": long.duration}))

        def edges(*struck: int) -> tuple[list[int], Plan]:
            cut = apply(sheet, CutWords(piece="p1", words=(50, 200, 201, 350, *struck)))
            plan = compile(cut, {"r1": source}, Target(SMALL))
            return [0, *boundaries(plan), plan.frames], plan

        before, plan = edges()
        self.assertLessEqual(max(b - a for a, b in pairwise(before)), LONGEST)
        self.assertGreater(len(before), plan.frames / LONGEST)
        after, shorter = edges(100)
        moved = plan.frames - shorter.frames
        self.assertGreater(len({each - moved for each in before} & set(after)), len(before) * 0.7)

    def test_a_file_that_cannot_be_read_and_one_that_is_gone_are_told(self):
        plan = self.planned(self.sheet)
        with self.assertRaisesRegex(CoreError, "is gone"):
            export(plan, {}, self.scratch / "o.mp4")
        self.originals["r1"].path.write_bytes(b"broken" * 100)
        with self.assertRaises(MediaError):
            export(plan, self.originals, self.scratch / "o.mp4")
        self.assertFalse((self.scratch / "o.mp4").exists())

    def test_a_disk_that_fills_while_it_draws_leaves_nothing_half_made(self):
        plan = self.planned(self.sheet, SMALL)
        with (
            mock.patch("hovvet.core.render.export.joined", side_effect=OSError(28, "No space left on device")),
            self.assertRaisesRegex(MediaError, "disk is full"),
        ):
            self.export_bytes(plan, "o.mp4", self.folders)
        self.assertEqual([path for path in self.scratch.iterdir() if "o.mp4" in path.name or "export" in path.name], [])

    def test_the_sound_is_made_once_for_other_captions_and_shapes(self):
        sheet = clip_sheet(desk_sheet("r1", TALK.duration), TALK, 1, 8)
        plans = [self.planned(sheet, SMALL), self.planned(sheet, SMALL, captions=True), self.planned(sheet, WIDE)]
        cut = self.planned(apply(sheet, CutWords(piece="p1", words=(3,))), SMALL)
        with mock.patch("hovvet.core.render.export.write_sound", wraps=write_sound) as made:
            for n, plan in enumerate(plans):
                self.export_bytes(plan, f"{n}.mp4", self.folders)
            self.assertEqual(made.call_count, 1)
            self.export_bytes(cut, "cut.mp4", self.folders)
            self.assertEqual(made.call_count, 2)

    def test_other_shapes_are_drawn_beside_the_first_and_decoded_with_it(self):
        sheet = clip_sheet(desk_sheet("r1", TALK.duration), TALK, 1, 12)
        plan, *others = (self.planned(sheet, where, captions=True) for where in (SMALL, WIDE))
        decoded: list[int] = []
        at = Picker.at

        def counting(picker: Picker, place: int):
            decoded.append(place)
            return at(picker, place)

        sources = Sources(plan.rate, self.originals)
        wanted = [[(0, each.frames, self.scratch / f"{n}.chunk")] for n, each in enumerate((plan, *others))]
        drawings = [
            draw(each, Compositor(each, self.originals, sources), own, Encoding())
            for each, own in zip((plan, *others), wanted, strict=True)
        ]
        with mock.patch.object(Picker, "at", counting):
            self.assertEqual(sum(1 for _ in side_by_side(drawings)), 2 * plan.frames)
        sources.close()
        self.assertLess(len(decoded), 1.1 * plan.frames, "of a frame that both show one is decoded")

        slower = compile(sheet, self.sources, Target(WIDE, caption_style("bold"), rate=Rate(num=25, den=1)))
        beside = [Shape(each, Encoding()) for each in (*others, slower)]  # one of another rate is left to itself
        out = self.scratch / "together.mp4"
        export(plan, self.originals, out, folders=self.folders, beside=beside)
        self.assertEqual(out.read_bytes(), self.export_bytes(plan, "alone.mp4"))
        with mock.patch("hovvet.core.render.export.order", side_effect=order) as orders:
            made = self.export_bytes(others[0], "other.mp4", self.folders)
        orders.assert_not_called()
        self.assertEqual(made, self.export_bytes(others[0], "other-alone.mp4"))
        made = self.export_bytes(slower, "slower.mp4", self.folders)
        self.assertEqual(made, self.export_bytes(slower, "slower-alone.mp4"))

    def test_the_cache_keeps_within_its_limit_the_oldest_first(self):
        cache = ChunkCache(self.scratch / "small", limit=2500)
        for n, key in enumerate(("aa1", "bb2", "cc3")):
            path = cache.path(key)
            path.parent.mkdir(parents=True)
            with sealed(path) as part:
                part.write_bytes(b"x" * 1000)
            os.utime(path, (n, n))
        cache.find("aa1")
        cache.trim()
        self.assertEqual([cache.find(key) is not None for key in ("aa1", "bb2", "cc3")], [True, False, True])


class Encoded(ScratchCase):
    def test_colours_stay_in_their_place_in_every_height(self):
        for height in (48, 50, 52, 54):
            frame = Frame(64, height)
            for plane, (upper, lower) in zip(frame.planes, ((60, 180), (90, 150), (160, 110)), strict=True):
                plane[: len(plane) // 2], plane[len(plane) // 2 :] = upper, lower
            path = self.scratch / f"{height}.mkv"
            encoder = Encoder(path, 64, height, Rate(), Encoding(codec="ffv1"))
            encoder.write(frame)
            encoder.close()
            with av.open(str(path)) as file:
                (made,) = file.decode(video=0)
                self.assertTrue(np.array_equal(made.to_ndarray(), frame.buffer), f"{height} rows")


class Kinds(Drawn):
    def test_every_kind_of_file(self):
        plan = self.planned(clip_sheet(desk_sheet("r1", TALK.duration), TALK, 1, 10), SMALL, captions=True)
        for kind in KINDS:
            with self.subTest(kind=kind):
                out = self.scratch / f"o.{kind}"
                output = Output(kind=kind, start=1.0, seconds=1.5)
                export(plan, self.originals, out, output=output)
                if kind in ("png", "gif", "webp"):
                    with Image.open(out) as picture:
                        self.assertEqual(
                            (picture.width, getattr(picture, "n_frames", 1)), (216, 1 if kind == "png" else 18)
                        )
                    continue
                found = streams(out)
                self.assertAlmostEqual(float(found["format"]["duration"]), plan.seconds, delta=0.07)
                self.assertEqual("video" in found, kind in ("mp4", "webm"))
                self.assertGreater(np.abs(decoded(out)).max(), 0.02)

    def test_a_still_shows_the_frame_that_is_seen_at_its_time(self):
        plan = self.planned(clip_sheet(desk_sheet("r1", TALK.duration), TALK, 1, 10), SMALL, captions=True)
        change = plan.captions[1].first

        def still(frame: float) -> bytes:
            out = self.scratch / "o.png"
            export(plan, self.originals, out, output=Output(kind="png", start=frame / plan.rate.fps))
            return out.read_bytes()

        self.assertEqual(still(change - 0.3), still(change - 1))
        self.assertNotEqual(still(change - 0.3), still(change))

    def test_a_stretched_sound_keeps_its_pitch_and_its_length(self):
        sheet = self.asked(self.clip, Lay(content=Speed(rate=2.0, ramp=0.0), first=word(10), last=word(30)))
        plan = self.planned(sheet, SMALL)
        out = self.scratch / "o.wav"
        export(plan, self.originals, out, output=Output(kind="wav"))
        sound = decoded(out)
        self.assertEqual(len(sound), plan.samples)
        begins, ends = (int(plan.words[n].start * 48_000) for n in (11, 28))
        part = sound[begins:ends]
        spectrum = np.abs(np.fft.rfft(part * np.hanning(len(part))))
        loudest = spectrum.argmax() * 48_000 / len(part)
        self.assertAlmostEqual(loudest, 440, delta=4)

    def test_a_limit_is_met_and_what_is_expected_is_about_right(self):
        noisy = self.scratch / "n.mkv"
        ffmpeg("-f", "lavfi", "-t", 5, "-i", "testsrc2=s=416x234:r=30,noise=alls=60:allf=t", "-f", "lavfi", "-t", 5, "-i",
               "sine", "-c:v", "libx264", "-preset", "ultrafast", "-crf", 20, noisy)  # fmt: skip
        media = probe(noisy)
        where = WIDE.model_copy(update={"width": 416, "height": 234, "file_limit": 300_000})
        plan = compile(desk_sheet("n", 4.5).model_copy(), {"n": Source(Transcript(duration=4.5), media)}, Target(where))
        free = replace(encoding_of(Output(), where, plan.seconds), bitrate=None)
        sizes = []
        for name, encoding in (("free", free), ("limited", encoding_of(Output(), where, plan.seconds))):
            export(plan, {"n": Original(noisy, media)}, self.scratch / f"{name}.mp4", encoding=encoding)
            sizes.append((self.scratch / f"{name}.mp4").stat().st_size)
        self.assertGreater(sizes[0], 300_000)
        self.assertLessEqual(sizes[1], 300_000)
        self.assertGreater(sizes[1], 150_000, "and it is made use of")
        self.assertLessEqual(expected_bytes(Output(), where, 30, plan.seconds), 300_000)
        media = MediaInfo(
            duration=100, has_picture=True, has_sound=True, width=1920, height=1080, rate=Rate(num=25, den=1)
        )
        small, large = (
            expected_bytes(Output(), OUTLETS["tall"], 25, 30, bits_like(Output(), size, media))
            for size in (6_000_000, 30_000_000)
        )
        self.assertLess(small, large / 3, "what was easy to make small before is so again")
        self.assertLess(bits_like(Output(quality="small"), 6_000_000, media), bits_like(Output(), 6_000_000, media))
        self.assertIsNone(bits_like(Output(kind="mp3"), 6_000_000, media))

    def test_what_is_kept_without_loss_may_be_as_large_as_its_pixels(self):
        self.assertEqual(Encoding(codec="ffv1").largest(1080, 1920, Rate()), 1080 * 1920 * 45)
        self.assertGreater(Encoding().largest(3840, 2160, Rate()), Encoding().largest(216, 384, Rate()))

    def test_other_sizes_keep_the_shape(self):
        tall = Outlet(key="t", name="T", width=1080, height=1920, longest=60)
        self.assertEqual([(sized(tall, lines).width, sized(tall, lines).height) for lines in (None, 720, 1080, 2160)],
                         [(1080, 1920), (720, 1280), (1080, 1920), (2160, 3840)])  # fmt: skip
