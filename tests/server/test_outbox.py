"""The outbox: what is planned goes out in its time, once, whatever happens; what may not does not."""

import os
import uuid
from datetime import UTC, datetime, timedelta
from unittest import mock

from django.db import connection
from django.test import SimpleTestCase, TransactionTestCase
from django.utils import timezone

from hovvet.core.errors import CoreError
from hovvet.core.outbox.trying import WAITS
from hovvet.core.post.post import Post
from hovvet.core.render.output import Output
from hovvet.server.accounts.models import Workspace
from hovvet.server.delivery.beginning import begin_exports, checked
from hovvet.server.delivery.made import ClipNow
from hovvet.server.documents.making import make_clip
from hovvet.server.documents.opening import documents
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.reaping import take_up_stale_jobs
from hovvet.server.jobs.running import run_job
from hovvet.server.notices.models import Notice
from hovvet.server.outbox import due, planning, sending
from hovvet.server.outbox.due import send_what_is_due
from hovvet.server.outbox.models import Posting
from hovvet.server.outbox.sending import SEND
from hovvet.server.outside.models import OutsideAccount, OutsidePost
from hovvet.server.posts.writing import keep_text
from hovvet.server.recordings.models import Show
from tests.media import even_words
from tests.server.base import own_media, recording_row
from tests.server.test_handover import HandoverCase

State = Posting.State
Mood = OutsideAccount.Mood
MOMENTS = 30


def run_sending() -> None:
    """What a worker would do now."""
    send_what_is_due()
    for job in Job.objects.filter(kind=SEND, state="queued"):
        run_job.func(str(job.pk))


def no_drawing(case: SimpleTestCase) -> mock.Mock:
    """Covers are drawn slowly, and elsewhere."""
    return case.enterContext(mock.patch.object(sending, "picture_of", return_value=b"cover"))


class OutboxCase(HandoverCase):
    def setUp(self) -> None:
        super().setUp()
        self.film = self.export()
        self.account = OutsideAccount.objects.create(workspace=self.workspace, name="Bench, tall", sort="tall")
        self.clock = timezone.now()
        for module in (due, sending, planning):
            self.enterContext(mock.patch.object(module.timezone, "now", lambda: self.clock))
        self.drawing = no_drawing(self)

    def plan(self, status: int = 200, **wanted) -> dict:
        films = [{"clip": str(self.clip.pk), "edition": "e1"}]
        body = {"films": films, "end": "stand-in", "account": str(self.account.pk)} | wanted
        answer = self.post("/api/outbox/postings", body)
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()[0] if status == 200 else answer.json()

    def in_minutes(self, minutes: float) -> str:
        return (self.clock + timedelta(minutes=minutes)).replace(tzinfo=None).isoformat()

    def go_on(self, minutes: float) -> Posting:
        """So much later, what a worker does then; the post afterwards."""
        self.clock += timedelta(minutes=minutes)
        run_sending()
        return Posting.objects.get()

    def change(self, row: Posting, status: int = 200, **wanted) -> dict:
        path = f"/api/outbox/postings/{row.pk}"
        answer = self.client.patch(path, {"version": row.version} | wanted, content_type="application/json")
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def feel(self, mood: Mood) -> None:
        OutsideAccount.objects.update(mood=mood)


