"""The board: how far every edition is, in few queries; who sees to what by when."""

import time
from datetime import timedelta
from unittest import mock

from django.contrib.auth.models import User
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from hovvet.core.sheet.edits import CutWords, PutEdition
from hovvet.core.sheet.model import Edition
from hovvet.server.accounts.models import Membership
from hovvet.server.delivery.comparing import COMPARE
from hovvet.server.delivery.models import Export
from hovvet.server.documents.changing import apply_edit
from hovvet.server.documents.making import create_document
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import sheet_of
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job, start_job
from hovvet.server.outbox.models import Posting
from hovvet.server.recordings.models import Show
from tests.server.test_review import ReviewCase

MANY, MOST_QUERIES = 500, 20


class Board(ReviewCase):
    def board(self) -> dict:
        answer = self.client.get("/api/deliveries")
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.json()

    def clip_there(self) -> dict:
        return next(each for each in self.board()["clips"] if each["id"] == str(self.clip.pk))

    def state(self) -> str:
        return self.clip_there()["cells"][0]["state"]

    def compared(self) -> None:
        run_job.func(str(start_job(self.workspace, COMPARE, Job.objects.filter(kind=COMPARE).first().target).pk))

    def test_an_edition_goes_along_the_whole_line(self):
        self.assertEqual(self.state(), "exported")
        link = self.share()
        self.assertEqual(self.state(), "review")
        for says, state in (("changes wanted", "changes"), ("approved", "approved")):
            self.post(f"{self.at(link)}/verdict", {"name": "Ilse", "says": says, "version": 1}, self.stranger)
            self.assertEqual(self.state(), state)
        apply_edit(self.clip, self.clip.version, CutWords(piece="p1", words=(4, 5)), None)
        self.assertEqual(self.state(), "changed")
        self.compared()
        self.assertEqual(self.state(), "changed")
        newest = self.export()
        self.compared()
        self.assertEqual(self.state(), "exported")
        now = timezone.now()
        row = Posting.objects.create(
            workspace=self.workspace, document=self.clip, export=newest, edition="e1", end="stand-in", account="x",
            account_name="Bench, tall", at=now, due=now,
        )  # fmt: skip
        for now_is, state in (("planned", "planned"), ("waiting", "planned"), ("missed", "asks"), ("sent", "sent")):
            Posting.objects.update(state=now_is)
            self.assertEqual(self.state(), state)
        newer = self.export(output={"kind": "webm"})
        self.compared()
        self.assertEqual(self.state(), "exported")  # the newer one has not gone out
        Posting.objects.update(state="planned")
        self.assertEqual(self.state(), "planned")  # though it is the one before
        Posting.objects.update(state="missed", export=None)
        self.assertEqual(self.state(), "asks")
        Posting.objects.update(state="sent", export=newer)
        (sending,) = self.clip_there()["cells"][0]["sendings"]
        self.assertEqual((sending["id"], sending["account"]), (str(row.pk), "Bench, tall"))

    def test_what_is_made_fails_or_is_not_begun(self):
        self.film.main.unlink()
        for job, state in (("running", "making"), ("failed", "failed"), ("cancelled", "none")):
            Job.objects.filter(target=self.film.pk).update(state=job)
            self.assertEqual(self.state(), state)
        self.film.delete()
        self.assertEqual(self.state(), "none")

    def test_editions_stand_under_their_outlets_with_show_person_and_day(self):
        self.row.show = Show.objects.create(workspace=self.workspace, name="Bench Notes")
        self.row.save()
        apply_edit(self.clip, self.clip.version, PutEdition(edition=Edition(id="e2", outlet="wide")), self.user.pk)
        board = self.board()
        self.assertEqual([each["key"] for each in board["columns"]], ["tall", "wide"])
        (clip,) = board["clips"]
        self.assertEqual([each["outlet"] for each in clip["cells"]], ["tall", "wide"])
        self.assertEqual((clip["shows"], clip["person"], clip["due"]), (["Bench Notes"], "", None))

    def test_what_an_earlier_release_kept_is_worked_out_anew(self):
        Document.objects.update(listed_json=None)
        self.assertEqual([each["edition"] for each in self.clip_there()["cells"]], ["e1"])

    def test_who_sees_to_it_by_when(self):
        Membership.objects.create(user=User.objects.create_user("oddvik"), workspace=self.workspace)
        day = str(timezone.localdate() + timedelta(days=3))
        wanted = {"clips": [str(self.clip.pk)]}

        def agree(status: int = 204, **more) -> None:
            answer = self.client.put("/api/deliveries/duties", wanted | more, content_type="application/json")
            self.assertEqual(answer.status_code, status, answer.content)

        agree(person="oddvik", due=day)
        self.assertEqual((self.clip_there()["person"], self.clip_there()["due"]), ("oddvik", day))
        agree(due=day)
        self.assertEqual(self.clip_there()["person"], "oddvik")
        agree(no_day=True, person="")
        self.assertEqual((self.clip_there()["person"], self.clip_there()["due"]), ("", None))
        agree(422, person="tolliver")  # of another workspace
        self.client.force_login(self.other)
        agree(due=day)
        self.client.force_login(self.user)
        self.assertIsNone(self.clip_there()["due"])

    def test_five_hundred_clips_take_few_queries_and_nothing_is_compiled(self):
        sheet = sheet_of(self.clip)
        for n in range(MANY - 1):
            create_document(self.workspace, Document.Kind.CLIP, f"Clip {n}", sheet, None)
        made = [
            Export(
                workspace=self.workspace, document=clip, edition="e1", outlet="tall", name="Tall feed", version=1,
                plan=self.film.plan, output_json=self.film.output_json, digest=str(clip.pk),
            )
            for clip in Document.objects.filter(kind="clip").exclude(pk=self.clip.pk)[:300]
        ]  # fmt: skip
        Export.objects.bulk_create(made)
        now = timezone.now()
        Posting.objects.bulk_create(
            Posting(
                workspace=self.workspace, document_id=each.document_id, export=each, edition="e1", end="stand-in",
                account="x", account_name="Bench, tall", at=now, due=now,
            )
            for each in made[:100]
        )  # fmt: skip
        self.board()
        staged = (mock.patch(f"hovvet.server.{module}.staged") for module in ("documents.opening", "delivery.made"))
        with CaptureQueriesContext(connection) as queries, next(staged) as opened, next(staged) as compared:
            began = time.process_time()
            board = self.board()
            took = time.process_time() - began
        self.assertEqual((len(board["clips"]), opened.call_count, compared.call_count), (MANY, 0, 0))
        self.assertLessEqual(len(queries), MOST_QUERIES)
        print(f"board of {MANY} clips: {took * 1000:.0f} ms, {len(queries)} queries")
