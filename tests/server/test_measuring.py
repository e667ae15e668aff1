"""How loud recordings are heard, and the beats of what stands on the Shelf: measured in the background where that is to do."""

import wave
from unittest import mock

import numpy as np

from hovvet.core.errors import CoreError
from hovvet.core.plan.model import Plan
from hovvet.core.sound.clearer import clearer_media
from hovvet.server.delivery.exporting import originals_of
from hovvet.server.documents.making import make_clip
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job
from hovvet.server.recordings.clearing import CLEAR
from hovvet.server.recordings.measuring import MEASURE, beats_known, energy_known, measure_soon
from hovvet.server.recordings.models import Recording
from tests.made_music import RATE, track
from tests.media import even_words
from tests.server.base import ServerCase


class Measuring(ServerCase):
    def heard(self, **fields: object) -> Recording:
        """A recording of music, as an earlier release prepared it."""
        row = self.recording(even_words(30))
        with wave.open(str(row.original), "wb") as wav:
            wav.setnchannels(1)
            wav.setsampwidth(2)
            wav.setframerate(RATE)
            wav.writeframes((track(104, 20).sound * 32_000).astype("<i2").tobytes())
        row.working.write_bytes(row.original.read_bytes())
        row.media_json |= {"duration": 20, "has_picture": False, "has_sound": True, "channels": 1}
        for name, value in fields.items():
            setattr(row, name, value)
        row.save()
        return row

    def test_a_clip_of_what_was_never_measured_has_it_measured_and_then_a_master(self):
        row = self.heard()
        made = make_clip(row, 1, 20)
        clip = self.client.get(f"/api/documents/{made.pk}").json()
        self.assertEqual((clip["plan"]["master"], clip["plan"]["loudness"], clip["level"]), (0, None, None))
        (job,) = Job.objects.filter(kind=MEASURE)
        run_job.func(str(job.pk))
        self.assertEqual(Job.objects.get(pk=job.pk).state, Job.State.DONE)
        self.assertEqual(len(energy_known(row).power), 2_000)
        self.assertIsNone(beats_known(row), "nobody fits speech")
        clip = self.client.get(f"/api/documents/{made.pk}").json()
        self.assertAlmostEqual(clip["plan"]["loudness"], -14, delta=0.1)
        self.assertEqual(len(clip["level"]["lufs"]), int(np.ceil(clip["seconds"] / clip["level"]["step"])))
        self.assertFalse(measure_soon(row), "once is enough")

    def test_clearer_speech_is_made_once_it_is_asked_for_and_then_heard_and_exported(self):
        row = self.heard()
        clip = make_clip(row, 1, 20)
        where = f"/api/recordings/{row.pk}"
        asked = self.client.patch(where, {"version": 1, "clearer": "light"}, content_type="application/json")
        self.assertEqual((asked.status_code, asked.json()["clearer"]), (200, "light"))
        waits = self.client.get(f"/api/documents/{clip.pk}").json()
        self.assertIn("is being made", waits["told"])
        self.assertEqual({each["media"] for each in waits["plan"]["sound"]}, {str(row.pk)})
        (job,) = Job.objects.filter(kind=CLEAR)
        run_job.func(str(job.pk))
        self.assertEqual(Job.objects.get(pk=job.pk).state, Job.State.DONE)
        media = clearer_media(str(row.pk), "light")
        now = self.client.get(f"/api/documents/{clip.pk}").json()
        self.assertEqual((now["told"], {each["media"] for each in now["plan"]["sound"]}), ("", {media}))
        self.assertAlmostEqual(now["plan"]["loudness"], -14, delta=0.1)
        file = self.client.get(f"/api/documents/{clip.pk}/sounds/{media}", headers={"Range": "bytes=0-99"})
        self.assertEqual((file.status_code, len(b"".join(file.streaming_content))), (206, 100))
        original = originals_of(row.workspace, Plan.model_validate(now["plan"]))[media]
        self.assertEqual((original.path.suffix, original.path.exists()), (".flac", True))
        off = self.client.patch(where, {"version": 2, "clearer": "off"}, content_type="application/json").json()
        self.assertEqual(off["clearer"], "off")
        after = self.client.get(f"/api/documents/{clip.pk}").json()
        self.assertEqual({each["media"] for each in after["plan"]["sound"]}, {str(row.pk)})

    def test_what_cannot_be_made_is_told_and_tried_again_when_it_is_asked_for_anew(self):
        row = self.heard()
        clip = make_clip(row, 1, 20)
        where = f"/api/recordings/{row.pk}"
        self.client.patch(where, {"version": 1, "clearer": "light"}, content_type="application/json")
        with mock.patch(
            "hovvet.server.recordings.clearing.write_clearer", side_effect=CoreError("It is not installed.")
        ):
            run_job.func(str(Job.objects.get(kind=CLEAR).pk))
        told = self.client.get(f"/api/documents/{clip.pk}").json()["told"]
        self.assertIn("could not be made: It is not installed.", told)
        self.assertEqual(Job.objects.filter(kind=CLEAR).count(), 1, "not again by itself")
        self.client.patch(where, {"version": 2, "clearer": "light"}, content_type="application/json")
        self.assertEqual(Job.objects.filter(kind=CLEAR).count(), 2)

    def test_what_stands_on_the_shelf_is_looked_through_for_beats(self):
        row = self.heard(for_shelf=True)
        self.assertTrue(measure_soon(row))
        run_job.func(str(Job.objects.get(kind=MEASURE).pk))
        times = np.array(beats_known(row).times)
        self.assertAlmostEqual(float(np.median(np.diff(times))), 60 / 104, delta=0.002)
