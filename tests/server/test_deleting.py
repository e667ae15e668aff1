"""Deleting: what goes takes its files and its jobs along, whatever has been made of it and whatever runs on it."""

from django.contrib.auth.models import User

from hovvet.core.words.corrections import Rewrite, Rewritten
from hovvet.server.delivery.models import Export
from hovvet.server.documents.changing import correct_now
from hovvet.server.documents.making import desk_of, make_clip
from hovvet.server.documents.models import Document
from hovvet.server.jobs import running
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job, start_job
from tests.server.base import ServerCase


class Deleting(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.recording()
        self.desk = desk_of(self.row)

    def delete(self, path: str, client=None) -> int:
        with self.captureOnCommitCallbacks(execute=True):
            return (client or self.client).delete(path).status_code

    def exported(self, clip: Document) -> Export:
        export = Export.objects.create(
            workspace=self.workspace, document=clip, outlet="tall", version=1, plan={}, digest="x"
        )
        export.folder.mkdir(parents=True)
        export.file("mp4").write_bytes(b"film")
        return export

    def edited(self, document: Document) -> None:
        edit = {"type": "cut_words", "piece": "p1", "words": [4]}
        self.post(f"/api/documents/{document.pk}/edits", {"version": 1, "edit": edit})

    def test_a_recording_that_was_opened_edited_corrected_clipped_and_exported(self):
        clip = make_clip(self.row, 3, 14)
        self.edited(self.desk)
        self.edited(clip)
        change = Rewritten(words=(7,), text="mended")
        correct_now(self.row, Rewrite(changes=(change,)), self.user.pk)
        export = self.exported(clip)
        job = start_job(self.workspace, "prepare", self.row.pk)
        exporting = start_job(self.workspace, "export", export.pk)
        self.assertEqual(self.delete(f"/api/recordings/{self.row.pk}"), 204)
        self.assertFalse(self.row.folder.exists(), "files go along")
        self.assertEqual([*Document.objects.all()], [clip], "the desk goes along, the clip stays")
        self.assertTrue(export.folder.exists(), "what was made of it stays")
        for each, state in ((job, "cancelled"), (exporting, "queued")):
            each.refresh_from_db()
            self.assertEqual(each.state, state)
        now = self.client.get(f"/api/documents/{clip.pk}").json()
        self.assertEqual(([row["missing"] for row in now["rows"]], now["seconds"]), ([True], 0))
        self.assertIn("was deleted", now["told"])
        self.assertEqual(self.post(f"/api/documents/{clip.pk}/exports", {"editions": ["e1"]}).status_code, 422)
        run_job.func(str(exporting.pk))
        exporting.refresh_from_db()
        self.assertEqual(exporting.state, "failed")

    def test_a_clip_takes_its_exports_along_and_leaves_the_recording(self):
        clip = make_clip(self.row, 3, 14)
        self.edited(clip)
        export = self.exported(clip)
        self.assertEqual(self.delete(f"/api/documents/{clip.pk}"), 204)
        self.assertFalse(export.folder.exists())
        self.assertTrue(self.row.original.exists())
        self.assertTrue(Document.objects.filter(pk=self.desk.pk).exists())

    def test_an_export_leaves_its_clip(self):
        clip = make_clip(self.row, 3, 14)
        export = self.exported(clip)
        job = start_job(self.workspace, "export", export.pk)
        self.assertEqual(self.delete(f"/api/exports/{export.pk}"), 204)
        job.refresh_from_db()
        self.assertEqual((job.state, export.folder.exists()), ("cancelled", False))
        self.assertTrue(Document.objects.filter(pk=clip.pk).exists())

    def test_a_show_leaves_its_recordings(self):
        show = self.post("/api/shows", {"name": "Bench Notes"}).json()
        change = {"version": 1, "show": show["id"]}
        self.client.patch(f"/api/recordings/{self.row.pk}", change, content_type="application/json")
        self.assertEqual(self.delete(f"/api/shows/{show['id']}"), 204)
        self.assertIsNone(self.client.get(f"/api/recordings/{self.row.pk}").json()["show"])

    def test_while_a_job_runs_on_it_the_job_ends_quietly(self):
        def work(report: running.Report) -> None:
            self.assertEqual(self.delete(f"/api/recordings/{self.row.pk}"), 204)
            (self.row.folder / "working.mp4").write_bytes(b"x")  # as a stage would, into a folder that is gone

        before = running._handlers.get("prepare")
        running._handlers["prepare"] = work
        self.addCleanup(running._handlers.__setitem__, "prepare", before)
        job = start_job(self.workspace, "prepare", self.row.pk)
        with self.assertNoLogs("hovvet.jobs", "ERROR"):
            run_job.func(str(job.pk))
        job.refresh_from_db()
        self.assertEqual((job.state, self.row.folder.exists()), ("cancelled", False))

    def test_another_page_that_still_shows_it_is_told(self):
        clip = make_clip(self.row, 3, 14)
        self.assertEqual(self.delete(f"/api/documents/{clip.pk}"), 204)
        self.assertEqual(self.delete(f"/api/recordings/{self.row.pk}"), 204)
        for path, body in (
            (f"/api/documents/{clip.pk}/edits", {"version": 1, "edit": {"type": "set_captions", "captions": None}}),
            (f"/api/documents/{clip.pk}/undo", {"version": 1}),
            (f"/api/documents/{clip.pk}/exports", {"editions": ["e1"]}),
            (f"/api/documents/{self.desk.pk}/sweep", {"version": 1}),
        ):
            answer = self.post(path, body)
            self.assertEqual((answer.status_code, "has been deleted" in answer.json()["detail"]), (404, True), path)

    def test_a_workspace_takes_all_it_has_along(self):
        self.exported(make_clip(self.row, 3, 14))
        with self.captureOnCommitCallbacks(execute=True):
            self.workspace.delete()
        self.assertFalse(self.row.folder.exists())
        self.assertEqual(list((self.media_root / "exports").iterdir()), [])
        self.assertTrue(User.objects.filter(pk=self.user.pk).exists())
        self.assertEqual(Job.objects.count(), 0)
