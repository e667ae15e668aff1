"""House styles of a workspace: kept from a clip, laid onto others in one change, changed, deleted."""

import io
import json
import zipfile

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from PIL import Image

from hovvet.core.words.glossary import Term
from hovvet.server.assets.models import Asset
from hovvet.server.documents.making import make_clip
from hovvet.server.documents.models import Document
from hovvet.server.recordings.models import Recording, Show
from tests.media import DEMO
from tests.server.base import ServerCase


class Houses(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        row = self.recording()
        self.shown, self.other = make_clip(row, 3, 14), make_clip(row, 5, 12)
        self.version = self.ask(self.shown, 1, {"kind": "progress", "colour": "#C2412D"})
        self.version = self.ask(
            self.shown, self.version, {"kind": "title", "template": "header", "text": "Bench Notes"}
        )

    def ask(self, clip, version: int, content: dict) -> int:
        ask = {"ask": "lay", "content": content, "first": None, "last": None}
        return self.post(f"/api/documents/{clip.pk}/asks", {"version": version, "ask": ask}).json()["version"]

    def keep(self, name: str = "Quillhaven"):
        return self.post("/api/house", {"clip": str(self.shown.pk), "name": name})

    def dress(self, house: dict, version: int, client=None):
        return self.post(f"/api/house/{house['key']}/clips", {"clip": str(self.other.pk), "version": version}, client)

    def layers(self, answer) -> dict[str, dict]:
        return {layer["id"]: layer["content"] for layer in answer.json()["sheet"]["layers"]}

    def test_a_clip_is_dressed_in_one_change_and_again_when_the_style_has_changed(self):
        house = self.keep().json()
        self.assertEqual(
            (house["version"], house["parts"]), (1, ["Captions: Bold", "Progress bar", "Headline", "1 edition"])
        )
        self.assertEqual(self.keep("quillhaven").status_code, 409, "a name is taken once")
        own = f"/api/house/{house['key']}/changes?clip={self.shown.pk}"
        self.assertEqual(self.client.get(own).json(), [], "its own clip looks so already")
        shown = self.client.get(f"/api/documents/{self.shown.pk}").json()
        self.assertEqual((shown["sheet"]["house"]["key"], shown["version"]), (house["key"], self.version + 1))
        self.version = shown["version"]
        would = f"/api/house/{house['key']}/changes?clip={self.other.pk}"
        self.assertEqual(self.client.get(would).json(), ["New: Progress bar", f"New: {self.other.title}"])
        answer = self.dress(house, 1)
        self.assertEqual(answer.status_code, 200, answer.content)
        self.assertEqual(self.client.get(would).json(), [])
        made = self.layers(answer)
        self.assertEqual(made["house-progress-1"]["colour"], "#C2412D")
        self.assertEqual(made["house-title-1"]["text"], answer.json()["title"], "what the clip is called")
        self.assertEqual(answer.json()["version"], 2)
        self.assertEqual(self.dress(house, 1).status_code, 409, "made on what has moved on")

        self.ask(self.shown, self.version, {"kind": "progress", "colour": "#47713F"})
        body = {"clip": str(self.shown.pk), "name": "Quillhaven"}
        newer = self.client.put(f"/api/house/{house['key']}", body, content_type="application/json").json()
        self.assertEqual((newer["version"], newer["key"]), (2, house["key"]))
        self.assertEqual(self.client.get("/api/house").json(), [newer])
        self.assertEqual(self.client.get(would).json(), ["Changed: Progress bar"])
        again = self.dress(house, 2)
        self.assertEqual(self.layers(again)["house-progress-1"]["colour"], "#47713F")
        self.assertEqual(again.json()["sheet"]["house"]["version"], 2)
        for version in (3, 4):
            back = self.post(f"/api/documents/{self.other.pk}/undo", {"version": version})
        self.assertEqual((self.layers(back), back.json()["sheet"]["house"]), ({}, None))
        told = [each["what"] for each in self.client.get(f"/api/documents/{self.other.pk}/history").json()]
        self.assertIn("House style applied", told)

    def test_it_has_the_names_and_terms_of_its_show_a_card_and_what_files_are_called(self):
        row = Recording.objects.get()
        row.change_terms(lambda _: [Term(text="Quillhaven", heard=("w6",))])
        card = {"ask": "add_card", "at": "end", "seconds": 2, "content": {"kind": "slide", "text": "Mend it first"}}
        self.post(f"/api/documents/{self.shown.pk}/asks", {"version": self.version, "ask": card})
        body = {"clip": str(self.shown.pk), "name": "With a card", "naming": "{date} {title}"}
        house = self.post("/api/house", body).json()
        self.assertLessEqual({"Closing card, 2 s", "1 names & terms", "Files: {date} {title}"}, set(house["parts"]))
        made = self.dress(house, 1).json()
        laid = {layer["id"]: layer["content"].get("text") for layer in made["sheet"]["layers"]}
        self.assertEqual(laid["house-closing"], "Mend it first")
        self.assertIn("Quillhaven", laid.values())
        self.assertEqual(made["sheet"]["pieces"][-1]["id"], "house-closing")
        begun = self.post(f"/api/documents/desk/{row.pk}/clips", {"first": 2, "last": 9, "house": house["key"]}).json()
        self.assertEqual(begun["sheet"]["house"]["naming"], "{date} {title}")
        again = self.client.put(f"/api/house/{house['key']}", body, content_type="application/json").json()
        self.assertEqual((again["naming"], again["version"]), ("{date} {title}", 2))

    def test_a_clip_is_seen_in_shapes_before_they_are_kept_with_a_house_style_in_one_change(self):
        house = self.keep().json()
        path = f"/api/documents/{self.other.pk}/shapes"
        seen = {"outlet": "portrait", "house": house["key"], "part": 0.5}
        answer = self.client.get(f"{path}/picture", seen)
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "image/png"), answer.content[:200])
        with Image.open(io.BytesIO(answer.content)) as picture:
            self.assertEqual(picture.size, (360, 450))
            dressed = np.asarray(picture.convert("RGB"))
        plain = self.client.get(f"{path}/picture", seen | {"house": "", "dressing": "plain"}).content
        with Image.open(io.BytesIO(plain)) as picture:
            self.assertFalse(np.array_equal(np.asarray(picture.convert("RGB")), dressed))
        self.assertEqual(self.client.get(f"{path}/picture", seen | {"outlet": "gone"}).status_code, 422)
        self.assertEqual(Document.objects.get(pk=self.other.pk).version, 1, "nothing was changed by looking")
        shapes = [{"outlet": "tall"}, {"outlet": "portrait"}, {"outlet": "wide", "dressing": "captioned"}]
        body = {"version": 1, "house": house["key"], "shapes": shapes}
        kept = self.post(path, body)
        self.assertEqual(kept.status_code, 200, kept.content)
        self.assertEqual([each["outlet"] for each in kept.json()["sheet"]["editions"]], ["tall", "portrait", "wide"])
        self.assertIn("house-progress-1", self.layers(kept))
        self.assertEqual(self.post(path, body).status_code, 409, "made on what has moved on")
        back = self.post(f"/api/documents/{self.other.pk}/undo", {"version": 2}).json()["sheet"]
        self.assertEqual((len(back["editions"]), back["house"]), (1, None))
        self.client.force_login(self.member("outsider", "Elsewhere")[0])
        self.assertEqual(self.client.get(f"{path}/picture", seen).status_code, 404)
        self.assertEqual(self.post(path, body).status_code, 404)

    def test_a_deleted_logo_is_told_on_the_clip_and_deleting_the_style_changes_no_clip(self):
        asset = Asset.objects.create(
            workspace=self.workspace, kind="sticker", name="Mark", info_json={"width": 8, "height": 8}
        )
        self.ask(self.shown, self.version, {"kind": "logo", "media": str(asset.pk)})
        house = self.keep().json()
        asset.delete()
        answer = self.dress(house, 1)
        (bar,) = [bar for bar in answer.json()["bars"] if bar["kind"] == "logo"]
        self.assertIn("deleted", bar["note"])
        self.assertEqual(self.client.delete(f"/api/house/{house['key']}").status_code, 204)
        self.assertIn("house-logo-1", self.layers(self.client.get(f"/api/documents/{self.other.pk}")))
        self.assertEqual(self.dress(house, 2).status_code, 404)

    def test_another_workspace_has_styles_of_its_own(self):
        house = self.keep().json()
        self.client.force_login(self.member("outsider", "Elsewhere")[0])
        self.assertEqual(self.client.get("/api/house").json(), [])
        self.assertEqual(self.dress(house, 1).status_code, 404)
        self.assertEqual(self.keep("Mine").status_code, 404)

    def test_new_clips_of_a_show_are_dressed_in_its_style_as_a_change_that_can_be_undone(self):
        house = self.keep().json()
        path = f"/api/house/{house['key']}/show"

        def put(on: bool):
            return self.client.put(path, {"clip": str(self.shown.pk), "on": on}, content_type="application/json")

        self.assertEqual(put(True).status_code, 409, "the recording is in no show")
        row = Recording.objects.get()
        row.show = Show.objects.create(workspace=self.workspace, name="Bench Notes")
        row.save()
        self.assertEqual(put(True).json()["shows"], ["Bench Notes"])
        clip = {"first": 5, "last": 12}
        made = self.post(f"/api/documents/desk/{row.pk}/clips", clip).json()
        self.assertEqual((made["sheet"]["house"]["key"], made["version"]), (house["key"], 2))
        self.assertIn("house-progress-1", [layer["id"] for layer in made["sheet"]["layers"]])
        undone = self.post(f"/api/documents/{made['id']}/undo", {"version": 2}).json()
        self.assertEqual(undone["sheet"]["layers"], [])
        self.assertEqual(put(False).json()["shows"], [])
        plain = self.post(f"/api/documents/desk/{row.pk}/clips", clip).json()
        self.assertEqual((plain["version"], plain["sheet"]["layers"]), (1, []))
        self.assertEqual(put(True).status_code, 200)
        self.client.delete(f"/api/house/{house['key']}")
        self.assertEqual(
            self.post(f"/api/documents/desk/{row.pk}/clips", clip).json()["version"], 1, "the style is gone"
        )

    def brought(self, data: bytes, client=None):
        client = client or self.client
        return client.post("/api/house/file", {"file": SimpleUploadedFile("style.zip", data)})

    def test_it_goes_out_as_one_file_and_comes_in_elsewhere_with_all_it_needs(self):
        mark = (DEMO / "stickers" / "quillhaven-mark.svg").read_bytes()
        logo = self.client.post("/api/assets?kind=sticker", {"file": SimpleUploadedFile("mark.svg", mark)}).json()
        self.ask(self.shown, self.version, {"kind": "logo", "media": logo["key"]})
        house = self.keep().json()
        answer = self.client.get(f"/api/house/{house['key']}/file")
        self.assertEqual(answer["Content-Type"], "application/zip")
        told = json.loads(zipfile.ZipFile(io.BytesIO(answer.content)).read("house.json"))
        self.assertEqual((told["name"], [each["name"] for each in told["assets"]]), ("Quillhaven", ["mark"]))

        other = Client()
        other.force_login(self.member("outsider", "Elsewhere")[0])
        made = self.brought(answer.content, other).json()
        self.assertEqual(
            (made["told"], made["house"]["name"], made["house"]["parts"]), ("", "Quillhaven", house["parts"])
        )
        own = Asset.objects.exclude(workspace=self.workspace).get()
        self.assertEqual((own.name, own.size), ("mark", Asset.objects.get(workspace=self.workspace).size))
        again = other.get(f"/api/house/{made['house']['key']}/file").content
        style = json.loads(zipfile.ZipFile(io.BytesIO(again)).read("house.json"))["style"]
        self.assertEqual([each.get("media") for each in style["laid"]].count(str(own.pk)), 1)
        self.assertEqual(other.get(f"/api/house/{house['key']}/file").status_code, 404)
        self.assertEqual(self.brought(answer.content).json()["house"]["name"], "Quillhaven 2")

    def test_what_is_no_such_file_is_refused_and_leaves_nothing(self):
        kept = self.client.get(f"/api/house/{self.keep().json()['key']}/file").content
        good = json.loads(zipfile.ZipFile(io.BytesIO(kept)).read("house.json"))

        def packed(told: object, **files: bytes) -> bytes:
            made = io.BytesIO()
            with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as file:
                file.writestr("house.json", json.dumps(told))
                for name, data in files.items():
                    file.writestr(name, data)
            return made.getvalue()

        entry = {"key": "x1", "kind": "font", "name": "Hand", "file": "assets/1.ttf"}
        for data in (
            b"", b"PK", packed({}), packed(good | {"version": 2}), packed(good | {"assets": [entry]}),
            packed(good | {"assets": [entry | {"file": "assets/../../x"}]}), packed(good)[:-30],
        ):  # fmt: skip
            answer = self.brought(data)
            self.assertEqual(answer.status_code, 422, data[:40])
            self.assertIn("house style", answer.json()["detail"])
        bomb = packed(good, **{"assets/1.ttf": bytes(201_000_000)})
        self.assertIn("too much", self.brought(bomb).json()["detail"])
        self.assertEqual(len(self.client.get("/api/house").json()), 1)
        made = self.brought(packed(good | {"assets": [entry]}, **{"assets/1.ttf": b"no font"})).json()
        self.assertIn("“Hand” could not be brought in", made["told"])
        self.assertEqual(Asset.objects.count(), 0)
