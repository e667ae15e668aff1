"""Other cameras of a recording over HTTP: added, put in step, refused, nudged, taken away; clips that show them."""

import base64
from pathlib import Path

import numpy as np
from django.test import Client

from hovvet.core.media.decode import SPEECH_RATE, sound
from hovvet.core.media.info import MediaInfo
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Transcript
from hovvet.server.assets.models import Asset
from hovvet.server.documents.making import make_clip
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job
from hovvet.server.recordings.models import Angle, Recording
from hovvet.server.recordings.stepping import STEP
from tests.media import DEMO, demo_transcript, even_words, write_wav
from tests.server.base import ServerCase
from tests.server.test_bring_in import TUS

LATER = 4.25  # seconds by which the second camera begins later


class AngleCase(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.talk = self.filmed("Talk", even_words(60), heard("talk", 10, 45))
        self.path = f"/api/recordings/{self.talk.pk}/angles"

    def filmed(self, title: str, words: Transcript, samples: np.ndarray | None, workspace=None) -> Recording:
        """A prepared recording with a picture, and this sound."""
        row = self.recording(words, workspace)
        media = MediaInfo(
            duration=45,
            has_picture=True,
            has_sound=samples is not None,
            width=1280,
            height=720,
            rate={"num": 25, "den": 1},
        )
        Recording.objects.filter(pk=row.pk).update(title=title, media_json=media.model_dump(mode="json"))
        row.working.write_bytes(b"a film")
        if samples is not None:
            write_wav(row.folder / "speech.wav", samples, SPEECH_RATE)
        return Recording.objects.get(pk=row.pk)

    def side(self, **more) -> Recording:
        return self.filmed("Side", even_words(3), heard("talk", 10 + LATER, 40, noise=0.01), **more)

    def step(self, film: Recording) -> None:
        (job,) = Job.objects.filter(kind=STEP, target=film.pk, state=Job.State.QUEUED)
        run_job.func(str(job.pk))

    def added(self) -> Recording:
        film = self.side()
        self.assertEqual(self.post(self.path, {"film": str(film.pk)}).status_code, 200)
        self.step(film)
        return film

    def patch(self, number: int, body: dict):
        return self.client.patch(f"{self.path}/{number}", body, content_type="application/json")


def heard(name: str, start: float, seconds: float, noise: float = 0.0) -> np.ndarray:
    own = sound(DEMO / "speech" / f"{name}.opus", start, seconds, SPEECH_RATE, channels=1)[:, 0]
    return own + np.random.default_rng(3).normal(0, noise, len(own)).astype(np.float32) if noise else own


class Stepping(AngleCase):
    def test_a_second_camera_is_put_in_step_by_its_sound(self):
        film = self.added()
        (angle,) = self.client.get(self.path).json()
        self.assertEqual((angle["number"], angle["name"], angle["film"]), (2, "Side", str(film.pk)))
        self.assertAlmostEqual(angle["offset"], LATER, delta=0.005)
        nudged = self.patch(2, {"version": angle["version"], "nudge": 0.04, "name": "From the side"}).json()[0]
        self.assertAlmostEqual(nudged["offset"], LATER + 0.04, delta=0.005)
        self.assertEqual(nudged["name"], "From the side")
        self.assertEqual(self.patch(2, {"version": angle["version"], "nudge": 0}).status_code, 409)
        self.assertEqual(self.patch(2, {"version": 2, "nudge": 99}).status_code, 422)
        again = self.client.post(f"{self.path}/2/step").json()[0]
        self.assertIsNone(again["offset"])

    def test_what_is_of_another_talk_is_refused_and_can_be_put_in_step_by_hand(self):
        other = self.filmed("Other", even_words(3), heard("interview", 20, 40))
        silent = self.filmed("Silent", even_words(3), None)
        for film in (other, silent):
            self.post(self.path, {"film": str(film.pk)})
            self.step(film)
        told = [each["told"] for each in self.client.get(self.path).json()]
        self.assertIn("not heard to be of the same talk", told[0])
        self.assertIn("There is no sound in it", told[1])
        by_hand = self.patch(3, {"version": Angle.objects.get(number=3).version, "offset": -2.5}).json()[1]
        self.assertEqual((by_hand["offset"], by_hand["told"]), (-2.5, ""))

    def test_it_waits_until_both_are_prepared(self):
        film = self.side()
        film.working.unlink()
        self.post(self.path, {"film": str(film.pk)})
        self.assertFalse(Job.objects.filter(kind=STEP).exists())

    def test_no_more_than_four_no_film_twice_and_not_itself(self):
        films = [self.side() for _ in range(4)]
        self.assertEqual(
            [self.post(self.path, {"film": str(each.pk)}).status_code for each in films], [200, 200, 200, 409]
        )
        self.assertEqual(self.post(self.path, {"film": str(self.talk.pk)}).status_code, 409)
        self.client.delete(f"{self.path}/3")
        self.assertEqual(self.post(self.path, {"film": str(films[0].pk)}).status_code, 409)
        numbers = [each["number"] for each in self.post(self.path, {"film": str(films[3].pk)}).json()]
        self.assertEqual(numbers, [2, 3, 4])

    def test_offered_are_those_alike_by_name_time_and_length(self):
        near, far = self.side(), self.recording(demo_transcript("interview"))
        Recording.objects.filter(pk=near.pk).update(file_name="talk side.mp4")
        Recording.objects.filter(pk=self.talk.pk).update(file_name="talk.mp4")
        Recording.objects.filter(pk=far.pk).update(file_name="garden.mp4", title="Garden")
        offered = self.client.get(f"{self.path}/offered").json()
        self.assertEqual([each["title"] for each in offered], ["Side", "Garden"])
        self.assertFalse(any(each["heard"] for each in offered), "their words tell nothing")

    def test_what_is_heard_to_be_of_the_talk_is_offered_first(self):
        said = demo_transcript("talk")
        later = with_changes(
            said,
            words=tuple(with_changes(w, start=w.start + 2, end=w.end + 2) for w in said.words),
            duration=said.duration + 2,
        )
        talk, other, named = self.recording(said), self.recording(later), self.recording(even_words(60))
        Recording.objects.filter(pk=talk.pk).update(file_name="talk.mp4")
        Recording.objects.filter(pk=other.pk).update(file_name="IMG_2041.mp4", title="From the side")
        Recording.objects.filter(pk=named.pk).update(file_name="talk.mp4", title="Called the same")
        offered = self.client.get(f"/api/recordings/{talk.pk}/angles/offered").json()
        self.assertEqual(
            (offered[0]["title"], [each["heard"] for each in offered[:2]]), ("From the side", [True, False])
        )


class BroughtIn(AngleCase):
    def upload(self, talk: str) -> Recording:
        told = {"filename": "side.mp4", "angle_of": talk}
        encoded = ",".join(f"{key} {base64.b64encode(value.encode()).decode()}" for key, value in told.items())
        where = self.client.post("/api/uploads", headers=TUS | {"Upload-Length": "4", "Upload-Metadata": encoded})[
            "Location"
        ]
        done = self.client.patch(
            where, b"film", content_type="application/offset+octet-stream", headers=TUS | {"Upload-Offset": "0"}
        )
        return Recording.objects.get(pk=done["Hovvet-Recording"])

    def test_a_camera_is_no_recording_to_cut_and_goes_with_its_talk(self):
        film = self.upload(str(self.talk.pk))
        self.assertEqual((film.camera_only, film.taken_of.get().recording), (True, self.talk))
        self.assertNotIn(str(film.pk), [each["id"] for each in self.client.get("/api/recordings").json()])
        self.assertFalse(Asset.objects.filter(recording=film).exists())
        folder = Path(film.folder)
        self.assertTrue(folder.exists())
        with self.captureOnCommitCallbacks(execute=True):
            self.client.delete(f"/api/recordings/{self.talk.pk}")
        self.assertFalse(Recording.objects.filter(pk=film.pk).exists())
        self.assertFalse(folder.exists())

    def test_taken_away_it_goes_and_a_recording_of_its_own_stays(self):
        film, own = self.upload(str(self.talk.pk)), self.side()
        self.post(self.path, {"film": str(own.pk)})
        for number in (2, 3):
            self.assertEqual(self.client.delete(f"{self.path}/{number}").status_code, 204)
        self.assertFalse(Recording.objects.filter(pk=film.pk).exists())
        self.assertTrue(Recording.objects.filter(pk=own.pk).exists())

    def test_a_camera_of_nothing_of_ours_is_a_recording(self):
        film = self.upload("6d1f0c58-0000-4000-8000-000000000000")
        self.assertEqual((film.camera_only, film.taken_of.count()), (False, 0))

    def test_another_workspace_has_no_part_in_it(self):
        stranger, elsewhere = self.member("stranger", "Elsewhere")
        theirs = self.side(workspace=elsewhere)
        self.assertEqual(self.post(self.path, {"film": str(theirs.pk)}).status_code, 404)
        self.added()
        client = Client()
        client.force_login(stranger)
        for method, path, body in (
            ("get", self.path, None), ("get", f"{self.path}/offered", None), ("post", self.path, {"film": str(theirs.pk)}),
            ("patch", f"{self.path}/2", {"version": 1}), ("post", f"{self.path}/2/step", {}), ("delete", f"{self.path}/2", None),
        ):  # fmt: skip
            self.assertEqual(
                getattr(client, method)(path, body, content_type="application/json").status_code, 404, path
            )


class Clips(AngleCase):
    def test_a_clip_shows_the_second_camera_and_the_first_when_that_goes(self):
        film = self.added()
        clip = make_clip(self.talk, 15, 50)
        document = self.client.get(f"/api/documents/{clip.pk}").json()
        self.assertEqual([(each["number"], each["media"]) for each in document["cameras"]], [(2, str(film.pk))])
        self.assertIn(str(film.pk), [each["id"] for each in document["sources"]])
        ask = {"ask": "lay", "content": {"kind": "camera", "camera": 2}, "first": None, "last": None}
        laid = self.post(f"/api/documents/{clip.pk}/asks", {"version": 1, "ask": ask}).json()
        (layer,) = laid["plan"]["picture"]
        self.assertEqual(layer["source"]["media"], str(film.pk))
        before = laid["stamp"]
        self.client.delete(f"{self.path}/2")
        after = self.client.get(f"/api/documents/{clip.pk}").json()
        self.assertEqual(after["plan"]["picture"][0]["source"]["media"], str(self.talk.pk))
        self.assertNotEqual(after["stamp"], before)
        self.assertIn("no camera 2", after["bars"][0]["note"])

    def test_whoever_talks_needs_a_second_camera_and_the_newest_version(self):
        clip = make_clip(self.talk, 15, 50)
        path = f"/api/documents/{clip.pk}/cameras/who-talks"
        refused = self.post(path, {"version": 1})
        self.assertEqual((refused.status_code, "no second camera" in refused.json()["detail"]), (422, True))
        self.added()
        self.assertEqual(self.post(path, {"version": 7}).status_code, 409)
        self.assertEqual(self.post(path, {"version": 1}).status_code, 200)
