"""Restarts: a planned one loses no work, a killed server leaves nothing running, a killed worker nothing broken."""

import os
import re
import signal
import subprocess
import time
from pathlib import Path

from playwright.sync_api import expect

from hovvet.core.media.checked import check_media
from tests.core.test_outside import lives, wait_until
from tests.e2e.base import BrowserCase
from tests.media import DEMO, ffmpeg

SECONDS = 8


def children(process: int) -> list[int]:
    """All processes below one, by /proc."""
    listed = subprocess.run(["ps", "-eo", "pid=,ppid="], capture_output=True, text=True, check=True).stdout
    parents = {int(line.split()[0]): int(line.split()[1]) for line in listed.splitlines()}
    below, found = {process}, []
    while fresh := [pid for pid, parent in parents.items() if parent in below and pid not in below]:
        below.update(fresh)
        found += fresh
    return found


def command(process: int) -> str:
    try:
        return Path(f"/proc/{process}/cmdline").read_bytes().replace(b"\0", b" ").decode()
    except OSError:
        return ""


class Restarting(BrowserCase):
    workers = 2

    def film(self) -> Path:
        """A film that takes a while to prepare."""
        out = self.data / "Slow_film.mp4"
        if not out.exists():
            ffmpeg(
                "-f", "lavfi", "-t", SECONDS, "-i", "testsrc2=s=1280x720:r=30", "-t", SECONDS, "-i", DEMO / "speech" / "talk.opus",
                "-c:v", "libx264", "-preset", "ultrafast", "-c:a", "aac", out,
            )  # fmt: skip
        return out

    def preparing(self) -> list[int]:
        """The ffmpeg that writes the working copy."""
        return [
            pid for pid in children(self.server.pid) if command(pid).startswith("ffmpeg") and "working" in command(pid)
        ]

    def begin(self):
        self.page.goto(self.address)
        self.page.set_input_files("[data-test=files]", self.film())
        self.assertTrue(wait_until(lambda: bool(self.preparing()), 60))
        return self.page.locator("li", has_text="Slow film").first

    def ready(self, row) -> None:
        row.locator("text=/\\d+ words/").wait_for(timeout=200_000)
        row.locator("[data-state]").first.wait_for(state="detached", timeout=200_000)
        made = next((self.data / "media" / "recordings").glob("*/working.mp4"))
        check_media(made, SECONDS, has_picture=True, has_sound=True)
        errors = subprocess.run(
            ["ffmpeg", "-v", "error", "-i", str(made), "-f", "null", "-"], capture_output=True, check=True
        ).stderr
        self.assertEqual(errors, b"", "the working copy decodes without a single error")
        self.assertEqual(list(made.parent.glob(".*.part")), [])

    def tearDown(self) -> None:
        self.page.goto(self.address)
        row = self.page.locator("li", has_text="Slow film").first
        row.get_by_role("button", name=re.compile("More")).click()
        self.page.locator("text=Delete… >> visible=true").click()
        self.page.locator(".el-message-box").get_by_role("button", name="Delete").click()
        expect(row).to_have_count(0)

    def test_a_worker_killed_while_preparing_leaves_no_broken_copy(self):
        row = self.begin()
        writing = self.preparing()[0]
        worker = next(pid for pid in children(self.server.pid) if "worker" in command(pid) and writing in children(pid))
        os.kill(worker, signal.SIGKILL)
        self.assertTrue(wait_until(lambda: not lives(writing)), "ffmpeg ended with its worker")
        self.ready(row)

    def test_a_planned_restart_is_quick_and_counts_as_no_attempt(self):
        row = self.begin()
        began = time.monotonic()
        below = children(self.server.pid)
        self.server.send_signal(signal.SIGTERM)
        self.server.wait(60)
        self.assertLess(time.monotonic() - began, 10)
        self.assertEqual([command(pid) for pid in below if lives(pid)], [])
        self.start_server()
        self.ready(row)
        asked = (
            "SELECT state, attempts FROM jobs_job WHERE kind IN ('prepare', 'transcribe') ORDER BY created DESC LIMIT 2"
        )
        self.assertEqual(self.rows(asked), [("done", 1)] * 2)

    def test_a_server_killed_outright_takes_its_children_along(self):
        row = self.begin()
        below = children(self.server.pid)
        self.assertGreaterEqual(len(below), 4)
        self.server.kill()
        self.server.wait(60)
        self.assertTrue(
            wait_until(lambda: not any(lives(pid) for pid in below), 60), [command(pid) for pid in below if lives(pid)]
        )
        self.start_server()
        self.ready(row)
