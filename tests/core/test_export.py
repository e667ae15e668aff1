"""What is exported is what the plan says: frames, samples, words, joins, streams."""

import unittest
from unittest import mock

import numpy as np

from hovvet.core.captions.style import caption_style
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile
from hovvet.core.compile.target import Target
from hovvet.core.errors import Cancelled, CoreError
from hovvet.core.media.frames import pick_frames
from hovvet.core.media.info import MediaInfo
from hovvet.core.media.probe import probe
from hovvet.core.media.process import MediaError
from hovvet.core.plan.knots import source_frame
from hovvet.core.plan.model import Plan, SoundLayer
from hovvet.core.plan.outlets import OUTLETS, Outlet
from hovvet.core.render.export import export
from hovvet.core.render.mix import mix
from hovvet.core.render.output import Output
from hovvet.core.render.sources import Original
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.edits import CutWords
from hovvet.core.sheet.model import Piece, Sheet
from hovvet.core.time import Rate
from hovvet.core.words.transcript import Transcript
from tests.media import LEVELS, ScratchCase, counted, decoded, even_words, ffmpeg, number, streams

SMALL = Outlet(key="small", name="Small", width=216, height=384, longest=60, safe=(10, 10, 10, 60))


def plan_for(path, sheet: Sheet, transcript: Transcript, where: Outlet = SMALL, captions=None) -> tuple[Plan, dict]:
    media = probe(path)
    plan = compile(sheet, {"r": Source(transcript, media)}, Target(where, captions))
    return plan, {"r": Original(path, media)}


