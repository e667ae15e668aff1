"""Scripts over HTTP: written, timed, followed; takes that come in, laid beside them, put together."""

import base64
from unittest import mock

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from hovvet.core.media.decode import sound
from hovvet.core.media.info import MediaInfo
from hovvet.core.picture.facing import Looks
from hovvet.core.words.transcript import Transcript
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job
from hovvet.server.recordings.looking import FACES
from hovvet.server.recordings.models import Recording, Show
from hovvet.server.scripts.models import Script, Take
from tests.core.test_script import TEXT, said
from tests.media import DEMO, demo_transcript
from tests.people import RATE, Person, Shot, film
from tests.server.base import ServerCase
from tests.server.test_bring_in import TUS

READ = (
    "So today I want to talk about gardens. A garden needs water, light and patience. Most people forget the last one."
)
AGAIN = (
    "um A garden needs three things: water, light and patience. | Most | people | forget the last one. "
    "They dig it all up in March and wonder why nothing grows."
)


class ScriptCase(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.script = self.post("/api/scripts", {"title": "Gardens", "text": TEXT}).json()
        self.path = f"/api/scripts/{self.script['id']}"

    def patch(self, path: str, body: dict):
        return self.client.patch(path, body, content_type="application/json")

    def take(self, transcript: Transcript | None = None, line: int = 0, **about: str) -> Recording:
        """What was recorded of the script, sent as the page does; with these words found in it."""
        told = {"filename": "Gardens.webm", "script": self.script["id"], "line": str(line)} | about
        encoded = ",".join(f"{key} {base64.b64encode(value.encode()).decode()}" for key, value in told.items())
        began = self.client.post("/api/uploads", headers=TUS | {"Upload-Defer-Length": "1", "Upload-Metadata": encoded})
        done = self.client.patch(
            began["Location"], b"film", content_type="application/offset+octet-stream",
            headers=TUS | {"Upload-Offset": "0", "Upload-Length": "4"},
        )  # fmt: skip
        row = Recording.objects.get(pk=done["Hovvet-Recording"])
        if transcript:
            media = MediaInfo(duration=transcript.duration, has_picture=True, has_sound=True, width=640, height=360)
            values = {
                "media_json": media.model_dump(mode="json"),
                "transcript_json": transcript.model_dump(mode="json"),
            }
            Recording.objects.filter(pk=row.pk).update(**values)
        return row


class Writing(ScriptCase):
    def test_a_script_is_written_listed_changed_and_deleted(self):
        self.assertEqual((self.script["title"], len(self.script["lines"]), self.script["pace"]), ("Gardens", 4, 140))
        self.assertAlmostEqual(self.script["seconds"], 60 * 35 / 140)
        changed = self.patch(self.path, {"version": 1, "text": "One.\n\nTwo and three.", "kind": "cards", "pace": 90})
        self.assertEqual([line["words"] for line in changed.json()["lines"]], [1, 3])
        late = self.patch(self.path, {"version": 1, "title": "Late"})
        self.assertEqual((late.status_code, "in the meantime" in late.json()["detail"]), (409, True))
        listed = self.client.get("/api/scripts").json()
        self.assertEqual([(each["title"], each["words"], each["takes"]) for each in listed], [("Gardens", 4, 0)])
        take = self.take()
        self.assertEqual(self.client.delete(self.path).status_code, 204)
        self.assertTrue(Recording.objects.filter(pk=take.pk).exists(), "what was recorded stays")
        self.assertEqual(self.client.get(self.path).status_code, 404)

    def test_what_cannot_be_read_is_never_saved(self):
        for body in ({"text": "word " * 50_000}, {"pace": 5}, {"kind": "sung"}, {"title": " "}):
            self.assertEqual(self.patch(self.path, {"version": 1} | body).status_code, 422, body)
        self.assertEqual(self.post("/api/scripts", {"text": "word " * 50_000}).status_code, 422)
        self.assertEqual(self.client.get(self.path).json()["text"], TEXT)
        self.assertEqual(Script.objects.count(), 1)

    def test_from_files(self):
        def sent(name: str, data: bytes):
            return self.client.post("/api/scripts/file", {"file": SimpleUploadedFile(name, data)})

        self.assertEqual(
            sent("Mend it.md", b"# Mend\n\nBring *it*.").json(), {"title": "Mend it", "text": "Mend\n\nBring it."}
        )
        broken = sent("Mend it.docx", b"PK nothing")
        self.assertEqual((broken.status_code, "paste its text" in broken.json()["detail"]), (422, True))
        self.assertEqual(sent("Long.txt", b"word " * 50_000).status_code, 422)

    def test_its_own_pace(self):
        read = self.post(f"{self.path}/pace", {"words": 35, "seconds": 10.5}).json()
        self.assertEqual((read["pace"], round(read["seconds"], 1)), (200, 10.5))
        self.assertEqual(self.post(f"{self.path}/pace", {"words": 35, "seconds": 0}).status_code, 422)

    def test_it_is_of_one_workspace(self):
        stranger, _ = self.member("stranger", "Elsewhere")
        take, client = self.take(said(READ)), Client()
        client.force_login(stranger)
        for method, path, body in (
            ("get", self.path, None), ("patch", self.path, {"version": 1}), ("delete", self.path, None),
            ("get", f"{self.path}/beside", None), ("post", f"{self.path}/pace", {"words": 1, "seconds": 1}),
            ("post", f"{self.path}/follow?word=0", None), ("patch", f"/api/scripts/takes/{take.pk}", {"starred": True}),
            ("post", f"{self.path}/clip", {"chosen": [{"take": str(take.pk), "first": 1, "last": 2}]}),
        ):  # fmt: skip
            answer = getattr(client, method)(path, body, content_type="application/json")
            self.assertEqual(answer.status_code, 404, (method, path))
        self.assertEqual(client.get("/api/scripts").json(), [])
        self.assertFalse(Take.objects.get().starred)
        # What a stranger records for it is a recording of theirs, and no take of ours.
        client, self.client = self.client, client
        own = self.take()
        self.client = client
        self.assertFalse(Take.objects.filter(recording=own).exists())


class Takes(ScriptCase):
    def test_what_was_recorded_of_it_becomes_a_numbered_take_in_its_show(self):
        show = Show.objects.create(workspace=self.workspace, name="Evenings")
        self.patch(self.path, {"version": 1, "show": str(show.pk)})
        first = self.take()
        first.delete()
        second = self.take(line=2)
        take = self.client.get(self.path).json()["takes"][0]
        self.assertEqual((take["number"], take["line"], take["ready"], take["id"]), (2, 2, False, str(second.pk)))
        second.refresh_from_db()
        self.assertEqual((second.title, second.show), ("Gardens, take 2", show))
        self.assertEqual(take["jobs"][0]["kind"], "prepare")
        starred = self.patch(f"/api/scripts/takes/{second.pk}", {"starred": True}).json()
        self.assertTrue(starred["starred"])
        named = self.patch(f"/api/scripts/takes/{second.pk}", {"name": "With the lamp on"}).json()
        self.assertEqual((named["name"], named["starred"]), ("With the lamp on", True))

    def test_a_script_that_is_gone_or_no_script_leaves_a_recording(self):
        self.client.delete(self.path)
        self.assertEqual(self.take().title, "Gardens")
        refused = self.client.post(
            "/api/uploads",
            headers=TUS | {"Upload-Defer-Length": "1", "Upload-Metadata": "filename YQ==,script bm9uZQ=="},
        )
        self.assertEqual(refused.status_code, 400)
        self.assertEqual(Take.objects.count(), 0)

    def test_what_was_said_stands_beside_the_script_and_the_best_is_put_together(self):
        self.assertEqual(
            self.client.get(f"{self.path}/beside").json(), {"readings": [], "suggested": [-1] * 4, "waits": 0}
        )
        one, two = self.take(said(READ)), self.take(said(AGAIN), line=1)
        self.take()
        beside = self.client.get(f"{self.path}/beside").json()
        self.assertEqual(beside["waits"], 1)
        suggested = [beside["readings"][place] for place in beside["suggested"]]
        self.assertEqual([each["take"] for each in suggested], [str(one.pk), str(two.pk), str(one.pk), str(two.pk)])
        self.assertEqual([each["reading"]["line"] for each in suggested], [0, 1, 2, 3])

        chosen = [
            {"take": each["take"], "first": each["reading"]["first"], "last": each["reading"]["last"]}
            for each in suggested
        ]
        clip = self.post(f"{self.path}/clip", {"chosen": chosen}).json()
        self.assertEqual(clip["title"], "Gardens")
        pieces = [(each["recording"], each["origin"]) for each in clip["sheet"]["pieces"]]
        self.assertEqual(pieces, [(str(one.pk), "p1"), (str(two.pk), "p2"), (str(one.pk), "p3"), (str(two.pk), "p4")])
        words = " ".join(each["text"] for each in clip["plan"]["words"])
        self.assertEqual(words, " ".join(TEXT.split()))

        # What was read in one go is one piece.
        gone = [each for each in beside["readings"] if each["take"] == str(two.pk)]
        chosen = [
            {"take": each["take"], "first": each["reading"]["first"], "last": each["reading"]["last"]} for each in gone
        ]
        (piece,) = self.post(f"{self.path}/clip", {"chosen": chosen}).json()["sheet"]["pieces"]
        self.assertEqual(piece["recording"], str(two.pk))

    def test_readings_that_are_no_longer_there_are_not_put_together(self):
        take = self.take(said(READ))
        for chosen in (
            {"take": str(take.pk), "first": 2, "last": 5},
            {"take": self.script["id"], "first": 1, "last": 8},
        ):
            answer = self.post(f"{self.path}/clip", {"chosen": [chosen]})
            self.assertEqual((answer.status_code, "Look at them again" in answer.json()["detail"]), (409, True))
        self.assertEqual(self.post(f"{self.path}/clip", {"chosen": []}).status_code, 422)

    def test_who_looks_at_the_camera_is_looked_for_after_the_faces(self):
        take, other = self.take(said(READ)), self.recording(said(READ))
        for row in (take, other):
            film(row.working, [Shot(8, [Person(lambda t: (0.5, 0.4))])])
            Recording.objects.filter(pk=row.pk).update(
                media_json={
                    "duration": 8,
                    "has_picture": True,
                    "has_sound": True,
                    "width": 960,
                    "height": 540,
                    "rate": {"num": RATE, "den": 1},
                }
            )
            run_job.func(str(Job.objects.create(workspace=self.workspace, kind=FACES, target=row.pk).pk))
        (job,) = Job.objects.filter(kind="looks")
        run_job.func(str(job.pk))
        take = Take.objects.get()
        self.assertEqual(Looks.model_validate(take.looks_json).part(0, 6), 1.0, "she looks at the camera all the time")
        away = Looks(times=(0.5, 3.0), facing=(False, False))
        for looks, told in ((take.looks_json, False), (away.model_dump(mode="json"), True)):
            Take.objects.update(looks_json=looks)
            beside = self.client.get(f"{self.path}/beside").json()
            self.assertEqual(beside["readings"][0]["looks_away"], told)


class Following(ScriptCase):
    def ask(self, word: int, sound: np.ndarray):
        samples = np.round(sound * 32767).astype("<i2").tobytes()
        return self.client.post(f"{self.path}/follow?word={word}", samples, content_type="application/octet-stream")

    def test_it_goes_on_with_what_is_heard_and_waits(self):
        noise = np.random.default_rng(1).normal(0, 0.05, 16_000 * 3)
        with mock.patch("hovvet.server.scripts.hearing._ear") as ear:
            ear.return_value.catch.return_value = " A garden needs three things, water"
            self.assertEqual(self.ask(8, noise).json(), {"word": 14, "sure": True, "silent": False, "strayed": False})
            ear.return_value.catch.return_value = " Hold on, the bus is very late again."
            self.assertTrue(self.ask(14, noise).json()["strayed"])
            ear.reset_mock()
            self.assertTrue(self.ask(14, noise * 0.001).json()["silent"])
            ear.assert_not_called()

    def test_the_real_recogniser_follows_the_demo_talk(self):
        words = demo_transcript().words[:60]
        self.patch(self.path, {"version": 1, "text": " ".join(each.text for each in words)})
        end = words[30].end
        heard = sound(DEMO / "speech" / "talk.opus", end - 6, 6.0, 16_000, channels=1)[:, 0]
        before = next(n for n, each in enumerate(words) if each.start > end - 6)
        found = self.ask(before, heard).json()
        self.assertTrue(found["sure"])
        self.assertAlmostEqual(found["word"], 31, delta=2)

    def test_too_much_is_refused_and_other_languages_go_by_the_pace(self):
        self.assertEqual(self.ask(0, np.zeros(16_000 * 13)).status_code, 413)
        show = Show.objects.create(workspace=self.workspace, name="Abende", language="de")
        self.patch(self.path, {"version": 1, "show": str(show.pk)})
        self.assertFalse(self.ask(0, np.ones(16_000) * 0.1).json()["sure"])

    def test_how_much_can_still_be_recorded(self):
        with mock.patch("hovvet.server.files.shutil.disk_usage", return_value=mock.Mock(free=0)):
            self.assertEqual(self.client.get("/api/scripts/room").json(), {"bytes": 0})
        self.assertGreater(self.client.get("/api/scripts/room").json()["bytes"], 0)
