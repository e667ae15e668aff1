"""Whether sound and picture of a long recording stay together, and whether frames are lost: ``python bench/recording.py [MINUTES]``.

The camera and the microphone are made by the page (tests/e2e/recorded.py): a flash is seen when a click is heard, by one clock.
"""

import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

import numpy as np
from playwright.sync_api import expect

from tests.e2e.recorded import FRAMES, RecordCase, flashes_and_clicks

MINUTES = float(sys.argv[1]) if len(sys.argv) > 1 else 10.0


class Long(RecordCase):
    """One long recording."""

    def runTest(self) -> None:
        page = self.page
        page.goto(f"{self.address}/record/free")
        self.begin()
        count = round(60 * MINUTES) - 4
        page.evaluate("(count) => window.clicks(count)", count)
        drawn = page.evaluate("window.drawn")
        whole, rest = divmod(round(60 * MINUTES), 60)
        expect(page.locator(".now")).to_contain_text(f"{whole}:{rest:02d}", timeout=1000 * (60 * MINUTES + 120))
        drawn = page.evaluate("window.drawn") - drawn
        page.keyboard.press("Shift+X")
        page.wait_for_url("**/recordings/*")
        seconds = self.prepared(900)
        flashes, clicks, frames = flashes_and_clicks(self.original())
        apart = 1000 * (clicks - flashes)
        print(f"{len(clicks)} of {count} clicks and {len(flashes)} flashes over {frames[-1]:.1f} s")
        print(
            f"apart by {apart.min():.0f} to {apart.max():.0f} ms; first {apart[:5].mean():.1f}, last {apart[-5:].mean():.1f}"
        )
        steps = np.diff(frames)
        print(
            f"the camera gave {drawn} frames, {len(frames)} are there; longest step {1000 * steps.max():.0f} ms (usually {1000 / FRAMES:.0f})"
        )
        print(f"length {seconds:.3f} s, last frame ends at {frames[-1] + 1 / FRAMES:.3f} s")


if __name__ == "__main__":
    import unittest

    unittest.main(argv=sys.argv[:1])
