"""What is recorded keeps sound and picture together: measured, so nothing else is done beside it."""

import numpy as np
from playwright.sync_api import expect

from tests.e2e.recorded import FRAMES, RecordCase, flashes_and_clicks

NEAR = 0.040  # seconds by which sound and picture may be apart
CLICKS = 5


class RecordedInStep(RecordCase):
    def test_flashes_are_seen_when_clicks_are_heard_and_no_frame_is_lost(self):
        page = self.page
        page.goto(f"{self.address}/record/free")
        self.begin()
        page.evaluate("(count) => window.clicks(count)", CLICKS)
        expect(page.locator(".now")).to_contain_text("0:08")
        page.keyboard.press("Shift+X")
        page.wait_for_url("**/recordings/*")
        seconds = self.prepared()
        flashes, clicks, frames = flashes_and_clicks(self.original())
        self.assertEqual((len(flashes), len(clicks)), (CLICKS, CLICKS))
        apart = clicks - flashes
        print("sound and picture are apart by", " ".join(f"{1000 * each:.0f}" for each in apart), "ms")
        self.assertLess(np.abs(apart).max(), NEAR)
        self.assertLess(np.diff(frames).max(), 2.5 / FRAMES)
        self.assertAlmostEqual(seconds, frames[-1] + 1 / FRAMES, delta=1.5 / FRAMES)
