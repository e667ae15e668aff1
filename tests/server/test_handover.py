"""What goes out with a clip: watched back, its cover, packages, timelines for other editors."""

import io
import json
import zipfile
from datetime import timedelta
from hashlib import sha256
from unittest import mock

import opentimelineio as otio
from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone

from hovvet.core.sheet.edits import CutWords
from hovvet.server.delivery.models import Export, Package
from hovvet.server.delivery.packing import forget_old_packages
from hovvet.server.documents.changing import apply_edit
from hovvet.server.documents.making import desk_of, make_clip
from hovvet.server.documents.models import Document
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job
from tests.media import even_words
from tests.server.base import ServerCase


class HandoverCase(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.recording(even_words(20))
        self.clip = make_clip(self.row, 3, 14)
        self.path = f"/api/documents/{self.clip.pk}"
        self.other, _ = self.member("tolliver", "Elsewhere")

    def export(self, clip: Document | None = None, output: dict | None = None) -> Export:
        clip = clip or self.clip
        made = self.post(f"/api/documents/{clip.pk}/exports", {"editions": ["e1"], "output": output or {}}).json()[0]
        row = Export.objects.get(pk=made["id"])
        row.folder.mkdir(parents=True, exist_ok=True)
        row.main.write_bytes(b"film of " + str(clip.pk).encode())
        Job.objects.filter(target=row.pk).update(state="done")
        return row


class WatchedBack(HandoverCase):
    def test_its_words_run_along_with_what_names_them_on_the_sheet(self):
        row = self.export()
        (paragraph,) = self.client.get(f"/api/exports/{row.pk}/words").json()
        self.assertEqual([each["text"] for each in paragraph["words"]], [f"w{n}" for n in range(3, 15)])
        first = paragraph["words"][0]
        self.assertEqual((first["n"], first["ref"]), (0, {"origin": "p1", "word": 3}))
        self.assertLess(first["start"], first["end"])

    def test_it_counts_once_it_was_seen_to_the_end(self):
        row = self.export()
        path = f"/api/exports/{row.pk}/watched"
        self.assertEqual(self.post(path, {"seconds": row.seconds / 2}).json()["watched"], [])
        for _ in range(2):
            (seen,) = self.post(path, {"seconds": row.seconds * 0.99}).json()["watched"]
            self.assertEqual(seen["who"], "maren")
        self.assertEqual(self.post(path, {"seconds": -1}).status_code, 422)
        self.assertEqual(self.client.get(f"{self.path}/exports").json()[0]["watched"][0]["who"], "maren")

    def test_an_export_of_others_does_not_exist(self):
        row = self.export()
        self.client.force_login(self.other)
        self.assertEqual(self.client.get(f"/api/exports/{row.pk}/words").status_code, 404)
        self.assertEqual(self.post(f"/api/exports/{row.pk}/watched", {"seconds": 99}).status_code, 404)


class Covers(HandoverCase):
    def choose(self, edition: str = "e1", version: int = 0, alone: bool = False, **cover):
        body = {"seconds": 1.0, "version": version, "alone": alone} | cover
        return self.client.put(f"{self.path}/editions/{edition}/cover", body, content_type="application/json")

    def read(self, edition: str = "e1") -> dict:
        return self.client.get(f"{self.path}/editions/{edition}/cover").json()

    def test_it_is_the_beginning_at_first_and_stays_with_its_words(self):
        self.assertEqual((self.read()["seconds"], self.read()["version"]), (0.0, 0))
        kept = self.choose(seconds=2.5, text="On the cover").json()
        self.assertEqual((round(kept["seconds"], 2), kept["text"], kept["version"]), (2.5, "On the cover", 1))
        apply_edit(self.clip, 1, CutWords(piece="p1", words=(4, 5)), None)
        self.assertLess(self.read()["seconds"], 2.0)

    def test_an_edition_has_one_of_its_own_and_two_who_choose_at_once_are_told(self):
        self.post(
            f"{self.path}/edits",
            {"version": 1, "edit": {"type": "put_edition", "edition": {"id": "e2", "outlet": "wide"}}},
        )
        self.choose(seconds=1.0)
        self.choose("e2", 0, True, seconds=3.0)
        self.assertEqual([round(self.read(each)["seconds"]) for each in ("e1", "e2")], [1, 3])
        self.assertTrue(self.read("e2")["own"])
        self.assertEqual(self.choose(version=1, seconds=2.0).status_code, 200)
        late = self.choose(version=1, seconds=3.0)
        self.assertEqual((late.status_code, round(late.json()["cover"]["seconds"])), (409, 2))
        self.client.delete(f"{self.path}/editions/e2/cover")
        self.assertEqual(round(self.read("e2")["seconds"]), 2)

    def test_what_cannot_be_is_refused_and_another_workspace_sees_nothing(self):
        self.assertEqual(self.choose(template="nothing", text="x").status_code, 422)
        self.assertEqual(self.choose(seconds=-1).status_code, 422)
        self.assertEqual(self.choose("e7").status_code, 404)
        self.assertEqual(self.client.get(f"{self.path}/editions/e1/cover.gif").status_code, 422)
        self.client.force_login(self.other)
        for name in ("cover", "cover.png", "cover/offered", "cover/picture?seconds=1"):
            self.assertEqual(self.client.get(f"{self.path}/editions/e1/{name}").status_code, 404, name)


class Packages(HandoverCase):
    def pack(self, *clips: Document, **wanted) -> Package:
        body = {
            "clips": [str(each.pk) for each in clips or (self.clip,)],
            "parts": ["film", "srt", "post", "sheet", "timeline"],
        } | wanted
        answer = self.post("/api/packages", body)
        self.assertEqual(answer.status_code, 200, answer.content)
        row = Package.objects.get(pk=answer.json()["id"])
        run_job.func(str(Job.objects.get(target=row.pk).pk))
        row.refresh_from_db()
        return row

    def opened(self, row: Package) -> zipfile.ZipFile:
        answer = self.client.get(f"/api/packages/{row.pk}/package.zip")
        return zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content)))

    def test_all_that_is_there_with_sizes_and_checksums_and_what_is_missing_is_told(self):
        film = self.export()
        with self.opened(row := self.pack(pattern="{outlet}: {title}")) as archive:
            self.assertIsNone(archive.testzip())
            listed = json.loads(archive.read("contents.json"))
            by = {each["name"]: each for each in listed["files"]}
            self.assertEqual(sorted(name.rpartition(".")[2] for name in by), ["json", "mp4", "otio", "srt"])
            for name, told in by.items():
                data = archive.read(name)
                self.assertEqual((told["size"], told["sha256"]), (len(data), sha256(data).hexdigest()))
            sums = dict(line.split("  ")[::-1] for line in archive.read("SHA256SUMS").decode().splitlines())
            self.assertEqual(sums, {name: each["sha256"] for name, each in by.items()})
            name = next(name for name in by if name.endswith("mp4"))
            self.assertTrue(name.startswith("Tall feed"), name)
            self.assertEqual(archive.read(name), film.main.read_bytes())
            self.assertEqual(
                json.loads(archive.read("sheet.json"))["sheet"]["pieces"][0]["recording"], str(self.row.pk)
            )
        self.assertEqual(len(row.left_out_json), 1, "the text for the post")
        self.assertEqual(self.client.get(f"/api/packages/{row.pk}").json()["left_out"], row.left_out_json)

    def test_twenty_clips_have_a_folder_each_also_where_two_are_called_alike(self):
        clips = [self.clip, *(make_clip(self.row, 3, 14, "Same") for _ in range(19))]
        for clip in clips[:3]:
            self.export(clip)
        row = self.pack(*clips)
        with self.opened(row) as archive:
            sheets = [name for name in archive.namelist() if name.endswith("/sheet.json")]
            self.assertEqual(len({*archive.namelist()}), len(archive.namelist()))
            self.assertEqual(len({name.split("/")[0] for name in sheets}), 20)
        self.assertEqual(sum("film" in each for each in row.left_out_json), 17)

    def test_a_film_of_what_the_clip_was_is_left_out_and_one_that_changes_meanwhile_is_packed_as_it_was_asked(self):
        film = self.export()
        apply_edit(self.clip, 1, CutWords(piece="p1", words=(5,)), None)
        row = self.pack(parts=["film"])
        self.assertIn("not exported as the clip is now", row.left_out_json[0])
        with self.opened(row) as archive:
            self.assertEqual(archive.namelist(), ["contents.json", "SHA256SUMS"])
        film.delete()
        with self.opened(row) as archive:
            self.assertIsNone(archive.testzip())

    def test_a_broken_off_download_goes_on_where_it_was(self):
        self.export()
        row = self.pack()
        whole = row.file.read_bytes()
        path = f"/api/packages/{row.pk}/package.zip"
        first = b"".join(self.client.get(path, headers={"Range": "bytes=0-99"}).streaming_content)
        rest = self.client.get(path, headers={"Range": "bytes=100-"})
        self.assertEqual(rest.status_code, 206)
        self.assertEqual(first + b"".join(rest.streaming_content), whole)

    def test_it_is_kept_for_a_day(self):
        row = self.pack()
        self.assertEqual(forget_old_packages(), 0)
        later = timezone.now() + timedelta(days=1, minutes=1)
        with mock.patch("django.utils.timezone.now", return_value=later), self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(forget_old_packages(), 1)
        self.assertFalse(row.folder.exists())

    def test_what_is_unknown_or_of_others_is_refused(self):
        elsewhere = make_clip(self.recording(workspace=self.other.memberships.get().workspace), 3, 9)
        for body, status in (
            ({"clips": [str(elsewhere.pk)], "parts": ["film"]}, 404),
            ({"clips": [str(self.clip.pk)], "parts": ["secrets"]}, 422),
            ({"clips": [], "parts": ["film"]}, 422),
            ({"clips": [str(self.clip.pk)] * 201, "parts": ["film"]}, 422),
        ):
            self.assertEqual(self.post("/api/packages", body).status_code, status, body)
        row = self.pack()
        self.client.force_login(self.other)
        for path in (f"/api/packages/{row.pk}", f"/api/packages/{row.pk}/package.zip"):
            self.assertEqual(self.client.get(path).status_code, 404)
        self.assertEqual(self.client.delete(f"/api/packages/{row.pk}").status_code, 404)

    def test_a_clip_that_is_deleted_before_it_is_packed_is_told(self):
        body = {"clips": [str(self.clip.pk)], "parts": ["sheet"]}
        row = Package.objects.get(pk=self.post("/api/packages", body).json()["id"])
        self.client.delete(self.path)
        run_job.func(str(Job.objects.get(target=row.pk).pk))
        row.refresh_from_db()
        self.assertEqual(row.left_out_json, ["A clip was deleted."])


