"""Bringing in from links: which hosts are contacted, and what becomes of it."""

import http.server
import socketserver
import tempfile
import threading
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from unittest import mock

from django.test import SimpleTestCase, override_settings

from hovvet.core.errors import Cancelled, CoreError
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job
from hovvet.server.recordings import transfer
from hovvet.server.recordings.links import SharedDrive, WebLink, importer_for
from hovvet.server.recordings.models import Recording
from tests.server.base import ServerCase

PUBLIC = "93.184.216.34"


class Host(http.server.BaseHTTPRequestHandler):
    """A host on this machine that plays an outside one."""

    asked: list[str] = []
    over = threading.Event()  # what drips stops

    def do_GET(self) -> None:
        Host.asked.append(f"{self.headers['Host']} {self.path}")
        if self.path == "/hop":
            return self.answer(302, b"", Location="/file.mp3")
        if self.path == "/inside":
            return self.answer(302, b"", Location="http://inside.example/secret")
        if self.path == "/round":
            return self.answer(302, b"", Location="/round")
        if self.path == "/page":
            return self.answer(200, b"<html>", **{"Content-Type": "text/html; charset=utf-8"})
        if self.path == "/gone":
            return self.answer(404, b"")
        if self.path == "/drip":
            return self.drip()
        if self.path == "/headers":
            with suppress(OSError):
                self.wfile.write(b"HTTP/1.0 200 OK\r\nX-Slow: ")
                while not Host.over.wait(0.02):
                    self.wfile.write(b"x")
            return None
        if self.path == "/short":
            return self.answer(200, b"abc", **{"Content-Length": "10"})
        return self.answer(200, b"sound" * 1000)

    def drip(self) -> None:
        self.send_response(200)
        self.send_header("Content-Length", "1000000")
        self.end_headers()
        with suppress(OSError):
            while not Host.over.wait(0.02):
                self.wfile.write(b"x")

    def answer(self, status: int, body: bytes, **headers: str) -> None:
        self.send_response(status)
        for name, value in ({"Content-Length": str(len(body))} | headers).items():
            self.send_header(name, value)
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, *_arguments: object) -> None:
        pass


@override_settings(IMPORT_HOSTS=frozenset({"files.example", "inside.example"}))
class Web(SimpleTestCase):
    def setUp(self) -> None:
        Host.asked.clear()
        Host.over.clear()
        server = socketserver.ThreadingTCPServer(("127.0.0.1", 0), Host)
        self.port = server.server_address[1]
        threading.Thread(target=server.serve_forever, daemon=True).start()
        self.addCleanup(server.server_close)
        self.addCleanup(server.shutdown)
        self.addCleanup(Host.over.set)
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.out = Path(holder.name) / "file"

    def fetch(self, path: str, addresses: dict[str, str] | None = None, progress=lambda _: None) -> None:
        """Fetch with names that resolve as told; what is public is in truth the host on this machine."""
        names = addresses or {"files.example": PUBLIC, "inside.example": "10.0.0.7"}
        importer = WebLink(lambda host, _port: [names[host]])
        check: Callable[[str], str] = importer.check

        def checked(link: str) -> str:
            self.assertEqual(check(link), PUBLIC)
            return "127.0.0.1"

        with mock.patch.object(importer, "check", checked):
            importer.fetch(f"http://files.example:{self.port}{path}", self.out, progress)

    def test_a_file_arrives_also_after_a_redirect(self):
        self.fetch("/hop")
        self.assertEqual(self.out.read_bytes(), b"sound" * 1000)
        self.assertEqual(Host.asked, [f"files.example:{self.port} /hop", f"files.example:{self.port} /file.mp3"])

    def test_a_redirect_is_checked_like_a_link(self):
        with self.assertRaisesRegex(CoreError, "private network"):
            self.fetch("/inside")
        self.assertEqual(len(Host.asked), 1)

    def test_what_does_not_lead_to_a_whole_file_is_told(self):
        for path, about in [
            ("/round", "without end"), ("/page", "leads to a page"), ("/gone", "answered 404"), ("/short", "lost|whole"),
        ]:  # fmt: skip
            with self.assertRaisesRegex(CoreError, about):
                self.fetch(path)
        with override_settings(UPLOAD_BYTES=100), self.assertRaisesRegex(CoreError, "larger than"):
            self.fetch("/file.mp3")
        with override_settings(IMPORT_SECONDS=-1), self.assertRaisesRegex(CoreError, "too long"):
            self.fetch("/file.mp3")

    def test_what_drips_ends_in_time_and_can_be_cancelled_meanwhile(self):
        for path in ("/drip", "/headers"):
            with mock.patch.multiple(transfer, _WINDOW=0.6, _HEAD=0.6), self.assertRaisesRegex(CoreError, "too long"):
                self.fetch(path)
            asked = []

            def cancelled(part: float, asked=asked) -> None:
                asked.append(part)
                if len(asked) > 2:
                    raise Cancelled

            began = time.monotonic()
            with self.assertRaises(Cancelled):
                self.fetch(path, progress=cancelled)
            self.assertLess(time.monotonic() - began, 20)

    def test_only_allowed_hosts_at_public_addresses(self):
        for address in ("127.0.0.1", "10.1.2.3", "192.168.0.9", "169.254.169.254", "172.20.0.1", "::1", "fe80::1",
                        "fd00::1", "0.0.0.0", "::ffff:127.0.0.1", "100.64.0.1", "64:ff9b::a00:1", "64:ff9b:1::1",
                        "2002:a00:1::1", "2001:0:a00:1::", "224.0.0.1", "fe80::1%eth0"):  # fmt: skip
            with self.assertRaisesRegex(CoreError, "private network", msg=address):
                WebLink(lambda _host, _port, a=address: [PUBLIC, a]).check("https://files.example/x")
        importer = WebLink(lambda *_: [PUBLIC])
        self.assertEqual(importer.check("https://FILES.example/x"), PUBLIC)
        for link, about in [
            ("https://elsewhere.example/x", "not allowed"), ("https://files.example.evil.example/x", "not allowed"),
            ("https://files.example@elsewhere.example/x", "plain http"), ("http://u:p@files.example/x", "plain http"),
            ("http://127.0.0.1/x", "not allowed"), ("http://files.example:99999/x", "no proper port"),
        ]:  # fmt: skip
            with self.assertRaisesRegex(CoreError, about, msg=link):
                importer.check(link)

    def test_other_schemes_have_no_importer(self):
        for link in ("file:///etc/passwd", "ftp://files.example/x", "javascript:alert(1)", "nonsense", "http://"):
            with self.assertRaisesRegex(CoreError, "not a link"):
                importer_for(link)


