"""Edits over HTTP: versions, undo, redo, sweep, clips."""

from unittest import mock

from hovvet.core.words.corrections import Rewrite, Rewritten
from hovvet.server.documents.changing import correct_now
from hovvet.server.documents.making import desk_of, make_clip
from hovvet.server.documents.models import Revision
from tests.media import spoken
from tests.server.base import ServerCase, texts_of


class Editing(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.recording()
        self.desk = desk_of(self.row)
        self.path = f"/api/documents/{self.desk.pk}"

    def cut(self, version: int, *words: int):
        return self.post(
            f"{self.path}/edits", {"version": version, "edit": {"type": "cut_words", "piece": "p1", "words": words}}
        )

    def struck(self, document: dict) -> list[int]:
        return [word for cut in document["sheet"]["pieces"][0]["word_cuts"] for word in cut["words"]]

    def test_an_edit_is_kept_and_compiled(self):
        before = self.client.get(self.path).json()
        after = self.cut(1, 4, 5).json()
        self.assertEqual((after["version"], self.struck(after)), (2, [4, 5]))
        self.assertLess(after["seconds"], before["seconds"] - 0.6)
        self.assertEqual(self.client.get(self.path).json(), after)

    def test_a_stale_edit_is_answered_with_the_newer_document_and_loses_nothing(self):
        self.cut(1, 4)
        answer = self.cut(1, 9)
        self.assertEqual(answer.status_code, 409)
        newer = answer.json()["document"]
        self.assertEqual((newer["version"], self.struck(newer)), (2, [4]))
        again = self.cut(newer["version"], 9).json()
        self.assertEqual(self.struck(again), [4, 9])

    def test_undo_and_redo_walk_all_revisions_and_a_new_edit_ends_redo(self):
        self.cut(1, 4)
        self.cut(2, 5)
        step = self.post(f"{self.path}/undo", {"version": 3}).json()
        self.assertEqual((self.struck(step), step["undoes"] is not None, step["can_redo"]), ([4], True, True))
        step = self.post(f"{self.path}/undo", {"version": 4}).json()
        self.assertEqual((self.struck(step), step["undoes"]), ([], None))
        nothing = self.post(f"{self.path}/undo", {"version": 5})
        self.assertEqual((nothing.status_code, nothing.json()["detail"]), (409, "There is nothing left to undo."))
        step = self.post(f"{self.path}/redo", {"version": 5}).json()
        self.assertEqual(self.struck(step), [4])
        step = self.cut(6, 7).json()
        self.assertEqual((self.struck(step), step["can_redo"]), ([4, 7], False))
        self.assertEqual(Revision.objects.filter(document=self.desk).count(), 4)

    def test_an_edit_that_changes_nothing_makes_no_revision(self):
        self.cut(1, 4)
        self.assertEqual(self.cut(2, 4).json()["version"], 2)

    def test_edits_that_make_no_sense_are_refused_in_words(self):
        for edit in (
            {"type": "explode"},
            {"type": "cut_words", "piece": "p1", "words": []},
            {"type": "cut_words", "piece": "../etc", "words": [1]},
            {"type": "cut_pause", "piece": "p1", "start": 900, "end": 901},
            {"type": "cut_words", "piece": "p9", "words": [1]},
        ):
            answer = self.post(f"{self.path}/edits", {"version": 1, "edit": edit})
            self.assertEqual(answer.status_code, 422, edit)
            self.assertIsInstance(answer.json()["detail"], str)
        self.assertEqual(self.client.get(self.path).json()["version"], 1)

    def test_a_sweep_is_one_undo(self):
        row = self.recording(spoken("Um, nobody throws, uh, away a clock um because it stopped."))
        desk = desk_of(row)
        path = f"/api/documents/{desk.pk}"
        done = self.post(f"{path}/sweep", {"version": 1, "kinds": ["filler"]}).json()
        self.assertEqual((done["counts"], self.struck(done["document"])), ({"filler": 3}, [1, 4, 8]))
        back = self.post(f"{path}/undo", {"version": 2}).json()
        self.assertEqual((self.struck(back), back["undoes"]), ([], None))

    def test_a_sweep_that_finds_nothing_changes_nothing(self):
        with mock.patch("hovvet.server.documents.sweep_api.silences_of", return_value=((6.1, 6.2), (8.0, 8.5))):
            done = self.post(f"{self.path}/sweep", {"version": 1, "kinds": ["filler", "pause"]}).json()
        self.assertEqual((done["counts"], done["document"]["version"]), ({"filler": 0, "pause": 0}, 1))
        unknown = self.post(f"{self.path}/sweep", {"version": 1, "kinds": ["breath"]})
        self.assertEqual(unknown.status_code, 422)


class SweepingOnce(ServerCase):
    def test_counts_seconds_and_undo(self):
        from tests.media import demo_transcript

        row = self.recording(demo_transcript())
        desk = desk_of(row)
        with mock.patch("hovvet.server.documents.sweep_api.silences_of", return_value=((21.5, 23.4), (40.4, 42.7))):
            done = self.post(f"/api/documents/{desk.pk}/sweep", {"version": 1}).json()
        fillers = sum(word.kind == "filler" for word in demo_transcript().words)
        self.assertEqual(done["counts"], {"filler": fillers, "pause": 2})
        self.assertGreater(done["saved"], 3)
        back = self.post(f"/api/documents/{desk.pk}/undo", {"version": 2}).json()
        self.assertAlmostEqual(back["seconds"], back["uncut"], delta=0.02, msg="to half a frame")
        self.assertIsNone(back["undoes"])


class Clips(ServerCase):
    def test_a_clip_has_rows_and_captions_and_a_title_from_its_words(self):
        row = self.recording()
        answer = self.post(f"/api/documents/desk/{row.pk}/clips", {"first": 3, "last": 14})
        clip = answer.json()
        self.assertEqual(answer.status_code, 200)
        self.assertEqual(texts_of(clip), [f"w{n}" for n in range(3, 15)])
        self.assertEqual(clip["title"], "w3 w4 w5 w6 w7 w8 w9…")
        self.assertIn("Dialogue", clip["plan"]["script"])
        listed = self.client.get("/api/clips").json()
        self.assertEqual([(each["id"], each["export"]) for each in listed], [(clip["id"], "none")])

    def test_a_word_corrected_on_the_desk_makes_an_export_old_and_another_one_new(self):
        row = self.recording()
        clip = make_clip(row, 3, 14)
        path = f"/api/documents/{clip.pk}/exports"
        wanted = {"editions": ["e1"]}
        (first,) = self.post(path, wanted).json()
        self.assertEqual(self.post(path, wanted).json()[0]["id"], first["id"], "nothing has changed: the same export")
        self.assertTrue(first["current"])
        correct_now(row, Rewrite(changes=(Rewritten(words=(5,), text="mended"),)), self.user.pk)
        self.assertFalse(self.client.get(path).json()[0]["current"])
        (again,) = self.post(path, wanted).json()
        self.assertNotEqual(again["id"], first["id"])
        self.assertEqual([each["current"] for each in self.client.get(path).json()], [True, False])

    def test_what_is_tried_is_seen_and_not_kept_and_a_new_thing_is_called_as_the_page_says(self):
        clip = make_clip(self.recording(), 3, 14)
        path = f"/api/documents/{clip.pk}"
        ask = {
            "ask": "lay",
            "content": {"kind": "title", "text": "Ask her"},
            "named": "n-1",
            "first": None,
            "last": None,
        }
        tried = self.post(f"{path}/tries", {"ask": ask})
        self.assertEqual(tried.status_code, 200, tried.content[:300])
        self.assertIn("}ASK\n", tried.json()["script"])
        self.assertEqual(
            self.post(f"{path}/tries", {"ask": ask | {"content": {"kind": "title", "text": ""}}}).status_code, 422
        )
        now = self.client.get(path).json()
        self.assertEqual((now["version"], now["sheet"]["layers"]), (1, []))
        for version in (1, 2):  # sent twice, it is laid once
            laid = self.post(f"{path}/asks", {"version": version, "ask": ask}).json()
        self.assertEqual([layer["id"] for layer in laid["sheet"]["layers"]], ["n-1"])

    def test_words_are_moved_repeated_and_brought_home_by_undo(self):
        clip = make_clip(self.recording(), 3, 14)
        path = f"/api/documents/{clip.pk}"
        move = {"ask": "move", "first": {"origin": "p1", "word": 9}, "last": {"origin": "p1", "word": 11}}
        front = {"origin": "p1", "word": 3}
        now = self.post(f"{path}/asks", {"version": 1, "ask": move | {"before": front}}).json()
        order = [f"w{n}" for n in (9, 10, 11, *range(3, 9), 12, 13, 14)]
        self.assertEqual(texts_of(now), order)
        self.assertEqual([word["text"] for word in now["plan"]["words"]], order)
        self.assertEqual(len(self.client.get("/api/clips").json()[0]["stretches"]), 3)
        stale = self.post(f"{path}/asks", {"version": 1, "ask": move | {"before": front}})
        self.assertEqual(stale.status_code, 409)
        told = self.client.get(f"{path}/history").json()[0]["what"]
        self.assertEqual(told, "Moved “w9 w10 w11”")
        back = self.post(f"{path}/undo", {"version": 2}).json()
        self.assertEqual(texts_of(back), [f"w{n}" for n in range(3, 15)])
        twice = self.post(f"{path}/asks", {"version": 3, "ask": move | {"before": front, "repeat": True}}).json()
        self.assertEqual(texts_of(twice), [f"w{n}" for n in (9, 10, 11, *range(3, 15))])
        nowhere = self.post(f"{path}/asks", {"version": 4, "ask": move | {"before": {"origin": "p99", "word": 3}}})
        self.assertEqual((nowhere.status_code, "Select" in nowhere.json()["detail"]), (422, True))

    def test_a_sweep_goes_through_every_piece(self):
        words = "We keep um springs here. Nobody throws uh away a clock."
        clip = make_clip(self.recording(spoken(words)), 1, 11)
        path = f"/api/documents/{clip.pk}"
        move = {
            "ask": "move",
            "first": {"origin": "p1", "word": 6},
            "last": {"origin": "p1", "word": 11},
            "before": {"origin": "p1", "word": 1},
        }
        self.post(f"{path}/asks", {"version": 1, "ask": move})
        self.assertEqual(len(self.client.get(f"{path}/finds").json()), 2)
        done = self.post(f"{path}/sweep", {"version": 2, "kinds": ["filler"]}).json()
        self.assertEqual(done["counts"], {"filler": 2})
        self.assertEqual(
            [word["text"] for word in done["document"]["plan"]["words"]],
            "Nobody throws away a clock. We keep springs here.".split(),
        )

    def test_another_outlet_is_another_plan(self):
        clip = make_clip(self.recording(), 3, 14)
        edit = {"version": 1, "edit": {"type": "put_edition", "edition": {"id": "e1", "outlet": "wide"}}}
        wide = self.post(f"/api/documents/{clip.pk}/edits", edit).json()
        self.assertEqual((wide["plan"]["width"], wide["plan"]["height"]), (1920, 1080))
        self.assertIn("PlayResX: 1920", wide["plan"]["script"])

    def test_deleting_a_clip_leaves_the_recording(self):
        row = self.recording()
        clip = make_clip(row, 3, 14)
        self.assertEqual(self.client.delete(f"/api/documents/{clip.pk}").status_code, 204)
        self.assertEqual(self.client.get(f"/api/documents/{clip.pk}").status_code, 404)
        self.assertEqual(self.client.get("/api/clips").json(), [])
        self.assertEqual(self.client.delete(f"/api/documents/{desk_of(row).pk}").status_code, 404, "a desk stays")

    def test_cutting_waits_for_the_words(self):
        row = self.recording()
        row.transcript_json = None
        row.save()
        answer = self.client.get(f"/api/documents/desk/{row.pk}")
        self.assertEqual(answer.status_code, 409)
        self.assertIn("still being prepared", answer.json()["detail"])


class GoingThrough(ServerCase):
    def test_finds_are_listed_in_context_and_can_be_left(self):
        from tests.media import demo_transcript

        desk = desk_of(self.recording(demo_transcript()))
        with mock.patch("hovvet.server.documents.sweep_api.silences_of", return_value=((21.5, 23.4), (40.4, 42.7))):
            listed = self.client.get(f"/api/documents/{desk.pk}/finds").json()
            kinds = {each["find"]["kind"] for each in listed}
            self.assertLessEqual({"filler", "repeat", "pause"}, kinds)
            self.assertEqual(
                [each["find"]["start"] for each in listed], sorted(each["find"]["start"] for each in listed)
            )
            pause = next(each for each in listed if each["find"]["kind"] == "pause")
            self.assertAlmostEqual(pause["saves"], 23.4 - 21.5 - 0.35, delta=0.02)
            repeat = next(each for each in listed if each["find"]["kind"] == "repeat")
            self.assertTrue(repeat["before"] and repeat["after"])
            body = {"version": 1, "kinds": sorted(kinds), "leave": [repeat["key"]]}
            done = self.post(f"/api/documents/{desk.pk}/sweep", body).json()
            after = self.client.get(f"/api/documents/{desk.pk}/finds").json()
        self.assertEqual(sum(done["counts"].values()), len(listed) - 1)
        self.assertEqual([each["key"] for each in after], [repeat["key"]], "what was left is still there")
