"""The Kit: films, pictures and stickers with their licences; the stock library; where things are used, and may be."""

import io
import json
from datetime import timedelta
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.utils import timezone
from PIL import Image

from hovvet.core.media.frames import pick_frames
from hovvet.core.media.probe import probe
from hovvet.core.shelf.licence import Licence
from hovvet.core.time import Rate
from hovvet.server.assets.models import Asset
from hovvet.server.documents.making import make_clip
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job
from hovvet.server.recordings.models import Recording
from tests.media import DEMO, LEVELS, counted, number, spoken
from tests.server.base import ServerCase

SAID = "It has stopped and the clock on the wall shows no time now."
CLOCK = DEMO / "stickers" / "alarm-clock.svg"


class ShelfCase(ServerCase):
    def listed(self, *kinds: str, text: str = "") -> list[dict]:
        return self.client.get("/api/assets", {"kind": kinds, "text": text}).json()

    def take(self, item: str) -> dict:
        answer = self.post(f"/api/stock/{item}", {})
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.json()

    def change(self, asset: dict, **values):
        body = json.dumps({"version": asset["version"], **values})
        return self.client.patch(f"/api/assets/{asset['id']}", body, content_type="application/json")


class Stock(ShelfCase):
    def test_it_is_searched_page_by_page_by_words_and_by_meaning(self):
        first, second, beyond = (self.client.get("/api/stock", {"page": page}).json() for page in (1, 2, 50))
        offered = json.loads((DEMO / "stock" / "catalogue.json").read_text())
        self.assertEqual((first["total"], len(first["items"]), len(second["items"])), (len(offered), 12, 12))
        self.assertEqual(beyond["items"], [])
        self.assertEqual(len({item["id"] for page in (first, second) for item in page["items"]}), 24)
        best = self.client.get("/api/stock", {"text": "sailing at sunset", "kind": "video"}).json()["items"][0]
        self.assertEqual(
            (best["name"], best["told"], best["asks"][:12]), ("Evening in the harbour", "€12", "It costs €12")
        )
        self.assertEqual(self.client.get("/api/stock", {"text": "tax return"}).json()["total"], 0)

    def test_previews_move_where_the_item_does(self):
        still, moving, film_standing = (
            self.client.get(f"/api/stock/{item}/preview", {"moving": moves}).content
            for item, moves in (("gears-picture", True), ("gears-video", True), ("gears-video", False))
        )
        self.assertEqual([b"ANIM" in each for each in (still, moving, film_standing)], [False, True, False])
        self.assertEqual(self.client.get("/api/stock/nothing/preview").status_code, 422)

    def test_emoji_are_stickers_found_by_what_is_said_and_taken_once(self):
        found = self.client.get("/api/stock", {"kind": "sticker", "text": "he has one of the clocks"}).json()["items"]
        self.assertIn("Alarm clock", [item["name"] for item in found])
        self.assertFalse([item for item in found if "clock" not in item["name"].lower()])
        first, second = (
            self.client.get("/api/stock", {"kind": "sticker", "page": page}).json()["items"] for page in (1, 2)
        )
        self.assertEqual((len(first), len({item["id"] for item in (*first, *second)})), (40, 80))
        shown = self.client.get("/api/stock/emoji-alarm-clock/preview")
        self.assertEqual(shown["Content-Type"], "image/svg+xml")
        self.assertTrue(shown.content.startswith(b"<svg"))
        taken = [self.post("/api/stock/emoji-alarm-clock", {}).json() for _ in range(2)]
        self.assertEqual(taken[0]["key"], taken[1]["key"])
        self.assertEqual(
            (taken[0]["kind"], taken[0]["name"], taken[0]["terms"]["sort"]), ("sticker", "Alarm clock", "free")
        )
        self.assertEqual(self.post("/api/stock/emoji-..%2f..%2fx", {}).status_code, 404)
        self.assertEqual(self.post("/api/stock/emoji-nothing", {}).status_code, 422)

    def test_a_picture_is_taken_with_its_licence_and_once(self):
        made = self.take("gears-picture")
        self.assertEqual((made["name"], made["terms"]["credit"]), ("Brass gears", "Ottilie Marsh"))
        self.assertEqual((made["width"], made["height"], made["ready"]), (1920, 1080, True))
        self.assertEqual(self.take("gears-picture")["key"], made["key"])
        self.assertEqual(len(self.listed("picture")), 1)
        there = {item["id"]: item["key"] for item in self.client.get("/api/stock", {"text": "gears"}).json()["items"]}
        self.assertEqual((there["gears-picture"], there["gears-video"]), (made["key"], ""))

    def test_a_film_is_prepared_without_words_and_no_recording_is_listed(self):
        made = self.take("toaster-video")
        self.assertEqual((made["ready"], made["job"], made["seconds"]), (False, None, None))
        job = Job.objects.get()
        self.assertEqual(self.listed("video")[0]["job"]["state"], "queued")
        run_job.func(str(job.pk))
        (film,) = self.listed("video")
        self.assertEqual((film["ready"], film["width"]), (True, 960))
        self.assertAlmostEqual(film["seconds"], 6, delta=0.1)
        self.assertEqual({each.kind for each in Job.objects.all()}, {"prepare", "seen"}, "nobody listens to it")
        self.assertNotIn("Colour", film["traits"])
        run_job.func(str(Job.objects.get(kind="seen").pk))
        (film,) = self.listed("video")
        self.assertTrue(film["traits"]["Colour"])
        self.assertEqual(film["traits"]["People"], ["nobody"])
        self.assertEqual(self.client.get("/api/recordings").json(), [])
        self.assertEqual(Recording.objects.get().notice, "")
        stored = Recording.objects.get().folder
        with self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(self.client.delete(f"/api/assets/{film['id']}").status_code, 204)
        self.assertFalse(stored.exists())
        self.assertEqual((Asset.objects.count(), Recording.objects.count()), (0, 0))

    def test_a_sound_is_prepared_heard_beforehand_and_stands_among_the_sounds(self):
        heard = self.client.get("/api/stock/pling-sound/preview", {"moving": True})
        self.assertEqual((heard["Content-Type"], heard.content[:4]), ("audio/wav", b"RIFF"))
        self.assertEqual(self.client.get("/api/stock/pling-sound/preview")["Content-Type"], "image/webp")
        found = self.client.get("/api/stock", {"kind": "sound", "text": "tea water"}).json()["items"]
        self.assertEqual(found[0]["name"], "Kettle")
        made = self.take("pling-sound")
        self.assertEqual((made["kind"], made["ready"]), ("sound", False))
        run_job.func(str(Job.objects.get().pk))
        (sound,) = self.listed("sound")
        self.assertEqual((sound["ready"], sound["width"], sound["traits"]["Length"]), (True, 0, ["under 5 seconds"]))
        self.assertAlmostEqual(sound["seconds"], 1.2, delta=0.1)
        self.assertEqual(self.listed("video", "picture"), [])

    def test_a_part_of_a_recording_is_kept_as_a_film_exact_to_the_frame(self):
        row = self.recording()
        counted(self.media_root / "made.mp4", 4).replace(row.original)
        row.media_json = probe(row.original).model_dump(mode="json")
        row.save()
        part = {"recording": str(row.pk), "start": 1.0, "end": 2.5, "name": "The bell"}
        for wrong in ({"end": 9}, {"end": 1.0}, {"start": 3}, {"end": 1.1}):
            self.assertEqual(self.post("/api/assets/parts", part | wrong).status_code, 422, wrong)
        self.assertEqual(Asset.objects.count(), 0)
        made = self.post("/api/assets/parts", part).json()
        self.assertEqual((made["kind"], made["name"], made["ready"]), ("video", "The bell", False))
        run_job.func(str(Job.objects.get().pk))
        (film,) = self.listed("video")
        self.assertTrue(film["ready"])
        self.assertAlmostEqual(film["seconds"], 1.5, delta=0.05)
        own = Recording.objects.get(for_shelf=True)
        self.assertEqual(
            [number(frame) for frame in pick_frames(own.original, Rate(), [0, 20])], [30 % LEVELS, 50 % LEVELS]
        )
        self.assertEqual(self.post("/api/recordings/links", {"link": own.link}).status_code, 422)
        self.client.force_login(self.member("outsider", "Elsewhere")[0])
        self.assertEqual(self.post("/api/assets/parts", part).status_code, 404)

    def test_what_a_link_leads_to_is_fetched_by_a_job_and_one_that_failed_can_be_fetched_again(self):
        picture = io.BytesIO()
        Image.new("RGB", (40, 30), "#2B5FC7").save(picture, "PNG")
        with mock.patch("hovvet.server.recordings.links.shared_file") as shared:
            shared.return_value = self.media_root / "blue.png"
            shared.return_value.write_bytes(picture.getvalue())
            answer = self.post("/api/assets/links", {"link": "/drive/files/blue.png", "kind": "picture"})
            self.assertEqual(answer.status_code, 200, answer.content)
            made = answer.json()
            self.assertEqual((made["name"], made["ready"]), ("blue", False))
            with mock.patch("hovvet.server.assets.from_stock.largest", return_value=50):
                run_job.func(str(Job.objects.get().pk))
            (failed,) = self.listed("picture")
            self.assertIn("larger than", failed["job"]["error"])
            self.assertEqual(self.post(f"/api/assets/{made['id']}/fetch").status_code, 204)
            run_job.func(str(Job.objects.get(state="queued").pk))
        (made,) = self.listed("picture")
        self.assertEqual((made["ready"], made["width"], made["traits"]["Colour"]), (True, 40, ["blue"]))
        self.assertEqual(self.post(f"/api/assets/{made['id']}/fetch").status_code, 409)
        link = {"link": "/drive/files/bench-notes-teaser.opus", "kind": "sound"}
        heard = self.post("/api/assets/links", link).json()
        self.assertEqual((heard["kind"], heard["ready"]), ("sound", False))
        self.assertEqual(Job.objects.get(state="queued").kind, "prepare")
        for wrong in ("stock:gears-video", "http://files.example/x.mp4", "no link"):
            self.assertEqual(self.post("/api/assets/links", link | {"link": wrong}).status_code, 422, wrong)
        self.assertEqual(Asset.objects.count(), 2, "what is refused leaves nothing")

    def test_tags_are_offered_that_others_have_and_its_name_says(self):
        made = self.take("clock-picture")
        asset = Asset.objects.get(pk=made["id"])
        asset.name, asset.tags = "Old alarm clock ringing", ["clock"]
        asset.save()
        offered = self.client.get(f"/api/assets/{asset.pk}/tags").json()
        self.assertIn("alarm", offered)
        self.assertTrue({"time", "ring", "bell"} & set(offered), offered)
        self.assertNotIn("clock", offered, "it has that")
        self.client.force_login(self.member("outsider", "Elsewhere")[0])
        self.assertEqual(self.client.get(f"/api/assets/{asset.pk}/tags").status_code, 404)

    def test_it_cannot_be_fetched_as_a_recording(self):
        self.assertEqual(self.post("/api/recordings/links", {"link": "stock:gears-video"}).status_code, 422)


