"""Files that mean harm, or are broken in odd ways: limits hold, clocks are put right, nothing half-made is published."""

import os
import signal
import struct
import subprocess
import sys
import time
import wave
from contextlib import suppress
from pathlib import Path

from hovvet.core.errors import CoreError
from hovvet.core.media.checked import PART, check_media, check_wav, published
from hovvet.core.media.clock import clock_of, read_clock
from hovvet.core.media.decode import speech_wav
from hovvet.core.media.intake import take_in
from hovvet.core.media.naming import title_of
from hovvet.core.media.process import KilledError, LimitError, Limits, MediaError, limits, run
from hovvet.core.media.wav import wav_length
from hovvet.core.words.words_apart import check_apart
from hovvet.core.words.words_in import read_words
from tests.media import ScratchCase, counted, ffmpeg


def lives(process: int) -> bool:
    try:
        return Path(f"/proc/{process}/stat").read_text().rpartition(")")[2].split()[0] not in "ZX"
    except OSError:
        return False


def wait_until(true, seconds: float = 10) -> bool:
    until = time.monotonic() + seconds
    while not true():
        if time.monotonic() > until:
            return False
        time.sleep(0.02)
    return True


class Programs(ScratchCase):
    def test_limits_of_time_work_memory_and_output(self):
        out = self.scratch / "out"
        python = [sys.executable, "-c"]
        roomy = Limits(seconds=30, cpu=30, output=10**8)
        for code, limit in (
            ("import time; time.sleep(60)", Limits(seconds=0.5, cpu=30, output=0)),
            ("while True: pass", Limits(seconds=60, cpu=0, output=0)),
            ("x = bytearray(3 * 10**9)", Limits(seconds=30, cpu=30, output=0, memory=10**9)),
            (f"open({str(out)!r}, 'wb').write(bytes(10**8))", Limits(seconds=30, cpu=30, output=10**7)),
        ):
            began = time.monotonic()
            with self.assertRaises(MediaError, msg=code):
                run([*python, code], limit)
            self.assertLess(time.monotonic() - began, 20, code)
        self.assertLess(out.stat().st_size, 2 * 10**7)
        self.assertEqual(run([*python, "print('well')"], roomy), b"well\n")

    def test_one_that_is_killed_from_outside_is_run_once_more(self):
        mark = self.scratch / "mark"
        dies = "import os, sys; from pathlib import Path; mark = Path(sys.argv[1])\n"
        once = f"{dies}if not mark.exists(): mark.touch(); os.kill(os.getpid(), 9)\nprint('well')"
        roomy = Limits(seconds=30, cpu=30, output=10**8)
        self.assertEqual(run([sys.executable, "-c", once, str(mark)], roomy), b"well\n")
        with self.assertRaisesRegex(KilledError, "ended from outside"):
            run([sys.executable, "-c", f"{dies}os.kill(os.getpid(), 9)", str(mark)], roomy)

    def test_a_program_dies_with_the_process_that_started_it(self):
        code = (
            "from hovvet.core.media.process import Limits, running\n"
            "with running(['sleep', '600'], Limits(600, 600, 0)) as program:\n"
            "    print(program.process.pid, flush=True)\n"
            "    program.process.wait()\n"
        )
        with subprocess.Popen([sys.executable, "-c", code], stdout=subprocess.PIPE) as parent:
            child = int(parent.stdout.readline())
            name = Path(f"/proc/{child}/comm")
            self.assertTrue(wait_until(lambda: name.read_text() == "sleep\n"), "it is set up and runs")
            parent.send_signal(signal.SIGKILL)
        self.assertTrue(wait_until(lambda: not lives(child)), "it outlived a parent that was killed")


