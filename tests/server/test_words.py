"""Words over HTTP: corrections with undo, replacing, names & terms, speakers, files in and out."""

import itertools
import json
import wave
from unittest import mock

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile

from hovvet.core.words.transcript import Transcript
from hovvet.server.documents import transcripts
from hovvet.server.documents.making import desk_of, make_clip
from hovvet.server.documents.models import Document
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job
from hovvet.server.recordings import preparing
from hovvet.server.recordings.models import Recording, Show
from tests.media import DEMO, demo_transcript, ffmpeg, spoken
from tests.server.base import ServerCase


class WordsCase(ServerCase):
    transcript: Transcript | None = None

    def setUp(self) -> None:
        super().setUp()
        self.row = self.recording(self.transcript)
        self.desk = desk_of(self.row)
        self.path = f"/api/recordings/{self.row.pk}"
        self.version = 1

    def words(self) -> list[dict]:
        return self.client.get(f"{self.path}/transcript").json()["words"]

    def texts(self) -> list[str]:
        return [word["text"] for word in self.words()]

    def correct(self, **correction):
        answer = self.post(
            f"/api/documents/{self.desk.pk}/corrections", {"version": self.version, "correction": correction}
        )
        if answer.status_code == 200:
            self.version = answer.json()["version"]
        return answer

    def rewrite(self, words: list[int], text: str):
        return self.correct(type="rewrite", changes=[{"words": words, "text": text}])

    def step(self, what: str) -> dict:
        answer = self.post(f"/api/documents/{self.desk.pk}/{what}", {"version": self.version}).json()
        self.version = answer["version"]
        return answer


class Correcting(WordsCase):
    def test_a_correction_is_told_kept_undone_and_redone(self):
        page = self.client.get(f"{self.path}/transcript").json()
        answer = self.rewrite([3], "Quillhaven").json()
        change = answer["words"]
        self.assertEqual((change["before"], change["now"]), (page["words_at"], answer["words_at"]))
        self.assertEqual([(word["id"], word["text"]) for word in change["come"]], [(3, "Quillhaven")])
        self.assertEqual(self.texts()[2], "Quillhaven")
        self.assertEqual(self.step("undo")["words"]["come"][0]["text"], "w3")
        self.assertEqual(self.texts()[2], "w3")
        self.step("redo")
        transcripts._kept.clear()  # as after the server was started again
        self.assertEqual(self.texts()[2], "Quillhaven")

    def test_cuts_and_corrections_are_one_row_of_undo(self):
        self.rewrite([3], "three")
        cut = {"type": "cut_words", "piece": "p1", "words": [3]}
        answer = self.post(f"/api/documents/{self.desk.pk}/edits", {"version": self.version, "edit": cut}).json()
        self.version = answer["version"]
        self.assertIsNone(answer["words"], "a cut leaves the words alone")
        self.rewrite([4, 5], "fourfive")
        self.assertEqual(self.texts()[2:5], ["three", "fourfive", "w6"])
        self.step("undo")
        self.assertEqual(
            (self.texts()[2:5], self.step("undo")["sheet"]["pieces"][0]["word_cuts"]), (["three", "w4", "w5"], [])
        )
        self.step("undo")
        self.assertEqual(self.texts()[2], "w3")

    def test_words_that_come_by_splitting_have_ids_nobody_else_gets(self):
        self.rewrite([3], "one two")
        first = {word["id"] for word in self.words()} - set(range(1, 21))
        self.step("undo")
        self.rewrite([7], "three four")
        second = {word["id"] for word in self.words()} - set(range(1, 21))
        self.assertEqual((len(first), len(second)), (1, 1))
        self.assertTrue(first.isdisjoint(second))

    def test_a_clip_reads_the_corrected_words(self):
        clip = make_clip(self.row, 2, 9)
        self.rewrite([4], "corrected")
        rows = self.client.get(f"/api/documents/{clip.pk}").json()["rows"]
        self.assertIn("corrected", [token["word"]["text"] for row in rows for token in row["tokens"] if token["word"]])

    def test_what_changes_nothing_and_what_cannot_be(self):
        before = self.version
        self.correct(type="set_speaker", words=[2], speaker="S1")  # by hand now: that is a change
        self.correct(type="set_speaker", words=[2], speaker="S1")
        self.assertEqual(self.version, before + 1)
        self.assertContains(self.rewrite([99], "x"), "no longer in the transcript", status_code=422)
        self.assertEqual(self.correct(type="set_speaker", words=[2], speaker="nobody").status_code, 422)
        self.version = 1
        stale = self.rewrite([2], "x")
        self.assertEqual((stale.status_code, stale.json()["document"]["version"]), (409, before + 1))

    def test_the_list_knows_how_many_words_and_who_speaks(self):
        self.rewrite([3], "one two")
        self.correct(type="set_speaker", words=[1, 2], speaker="S2")
        self.correct(type="name_speaker", speaker="S2", name="Ida")
        row = self.client.get(self.path).json()
        self.assertEqual((row["words"], row["speakers"]), (21, ["Ida", "Speaker 1"]))


