"""Every request at the edges of the schema, to a server at work: ``python bench/asking.py [seconds]``, a part of ``make fuzz``.

Asserts of each: answered within 2 s, 10 s for what draws (the bare ``/healthz``, asked at the same time by somebody else, within 2 s too), no
answer of 500 or above, and of what was taken that it opens and is undone; of all together, that the web process takes at
most 200 MB more than when it began. Prints what was asked and what broke; exits with 1 for anything that did.
"""

import http.client
import json
import os
import random
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Any
from urllib.parse import urlencode

ROOT = Path(__file__).parent.parent
sys.path.insert(0, str(ROOT))

from tests.extremes import Asked, Extremes

SECONDS, SOON, MOST_GROWN = 360.0, 2.0, 200.0  # in all; for an answer; MB
DRAWN = {
    "/shapes/picture": 10.0,
    "/matched": 10.0,
    "/hooks": 10.0,
}  # what takes turns, or waits for a model to be loaded
APART = ("/api/session",)
SEED = 19
_BEGIN = """
from django.core.management import call_command
call_command("migrate", verbosity=0)
import json
from django.contrib.auth.models import User
from hovvet.server.accounts.models import Membership, Workspace
from hovvet.server.documents.making import desk_of, make_clip
from tests.media import even_words
from tests.server.base import recording_row
workspace = Workspace.objects.create(name="Bench")
Membership.objects.create(user=User.objects.create_user("maren", password="mend-it-well-tonight"), workspace=workspace)
row = recording_row(workspace, even_words(400))
print(json.dumps([str(row.pk), str(make_clip(row, 3, 300).pk), str(desk_of(row).pk)]))
"""


class Person:
    """Somebody signed in, with a connection of their own."""

    def __init__(self, port: int) -> None:
        self._line = http.client.HTTPConnection("127.0.0.1", port, timeout=120)
        self._cookies: dict[str, str] = {}
        self._token = ""
        self.ask("GET", "/api/session")
        _, told = self.ask("POST", "/api/session", {"username": "maren", "password": "mend-it-well-tonight"})
        self._token = told["csrf"]

    def ask(self, method: str, path: str, body: object = None) -> tuple[int, Any]:
        """Status and answer."""
        headers = {
            "Content-Type": "application/json", "X-CSRFToken": self._token,
            "Cookie": "; ".join(f"{key}={value}" for key, value in self._cookies.items()),
        }  # fmt: skip
        data = None if body is None else json.dumps(body).encode("utf-8", "surrogatepass")
        try:
            self._line.request(method, path, data, headers)
            answer = self._line.getresponse()
        except (http.client.HTTPException, OSError):
            self._line.close()
            self._line.request(method, path, data, headers)
            answer = self._line.getresponse()
        for name, value in answer.getheaders():
            if name.lower() == "set-cookie":
                key, _, rest = value.partition("=")
                self._cookies[key] = rest.partition(";")[0]
        content = answer.read()
        with suppress(ValueError):
            told = json.loads(content)
            if isinstance(told, dict):
                self._token = told.get("csrf", self._token)
            return answer.status, told
        return answer.status, {}


def children(pid: int) -> list[int]:
    """All processes below one."""
    below = [int(each) for each in Path(f"/proc/{pid}/task/{pid}/children").read_text().split()]
    return [*below, *(each for child in below for each in children(child))]