class Timelines(HandoverCase):
    def timeline(self, kind: str = "otio") -> str:
        answer = self.client.get(f"{self.path}/editions/e1/timeline.{kind}")
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.content.decode()

    def bring(self, text: str, version: int = 1):
        file = SimpleUploadedFile("back.otio", text.encode())
        return self.client.post(f"{self.path}/timeline", {"file": file, "version": version, "edition": "e1"})

    def test_what_comes_back_in_another_order_is_one_change_and_undo_takes_it_back(self):
        apply_edit(self.clip, 1, CutWords(piece="p1", words=(8,)), None)
        same = self.bring(self.timeline(), 2).json()
        self.assertEqual((same["changed"], same["left_out"], same["document"]["version"]), (False, [], 2))
        whole = otio.adapters.read_from_string(self.timeline(), "otio_json")
        track = whole.tracks[0]
        last = track[-1].deepcopy()
        del track[-1]
        track.insert(0, last)
        taken = self.bring(whole.to_json_string(), 2).json()
        self.assertTrue(taken["changed"])
        words = [each["id"] for each in taken["document"]["plan"]["words"]]
        self.assertEqual(words, [9, 10, 11, 12, 13, 14, 3, 4, 5, 6, 7])
        story = self.client.get(f"{self.path}/history").json()
        self.assertEqual(story[0]["what"], "Took in a timeline from another editor")
        back = self.post(f"{self.path}/undo", {"version": 3, "since": None}).json()
        self.assertEqual([each["id"] for each in back["plan"]["words"]], [3, 4, 5, 6, 7, 9, 10, 11, 12, 13, 14])

    def test_on_an_older_version_nothing_is_done(self):
        text = self.timeline()
        apply_edit(self.clip, 1, CutWords(piece="p1", words=(8,)), None)
        self.assertEqual(self.bring(text, 1).status_code, 409)

    def test_an_edl_and_a_whole_desk_with_its_mistakes_taken_out(self):
        self.assertIn("FROM CLIP", self.timeline("edl"))
        desk = desk_of(self.row)
        apply_edit(desk, 1, CutWords(piece="p1", words=(5, 6)), None)
        text = self.client.get(f"/api/documents/{desk.pk}/editions/e1/timeline.otio").content.decode()
        whole = otio.adapters.read_from_string(text, "otio_json")
        self.assertEqual(len(list(whole.tracks[0].find_clips())), 2)
        self.assertEqual(whole.tracks[0][0].media_reference.target_url, "talk.mp3")

    def test_what_is_no_timeline_is_refused_and_others_have_none(self):
        self.assertEqual(self.bring("nothing").status_code, 422)
        self.assertEqual(self.client.get(f"{self.path}/editions/e1/timeline.xml").status_code, 422)
        self.assertEqual(self.client.get(f"{self.path}/editions/e9/timeline.otio").status_code, 404)
        self.client.force_login(self.other)
        self.assertEqual(self.client.get(f"{self.path}/editions/e1/timeline.otio").status_code, 404)
        self.assertEqual(self.bring("{}").status_code, 404)