class Exported(ScratchCase):
    def exported(self, path, sheet, transcript, **kwargs):
        plan, originals = plan_for(path, sheet, transcript, **kwargs)
        out = self.scratch / "out.mp4"
        export(plan, originals, out, output=Output(quality="best"))
        return plan, out

    def whole(self, path, transcript: Transcript | None = None) -> tuple[Sheet, Transcript]:
        duration = probe(path).duration
        return Sheet(pieces=(Piece(id="p1", recording="r", start=0, end=duration),)), transcript or Transcript(
            duration=duration
        )

    def test_cut_and_reordered_frames_are_exact(self):
        source = counted(self.scratch / "s.mp4", 10)
        transcript = even_words(20)
        pieces = (
            Piece(id="b", recording="r", start=6.0, end=8.0),
            Piece(id="a", recording="r", start=1.0, end=4.0),
        )
        sheet = apply(Sheet(pieces=pieces), CutWords(piece="a", words=(4, 5, 6)))
        plan, out = self.exported(source, sheet, transcript)
        wanted = [source_frame(layer.source.knots, n) for layer in plan.picture for n in range(layer.first, layer.last)]
        self.assertEqual(int(streams(out)["video"]["nb_read_frames"]), plan.frames)
        found = [number(frame) for frame in pick_frames(out, plan.rate, range(plan.frames))]
        self.assertEqual(found, [n % LEVELS for n in wanted])

    def test_the_file_is_what_an_outlet_takes(self):
        source = counted(self.scratch / "s.mp4", 3, size="640x360")
        sheet, transcript = self.whole(source)
        plan, out = self.exported(source, sheet, transcript, where=OUTLETS["tall"], captions=caption_style("bold"))
        made = streams(out)
        video, audio = made["video"], made["audio"]
        self.assertEqual((video["codec_name"], video["pix_fmt"]), ("h264", "yuv420p"))
        self.assertEqual((video["width"], video["height"], video["r_frame_rate"]), (1080, 1920, "30/1"))
        self.assertEqual(
            (video["color_space"], video["color_transfer"], video["color_primaries"], video["color_range"]),
            ("bt709", "bt709", "bt709", "tv"),
        )
        self.assertEqual((audio["codec_name"], audio["sample_rate"]), ("aac", "48000"))
        self.assertAlmostEqual(float(video["duration"]), plan.seconds, delta=0.034)
        self.assertAlmostEqual(float(audio["duration"]), plan.seconds, delta=0.034)
        head = out.read_bytes()[:4096]
        self.assertIn(b"moov", head, "the index must come first")

    def test_the_default_is_high_profile(self):
        source = counted(self.scratch / "s.mp4", 1)
        sheet, transcript = self.whole(source)
        plan, originals = plan_for(source, sheet, transcript)
        out = self.scratch / "high.mp4"
        export(plan, originals, out)
        self.assertEqual(streams(out)["video"]["profile"], "High")

    def test_picture_and_sound_stay_together_over_many_joins(self):
        # A white flash and a click in the middle of each second word.
        source = self.scratch / "sync.mkv"
        ffmpeg(
            "-f", "lavfi", "-t", "20", "-i", "color=black:s=320x180:r=30,format=yuv420p,geq=lum='if(lt(mod(N,24),2),235,16)':cb=128:cr=128",
            "-f", "lavfi", "-t", "20", "-i", "aevalsrc='if(lt(mod(t,0.8),0.066),0.8*sin(2*PI*2000*t),0)':s=48000",
            "-c:v", "libx264", "-preset", "ultrafast", "-crf", "10", "-c:a", "pcm_s16le", source,
        )  # fmt: skip
        transcript = even_words(48, length=0.3, gap=0.1, start=0.2)
        sheet, _ = self.whole(source)
        sheet = apply(sheet, CutWords(piece="p1", words=tuple(range(3, 46, 4))))
        plan, out = self.exported(source, sheet, transcript)
        self.assertGreater(len(plan.picture), 8)
        bright = (
            np.array([f.to_ndarray(format="gray")[192, 108] for f in pick_frames(out, plan.rate, range(plan.frames))])
            > 128
        )
        flashes = np.flatnonzero(bright[1:] & ~bright[:-1]) + 1
        loud = np.abs(decoded(out)) > 0.1
        clicks = np.flatnonzero(loud)
        for flash in flashes:
            nearest = clicks[np.argmin(np.abs(clicks / 48000 - flash / 30))] / 48000
            self.assertLessEqual(abs(nearest - flash / 30), 1 / 30 + 0.006)
        self.assertGreater(len(flashes), 8)

    def test_joins_do_not_click(self):
        source = self.scratch / "hum.wav"
        ffmpeg("-f", "lavfi", "-t", "20", "-i", "aevalsrc='0.5*sin(2*PI*97*t)':s=48000", source)
        transcript = even_words(40, length=0.3, gap=0.1, start=0.5)
        sheet, _ = self.whole(source)
        sheet = apply(sheet, CutWords(piece="p1", words=tuple(range(2, 40, 3))))
        _, out = self.exported(source, sheet, transcript)
        heard = decoded(out)
        steps = np.abs(np.diff(heard[4800:-4800]))
        smooth = 0.5 * 2 * np.pi * 97 / 48000  # the steepest step of the hum itself
        peak = np.abs(heard).max() / 0.5
        self.assertLess(steps.max(), 3 * smooth * peak)

    def test_sources_of_all_sorts_can_be_exported(self):
        odd = counted(self.scratch / "odd.mkv", 1.5, "30", "318x178", "sine=r=44100")
        # Odd sides need 4:4:4.
        really_odd = self.scratch / "o.mkv"
        ffmpeg(
            "-i",
            odd,
            "-vf",
            "format=yuv444p,crop=317:177",
            "-c:v",
            "libx264",
            "-preset",
            "ultrafast",
            "-c:a",
            "copy",
            really_odd,
        )
        silent = counted(self.scratch / "silent.mp4", 1.5, sound="")
        deaf = self.scratch / "deaf.wav"
        ffmpeg("-f", "lavfi", "-t", "1.5", "-i", "sine=r=22050", deaf)
        wide = self.scratch / "wide.mp4"  # pixels that are not square
        ffmpeg(
            "-i",
            odd,
            "-vf",
            "setsar=4/3",
            "-c:v",
            "libx264",
            "-preset",
            "ultrafast",
            "-c:a",
            "copy",
            wide.with_suffix(".mkv"),
        )
        surround = counted(self.scratch / "six.mkv", 1.5, "50", "320x180", "sine=r=48000", "-ac", "6", "-c:a", "flac")
        for source in (really_odd, silent, deaf, wide.with_suffix(".mkv"), surround):
            with self.subTest(source=source.name):
                sheet, transcript = self.whole(source)
                plan, out = self.exported(source, sheet, transcript)
                made = streams(out)
                self.assertEqual(int(made["video"]["nb_read_frames"]), plan.frames)
                self.assertAlmostEqual(float(made["audio"]["duration"]), plan.seconds, delta=0.034)

    def test_a_turned_video_stands_upright(self):
        # The left half is bright as stored; turned a quarter clockwise, that is the top half.
        flat = self.scratch / "flat.mp4"
        ffmpeg(
            "-f",
            "lavfi",
            "-t",
            "1",
            "-i",
            "color=black:s=320x180:r=30,format=yuv420p,geq=lum='if(lt(X,W/2),200,20)':cb=128:cr=128",
            "-c:v",
            "libx264",
            flat,
        )
        turned = self.scratch / "turned.mp4"
        ffmpeg("-i", flat, "-c", "copy", "-metadata:s:v:0", "rotate=90", turned)
        info = probe(turned)
        self.assertEqual((info.width, info.height), (180, 320))
        sheet, transcript = self.whole(turned)
        _, out = self.exported(turned, sheet, transcript)
        frame = next(pick_frames(out, info.rate, [10])).to_ndarray(format="gray")
        top, bottom = frame[60, 108], frame[320, 108]
        expected_top = _upright_top(turned)
        self.assertEqual(top > bottom, expected_top)

    def test_an_empty_plan_is_refused_and_leaves_nothing(self):
        source = counted(self.scratch / "s.mp4", 4)
        transcript = even_words(3)
        sheet, _ = self.whole(source)
        sheet = apply(sheet, CutWords(piece="p1", words=(1, 2, 3)))
        with self.assertRaisesRegex(CoreError, "Nothing is left to export"):
            self.exported(source, sheet, transcript)
        self.assertFalse((self.scratch / "out.mp4").exists())

    def test_cancelling_leaves_nothing_behind(self):
        source = counted(self.scratch / "s.mp4", 6)
        sheet, transcript = self.whole(source)
        plan, originals = plan_for(source, sheet, transcript)
        folder = self.scratch / "exports"
        folder.mkdir()

        def stop(part: float) -> None:
            if part > 0.05:
                raise Cancelled

        with self.assertRaises(Cancelled):
            export(plan, originals, folder / "out.mp4", stop)
        self.assertEqual(list(folder.iterdir()), [])

    def test_a_damaged_original_is_told(self):
        source = counted(self.scratch / "s.mp4", 4)
        sheet, transcript = self.whole(source)
        plan, originals = plan_for(source, sheet, transcript)
        source.write_bytes(source.read_bytes()[:2000])
        with self.assertRaises(MediaError):
            export(plan, originals, self.scratch / "out.mp4")
        self.assertFalse((self.scratch / "out.mp4").exists())


