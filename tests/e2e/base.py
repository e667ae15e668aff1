"""The real product for end-to-end tests: its own data folder, server, workers and browser."""

import atexit
import importlib.util
import json
import os
import signal
import socket
import sqlite3
import subprocess
import sys
import tempfile
import time
import unittest
import urllib.request
from contextlib import closing
from functools import cache
from pathlib import Path

from playwright.sync_api import Browser, Page, Route, expect, sync_playwright

from hovvet.core.render.output import LINES
from hovvet.core.words.words_in import read_words
from tests.media import DEMO, ffmpeg

PATIENCE = int(os.environ.get("HOVVET_E2E_PATIENCE", 120_000))  # milliseconds: other tests run beside these
expect.set_options(timeout=PATIENCE)
DRIVE = DEMO / "drive"
ROOT = Path(__file__).parent.parent.parent
CHROMIUM = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync", "--autoplay-policy=no-user-gesture-required",
]  # fmt: skip
FEWEST = min(LINES)  # of a film that is exported small
USER, PASSWORD = "maren", "mend-it-well-tonight"
_MAKE_USER = f"""
from django.core.management import call_command
call_command("migrate", verbosity=0)
from django.contrib.auth.models import User
from hovvet.server.accounts.models import Membership, Workspace
Membership.objects.create(user=User.objects.create_user({USER!r}, password={PASSWORD!r}), workspace=Workspace.objects.create(name="Bench"))
"""
DATABASE = "hovvet.sqlite3"
_PLAYS_TO = """async (until) => {
  const clock = () => {
    const [minutes, seconds] = document.querySelector('[data-test=clock]').textContent.split(':').map(parseFloat)
    return 60 * minutes + seconds
  }
  const next = async (enough) => {
    const patience = performance.now() + 120000
    while (!enough(clock())) {
      if (performance.now() > patience) throw new Error(`it stands at ${clock()} s`)
      await new Promise(requestAnimationFrame)
    }
    return [clock(), performance.now() / 1000]
  }
  const before = clock(), [from, began] = await next((at) => at > before)
  const [to, ended] = await next((at) => at >= until)
  return (to - from) / (ended - began)
}"""


def _environment(data: str) -> dict[str, str]:
    return os.environ | {"HOVVET_DATA": data, "DJANGO_SETTINGS_MODULE": "hovvet.server.settings"}


def _manage(environment: dict[str, str], *arguments: str) -> None:
    command = [sys.executable, "-W", "ignore", "manage.py", *arguments]
    subprocess.run(command, cwd=ROOT, env=environment, check=True, capture_output=True)


@cache
def _new_database() -> bytes:
    """A database with all tables and one person, made once for all tests."""
    with tempfile.TemporaryDirectory() as data:
        _manage(_environment(data), "shell", "-c", _MAKE_USER)
        with closing(sqlite3.connect(Path(data) / DATABASE)) as made:
            return made.serialize()


@cache
def _browser() -> Browser:
    """One browser for all tests: each page of theirs begins with nothing that others left."""
    playwright = sync_playwright().start()
    atexit.register(playwright.stop)
    browser = playwright.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=CHROMIUM)
    atexit.register(browser.close)
    return browser


def _smaller(route: Route) -> None:
    """Ask for the same export with fewer lines."""
    if route.request.method != "POST":
        return route.continue_()
    wanted = route.request.post_data_json
    wanted["output"]["lines"] = FEWEST
    return route.continue_(post_data=json.dumps(wanted))


