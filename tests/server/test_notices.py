"""What happened is told: by the bell, and by mail to those who want it."""

from datetime import timedelta
from unittest import mock

from django.contrib.auth.models import User
from django.core import mail
from django.utils import timezone

from hovvet.core.errors import CoreError
from hovvet.server.accounts.models import Membership
from hovvet.server.jobs import running
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job, start_job
from hovvet.server.notices import mailing
from hovvet.server.notices.mailing import GATHERED, GIVEN_UP, mail_what_happened
from hovvet.server.notices.models import Notice
from hovvet.server.notices.telling import tell
from hovvet.server.recordings.preparing import PREPARE
from hovvet.server.upkeep.tidying import tidy
from tests.server.test_review import ReviewCase

Kind = Notice.Kind


class NoticesCase(ReviewCase):
    def setUp(self) -> None:
        super().setUp()
        self.user.email = "maren@bench.example"
        self.user.save()
        Notice.objects.all().delete()

    def bell(self) -> dict:
        return self.client.get("/api/notices").json()

    def texts(self) -> list[str]:
        return [each["text"] for each in self.bell()["notices"]]

    def end(self, kind: str, target, outcome: Exception | None = None) -> Job:
        with mock.patch.dict(running._handlers, {kind: mock.Mock(side_effect=outcome)}):
            job = start_job(self.workspace, kind, target)
            run_job.func(str(job.pk))
        return job


class Bell(NoticesCase):
    def test_what_reviewers_say_is_told_with_the_way_there(self):
        link = self.share()
        self.say(link, text="Softer\nhere")
        for says in ("changes wanted", "approved"):
            self.post(f"{self.at(link)}/verdict", {"name": "Ilse", "says": says, "version": 1}, self.stranger)
        told = self.bell()
        self.assertEqual(told["unread"], 3)
        self.assertEqual([each["kind"] for each in told["notices"]], ["approved", "changes wanted", "commented"])
        self.assertEqual(self.texts()[2], f"Ilse on “{self.clip.title}”: Softer\nhere")
        self.assertEqual({each["path"] for each in told["notices"]}, {f"/clips/{self.clip.pk}?panel=review"})

    def test_what_somebody_did_is_told_to_the_others_only(self):
        link = self.share()
        said = self.say(link)["comments"][0]
        self.post(f"/api/comments/{said['id']}/answers", {"text": "Done"})
        self.assertEqual(len(self.texts()), 1)
        colleague = User.objects.create_user("oddvik", password="mend-it-well")
        Membership.objects.create(user=colleague, workspace=self.workspace)
        self.client.force_login(colleague)
        self.assertEqual(len(self.texts()), 2)

    def test_what_is_ready_or_failed_is_told_and_what_goes_on_by_itself_is_not(self):
        self.end("export", self.film.pk)
        self.end(PREPARE, self.row.pk)
        self.end("export", self.film.pk, CoreError("The disk is full."))
        self.end("compare", self.film.pk)
        self.assertEqual(
            self.texts(),
            [
                f"Tall feed of “{self.clip.title}” failed: The disk is full.",
                "“A talk” is ready.",
                f"Tall feed of “{self.clip.title}” is ready.",
            ],
        )

    def test_a_job_ends_well_whatever_is_told_of_it(self):
        with mock.patch("hovvet.server.notices.telling.tell", side_effect=RuntimeError):
            job = self.end("export", self.film.pk)
        job.refresh_from_db()
        self.assertEqual(job.state, "done")

    def test_read_is_read_by_each_and_what_comes_later_is_not(self):
        first = tell(self.workspace, Kind.READY, "One")
        self.post("/api/notices/read", {"until": 2**60})
        self.assertEqual(self.bell()["unread"], 0)
        tell(self.workspace, Kind.READY, "Two")
        told = self.bell()
        self.assertEqual((told["unread"], [each["unread"] for each in told["notices"]]), (1, [True, False]))
        self.post("/api/notices/read", {"until": first.pk})
        self.assertEqual(self.bell()["unread"], 1)

    def test_it_goes_with_what_it_is_about_and_after_a_month(self):
        tell(self.workspace, Kind.READY, "A clip", clip=self.clip)
        tell(self.workspace, Kind.READY, "Another thing")
        self.client.delete(f"/api/documents/{self.clip.pk}")
        self.assertEqual(self.texts(), ["Another thing"])
        Notice.objects.update(created=timezone.now() - timedelta(days=31))
        tidy()
        self.assertEqual(self.texts(), [])

    def test_others_see_nothing_of_it(self):
        tell(self.workspace, Kind.READY, "One")
        self.client.force_login(self.other)
        self.assertEqual(self.bell(), {"unread": 0, "notices": []})


