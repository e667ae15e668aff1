"""Workers, servers and tidying: nothing is left behind, nothing at work is touched."""

import os
import sys
import time
import uuid
from datetime import timedelta
from unittest import mock

from django.contrib.sessions.models import Session
from django.db import OperationalError
from django.test import SimpleTestCase
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from hovvet.server.jobs import running
from hovvet.server.jobs.leases import holder_lives, new_lease
from hovvet.server.jobs.models import Job, Turn
from hovvet.server.jobs.reaping import take_up_stale_jobs
from hovvet.server.jobs.running import put_back_own, run_job, start_job
from hovvet.server.recordings.models import Upload
from hovvet.server.upkeep.management.commands import serve
from hovvet.server.upkeep.tidying import tidy
from tests.server.base import ServerCase


class Leases(ServerCase):
    def job(self, lease: str, **more: object) -> Job:
        values = {"attempts": 1, "heartbeat": timezone.now(), **more}
        return Job.objects.create(
            workspace=self.workspace, kind="test", target=uuid.uuid4(), state="running", lease=lease, **values
        )

    def dead(self) -> str:
        """The lease of a process of this machine that is no more."""
        *place, _, _, run = new_lease().split("/")
        return "/".join((*place, "4000000", "1", run))

    def state(self, job: Job) -> str:
        take_up_stale_jobs()
        job.refresh_from_db()
        return job.state

    def test_who_holds_a_lease(self):
        own = new_lease()
        *place, process, started, run = own.split("/")
        self.assertIs(holder_lives(own), True)
        self.assertIs(
            holder_lives("/".join((*place, process, str(int(started) - 1), run))), False, "an earlier process"
        )
        self.assertIs(holder_lives("/".join((*place, "4000000", started, run))), False)
        for n, other in enumerate(("elsewhere", "another-boot", "1")):
            there = [*place[:n], other, *place[n + 1 :]]
            self.assertIsNone(holder_lives("/".join((*there, process, started, run))), "another place with this name")
        self.assertIsNone(holder_lives("elsewhere/1/2/3"))
        self.assertIsNone(holder_lives("an-older-lease"))

    def test_a_slow_machine_loses_no_job(self):
        job = self.job(new_lease(), heartbeat=timezone.now() - timedelta(seconds=100))
        self.assertEqual(self.state(job), "running")

    def test_a_run_that_is_not_heard_of_has_lost_its_job_although_its_process_lives(self):
        job = self.job(new_lease(), heartbeat=timezone.now() - timedelta(seconds=130))
        self.assertEqual(self.state(job), "queued")

    def test_the_job_of_a_killed_process_is_handed_out_at_once(self):
        job = self.job(self.dead())
        self.assertEqual(self.state(job), "queued")

    def test_a_job_whose_worker_died_after_it_was_cancelled_is_cancelled(self):
        job = self.job(self.dead(), cancel_requested=True)
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

    def test_exports_wait_for_what_people_wait_for(self):
        from django_tasks_db.models import DBTaskResult

        with self.captureOnCommitCallbacks(execute=True):
            for kind in ("prepare", "transcribe", "export"):
                start_job(self.workspace, kind, uuid.uuid4())
        kinds = [Job.objects.get(pk=task.args_kwargs["args"][0]).kind for task in DBTaskResult.objects.ready()]
        self.assertEqual(kinds, ["transcribe", "prepare", "export"])

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


class KeptRunning(SimpleTestCase):
    def setUp(self) -> None:
        self.now = 0.0

    def kept(self, code: str) -> serve.Kept:
        child = serve.Kept("A worker", [sys.executable, "-c", code], lambda: self.now)
        self.addCleanup(lambda: (child.process.kill(), child.process.wait()))
        return child

    def test_a_process_that_dies_again_and_again_is_started_after_waits_that_grow_and_then_given_up(self):
        child = self.kept("raise SystemExit(3)")
        waits, told = [], []
        with self.assertRaisesRegex(
            serve.GivenUp, "A worker ended 8 times in a row soon after it was started, the last time with 3"
        ):
            while True:
                child.process.wait()
                told.append(child.look_after())
                begun = self.now
                while child._again is not None:
                    self.now += 0.5
                    self.assertEqual(child.look_after(), "")
                waits.append(self.now - begun)
        self.assertEqual(waits, [1, 2, 4, 8, 16, 32, 60])
        self.assertEqual(told[0], "A worker ended with 3; it is started again in 1 s")

    def test_one_that_ran_well_for_a_while_begins_anew(self):
        child = self.kept("raise SystemExit(3)")
        for _ in range(20):
            child.process.wait()
            self.now += 121
            self.assertIn("again in 1 s", child.look_after())
            self.now += 1
            child.look_after()


class Reaping(ServerCase):
    def test_one_of_several_workers_reaps(self):
        self.assertTrue(Turn.take("reaper", 60))
        self.assertFalse(Turn.take("reaper", 60))
        Turn.objects.update(until=timezone.now() - timedelta(seconds=1))
        self.assertTrue(Turn.take("reaper", 60))

    def test_tasks_of_dead_workers_go_and_those_at_work_stay(self):
        job = Job.objects.create(workspace=self.workspace, kind="test", target=uuid.uuid4(), state="done")
        busy = Job.objects.create(
            workspace=self.workspace,
            kind="test",
            target=uuid.uuid4(),
            state="running",
            heartbeat=timezone.now(),
            lease=new_lease(),
        )
        for each, seconds in ((job, 60), (busy, 90), (busy, 60), (job, 1)):
            run_job.enqueue(str(each.pk))
            DBTaskResult.objects.ready().update(
                status="RUNNING", started_at=timezone.now() - timedelta(seconds=seconds)
            )
        take_up_stale_jobs()
        left = DBTaskResult.objects.running().order_by("started_at").values_list("args_kwargs", flat=True)
        self.assertEqual([each["args"] for each in left], [[str(busy.pk)], [str(job.pk)]])

    def test_a_run_that_could_not_write_its_end_is_handed_out_again(self):
        running._handlers["test"] = lambda report: None
        self.addCleanup(running._handlers.pop, "test")
        job = start_job(self.workspace, "test", uuid.uuid4())
        with (
            mock.patch.object(running, "_finish", side_effect=OperationalError("database is gone")),
            self.assertRaises(OperationalError),
        ):
            run_job.func(str(job.pk))
        self.assertEqual(take_up_stale_jobs(), 0, "its heart has just been beating")
        Job.objects.filter(pk=job.pk).update(heartbeat=timezone.now() - timedelta(seconds=121))
        self.assertEqual(take_up_stale_jobs(), 1)
        run_job.func(str(job.pk))
        job.refresh_from_db()
        self.assertEqual(job.state, "done")