class Replacing(WordsCase):
    transcript = demo_transcript()

    def test_everywhere_after_a_look(self):
        found = self.post(f"{self.path}/occurrences", {"find": "clock", "put": "timepiece"}).json()
        self.assertGreater(len(found), 3)
        self.assertIn("timepiece", found[0]["change"]["text"])
        self.correct(type="rewrite", changes=[place["change"] for place in found[1:]])
        left = self.post(f"{self.path}/occurrences", {"find": "clock", "put": "timepiece"}).json()
        self.assertEqual([place["change"]["words"] for place in left], [found[0]["change"]["words"]])

    def test_names_and_terms_of_a_show_hold_for_its_recordings(self):
        self.post(f"{self.path}/terms", {"text": "timepiece", "heard": "clock"})
        show = self.post("/api/shows", {"name": "Bench Notes"}).json()
        change = {"version": self.client.get(self.path).json()["version"], "show": show["id"]}
        self.client.patch(self.path, change, content_type="application/json")
        terms = self.client.get(f"{self.path}/terms").json()
        self.assertEqual(terms, {"terms": [{"text": "timepiece", "heard": ["clock"]}], "show": "Bench Notes"})
        self.assertEqual(Show.objects.get().terms[0].heard, ("clock",), "they went along into the show")
        places = self.client.get(f"{self.path}/terms/occurrences").json()
        self.assertGreater(len(places), 3)
        self.post(f"{self.path}/terms/remove", {"text": "timepiece"})
        self.assertEqual(self.client.get(f"{self.path}/terms/occurrences").json(), [])

    def test_files_to_take_away(self):
        for kind, begins in (
            ("txt", demo_transcript().words[0].text),
            ("srt", "1\n00:00:0"),
            ("vtt", "WEBVTT"),
            ("json", '{"version": 1'),
        ):
            answer = self.client.get(f"{self.path}/transcript.{kind}")
            self.assertTrue(answer.content.decode().lstrip("\ufeff").startswith(begins), kind)
            self.assertIn(f".{kind}", answer["Content-Disposition"])
        self.assertEqual(self.client.get(f"{self.path}/transcript.exe").status_code, 422)


