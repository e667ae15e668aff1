"""Workers, servers and tidying: nothing is left behind, nothing at work is touched."""

import os
import time
import uuid
from datetime import timedelta
from unittest import mock

from django.contrib.sessions.models import Session
from django.utils import timezone

from hovvet.server.jobs import running
from hovvet.server.jobs.leases import holder_lives, new_lease
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import put_back_own, run_job, start_job, take_up_stale_jobs
from hovvet.server.recordings.models import Upload
from hovvet.server.upkeep.tidying import tidy
from tests.server.base import ServerCase


class Leases(ServerCase):
    def job(self, lease: str, **more: object) -> Job:
        values = {"attempts": 1, "heartbeat": timezone.now(), **more}
        return Job.objects.create(
            workspace=self.workspace, kind="test", target=uuid.uuid4(), state="running", lease=lease, **values
        )

    def state(self, job: Job) -> str:
        take_up_stale_jobs()
        job.refresh_from_db()
        return job.state

    def test_who_holds_a_lease(self):
        own = new_lease()
        host, process, started, run = own.split("/")
        self.assertIs(holder_lives(own), True)
        self.assertIs(holder_lives("/".join((host, process, str(int(started) - 1), run))), False, "an earlier process")
        self.assertIs(holder_lives("/".join((host, "4000000", started, run))), False)
        self.assertIsNone(holder_lives("elsewhere/1/2/3"))
        self.assertIsNone(holder_lives("an-older-lease"))

    def test_a_slow_machine_loses_no_job(self):
        job = self.job(new_lease(), heartbeat=timezone.now() - timedelta(hours=1))
        self.assertEqual(self.state(job), "running")

    def test_the_job_of_a_killed_process_is_handed_out_at_once(self):
        host, _, _, run = new_lease().split("/")
        job = self.job(f"{host}/4000000/1/{run}")
        self.assertEqual(self.state(job), "queued")

    def test_a_job_whose_worker_died_after_it_was_cancelled_is_cancelled(self):
        host, _, _, run = new_lease().split("/")
        job = self.job(f"{host}/4000000/1/{run}", cancel_requested=True)
        self.assertEqual(self.state(job), "cancelled")

    def test_a_queued_job_nobody_knows_of_is_handed_out(self):
        job = start_job(self.workspace, "test", uuid.uuid4())  # within a test the task is not queued
        Job.objects.filter(pk=job.pk).update(created=timezone.now() - timedelta(minutes=2))
        self.assertEqual((take_up_stale_jobs(), take_up_stale_jobs()), (1, 0))


class Draining(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.addCleanup(running.draining.clear)
        self.addCleanup(running._handlers.pop, "test", None)

    def run_with(self, work) -> Job:
        running._handlers["test"] = work
        job = start_job(self.workspace, "test", uuid.uuid4())
        run_job.func(str(job.pk))
        job.refresh_from_db()
        return job

    def test_a_worker_that_is_to_stop_gives_its_job_back(self):
        def work(report: running.Report) -> None:
            running.draining.set()
            report.stage("Never reached", 0, 1)

        job = self.run_with(work)
        self.assertEqual((job.state, job.attempts, job.lease), ("queued", 0, ""))
        running.draining.clear()
        running._handlers["test"] = lambda report: None
        run_job.func(str(job.pk))
        job.refresh_from_db()
        self.assertEqual((job.state, job.attempts), ("done", 1))

    def test_a_job_that_comes_to_no_report_is_given_back_without_it(self):
        seen = []

        def work(report: running.Report) -> None:
            put_back_own()
            seen.append(Job.objects.get(pk=report.job.pk).state)

        job = self.run_with(work)
        self.assertEqual((seen, job.state, job.attempts), (["queued"], "queued", 0))

    def test_exports_are_taken_before_preparing(self):
        from django_tasks_db.models import DBTaskResult

        with self.captureOnCommitCallbacks(execute=True):
            for kind in ("prepare", "transcribe", "export"):
                start_job(self.workspace, kind, uuid.uuid4())
        kinds = [Job.objects.get(pk=task.args_kwargs["args"][0]).kind for task in DBTaskResult.objects.ready()]
        self.assertEqual(kinds, ["export", "transcribe", "prepare"])

    def test_what_waits_says_for_how_many(self):
        row = self.recording()
        start_job(self.workspace, "prepare", row.pk)
        for _ in range(2):
            Job.objects.create(workspace=self.workspace, kind="test", target=uuid.uuid4(), state="running")
        job = self.client.get(f"/api/recordings/{row.pk}").json()["jobs"][0]
        self.assertEqual((job["state"], job["waits_for"]), ("queued", 2))


class Tidying(ServerCase):
    def aged(self, path, hours: float = 48) -> None:
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(bytes(1000))
        then = time.time() - hours * 3600
        os.utime(path, (then, then))
        os.utime(path.parent, (then, then))

    def test_what_is_left_behind_goes_and_all_else_stays(self):
        row = self.recording()
        stray, fresh = row.folder / ".working.mp4.0123.part", row.folder / ".working.mp4.4567.part"
        self.aged(stray)
        self.aged(fresh, hours=0)
        nobody = self.media_root / "exports" / str(uuid.uuid4()) / "clip.mp4"
        self.aged(nobody)
        font = self.media_root / "assets" / str(uuid.uuid4()) / "file"
        self.aged(font)
        other = self.media_root / "recordings" / "notes.txt"
        self.aged(other)
        Upload.objects.create(
            workspace=self.workspace,
            user=self.user,
            file_name="x",
            length=9,
            expires=timezone.now() - timedelta(hours=1),
        )
        for days, finished in ((40, True), (40, False), (1, True)):
            job = Job.objects.create(workspace=self.workspace, kind="test", target=uuid.uuid4())
            Job.objects.filter(pk=job.pk).update(finished=timezone.now() - timedelta(days=days) if finished else None)
        Session.objects.create(session_key="old", session_data="", expire_date=timezone.now() - timedelta(days=1))
        with self.captureOnCommitCallbacks(execute=True):
            done = tidy()
        self.assertEqual([path.exists() for path in (stray, nobody, font, other)], [False] * 4)
        self.assertTrue(fresh.exists() and row.original.exists(), "what is at work is not touched")
        self.assertEqual((done.uploads, done.jobs, done.sessions), (1, 1, 1))
        self.assertEqual(done.files, 4)
        self.assertIn("4 files and folders (0.0 MB)", str(done))
        self.assertEqual(Job.objects.count(), 2)

    def test_an_expired_upload_takes_its_bytes_along(self):
        gone = Upload.objects.create(
            workspace=self.workspace, user=self.user, file_name="x", length=9, expires=timezone.now()
        )
        self.aged(gone.path, hours=0)
        with self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(tidy().uploads, 1)
        self.assertFalse(gone.path.exists())

    def test_a_second_time_there_is_nothing(self):
        self.recording()
        self.assertEqual(tidy().files, 0)


class Serving(ServerCase):
    def test_a_port_that_is_taken_is_said_plainly(self):
        import socket

        from django.core.management import CommandError, call_command

        with socket.socket() as taken, mock.patch("subprocess.Popen") as started:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            with self.assertRaisesRegex(CommandError, "is taken: is Hovvet running already"):
                call_command("serve", port=taken.getsockname()[1])
            started.assert_not_called()
