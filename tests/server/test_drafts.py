"""Drafts over HTTP: a text taken in, its sentences flipped, its clip made, sentences of it said otherwise and spoken by people."""

from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile

from hovvet.core.errors import CoreError
from hovvet.core.words.transcript import Transcript
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import sheet_of
from hovvet.server.drafts.models import Draft
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job
from hovvet.server.posts.models import PostText
from hovvet.server.recordings.models import Recording
from hovvet.server.scripts.models import Take
from hovvet.server.upkeep.tidying import tidy
from tests.core.test_draft import ARTICLE, PAGE, spoken_in
from tests.server.base import ServerCase, recording_row

SHORT = "# Mend it\n\nWe mend old radios on Thursday. It takes 30 min.\n\nBring a lamp, see https://bench.example/open."


class DraftCase(ServerCase):
    """A draft, and what is done with it."""

    def begin(self, text: str = SHORT, **more: object) -> dict:
        answer = self.post("/api/drafts", {"text": text, "narrator": "plain", "seconds": 20} | more)
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.json()

    def change(self, draft: dict, **values: object):
        body = {"version": draft["version"]} | values
        return self.client.patch(f"/api/drafts/{draft['id']}", body, content_type="application/json")

    def read(self, draft: dict) -> dict:
        return self.client.get(f"/api/drafts/{draft['id']}").json()

    def work(self) -> None:
        """Do what waits, until nothing does."""
        for _ in range(20):
            job = Job.objects.filter(state=Job.State.QUEUED, after=None).order_by("created").first()
            if job is None:
                return
            run_job.func(str(job.pk))
        raise AssertionError("it goes on and on")

    def made(self, **more: object) -> tuple[dict, Document]:
        """A draft whose clip is made."""
        draft = self.begin(**more)
        self.post(f"/api/drafts/{draft['id']}/clip")
        self.post(f"/api/drafts/{draft['id']}/clip")  # pressed twice it is made once
        with self.captureOnCommitCallbacks(execute=False):
            self.work()
        now = self.read(draft)
        self.assertIsNotNone(now["clip"], now["jobs"])
        return now, Document.objects.get(pk=now["clip"])


class Taken(DraftCase):
    def test_its_sentences_are_there_as_written_and_as_said(self):
        draft = self.begin()
        self.assertEqual((draft["title"], draft["card"], draft["outlet"]), ("Mend it", "bench.example", "tall"))
        said = {each["text"]: each["said"] for each in draft["sentences"]}
        self.assertEqual(said["It takes 30 min."], "It takes thirty minutes.")
        self.assertFalse(draft["sentences"][0]["kept"], "a heading is the title, and not said")
        self.assertFalse(draft["too_long"])

    def test_from_a_file_and_from_a_link_of_the_drive(self):
        answer = self.client.post("/api/drafts/file", {"file": SimpleUploadedFile("why.html", PAGE)})
        self.assertEqual(answer.json(), {"title": "Mend it before you buy a new one", "text": ARTICLE})
        linked = self.post("/api/drafts/link", {"link": "http://testserver/drive/files/why-we-mend.html"})
        self.assertEqual(linked.json(), answer.json())

    def test_bad_texts_are_told_in_plain_words(self):
        for text, told in (
            ("", "no words"),
            ("word " * 60_000, "The most Hovvet takes"),
            ("```\nx\n```", "can be said"),
        ):
            answer = self.post("/api/drafts", {"text": text})
            self.assertIn(answer.status_code, (400, 409, 422), text[:20])
            self.assertIn(told, answer.json()["detail"])
        answer = self.client.post("/api/drafts/file", {"file": SimpleUploadedFile("a.docx", b"PK\x03\x04 no")})
        self.assertIn("could not be read", answer.json()["detail"])
        for link, told in (("http://testserver/drive/files/none.txt", "no longer shared"), ("nonsense", "link")):
            self.assertIn(told, self.post("/api/drafts/link", {"link": link}).json()["detail"])
        self.assertEqual(Draft.objects.count(), 0)

    def test_sentences_are_flipped_moved_and_reworded(self):
        draft = self.begin()
        rows = draft["sentences"][::-1]
        rows[0] = rows[0] | {"kept": False}
        rows[1] = rows[1] | {"said": "It takes half an hour."}
        now = self.change(draft, sentences=rows).json()
        self.assertEqual([each["text"] for each in now["sentences"]], [each["text"] for each in rows])
        self.assertEqual((now["sentences"][0]["kept"], now["sentences"][1]["said"]), (False, "It takes half an hour."))
        self.assertEqual(self.change(draft, title="Older").status_code, 409, "somebody else has changed it")
        empty = self.change(now, sentences=[rows[0] | {"said": " ."}])
        self.assertEqual(empty.status_code, 400)

    def test_it_is_chosen_anew_for_another_length(self):
        draft = self.begin(ARTICLE, seconds=60)
        shorter = self.change(draft, seconds=15).json()
        self.assertTrue(shorter["too_long"])
        now = self.post(f"/api/drafts/{draft['id']}/choose?version={shorter['version']}").json()
        self.assertFalse(now["too_long"])
        self.assertLess(now["lasts"], draft["lasts"])

    def test_another_workspace_has_none_of_it(self):
        draft = self.begin()
        other, _ = self.member("ilse", "Elsewhere")
        self.client.force_login(other)
        self.assertEqual(self.client.get("/api/drafts").json(), [])
        for path in ("", "/clip", "/script"):
            self.assertEqual(self.post(f"/api/drafts/{draft['id']}{path}").status_code, 405 if not path else 404)
        self.assertEqual(self.client.get(f"/api/drafts/{draft['id']}").status_code, 404)
        self.assertEqual(self.client.delete(f"/api/drafts/{draft['id']}").status_code, 404)

    def test_what_is_not_there_cannot_be_chosen(self):
        self.assertEqual(self.post("/api/drafts", {"text": SHORT, "outlet": "nowhere"}).status_code, 409)
        self.assertIn(self.post("/api/drafts", {"text": SHORT, "house": "own-x"}).status_code, (404, 409))


