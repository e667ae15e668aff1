"""Voices over a clip: recorded while it plays, several takes; read from text, changed and read anew."""

import re

from playwright.sync_api import expect

from tests.e2e.base import PATIENCE
from tests.e2e.voices import RATE, VoiceCase


class Voices(VoiceCase):
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