class BrowserCase(unittest.TestCase):
    """Starts Hovvet as `make demo` does, on an empty data folder, and a browser signed in to it."""

    workers = 1  # other tests run beside these
    small = False  # whether films are exported with fewer lines: where it is not the picture that is looked at
    server: "subprocess.Popen[bytes] | None" = None

    @classmethod
    def setUpClass(cls) -> None:
        holder = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
        cls.addClassCleanup(holder.cleanup)
        cls.data = Path(holder.name)
        cls.environment = _environment(holder.name)
        cls.begin_with()
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            port = probe.getsockname()[1]
        cls.port = port
        cls.address = f"http://localhost:{port}"
        cls.addClassCleanup(cls._stop)  # however this ends
        cls.start_server()
        cls.browser = _browser()
        page = cls.browser.new_page()
        cls.sign_in(page)
        cls.signed_in = page.context.storage_state()
        page.close()

    @classmethod
    def begin_with(cls) -> None:
        """Put there what the server finds when it starts."""
        (cls.data / DATABASE).write_bytes(_new_database())

    @classmethod
    def start_server(cls) -> None:
        """Start Hovvet and wait until it answers."""
        log = (cls.data / "serve.log").open("a")
        cls.server = subprocess.Popen(
            [
                "setpriv",
                "--pdeathsig",
                "TERM",
                sys.executable,
                "manage.py",
                "serve",
                "--port",
                str(cls.port),
                "--workers",
                str(cls.workers),
            ],
            cwd=ROOT,
            env=cls.environment,
            stdout=log,
            stderr=log,
        )
        cls._wait_until_up()

    @classmethod
    def rows(cls, query: str) -> list[tuple]:
        """What the server's database says."""
        with closing(sqlite3.connect(cls.data / DATABASE)) as database:
            return database.execute(query).fetchall()

    @classmethod
    def manage(cls, *arguments: str) -> None:
        _manage(cls.environment, *arguments)

    @classmethod
    def _wait_until_up(cls) -> None:
        until = time.monotonic() + 60
        while True:
            try:
                urllib.request.urlopen(f"{cls.address}/api/session", timeout=2)
                return
            except OSError:
                if time.monotonic() > until or cls.server.poll() is not None:
                    raise AssertionError((cls.data / "serve.log").read_text()) from None
                time.sleep(0.1)

    @classmethod
    def _stop(cls) -> None:
        if cls.server is None:
            return
        cls.server.send_signal(signal.SIGINT)
        try:
            cls.server.wait(20)
        except subprocess.TimeoutExpired:
            cls.server.kill()

    def setUp(self) -> None:
        self.page = self.browser.new_page(
            viewport={"width": 1280, "height": 800}, accept_downloads=True, storage_state=self.signed_in
        )
        self.page.set_default_timeout(PATIENCE)  # as above
        self.addCleanup(self.page.close)
        self.problems: list[str] = []
        self.page.on("pageerror", lambda error: self.problems.append(str(error)))
        if self.small:
            self.page.route("**/api/documents/*/exports", _smaller)
        self.page.goto(self.address)
        self.page.wait_for_selector("[aria-label='Bring in a recording']")

    @classmethod
    def sign_in(cls, page: Page) -> None:
        page.goto(cls.address)
        page.fill("#username", USER)
        page.fill("#password", PASSWORD)
        page.click("button[type=submit]")
        page.wait_for_selector("[aria-label='Bring in a recording']")

    def bring_in(self, file: Path, seconds: float = 400) -> None:
        """Upload a file by the button and wait until it is ready to be worked with."""
        title = file.stem.replace("_", " ")
        self.page.goto(self.address)
        self.page.set_input_files("[data-test=files]", file)
        row = self.page.locator("li", has_text=title)
        row.wait_for()
        row.locator("text=/\\d+ words/").wait_for(timeout=seconds * 1000)
        row.locator("[data-state=running], [data-state=queued]").first.wait_for(
            state="detached", timeout=seconds * 1000
        )

    def plays_to(self, page: Page, seconds: float) -> float:
        """Wait until what plays is that far; how fast it went there, in seconds of the recording a second."""
        return page.evaluate(_PLAYS_TO, seconds)

    def exported(self, page: Page) -> Path:
        """The clip that is open, as a film: the first one that is exported of it."""
        page.keyboard.press("x")
        page.locator("[data-test=export]").click()
        ready = page.locator("article[data-ready=true]")
        expect(ready).to_have_count(1, timeout=300_000)
        with page.expect_download() as download:
            ready.get_by_text("MP4", exact=True).click()
        film = self.data / "film.mp4"
        download.value.save_as(film)
        return film

    def document(self, page: Page) -> dict:
        """The clip as the server has it, once all that was done is saved."""
        expect(page.locator("#saved")).not_to_have_text("Saving…")
        clip = page.url.rsplit("/", 1)[1]
        return page.evaluate("(id) => fetch(`/api/documents/${id}`).then((answer) => answer.json())", clip)

    def bring_in_teaser(self, cues: int | None = None) -> None:
        """The teaser, or the first cues of it, with its words: dropped together, they belong together."""
        sound, words = DRIVE / "bench-notes-teaser.opus", DRIVE / "bench-notes-teaser.srt"
        if cues:
            said = words.read_text().split("\n\n")[:cues]
            until = read_words(words.read_bytes(), words.name)[cues - 1].end
            sound, words = self.data / sound.name, self.data / words.name
            ffmpeg("-t", until, "-i", DRIVE / sound.name, "-c", "copy", sound)
            words.write_text("\n\n".join(said))
        self.page.set_input_files("[data-test=files]", [sound, words])
        row = self.page.locator("li", has_text="bench notes teaser")
        row.locator("text=/\\d+ words/").wait_for()
        row.locator("[data-state]").first.wait_for(state="detached")


def draw_talk(out: Path, seconds: float) -> Path:
    """The first seconds of the demo talk, as a video; drawn once for all tests."""
    out.write_bytes(_drawn_talk(seconds))
    return out


@cache
def _drawn_talk(seconds: float) -> bytes:
    spec = importlib.util.spec_from_file_location("demo_picture", DEMO / "picture.py")
    assert spec and spec.loader
    picture = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(picture)
    with tempfile.TemporaryDirectory() as folder:
        speech, film = Path(folder) / "talk.opus", Path(folder) / "talk.mp4"
        ffmpeg("-t", seconds, "-i", DEMO / "speech" / "talk.opus", "-c", "copy", speech)
        picture.draw_talk(speech, film)
        return film.read_bytes()