class Planned(OutboxCase):
    def test_it_goes_out_at_its_time_and_once(self):
        keep_text(self.clip, "", Post(first_line="A clock <b>stopped</b>", hashtags=("#mend",)), 0)
        made = self.plan(at=self.in_minutes(30))
        self.assertEqual((made["state"], made["can_change"]), ("planned", True))
        self.assertEqual(self.go_on(29).state, State.PLANNED)
        row = self.go_on(2)
        self.assertEqual((row.state, row.tries), (State.SENT, 1))
        for _ in range(3):
            self.go_on(60)
        feed = self.client.get(f"/api/outside/accounts/{self.account.pk}/feed").json()
        (post,) = feed["posts"]
        self.assertEqual((post["text"], post["title"]), ("A clock <b>stopped</b>\n\n#mend", self.clip.title))
        film = self.client.get(f"/api/outside/posts/{post['id']}/film")
        self.assertEqual(b"".join(film.streaming_content), self.film.main.read_bytes())
        cover = self.client.get(f"/api/outside/posts/{post['id']}/cover.jpg")
        self.assertEqual(b"".join(cover.streaming_content), b"cover")
        self.film.delete()  # what was sent is there still
        self.assertEqual(self.client.get(f"/api/outside/posts/{post['id']}/film").status_code, 200)
        self.assertEqual(Notice.objects.filter(kind=Notice.Kind.SENT).count(), 1)

    def test_now_is_now_and_without_a_cover_where_none_can_be_drawn(self):
        self.drawing.side_effect = CoreError("there is no picture")
        self.plan()
        self.assertEqual(self.go_on(0).state, State.SENT)
        self.assertFalse(OutsidePost.objects.get().cover.exists())

    def test_a_film_goes_to_an_account_once(self):
        self.plan()
        self.assertIn("already", self.plan(409)["detail"])
        self.go_on(0)
        self.assertIn("already", self.plan(409, at=self.in_minutes(5))["detail"])
        self.assertEqual(Posting.objects.count(), 1)

    def test_times_that_are_past_or_are_none_are_refused_and_nothing_is_planned(self):
        with_zone = self.plan(422, at="2027-01-01T09:00:00+01:00")
        self.assertIn("without an offset", with_zone["detail"])
        self.assertIn("past", self.plan(422, at=self.in_minutes(-1))["detail"])
        self.assertIn("past", self.plan(422, at="0001-01-01T00:00:00")["detail"])
        self.assertIn("two years", self.plan(422, at="9999-12-31T23:59:00", zone="UTC")["detail"])
        spring = self.plan(422, at="2028-03-26T02:30:00", zone="Europe/Berlin")
        self.assertIn("no 02:30 on 26 March 2028", spring["detail"])
        self.assertIn("time zone", self.plan(422, at=self.in_minutes(9), zone="Nowhere/Land")["detail"])
        self.assertFalse(Posting.objects.exists())

    def test_several_are_spread_all_or_none(self):
        clips = [self.clip, make_clip(self.row, 3, 9), make_clip(self.row, 5, 12)]
        films = [{"clip": str(each.pk), "edition": "e1"} for each in clips]
        self.assertIn("2 of these", self.plan(409, films=films, at=self.in_minutes(30))["detail"])
        self.assertFalse(Posting.objects.exists())
        for each in clips[1:]:
            self.export(each)
        self.plan(films=films, at=self.in_minutes(30), step="day")
        times = [row.at for row in Posting.objects.order_by("at")]
        self.assertEqual([each - times[0] for each in times], [timedelta(days=n) for n in range(3)])
        asked = {"at": "2027-10-30T02:30:00", "zone": "Europe/Berlin", "step": "day", "count": 3}
        told = self.post("/api/outbox/times", asked).json()
        hours = [datetime.fromisoformat(each).astimezone(UTC).hour for each in told["moments"]]
        self.assertEqual((hours, told["twice"]), ([0, 0, 1], False))

    def test_it_is_put_off_and_taken_back_until_it_is_on_its_way(self):
        self.plan(at=self.in_minutes(30))
        row = Posting.objects.get()
        self.change(row, at=self.in_minutes(90), zone="UTC")
        self.assertIn("Somebody else", self.change(row, 409, now=True)["detail"])  # on what was seen before
        self.assertEqual(self.go_on(40).state, State.PLANNED)
        Posting.objects.update(state=State.SENDING)
        self.change(Posting.objects.get(), 409, now=True)
        self.assertEqual(self.client.delete(f"/api/outbox/postings/{row.pk}").status_code, 409)
        Posting.objects.update(state=State.PLANNED)
        self.assertEqual(self.client.delete(f"/api/outbox/postings/{row.pk}").status_code, 204)
        self.assertFalse(Posting.objects.exists())

    def test_a_newer_film_takes_its_place(self):
        self.plan(at=self.in_minutes(30))
        self.assertIn("no newer", self.change(Posting.objects.get(), 409, newest=True)["detail"])
        self.assertFalse(self.client.get("/api/outbox/postings").json()[0]["newer"])
        newer = self.export(output={"kind": "webm"})
        self.assertTrue(self.client.get("/api/outbox/postings").json()[0]["newer"])
        self.change(Posting.objects.get(), newest=True)
        self.assertEqual(self.go_on(31).export_id, newer.pk)
        self.assertEqual(OutsidePost.objects.get().kind, "webm")


