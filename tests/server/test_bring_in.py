"""Bringing recordings in: uploads, preparation, and what bad files get."""

import base64
import hashlib
import shutil
from datetime import timedelta
from unittest import mock

from django.test import override_settings
from django.utils import timezone

from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job
from hovvet.server.recordings.models import Recording, Stretch, Upload
from hovvet.server.recordings.tus import forget_expired
from tests.media import DEMO, counted, ffmpeg
from tests.server.base import ServerCase

TUS = {"Tus-Resumable": "1.0.0"}


class Uploading(ServerCase):
    def begin(self, length: int, name: str = "Bench talk.mp4"):
        encoded = base64.b64encode(name.encode()).decode()
        headers = TUS | {"Upload-Length": str(length), "Upload-Metadata": f"filename {encoded}"}
        return self.client.post("/api/uploads", headers=headers)

    def send(self, where: str, offset: int, data: bytes, **headers: str):
        return self.client.patch(
            where,
            data,
            content_type="application/offset+octet-stream",
            headers=TUS | {"Upload-Offset": str(offset)} | headers,
        )

    def test_an_upload_in_parts_becomes_a_recording(self):
        where = self.begin(10)["Location"]
        self.assertEqual(self.send(where, 0, b"01234")["Upload-Offset"], "5")
        self.assertEqual(self.client.head(where, headers=TUS)["Upload-Offset"], "5")
        self.assertEqual(self.send(where, 0, b"01234").status_code, 409, "bytes that are there already")
        done = self.send(where, 5, b"56789")
        recording = Recording.objects.get(pk=done["Hovvet-Recording"])
        self.assertEqual(recording.original.read_bytes(), b"0123456789")
        self.assertEqual((recording.title, recording.file_name), ("Bench talk", "Bench talk.mp4"))
        self.assertEqual(Job.objects.get(target=recording.pk).kind, "prepare")
        self.assertEqual(self.client.head(where, headers=TUS).status_code, 404)

    def test_what_has_no_length_yet_is_over_when_it_is_told(self):
        headers = TUS | {"Upload-Defer-Length": "1", "Upload-Metadata": "filename dm9pY2Uud2F2"}
        began = self.client.post("/api/uploads", headers=headers)
        where = began["Location"]
        self.assertEqual(self.client.head(where, headers=TUS)["Upload-Defer-Length"], "1")
        self.assertEqual(self.send(where, 0, b"01234").status_code, 204)
        self.assertEqual(self.send(where, 5, b"5", **{"Upload-Length": "3"}).status_code, 409)
        done = self.send(where, 5, b"567", **{"Upload-Length": "8"})
        self.assertEqual(Recording.objects.get(pk=done["Hovvet-Recording"]).original.read_bytes(), b"01234567")
        self.assertEqual(self.client.post("/api/uploads", headers=TUS).status_code, 400)

    def test_what_was_broken_off_while_it_was_recorded_is_kept_up_to_then(self):
        wheres = [
            self.client.post("/api/uploads", headers=TUS | {"Upload-Defer-Length": "1"})["Location"] for _ in range(3)
        ]
        for where, count in zip(wheres, (60_000, 60_000, 10), strict=True):
            self.send(where, 0, b"a" * count)
        self.assertEqual(self.client.get("/api/broken-off").json(), [], "it may still go on")
        Upload.objects.update(begun=timezone.now() - timedelta(seconds=20))
        with mock.patch("hovvet.server.recordings.broken_off_api.QUIET", -1.0):
            found = self.client.get("/api/broken-off").json()
        self.assertEqual([(round(each["seconds"]), each["arrived"]) for each in found], [(20, 60_000), (20, 60_000)])
        self.assertEqual(self.client.post(f"/api/broken-off/{found[0]['id']}").status_code, 409, "it still goes on")
        with mock.patch("hovvet.server.recordings.broken_off_api.QUIET", -1.0):
            kept = self.client.post(f"/api/broken-off/{found[0]['id']}").json()
        self.assertEqual(Recording.objects.get(pk=kept["id"]).original.stat().st_size, 60_000)
        Upload.objects.update(expires=timezone.now())
        forget_expired()
        self.assertEqual(
            (Upload.objects.count(), Recording.objects.count()), (0, 2), "the one that nobody asked for is kept too"
        )
        self.assertEqual(self.client.delete(f"/api/broken-off/{found[0]['id']}").status_code, 404)

    def test_a_damaged_part_is_taken_back(self):
        where = self.begin(5)["Location"]
        wrong = base64.b64encode(hashlib.sha1(b"other").digest()).decode()
        self.assertEqual(self.send(where, 0, b"hello", **{"Upload-Checksum": f"sha1 {wrong}"}).status_code, 460)
        self.assertEqual(self.client.head(where, headers=TUS)["Upload-Offset"], "0")
        right = base64.b64encode(hashlib.sha256(b"hello").digest()).decode()
        self.assertEqual(self.send(where, 0, b"hello", **{"Upload-Checksum": f"sha256 {right}"}).status_code, 204)

    def test_more_than_announced_is_not_taken(self):
        where = self.begin(4)["Location"]
        done = self.send(where, 0, b"0123456789")
        self.assertEqual(Recording.objects.get(pk=done["Hovvet-Recording"]).original.read_bytes(), b"0123")

    def test_what_is_refused_at_once(self):
        self.assertContains(self.begin(0), "empty", status_code=400)
        with override_settings(UPLOAD_BYTES=100):
            self.assertContains(self.begin(101), "The largest file", status_code=413)
        with mock.patch("hovvet.server.files.shutil.disk_usage", return_value=shutil._ntuple_diskusage(10, 10, 0)):
            self.assertContains(self.begin(10), "not enough free space", status_code=507)
        self.assertEqual(Upload.objects.count(), 0)

    def test_cancelling_leaves_nothing(self):
        where = self.begin(10)["Location"]
        self.send(where, 0, b"01234")
        with self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(self.client.delete(where, headers=TUS).status_code, 204)
        self.assertEqual(list((self.media_root / "uploads").iterdir()), [])

    def test_a_name_that_is_a_path_is_only_a_name(self):
        where = self.begin(1, "../../etc/passwd.mp4")["Location"]
        recording = Recording.objects.get(pk=self.send(where, 0, b"x")["Hovvet-Recording"])
        self.assertEqual(recording.file_name, "passwd.mp4")
        self.assertTrue(recording.original.is_relative_to(self.media_root))