class Standing(ShelfCase):
    def test_names_tags_and_favourites_are_changed_by_version_and_found(self):
        made = self.client.post("/api/assets?kind=sticker", {"file": SimpleUploadedFile("x.svg", CLOCK.read_bytes())})
        asset = made.json()
        changed = self.change(asset, name="Alarm clock", tags=["time", "morning"], favourite=True)
        self.assertEqual(changed.status_code, 200, changed.content)
        self.assertEqual((changed.json()["version"], changed.json()["favourite"]), (2, True))
        self.assertEqual(self.change(asset, name="Other").status_code, 409)
        self.assertEqual(
            [each["name"] for each in self.listed("sticker", "picture", text="waking up early")], ["Alarm clock"]
        )
        self.assertEqual(self.listed("sticker", text="tax return"), [])
        self.assertEqual(self.change(changed.json(), tags=["x" * 41]).status_code, 422)

    def test_which_clips_use_it_is_told_as_they_stand(self):
        key = self.take("kettle-picture")["key"]
        clip = make_clip(self.recording(), 3, 14)
        uses = f"/api/assets/{Asset.objects.get().pk}/clips"
        self.assertEqual(self.client.get(uses).json(), [])
        path = f"/api/documents/{clip.pk}"
        ask = {"ask": "lay", "content": {"kind": "broll", "media": key}, "first": None, "last": None}
        self.assertEqual(self.post(f"{path}/asks", {"version": 1, "ask": ask}).status_code, 200)
        self.assertEqual([each["id"] for each in self.client.get(uses).json()], [str(clip.pk)])
        self.post(f"{path}/undo", {"version": 2})
        self.assertEqual(self.client.get(uses).json(), [])

    def licences(self, path: str) -> tuple[list[str], list[dict]]:
        credits = self.client.get(f"{path}/editions/e1/post").json()["credits"]
        faults = self.client.get(f"{path}/proof").json()["faults"]
        self.assertEqual(
            [each["says"] for each in faults if each["check"] == "credit"],
            [
                f"The text for the post has to name {line}. Write that text: the line is put under it."
                for line in credits
            ],
        )
        return credits, [each for each in faults if each["gravity"] == "stops"]

    def test_one_field_of_its_licence_is_changed_and_the_others_stay(self):
        asset = self.take("gears-picture")
        before = asset["terms"]
        asset = self.change(asset, terms={"credit": "Tolliver"}).json()
        self.assertEqual(asset["terms"], before | {"credit": "Tolliver"})
        asset = self.change(asset, terms={"until": "2030-05-01"}).json()
        self.assertEqual(asset["terms"], before | {"credit": "Tolliver", "until": "2030-05-01"})
        asset = self.change(asset, terms={"until": None}).json()
        self.assertEqual(asset["terms"], before | {"credit": "Tolliver"})

    def test_what_may_not_be_used_is_refused_at_export_and_its_author_is_named(self):
        asset = self.take("gears-picture")
        clip = make_clip(self.recording(), 3, 14)
        path = f"/api/documents/{clip.pk}"
        ask = {"ask": "lay", "content": {"kind": "broll", "media": asset["key"]}, "first": None, "last": None}
        self.post(f"{path}/asks", {"version": 1, "ask": ask})
        self.assertEqual(self.licences(path), (["“Brass gears” by Ottilie Marsh (Harbour Stock)"], []))
        wanted = {"editions": ["e1"], "output": {}}
        until = timezone.localdate() + timedelta(days=10)
        terms = Licence(sort="paid", until=until, price=4).model_dump(mode="json")
        asset = self.change(asset, terms=terms).json()
        self.assertEqual((asset["refusal"], self.licences(path)), ("", ([], [])))
        later = until + timedelta(days=1)
        with mock.patch("django.utils.timezone.localdate", return_value=later):
            _, (refused,) = self.licences(path)
            self.assertEqual((refused["key"], refused["where"]["start"]), (f"licence:{asset['key']}", 0.0))
            self.assertIn("its licence ended on", refused["says"])
            left = self.post(f"{path}/proof/left", {"key": refused["key"], "why": "we like it"})
            self.assertEqual(left.status_code, 409)
            (fix,) = refused["fixes"]
            self.assertEqual([each["type"] for each in fix["edits"]], ["remove_layer"])
            (expected,) = self.post(f"{path}/exports/expected", wanted).json()
            self.assertEqual(expected["stops"], [refused["says"]])
            answer = self.post(f"{path}/exports", wanted)
            self.assertEqual(answer.status_code, 409)
            self.assertIn("“Brass gears”, at 0:00, may not be used: its licence ended on", answer.json()["detail"])
        self.assertEqual(self.post(f"{path}/exports/expected", wanted).json()[0]["stops"], [])
        self.assertEqual(self.post(f"{path}/exports", wanted).status_code, 200)

    def test_music_has_its_author_named_and_is_refused_once_its_licence_has_ended(self):
        asset = self.take("hope-sound")
        row = Recording.objects.get(pk=asset["key"])
        row.media_json = {"duration": 30, "has_picture": False, "has_sound": True}
        row.transcript_json = {"duration": 30, "words": []}
        row.save()
        clip = make_clip(self.recording(), 3, 14)
        path = f"/api/documents/{clip.pk}"
        ask = {"ask": "lay", "content": {"kind": "sound", "media": asset["key"]}, "first": None, "last": None}
        self.assertEqual(self.post(f"{path}/asks", {"version": 1, "ask": ask}).status_code, 200)
        terms = Licence(sort="attribution", credit="Ottilie Marsh").model_dump(mode="json")
        asset = self.change(asset, terms=terms).json()
        self.assertEqual(self.licences(path), ([f"“{asset['name']}” by Ottilie Marsh"], []))
        self.assertEqual(
            [each["id"] for each in self.client.get(f"/api/assets/{asset['id']}/clips").json()], [str(clip.pk)]
        )
        over = timezone.localdate() - timedelta(days=1)
        self.change(asset, terms=Licence(sort="paid", until=over).model_dump(mode="json"))
        answer = self.post(f"{path}/exports", {"editions": ["e1"], "output": {}})
        self.assertEqual(answer.status_code, 409)
        self.assertIn("may not be used: its licence ended", answer.json()["detail"])

    def test_another_workspace_has_a_shelf_of_its_own(self):
        made = self.take("kettle-picture")
        self.client.force_login(self.member("outsider", "Elsewhere")[0])
        self.assertEqual(self.listed("picture", "video", "sticker"), [])
        for answer in (self.change(made, name="Mine"), self.client.get(f"/api/assets/{made['id']}/clips")):
            self.assertEqual(answer.status_code, 404)