class Asked(OutboxCase):
    def notices(self) -> list[str]:
        return list(Notice.objects.filter(kind=Notice.Kind.ASKS).values_list("text", flat=True))

    def test_a_server_that_was_down_at_that_time_asks(self):
        self.plan(at=self.in_minutes(30))
        row = self.go_on(600)
        self.assertEqual((row.state, OutsidePost.objects.count()), (State.MISSED, 0))
        self.assertIn("not running", row.told)
        self.assertEqual(len(self.notices()), 1)
        self.go_on(600)
        self.assertEqual(len(self.notices()), 1)  # asked once
        self.change(row, now=True)
        self.assertEqual(self.go_on(0).state, State.SENT)

    def test_a_job_that_waited_too_long_asks_as_well(self):
        self.plan(at=self.in_minutes(30))
        self.clock += timedelta(minutes=31)
        send_what_is_due()
        self.assertEqual(self.go_on(60).state, State.MISSED)

    def test_only_what_is_approved_goes_out_where_the_show_wants_it(self):
        self.row.show = Show.objects.create(workspace=self.workspace, name="Bench Notes")
        self.row.save()
        shown = self.client.get("/api/shows").json()[0]
        wanted = {"version": shown["version"], "approved_only": True}
        self.client.patch(f"/api/shows/{shown['id']}", wanted, content_type="application/json")
        self.assertIn("only what is approved", self.plan(409)["detail"])
        self.plan(at=self.in_minutes(30))
        row = self.go_on(31)
        self.assertEqual((row.state, OutsidePost.objects.count()), (State.HELD, 0))
        self.assertEqual(len(self.notices()), 1)
        self.change(row, 409, now=True)
        link = self.post(f"{self.path}/reviews", {"editions": ["e1"]}).json()
        page = link["address"].replace("/review/", "/api/review/")
        item = self.client.get(page).json()["items"][0]
        for says, state in (("changes wanted", 409), ("approved", 200)):
            self.post(f"{page}/items/{item['id']}/verdict", {"name": "Ilse", "says": says, "version": 1})
            self.change(Posting.objects.get(), state, now=True)
        self.assertEqual(self.go_on(0).state, State.SENT)

    def test_what_was_approved_when_planned_and_is_not_any_more_is_held_back(self):
        with mock.patch.object(planning, "wants_approval", return_value=True):
            with mock.patch.object(planning, "is_approved", return_value=True):
                self.plan()
            self.assertEqual(self.go_on(0).state, State.HELD)

    def test_a_film_that_was_deleted_is_told(self):
        self.plan(at=self.in_minutes(30))
        self.film.delete()
        row = self.go_on(31)
        self.assertEqual(row.state, State.HELD)
        self.assertIn("deleted", row.told)

    def test_what_an_account_does_not_take_is_told_before(self):
        keep_text(self.clip, "", Post(body="x" * 3_000), 0)
        self.assertIn("letters", self.plan(422)["detail"])
        keep_text(self.clip, "", Post(body="x" * 30), 1)
        self.plan(at=self.in_minutes(30))
        keep_text(self.clip, "", Post(body="x" * 3_000), 2)  # and when it was written after
        row = self.go_on(31)
        self.assertEqual((row.state, row.tries), (State.FAILED, 0))

    def test_an_account_that_is_gone_is_told(self):
        self.plan(at=self.in_minutes(30))
        self.account.delete()
        row = self.go_on(31)
        self.assertEqual((row.state, row.tries), (State.FAILED, 0))


class Moods(OutboxCase):
    def test_one_that_refuses_is_not_asked_again_by_itself(self):
        self.feel(Mood.REFUSES)
        self.plan()
        row = self.go_on(0)
        self.assertEqual((row.state, row.tries), (State.FAILED, 1))
        self.assertIn("refuses", row.told)
        self.go_on(600)
        self.feel(Mood.FINE)
        self.change(Posting.objects.get(), now=True)
        self.assertEqual(self.go_on(0).state, State.SENT)

    def test_one_that_asks_to_come_again_is_left_alone_as_long_as_it_asks(self):
        self.feel(Mood.LATER)
        self.plan()
        row = self.go_on(0)
        self.assertEqual((row.state, row.due - self.clock), (State.WAITING, timedelta(seconds=120)))
        self.assertEqual(self.go_on(1.5).tries, 1)
        self.feel(Mood.FINE)
        self.assertEqual(self.go_on(1).state, State.SENT)

    def test_one_that_loses_it_is_tried_with_waits_that_grow_and_then_asked_about(self):
        self.feel(Mood.DROPS)
        self.plan()
        waits = []
        row = self.go_on(0)
        while row.state == State.WAITING:
            waits.append((row.due - self.clock).total_seconds())
            row = self.go_on(waits[-1] / 60)
        self.assertEqual((waits, row.state, row.tries), (list(WAITS), State.FAILED, len(WAITS) + 1))
        self.assertEqual(OutsidePost.objects.count(), 0)

    def test_one_that_takes_it_and_never_answers_is_asked_before_it_is_sent_again(self):
        OutsideAccount.objects.update(knows_keys=False)
        self.feel(Mood.SILENT)
        self.plan()
        self.assertEqual(self.go_on(0).state, State.WAITING)
        row = self.go_on(2)
        self.assertEqual((row.state, row.tries, OutsidePost.objects.count()), (State.SENT, 1, 1))

    def test_what_may_have_gone_out_is_taken_back_only_where_the_outlet_does_not_have_it(self):
        for mood, status, there in ((Mood.SILENT, 409, State.SENT), (Mood.DROPS, 204, None)):
            Posting.objects.all().delete()
            OutsidePost.objects.all().delete()
            self.feel(mood)
            self.plan()
            row = self.go_on(0)
            path = f"/api/outbox/postings/{row.pk}"
            with mock.patch("hovvet.server.outbox.ends.stand_in.found", side_effect=TimeoutError):
                self.assertEqual(self.client.delete(path).status_code, 503)
            self.assertEqual(self.client.delete(path).status_code, status)
            self.assertEqual(Posting.objects.values_list("state", flat=True).first(), there)

    def test_one_that_knows_keys_takes_the_same_once(self):
        self.plan()
        self.go_on(0)
        with mock.patch("hovvet.server.outbox.ends.stand_in.found", return_value=None):
            Posting.objects.update(state=State.SENDING)
            self.assertEqual(self.go_on(0).state, State.SENT)
        self.assertEqual(OutsidePost.objects.count(), 1)
        self.assertEqual(len(list(OutsidePost.objects.get().folder.parent.iterdir())), 1)  # and no files are left