@contextmanager
def serving(data: str, workers: int) -> Iterator[tuple[int, int]]:
    """Hovvet at work on a data folder; the process and the port."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = [sys.executable, "manage.py", "serve", "--port", str(port), "--workers", str(workers)]
    environment = os.environ | {"HOVVET_DATA": data}
    server = subprocess.Popen(command, cwd=ROOT, env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    try:
        while True:
            with suppress(OSError):
                Person(port)
                break
            time.sleep(0.2)
        yield server.pid, port
    finally:
        server.send_signal(signal.SIGTERM)
        server.wait(30)


def memory(server: int) -> float:
    """MB of the largest of the processes that answer requests."""
    found = 0.0
    for pid in children(server):
        with suppress(OSError):
            if "gunicorn" in Path(f"/proc/{pid}/cmdline").read_text():
                status = Path(f"/proc/{pid}/status").read_text()
                found = max(found, int(status.split("VmRSS:")[1].split()[0]) / 1024)
    return found


class Others(threading.Thread):
    """Somebody else who asks whether the server lives, four times a second."""

    def __init__(self, port: int) -> None:
        super().__init__(daemon=True)
        self._port, self.longest, self.stop = port, 0.0, threading.Event()

    def run(self) -> None:
        """Ask until told to stop."""
        while not self.stop.wait(0.25):
            began = time.monotonic()
            with suppress(OSError, http.client.HTTPException):
                line = http.client.HTTPConnection("127.0.0.1", self._port, timeout=60)
                line.request("GET", "/healthz")
                line.getresponse().read()
                line.close()
            self.longest = max(self.longest, time.monotonic() - began)


def known(recording: str, clip: str) -> dict[str, list]:
    """Names of what is there."""
    return {
        "document_id": [clip], "recording_id": [recording], "recording": [recording, "gone"], "media": [recording, ""], "piece": ["p1", "p9"],
        "origin": ["p1", "p9"], "word": [6, None, 999], "words": [6], "edition": ["e1", None], "outlet": ["tall"], "clip": [clip], "onto": [clip],
        "first": [{"origin": "p1", "word": 6}, None, 6], "last": [{"origin": "p1", "word": 200}, None, 200], "start": [2.0, 0, 5.0],
        "end": [30.0, 4.8, 2.0], "at": [30.1, 0], "template": ["headline"],
    }  # fmt: skip


def go_through(person: Person, clip: str, requests: list[Asked], until: float) -> tuple[Counter[str], list[str], float]:
    """How requests ended, what broke, and the longest that one took."""
    ended: Counter[str] = Counter()
    broke: list[str] = []
    longest = 0.0
    own = f"/api/documents/{clip}"
    _, now = person.ask("GET", own)
    for each in requests:
        if time.monotonic() > until:
            break
        body = each.body
        if isinstance(body, dict) and "version" in body and each.about.count("version") == 0:
            body = body | {"version": now["version"]}
        path = each.path + (f"?{urlencode(each.query, doseq=True, errors='replace')}" if each.query else "")
        began = time.monotonic()
        status, told = person.ask(each.method, path, body)
        spent = time.monotonic() - began
        longest = max(longest, spent)
        ended[f"{status // 100}xx"] += 1
        if status >= 500 and status != 503:
            broke.append(f"{each.about}: {status} {told}")
        if spent > next((most for what, most in DRAWN.items() if what in each.path), SOON):
            broke.append(f"{each.about}: {spent:.1f} s ({status})")
        if each.path.startswith(own) and each.method != "GET" and status < 300:
            status, after = person.ask("GET", own)
            if status != 200:
                broke.append(f"{each.about}: it was taken, and the clip does not open: {status} {after}")
                break
            if after["version"] != now["version"] and after["undoes"] != now["undoes"]:
                ended["taken"] += 1
                status, undone = person.ask("POST", f"{own}/undo", {"version": after["version"]})
                if status != 200:
                    broke.append(f"{each.about}: it was taken, and is not undone: {status} {undone}")
                    undone = after
                after = undone
            now = after
    return ended, broke, longest


def main(seconds: float) -> int:
    """Ask; 1 when anything broke."""
    with tempfile.TemporaryDirectory() as data:
        environment = os.environ | {"HOVVET_DATA": data, "DJANGO_SETTINGS_MODULE": "hovvet.server.settings"}
        shell = [sys.executable, "-W", "ignore", "manage.py", "shell", "-v", "0", "-c", _BEGIN]
        told = subprocess.run(shell, cwd=ROOT, env=environment, check=True, capture_output=True, text=True).stdout
        recording, clip, _ = json.loads(told.strip().splitlines()[-1])
        with serving(data, 1) as (server, port):
            person = Person(port)
            requests = [*Extremes(known(recording, clip)).requests(APART)]
            random.Random(SEED).shuffle(requests)
            go_through(person, clip, requests[:150], time.monotonic() + 60)  # all is opened once
            before, others = memory(server), Others(port)
            others.start()
            began = time.monotonic()
            ended, broke, longest = go_through(person, clip, requests, began + seconds)
            others.stop.set()
            others.join()
            after = memory(server)
    count = sum(many for how, many in ended.items() if how != "taken")
    print(
        f"{count} of {len(requests)} requests in {time.monotonic() - began:.0f} s: {dict(sorted(ended.items()))}; longest {longest:.2f} s"
    )
    print(
        f"/healthz meanwhile at most {others.longest:.2f} s; web process {before:.0f} MB before, {after:.0f} MB after"
    )
    if others.longest > SOON:
        broke.append(f"/healthz took {others.longest:.1f} s")
    if after - before > MOST_GROWN:
        broke.append(f"the web process grew by {after - before:.0f} MB")
    for each in broke[:60]:
        print(f"BROKE {each[:400]}")
    return 1 if broke else 0


if __name__ == "__main__":
    sys.exit(main(float(sys.argv[1]) if len(sys.argv) > 1 else SECONDS))
