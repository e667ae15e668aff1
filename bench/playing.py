"""Three minutes of playing on the stage: late sounds, frames, memory of the browser. Run by ``make bench``."""

import sys
import unittest
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

from playwright.sync_api import CDPSession

from tests.e2e.clips import ClipCase
from tests.e2e.test_playing import BARE, WATCH, WATCHED

SECONDS = 180
AGAIN = """(seconds) => {
  const slider = document.querySelector('[aria-label="Place in the recording"]')
  const back = () => { slider.value = 0; slider.dispatchEvent(new Event('input')) }
  back()
  window.again = setInterval(back, seconds * 1000)
}"""


class Sustained(ClipCase):
    """A clip of twelve seconds with a crossfade, over and over."""

    def test_three_minutes(self) -> None:
        page = self.open_clip(other=False)
        self.lay(page, 8, 8, "Crossfade into these words", "Crossfade 0.5 s")
        ((recording,),) = self.rows("select id from recordings_recording")
        bare = page.evaluate(BARE, [f"/api/recordings/{recording}/files/working", 10]) / 10
        page.evaluate(WATCH)
        session = page.context.new_cdp_session(page)
        page.locator(".play").click()
        page.evaluate(AGAIN, 11)
        page.evaluate(WATCHED, 10)  # all is opened
        before = heap(session)
        watched = page.evaluate(WATCHED, SECONDS)
        after = heap(session)
        print(
            f"\nplaying {SECONDS} s: {watched['late']} late sounds, {watched['frames'] / SECONDS:.1f} frames a second (the bare "
            f"file {bare:.1f}), heap {before:.1f} MB before, {after:.1f} MB after"
        )


def heap(session: CDPSession) -> float:
    """Megabytes that the page's objects take after a clean-up."""
    session.send("HeapProfiler.collectGarbage")
    return float(session.send("Runtime.getHeapUsage")["usedSize"]) / 1e6


if __name__ == "__main__":
    unittest.main()