class OfOthers(OutboxCase):
    def test_another_workspace_plans_nothing_sees_nothing_and_takes_nothing_back(self):
        self.plan(at=self.in_minutes(30))
        row = Posting.objects.get()
        self.client.force_login(self.other)
        self.assertEqual(self.client.get("/api/outbox/postings").json(), [])
        self.assertEqual(self.client.get("/api/outbox").json()["accounts"], [])
        self.plan(409)  # the film
        self.change(row, 404, now=True)
        self.assertEqual(self.client.delete(f"/api/outbox/postings/{row.pk}").status_code, 404)
        for path in (f"accounts/{self.account.pk}/feed", f"posts/{uuid.uuid4()}/film"):
            self.assertEqual(self.client.get(f"/api/outside/{path}").status_code, 404)
        self.assertEqual(self.client.delete(f"/api/outside/accounts/{self.account.pk}").status_code, 404)
        self.client.force_login(self.user)
        self.client.delete(f"/api/documents/{self.clip.pk}")
        self.assertFalse(Posting.objects.exists())  # goes with its clip

    def test_an_account_of_another_workspace_is_none(self):
        theirs = Workspace.objects.get(name="Elsewhere")
        account = OutsideAccount.objects.create(workspace=theirs, name="Theirs", sort="tall")
        self.plan(404, account=str(account.pk))
        self.plan(404, end="no-such-end")
        self.plan(404, account="not even a key")


class Killed(TransactionTestCase):
    """A worker that dies before any of the statements with which it sends a post, the outlet's own included."""

    def setUp(self) -> None:
        own_media(self)
        no_drawing(self)
        self.workspace = Workspace.objects.create(name="Bench")
        self.clip = make_clip(recording_row(self.workspace, even_words(20)), 3, 14)
        self.account = OutsideAccount.objects.create(
            workspace=self.workspace, name="Forgetful", sort="tall", knows_keys=False
        )

        clip = documents().get(pk=self.clip.pk)
        (self.film,) = begin_exports(clip, {"e1": checked(clip, ClipNow(clip).made("e1", Output()))}, Output())
        self.film.folder.mkdir(parents=True)
        self.film.main.write_bytes(b"film")

    def planned(self) -> Posting:
        """A post that is due, and nothing else."""
        for model in (Job, OutsidePost, Posting):
            model.objects.all().delete()
        now = timezone.now()
        return Posting.objects.create(
            workspace=self.workspace, document_id=self.clip.pk, export=self.film, edition="e1", end="stand-in",
            account=str(self.account.pk), account_name="Forgetful", at=now, due=now,
        )  # fmt: skip

    def dies_after(self, statements: int) -> bool:
        """Send in a process of its own that dies before one statement; whether it lived to the end."""
        connection.close()
        child = os.fork()
        if child == 0:
            left = [statements]

            def counted(execute, sql, params, many, context):
                left[0] -= 1
                if left[0] < 0:
                    os._exit(9)
                return execute(sql, params, many, context)

            try:
                with connection.execute_wrapper(counted):
                    run_sending()
            finally:
                os._exit(0)
        return os.waitstatus_to_exitcode(os.waitpid(child, 0)[1]) == 0

    def test_at_any_moment_and_it_is_sent_once(self):
        moments, lived = 0, False
        while not lived:
            row = self.planned()
            lived = self.dies_after(moments)
            moments += 1
            for _ in range(3):
                if Posting.objects.get(pk=row.pk).state != State.SENT:
                    take_up_stale_jobs()
                    run_sending()
            told = f"killed before statement {moments}"
            self.assertEqual(Posting.objects.get(pk=row.pk).state, State.SENT, told)
            self.assertEqual(OutsidePost.objects.filter(key=row.pk).count(), 1, told)
            self.assertEqual(OutsidePost.objects.get(key=row.pk).film.read_bytes(), b"film", told)
        self.assertGreaterEqual(moments, MOMENTS)