class Sweeping(WordsCase):
    transcript = demo_transcript()

    def setUp(self) -> None:
        super().setUp()
        ffmpeg("-i", DEMO / "speech" / "talk.opus", "-ac", "1", "-ar", "16000", self.row.folder / "speech.wav")

    def sweep(self, path: str = "sweep", **wanted) -> dict:
        return self.post(f"/api/documents/{self.desk.pk}/{path}", {"version": 1, **wanted}).json()

    def test_a_preview_is_as_long_as_what_it_previews(self):
        finds = self.client.get(f"/api/documents/{self.desk.pk}/finds").json()
        leave = [each["key"] for each in finds[::3]]
        kinds = sorted({each["find"]["kind"] for each in finds})
        seen = self.sweep("sweep/preview", kinds=kinds, leave=leave)
        self.assertEqual(Document.objects.get(pk=self.desk.pk).version, 1, "nothing was changed")
        done = self.sweep(kinds=kinds, leave=leave)
        self.assertEqual(seen["seconds"], done["document"]["seconds"])
        self.assertEqual(sum(done["counts"].values()), seen["count"])

    def test_what_is_told_is_what_is_done_and_then_nothing_is_left(self):
        finds = self.client.get(f"/api/documents/{self.desk.pk}/finds").json()
        kinds = sorted({each["find"]["kind"] for each in finds})
        seen = self.sweep("sweep/preview", kinds=kinds)
        done = self.sweep(kinds=kinds)
        self.assertGreater(len(finds), 20)
        self.assertEqual((seen["count"], sum(done["counts"].values())), (len(finds), len(finds)))
        self.assertEqual(self.client.get(f"/api/documents/{self.desk.pk}/finds").json(), [])

    def test_one_find_alone_can_be_heard_cut(self):
        find = next(
            each
            for each in self.client.get(f"/api/documents/{self.desk.pk}/finds").json()
            if each["find"]["kind"] == "filler"
        )
        seen = self.sweep("sweep/preview", kinds=["filler"], only=[find["key"]])
        self.assertEqual(len(seen["plan"]["stretches"]), 2)

    def test_what_a_sweep_looks_for_can_be_changed(self):
        path = f"{self.path}/sweep-settings"
        settings = self.client.get(path).json()
        self.assertIn("um", settings["fillers"])
        before = self.sweep("sweep/preview", kinds=["filler"])["seconds"]
        change = {
            "fillers": {"add": ["Evening"], "remove": settings["fillers"]},
            "phrases": {"add": ["thank you"], "remove": settings["phrases"]},
            "pause_from": 1.5,
        }
        self.assertEqual(self.client.patch(path, change, content_type="application/json").status_code, 200)
        finds = self.client.get(f"/api/documents/{self.desk.pk}/finds").json()
        texts = {
            each["find"]["text"].lower().strip(".,") for each in finds if each["find"]["kind"] in ("filler", "phrase")
        }
        self.assertEqual(texts, {"evening", "thank you"})
        self.assertNotEqual(self.sweep("sweep/preview", kinds=["filler"])["seconds"], before)
        bad = self.client.patch(path, {"pause_from": 0}, content_type="application/json")
        self.assertEqual(bad.status_code, 422)
        self.assertEqual(self.client.get(path).json()["pause_from"], 1.5)


class Retakes(WordsCase):
    transcript = spoken(
        "We keep a drawer of old springs here. Sorry, once more. We keep a drawer of old springs here. It is full."
    )

    def test_either_take_can_be_kept(self):
        path = f"/api/documents/{self.desk.pk}"
        retake = next(each for each in self.client.get(f"{path}/finds").json() if each["find"]["kind"] == "retake")
        self.assertEqual(
            (retake["find"]["words"], retake["find"]["instead"]), (list(range(1, 12)), list(range(12, 20)))
        )
        wanted = {"version": 1, "kinds": ["retake"], "only": [retake["key"]], "instead": [retake["key"]]}
        done = self.post(f"{path}/sweep", wanted).json()
        self.assertEqual(done["document"]["sheet"]["pieces"][0]["word_cuts"][0]["words"], list(range(12, 20)))