class Suggested(ShelfCase):
    def test_each_stretch_of_a_clip_gets_what_shows_it_and_nothing_is_laid(self):
        self.take("clock-picture")
        clip = make_clip(self.recording(spoken(f"{SAID} {SAID} {SAID}")), 3, 30)
        path = f"/api/documents/{clip.pk}"
        before = self.client.get(path).json()["version"]
        found = self.client.get(f"{path}/suggestions").json()
        self.assertGreater(len(found), 1)
        words = [word["id"] for word in self.client.get(path).json()["plan"]["words"]]
        self.assertEqual((found[0]["first"]["word"], found[-1]["last"]["word"]), (words[0], words[-1]))
        best = found[0]["things"][0]
        self.assertEqual((best["name"], best["key"] != ""), ("A clock on the wall", True), "what is ours comes first")
        self.assertLessEqual(max(len(each["things"]) for each in found), 3)
        self.assertEqual({each["covered"] for each in found}, {False})
        self.assertEqual(self.client.get(path).json()["version"], before)
        lay = {"ask": "lay", "content": {"kind": "broll", "media": best["key"]}} | {
            edge: found[0][edge] for edge in ("first", "last")
        }
        self.post(f"{path}/asks", {"version": before, "ask": lay})
        self.assertEqual([each["covered"] for each in self.client.get(f"{path}/suggestions").json()[:2]], [True, False])

    def test_cuts_where_the_picture_jumps_are_told_until_they_are_covered(self):
        row = self.recording(spoken(f"{SAID} {SAID} {SAID}"))
        row.media_json |= {"has_picture": True, "width": 640, "height": 360}
        row.save()
        clip = make_clip(row, 3, 30)
        path = f"/api/documents/{clip.pk}"
        now = self.client.get(path).json()
        self.assertEqual(self.client.get(f"{path}/suggestions", {"over": "cuts"}).json(), [])
        piece, words = now["sheet"]["pieces"][0]["id"], [word["id"] for word in now["plan"]["words"]]
        cut = {"type": "cut_words", "piece": piece, "words": words[12:14]}
        version = self.post(f"{path}/edits", {"version": 1, "edit": cut}).json()["version"]
        (found,) = self.client.get(f"{path}/suggestions", {"over": "cuts"}).json()
        self.assertEqual(found["shot"][0]["word"], words[14])
        self.assertTrue(words.index(found["first"]["word"]) < 12 and words.index(found["last"]["word"]) > 13)
        self.assertTrue(found["things"] and not found["covered"])
        punch = {"ask": "lay", "content": {"kind": "punch"}, "first": found["shot"][0], "last": found["shot"][1]}
        self.assertEqual(self.post(f"{path}/asks", {"version": version, "ask": punch}).status_code, 200)
        (found,) = self.client.get(f"{path}/suggestions", {"over": "cuts"}).json()
        self.assertTrue(found["covered"], "a closer view from there reads as a change of shot")
