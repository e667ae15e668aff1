"""Edits that last: nothing is saved that cannot be opened, undo is one's own, history reaches further and stays small."""

import json

from django.test import Client

from hovvet.core.sheet.edits import CutWords
from hovvet.core.words.corrections import NameSpeaker, Rewrite, Rewritten
from hovvet.server.accounts.models import Membership
from hovvet.server.documents import history
from hovvet.server.documents.changing import apply_edit, correct_now
from hovvet.server.documents.history import SNAPSHOT_EVERY, sheet_at
from hovvet.server.documents.making import desk_of, make_clip
from hovvet.server.documents.models import Document, Revision
from hovvet.server.documents.opening import sheet_of
from tests.media import even_words
from tests.server.base import ServerCase, texts_of


class HistoryCase(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.recording()
        self.desk = desk_of(self.row)
        self.path = f"/api/documents/{self.desk.pk}"

    def read(self, client=None) -> dict:
        return (client or self.client).get(self.path).json()

    def cut(self, *words: int, client=None) -> dict:
        edit = {"type": "cut_words", "piece": "p1", "words": words}
        version = self.read(client)["version"]
        return self.post(f"{self.path}/edits", {"version": version, "edit": edit}, client).json()

    def undo(self, since: int | None = None, client=None):
        body = {"version": self.read(client)["version"], "since": since}
        return self.post(f"{self.path}/undo", body, client)

    def colleague(self) -> Client:
        user, _ = self.member("tolliver", "Elsewhere")
        Membership.objects.filter(user=user).update(workspace=self.workspace)
        client = Client()
        client.force_login(user)
        return client


class Compiling(HistoryCase):
    def test_an_edit_that_cannot_be_compiled_is_not_saved(self):
        clip = make_clip(self.row, 3, 14)
        path = f"/api/documents/{clip.pk}"
        for edit in (
            {"type": "put_edition", "edition": {"id": "e1", "outlet": "nope"}},
            {"type": "set_captions", "captions": "nope"},
            {
                "type": "batch",
                "edits": [
                    {"type": "cut_words", "piece": "p1", "words": [4]},
                    {"type": "set_captions", "captions": "x"},
                ],
            },
        ):
            refused = self.post(f"{path}/edits", {"version": 1, "edit": edit})
            self.assertEqual(refused.status_code, 422, edit)
        now = self.client.get(path).json()
        self.assertEqual((now["version"], now["editions"][0]["outlet"], len(now["plan"]["words"])), (1, "tall", 12))
        self.assertEqual(Revision.objects.filter(document=clip).count(), 1)

    def test_a_document_that_names_what_is_unknown_opens_and_says_so(self):
        clip = make_clip(self.row, 3, 14)
        sheet = clip.head.sheet | {"editions": [{"id": "e1", "outlet": "nope"}], "captions": "gone"}
        Revision.objects.filter(pk=clip.head_id).update(sheet=sheet)
        history._sheets.clear()
        now = self.client.get(f"/api/documents/{clip.pk}").json()
        self.assertEqual((now["editions"][0]["outlet"], now["sheet"]["captions"]), ("tall", "bold"))
        self.assertIn("The outlet of an edition was deleted", now["told"])
        self.assertIn("“gone” is not known", now["told"])
        edit = {"type": "cut_words", "piece": "p1", "words": [4]}
        after = self.post(f"/api/documents/{clip.pk}/edits", {"version": 1, "edit": edit})
        self.assertEqual((after.status_code, after.json()["told"]), (200, ""), "from then on all is well")

    def test_times_that_are_no_numbers_are_refused(self):
        body = '{"version": 1, "edit": {"type": "cut_pause", "piece": "p1", "start": 1, "end": 1e999}}'
        answer = self.client.post(f"{self.path}/edits", body, content_type="application/json")
        self.assertEqual(answer.status_code, 422)


class Undoing(HistoryCase):
    def test_undo_stops_where_this_person_opened_it(self):
        self.cut(2)
        correct_now(self.row, NameSpeaker(speaker="S1", name="Maren"), self.user.pk)
        since = self.read()["newest"]
        self.cut(4)
        self.cut(5)
        self.assertEqual(self.undo(since).json()["struck"], [2, 4])
        self.assertEqual(self.undo(since).json()["struck"], [2])
        stop = self.undo(since)
        self.assertEqual((stop.status_code, "when you opened it" in stop.json()["detail"]), (409, True))
        now = self.read()
        self.assertEqual(now["struck"], [2])
        self.assertLessEqual(now["undoes"], since, "the page shows that there is nothing to undo")
        speakers = self.client.get(f"/api/recordings/{self.row.pk}/transcript").json()["speakers"]
        self.assertEqual(speakers[0]["name"], "Maren")

    def test_undo_leaves_what_somebody_else_did(self):
        self.cut(2)
        colleague = self.colleague()
        self.cut(7, client=colleague)
        stop = self.undo()
        self.assertEqual((stop.status_code, "by tolliver" in stop.json()["detail"]), (409, True))
        self.assertEqual(self.undo(client=colleague).json()["struck"], [2])
        self.assertEqual(self.undo().json()["struck"], [])

    def test_a_correction_made_on_a_clip_is_undone_there(self):
        clip = make_clip(self.row, 3, 14)
        path = f"/api/documents/{clip.pk}"
        since = self.client.get(path).json()["newest"]
        correction = {"type": "rewrite", "changes": [{"words": [4], "text": "four"}], "fresh": 0}
        now = self.post(
            f"{path}/corrections", {"version": 1, "correction": correction, "recording": str(self.row.pk)}
        ).json()
        self.assertIn("four", texts_of(now))
        self.assertGreater(now["undoes"], since)
        back = self.post(f"{path}/undo", {"version": now["version"], "since": since}).json()
        self.assertIn("w4", texts_of(back))


class History(HistoryCase):
    def told(self) -> list[dict]:
        return self.client.get(f"{self.path}/history").json()

    def test_what_who_and_when_and_back_to_any(self):
        self.cut(2, 3)
        self.cut(7, client=self.colleague())
        change = Rewritten(words=(9,), text="mended")
        correct_now(self.row, Rewrite(changes=(change,)), self.user.pk)
        told = self.told()
        self.assertEqual(
            [(each["what"], each["who"], each["current"]) for each in told],
            [
                ("Corrected to “mended”", "maren", True),
                ("Cut “w7”", "tolliver", False),
                ("Cut “w2 w3”", "maren", False),
                ("Began", "", False),
            ],
        )
        version = self.read()["version"]
        back = self.post(f"{self.path}/history/{told[2]['id']}", {"version": version}).json()
        self.assertEqual(back["struck"], [2, 3])
        words = self.client.get(f"/api/recordings/{self.row.pk}/transcript").json()["words"]
        self.assertEqual(words[8]["text"], "w9", "the words went back as well")
        self.assertEqual(self.told()[0]["what"], "Went back to “Cut “w2 w3””")
        again = self.undo().json()
        self.assertEqual(again["struck"], [2, 3, 7], "going back is a change like any other")
        words = self.client.get(f"/api/recordings/{self.row.pk}/transcript").json()["words"]
        self.assertEqual(words[8]["text"], "mended")

    def test_a_change_of_another_document_is_not_in_it(self):
        other = desk_of(self.recording())
        answer = self.post(f"{self.path}/history/{other.head_id}", {"version": 1})
        self.assertEqual(answer.status_code, 404)

    def test_the_sheet_of_every_revision_can_be_made_again(self):
        seen = {self.desk.head_id: []}
        for word in range(1, 20):
            now = self.cut(word)
            seen[Document.objects.get(pk=self.desk.pk).head_id] = now["struck"]
        self.undo()
        seen[Document.objects.get(pk=self.desk.pk).head_id] = self.read()["struck"]
        history._sheets.clear()
        for revision in Revision.objects.filter(document=self.desk):
            struck = sorted(word for cut in sheet_at(revision).pieces[0].word_cuts for word in cut.words)
            self.assertEqual(struck, seen[revision.pk])

    def test_five_hundred_edits_of_a_long_desk_stay_small_and_quick(self):
        desk = desk_of(self.recording(even_words(20_000)))
        version = 1
        for n in range(500):
            edit = CutWords(piece="p1", words=tuple(range(1 + 40 * n, 11 + 40 * n)))
            with self.captureOnCommitCallbacks(execute=True):  # what is kept in memory is kept after a commit
                version = apply_edit(desk, version, edit, self.user.pk).document.version
        rows = Revision.objects.filter(document=desk)
        size = sum(len(json.dumps(each.sheet)) + len(json.dumps(each.edit)) for each in rows)
        self.assertLess(size, 3_000_000)
        self.assertEqual(rows.filter(sheet__isnull=False).count(), 1 + 500 // SNAPSHOT_EVERY)
        desk.refresh_from_db()
        self.assertEqual(len(sheet_of(desk).pieces[0].word_cuts), 500)
