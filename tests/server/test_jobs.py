"""Jobs: claimed once, cancelled soon, taken up again when a worker dies."""

import uuid
from contextlib import nullcontext
from datetime import timedelta
from unittest import mock

from django.db.models import F
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from hovvet.core.errors import CoreError
from hovvet.server.jobs import regular, running
from hovvet.server.jobs.models import Job, Turn
from hovvet.server.jobs.reaping import take_up_stale_jobs
from hovvet.server.jobs.running import cancel_job, run_job, start_job
from tests.server.base import ServerCase


class Running(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.ran: list[uuid.UUID] = []
        self.work = lambda report: self.ran.append(report.target)
        running._handlers["test"] = lambda report: self.work(report)
        self.addCleanup(running._handlers.pop, "test")
        self.target = uuid.uuid4()

    def job(self) -> Job:
        with self.captureOnCommitCallbacks():
            return start_job(self.workspace, "test", self.target)

    def run_now(self, job: Job) -> Job:
        run_job.func(str(job.pk))
        job.refresh_from_db()
        return job

    def test_a_job_runs_once(self):
        job = self.job()
        self.assertEqual(self.run_now(job).state, "done")
        self.run_now(job)
        self.assertEqual(self.ran, [self.target])
        self.assertEqual((job.progress, job.attempts), (1.0, 1))

    def test_a_job_that_is_claimed_is_not_started_a_second_time(self):
        job = self.job()

        def nested(report: running.Report) -> None:
            self.ran.append(report.target)
            run_job.func(str(job.pk))

        self.work = nested
        self.run_now(job)
        self.assertEqual(len(self.ran), 1)

    def test_the_same_work_is_not_queued_twice(self):
        self.assertEqual(self.job().pk, self.job().pk)

    def test_a_job_that_comes_after_another_waits_until_that_has_ended_however_it_does(self):
        def fail(_report: running.Report) -> None:
            raise CoreError("The file is empty.")

        def ends(job: Job) -> None:
            self.work = fail
            self.run_now(job)

        for end in (ends, cancel_job, Job.delete):
            with self.subTest(end=end):
                self.target = uuid.uuid4()
                first = self.job()
                with self.captureOnCommitCallbacks(execute=True) as handed_out:
                    later = start_job(self.workspace, "test", uuid.uuid4(), after=first)
                self.assertEqual(handed_out, [])
                self.assertTrue(later.with_another)
                Job.objects.filter(pk=later.pk).update(created=timezone.now() - timedelta(hours=1))
                self.assertNotIn(later.pk, self.handed_out())
                take_up_stale_jobs()
                self.assertNotIn(later.pk, self.handed_out(), "it is not forgotten")
                end(first)
                take_up_stale_jobs()
                self.assertIn(later.pk, self.handed_out())

    def handed_out(self) -> set[uuid.UUID]:
        return {uuid.UUID(task.args_kwargs["args"][0]) for task in DBTaskResult.objects.ready()}

    def test_errors_for_people_and_for_developers(self):
        def fail(_report: running.Report) -> None:
            raise CoreError("The file is empty.", "0 bytes")

        self.work = fail
        job = self.run_now(self.job())
        self.assertEqual((job.state, job.error, job.error_detail), ("failed", "The file is empty.", "0 bytes"))

        def crash(_report: running.Report) -> None:
            raise ZeroDivisionError("secret detail")

        self.work = crash
        with self.assertLogs("hovvet.jobs", "ERROR"):
            job = self.run_now(self.job())
        self.assertEqual(job.state, "failed")
        self.assertNotIn("secret", job.error)
        self.assertIn("secret detail", job.error_detail)

    def test_a_full_disk_is_told_as_such(self):
        def full(_report: running.Report) -> None:
            raise OSError(28, "No space left on device")

        self.work = full
        self.assertIn("disk is full", self.run_now(self.job()).error)

    def test_cancelling_a_running_job_stops_it_at_its_next_report(self):
        def work(report: running.Report) -> None:
            report.stage("Working", 0, 1)
            cancel_job(report.job)
            report.stage("Working more", 0.5, 1)
            self.ran.append(report.target)

        self.work = work
        job = self.run_now(self.job())
        self.assertEqual((job.state, self.ran), ("cancelled", []))

    def test_cancelling_a_waiting_job(self):
        job = self.job()
        cancel_job(job)
        self.assertEqual(self.run_now(job).state, "cancelled")
        self.assertEqual(self.ran, [])

    def test_progress_is_within_the_stage(self):
        seen = []

        def work(report: running.Report) -> None:
            report.stage("One", 0, 0.5)
            report.stage("Two", 0.5, 1)
            seen.append(Job.objects.get(pk=report.job.pk))

        self.work = work
        self.run_now(self.job())
        self.assertEqual((seen[0].stage, seen[0].progress), ("Two", 0.5))

    def test_the_job_of_a_dead_worker_is_taken_up_again(self):
        job = self.job()
        long_ago = timezone.now() - timedelta(seconds=600)
        Job.objects.filter(pk=job.pk).update(
            state="running", lease="elsewhere/1/1/dead", heartbeat=long_ago, attempts=1
        )
        self.assertEqual(take_up_stale_jobs(), 1)
        self.assertEqual(take_up_stale_jobs(), 0, "only once")
        self.assertEqual(self.run_now(job).state, "done")
        self.assertEqual(job.attempts, 2)

    def test_a_worker_that_lost_its_job_writes_nothing_more(self):
        def slow(report: running.Report) -> None:
            Job.objects.filter(pk=report.job.pk).update(lease="somebody-else")
            report.stage("Too late", 0, 1)
            self.ran.append(report.target)

        self.work = slow
        with self.assertLogs("hovvet.jobs", "WARNING"):
            job = self.run_now(self.job())
        self.assertEqual((job.state, job.lease, self.ran), ("running", "somebody-else", []))

    def test_a_job_that_kills_every_worker_is_given_up(self):
        job = self.job()
        long_ago = timezone.now() - timedelta(seconds=600)
        Job.objects.filter(pk=job.pk).update(
            state="running", lease="elsewhere/1/1/dead", heartbeat=long_ago, attempts=3
        )
        take_up_stale_jobs()
        job.refresh_from_db()
        self.assertEqual(job.state, "failed")
        self.assertIn("three times", job.error)


class Regularly(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.done: list[str] = []
        self.clock = 1_000.0
        works = {"often": (5.0, lambda: self.done.append("often")), "fails": (5.0, self.fail_it)}
        self.enterContext(mock.patch.dict(regular._works, works, clear=True))

    def fail_it(self) -> None:
        self.done.append("fails")
        raise ValueError("it is broken")

    def pass_by(self, seconds: float) -> None:
        """So long a time, for the workers and for the database."""
        self.clock += seconds
        Turn.objects.update(until=F("until") - timedelta(seconds=seconds))

    def test_one_worker_at_a_time_does_what_is_due_also_after_it_failed(self):
        workers = [regular.Regular(lambda: self.clock) for _ in range(3)]
        for expected in (2, 2, 4):
            with self.assertLogs("hovvet.jobs", "ERROR") if len(self.done) < expected else nullcontext():
                for worker in workers:
                    worker.do_what_is_due()
            self.assertEqual(len(self.done), expected)
            self.pass_by(2.6)
        self.assertEqual(sorted(set(self.done)), ["fails", "often"])

    def test_it_is_not_asked_whose_turn_it_is_before_something_is_due(self):
        worker = regular.Regular(lambda: self.clock)
        with self.assertLogs("hovvet.jobs", "ERROR"):
            worker.do_what_is_due()
        with self.assertNumQueries(0):
            worker.do_what_is_due()
