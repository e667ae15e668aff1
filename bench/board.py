"""The board of five hundred clips in the browser: until its first rows are painted, beside the same board of one clip. Run by
``make bench``."""

import subprocess
import sys
import unittest
from pathlib import Path
from statistics import median

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.e2e.base import ROOT
from tests.e2e.clips import ClipCase

CLIPS, TIMES = 500, 7
_MANY = f"""
from hovvet.server.delivery.models import Export
from hovvet.server.documents.making import create_document
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import sheet_of
clip = Document.objects.get(kind="clip")
sheet = sheet_of(clip)
given = dict(workspace=clip.workspace, edition="e1", outlet="tall", name="Tall feed", version=1, plan={{}})
for n in range({CLIPS} - 1):
    made = create_document(clip.workspace, Document.Kind.CLIP, f"Clip {{n}}", sheet, None)
    if n % 2:
        Export.objects.create(document=made, digest=str(n), **given)
"""
# From the click to the frame in which the rows are on the screen.
_PAINTED = """() => new Promise((done) => {
  const began = performance.now()
  const painted = () => setTimeout(() => done(performance.now() - began))
  const look = () => requestAnimationFrame(document.querySelector('[data-test=board-row]') ? painted : look)
  ;[...document.querySelectorAll('nav a')].find((each) => each.textContent === 'Deliveries').click()
  look()
})"""
_ACTIVE = "select count(*) from jobs_job where state in ('queued', 'running')"


class Board(ClipCase):
    """One clip, then many."""

    def painted(self) -> float:
        """Milliseconds from a click on Deliveries until its first rows are painted, the data asked for anew."""
        page, took = self.page, []
        for _ in range(TIMES):
            page.goto(f"{self.address}/shelf")
            page.wait_for_selector("[data-test=shelf-item], [role=tablist], .el-radio-group")
            took.append(page.evaluate(_PAINTED))
        return median(took)

    def test_first_paint(self) -> None:
        """Print both."""
        self.open_clip(other=False)
        one = self.painted()
        command = [sys.executable, "-W", "ignore", "manage.py", "shell", "-c", _MANY]
        subprocess.run(command, cwd=ROOT, env=self.environment, check=True, capture_output=True)
        self.painted()
        while self.rows(_ACTIVE) != [(0,)]:  # they are compared with their clips, once
            self.page.wait_for_timeout(500)
        many = self.painted()
        print(f"\nboard, first rows painted: 1 clip {one:.0f} ms, {CLIPS} clips {many:.0f} ms ({many / one:.1f} times)")


if __name__ == "__main__":
    unittest.main()
