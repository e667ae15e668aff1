"""The command line, from file to file."""

import contextlib
import io
import json
from unittest import mock

from PIL import Image

from hovvet.cli import main
from hovvet.core.captions.fonts import FONTS
from hovvet.core.plan.model import Plan
from hovvet.core.words.transcript import Transcript
from tests.media import DEMO, ScratchCase, counted, demo_transcript, ffmpeg, streams
from tests.people import Person, Shot, film


class CommandLine(ScratchCase):
    def run_it(self, *arguments: object) -> tuple[int, str]:
        told = io.StringIO()
        with contextlib.redirect_stderr(told):
            code = main([str(argument) for argument in arguments])
        return code, told.getvalue()

    def talk(self) -> tuple[object, object]:
        """The first 20 s of the demo talk, with its stored words."""
        media = self.scratch / "talk.wav"
        ffmpeg("-t", "20", "-i", DEMO / "speech" / "talk.opus", media)
        words = self.scratch / "words.json"
        whole = demo_transcript()
        part = Transcript(duration=20, words=tuple(word for word in whole.words if word.end < 20))
        words.write_text(part.model_dump_json())
        return media, words

    def test_transcribe_writes_the_format_as_documented(self):
        media = self.scratch / "t.wav"
        ffmpeg("-t", "8", "-i", DEMO / "speech" / "talk.opus", media)
        code, _ = self.run_it("transcribe", media, "-o", self.scratch / "w.json")
        self.assertEqual(code, 0)
        document = json.loads((self.scratch / "w.json").read_text())
        self.assertEqual((document["version"], round(document["duration"])), (1, 8))
        self.assertEqual(set(document["words"][0]), {"id", "text", "start", "end", "confidence", "speaker", "kind"})
        self.assertIn("evening", " ".join(word["text"] for word in document["words"]))

    def test_words_that_are_known_and_every_kind_of_file(self):
        drive = DEMO / "drive"
        media, out = drive / "bench-notes-teaser.opus", self.scratch / "w.json"
        code, told = self.run_it("transcribe", media, "--words", drive / "bench-notes-teaser.srt", "-o", out)
        self.assertEqual((code, told), (0, ""))
        transcript = Transcript.model_validate_json(out.read_text())
        self.assertEqual([each.name for each in transcript.speakers], ["Tolliver", "Maren"])
        short, said = self.scratch / "short.opus", self.scratch / "short.srt"
        ffmpeg("-t", "6", "-i", media, "-c", "copy", short)
        said.write_text("\n\n".join((drive / "bench-notes-teaser.srt").read_text().split("\n\n")[:2]))
        for kind, begins in (("txt", "Tolliver: This is"), ("srt", "1\n00:00:0"), ("vtt", "WEBVTT")):
            out = self.scratch / f"w.{kind}"
            self.run_it("transcribe", short, "--words", said, "-o", out)
            self.assertTrue(out.read_text().startswith(begins), kind)

    def test_how_pauses_are_shortened_can_be_said(self):
        media, words = self.talk()
        saved = []
        for left in ("0.2", "0.6"):
            finds = self.scratch / "f.json"
            self.run_it("sweep", words, "--media", media, "-o", finds, "--kinds", "pause", "--pause-left", left)
            saved.append(json.loads(finds.read_text())["saves"])
        self.assertGreater(saved[0], saved[1] + 0.3)
        code, told = self.run_it("sweep", words, "--media", media, "-o", self.scratch / "f.json", "--pause-from", "0")
        self.assertEqual(code, 1)
        self.assertIn("--pause-from", told)

    def test_sweep_then_clip(self):
        media, words = self.talk()
        finds = self.scratch / "finds.json"
        self.assertEqual(self.run_it("sweep", words, "--media", media, "-o", finds)[0], 0)
        found = json.loads(finds.read_text())
        self.assertLessEqual({"filler", "pause"}, {find["kind"] for find in found["finds"]})
        self.assertGreater(found["saves"], 0.5)
        out, srt = self.scratch / "o.mp4", self.scratch / "o.srt"
        code, told = self.run_it(
            "clip",
            media,
            "-o",
            out,
            "--start",
            0.6,
            "--end",
            7,
            "--sweep",
            "filler,pause",
            "--transcript",
            words,
            "--srt",
            srt,
        )
        self.assertEqual((code, told), (0, ""))
        made = streams(out)
        self.assertEqual((made["video"]["width"], made["video"]["height"]), (1080, 1920))
        self.assertLess(float(made["format"]["duration"]), 6.2)
        self.assertIn("-->", srt.read_text())
        self.assertNotIn("Um", srt.read_text())

    def test_a_sheet_is_rendered_with_its_plan_and_quicker_from_the_cache(self):
        media, words = self.talk()
        transcript = Transcript.model_validate_json(words.read_text())
        other = self.scratch / "other.mp4"
        counted(other, 3)
        piece = {"recording": "r1", "start": 1.0, "end": 3.0}
        sheet = {
            "pieces": [
                piece | {"id": "p1"}, {"id": "p2", "recording": None, "start": 0, "end": 0.4},
                {"id": "p3", "recording": "r2", "start": 0.4, "end": 2.0},
            ],
            "layers": [
                {"id": "l1", "content": {"kind": "marker", "note": "look"}},
                {"id": "l2", "content": {"kind": "look", "table": "t1"}},
                {"id": "l3", "content": {"kind": "framing", "picture": "b1", "padding": 0.1}},
            ],
            "editions": [{"id": "e1", "outlet": "square"}, {"id": "e2", "outlet": "wide", "rate": {"num": 15, "den": 1}}], "version": 2,
            "style": {"key": "own-1", "name": "Workshop", "font": "f1"},
        }  # fmt: skip
        file, out, plan = (self.scratch / name for name in ("sheet.json", "o.mp4", "plan.json"))
        file.write_text(json.dumps(sheet))
        given = [file, "--media", f"r1={media}", "--words", f"r1={words}", "--media", f"r2={other}", "--plan", plan]
        without = (*given, "-o", out)
        (self.scratch / "t.cube").write_text("LUT_1D_SIZE 2\n1 1 1\n0 0 0\n")
        Image.new("RGB", (64, 36), "#804020").save(self.scratch / "b.png")
        given += ["--cache", self.scratch / "cache", "--edition", "e2"]
        font = ["--font", f"f1={FONTS / 'hand.ttf'}"]
        table, picture = ["--table", f"t1={self.scratch / 't.cube'}"], ["--picture", f"b1={self.scratch / 'b.png'}"]
        given += [*font, *table, *picture]
        self.assertEqual(self.run_it("render", *given, "-o", out), (0, ""))
        made = Plan.model_validate_json(plan.read_text())
        self.assertEqual((made.width, made.frames, made.markers[0].note), (1920, round(4 * made.rate.fps), "look"))
        self.assertEqual((made.fonts, made.assets), (("f1",), ("f1", "t1", "b1")))
        self.assertEqual([w.id for w in made.words], [w.id for w in transcript.between(1.0, 3.0)])
        self.assertEqual(int(streams(out)["video"]["nb_read_frames"]), made.frames)
        first = out.read_bytes()
        with mock.patch("hovvet.core.render.export._worker", side_effect=AssertionError("nothing is drawn again")):
            self.assertEqual(self.run_it("render", *given, "-o", out), (0, ""))
        self.assertEqual(out.read_bytes(), first)
        for more, about in (
            ((file, "--media", f"r1={media}", "-o", out), "--media r2=FILE"),
            ((*given, "--edition", "e9", "-o", out), "no edition “e9”"),
            ((*given, "-o", self.scratch / "o.exe"), "no kind of file"),
            ((words, "-o", out), "not a sheet"),
            ((*without, *picture), "--font f1=FILE"),
            ((*without, *font, *picture), "--table t1=FILE"),
            ((*without, *font, *table), "--picture b1=FILE"),
            ((*without, *font, *table, "--picture", f"b1={words}"), "not a picture"),
            ((*without, *font, *picture, "--table", f"t1={words}"), "not a .cube file"),
            ((*without, *picture, "--font", f"f1={file}"), "not a font"),
        ):
            code, told = self.run_it("render", *more)
            self.assertEqual((code, about in told), (1, True), told)

    def test_a_speaker_is_kept_in_view_from_the_shell_too(self):
        film(self.scratch / "talk.mp4", [Shot(4, [Person(lambda t: (0.3, 0.4))])])
        ffmpeg(
            "-i",
            self.scratch / "talk.mp4",
            "-f",
            "lavfi",
            "-t",
            4,
            "-i",
            "anullsrc",
            "-c:v",
            "copy",
            self.scratch / "heard.mp4",
        )
        sheet = {
            "pieces": [{"id": "p1", "recording": "r1", "start": 0.5, "end": 3.0}], "version": 2,
            "layers": [{"id": "l1", "content": {"kind": "framing", "mode": "speaker"}}],
        }  # fmt: skip
        file, out, plan = (self.scratch / name for name in ("sheet.json", "o.png", "plan.json"))
        file.write_text(json.dumps(sheet))
        media = ("--media", f"r1={self.scratch / 'heard.mp4'}")
        self.assertEqual(self.run_it("render", file, *media, "--plan", plan, "-o", out), (0, ""))
        (layer,) = Plan.model_validate_json(plan.read_text()).picture
        self.assertAlmostEqual((layer.crop.x + layer.crop.width / 2) / 960, 0.3, delta=0.02)

    def test_a_kind_that_does_not_exist_is_refused(self):
        media, words = self.talk()
        with self.assertRaises(SystemExit) as stopped:
            self.run_it("sweep", words, "--media", media, "-o", self.scratch / "o", "--kinds", "breath")
        self.assertEqual(stopped.exception.code, 2)

    def test_what_cannot_be_done_is_told(self):
        media, words = self.talk()
        out = self.scratch / "o"
        for arguments, about in (
            (("clip", media, "-o", out, "--transcript", words, "--outlet", "round"), "no outlet “round”"),
            (("clip", media, "-o", out, "--transcript", words, "--captions", "loud"), "no caption style"),
            (("clip", media, "-o", out, "--transcript", words, "--start", "30"), "would be empty"),
            (("clip", media, "-o", out, "--transcript", media), "is not a transcript"),
            (("transcribe", self.scratch / "none.mp4", "-o", out), "No such file"),
        ):
            with self.subTest(arguments=arguments[1:]):
                code, told = self.run_it(*arguments)
                self.assertEqual(code, 1)
                self.assertIn(about, told)
                self.assertFalse(out.exists())
