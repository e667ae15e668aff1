"""One story from end to end: from a talk on disk to a posted clip, through the page."""

import os
import re
import signal
import subprocess
from pathlib import Path

from playwright.sync_api import expect

from hovvet.core.engines.whisper import WhisperRecogniser
from hovvet.core.media.decode import speech_wav
from hovvet.core.words.timing import Aligner
from hovvet.core.words.transcribe import transcribe
from tests.compare import normal_words
from tests.e2e.base import PASSWORD, BrowserCase, draw_talk
from tests.media import DEMO, demo_transcript, ffmpeg, streams


class Story(BrowserCase):
    def word(self, text: str, nth: int = 0):
        return self.page.locator(".word", has_text=re.compile(rf"^{text}\b")).nth(nth)

    def drag(self, first, last) -> None:
        first.scroll_into_view_if_needed()
        a, b = first.bounding_box(), last.bounding_box()
        self.page.mouse.move(a["x"] + 4, a["y"] + a["height"] / 2)
        self.page.mouse.down()
        self.page.mouse.move(b["x"] + b["width"] / 2, b["y"] + b["height"] / 2, steps=6)
        self.page.mouse.up()

    def struck(self) -> list[str]:
        return self.page.locator(".word.cut").all_inner_texts()

    def length(self) -> float:
        """The length shown, in seconds."""
        minutes, seconds = re.match(r"(\d+):([\d.]+)", self.page.inner_text("[data-test=length]")).groups()
        return int(minutes) * 60 + float(seconds)

    def test_from_a_talk_to_a_clip(self):
        page = self.page
        self.bring_in(draw_talk(self.data / "Bench_talk.mp4", 29))
        page.click("text=Bench talk")
        page.wait_for_selector(".play:not([disabled])")
        whole = self.length()
        self.assertAlmostEqual(whole, 29, delta=0.3)

        # Click a word to go there; play, and the spoken word moves on.
        self.word("Tonight").click()
        self.assertRegex(page.inner_text("[data-test=clock]"), r"^0:1[12]\.")
        page.keyboard.press("Space")
        self.plays_to(page, 14)
        page.evaluate(
            """async () => { const until = performance.now() + 60000
                while (!CSS.highlights.has('spoken')) {
                  if (performance.now() > until) throw new Error('the spoken word is not marked')
                  await new Promise(requestAnimationFrame) } }"""
        )  # between two words nothing is marked
        page.keyboard.press("Space")

        # Cut words with the mouse, and more with the keyboard alone.
        self.drag(self.word("in", 0), self.word("weather"))
        page.keyboard.press("Delete")
        page.wait_for_selector(".word.cut")
        self.assertEqual(self.struck(), ["in", "this", "weather."])
        self.word("two").click()
        page.keyboard.press("Shift+ArrowRight")
        page.keyboard.press("Backspace")
        expect(page.locator(".word.cut")).to_have_count(5)
        self.assertLess(self.length(), whole - 1.0)

        # Undo and redo, also after a reload.
        page.reload()
        page.wait_for_selector(".word.cut")
        self.assertEqual(len(self.struck()), 5)
        page.click("text=Undo")
        expect(page.locator(".word.cut")).to_have_count(3)
        page.keyboard.press("Control+Shift+z")
        expect(page.locator(".word.cut")).to_have_count(5)
        page.click("text=Undo")
        expect(page.locator(".word.cut")).to_have_count(3)

        # Cut a pause like a word, and bring it back.
        pause = page.locator(".pause").nth(3)
        pause.click()
        page.keyboard.press("Delete")
        page.wait_for_selector(".pause.cut")
        page.keyboard.press("b")
        page.wait_for_selector(".pause.cut", state="detached")

        # Sweep: says how many and how many seconds, and is one undo.
        before = self.length()
        page.locator("aside").get_by_role("button", name="Sweep (clean up)", exact=True).click()
        told = page.locator(".el-message").last.inner_text()
        fillers, pauses, saved = re.search(
            r"Cut (\d+) filler sounds?, shortened (\d+) long pauses?: ([\d.]+) s", told
        ).groups()
        self.assertGreaterEqual(int(fillers), 1)
        self.assertGreaterEqual(int(pauses), 2)
        self.assertAlmostEqual(self.length(), before - float(saved), delta=0.15)
        page.keyboard.press("Control+z")
        expect(page.locator(".word.cut")).to_have_count(3)
        page.keyboard.press("Control+y")
        expect(page.locator(".word.cut").nth(3)).to_be_attached()

        # Make a clip of a passage that holds cuts.
        self.drag(self.word("Good"), self.word("stopped"))
        page.click("text=Make clip")
        page.wait_for_url("**/clips/*")
        page.wait_for_selector(".row .word.cut")
        self.assertIn("weather.", self.struck())
        page.wait_for_selector(".play:not([disabled])")
        self.word("Mending").click()
        page.keyboard.press("Delete")
        expect(page.locator(".word.cut", has_text="Mending")).to_be_attached()
        shown = self.length()

        # Export, watch, download.
        page.get_by_role("button", name="Export", exact=True).click()
        page.click("[data-test=export]")
        page.wait_for_selector("article [data-state]")
        page.wait_for_selector("article[data-ready=true]", timeout=400_000)
        page.get_by_role("button", name="Watch back").click()
        film = page.get_by_role("dialog", name="Watch back").locator("video")
        expect(film).to_have_js_property("readyState", 4)
        self.assertAlmostEqual(film.evaluate("(video) => video.duration"), shown, delta=0.1)
        page.keyboard.press("Escape")
        files = {}
        for kind in ("MP4", "SRT", "VTT"):
            with page.expect_download() as download:
                page.locator("article").get_by_text(kind, exact=True).click()
            files[kind] = self.data / download.value.suggested_filename
            download.value.save_as(files[kind])
        self.assertTrue(files["MP4"].name.endswith("Tall feed.mp4"))
        self.check_file(files["MP4"], shown)
        captions = files["SRT"].read_text()
        self.assertIn("Nobody throws", captions.replace("\n", " "))
        self.assertNotIn("weather", captions)
        self.assertTrue(files["VTT"].read_text().startswith("WEBVTT"))
        self.assertEqual(self.problems, [])

    def check_file(self, file: Path, seconds: float) -> None:
        made = streams(file)
        self.assertEqual(
            (made["video"]["width"], made["video"]["height"], made["video"]["profile"]), (1080, 1920, "High")
        )
        self.assertEqual((made["audio"]["codec_name"], made["audio"]["sample_rate"]), ("aac", "48000"))
        self.assertAlmostEqual(float(made["format"]["duration"]), seconds, delta=0.08)
        wav = self.data / "heard.wav"
        speech_wav(file, wav, seconds)
        transcript = transcribe(wav, WhisperRecogniser(), Aligner(), lambda _: None)
        heard = normal_words(" ".join(word.text for word in transcript.words))
        for kept in ("evening", "thank", "name", "looked", "nobody", "throws", "clock"):
            self.assertIn(kept, heard)
        for cut in ("weather", "mending", "um"):
            self.assertNotIn(cut, heard)


