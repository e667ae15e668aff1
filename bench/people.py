"""Eight people at work for three minutes: how long answers take, and what memory the web process needs.

``python bench/people.py [seconds] [pieces]`` on a copy of the demo's data folder (``data``, or HOVVET_DATA), with clips of so
many ``pieces`` in all around (0: none). A part of ``make bench``.
"""

import os
import random
import shutil
import subprocess
import sys
import tempfile
import threading
import time
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parent.parent
sys.path.insert(0, str(ROOT))

from bench.asking import Others, Person, memory, serving

PEOPLE, SECONDS, PAUSE = 8, 180.0, 0.4  # seconds between two things that a person does
_BEGIN = """
import sys, json
from django.contrib.auth.models import User
from hovvet.core.sheet.model import Piece, Sheet
from hovvet.server.accounts.models import Membership, Workspace
from hovvet.server.documents.making import create_document
from hovvet.server.documents.models import Document
from hovvet.server.recordings.models import Recording
workspace = Workspace.objects.get(name="Quillhaven Mending Room")
user, fresh = User.objects.get_or_create(username="maren")
if fresh:
    user.set_password("mend-it-well-tonight")
    user.save()
    Membership.objects.create(user=user, workspace=workspace)
row = Recording.objects.filter(workspace=workspace, for_shelf=False).order_by("title").last()
each = 1_900
for n in range(PIECES // each):
    step = row.media.duration / each
    pieces = tuple(Piece(id=f"p{k}", origin=f"p{k}", recording=str(row.pk), start=k * step, end=(k + 1) * step) for k in range(each))
    create_document(workspace, Document.Kind.CLIP, f"Many pieces {n}", Sheet(pieces=pieces))
"""


class Busy(threading.Thread):
    """Somebody who looks at lists, opens things, cuts, brings back, searches."""

    def __init__(self, port: int, seed: int, until: float) -> None:
        super().__init__(daemon=True)
        self._person, self._random, self._until = Person(port), random.Random(seed), until
        self.took: list[tuple[float, str, int]] = []

    def _ask(self, method: str, path: str, body: object = None) -> Any:
        began = time.monotonic()
        status, told = self._person.ask(method, path, body)
        self.took.append((time.monotonic() - began, path, status))
        return told

    def run(self) -> None:
        """Work until it is time to go."""
        recordings, clips = self._listed("/api/recordings"), self._listed("/api/clips")
        while time.monotonic() < self._until:
            recording, clip = self._random.choice(recordings), self._random.choice(clips)
            match self._random.randrange(9):
                case 0:
                    self._ask("GET", "/api/recordings")
                    self._ask("GET", "/api/clips")
                case 1:
                    self._ask("GET", f"/api/documents/desk/{recording}")
                    self._ask("GET", f"/api/recordings/{recording}/transcript")
                case 2 | 3 | 4:
                    self._edit(clip)
                case 5:
                    words = self._random.choice(("clock", "a kettle boils", "harbour", "mend", "lamp"))
                    self._ask("GET", f"/api/assets?kind=picture&kind=video&kind=sticker&text={words.replace(' ', '+')}")
                    self._ask("GET", f"/api/stock?text={words.replace(' ', '+')}")
                case 6:
                    self._ask("GET", f"/api/documents/{clip}/suggestions")
                case 7:
                    self._ask("GET", "/api/captions/styles/bold/sample?text=mend+it+first")
                    self._ask("GET", f"/api/documents/{clip}/exports")
                case 8:
                    self._ask("GET", f"/api/recordings/{recording}/passages")
                    self._ask("GET", f"/api/documents/{clip}/stamp")
            time.sleep(PAUSE * self._random.uniform(0.5, 1.5))

    def _listed(self, path: str) -> list[str]:
        return [each["id"] for each in self._ask("GET", path)]

    def _edit(self, clip: str) -> None:
        now = self._ask("GET", f"/api/documents/{clip}")
        words = [token["word"]["id"] for row in now.get("rows", ()) for token in row["tokens"] if token["word"]]
        if not words:
            return
        piece = self._random.choice(now["sheet"]["pieces"])["id"]
        how = self._random.choice(("cut_words", "bring_back"))
        edit = {"type": how, "piece": piece, "words": [self._random.choice(words)]}
        self._ask("POST", f"/api/documents/{clip}/edits", {"version": now["version"], "edit": edit})


def main(seconds: float, pieces: int) -> int:
    """Let them work; print what it took."""
    source = Path(os.environ.get("HOVVET_DATA", ROOT / "data"))
    with tempfile.TemporaryDirectory(ignore_cleanup_errors=True) as data:
        shutil.copytree(
            source, data, dirs_exist_ok=True, ignore=shutil.ignore_patterns("parts", "chunks", "*.log", "test*")
        )
        environment = os.environ | {"HOVVET_DATA": data, "DJANGO_SETTINGS_MODULE": "hovvet.server.settings"}
        shell = [sys.executable, "-W", "ignore", "manage.py", "shell", "-v", "0", "-c", f"PIECES = {pieces}\n{_BEGIN}"]
        subprocess.run(shell, cwd=ROOT, env=environment, check=True)
        with serving(data, 2) as (server, port):
            before, largest = memory(server), 0.0
            until = time.monotonic() + seconds
            people = [Busy(port, seed, until) for seed in range(PEOPLE)]
            others = Others(port)
            for each in (*people, others):
                each.start()
            while time.monotonic() < until:
                time.sleep(0.5)
                largest = max(largest, memory(server))
            for each in people:
                each.join(60)
            others.stop.set()
    took = sorted(seconds for each in people for seconds, _, _ in each.took)
    failed = [(path, status) for each in people for _, path, status in each.took if status >= 500]
    conflicts = sum(status == 409 for each in people for _, _, status in each.took)
    print(
        f"{PEOPLE} people, {seconds:.0f} s, {pieces} pieces around: {len(took)} answers, p50 {1000 * took[len(took) // 2]:.0f} ms, "
        f"p95 {1000 * took[int(len(took) * 0.95)]:.0f} ms, longest {took[-1]:.2f} s, {conflicts} conflicts, {len(failed)} failed; "
        f"/healthz at most {others.longest:.2f} s; web process {before:.0f} MB at first, {largest:.0f} MB at most"
    )
    for each in failed[:10]:
        print(f"FAILED {each}")
    return 1 if failed else 0


if __name__ == "__main__":
    given = sys.argv[1:]
    sys.exit(main(float(given[0]) if given else SECONDS, int(given[1]) if len(given) > 1 else 0))