class Voices(WordsCase):
    whole = demo_transcript("interview")
    transcript = whole.model_copy(update={"words": tuple(word for word in whole.words if word.end < 40)})

    def test_a_suggestion_is_one_edit_and_marked(self):
        wav = self.row.folder / "speech.wav"
        self.assertEqual(self.post(f"{self.path}/speakers", {"count": 2}).status_code, 409)
        ffmpeg("-t", "40", "-i", DEMO / "speech" / "interview.opus", "-ac", "1", "-ar", "16000", wav)
        self.correct(type="set_speaker", words=[1, 2], speaker="S3")
        job = self.post(f"{self.path}/speakers", {"count": 2}).json()
        run_job.func(job["id"])
        self.assertEqual(Job.objects.get(pk=job["id"]).state, "done")
        words = self.words()
        self.assertEqual([word["speaker"] for word in words[:2]], ["S3", "S3"])
        self.assertEqual({word["speaker_by"] for word in words[2:]}, {"voices"})
        self.assertEqual({word["speaker"] for word in words}, {"S1", "S2", "S3"})
        self.version += 1
        self.step("undo")
        self.assertEqual({word["speaker_by"] for word in self.words()[2:]}, {"nobody"})
        self.assertEqual(self.post(f"{self.path}/speakers", {"count": 0}).status_code, 422)

    def test_how_many_there_are_is_heard_where_nobody_says_it(self):
        (self.row.folder / "speech.wav").write_bytes(b"sound")
        job = self.post(f"{self.path}/speakers", {}).json()
        listened = "hovvet.server.documents.speaking."
        with mock.patch(f"{listened}open_wav"), mock.patch(f"{listened}suggest_speakers", return_value=[]) as suggest:
            run_job.func(job["id"])
        self.assertIsNone(suggest.call_args.args[2], "as many as are heard")


class WordsFiles(ServerCase):
    def give(self, row: Recording, name: str, data: bytes):
        return self.client.post(f"/api/recordings/{row.pk}/words-file", {"file": SimpleUploadedFile(name, data)})

    def test_words_are_taken_from_a_file_instead_of_the_recogniser(self):
        row = self.recording()
        ffmpeg("-t", "20", "-i", DEMO / "speech" / "talk.opus", "-ac", "1", "-ar", "16000", row.folder / "speech.wav")
        self.assertEqual(len(self.client.get(f"/api/recordings/{row.pk}/transcript").json()["words"]), 20)
        srt = b"1\n00:00:01,000 --> 00:00:04,000\nMaren: Good evening to everybody here\n"
        answer = self.give(row, "words.srt", srt)
        self.assertEqual(answer.status_code, 200)
        self.assertFalse(self.client.get(f"/api/recordings/{row.pk}").json()["words_ready"])
        self.assertEqual(self.client.get(f"/api/documents/desk/{row.pk}").status_code, 409, "the old words are gone")
        run_job.func(str(Job.objects.get(target=row.pk).pk))
        page = self.client.get(f"/api/recordings/{row.pk}/transcript").json()
        self.assertEqual(
            [word["text"] for word in page["words"] if word["kind"] == "word"], "Good evening to everybody here".split()
        )
        self.assertEqual(page["speakers"][0]["name"], "Maren")
        for one, two in itertools.pairwise(page["words"]):
            self.assertLessEqual(one["end"], two["start"])

    def test_the_wrong_text_is_told_and_retrying_listens_instead(self):
        row = self.recording()
        for name, arguments in (
            ("original", ["-c", "copy", "-f", "ogg"]),
            ("speech.wav", ["-ac", "1", "-ar", "16000"]),
        ):
            ffmpeg("-t", "12", "-i", DEMO / "speech" / "talk.opus", *arguments, row.folder / name)
        self.give(row, "other.txt", b"Volcanic islands rise out of a very deep and quiet ocean. " * 5)
        job = Job.objects.get(target=row.pk, kind="transcribe")
        run_job.func(str(job.pk))
        job.refresh_from_db()
        self.assertEqual(job.state, "failed")
        self.assertRegex(job.error, "hardly a word in common.*press Retry to have the words recognised")
        self.post(f"/api/recordings/{row.pk}/prepare")
        for kind in ("prepare", "transcribe"):
            run_job.func(str(Job.objects.get(target=row.pk, kind=kind, state="queued").pk))
        page = self.client.get(f"/api/recordings/{row.pk}/transcript").json()
        self.assertIn("evening", " ".join(word["text"] for word in page["words"]))

    def test_what_would_lose_work_or_makes_no_sense_is_refused(self):
        row = self.recording()
        make_clip(row, 2, 5)
        self.assertContains(
            self.give(row, "a.srt", b"1\n00:00:01,000 --> 00:00:04,000\nx\n"),
            "hang on its present words",
            status_code=409,
        )
        other = self.recording()
        self.assertContains(self.give(other, "a.exe", b"x"), "SRT, VTT and TXT", status_code=422)
        self.assertContains(self.give(other, "a.txt", b""), "no words", status_code=422)
        self.assertContains(self.give(other, "a.srt", b"1\n\n"), "was not used: There are no words", status_code=422)
        self.assertContains(self.give(other, "a.srt", b"1\n\n"), "The words it has stay.", status_code=422)
        self.assertTrue(self.client.get(f"/api/recordings/{other.pk}").json()["words_ready"], "the words it had stay")


