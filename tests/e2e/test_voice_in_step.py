"""A voice-over stands where it was spoken: measured, so nothing else is done beside it."""

import re

import numpy as np
from playwright.sync_api import expect

from tests.e2e.voices import NEAR, RATE, VoiceCase


class InStep(VoiceCase):
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