class Drive(ServerCase):
    def test_the_drive_lists_and_hands_out_its_files_only(self):
        page = self.client.get("/drive/")
        self.assertContains(page, "/drive/files/bench-notes-teaser.opus")
        self.assertEqual(self.client.get("/drive/files/nothing.mp3").status_code, 404)
        self.assertEqual(self.client.get("/drive/files/..%2F..%2Fmanage.py").status_code, 404)
        self.client.logout()
        self.assertEqual(self.client.get("/drive/").status_code, 401)
        self.assertEqual(self.client.get("/drive/files/bench-notes-teaser.opus").status_code, 401)

    def test_a_shared_file_becomes_a_recording(self):
        self.assertIsInstance(importer_for("http://localhost:8000/drive/files/x"), SharedDrive)
        answer = self.post(
            "/api/recordings/links", {"link": "http://localhost:8000/drive/files/bench-notes-teaser.opus"}
        )
        row = Recording.objects.get(pk=answer.json()["id"])
        self.assertEqual((row.title, row.file_name), ("bench notes teaser", "bench-notes-teaser.opus"))
        run_job.func(str(Job.objects.get(target=row.pk, kind="prepare").pk))
        self.assertEqual(Job.objects.get(target=row.pk, kind="prepare").state, "done")
        self.assertAlmostEqual(self.client.get(f"/api/recordings/{row.pk}").json()["duration"], 52, delta=0.5)

    def test_fetching_that_failed_can_be_tried_again(self):
        link = {"link": "/drive/files/bench-notes-teaser.opus"}
        row = Recording.objects.get(pk=self.post("/api/recordings/links", link).json()["id"])
        with mock.patch.object(SharedDrive, "fetch", side_effect=CoreError("The connection was lost while fetching.")):
            run_job.func(str(Job.objects.get(target=row.pk).pk))
        seen = self.client.get(f"/api/recordings/{row.pk}").json()["jobs"][0]
        self.assertEqual((seen["state"], seen["error"]), ("failed", "The connection was lost while fetching."))
        self.assertEqual(self.post(f"/api/recordings/{row.pk}/prepare").status_code, 200)
        run_job.func(str(Job.objects.get(target=row.pk, state="queued").pk))
        self.assertTrue(self.client.get(f"/api/recordings/{row.pk}").json()["playable"])

    def test_a_link_that_cannot_be_fetched_makes_no_recording(self):
        for link, about in [
            ("http://localhost:8000/drive/files/nothing.opus", "no longer shared"),
            ("http://files.example/x.mp4", "not allowed here"),
        ]:
            self.assertContains(self.post("/api/recordings/links", {"link": link}), about, status_code=422)
        self.assertEqual(Recording.objects.count(), 0)

    def test_the_same_file_twice_is_told(self):
        link = "http://localhost:8000/drive/files/bench-notes-teaser.opus"
        for _ in range(2):
            self.post("/api/recordings/links", {"link": link})
        for job in Job.objects.filter(kind="prepare").order_by("created"):
            run_job.func(str(job.pk))
        notices = sorted(
            self.client.get(f"/api/recordings/{row.pk}").json()["notice"] for row in Recording.objects.all()
        )
        self.assertEqual(notices[0], "")
        self.assertIn("same file as “bench notes teaser”", notices[1])