class Shows(ServerCase):
    def test_made_renamed_and_deleted_without_its_recordings(self):
        show = self.post("/api/shows", {"name": "Talks"}).json()
        change = {"version": 1, "language": "sv"}
        self.client.patch(f"/api/shows/{show['id']}", change, content_type="application/json")
        self.assertContains(self.post("/api/shows", {"name": "Talks"}), "already", status_code=409)
        self.assertEqual(self.post("/api/shows", {"name": " "}).status_code, 422)
        row = self.recording()
        change = {"version": 1, "show": show["id"]}
        self.client.patch(f"/api/recordings/{row.pk}", change, content_type="application/json")
        listed = self.client.get("/api/shows").json()
        self.assertEqual([(each["name"], each["language"], each["count"]) for each in listed], [("Talks", "sv", 1)])
        change = {"version": 2, "name": "Evening talks"}
        renamed = self.client.patch(f"/api/shows/{show['id']}", change, content_type="application/json")
        self.assertEqual(renamed.json()["name"], "Evening talks")
        self.client.delete(f"/api/shows/{show['id']}")
        self.assertIsNone(self.client.get(f"/api/recordings/{row.pk}").json()["show"])

    def test_a_language_the_model_does_not_know_is_told_with_a_way_on(self):
        show = Show.objects.create(workspace=self.workspace, name="Samtal", language="sv")
        row = self.recording()
        ffmpeg("-t", "3", "-i", DEMO / "speech" / "talk.opus", "-ac", "1", "-ar", "16000", row.folder / "speech.wav")
        Recording.objects.filter(pk=row.pk).update(show=show, transcript_json=None)
        job = Job.objects.create(workspace=self.workspace, kind="transcribe", target=row.pk)
        preparing._recogniser.cache_clear()
        with mock.patch("hovvet.core.engines.whisper.careful_model", return_value=None):
            run_job.func(str(job.pk))
        job.refresh_from_db()
        self.assertEqual(job.state, "failed")
        self.assertIn("understands English only", job.error)
        self.assertIn("SRT, VTT or TXT", job.error)


class LargeTranscripts(WordsCase):
    def test_corrections_are_replayed_for_a_fresh_process(self):
        rng = np.random.default_rng(3)
        for word in rng.permutation(np.arange(1, 21))[:12]:
            self.rewrite([int(word)], f"x{word}")
        texts = self.texts()
        transcripts._kept.clear()
        self.assertEqual(self.texts(), texts)
        self.assertEqual(
            json.loads(self.client.get(f"{self.path}/transcript.json").content)["words"][0]["text"], texts[0]
        )


