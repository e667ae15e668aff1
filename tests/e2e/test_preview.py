"""What is previewed is what is exported: the stage against the file, and the sound of the joins."""

import re
import subprocess
from base64 import b64decode
from collections.abc import Callable

import numpy as np
from PIL import Image
from playwright.sync_api import Locator, expect

from hovvet.core.media.info import NO_MEDIA
from hovvet.core.media.probe import probe
from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import outlet
from hovvet.core.render.compositor import Compositor
from hovvet.core.render.encoding import Encoding
from hovvet.core.render.limiter import limit
from hovvet.core.render.sources import Original
from hovvet.core.render.work import draw
from tests.core.test_outside import wait_until
from tests.e2e.base import BrowserCase, draw_talk
from tests.media import decoded, ffmpeg

AGREE = 0.97  # structural similarity
AT_REST = 3  # screenshots in a row that are the same: then what was drawn is on the screen
_DRAWN = "() => [...document.querySelectorAll('.stage canvas')].every((each) => each.dataset.frame !== undefined)"

# Note down what is handed to the audio clock, and when it is to sound.
_LISTEN = """() => {
  window.played = []
  const start = AudioBufferSourceNode.prototype.start
  AudioBufferSourceNode.prototype.start = function (when, skipped) {
    window.played.push({ when, samples: this.buffer.getChannelData(0).slice() })
    return start.call(this, when, skipped)
  }
}"""

_PLAYED = """() => window.played.map(({ when, samples }) => {
  const bytes = new Uint8Array(samples.buffer)
  let text = ''
  for (let n = 0; n < bytes.length; n += 32768) text += String.fromCharCode(...bytes.subarray(n, n + 32768))
  return { when, samples: btoa(text) }
})"""