class Made(DraftCase):
    def test_a_voice_reads_it_and_it_is_an_ordinary_clip(self):
        draft, clip = self.made(outlet="square")
        sheet = sheet_of(clip)
        pieces = [piece for piece in sheet.pieces if not piece.is_gap]
        self.assertEqual(len(pieces), 3, "a piece for each sentence")
        recording = Recording.objects.get(pk=pieces[0].recording)
        words = Transcript.model_validate(recording.transcript_json).words
        self.assertEqual(" ".join(each.text for each in words[:6]), "We mend old radios on Thursday.")
        self.assertAlmostEqual(
            recording.media.duration, Transcript.model_validate(recording.transcript_json).duration, delta=0.05
        )
        self.assertEqual(sheet.editions[0].outlet, "square")
        kinds = {layer.content.kind for layer in sheet.layers}
        self.assertIn("slide", kinds)
        self.assertTrue(PostText.objects.get(document=clip).kept_json["link"].startswith("https://bench.example"))
        self.assertEqual(self.client.get("/api/recordings").json(), [], "what a voice read is in no list")
        self.assertEqual(self.client.get(f"/api/documents/{clip.pk}").json()["told"], "")
        shown = next(each for each in self.client.get("/api/drafts").json() if each["id"] == draft["id"])
        self.assertEqual(shown["clip"], str(clip.pk))

    def test_nothing_kept_is_told_and_so_is_a_voice_that_died(self):
        draft = self.begin()
        none = self.change(draft, sentences=[each | {"kept": False} for each in draft["sentences"]]).json()
        self.assertEqual(self.post(f"/api/drafts/{draft['id']}/clip").status_code, 409)
        self.change(none, sentences=draft["sentences"])
        self.post(f"/api/drafts/{draft['id']}/clip")
        with mock.patch("hovvet.core.render.speaking.narrate", side_effect=CoreError("The voice is gone.")):
            self.work()
        now = self.read(draft)
        self.assertEqual([each["error"] for each in now["jobs"]], ["The voice is gone."])
        self.assertIsNone(now["clip"])
        self.post(f"/api/drafts/{draft['id']}/clip")
        self.work()
        self.assertIsNotNone(self.read(draft)["clip"], "it can be tried again")

    def test_a_sentence_is_said_otherwise_in_its_place_or_why_not_is_told(self):
        draft, clip = self.made()
        before = sheet_of(clip)
        told = self.client.get(f"/api/drafts/clips/{clip.pk}").json()
        self.assertEqual(
            [each["text"] for each in told["sentences"]], [each["text"] for each in draft["sentences"] if each["kept"]]
        )
        self.assertTrue(all(each["voiced"] for each in told["sentences"]))
        piece = told["sentences"][1]["piece"]
        self.post(f"/api/drafts/clips/{clip.pk}/otherwise", {"piece": piece, "text": "It takes 20 min in all."})
        again = self.post(f"/api/drafts/clips/{clip.pk}/otherwise", {"piece": piece, "text": "Or longer."})
        self.assertEqual(again.status_code, 409, "one after the other")
        self.work()
        clip.refresh_from_db()
        now = self.client.get(f"/api/drafts/clips/{clip.pk}").json()
        self.assertEqual(now["sentences"][1]["said"], "It takes twenty minutes in all.")
        after = sheet_of(clip)
        self.assertEqual([each.content for each in after.layers], [each.content for each in before.layers])
        self.assertEqual(self.read(draft)["sentences"][2]["text"], "It takes 20 min in all.", "the draft knows of it")
        changes = self.client.get(f"/api/documents/{clip.pk}/history").json()
        self.assertIn("Said otherwise: “It takes thirty minutes”", str(changes))
        undone = self.post(f"/api/documents/{clip.pk}/undo", {"version": clip.version})
        self.assertEqual(undone.status_code, 200)
        clip.refresh_from_db()
        self.assertEqual(sheet_of(clip).pieces, before.pieces)

        # What cannot be said so is told.
        path = f"/api/drafts/clips/{clip.pk}/otherwise"
        piece = sheet_of(clip).pieces[0].id
        for body, status in (
            ({"piece": "p77", "text": "So."}, 409),
            ({"piece": piece, "text": "…"}, 400),
            ({"piece": piece, "text": "word " * 120}, 400),
        ):
            self.assertEqual(self.post(path, body).status_code, status, body["text"][:9])
        Draft.objects.all().delete()
        self.assertEqual(self.client.get(f"/api/drafts/clips/{clip.pk}").status_code, 409)

    def test_what_people_record_takes_the_place_of_the_voice(self):
        draft, clip = self.made()
        script = self.post(f"/api/drafts/{draft['id']}/script").json()["script"]
        self.assertEqual(self.post(f"/api/drafts/clips/{clip.pk}/recorded").status_code, 409, "nothing is recorded yet")
        words, _ = spoken_in(["We mend old radios on Thursday.", "Bring a lamp, see bench dot example."])
        row = recording_row(self.workspace, words)
        row.working.write_bytes(b"x")
        Take.objects.create(script_id=script, recording=row, number=9)
        self.assertEqual(self.read(draft)["recorded"], 2)
        put = self.post(f"/api/drafts/clips/{clip.pk}/recorded").json()
        self.assertEqual(put["sentences"], 2)
        clip.refresh_from_db()
        recordings = [piece.recording for piece in sheet_of(clip).pieces if not piece.is_gap]
        self.assertEqual([each == str(row.pk) for each in recordings], [True, False, True])
        voiced = [each["voiced"] for each in self.client.get(f"/api/drafts/clips/{clip.pk}").json()["sentences"]]
        self.assertEqual(voiced, [False, True, False])

    def test_one_reads_it_oneself_and_the_clip_is_made_of_that(self):
        draft = self.begin(narrator=None)
        self.assertEqual(self.post(f"/api/drafts/{draft['id']}/clip").status_code, 409, "it is not read yet")
        script = self.post(f"/api/drafts/{draft['id']}/script").json()["script"]
        words, _ = spoken_in(["We mend old radios on Thursday.", "It takes thirty minutes."])
        row = recording_row(self.workspace, words)
        row.working.write_bytes(b"x")
        Take.objects.create(script_id=script, recording=row, number=1)
        self.post(f"/api/drafts/{draft['id']}/clip")
        self.work()
        clip = Document.objects.get(pk=self.read(draft)["clip"])
        self.assertEqual({piece.recording for piece in sheet_of(clip).pieces if not piece.is_gap}, {str(row.pk)})

    def test_another_picture_fits_what_is_said_and_is_not_shown_yet(self):
        _, clip = self.made(
            text="# Radios\n\nWe mend an old radio at the bench. The clock on the wall stopped years ago."
        )
        shown = []
        layer = next(
            each.id
            for each in sheet_of(clip).layers
            if each.content.kind in ("broll", "slide") and not each.span.is_whole
        )
        for _ in range(3):
            clip.refresh_from_db()
            answer = self.post(f"/api/drafts/clips/{clip.pk}/pictures/{layer}?version={clip.version}")
            self.assertEqual(answer.status_code, 200, answer.content[:300])
            clip.refresh_from_db()
            content = next(each.content for each in sheet_of(clip).layers if each.id == layer)
            self.assertEqual(content.kind, "broll")
            shown.append(content.media)
        self.assertEqual(len(set(shown)), 3)
        self.assertEqual(
            self.post(f"/api/drafts/clips/{clip.pk}/pictures/none?version={clip.version}").status_code, 409
        )

    def test_a_text_that_is_deleted_leaves_its_clip_and_what_is_read_for_nothing_goes(self):
        draft, clip = self.made()
        self.post(f"/api/drafts/{draft['id']}/clip")
        self.work()
        self.assertEqual(Recording.objects.filter(voiced=True).count(), 2)
        self.assertEqual(self.client.delete(f"/api/drafts/{draft['id']}").status_code, 204)
        self.assertEqual(self.client.get(f"/api/documents/{clip.pk}").status_code, 200)
        for each in Document.objects.filter(kind=Document.Kind.CLIP).exclude(pk=clip.pk):
            self.client.delete(f"/api/documents/{each.pk}")
        tidy(stray_after=0)
        self.assertEqual(
            [str(row.pk) for row in Recording.objects.filter(voiced=True)], [sheet_of(clip).pieces[0].recording]
        )
