"""Clips in full over HTTP: several recordings, layers, editions, outlets of one's own, copies, sounds made beforehand."""

import os
import time
import uuid
from datetime import date

from hovvet.core.media.sealed import seal_of
from hovvet.core.sheet.edits import CutWords
from hovvet.server.delivery.exporting import chunk_folder, originals_of
from hovvet.server.delivery.models import Export
from hovvet.server.delivery.naming import file_name
from hovvet.server.documents import transcripts
from hovvet.server.documents.changing import apply_edit
from hovvet.server.documents.making import desk_of, make_clip
from hovvet.server.documents.models import Document, DocumentSource
from hovvet.server.documents.prepared_sounds import prepared_folder, unused
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job
from tests.media import even_words, ffmpeg
from tests.server.base import ServerCase, texts_of


class ClipCase(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.recording()
        self.clip = make_clip(self.row, 3, 14)
        self.path = f"/api/documents/{self.clip.pk}"
        self.version = 1

    def ask(self, **ask) -> dict:
        answer = self.post(f"{self.path}/asks", {"version": self.version, "ask": ask})
        self.assertEqual(answer.status_code, 200, answer.content)
        self.version = answer.json()["version"]
        return answer.json()

    def edit(self, **edit) -> dict:
        answer = self.post(f"{self.path}/edits", {"version": self.version, "edit": edit})
        self.assertEqual(answer.status_code, 200, answer.content)
        self.version = answer.json()["version"]
        return answer.json()


def word(n: int, origin: str = "p1") -> dict:
    return {"origin": origin, "word": n}


class SeveralRecordings(ClipCase):
    def test_words_of_another_recording_come_with_the_cuts_of_its_desk(self):
        other = self.recording(even_words(12))
        apply_edit(desk_of(other), 1, CutWords(piece="p1", words=(5,)), None)
        now = self.ask(ask="add_words", recording=str(other.pk), first=4, last=6, before=word(7))
        self.assertEqual(texts_of(now), ["w3", "w4", "w5", "w6", "w4", "w5", "w6", *(f"w{n}" for n in range(7, 15))])
        self.assertEqual(len(now["plan"]["words"]), 14, "one is cut on that desk")
        self.assertEqual([each["id"] for each in now["sources"]], [str(self.row.pk), str(other.pk)])
        self.assertEqual({each["recording"] for each in self.client.get("/api/clips").json()[0]["stretches"]},
                         {str(self.row.pk), str(other.pk)})  # fmt: skip
        self.post(f"{self.path}/undo", {"version": self.version})
        self.assertEqual([*DocumentSource.objects.values_list("recording_id", flat=True)], [self.row.pk])

    def test_a_recording_that_is_not_ready_or_not_ours_cannot_be_added(self):
        _, elsewhere = self.member("stranger", "Elsewhere")
        unready = self.recording()
        unready.transcript_json = None
        unready.save()
        for pk, status in ((self.recording(workspace=elsewhere).pk, 422), (uuid.uuid4(), 422), (unready.pk, 409)):
            ask = {"ask": "add_words", "recording": str(pk), "first": 1, "last": 2, "before": None}
            self.assertEqual(self.post(f"{self.path}/asks", {"version": 1, "ask": ask}).status_code, status)
        self.assertEqual(self.client.get(self.path).json()["version"], 1)

    def test_one_of_two_that_is_deleted_or_prepared_anew_leaves_the_rest(self):
        other = self.recording(even_words(12))
        self.ask(ask="add_words", recording=str(other.pk), first=4, last=6, before=None)
        other.transcript_json = None
        other.save()
        transcripts._kept.clear()
        now = self.client.get(self.path).json()
        self.assertEqual((len(now["plan"]["words"]), "still being prepared" in now["told"]), (12, True))
        self.client.delete(f"/api/recordings/{other.pk}")
        now = self.client.get(self.path).json()
        self.assertEqual([row["missing"] for row in now["rows"]].count(True), 1)
        self.assertEqual((len(now["plan"]["words"]), "was deleted" in now["told"]), (12, True))

    def test_a_gap_and_what_lies_beyond_a_piece(self):
        now = self.ask(ask="add_gap", seconds=1.5, before=word(5))
        self.assertEqual([row["recording"] for row in now["rows"]].count(None), 1)
        piece = now["sheet"]["pieces"][0]["id"]
        beyond = self.client.get(f"{self.path}/pieces/{piece}/beyond").json()
        self.assertEqual([each["text"] for each in beyond["before"]], ["w1", "w2"])
        self.assertEqual(beyond["after"][0]["text"], "w5")
        now = self.ask(ask="trim", piece=piece, edge="start", word=1)
        self.assertEqual(texts_of(now)[:3], ["w1", "w2", "w3"])
        self.assertEqual(self.client.get(f"{self.path}/pieces/p99/beyond").status_code, 404)


class Layers(ClipCase):
    def test_a_layer_is_laid_changed_told_of_and_taken_off(self):
        now = self.ask(ask="lay", content={"kind": "marker", "note": "ask her"}, first=word(5), last=word(7))
        (bar,) = now["bars"]
        self.assertEqual((bar["lane"], bar["label"], bar["first"], bar["last"]), ("text", "ask her", 2, 4))
        now = self.ask(ask="lay", content={"kind": "marker", "note": "asked"}, layer=bar["layer"])
        self.assertEqual([(each["label"], each["first"]) for each in now["bars"]], [("asked", 2)])
        self.assertEqual(now["plan"]["markers"][0]["note"], "asked")
        now = self.edit(type="cut_words", piece="p1", words=[5, 6, 7])
        self.assertEqual((now["bars"][0]["first"], now["plan"]["markers"]), (None, []), "it sleeps")
        now = self.edit(type="remove_layer", layer=bar["layer"])
        self.assertEqual(now["bars"], [])
        told = [each["what"] for each in self.client.get(f"{self.path}/history").json()]
        self.assertEqual(told, ["Removed: asked", "Cut “w5 w6 w7”", "asked", "ask her", "Began"])

    def test_what_is_no_content_is_refused(self):
        for content in (
            {"kind": "firework"},
            {"kind": "speed", "rate": 9},
            {"kind": "freeze", "seconds": 0},
            {"kind": "marker", "x": 1},
        ):
            ask = {"ask": "lay", "content": content, "first": word(5)}
            self.assertEqual(self.post(f"{self.path}/asks", {"version": 1, "ask": ask}).status_code, 422, content)

    def test_two_people_who_move_the_same_words(self):
        first = {"ask": "move", "first": word(8), "last": word(9), "before": word(3)}
        other = {"ask": "move", "first": word(9), "last": word(10), "before": word(3)}
        self.assertEqual(self.post(f"{self.path}/asks", {"version": 1, "ask": first}).status_code, 200)
        stale = self.post(f"{self.path}/asks", {"version": 1, "ask": other})
        self.assertEqual((stale.status_code, stale.json()["document"]["version"]), (409, 2))
        # Nine stands at the front now, ten where it was: what was meant is no stretch any more, and nothing is lost.
        again = self.post(f"{self.path}/asks", {"version": 2, "ask": other})
        self.assertIn(again.status_code, (200, 422))
        self.assertEqual(sorted(texts_of(self.client.get(self.path).json())), sorted(f"w{n}" for n in range(3, 15)))

    def test_a_sound_at_another_speed_is_made_once_and_heard_by_its_own_people_alone(self):
        ffmpeg("-f", "lavfi", "-t", "9", "-i", "sine=f=300:r=48000", "-f", "wav", self.row.original)
        with self.captureOnCommitCallbacks():
            now = self.ask(ask="lay", content={"kind": "speed", "rate": 2.0}, first=word(5), last=word(9))
        self.assertTrue(now["preparing"])
        job = Job.objects.get(kind="sounds")
        self.client.get(self.path)
        self.assertEqual(Job.objects.filter(kind="sounds").count(), 1)
        run_job.func(str(job.pk))
        job.refresh_from_db()
        self.assertEqual((job.state, job.error), ("done", ""))
        now = self.client.get(self.path).json()
        self.assertFalse(now["preparing"])
        (made,) = now["plan"]["prepared"]
        sound = self.client.get(f"{self.path}/sounds/{made['media']}")
        self.assertEqual((sound.status_code, sound["Content-Type"]), (200, "audio/wav"))
        self.assertEqual(self.client.get(f"{self.path}/sounds/..%2Fx").status_code, 404)
        file = prepared_folder(self.workspace) / f"{made['media']}.wav"
        self.assertEqual([*unused(time.time() - 60)], [])
        os.utime(file, (1, 1))
        self.assertEqual([*unused(time.time() - 60)], [file, seal_of(file)])

    def test_a_sound_that_cannot_be_made_is_not_tried_for_ever(self):
        self.row.original.write_bytes(b"no sound")
        self.ask(ask="lay", content={"kind": "speed", "rate": 2.0}, first=word(5), last=word(9))
        run_job.func(str(Job.objects.get(kind="sounds").pk))
        self.assertFalse(self.client.get(self.path).json()["preparing"])
        self.assertEqual(Job.objects.filter(kind="sounds").count(), 1)

    def test_a_desk_stays_one_recording_with_cuts(self):
        desk = desk_of(self.row)
        layer = {"id": "l1", "content": {"kind": "marker"}}
        for edit in (
            {"type": "split_piece", "piece": "p1", "at": 3.0, "fresh": "p2"},
            {"type": "trim_piece", "piece": "p1", "start": 1.0, "end": 3.0},
            {"type": "put_layer", "layer": layer},
        ):
            refused = self.post(f"/api/documents/{desk.pk}/edits", {"version": 1, "edit": edit})
            self.assertEqual((refused.status_code, "make a clip" in refused.json()["detail"]), (422, True), edit)


class Editions(ClipCase):
    def test_each_is_a_plan_of_its_own_with_a_tag(self):
        self.edit(type="put_edition", edition={"id": "e2", "outlet": "wide", "dressing": "plain"})
        now = self.client.get(f"{self.path}?edition=e2").json()
        self.assertEqual((now["edition"], now["plan"]["width"], now["plan"]["script"]), ("e2", 1920, None))
        first = self.client.get(f"{self.path}/editions/e1/plan")
        self.assertEqual(first.json()["width"], 1080)
        again = self.client.get(f"{self.path}/editions/e1/plan", headers={"If-None-Match": first["ETag"]})
        self.assertEqual(again.status_code, 304)
        self.assertEqual(self.client.get(f"{self.path}/editions/e9/plan").status_code, 404)
        self.assertEqual(self.client.get(f"{self.path}?edition=e9").json()["edition"], "e1")
        answer = self.post(f"{self.path}/undo", {"version": 2, "edition": "e2"}).json()
        self.assertEqual((answer["edition"], len(answer["editions"])), ("e1", 1))

    def test_several_are_exported_at_once_each_once(self):
        for n, outlet in ((2, "square"), (3, "wide")):
            self.edit(type="put_edition", edition={"id": f"e{n}", "outlet": outlet})
        wanted = {"editions": ["e1", "e2", "e3", "e2"], "output": {"kind": "webm", "quality": "small"}}
        rows = self.post(f"{self.path}/exports", wanted).json()
        self.assertEqual([row["outlet_name"] for row in rows], ["Tall feed", "Square feed", "Wide player"])
        self.assertEqual([row["job"]["with_another"] for row in rows], [False, True, True], "drawn by the first one")
        self.post(f"{self.path}/exports", wanted)
        self.assertEqual((Export.objects.count(), Job.objects.filter(kind="export").count()), (3, 3))
        self.edit(type="put_edition", edition={"id": "e2", "outlet": "square", "dressing": "plain"})
        listed = {row["edition"]: row["current"] for row in self.client.get(f"{self.path}/exports").json()}
        self.assertEqual(listed, {"e1": True, "e2": False, "e3": True}, "only what changed is out of date")
        other = self.post(f"{self.path}/exports", wanted | {"output": {"kind": "mp3"}}).json()
        self.assertFalse({row["id"] for row in other} & {row["id"] for row in rows}, "another kind is another file")
        self.assertEqual({row["job"]["with_another"] for row in other}, {False}, "nothing of sounds is drawn")
        self.assertEqual(self.post(f"{self.path}/exports", {"editions": ["e9"]}).status_code, 404)
        self.assertEqual(
            self.post(f"{self.path}/exports", {"editions": ["e1"], "output": {"kind": "exe"}}).status_code, 422
        )

    def test_what_is_expected_follows_what_was_reached(self):
        wanted = {"editions": ["e1"], "output": {"lines": 720}}
        (expected,) = self.post(f"{self.path}/exports/expected", wanted).json()
        self.assertEqual((expected["width"], expected["height"]), (720, 1280))
        (row,) = self.post(f"{self.path}/exports", {"editions": ["e1"]}).json()
        export = Export.objects.get(pk=row["id"])
        export.folder.mkdir(parents=True)
        export.main.write_bytes(b"x" * 900_000)
        (again,) = self.post(f"{self.path}/exports/expected", {"editions": ["e1"]}).json()
        self.assertAlmostEqual(again["bytes"], 900_000, delta=20_000)

    def test_an_outlet_of_ones_own(self):
        wanted = {
            "name": "Kiosk",
            "width": 640,
            "height": 480,
            "longest": 30,
            "safe": [10, 10, 10, 10],
            "file_limit": 2_000_000,
        }
        made = self.post("/api/outlets", wanted).json()
        self.assertEqual(len(self.client.get("/api/outlets").json()), 5)
        now = self.edit(type="put_edition", edition={"id": "e1", "outlet": made["key"]})
        self.assertEqual((now["plan"]["width"], now["outlet"]["name"]), (640, "Kiosk"))
        (row,) = self.post(f"{self.path}/exports", {"editions": ["e1"]}).json()
        self.assertIsNotNone(Export.objects.get(pk=row["id"]).encoding_json["bitrate"])
        for wrong, about in (
            ({"width": 641}, "width"),
            ({"height": 32}, "height"),
            ({"safe": [300, 0, 300, 0]}, "safe area"),
        ):
            refused = self.post("/api/outlets", wanted | wrong)
            self.assertEqual((refused.status_code, about in refused.json()["detail"]), (422, True), refused.json())
        changed = self.client.put(
            f"/api/outlets/{made['key']}", wanted | {"width": 800}, content_type="application/json"
        )
        self.assertEqual(changed.json()["width"], 800)
        everybodys = self.client.put("/api/outlets/tall", wanted, content_type="application/json")
        self.assertEqual(everybodys.status_code, 409)
        self.assertEqual(self.client.delete(f"/api/outlets/{made['key']}").status_code, 204)
        now = self.client.get(self.path).json()
        self.assertEqual((now["plan"]["width"], "outlet of an edition was deleted" in now["told"]), (1080, True))
        self.assertEqual(
            self.client.get(f"{self.path}/exports").json()[0]["outlet_name"], "Kiosk", "what was made keeps its name"
        )

    def test_an_export_is_drawn_from_its_own_recordings_by_what_they_are(self):
        from hovvet.server.documents.opening import opened

        self.row.digest = "ab" * 32
        self.row.save()
        plan = opened(self.clip).plan
        (original,) = originals_of(self.workspace, plan).values()
        self.assertIn("ab" * 32, original.digest)
        _, elsewhere = self.member("stranger", "Elsewhere")
        self.assertEqual(originals_of(elsewhere, plan), {})
        self.assertTrue(str(chunk_folder()).startswith(str(self.media_root)))


class Copies(ClipCase):
    def test_a_clip_whole_and_its_dressing_onto_others(self):
        self.ask(ask="lay", content={"kind": "framing", "mode": "fill"})
        self.edit(type="put_edition", edition={"id": "e2", "outlet": "square"})
        copy = self.post(f"{self.path}/copy").json()
        self.assertEqual(
            (copy["title"].endswith("(copy)"), texts_of(copy)[:2], len(copy["bars"])), (True, ["w3", "w4"], 1)
        )
        others = [make_clip(self.row, 1, 9) for _ in range(2)]
        body = {"parts": ["framing", "editions"], "onto": [str(each.pk) for each in others]}
        self.assertEqual(self.post(f"{self.path}/dressing", body).status_code, 204)
        for each in others:
            now = self.client.get(f"/api/documents/{each.pk}").json()
            self.assertEqual(([bar["label"] for bar in now["bars"]], len(now["editions"])), (["Fill"], 2))
            back = self.post(f"/api/documents/{each.pk}/undo", {"version": 2}).json()
            self.assertEqual((back["bars"], len(back["editions"])), ([], 1))
        self.client.delete(self.path)
        self.assertEqual(Document.objects.filter(kind="clip").count(), 3)


class Names(ServerCase):
    def test_files_are_called_by_the_pattern(self):
        day = date(2026, 11, 25)
        for pattern, name in (
            ("", "A talk - Tall feed.mp4"),
            ("{date} {title} {length}s", "2026-11-25 A talk 42s.mp4"),
            ("{nothing} {outlet}", "{nothing} Tall feed.mp4"),
            ("   ", "A talk.mp4"),
        ):
            self.assertEqual(file_name(pattern, "mp4", "A talk", "Tall feed", 41.6, day), name)
