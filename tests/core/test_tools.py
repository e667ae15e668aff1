"""The checks that watch over what is shipped: they fail when they should."""

import importlib.util
import subprocess
import unittest
from pathlib import Path

from tests.media import ScratchCase

TOOLS = Path(__file__).parent.parent.parent / "tools"


def tool(name: str):
    spec = importlib.util.spec_from_file_location(name, TOOLS / f"{name}.py")
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


class Licences(unittest.TestCase):
    def test_what_is_agreed_and_what_is_not(self):
        refused = tool("licences").refused
        for expression in ("MIT", "Apache-2.0 AND MIT", "GPL-3.0 OR MIT", "MIT AND (FTL OR GPL-2.0-or-later)"):
            self.assertFalse(refused(expression), expression)
        for expression in ("GPL-3.0", "MIT AND GPL-3.0", "not said", "(MIT AND AGPL-3.0) OR SSPL-1.0", ""):
            self.assertTrue(refused(expression), expression)

    def test_the_locks_have_hashes_and_no_folder(self):
        for lock in ("requirements.lock", "requirements-dev.lock"):
            text = (TOOLS.parent / lock).read_text()
            self.assertGreater(text.count("--hash=sha256:"), text.count("=="))
            odd = [line for line in text.splitlines() if line.startswith("-e") or " @ " in line or "file://" in line]
            self.assertEqual(odd, [])


class MachinePaths(ScratchCase):
    def test_found_in_tracked_files_only(self):
        subprocess.run(["git", "init", "-q", self.scratch], check=True)
        place = "/" + "home" + "/maren/hovvet"
        (self.scratch / "bad.lock").write_text(f"-e {place}\n")
        (self.scratch / "fine.md").write_text("see /usr/bin/ffmpeg, api/home/x and https://x/" + "home/y\n")
        (self.scratch / "untracked.txt").write_text(place)
        subprocess.run(["git", "-C", self.scratch, "add", "bad.lock", "fine.md"], check=True)
        self.assertEqual(tool("no_machine_paths").machine_paths(self.scratch), [f"bad.lock:1: {place}"])