class Publishing(ScratchCase):
    def test_every_attempt_has_a_name_of_its_own_and_nothing_is_left_of_it(self):
        out = self.scratch / "film.mp4"
        with published(out) as one, published(out) as two:
            self.assertNotEqual(one, two)
            one.write_bytes(b"one")
            two.write_bytes(b"two")
        self.assertIn(out.read_bytes(), (b"one", b"two"))
        with self.assertRaises(RuntimeError), published(self.scratch / "other") as part:
            part.write_bytes(b"half")
            raise RuntimeError
        self.assertEqual([path.name for path in self.scratch.iterdir()], ["film.mp4"])
        self.assertTrue(one.name.endswith(PART))

    def test_what_is_broken_is_not_published(self):
        good = counted(self.scratch / "good.mp4", 3, "30", "160x90")
        check_media(good, 3, has_picture=True, has_sound=True)
        whole = good.read_bytes()
        broken = {
            "cut short": whole[: len(whole) // 2],
            "empty": b"",
            "overwritten": whole[:2000] + bytes(len(whole) - 2000),
        }
        for what, data in broken.items():
            out = self.scratch / "out.mp4"
            with (
                self.assertRaises(MediaError, msg=what),
                published(out, lambda made: check_media(made, 3, has_picture=True, has_sound=True)) as part,
            ):
                part.write_bytes(data)
            self.assertFalse(out.exists(), what)
        with self.assertRaises(MediaError):
            check_media(good, 30, has_picture=True, has_sound=True)
        silent = counted(self.scratch / "silent.mp4", 1, "30", "160x90", "")
        with self.assertRaises(MediaError):
            check_media(silent, 1, has_picture=True, has_sound=True)

    def test_a_wav_says_what_it_holds(self):
        good = self.scratch / "good.wav"
        ffmpeg("-f", "lavfi", "-t", "1", "-i", "sine=440:r=16000", good)
        check_wav(good)
        short = self.scratch / "short.wav"
        short.write_bytes(good.read_bytes()[:1000])
        with self.assertRaises(MediaError):
            check_wav(short)


class Clocks(ScratchCase):
    def made(self, name: str, *more: object) -> Path:
        out = self.scratch / name
        ffmpeg(
            "-f",
            "lavfi",
            "-t",
            "4",
            "-i",
            "testsrc=s=160x90:r=30",
            "-f",
            "lavfi",
            "-t",
            "4",
            "-i",
            "sine=440",
            *more,
            out,
        )
        return out

    def test_a_jump_is_bridged_without_decoding_it(self):
        jump = "setpts=PTS+gte(T\\,2)*12000/TB"
        path = self.made("jump.mkv", "-vf", jump, "-af", f"a{jump}", "-fps_mode", "vfr", "-enc_time_base", "-1")
        self.assertGreater(read_clock(path).length, 12_000)
        began = os.times().children_user
        taken = take_in(path, self.scratch / "bridged.mkv")
        self.assertAlmostEqual(taken.media.duration, 4, delta=0.1)
        self.assertIn("clock jumps", taken.told)
        self.assertEqual(read_clock(taken.path).gaps, ())
        wav = self.scratch / "speech.wav"
        speech_wav(taken.path, wav, taken.media.duration)
        samples, rate = wav_length(wav)
        self.assertAlmostEqual(samples / rate, 4, delta=0.1)
        self.assertLess(os.times().children_user - began, 10, "seconds that the programs worked")

    def test_a_clock_that_starts_late_is_no_long_recording(self):
        for name, offset in (("late.mkv", 100_000), ("late.ts", 80_000)):
            source = self.made("plain.mkv")
            path = self.scratch / name
            ffmpeg("-i", source, "-c", "copy", "-output_ts_offset", offset, "-avoid_negative_ts", "disabled", path)
            taken = take_in(path, self.scratch / "bridged.mkv")
            self.assertAlmostEqual(taken.media.duration, 4, delta=0.1, msg=name)
            self.assertEqual((taken.path, taken.told), (path, ""))

    def test_a_pause_in_one_stream_is_no_jump(self):
        self.assertEqual(clock_of([(0, 30), (0, 5), (25, 30)]).gaps, ())
        self.assertEqual(clock_of([(20, 30), (0, 5)]).gaps, ((5, 20),))
        self.assertEqual(clock_of([]).length, 0)

    def test_the_limit_holds_for_what_is_in_the_file(self):
        with self.assertRaisesRegex(CoreError, "hours long"):
            take_in(self.made("plain.mkv"), self.scratch / "bridged.mkv", longest=2)

    def test_a_wav_of_one_sample_a_second(self):
        path = self.scratch / "slow.wav"
        with wave.open(str(path), "wb") as wav:
            wav.setnchannels(1)
            wav.setsampwidth(2)
            wav.setframerate(1)
            wav.writeframes(struct.pack("<h", 1) * 1000)
        with self.assertRaisesRegex(MediaError, "too few for speech"):
            take_in(path, self.scratch / "bridged.mkv")

    def test_limits_follow_the_length(self):
        self.assertLess(limits(10, 1, 32_000).output, 50_000_000)
        self.assertGreater(limits(3600, 1, 32_000).output, 3600 * 32_000)
        with self.assertRaises(LimitError):
            speech_wav(self.made("plain.mkv"), self.scratch / "x.wav", -119.9)


class WordsFiles(ScratchCase):
    def test_braces_and_brackets_take_no_time(self):
        cue = "1\n00:00:01,000 --> 00:00:02,000\n{}\n\n"
        for text in ("{" * 4900, "{\\" * 2400, "<" * 4900, "&" * 4900, "a:" * 2400):
            many = "".join(cue.format(text) for _ in range(200)).encode()
            began = time.process_time()
            with suppress(CoreError):
                read_words(many, "a.srt")
            self.assertLess(time.process_time() - began, 3, text[:4])

    def test_bombs_are_refused_with_plain_words(self):
        began = time.monotonic()
        for data, name, about in (
            (b"{" * 100_000, "a.srt", "too long for a subtitle"),
            (b"1\n00:00:01,000 --> 00:00:02,000\nx\n\n" * 60_000, "a.srt", "cues"),
            (b"a " * 250_000, "a.txt", "The most Hovvet takes"),
            (b"x" * 5_000_001, "a.txt", "larger than"),
            (b"\0\1\2", "a.vtt", "not a text file"),
            (b"WEBVTT\n\n", "a.vtt", "no words"),
            (b"words", "a.docx", "SRT, VTT and TXT"),
        ):
            with self.assertRaisesRegex(CoreError, about):
                check_apart(data, name)
        self.assertLess(time.monotonic() - began, 60)

    def test_tags_of_subtitles_are_dropped(self):
        said = read_words(b"1\n00:00:01,000 --> 00:00:02,000\n{\\an8}<i>Hello</i> {there}\n", "a.srt")
        self.assertEqual([each.text for each in said], ["Hello (there)"])


class Names(ScratchCase):
    def test_titles_from_file_names(self):
        for name, title in (
            ("Bench_talk.final.mp4", "Bench talk.final"),
            ("bench-notes-teaser.opus", "bench notes teaser"),
            ("A well-known talk.mov", "A well-known talk"),
            (r"C:\films\x.mp4", "x"),
            (".mp4", ".mp4"),
            ("___.mp4", "Recording"),
        ):
            self.assertEqual(title_of(name), title)
        self.assertEqual(len(title_of("x" * 300)), 200)
        self.assertEqual(title_of("../../etc/passwd.mp4"), "passwd")