class HeardAgain(WordsCase):
    """A recording is listened to again: corrections are laid over the new words."""

    transcript = spoken("We mend at quill haven on Tuesdays and the clock in odd vic stopped.")

    def setUp(self) -> None:
        super().setUp()
        with wave.open(str(self.row.folder / "speech.wav"), "wb") as wav:
            wav.setparams((1, 2, 16_000, 0, "NONE", ""))
            wav.writeframes(bytes(32_000 * 6))

    def again(self, heard: str, hears: str = "quick") -> str:
        """Listen again, and hear this; the state of the job."""
        self.assertEqual(self.post(f"{self.path}/transcribe", {"hears": hears}).status_code, 200)
        job = Job.objects.get(kind="transcribe", target=self.row.pk)
        with (
            mock.patch("hovvet.server.recordings.preparing._recognised", return_value=spoken(heard)),
            mock.patch("hovvet.server.recordings.preparing._samples_of", return_value=np.zeros(16_000, np.float32)),
        ):
            run_job.func(str(job.pk))
        job.refresh_from_db()
        return job.state

    def test_what_was_corrected_is_there_again_and_what_does_not_fit_is_told(self):
        self.rewrite([4, 5], "Quillhaven")
        self.rewrite([11, 12], "in Oddvik")
        self.correct(type="set_speaker", words=[1, 2, 3], speaker="S2")
        self.assertEqual(
            self.again("We mend at Quilhaven in on Tuesdays while sixteen ducks quack a lot there."), "done"
        )
        self.assertEqual(" ".join(self.texts()[:5]), "We mend at Quillhaven on")
        self.assertEqual([word["speaker"] for word in self.words()[:4]], ["S2", "S2", "S2", "S1"])
        row = self.client.get(self.path).json()
        self.assertIn("no longer fit what was heard: “Oddvik” at 0:04", row["notice"])
        self.assertEqual(row["hears"], "quick")
        self.assertFalse(Recording.objects.get().before.exists())
        self.assertTrue(Job.objects.filter(kind="passages").exists(), "passages are looked for anew")

    def test_while_cuts_or_clips_hang_on_its_words_it_is_refused(self):
        edit = {"type": "cut_words", "piece": "p1", "words": [3]}
        self.post(f"/api/documents/{self.desk.pk}/edits", {"version": 1, "edit": edit})
        refused = self.post(f"{self.path}/transcribe", {"hears": "careful"})
        self.assertContains(refused, "hang on its present words", status_code=409)
        self.assertEqual(len(self.texts()), 14, "nothing is lost")
        self.client.force_login(self.member("outsider", "Elsewhere")[0])
        self.assertEqual(self.post(f"{self.path}/transcribe", {"hears": "quick"}).status_code, 404)

    def test_another_language_that_it_sounds_like_is_offered_and_never_taken_unasked(self):
        Recording.objects.filter(pk=self.row.pk).update(sounds_like="de")
        row = self.client.get(self.path).json()
        self.assertEqual((row["language"], row["sounds_like"]), ("en", "de"))
        self.assertEqual(self.post(f"{self.path}/transcribe", {"language": "xx"}).status_code, 422)
        self.assertEqual(self.post(f"{self.path}/transcribe", {"language": "de"}).status_code, 200)
        row = self.client.get(self.path).json()
        self.assertEqual((row["language"], row["sounds_like"]), ("de", ""))

    def test_a_sweep_looks_for_what_is_usual_in_the_language_but_for_what_was_changed(self):
        show = Show.objects.create(workspace=self.workspace, name="Talks", language="de")
        self.assertNotIn("um", show.sweep.fillers)
        self.assertIn("ähm", show.sweep.fillers)
        show.change_sweep(lambda now: now.changed({"pause_from": 0.9}))
        self.assertEqual(show.sweep_json, {"pause_from": 0.9})
        Show.objects.update(language="en")
        self.assertIn("um", Show.objects.get().sweep.fillers)
        self.assertEqual(Show.objects.get().sweep.pause_from, 0.9)

    def test_a_show_says_how_carefully_and_a_recording_may_differ(self):
        show = Show.objects.create(workspace=self.workspace, name="Talks")
        self.row.show = show
        self.row.save()
        body = json.dumps({"version": 1, "hears": "careful"})
        made = self.client.patch(f"/api/shows/{show.pk}", body, content_type="application/json").json()
        self.assertEqual(made["hears"], "careful")
        self.assertEqual(self.client.get(self.path).json()["hears"], "careful")
        self.again("We mend.")
        self.assertEqual(self.client.get(self.path).json()["hears"], "quick", "as it was asked for")
        self.assertIn("quick", self.client.get("/api/choices").json()["hearing"])