class Agreement:
    """Comparing the stage with a file."""

    def check_pictures(self, film, moments: int) -> None:
        """The stage and a film of it look alike at so many moments."""
        seconds = float(re.search(r":([\d.]+) of", self.page.inner_text("[data-test=length]"))[1])
        slider = self.page.get_by_role("slider", name="Place in the recording")
        found = []
        for n in range(moments):
            frame = int((n + 0.5) / moments * seconds * 30)
            slider.evaluate(f"(e) => {{ e.value = {(frame + 0.5) / 30}; e.dispatchEvent(new Event('input')) }}")
            found.append(self.agreement(film, frame))
        self.assertGreaterEqual(min(found), AGREE, found)

    def stage_and_still(self, plan: Plan, frame: int) -> float:
        """How like one another the stage and the same frame of a file are."""
        media = self.data / "media"
        brought = {key: media / "assets" / key / "file" for key in plan.assets}
        recorded = {key: media / "recordings" / key / "original" for key in plan.recordings}
        originals = {key: Original(path, NO_MEDIA, key) for key, path in brought.items()}
        originals |= {key: Original(path, probe(path), key) for key, path in recorded.items()}
        compositor = Compositor(plan, originals)
        still = self.data / "still.mkv"
        fonts = [brought[font] for font in plan.fonts]
        for _ in draw(plan, compositor, [(frame, frame + 1, still)], Encoding(codec="ffv1"), fonts):
            pass
        compositor.close()
        at = (frame + 0.5) / plan.rate.fps
        slider = self.page.get_by_role("slider", name="Place in the recording")
        slider.evaluate(f"(e) => {{ e.value = {at}; e.dispatchEvent(new Event('input')) }}")
        return self.agreement(still, 0)

    def agreement(self, film, frame: int) -> float:
        """Structural similarity of the stage when it has come to rest: picture and captions are drawn in their own time."""
        self.page.wait_for_function(_DRAWN)
        stage = self.page.locator("div.stage")
        shots: list[bytes] = []
        for _ in range(200):
            shots.append(stage.screenshot())
            if len(shots) >= AT_REST and len(set(shots[-AT_REST:])) == 1:
                break
            self.page.evaluate("new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
        else:
            self.fail("the stage never comes to rest")
        shot = self.data / "stage.png"
        shot.write_bytes(shots[-1])
        return similarity(film, frame, shot)


class Preview(Agreement, BrowserCase):
    def test_stage_and_file_show_the_same(self):
        page = self.page
        self.bring_in(draw_talk(self.data / "talk.mp4", 13))
        page.click("text=talk")
        page.wait_for_selector(".play:not([disabled])")
        page.locator("aside").get_by_role("button", name="Sweep (clean up)", exact=True).click()
        page.wait_for_selector(".word.cut")
        words = page.locator(".word")
        words.first.click()
        for _ in range(words.count() + page.locator(".pause").count()):
            page.keyboard.press("Shift+ArrowRight")
        page.click("text=Make clip")
        page.wait_for_url("**/clips/*")
        page.wait_for_selector(".play:not([disabled])")
        self.mix_it()
        page.get_by_role("button", name="Export", exact=True).click()
        page.click("[data-test=export]")
        page.wait_for_selector("article[data-ready=true]", timeout=400_000)
        with page.expect_download() as download:
            page.locator("article").get_by_text("MP4", exact=True).click()
        film = self.data / "film.mp4"
        download.value.save_as(film)
        self.check_pictures(film, moments=6)
        self.check_sound(film)

    def mix_it(self) -> None:
        """Music that steps back for speech under all of it, some words made softer, others said faster; a sentence that is read, a
        voice over the clip, an effect, sound that crosses at a join."""
        page = self.page
        settings = page.get_by_role("region", name="Settings")
        add = page.get_by_role("button", name="Add", exact=True)
        add.click()
        page.get_by_role("menuitem", name="Music under the whole clip").click()
        settings.locator("[data-test=stock] [data-test=shelf-item]").first.click()
        expect(settings.get_by_text("Part of it that is heard")).to_be_visible()
        page.keyboard.press("Escape")
        page.locator(".rows .word").nth(5).click()
        page.locator(".rows .word").nth(8).click(modifiers=["Shift"])
        add.click()
        page.get_by_role("menuitem", name="Volume over these words").click()
        expect(settings.get_by_role("heading", name="Speech -6 dB")).to_be_visible()
        self.over(10, 13, "Speed", settings.get_by_role("heading", name=re.compile(r"Speed \d")))
        self.over(
            14, 14, "Transition into these words", settings.get_by_role("heading", name="Crossfade"), ready=self.cross
        )
        self.over(2, 3, "Narration from text", settings.get_by_text(re.compile(r"^It takes \d")), ready=self.read)
        self.over(16, 18, "Voice-over", settings.get_by_text("Part of it that is heard"), ready=self.voice)
        self.over(8, 8, "Sound effect", settings.get_by_text("Part of it that is heard"), ready=self.effect)
        expect(page.locator("[data-state=running], [data-state=queued]")).to_have_count(0)  # all of it can be played
        expect(page.get_by_text("Sound is being prepared")).to_have_count(0)
        expect(
            page.get_by_text(re.compile(r"Comes to -?[\d.]+ LUFS"))
        ).to_be_visible()  # how loud all of it is has been measured
        self.plan = Plan.model_validate(self.document(page)["plan"])
        self.assertEqual({layer.bus for layer in self.plan.sound}, {"speech", "music", "voice", "effect"})
        self.assertEqual((len(self.plan.prepared), len(self.plan.spoken)), (1, 1))
        self.assertTrue(any(layer.level for layer in self.plan.sound))
        self.assertAlmostEqual(self.plan.loudness, -14, delta=0.1)

    def over(self, first: int, last: int, what: str, there: Locator, ready: Callable[[], None] = lambda: None) -> None:
        """Lay something over words by its command, set it, and wait until that is seen."""
        page = self.page
        page.locator(".rows .word").nth(first).click()
        page.locator(".rows .word").nth(last).click(modifiers=["Shift"])
        page.keyboard.press("Control+k")
        page.keyboard.type(what)
        page.keyboard.press("Enter")
        expect(page.get_by_role("region", name="Settings")).to_be_visible()
        ready()
        expect(there).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.get_by_role("region", name="Settings")).to_have_count(0)

    def cross(self) -> None:
        self.page.get_by_role("spinbutton", name="Audio crossfade (s)").fill("0.4")

    def read(self) -> None:
        self.page.get_by_label("Text to be read").fill("Listen.")
        self.page.get_by_label("Text to be read").press("Tab")

    def voice(self) -> None:
        self.page.get_by_text("Use a recording or a sound instead").click()
        self.page.get_by_label("Find on the Shelf").fill("steps")
        self.page.locator("[data-test=stock] [data-test=shelf-item]", has_text="Steps").first.click()

    def effect(self) -> None:
        self.page.get_by_label("Find on the Shelf").fill("pling")
        self.page.locator("[data-test=stock] [data-test=shelf-item]", has_text="Pling").first.click()

    def check_sound(self, film) -> None:
        """Every stretch the page plays lies on the very sample where the export has it."""
        page = self.page
        slider = page.get_by_role("slider", name="Place in the recording")
        slider.evaluate("(e) => { e.value = 0; e.dispatchEvent(new Event('input')) }")
        page.evaluate(_LISTEN)
        page.keyboard.press("Escape")
        page.locator(".play").click()
        self.plays_to(page, 8)
        self.assertTrue(wait_until(lambda: page.evaluate("window.played.length") >= 2, 30), "a join was played")
        page.locator(".play").click()
        played = [
            (each["when"], np.frombuffer(b64decode(each["samples"]), np.float32)) for each in page.evaluate(_PLAYED)
        ]
        rate = 48_000
        began = played[0][0]
        exported = decoded(film, channels=2)[: 8 * rate, 0]
        mixed = np.zeros(12 * rate, np.float32)
        for when, samples in played:
            at = (when - began) * rate
            self.assertAlmostEqual(at, round(at), delta=0.01, msg="on a whole sample")
            first = min(round(at), len(mixed))
            end = min(first + len(samples), len(mixed))
            mixed[first:end] += samples[: end - first]
        # The last stretch may have ended before the export's 8 s.
        when, samples = played[-1]
        reached = round((when - began) * rate) + len(samples) - 960
        exported = exported[: min(reached, len(exported))]
        both = np.stack([mixed[: len(exported)]] * 2, axis=1) * np.float32(10 ** (self.plan.master / 20))
        limit(both, outlet("tall").peak)  # what the page does on its way out (player/limiter.ts)
        mixed = both[:, 0]
        lags = range(-480, 481)
        middle = slice(2400, len(exported) - 2400)
        likeness = [float(np.dot(np.roll(mixed, lag)[middle], exported[middle])) for lag in lags]
        self.assertLessEqual(abs(lags[int(np.argmax(likeness))]), 1)
        alike = np.corrcoef(mixed[middle], exported[middle])[0, 1]
        self.assertGreater(alike, 0.97)
        for first in range(2400, len(exported) - rate, rate):
            here = slice(first, first + rate)
            level = 20 * np.log10(np.sqrt(np.mean(mixed[here] ** 2) / np.mean(exported[here] ** 2)))
            self.assertLessEqual(abs(level), 0.3, f"dB, from {first / rate:.1f} s on")
        expect(page.locator("[data-test=meter]")).to_contain_text("Comes to -14.0 LUFS")


def similarity(film, frame: int, stage) -> float:
    """SSIM of one exported frame, scaled to the picture's size, against it."""
    with Image.open(stage) as picture:
        size = f"{picture.width}:{picture.height}"
    still = stage.with_name("frame.png")
    ffmpeg(
        "-ss",
        f"{(frame - 0.5) / 30:.5f}" if frame else "0",
        "-i",
        film,
        "-frames:v",
        "1",
        "-vf",
        f"scale={size}:flags=area",
        still,
    )
    compare = "[0]format=yuv444p[a];[1]format=yuv444p[b];[a][b]ssim"
    command = [
        "ffmpeg",
        "-v",
        "info",
        "-i",
        str(stage),
        "-i",
        str(still),
        "-filter_complex",
        compare,
        "-f",
        "null",
        "-",
    ]
    run = subprocess.run(command, capture_output=True, text=True, check=True)
    return float(re.search(r"All:([\d.]+)", run.stderr)[1])
