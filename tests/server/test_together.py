"""Several people, or one in a hurry: what is done at once is done once, and nothing is lost."""

import threading
import time
import uuid
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from unittest import mock

from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client, TransactionTestCase

from hovvet.core.picture.strip import Strip
from hovvet.core.sheet.edits import CutWords
from hovvet.server.accounts.models import Membership, Workspace
from hovvet.server.assets import bringing
from hovvet.server.assets.models import Asset
from hovvet.server.delivery.models import Export
from hovvet.server.documents import changing
from hovvet.server.documents.changing import Stale, apply_edit
from hovvet.server.documents.making import desk_of, make_clip
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import sheet_of
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import start_job
from hovvet.server.recordings.models import Recording, Show, Upload
from tests.media import DEMO, even_words
from tests.server.base import fast_passwords, own_media, recording_row

TUS = {"Tus-Resumable": "1.0.0"}


@fast_passwords
class AtOnce(TransactionTestCase):
    """Real transactions and real threads, as the web server has them."""

    def setUp(self) -> None:
        own_media(self)
        self.user = User.objects.create_user("maren", password="mend-it-well")
        self.workspace = Workspace.objects.create(name="Bench")
        Membership.objects.create(user=self.user, workspace=self.workspace)
        self.row = recording_row(self.workspace, even_words(20))

    def at_once(self, count: int, ask: Callable[[Client, int], object]) -> list:
        """Answers to ``count`` requests that begin together."""
        ready = threading.Barrier(count)

        def one(n: int) -> object:
            client = Client()
            client.force_login(self.user)
            ready.wait()
            try:
                return ask(client, n)
            finally:
                connection.close()

        with ThreadPoolExecutor(count) as pool:
            return list(pool.map(one, range(count)))

    def test_six_first_openings_of_a_desk(self):
        answers = self.at_once(6, lambda client, _: client.get(f"/api/documents/desk/{self.row.pk}"))
        self.assertEqual([answer.status_code for answer in answers], [200] * 6)
        self.assertEqual(Document.objects.count(), 1)

    def test_eight_terms_added_at_once_are_all_kept(self):
        show = Show.objects.create(workspace=self.workspace, name="Bench Notes")
        Recording.objects.filter(pk=self.row.pk).update(show=show)
        path = f"/api/recordings/{self.row.pk}/terms"
        answers = self.at_once(
            8, lambda client, n: client.post(path, {"text": f"Term {n}"}, content_type="application/json")
        )
        self.assertEqual([answer.status_code for answer in answers], [200] * 8)
        show.refresh_from_db()
        self.assertEqual(sorted(term.text for term in show.terms), [f"Term {n}" for n in range(8)])

    def test_eight_askers_start_one_job(self):
        for _ in range(5):
            target = uuid.uuid4()
            jobs = self.at_once(8, lambda *_, target=target: start_job(self.workspace, "prepare", target).pk)
            self.assertEqual((len(set(jobs)), Job.objects.filter(target=target).count()), (1, 1))

    def test_eight_who_bring_in_the_same_file_have_one_asset(self):
        mark = (DEMO / "stickers" / "quillhaven-mark.svg").read_bytes()

        def ask(client: Client, _: int):
            return client.post("/api/assets?kind=sticker", {"file": SimpleUploadedFile("mark.svg", mark)}).json()["id"]

        with mock.patch.object(bringing.own_sticker, "bring_in_sticker", return_value=Strip(8, 8, 1, 0.0)):
            made = self.at_once(4, ask)
        self.assertEqual(
            (len(set(made)), Asset.objects.count(), len([*Asset.objects.get().folder.parent.iterdir()])), (1, 1, 1)
        )

    def test_others_write_while_a_large_edit_is_compiled_and_it_is_then_stale(self):
        desk = desk_of(self.row)
        begun, go = threading.Event(), threading.Event()
        compiled = changing.compiled

        def slowly(*args, **kwargs):
            if threading.current_thread().name == "slow":
                begun.set()
                go.wait(60)
            return compiled(*args, **kwargs)

        ended: list[object] = []

        def edit() -> None:
            try:
                ended.append(apply_edit(desk, 1, CutWords(piece="p1", words=(4,)), None))
            except Stale:
                ended.append("stale")
            finally:
                connection.close()

        with mock.patch.object(changing, "compiled", slowly):
            slow = threading.Thread(target=edit, name="slow")
            slow.start()
            self.assertTrue(begun.wait(60))
            began = time.monotonic()
            apply_edit(desk, 1, CutWords(piece="p1", words=(9,)), None)
            self.assertLess(time.monotonic() - began, 10, "the database is not locked meanwhile")
            go.set()
            slow.join(60)
        self.assertEqual(ended, ["stale"])
        self.assertEqual([cut.words for cut in sheet_of(Document.objects.get(pk=desk.pk)).pieces[0].word_cuts], [(9,)])

    def test_settings_changed_at_once_are_all_kept(self):
        path = f"/api/recordings/{self.row.pk}/sweep-settings"
        self.at_once(
            6,
            lambda client, n: client.patch(path, {"fillers": {"add": [f"filler{n}"]}}, content_type="application/json"),
        )
        self.row.refresh_from_db()
        self.assertLessEqual({f"filler{n}" for n in range(6)}, set(self.row.sweep.fillers))

    def test_of_two_new_titles_the_second_is_told(self):
        path = f"/api/recordings/{self.row.pk}"
        answers = self.at_once(
            2,
            lambda client, n: client.patch(path, {"version": 1, "title": f"T{n}"}, content_type="application/json"),
        )
        self.assertEqual(sorted(answer.status_code for answer in answers), [200, 409])
        won = next(answer.json() for answer in answers if answer.status_code == 200)
        self.row.refresh_from_db()
        self.assertEqual((self.row.title, self.row.version), (won["title"], 2))

    def test_export_pressed_twice_makes_one(self):
        clip = make_clip(self.row, 3, 14)
        path = f"/api/documents/{clip.pk}/exports"
        answers = self.at_once(
            4, lambda client, _: client.post(path, {"editions": ["e1"]}, content_type="application/json")
        )
        self.assertEqual({answer.status_code for answer in answers}, {200})
        self.assertEqual(len({answer.json()[0]["id"] for answer in answers}), 1)
        self.assertEqual((Export.objects.count(), Job.objects.filter(kind="export").count()), (1, 1))

    def test_edits_at_once_one_is_made_and_the_others_are_told(self):
        desk = desk_of(self.row)

        def cut(client: Client, n: int):
            edit = {"type": "cut_words", "piece": "p1", "words": [n + 1]}
            return client.post(
                f"/api/documents/{desk.pk}/edits", {"version": 1, "edit": edit}, content_type="application/json"
            )

        answers = self.at_once(5, cut)
        self.assertEqual(sorted(answer.status_code for answer in answers), [200, 409, 409, 409, 409])
        self.assertTrue(
            all(answer.json()["document"]["version"] == 2 for answer in answers if answer.status_code == 409)
        )

    def test_two_parts_of_one_upload_at_once(self):
        import fcntl

        client = Client()
        client.force_login(self.user)
        headers = {**TUS, "Upload-Length": "10", "Upload-Metadata": "filename eC5tcDM="}
        where = client.post("/api/uploads", headers=headers)["Location"]
        upload = Upload.objects.get(pk=uuid.UUID(where.rsplit("/", 1)[-1]))

        def send():
            return client.patch(
                where, b"12345", content_type="application/offset+octet-stream", headers={**TUS, "Upload-Offset": "0"}
            )

        with upload.path.open("r+b") as held:  # as the request that is at it holds it
            fcntl.flock(held, fcntl.LOCK_EX)
            self.assertEqual(send().status_code, 423)
        self.assertEqual((send().status_code, upload.offset), (204, 5))
