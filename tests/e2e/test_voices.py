"""Voices over a clip: recorded while it plays, several takes; read from text, changed and read anew."""

import re

import numpy as np
from playwright.sync_api import Page, expect

from hovvet.core.media.decode import sound
from hovvet.core.plan.model import Plan, SoundLayer
from tests.core.test_outside import wait_until
from tests.e2e.base import PATIENCE
from tests.e2e.clips import ClipCase

RATE = 48_000
NEAR = 0.02  # seconds by which a voice may be out of its place

# What the page plays is what its microphone hears: a loudspeaker and a microphone in one.
_LOOPBACK = """() => {
  const Own = window.AudioContext
  window.AudioContext = class extends Own {
    constructor(options) {
      super(options)
      this.room = this.createMediaStreamDestination()
      window.rooms = [...(window.rooms ?? []), this.room]
    }
  }
  const connect = AudioNode.prototype.connect
  AudioNode.prototype.connect = function (to, ...others) {
    if (this.context.room && to === this.context.destination) connect.call(this, this.context.room)
    return connect.call(this, to, ...others)
  }
  navigator.mediaDevices.getUserMedia = async () => {
    if (window.refused) throw new DOMException('', 'NotAllowedError')
    window.microphone = new MediaStream(window.rooms.at(-1).stream.getTracks().map((track) => track.clone()))
    return window.microphone
  }
}"""