def _upright_top(path) -> bool:
    """Whether ffmpeg itself shows the bright half on top."""
    import subprocess

    command = ["ffmpeg", "-v", "error", "-i", str(path), "-frames:v", "1", "-pix_fmt", "gray", "-f", "rawvideo", "-"]
    raw = np.frombuffer(subprocess.run(command, capture_output=True, check=True).stdout, np.uint8).reshape(320, 180)
    return bool(raw[40, 90] > raw[280, 90])


class Joins(unittest.TestCase):
    def test_the_room_does_not_jump_where_pauses_are_cut(self):
        rng = np.random.default_rng(4)
        room = rng.normal(0, 0.01, (48_000 * 20, 2)).astype(np.float32)
        transcript = even_words(40)
        sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=0, end=transcript.duration),))
        sheet = apply(sheet, CutWords(piece="p1", words=tuple(range(2, 40, 3))))
        media = MediaInfo(duration=transcript.duration, has_picture=False, has_sound=True)
        plan = compile(sheet, {"r": Source(transcript, media)}, Target(SMALL, texts=False))
        sound = np.zeros((plan.samples, 2), np.float32)
        mix(plan, lambda _r, first, count: room[first : first + count].copy(), sound)
        self.assertGreater(len(plan.sound), 10)
        around = [sound[each.sample : each.sample + each.fade_in] for each in plan.sound[1:]]
        joined = 10 * np.log10(np.mean(np.concatenate(around) ** 2) / 0.01**2)
        self.assertLess(abs(joined), 0.5, "dB between the room at the joins and elsewhere")


class Assembled(unittest.TestCase):
    def test_samples_are_those_of_the_source_to_the_sample(self):
        transcript = even_words(30)
        sheet = Sheet(pieces=(Piece(id="p1", recording="r", start=0.2, end=11.0),))
        sheet = apply(sheet, CutWords(piece="p1", words=(4, 5, 12, 20)))
        from hovvet.core.media.info import MediaInfo

        media = MediaInfo(duration=transcript.duration, has_picture=False, has_sound=True)
        plan = compile(sheet, {"r": Source(transcript, media)}, Target(SMALL))
        ramp = np.arange(48000 * 14, dtype=np.float32)

        def decode(_recording: str, first: int, count: int) -> np.ndarray:
            return np.repeat(ramp[first : first + count, None], 2, axis=1)

        made = np.zeros((plan.samples, 2), np.float32)
        mix(plan, decode, made)
        for layer in plan.sound:
            inner = slice(layer.sample + layer.fade_in, layer.sample + layer.samples - layer.fade_out)
            first = layer.source_sample + layer.fade_in
            np.testing.assert_array_equal(made[inner, 0], ramp[first : first + inner.stop - inner.start])

    def test_layers_longer_than_what_is_decoded_at_once_are_as_if_they_were_not(self):
        rng = np.random.default_rng(2)
        room = rng.normal(0, 0.1, (9_000, 2)).astype(np.float32)
        layers = (
            SoundLayer(media="r", sample=-40, samples=5_000, source_sample=10, gain=-3, fade_in=700, fade_out=1_300),
            SoundLayer(media="r", sample=3_000, samples=4_000, source_sample=2_000, fade_in=3_000, fade_out=10),
        )
        plan = Plan(rate=Rate(), width=2, height=2, frames=4, samples=6_400, sound=layers)
        asked: list[int] = []

        def decode(_media: str, first: int, count: int) -> np.ndarray:
            asked.append(count)
            return room[first : first + count].copy()

        whole, parts = (np.zeros((plan.samples, 2), np.float32) for _ in range(2))
        mix(plan, decode, whole)
        with mock.patch("hovvet.core.render.mix._AT_ONCE", 512):
            asked.clear()
            mix(plan, decode, parts)
        np.testing.assert_array_equal(whole, parts)
        self.assertLessEqual(max(asked), 512)
        self.assertEqual(sum(asked), 9_000)
