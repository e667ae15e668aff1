"""Lists are asked for by every page, often: they compile nothing, and take few queries however much there is."""

import time
from unittest import mock

from django.db import connection
from django.test.utils import CaptureQueriesContext

from hovvet.core.sheet.edits import CutWords
from hovvet.core.words.corrections import Rewrite, Rewritten
from hovvet.server.delivery.comparing import COMPARE
from hovvet.server.delivery.models import Export
from hovvet.server.documents.changing import apply_edit, correct_now, undo
from hovvet.server.documents.listing import listing_of
from hovvet.server.documents.making import create_document, make_clip
from hovvet.server.documents.models import CustomOutlet, Document
from hovvet.server.documents.opening import sheet_of
from hovvet.server.documents.stamps import stamps_of
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job, start_job
from tests.server.base import ServerCase

MANY, MOST_QUERIES = 300, 10


class Lists(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.recording()
        self.clip = make_clip(self.row, 3, 14)

    def many(self) -> list[Document]:
        sheet = sheet_of(self.clip)
        return [create_document(self.workspace, Document.Kind.CLIP, f"Clip {n}", sheet, None) for n in range(MANY - 1)]

    def asked(self, path: str) -> tuple[list[dict], int]:
        """The answer, and the queries it took; nothing may be compiled for it."""
        staged = (mock.patch(f"hovvet.server.{module}.staged") for module in ("documents.opening", "delivery.made"))
        with CaptureQueriesContext(connection) as queries, next(staged) as opened, next(staged) as compared:
            answer = self.client.get(path)
        self.assertEqual((opened.call_count, compared.call_count), (0, 0))
        return answer.json(), len(queries)

    def export(self, clip: Document) -> Export:
        made = self.post(f"/api/documents/{clip.pk}/exports", {"editions": ["e1"], "output": {}}).json()[0]
        row = Export.objects.get(pk=made["id"])
        row.folder.mkdir(parents=True)
        row.main.write_bytes(b"x")
        Job.objects.filter(target=row.pk).update(state="done")
        return row

    def test_three_hundred_clips_take_few_queries_and_little_time(self):
        clips = self.many()
        for clip in clips[:30]:
            self.export(clip)
        listed, queries = self.asked("/api/clips")
        self.assertEqual((len(listed), {each["export"] for each in listed}), (MANY, {"none", "ready"}))
        self.assertLessEqual(queries, MOST_QUERIES)
        began = time.process_time()
        self.client.get("/api/clips")
        self.assertLess(time.process_time() - began, 1.0)

    def test_many_recordings_take_few_queries(self):
        for n in range(60):
            row = self.recording()
            start_job(self.workspace, "prepare", row.pk)
            if n % 2:
                make_clip(row, 3, 9)
        listed, queries = self.asked("/api/recordings")
        self.assertEqual((len(listed), listed[0]["jobs"][0]["waits_for"]), (61, 0))
        self.assertLessEqual(queries, MOST_QUERIES)

    def test_what_is_the_same_is_not_sent_again(self):
        for path in ("/api/clips", "/api/recordings", f"/api/documents/{self.clip.pk}"):
            tag = self.client.get(path)["ETag"]
            self.assertEqual(self.client.get(path, headers={"If-None-Match": tag}).status_code, 304)
        apply_edit(self.clip, 1, CutWords(piece="p1", words=(5,)), None)
        self.assertEqual(self.client.get(path, headers={"If-None-Match": tag}).status_code, 200)

    def state(self) -> str:
        (clip,) = self.client.get("/api/clips").json()
        return clip["export"]

    def test_a_cancelled_export_is_cancelled_and_a_failed_one_failed(self):
        row = Export.objects.create(
            workspace=self.workspace, document=self.clip, edition="e1", digest="x", version=1, plan={}
        )
        for state in ("cancelled", "failed", "queued"):
            Job.objects.create(workspace=self.workspace, kind="export", target=row.pk, state=state)
            self.assertEqual(self.state(), "waiting" if state == "queued" else state)

    def test_an_export_is_compared_aside_when_its_clip_may_have_changed(self):
        self.export(self.clip)
        self.assertEqual((self.state(), Job.objects.filter(kind=COMPARE).count()), ("ready", 0))
        apply_edit(self.clip, 1, CutWords(piece="p1", words=(5,)), None)
        self.assertEqual(self.state(), "changed")
        self.compare()
        self.assertEqual((self.state(), Job.objects.filter(kind=COMPARE, state="queued").count()), ("changed", 0))
        undo(self.clip, 2, None, None)
        self.assertEqual(self.state(), "changed", "until it is sure that it is as it was")
        self.compare()
        self.assertEqual(self.state(), "ready")

    def compare(self) -> None:
        run_job.func(str(Job.objects.get(kind=COMPARE, state="queued").pk))

    def test_a_stamp_changes_with_all_that_a_clip_is_compiled_with(self):
        seen = [stamps_of([self.clip])[self.clip.pk]]

        def changed() -> bool:
            seen.append(stamps_of([Document.objects.get(pk=self.clip.pk)])[self.clip.pk])
            return seen[-1] != seen[-2]

        self.assertFalse(changed())
        correct_now(self.row, Rewrite(changes=(Rewritten(words=(6,), text="other"),)), None)
        self.assertTrue(changed())
        CustomOutlet.objects.create(workspace=self.workspace, outlet_json={})
        self.assertTrue(changed())
        self.row.media_json |= {"lufs": -20}
        self.row.save()
        self.assertTrue(changed())
        self.row.delete()
        self.assertTrue(changed())

    def test_what_is_listed_is_kept_with_every_change_and_made_up_for_where_it_is_missing(self):
        apply_edit(self.clip, 1, CutWords(piece="p1", words=(5,)), None)
        kept = Document.objects.get(pk=self.clip.pk).listed_json
        self.assertEqual(kept["stretches"][0]["recording"], str(self.row.pk))
        Document.objects.update(listed_json=None)
        self.assertEqual(listing_of(Document.objects.get(pk=self.clip.pk)).model_dump(), kept)
        self.assertEqual(Document.objects.get(pk=self.clip.pk).listed_json, kept)

    def test_a_page_asks_for_a_stamp_and_compiles_nothing(self):
        path = f"/api/documents/{self.clip.pk}"
        stamp = self.client.get(path).json()["stamp"]
        answer, queries = self.asked(f"{path}/stamp")
        self.assertEqual((answer, queries <= MOST_QUERIES), ({"stamp": stamp}, True))
        apply_edit(self.clip, 1, CutWords(piece="p1", words=(5,)), None)
        self.assertNotEqual(self.client.get(f"{path}/stamp").json()["stamp"], stamp)


class Refused(ServerCase):
    """What would be refused in the end is refused before it waits."""

    def setUp(self) -> None:
        super().setUp()
        self.row = self.recording()
        self.path = f"/api/documents/{make_clip(self.row, 3, 14).pk}/exports"

    def asked(self) -> tuple[int, str]:
        answer = self.post(self.path, {"editions": ["e1"], "output": {}})
        return answer.status_code, "" if answer.status_code == 200 else answer.json()["detail"]

    def test_an_export_whose_recording_is_gone_from_the_disk_is_not_queued(self):
        self.row.original.unlink()
        status, told = self.asked()
        self.assertEqual((status, Job.objects.count(), Export.objects.count()), (422, 0, 0))
        self.assertIn("is gone", told)

    def test_an_export_for_which_there_is_no_room_is_not_queued(self):
        with self.settings(FREE_BYTES=10**18):
            status, told = self.asked()
        self.assertEqual((status, Job.objects.count()), (507, 0))
        self.assertIn("not enough free space", told)
        self.assertEqual(self.asked()[0], 200)