class Voices(ClipCase):
    def setUp(self) -> None:
        super().setUp()
        self.page.add_init_script(f"({_LOOPBACK})()")

    def plan(self) -> Plan:
        return Plan.model_validate(self.document(self.page)["plan"])

    def voice(self) -> SoundLayer | None:
        return next((layer for layer in self.plan().sound if layer.bus == "voice"), None)

    def idle(self) -> None:
        """Wait until nothing is done in the background."""
        self.assertTrue(
            wait_until(lambda: not self.rows("select id from jobs_job where state in ('queued', 'running')"), 180)
        )

    def take(self) -> str:
        """The one that is chosen."""
        layers = self.document(self.page)["sheet"]["layers"]
        return next(each["content"]["media"] for each in layers if each["content"]["kind"] == "voice_over")

    def heard(self, layer: SoundLayer, seconds: float) -> np.ndarray:
        file = self.data / "media" / "recordings" / layer.media / "original"
        return sound(file, layer.source_sample / RATE, seconds, RATE, 1)[:, 0]

    def record(self, page: Page, until: float) -> None:
        """By the keys: begin, wait until the clip has played so far, stop."""
        recorder = page.locator("[data-test=recorder]")
        page.keyboard.press("Shift+R")
        expect(recorder).to_have_attribute("data-stage", "recording")
        self.plays_to(page, until)
        page.keyboard.press("Shift+X")
        expect(recorder).to_have_attribute("data-stage", "ready")

    def test_a_voice_over_stands_where_it_was_spoken_and_the_better_take_is_chosen(self):
        page = self.open_clip(other=False)
        self.select(page, 4, 8)
        page.keyboard.press("Shift+O")
        settings, recorder = page.get_by_role("region", name="Settings"), page.locator("[data-test=recorder]")
        page.evaluate("window.refused = true")
        recorder.get_by_role("button", name="Record…").click()
        expect(recorder.get_by_role("alert")).to_contain_text("may not use the microphone")
        page.evaluate("window.refused = false")
        recorder.get_by_role("button", name="Record…").click()
        recorder.get_by_role("button", name="Measure it").click()
        expect(recorder.get_by_text(re.compile(r"\d+ ms late"))).to_be_visible()
        self.idle()  # what other takes left to do would make the sound stutter
        begins = next(each["start"] for each in self.document(page)["bars"] if each["kind"] == "voice_over")
        recorder.get_by_role("button", name="Record (Shift+R)").click()
        expect(recorder).to_have_attribute("data-stage", "counting")
        expect(recorder).to_have_attribute("data-stage", "recording")
        self.plays_to(page, begins + 1.5)
        recorder.get_by_role("button", name="Pause").click()
        expect(recorder.get_by_text("Paused at")).to_be_visible()
        recorder.get_by_role("button", name="Go on").click()
        self.plays_to(page, begins + 4)
        recorder.get_by_role("button", name="Stop").click()
        expect(recorder.get_by_text(re.compile("Take 1, 0:0"))).to_be_visible()
        expect(settings.get_by_text("still being prepared")).to_have_count(0)

        # What was heard over these words, in its place: before the pause and after it.
        own = self.voice()
        self.assertAlmostEqual(own.sample / RATE, begins, delta=0.01)
        talk = next(layer for layer in self.plan().sound if layer.bus == "speech")
        clip = self.heard(talk, begins + 6)
        taken = self.heard(own, 4)
        places = []
        for first in np.arange(0.2, 3.4, 0.4):
            part = taken[round(first * RATE) : round((first + 0.6) * RATE)]
            around = clip[round((begins + first - 0.3) * RATE) : round((begins + first + 0.9) * RATE)]
            like = np.correlate(around, part, "valid")
            at = int(np.argmax(like))
            level = np.sqrt((part**2).sum() * (around[at : at + len(part)] ** 2).sum())
            places.append((round(float(first), 1), round(float(like.max() / level), 2), round(at / RATE - 0.3, 4)))
        self.assertTrue(all(alike > 0.8 and abs(late) <= NEAR for _, alike, late in places), places)
        print("a voice-over is late by", *(f"{1000 * late:.1f}" for _, _, late in places), "ms")
        self.assertLess(self.plan().words[-1].end, self.plan().seconds + 0.1)

        # Another one, by keys alone; the first is better after all.
        settings.get_by_role("heading").first.focus()
        self.record(page, begins + 1)
        expect(recorder.get_by_text(re.compile("Take 2"))).to_be_visible()
        first, second = own.media, self.take()
        self.assertNotEqual(first, second)
        recorder.get_by_role("radio", name="Take 1").check(force=True)
        expect(recorder.get_by_role("radio", name="Take 1")).to_be_checked()
        self.assertEqual(self.voice().source_sample, own.source_sample)
        self.assertEqual(self.problems, [])

    def test_a_page_that_is_closed_amid_a_take_loses_nothing_that_arrived(self):
        page = self.open_clip(other=False)
        self.select(page, 4, 8)
        page.keyboard.press("Shift+O")
        recorder = page.locator("[data-test=recorder]")
        recorder.get_by_role("button", name="Record…").click()
        recorder.get_by_role("button", name="Record (Shift+R)").click()
        expect(recorder).to_have_attribute("data-stage", "recording")
        page.wait_for_function(
            "() => parseFloat(document.querySelector('[data-test=recorder] .now').textContent.split(':').at(-1)) > 5"
        )
        address = page.url
        page.close()  # as if the machine were switched off
        again = self.page = self.browser.new_page(viewport={"width": 1280, "height": 800}, storage_state=self.signed_in)
        again.goto(address)
        again.wait_for_selector(".play:not([disabled])")
        again.set_default_timeout(PATIENCE)
        again.locator("[data-test=bar]", has_text="Voice-over").first.click()
        again.get_by_role("button", name="Keep it").click()
        expect(again.locator("[data-test=recorder]").get_by_text(re.compile("Take 1, 0:0"))).to_be_visible()
        (media,) = [
            row
            for (row,) in self.rows(
                "select id from recordings_recording where title like 'Voice%' order by created desc limit 1"
            )
        ]
        kept = next((self.data / "media" / "recordings").glob(f"{media[:8]}*")) / "original"
        self.assertGreater((kept.stat().st_size - 44) / RATE / 2, 4)
        again.close()

    def test_a_lost_server_and_an_unplugged_microphone_cost_nothing_of_what_was_said(self):
        page = self.open_clip(other=False)
        self.select(page, 4, 8)
        page.keyboard.press("Shift+O")
        recorder = page.locator("[data-test=recorder]")
        recorder.get_by_role("button", name="Record…").click()
        expect(recorder.get_by_text("We hear nothing")).to_be_visible()  # the clip stands, so the room is silent
        recorder.get_by_role("button", name="Record (Shift+R)").click()
        expect(recorder).to_have_attribute("data-stage", "recording")
        self.server.kill()
        self.server.wait()
        expect(recorder.get_by_text("cannot be reached")).to_be_visible()
        said = "() => parseFloat(document.querySelector('[data-test=recorder] .now').textContent.split(':').at(-1))"
        page.wait_for_function(f"() => ({said})() > 7")
        self.start_server()
        page.evaluate("window.microphone.getAudioTracks()[0].dispatchEvent(new Event('ended'))")
        expect(recorder.get_by_role("alert").filter(has_text="unplugged")).to_be_visible()
        expect(recorder.get_by_text(re.compile("Take 1"))).to_be_visible()
        kept = self.data / "media" / "recordings" / self.take() / "original"
        self.assertGreater((kept.stat().st_size - 44) / RATE / 2, 7)
        expect(page.get_by_role("region", name="Settings").get_by_text("still being prepared")).to_have_count(0)
        self.assertGreater(len([word for word in self.plan().words if word.layer]), 3, "its words are the captions")
        self.assertEqual(self.problems, [])

    def test_what_is_read_is_written_changed_and_read_anew(self):
        page = self.open_clip(other=False)
        page.keyboard.press("Control+k")  # no words are selected: it is laid at the playhead
        page.keyboard.type("narration from text")
        page.keyboard.press("Enter")
        text = page.get_by_label("Text to be read")
        text.fill("Here is what they found. It was the spring.")
        text.press("Tab")
        settings = page.get_by_role("region", name="Settings")
        expect(settings.get_by_text(re.compile(r"It takes \d"))).to_be_visible()
        before = self.plan()
        self.assertEqual([each.text for each in before.spoken], ["Here is what they found.", "It was the spring."])
        written = [word.text for word in before.words if word.layer]
        self.assertEqual(written, "Here is what they found. It was the spring.".split())
        text.fill("Here is what they found. It was a wire.")
        text.press("Tab")
        expect(page.locator("[data-test=bar]", has_text="wire").first).to_be_visible()
        expect(settings.get_by_text("Not all of it")).to_have_count(0)
        after = self.plan()
        self.assertEqual(after.spoken[0].media, before.spoken[0].media, "what stayed is not read again")
        self.assertNotEqual(after.spoken[1].media, before.spoken[1].media)
        page.evaluate("window.before = document.querySelector('[data-test=length]').textContent")
        page.get_by_role("button", name="Give it a pause of its own").click()
        expect(page.locator("[data-test=bar]", has_text="Here is what").first).to_be_visible()
        page.wait_for_function("() => document.querySelector('[data-test=length]').textContent !== window.before")
        plan = self.plan()
        gap = next(each for each in plan.stretches if each.recording is None)
        (first, *_) = [layer for layer in plan.sound if layer.bus == "voice"]
        self.assertAlmostEqual(first.sample / RATE, gap.frame / plan.rate.fps, delta=0.001)
        page.keyboard.press("Control+z")
        self.assertEqual(self.problems, [])

    def test_music_ends_with_the_clip_also_after_a_sentence_was_cut(self):
        page = self.open_clip(other=False)
        page.get_by_role("button", name="Add", exact=True).click()
        page.get_by_role("menuitem", name="Music under the whole clip").click()
        settings = page.get_by_role("region", name="Settings")
        settings.get_by_label("Find on the Shelf").fill("clockwork")
        settings.locator("[data-test=stock] [data-test=shelf-item]", has_text="Clockwork").first.click()
        expect(settings.get_by_text("Part of it that is heard")).to_be_visible()
        settings.get_by_text("Fit, with its own ending", exact=True).click()
        expect(settings.locator("p[role=status]")).to_have_count(0)  # it is there, and could be fitted
        page.keyboard.press("Escape")
        lasts = []
        for cut in (False, True):
            if cut:
                page.evaluate("window.before = document.querySelector('[data-test=length]').textContent")
                self.select(page, 10, 14)
                page.keyboard.press("Delete")
                page.wait_for_function(
                    "() => document.querySelector('[data-test=length]').textContent !== window.before"
                )
            plan = self.plan()
            music = [layer for layer in plan.sound if layer.bus == "music"]
            self.assertEqual(music[-1].sample + music[-1].samples, plan.samples)
            self.assertEqual(music[-1].fade_out, 0, "it has an ending of its own")
            self.assertGreater(
                len({knot.value for layer in music for knot in layer.level}), 1, "it steps back for speech"
            )
            lasts.append(plan.seconds)
        self.assertLess(lasts[1], lasts[0] - 0.5)
        # All that is heard beside the speech, softer in one go; one of it alone.
        page.keyboard.press("Shift+A")
        levels = page.get_by_role("region", name="Sound levels")
        levels.get_by_role("button", name="Solo").last.click()
        expect(levels.get_by_role("button", name="Solo").last).to_have_attribute("aria-pressed", "true")
        levels.get_by_role("slider").first.press("ArrowLeft")
        expect(levels.get_by_text("-9.5", exact=True)).to_be_visible()
        page.wait_for_function("() => !document.body.textContent.includes('Saving')")
        self.assertAlmostEqual(self.plan().sound[-1].gain, music[-1].gain - 0.5, delta=0.01)
        self.assertEqual(self.problems, [])