class Trouble(BrowserCase):
    def test_a_wrong_password(self):
        page = self.browser.new_page()
        self.addCleanup(page.close)
        page.goto(self.address)
        page.fill("#username", "maren")
        page.fill("#password", PASSWORD + "!")
        page.keyboard.press("Enter")
        page.wait_for_selector("[role=alert]:has-text('Wrong name or password')")

    def test_files_that_are_no_recordings(self):
        empty, letter = self.data / "empty.mp4", self.data / "letter.mp4"
        empty.write_bytes(b"")
        letter.write_text("Dear all, " * 200)
        self.page.set_input_files("[data-test=files]", [empty, letter])
        self.page.wait_for_selector("[role=alert]:has-text('The file is empty')")
        self.page.wait_for_selector("[role=alert]:has-text('not a video or audio file')")
        self.page.locator("li", has_text="letter").get_by_role("button", name="Retry").click()
        self.page.wait_for_selector("[role=alert]:has-text('not a video or audio file')")

    def test_a_killed_worker_loses_nothing(self):
        sound, seconds = self.data / "long.opus", 75
        ffmpeg("-t", seconds, "-i", DEMO / "speech" / "interview.opus", "-c", "copy", sound)
        truth = demo_transcript("interview")
        said = sum(word.end < seconds for word in truth.words)
        self.page.set_input_files("[data-test=files]", sound)
        row = self.page.locator("li", has_text="long")
        row.locator("[data-state=running]", has_text="Transcribing").wait_for()
        row.get_by_role("link", name="long").click()
        self.page.wait_for_selector(".word", timeout=120_000)  # the first words can be read already
        workers = subprocess.run(
            ["pgrep", "-P", str(self.server.pid), "-f", "manage.py worker"], capture_output=True, text=True, check=True
        )
        for worker in workers.stdout.split():
            os.kill(int(worker), signal.SIGKILL)
        self.page.goto(self.address)
        row.locator("text=/\\d+ words/").wait_for(timeout=400_000)
        self.assertGreater(int(re.search(r"(\d+) words", row.inner_text())[1]), 0.9 * said)

    def test_an_address_of_something_that_does_not_exist(self):
        self.page.goto(f"{self.address}/recordings/00000000-0000-0000-0000-000000000000")
        self.page.wait_for_selector("text=does not exist, or it has been deleted")

    def test_two_people_on_one_recording_lose_nothing(self):
        sound = self.data / "short.opus"
        ffmpeg("-t", "16", "-i", Path(__file__).parents[2] / "demo/speech/talk.opus", "-c", "copy", sound)
        self.bring_in(sound)
        self.page.click("text=short")
        other = self.browser.new_page()
        self.addCleanup(other.close)
        self.sign_in(other)
        other.goto(self.page.url)
        for page in (self.page, other):
            page.wait_for_selector("[data-test=length]")
        self.page.locator(".word").nth(1).click()
        self.page.keyboard.press("Delete")
        self.page.wait_for_selector(".word.cut")
        other.locator(".word").nth(4).click()
        other.keyboard.press("Delete")
        other.wait_for_selector("text=Your change was made on top of it")
        expect(other.locator(".word.cut")).to_have_count(2)