class Mail(NoticesCase):
    def later(self, seconds: float = GATHERED.total_seconds() + 1) -> int:
        moment = timezone.now() + timedelta(seconds=seconds)
        with mock.patch.object(mailing.timezone, "now", return_value=moment):
            return mail_what_happened()

    def want(self, status: int = 200, **wanted) -> dict:
        answer = self.client.put("/api/notices/mail", wanted, content_type="application/json")
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def test_what_comes_together_goes_in_one_letter_once(self):
        for n in range(3):
            tell(self.workspace, Kind.COMMENTED, f"Comment {n}\nand more", clip=self.clip, place="review")
        self.assertEqual(mail_what_happened(), 0)  # more may come
        self.assertEqual(self.later(), 1)
        self.assertEqual(self.later(), 0)
        (letter,) = mail.outbox
        self.assertEqual((letter.to, letter.subject), (["maren@bench.example"], "Comment 0 and more (and 2 more)"))
        self.assertEqual(letter.body.count(f"/clips/{self.clip.pk}?panel=review"), 3)

    def test_to_whom_and_of_what_is_chosen(self):
        self.want(email="", kinds=["ready"])
        tell(self.workspace, Kind.READY, "One")
        self.assertEqual(self.later(), 0)
        told = self.want(email="maren@elsewhere.example", kinds=["ready", "ready"])
        self.assertEqual(told["kinds"], ["ready"])
        self.assertIn("commented", told["all_kinds"])
        tell(self.workspace, Kind.COMMENTED, "Two")
        self.assertEqual(self.later(), 0)
        tell(self.workspace, Kind.READY, "Three")
        self.assertEqual(self.later(), 1)
        self.assertEqual([letter.subject for letter in mail.outbox], ["Three"])
        for wrong in ("nobody", "a@b\nBcc: x@y.example", "<x>@y"):
            self.assertIn("address for mail", self.want(422, email=wrong, kinds=[])["detail"])

    def test_nobody_has_mail_of_what_they_did_themselves_nor_of_other_workspaces(self):
        tell(self.workspace, Kind.COMMENTED, "Own", by=self.user.pk)
        self.other.email = "tolliver@elsewhere.example"
        self.other.save()
        tell(self.workspace, Kind.COMMENTED, "Ours")
        self.assertEqual(self.later(), 1)
        self.assertEqual([(letter.to, letter.subject) for letter in mail.outbox], [(["maren@bench.example"], "Ours")])

    def test_a_server_for_mail_that_is_not_there_is_asked_again_for_a_day(self):
        tell(self.workspace, Kind.COMMENTED, "One")
        with mock.patch.object(mailing, "send_mail", side_effect=ConnectionRefusedError):
            self.assertEqual(self.later(), 0)
        self.assertEqual(self.later(), 1)
        tell(self.workspace, Kind.COMMENTED, "Two")
        self.assertEqual(self.later(GIVEN_UP.total_seconds() + 1), 0)
        self.assertEqual(self.later(), 0)

    def test_a_letter_has_one_subject_line_whatever_a_title_holds(self):
        tell(self.workspace, Kind.COMMENTED, "A\r\nBcc: everybody@elsewhere.example")
        self.later()
        self.assertEqual(mail.outbox[0].subject, "A Bcc: everybody@elsewhere.example")
        self.assertEqual(mail.outbox[0].recipients(), ["maren@bench.example"])
