"""Passages of a recording: looked for by a job, stepped, hidden, made into clips; a person's choices are remembered."""

import json
import uuid
from functools import cache

from hovvet.core.words.transcript import Transcript
from hovvet.server.documents.making import make_clip
from hovvet.server.documents.models import Document
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job, start_job
from hovvet.server.passages.finding import PASSAGES
from hovvet.server.passages.models import FoundPassage
from hovvet.server.recordings.models import Recording, Show
from tests.server.base import ServerCase
from tests.talks import marked_talks


@cache
def talk() -> Transcript:
    """A marked talk, up to its fourth passage, with a filler in the second."""
    marked = next(each for each in marked_talks() if each.name == "lecture")
    words = marked.transcript.words[: marked.passages[3][1] + 30]
    return Transcript(duration=words[-1].end + 1, words=words)


class Passages(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.show = Show.objects.create(workspace=self.workspace, name="Talks")
        self.row = self.recording(talk())
        self.row.show = self.show
        self.row.save()
        self.path = f"/api/recordings/{self.row.pk}/passages"

    def look(self) -> dict:
        self.assertEqual(self.post(self.path).status_code, 200)
        job = Job.objects.filter(kind=PASSAGES).latest("created")
        run_job.func(str(job.pk))
        job.refresh_from_db()
        self.assertEqual(job.state, "done", job.error)
        return self.client.get(self.path).json()

    def change(self, passage: dict, **values):
        body = json.dumps({"version": passage["version"], **values})
        return self.client.patch(f"{self.path}/{passage['id']}", body, content_type="application/json")

    def test_they_are_looked_for_walked_stepped_hidden_and_remembered(self):
        before = self.client.get(self.path).json()
        self.assertEqual((before["passages"], before["state"], before["longest"]), ([], None, 60.0))
        found = self.look()
        self.assertGreaterEqual(len(found["passages"]), 3)
        self.assertEqual(found["state"], "done")
        best = found["passages"][0]
        self.assertEqual(best["strength"], "strong")
        self.assertTrue(all(15 <= each["seconds"] <= 60 for each in found["passages"]))
        self.assertEqual(self.client.get(f"/api/recordings/{self.row.pk}").json()["passages"], len(found["passages"]))

        longer = self.change(best, step="earlier").json()["passages"][0]
        self.assertLess(longer["start"], best["start"])
        self.assertGreater(longer["seconds"], best["seconds"])
        self.assertEqual(self.change(best, step="on").status_code, 409, "made on what has moved on")
        again = self.change(longer, step="later").json()["passages"][0]
        self.assertEqual((again["first"], again["last"]), (best["first"], best["last"]))

        hidden = self.change(found["passages"][1], hidden=True).json()
        self.assertEqual([each["state"] for each in hidden["passages"]][:2], ["waiting", "hidden"])
        self.assertTrue(hidden["shifted"])
        self.assertTrue(Show.objects.get().judged_json, "with its show")
        anew = self.look()
        self.assertEqual(sum(each["state"] == "hidden" for each in anew["passages"]), 1, "it stays hidden")
        spans = [(each["start"], each["end"]) for each in anew["passages"]]
        self.assertEqual(len(spans), len(set(spans)), "and is not found once more")
        self.assertFalse(self.client.delete(f"{self.path}/choices").json()["shifted"])
        self.assertEqual(Show.objects.get().judged_json, {})

    def test_clips_are_made_of_several_swept_with_their_titles_all_or_none(self):
        found = self.look()["passages"]
        wanted = [found[1]["id"], found[0]["id"]]
        wrong = self.post(f"{self.path}/clips", {"passages": [*wanted, str(uuid.uuid4())]})
        self.assertEqual((wrong.status_code, Document.objects.filter(kind="clip").count()), (404, 0))
        answer = self.post(f"{self.path}/clips", {"passages": wanted})
        self.assertEqual(answer.status_code, 200, answer.content)
        self.assertEqual([each["title"] for each in answer.json()], [found[1]["titles"][0], found[0]["titles"][0]])
        clip = self.client.get(f"/api/documents/{answer.json()[1]['id']}").json()
        self.assertLessEqual(clip["seconds"], found[0]["seconds"] + 0.5)
        texts = [token["word"]["text"] for row in clip["rows"] for token in row["tokens"] if token["word"]]
        self.assertEqual(" ".join(texts[:4]), " ".join(found[0]["line"].split()[:4]))
        states = {each["id"]: each["state"] for each in self.client.get(self.path).json()["passages"]}
        self.assertEqual([states[each] for each in wanted], ["made", "made"])
        self.assertEqual(
            self.client.get(f"/api/recordings/{self.row.pk}").json()["passages"], len(found) - 2, "those that wait"
        )

    def test_clips_wear_the_house_style_of_the_show_and_passages_are_as_long_as_its_outlets_take(self):
        shown = make_clip(self.row, talk().words[0].id, talk().words[20].id)
        edition = {"type": "put_edition", "edition": {"id": "e1", "outlet": "wide"}}
        self.post(f"/api/documents/{shown.pk}/edits", {"version": 1, "edit": edition})
        house = self.post("/api/house", {"clip": str(shown.pk), "name": "Wide"}).json()
        self.client.put(
            f"/api/house/{house['key']}/show", json.dumps({"clip": str(shown.pk)}), content_type="application/json"
        )
        found = self.look()
        self.assertGreater(found["longest"], 60)
        made = self.post(f"{self.path}/clips", {"passages": [found["passages"][0]["id"]]}).json()[0]
        self.assertEqual(self.client.get(f"/api/documents/{made['id']}").json()["sheet"]["house"]["key"], house["key"])

    def test_lines_that_could_open_a_clip_are_offered_and_moved_as_one_change(self):
        words = talk().words
        clip = make_clip(self.row, words[60].id, words[200].id)
        path = f"/api/documents/{clip.pk}"
        offered = self.client.get(f"{path}/hooks").json()
        self.assertTrue(1 <= len(offered) <= 3)
        self.assertEqual(Document.objects.get(pk=clip.pk).version, 1, "nothing is moved by looking")
        best, rows = offered[0], self.client.get(path).json()["rows"]
        front = {"origin": rows[0]["tokens"][0]["origin"], "word": words[60].id}
        ask = {"ask": "move", "first": best["first"], "last": best["last"], "before": front, "repeat": True}
        made = self.post(f"{path}/asks", {"version": 1, "ask": ask}).json()
        texts = [token["word"]["text"] for row in made["rows"] for token in row["tokens"] if token["word"]]
        self.assertEqual(" ".join(texts).startswith(best["text"]), True, texts[:12])
        self.client.force_login(self.member("outsider", "Elsewhere")[0])
        self.assertEqual(self.client.get(f"{path}/hooks").status_code, 404)

    def test_chapters_are_offered_named_and_go_into_the_words_that_are_saved(self):
        self.look()
        path = f"/api/recordings/{self.row.pk}/chapters"
        offered = self.client.get(path).json()
        self.assertEqual(offered["chapters"], [])
        self.assertEqual(offered["offered"][0], round(talk().words[0].start, 2))
        self.assertEqual(offered["offered"], sorted(offered["offered"]))
        named = [
            {"start": 60.0, "title": "The tablet --> a story"},
            {"start": offered["offered"][0], "title": "Nights"},
        ]

        def put(version: int):
            body = json.dumps({"version": version, "chapters": [*named, {"start": 90, "title": " "}]})
            return self.client.put(path, body, content_type="application/json")

        made = put(offered["version"]).json()
        self.assertEqual([each["title"] for each in made["chapters"]], ["Nights", "The tablet --> a story"])
        self.assertNotIn(offered["offered"][0], made["offered"])
        self.assertEqual(put(offered["version"]).status_code, 409, "made on what has moved on")
        text, cues = (
            self.client.get(f"/api/recordings/{self.row.pk}/transcript.{kind}").content.decode()
            for kind in ("txt", "vtt")
        )
        self.assertTrue(text.startswith("[0:00] Nights\n\n"))
        self.assertIn("\n\n[1:00] The tablet --> a story\n\n", text)
        blocks = cues.split("\n\n")
        self.assertEqual((blocks[0].strip(), blocks[1]), ("WEBVTT", "NOTE Chapter: Nights"))
        self.assertEqual(sum(block.startswith("NOTE Chapter: The tablet → a story") for block in blocks), 1)
        self.client.force_login(self.member("outsider", "Elsewhere")[0])
        self.assertEqual(self.client.get(path).status_code, 404)
        self.assertEqual(put(made["version"]).status_code, 404)

    def test_in_another_language_and_without_words_it_says_so(self):
        self.show.language = "de"
        self.show.save()
        found = self.look()
        self.assertEqual((found["passages"], found["english"]), ([], False))
        self.row.transcript_json = None
        self.row.save()
        self.assertEqual(self.post(self.path).status_code, 409)

    def test_deleting_the_recording_takes_them_along_and_another_workspace_sees_none(self):
        self.look()
        (first, *_) = self.client.get(self.path).json()["passages"]
        self.client.force_login(self.member("outsider", "Elsewhere")[0])
        self.assertEqual(self.client.get(self.path).status_code, 404)
        self.assertEqual(self.post(self.path).status_code, 404)
        self.assertEqual(self.change(first, hidden=True).status_code, 404)
        self.assertEqual(self.post(f"{self.path}/clips", {"passages": [first["id"]]}).status_code, 404)
        self.assertEqual(self.client.delete(f"{self.path}/choices").status_code, 404)
        start_job(self.workspace, PASSAGES, self.row.pk)
        self.client.force_login(self.user)
        self.assertEqual(self.client.delete(f"/api/recordings/{self.row.pk}").status_code, 204)
        self.assertEqual((FoundPassage.objects.count(), Recording.objects.count()), (0, 0))
