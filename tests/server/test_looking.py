"""Faces of recordings: looked for by a job that nobody waits for, used by clips once they are known."""

from hovvet.core.words.transcript import Transcript
from hovvet.server.documents.making import make_clip
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job
from hovvet.server.recordings.looking import FACES, faces_of, look_for_faces
from hovvet.server.recordings.models import Recording
from tests.media import even_words
from tests.people import RATE, Person, Shot, film
from tests.server.base import ServerCase

LEFT = 0.3


class Looking(ServerCase):
    def filmed(self, transcript: Transcript) -> Recording:
        """A prepared recording of somebody on the left."""
        row = self.recording(transcript)
        film(row.working, [Shot(transcript.duration, [Person(lambda t: (LEFT, 0.4))])])
        row.media_json |= {"has_picture": True, "width": 960, "height": 540, "rate": {"num": RATE, "den": 1}}
        row.save()
        return row

    def clip(self, row: Recording) -> dict:
        made = make_clip(row, 1, 8)
        lay = {"ask": "lay", "content": {"kind": "framing", "mode": "speaker"}}
        return self.post(f"/api/documents/{made.pk}/asks", {"version": made.version, "ask": lay}).json()

    def jobs(self) -> list[Job]:
        return list(Job.objects.filter(kind=FACES))

    def test_a_clip_uses_them_once_they_are_known(self):
        row = self.filmed(even_words(10))
        clip = self.clip(row)
        (job,) = self.jobs()
        self.assertTrue(clip["looking"])
        self.assertIn("not been looked for", clip["bars"][0]["note"])
        self.assertEqual(clip["plan"]["picture"][0]["crop"]["x"], 328, "the middle until then")
        self.assertIsNone(faces_of(row))

        run_job.func(str(job.pk))
        self.assertEqual(Job.objects.get(pk=job.pk).state, Job.State.DONE)
        clip = self.client.get(f"/api/documents/{clip['id']}").json()
        self.assertFalse(clip["looking"])
        self.assertEqual(clip["bars"][0]["note"], "")
        crop = clip["plan"]["picture"][0]["crop"]
        self.assertAlmostEqual((crop["x"] + crop["width"] / 2) / 960, LEFT, delta=0.02)
        self.assertEqual(len(self.jobs()), 1)

    def test_it_is_a_job_aside_of_a_picture_alone(self):
        self.assertFalse(look_for_faces(self.recording()), "there is no picture")
        row = self.filmed(even_words(5))
        self.assertTrue(look_for_faces(row))
        jobs = self.client.get(f"/api/recordings/{row.pk}").json()["jobs"]
        self.assertEqual([(job["kind"], job["part"]) for job in jobs], [("faces", "in the background")])

    def test_where_it_failed_it_is_begun_again_by_a_person_alone(self):
        row = self.filmed(even_words(10))
        row.working.write_bytes(b"no film")
        clip = self.clip(row)
        (job,) = self.jobs()
        run_job.func(str(job.pk))
        self.assertEqual(Job.objects.get(pk=job.pk).state, Job.State.FAILED)
        self.assertFalse(self.client.get(f"/api/documents/{clip['id']}").json()["looking"])
        self.assertEqual(len(self.jobs()), 1)
        self.assertTrue(look_for_faces(row, again=True))
        self.assertEqual(len(self.jobs()), 2)
