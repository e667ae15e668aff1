"""What the last release left behind opens in this one: a database that it made, sheets of every version."""

import json
import os
import sqlite3
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from hovvet.core.sheet.model import Sheet
from hovvet.core.sheet.upgrade import read_edit, read_sheet

ROOT = Path(__file__).parents[2]
DUMP = ROOT / "tests" / "data" / "release-0.1.sql"

# Run where the upgraded database is: what a person would find there.
_LOOK = """
import json
from django.contrib.auth.models import User
from django.test import Client
client = Client(HTTP_HOST="localhost")
client.force_login(User.objects.get())
(clip,) = client.get("/api/clips").json()
path = f"/api/documents/{clip['id']}"
now = client.get(path).json()
history = client.get(f"{path}/history").json()
back = [client.post(f"{path}/history/{each['id']}", {"version": now["version"] + n, "edition": None},
        content_type="application/json").status_code for n, each in enumerate(reversed(history))]
print(json.dumps({"clip": clip, "now": now, "history": history, "back": back,
                  "exports": client.get(f"{path}/exports").json(),
                  "desk": client.get(f"/api/documents/desk/{now['sources'][0]['id']}").json()["struck"]}))
"""


class FromTheLastRelease(unittest.TestCase):
    def test_its_clips_revisions_and_exports_open(self):
        with tempfile.TemporaryDirectory() as folder:
            with sqlite3.connect(Path(folder) / "hovvet.sqlite3") as database:
                database.executescript(DUMP.read_text())
            database.close()
            environment = os.environ | {"HOVVET_DATA": folder}
            for command in (["migrate", "-v", "0"], ["shell", "-v", "0", "-c", _LOOK]):
                run = subprocess.run(
                    [sys.executable, "-W", "ignore", "manage.py", *command], cwd=ROOT, env=environment,
                    capture_output=True, text=True,
                )  # fmt: skip
                self.assertEqual(run.returncode, 0, run.stderr)
        found = json.loads(run.stdout.strip().splitlines()[-1])
        now = found["now"]
        order = [26, 27, 28, 20, 21, 22, 23, 24, 2, 4, "five", "mended", 6, 7, *range(9, 20), *range(25, 31)]
        self.assertEqual(
            [word["text"] for word in now["plan"]["words"]],
            [f"w{each}" if isinstance(each, int) else each for each in order],
        )
        self.assertEqual([(each["outlet"], each["dressing"]) for each in now["editions"]], [("wide", "dressed")])
        self.assertEqual((now["version"], now["told"], now["recording"]), (24, "", None))
        self.assertEqual(found["desk"], [3, 8])
        told = [each["what"] for each in found["history"]]
        self.assertEqual(told[2], "Edition for Wide player")
        self.assertIn("Moved “w20 w21 w22 w23 w24”", told)
        self.assertTrue(all(code == 200 for code in found["back"]), "every revision can be gone back to")
        (export,) = found["exports"]
        self.assertEqual((export["outlet_name"], export["current"]), ("Wide player", False))


class Versions(unittest.TestCase):
    def test_a_sheet_of_each_past_version(self):
        piece = {"recording": "r", "word_cuts": [], "pause_cuts": []}
        first = {
            "version": 1, "outlet": "square", "captions": None,
            "pieces": [piece | {"id": "p3", "start": 5, "end": 8}, piece | {"id": "p1", "start": 0, "end": 5},
                       piece | {"id": "p2", "start": 5, "end": 6}],
        }  # fmt: skip
        sheet = read_sheet(first)
        self.assertEqual((sheet.version, sheet.captions, sheet.editions[0].outlet), (Sheet().version, None, "square"))
        self.assertEqual(
            [each.origin for each in sheet.pieces], ["p3", "p3", "p2"], "split from one another, and a copy"
        )
        self.assertEqual(read_sheet(sheet.model_dump(mode="json")), sheet)
        self.assertEqual(read_sheet({}), Sheet())

    def test_an_edit_of_a_past_release_says_the_same_today(self):
        old = {"type": "batch", "edits": [{"type": "set_outlet", "outlet": "wide"}]}
        self.assertEqual(read_edit(old)["edits"], [{"type": "put_edition", "edition": {"id": "e1", "outlet": "wide"}}])
