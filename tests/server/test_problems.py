"""What comes from outside gets a plain answer, and what goes wrong inside is told and logged."""

import sqlite3
from unittest import mock

from django.db import OperationalError
from django.test import Client, override_settings

from hovvet.server.delivery.models import Export
from hovvet.server.documents.making import desk_of, make_clip
from tests.server.base import ServerCase

TUS = {"Tus-Resumable": "1.0.0"}


class OddRequests(ServerCase):
    def test_ranges(self):
        row = self.recording()
        (row.folder / "peaks.bin").write_bytes(bytes(range(100)))
        path = f"/api/recordings/{row.pk}/files/peaks"
        for asked, status in (
            ("bytes=10-19", 206),
            ("bytes=-5", 206),
            ("bytes=200-", 416),
            (f"bytes={'9' * 5000}-", 200),
            (f"bytes=0-{'9' * 18}", 206),
            ("bytes=²-³", 200),
            ("bytes=-", 200),
            ("lines=1-2", 200),
        ):
            answer = self.client.get(path, headers={"Range": asked})
            self.assertEqual(answer.status_code, status, asked[:30])

    def test_lengths_of_uploads(self):
        for length in ("²", "9" * 5000, "-1", "1e3", "", " 12"):
            answer = self.client.post("/api/uploads", headers={**TUS, "Upload-Length": length})
            self.assertEqual((answer.status_code, "detail" in answer.json()), (400, True), length[:20])

    def test_links_nobody_can_take_apart(self):
        for link in ("http://[1.2", "http://a]b/", "https://x:99999999/", "http://x:²/a", "//[::1"):
            answer = self.post("/api/recordings/links", {"link": link})
            self.assertEqual((answer.status_code, "detail" in answer.json()), (422, True), link)

    def test_a_body_that_is_too_large(self):
        path = f"/api/documents/{desk_of(self.recording()).pk}/edits"
        answer = self.client.post(path, "x" * 6_000_000, content_type="application/json")
        self.assertEqual(answer.status_code, 413)
        self.assertIn("smaller parts", answer.json()["detail"])

    def test_bodies_that_are_no_json(self):
        path = f"/api/documents/{desk_of(self.recording()).pk}/edits"
        for body in ("", "{", "[" * 5000, "\x00", '{"version": 1e400}', '"\\ud800"'):
            answer = self.client.post(path, body, content_type="application/json")
            self.assertIn(answer.status_code, (400, 422), body[:20])
            self.assertIsInstance(answer.json()["detail"], str)

    def test_a_part_that_is_refused_is_answered_in_json(self):
        begun = self.client.post(
            "/api/uploads", headers={**TUS, "Upload-Length": "10", "Upload-Metadata": "filename eC5tcDM="}
        )
        refused = self.client.patch(
            begun["Location"],
            b"12345",
            content_type="application/offset+octet-stream",
            headers={**TUS, "Upload-Offset": "7"},
        )
        self.assertEqual((refused.status_code, "went on elsewhere" in refused.json()["detail"]), (409, True))

    def test_names_of_downloads(self):
        row = self.recording()
        row.title = 'short "story" Ωμέγα/été'
        row.save()
        said = self.client.get(f"/api/recordings/{row.pk}/transcript.txt")["Content-Disposition"]
        self.assertIn("filename*=UTF-8''short%20_story_%20%CE%A9%CE%BC%CE%AD%CE%B3%CE%B1_%C3%A9t%C3%A9.txt", said)
        self.assertIn('filename="short _story_ _____', said)


class OwnMistakes(ServerCase):
    def test_a_full_disk_is_told_and_nothing_is_lost(self):
        clip = make_clip(self.recording(), 3, 14)
        edit = {"version": 1, "edit": {"type": "cut_words", "piece": "p1", "words": [4]}}
        full = OperationalError("database or disk is full")
        with (
            mock.patch("hovvet.server.documents.models.Revision.save", side_effect=full),
            self.assertLogs("hovvet.problems", "ERROR"),
        ):
            answer = self.post(f"/api/documents/{clip.pk}/edits", edit)
        self.assertEqual((answer.status_code, "disk is full" in answer.json()["detail"]), (507, True))
        self.assertEqual(self.client.get(f"/api/documents/{clip.pk}").json()["version"], 1)
        nowhere = OSError(28, "No space left on device")
        with (
            mock.patch.object(Export.objects.__class__, "get_or_create", side_effect=nowhere),
            self.assertLogs("hovvet.problems", "ERROR"),
        ):
            answer = self.post(f"/api/documents/{clip.pk}/exports", {"editions": ["e1"]})
        self.assertEqual(answer.status_code, 507)
        self.assertEqual(Export.objects.count(), 0)

    def test_a_full_disk_while_signing_in(self):
        client = Client()
        full = OperationalError("database or disk is full")
        with (
            mock.patch("hovvet.server.accounts.api.login", side_effect=full),
            self.assertLogs("hovvet.problems", "ERROR"),
        ):
            answer = client.post(
                "/api/session", {"username": "maren", "password": "mend-it-well"}, content_type="application/json"
            )
        self.assertEqual(answer.status_code, 507)

    def test_an_error_of_ours_has_a_number_that_is_in_the_log(self):
        with (
            mock.patch("hovvet.server.recordings.api.visible_to", side_effect=ZeroDivisionError("oops")),
            self.assertLogs("hovvet.problems", "ERROR") as logged,
        ):
            answer = self.client.get("/api/recordings")
        number = answer["X-Request-ID"]
        self.assertEqual(answer.status_code, 500)
        self.assertIn(number, answer.json()["detail"])
        self.assertIn(number, logged.output[0])
        self.assertIn("ZeroDivisionError: oops", logged.output[0])
        self.assertNotIn("oops", answer.json()["detail"])

    def test_every_answer_has_a_number(self):
        seen = {self.client.get("/api/session")["X-Request-ID"] for _ in range(3)}
        self.assertEqual(len(seen), 3)


class Health(ServerCase):
    def test_all_well(self):
        answer = Client().get("/healthz")
        self.assertEqual((answer.status_code, answer.json()["database"], answer.json()["queued"]), (200, True, 0))

    @override_settings(FREE_BYTES=10**18)
    def test_too_little_disk(self):
        answer = Client().get("/healthz")
        self.assertEqual((answer.status_code, answer.json()["disk"]), (503, False))

    def test_no_database(self):
        with mock.patch("hovvet.server.health.connection.cursor", side_effect=OperationalError(sqlite3.Error("gone"))):
            answer = Client().get("/healthz")
        self.assertEqual((answer.status_code, answer.json()["database"]), (503, False))
