"""Sources of all sorts go through, and bad ones are told apart in plain words."""

import unittest

import numpy as np
from PIL import Image

from hovvet.core.media.decode import sound, speech_wav
from hovvet.core.media.frames import pick_frames
from hovvet.core.media.peaks import PEAKS_PER_SECOND, skyline, write_peaks
from hovvet.core.media.probe import probe
from hovvet.core.media.process import MediaError
from hovvet.core.media.wav import read_wav, wav_length
from hovvet.core.media.working import thumbnails, working_copy
from hovvet.core.sound.energy import energy_of, integrated
from hovvet.core.time import Rate, output_rate
from tests.media import LEVELS, ScratchCase, counted, decoded, ffmpeg, number, numbers_of, streams


class Probing(ScratchCase):
    def test_what_is_in_a_file(self):
        info = probe(counted(self.scratch / "a.mp4", 2, "25", "322x182"))
        self.assertEqual((info.width, info.height, info.rate), (322, 182, Rate(num=25)))
        self.assertTrue(info.has_picture and info.has_sound)
        self.assertAlmostEqual(info.duration, 2, delta=0.1)

    def test_a_rotated_phone_video_is_upright(self):
        plain = counted(self.scratch / "a.mp4", 1)
        turned = self.scratch / "b.mp4"
        ffmpeg("-display_rotation", "90", "-i", plain, "-c", "copy", turned) if _knows_display_rotation() else ffmpeg(
            "-i", plain, "-c", "copy", "-metadata:s:v:0", "rotate=90", turned
        )
        info = probe(turned)
        self.assertEqual((info.width, info.height), (180, 320))
        self.assertIn(info.rotation, (90, 270))

    def test_usual_rates_are_kept_and_others_become_thirty(self):
        self.assertEqual(output_rate(29.97), Rate(num=30000, den=1001))
        self.assertEqual(output_rate(60), Rate(num=30))
        self.assertEqual(output_rate(50), Rate(num=25))
        self.assertEqual(output_rate(12.5), Rate(num=30))
        self.assertEqual(output_rate(0), Rate(num=30))

    def test_cover_art_is_no_picture(self):
        cover = self.scratch / "c.png"
        ffmpeg("-f", "lavfi", "-i", "color=red:s=64x64", "-frames:v", "1", cover)
        song = self.scratch / "s.mp3"
        ffmpeg(
            "-f",
            "lavfi",
            "-t",
            "1",
            "-i",
            "sine",
            "-i",
            cover,
            "-map",
            "0",
            "-map",
            "1",
            "-c:v",
            "copy",
            "-id3v2_version",
            "3",
            song,
        )
        self.assertFalse(probe(song).has_picture)

    def refused(self, name: str, content: bytes, about: str) -> None:
        file = self.scratch / name
        file.write_bytes(content)
        with self.assertRaisesRegex(MediaError, about):
            probe(file)

    def test_no_media(self):
        self.refused("a.mp4", b"", "empty")
        self.refused("b.mp4", b"Dear all, please find attached\n" * 50, "not a video or audio file")
        self.refused("c.jpg", b"\xff\xd8\xff\xe0" + bytes(500), "not a video or audio file")

    def test_a_cut_off_file_says_that_its_end_is_missing(self):
        whole = counted(self.scratch / "a.mp4", 3).read_bytes()
        self.refused("cut.mp4", whole[: len(whole) // 2], "its end is missing")

    def test_playlists_and_scripts_that_point_elsewhere_are_refused(self):
        other = counted(self.scratch / "secret.mp4", 1)
        self.refused(
            "a.mp4",
            f"#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\nfile://{other}\n#EXT-X-ENDLIST\n".encode(),
            "not a video",
        )
        self.refused("b.mp4", f"ffconcat version 1.0\nfile {other}\n".encode(), "not a video")
        self.refused(
            "c.mp4", b"v=0\no=- 0 0 IN IP4 127.0.0.1\nc=IN IP4 127.0.0.1\nm=video 5004 RTP/AVP 96\n", "not a video"
        )


def _knows_display_rotation() -> bool:
    import subprocess

    return "display_rotation" in subprocess.run(["ffmpeg", "-h", "full"], capture_output=True, text=True).stdout


class Sound(ScratchCase):
    def test_sound_that_begins_late_stays_on_the_clock(self):
        late = self.scratch / "late.mkv"
        ffmpeg(
            "-f", "lavfi", "-t", "3", "-i", "color=black:s=64x64:r=30", "-itsoffset", "0.7", "-f", "lavfi", "-t", "2", "-i", "sine=f=1000",
            "-map", "0", "-map", "1", "-c:v", "libx264", "-c:a", "pcm_s16le", late,
        )  # fmt: skip
        wav = self.scratch / "s.wav"
        speech_wav(late, wav, 3)
        first = np.flatnonzero(np.abs(read_wav(wav)) > 0.02)[0] / 16000
        self.assertAlmostEqual(first, 0.7, delta=0.005)
        part = sound(late, 0.5, 0.5, 48000)
        self.assertEqual(part.shape, (24000, 2))
        self.assertAlmostEqual(np.flatnonzero(np.abs(part[:, 0]) > 0.02)[0] / 48000, 0.2, delta=0.005)

    def test_mono_44100_and_5_1_are_read(self):
        for layout, rate in (("mono", 44100), ("5.1", 48000)):
            file = self.scratch / f"{rate}.wav"
            ffmpeg("-f", "lavfi", "-t", "2", "-i", f"sine=r={rate}", "-af", f"aformat=channel_layouts={layout}", file)
            self.assertTrue(probe(file).has_sound)
            wav = self.scratch / "s.wav"
            speech_wav(file, wav, 2)
            samples, at = wav_length(wav)
            self.assertEqual(at, 16000)
            self.assertAlmostEqual(samples / at, 2, delta=0.01)
            self.assertEqual(sound(file, 0.25, 1, 48000).shape, (48000, 2))

    def test_any_part_is_the_part_of_the_whole(self):
        noise = self.scratch / "n.flac"
        ffmpeg("-f", "lavfi", "-t", "6", "-i", "anoisesrc=r=48000:seed=3:a=0.3", noise)
        whole = decoded(noise) * np.sqrt(0.5)  # mono spread to two sides keeps its power
        for start in (0, 0.5, 2.25, 4.9):
            part = sound(noise, start, 1, 48000)[:, 0]
            first = round(start * 48000)
            np.testing.assert_allclose(part, whole[first : first + 48000], atol=2e-4)

    def test_peaks_and_skyline_follow_the_loudness(self):
        file = self.scratch / "p.wav"
        ffmpeg("-f", "lavfi", "-t", "4", "-i", "aevalsrc='if(lt(t,2),0.01,0.5)*sin(2*PI*300*t)':s=16000", file)
        peaks = self.scratch / "peaks"
        write_peaks(file, peaks)
        values = peaks.read_bytes()
        self.assertEqual(len(values), 4 * PEAKS_PER_SECOND)
        line = skyline(values, 10)
        self.assertLess(max(line[:4]), min(line[6:]) / 3)

    def test_loudness(self):
        file = self.scratch / "t.wav"
        ffmpeg("-f", "lavfi", "-t", "8", "-i", "sine=f=1000:r=48000", "-af", "volume=-9.94dB", "-ac", "2", file)
        # ffmpeg's sine peaks at -18.06 dBFS, mono spread to two sides is 3.01 dB lower on each, and a
        # stereo 1 kHz sine reads in LUFS what it peaks at in dBFS (EBU Tech 3341).
        measured = integrated(energy_of(file, 2, 8).power)
        assert measured is not None
        self.assertAlmostEqual(measured, -31.0, delta=0.3)
        silent = self.scratch / "z.wav"
        ffmpeg("-f", "lavfi", "-t", "3", "-i", "anullsrc", silent)
        self.assertIsNone(integrated(energy_of(silent, 2, 3).power))


class Frames(ScratchCase):
    def test_exactly_the_frames_asked_for_in_any_order(self):
        file = counted(self.scratch / "a.mp4", 12)
        wanted = [0, 1, 2, 100, 101, 355, 20, 21, 200, 200, 7]
        found = [number(frame) for frame in pick_frames(file, Rate(), wanted)]
        self.assertEqual(found, [n % LEVELS for n in wanted])

    def test_a_variable_rate_shows_each_frame_until_the_next(self):
        # Frames 0-9 at 30 a second, then every tenth only.
        file = counted(
            self.scratch / "v.mkv",
            4,
            "30",
            "320x180",
            "",
            "-vf",
            "select='lt(n,10)+not(mod(n,10))'",
            "-fps_mode",
            "vfr",
        )
        found = numbers_of(file, Rate(), 60)
        expected = [n if n < 10 else n // 10 * 10 for n in range(60)]
        self.assertEqual(found, [n % LEVELS for n in expected])
        # And from the middle of a long hold, without having seen its beginning.
        self.assertEqual(number(next(pick_frames(file, Rate(), [48]))), 40 % LEVELS)

    def test_a_start_other_than_zero_is_no_matter(self):
        file = self.scratch / "s.ts"
        plain = counted(self.scratch / "a.mp4", 3, sound="")
        ffmpeg("-i", plain, "-c", "copy", "-output_ts_offset", "100", file)
        self.assertEqual(numbers_of(file, Rate(), 40), [n % LEVELS for n in range(40)])

    def test_the_working_copy_has_the_same_frames_and_the_same_sound(self):
        for name, rate in (("a.mp4", "30"), ("b.mp4", "30000/1001"), ("c.mp4", "25")):
            file = counted(self.scratch / name, 2.5, rate, "1280x720", "sine=f=500:r=44100:beep_factor=4")
            info = probe(file)
            copy = self.scratch / f"w-{name}"
            working_copy(file, info, copy)
            self.assertEqual(numbers_of(copy, info.rate, 60), [n % LEVELS for n in range(60)], rate)
            made = streams(copy)
            self.assertEqual((made["video"]["height"], made["video"]["has_b_frames"]), (540, 0))
            one, two = decoded(file), decoded(copy)
            length = min(len(one), len(two), 2 * 48000)
            lag = np.argmax(np.correlate(two[4800:length], one[4800 + 200 : length - 200], "valid")) - 200
            self.assertLessEqual(abs(lag), 1, f"sound is {lag} samples off")

    def test_a_mono_source_has_a_mono_copy_that_is_played_as_loud_as_it_is_exported(self):
        file, copy = self.scratch / "m.wav", self.scratch / "m.mp4"
        ffmpeg("-f", "lavfi", "-i", "sine=f=300:r=48000:d=2", "-ac", 1, file)
        working_copy(file, probe(file), copy)
        self.assertEqual(streams(copy)["audio"]["channels"], 1)
        exported, played = (
            np.sqrt((sound(path, 0.5, 1, 48_000, sides) ** 2).mean()) for path, sides in ((file, 2), (copy, 1))
        )
        self.assertAlmostEqual(20 * np.log10(played / exported), 0, delta=0.1)

    def test_thumbnails_are_one_picture(self):
        file = counted(self.scratch / "a.mp4", 6)
        out = self.scratch / "t.jpg"
        thumbnails(file, probe(file), out)
        self.assertEqual((streams(out)["video"]["width"], streams(out)["video"]["height"]), (960, 324))

    def test_all_of_them_show_something_also_after_the_last_key_frame(self):
        file = self.scratch / "a.mp4"
        ffmpeg("-f", "lavfi", "-t", 6, "-i", "color=red:s=320x180:r=25", "-c:v", "libx264", "-g", 50, file)
        out = self.scratch / "t.jpg"
        thumbnails(file, probe(file), out)
        with Image.open(out) as made:
            cells = np.asarray(made.convert("RGB")).reshape(6, 54, 10, 96, 3).mean(axis=(1, 3))
        self.assertGreater(cells[:, :, 0].min(), 200)
        self.assertLess(cells[:, :, 1:].max(), 40)


if __name__ == "__main__":
    unittest.main()