class Preparing(ServerCase):
    def bring_in(self, write) -> Recording:
        row = Recording.objects.create(workspace=self.workspace, title="r", file_name="r.mp4")
        row.folder.mkdir(parents=True)
        made = row.folder / "made.mkv"
        write(made)
        made.rename(row.original)
        return row

    def prepare(self, row: Recording) -> dict:
        self.post(f"/api/recordings/{row.pk}/prepare")
        for _ in range(2):  # preparing starts transcribing and looking for faces
            for job in Job.objects.filter(target=row.pk, state="queued"):
                run_job.func(str(job.pk))
        return self.client.get(f"/api/recordings/{row.pk}").json()

    def test_a_video_gets_everything_the_page_needs(self):
        def talk(out):
            ffmpeg(
                "-f",
                "lavfi",
                "-t",
                "12",
                "-i",
                "testsrc2=s=640x360:r=25",
                "-t",
                "12",
                "-i",
                DEMO / "speech" / "talk.opus",
                "-c:v",
                "libx264",
                "-preset",
                "ultrafast",
                "-c:a",
                "aac",
                out,
            )

        row = self.bring_in(talk)
        seen = self.prepare(row)
        done = {(job["kind"], job["state"]) for job in seen["jobs"]}
        self.assertEqual(done, {("prepare", "done"), ("transcribe", "done"), ("faces", "done"), ("passages", "queued")})
        self.assertTrue(seen["playable"] and seen["words_ready"])
        self.assertEqual(len(seen["skyline"]), 240)
        self.assertLess(seen["media"]["lufs"], -10)
        transcript = self.client.get(f"/api/recordings/{row.pk}/transcript").json()
        self.assertTrue(transcript["complete"])
        self.assertIn("evening", " ".join(word["text"] for word in transcript["words"]))
        self.assertEqual(
            sorted(file.name for file in row.folder.iterdir()),
            [
                "energy.f32",
                "faces-1.json",
                "levels.f32",
                "original",
                "peaks.bin",
                "speech.wav",
                "thumbs.jpg",
                "working.mp4",
            ],
        )

    def test_finished_stages_are_not_done_again(self):
        row = self.bring_in(lambda out: counted(out, 2))
        self.prepare(row)
        (row.folder / "thumbs.jpg").unlink()
        stamp = (row.folder / "working.mp4").stat().st_mtime_ns
        self.prepare(row)
        self.assertTrue((row.folder / "thumbs.jpg").exists())
        self.assertEqual((row.folder / "working.mp4").stat().st_mtime_ns, stamp)

    def test_a_video_without_sound(self):
        seen = self.prepare(self.bring_in(lambda out: counted(out, 2, sound="")))
        self.assertTrue(seen["playable"] and seen["words_ready"])
        self.assertIn("no sound", seen["notice"])

    def test_no_speech_is_told(self):
        seen = self.prepare(self.bring_in(lambda out: ffmpeg("-f", "lavfi", "-t", "4", "-i", "anoisesrc=a=0.001", out)))
        self.assertIn("No speech", seen["notice"])

    def test_the_words_found_so_far_can_be_read(self):
        row = self.bring_in(lambda out: ffmpeg("-f", "lavfi", "-t", "4", "-i", "sine", out))
        word = {"id": 1, "text": "Good", "start": 0.5, "end": 0.9}
        Stretch.objects.create(recording=row, done=30.0, words=[word])
        Stretch.objects.create(
            recording=row, done=60.0, words=[word | {"id": 2, "text": "evening.", "start": 31, "end": 32}]
        )
        seen = self.client.get(f"/api/recordings/{row.pk}/transcript").json()
        self.assertEqual((seen["complete"], seen["heard"]), (False, 60.0))
        self.assertEqual([each["text"] for each in seen["words"]], ["Good", "evening."])

    def refused(self, write, about: str) -> None:
        row = self.bring_in(write)
        seen = self.prepare(row)
        job = next(job for job in seen["jobs"] if job["kind"] == "prepare")
        self.assertEqual(job["state"], "failed")
        self.assertIn(about, job["error"])
        self.assertEqual([file.name for file in row.folder.iterdir()], ["original"], "nothing half-made")
        self.assertEqual(self.client.get(f"/api/recordings/{row.pk}/transcript").status_code, 200)

    def test_bad_files_get_plain_words(self):
        whole = counted(self.media_root / "w.mp4", 3).read_bytes()
        self.refused(lambda out: out.write_bytes(b"Dear all,\n" * 99), "not a video or audio file")
        self.refused(lambda out: out.write_bytes(whole[: len(whole) // 2]), "its end is missing")
        playlist = f"#EXTM3U\n#EXTINF:1,\nfile://{self.media_root}/w.mp4\n#EXT-X-ENDLIST\n"
        self.refused(lambda out: out.write_text(playlist), "not a video or audio file")
        with override_settings(RECORDING_SECONDS=2):
            self.refused(lambda out: shutil.copy(self.media_root / "w.mp4", out), "hours long")

    def test_a_file_that_ends_early_is_told_and_usable(self):
        full = self.media_root / "f.wav"
        ffmpeg("-t", "30", "-i", DEMO / "speech" / "talk.opus", "-ar", "16000", "-ac", "1", full)

        def cut(out):
            out.write_bytes(full.read_bytes()[: 16000 * 2 * 10])

        seen = self.prepare(self.bring_in(cut))
        self.assertTrue(seen["words_ready"])
        self.assertAlmostEqual(seen["duration"], 10, delta=0.2)


class Files(ServerCase):
    def test_ranges(self):
        row = self.recording()
        (row.folder / "working.mp4").write_bytes(bytes(range(100)))
        path = f"/api/recordings/{row.pk}/files/working"
        part = self.client.get(path, headers={"Range": "bytes=10-19"})
        self.assertEqual((part.status_code, part["Content-Range"]), (206, "bytes 10-19/100"))
        self.assertEqual(b"".join(part.streaming_content), bytes(range(10, 20)))
        tail = self.client.get(path, headers={"Range": "bytes=-5"})
        self.assertEqual(b"".join(tail.streaming_content), bytes(range(95, 100)))
        self.assertEqual(self.client.get(path, headers={"Range": "bytes=100-"}).status_code, 416)
        whole = self.client.get(path)
        self.assertEqual((whole.status_code, whole["Accept-Ranges"]), (200, "bytes"))
        self.assertEqual(self.client.get(f"/api/recordings/{row.pk}/files/original").status_code, 404)
        self.assertEqual(self.client.get(f"/api/recordings/{row.pk}/files/thumbs").status_code, 404)
