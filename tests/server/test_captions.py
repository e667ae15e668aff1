"""Captions over HTTP: samples of styles, layouts, and the files of an export."""

import io
import json

from PIL import Image

from hovvet.core.captions.layout import LAYOUTS
from hovvet.core.captions.style import STYLES
from hovvet.core.captions.title_styles import TEMPLATES
from hovvet.server.documents.making import make_clip
from hovvet.server.recordings.models import Recording, Show
from tests.server.base import ServerCase


class Samples(ServerCase):
    def test_every_style_has_a_sample_of_its_own_in_ones_own_words(self):
        pictures = set()
        for key in STYLES:
            answer = self.client.get(f"/api/captions/styles/{key}/sample", {"text": "Nobody throws a clock away"})
            self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "image/png"))
            self.assertEqual(Image.open(io.BytesIO(answer.content)).size, (480, 240))
            pictures.add(answer.content)
        other = self.client.get("/api/captions/styles/bold/sample", {"text": "Salt and vinegar"})
        self.assertEqual(len(pictures | {other.content}), len(STYLES) + 1)

    def test_what_makes_no_sense_is_told(self):
        for url, status in (
            ("/api/captions/styles/none-such/sample?text=a", 404),
            ("/api/captions/styles/own/sample?text=a&style=%7B%22key%22%3A1%7D", 422),
            ("/api/captions/styles/bold/sample?text=", 422),
            ("/api/captions/styles/bold/sample", 422),
            (f"/api/captions/styles/bold/sample?text={'a' * 161}", 422),
        ):
            self.assertEqual(self.client.get(url).status_code, status, url)
        self.assertEqual(self.client.get("/api/captions/styles/bold/sample?text=%20%7B%5Cc%7D").status_code, 200)
        self.client.logout()
        self.assertEqual(self.client.get("/api/captions/styles/bold/sample?text=a").status_code, 401)


class Titles(ServerCase):
    def test_every_template_has_a_sample_and_a_title_is_laid_in_one(self):
        samples = {
            self.client.get(f"/api/captions/titles/{key}/sample", {"text": "Maren", "second": "mends"}).content
            for key in TEMPLATES
        }
        self.assertEqual(len(samples), len(TEMPLATES))
        listed = self.client.get("/api/choices").json()["templates"]
        self.assertEqual([each["key"] for each in listed], [*TEMPLATES])
        for url in ("/api/captions/titles/none-such/sample?text=a", "/api/captions/titles/plate/sample?text="):
            self.assertIn(self.client.get(url).status_code, (404, 422))
        clip = make_clip(self.recording(), 3, 14)
        ask = {"ask": "lay", "content": {"kind": "title", "text": "Nobody", "template": "plate"}}
        made = self.post(f"/api/documents/{clip.pk}/asks", {"version": 1, "ask": ask}).json()
        self.assertIn("Nobody", made["plan"]["script"])
        ask["content"] = {"kind": "title", "text": "Nobody", "template": "none-such"}
        refused = self.post(f"/api/documents/{clip.pk}/asks", {"version": made["version"], "ask": ask})
        self.assertEqual(refused.status_code, 422)


class OwnStyles(ServerCase):
    URL = "/api/captions/styles"

    def style(self, **changes) -> dict:
        return (
            STYLES["bold"].model_copy(update={"key": "changed", "name": "Workshop"} | changes).model_dump(mode="json")
        )

    def test_one_is_kept_changed_and_deleted_while_clips_keep_theirs(self):
        made = self.post(self.URL, self.style(colour="#FFEE00")).json()
        self.assertTrue(made["key"].startswith("own-"))
        clip = make_clip(self.recording(), 3, 14)
        edit = {"version": 1, "edit": {"type": "set_captions", "captions": made["key"], "style": made}}
        now = self.post(f"/api/documents/{clip.pk}/edits", edit).json()
        self.assertIn("&H0000EEFF", now["plan"]["script"], "its letters, in the order that the script has")
        other = self.client.put(f"{self.URL}/{made['key']}", made | {"size": 60, "name": "Bench"}, "application/json")
        self.assertEqual([each["name"] for each in self.client.get(self.URL).json()], ["Bench"])
        self.assertEqual(other.json()["size"], 60)
        self.assertEqual(self.client.get(f"/api/documents/{clip.pk}").json()["plan"]["script"], now["plan"]["script"])
        self.assertEqual(self.client.delete(f"{self.URL}/{made['key']}").status_code, 204)
        self.assertEqual(self.client.get(self.URL).json(), [])
        shown = self.client.get(f"/api/documents/{clip.pk}").json()
        self.assertEqual((shown["plan"]["script"], shown["told"]), (now["plan"]["script"], ""))
        self.assertContains(self.client.get(f"/api/documents/{clip.pk}/history"), "Captions: Workshop")
        back = self.post(f"/api/documents/{clip.pk}/undo", {"version": now["version"]}).json()
        self.assertEqual((back["sheet"]["captions"], back["sheet"]["style"]), ("bold", None))

    def test_what_cannot_be_kept_is_told(self):
        self.assertEqual(self.post(self.URL, self.style(name="bold")).status_code, 409, "everybody's has that name")
        self.assertEqual(self.post(self.URL, self.style()).status_code, 200)
        self.assertEqual(self.post(self.URL, self.style()).status_code, 409)
        for wrong in ({"size": 9_000}, {"colour": "red"}, {"font": "../../etc"}, {"name": ""}, {"more": 1}):
            self.assertEqual(self.post(self.URL, self.style() | wrong).status_code, 422, wrong)
        for key, status in (("bold", 409), ("own-00000000-0000-4000-8000-000000000000", 404)):
            self.assertEqual(self.client.delete(f"{self.URL}/{key}").status_code, status)

    def test_it_is_the_workspaces_alone(self):
        made = self.post(self.URL, self.style()).json()
        self.client.force_login(self.member("edda", "Elsewhere")[0])
        self.assertEqual(self.client.get(self.URL).json(), [])
        self.assertEqual(self.client.delete(f"{self.URL}/{made['key']}").status_code, 404)
        answer = self.client.put(f"{self.URL}/{made['key']}", made, "application/json")
        self.assertEqual(answer.status_code, 404)

    def test_its_sample_shows_it(self):
        text = "Nobody throws a clock away"
        plain, own = (
            self.client.get(f"{self.URL}/{style['key']}/sample", {"text": text, "style": json.dumps(style)}).content
            for style in (self.style(), self.style(font="hand"))
        )
        self.assertEqual(plain, self.client.get(f"{self.URL}/bold/sample", {"text": text}).content)
        self.assertNotEqual(own, plain)


class Layouts(ServerCase):
    def test_a_layout_is_one_edit_and_one_undo(self):
        clip = make_clip(self.recording(), 3, 14)
        url = f"/api/documents/{clip.pk}"
        before = self.client.get(url).json()
        one = LAYOUTS["One word"].model_dump()
        edit = {"version": 1, "edit": {"type": "set_layout", "layout": one}}
        after = self.post(f"{url}/edits", edit).json()
        self.assertEqual(len(after["plan"]["captions"]), len(after["plan"]["words"]))
        self.assertLess(len(before["plan"]["captions"]), len(before["plan"]["words"]))
        self.assertEqual((after["sheet"]["layout"], after["layout_name"]), (one, "One word"))
        back = self.post(f"{url}/undo", {"version": after["version"]}).json()
        self.assertEqual(back["plan"]["captions"], before["plan"]["captions"])

    def test_limits_are_told(self):
        clip = make_clip(self.recording(), 3, 14)
        for wrong in ({"lines": 9}, {"shortest": 3, "longest": 1}, {"characters": 0}, {"colour": "red"}):
            edit = {"version": 1, "edit": {"type": "set_layout", "layout": wrong}}
            self.assertEqual(self.post(f"/api/documents/{clip.pk}/edits", edit).status_code, 422, wrong)


class ForAShow(ServerCase):
    def test_new_clips_of_a_show_begin_with_its_captions(self):
        recording = self.recording()
        clip = make_clip(recording, 3, 9)
        path = f"/api/captions/documents/{clip.pk}/for-show"
        refused = self.post(path)
        self.assertEqual((refused.status_code, "in no show" in refused.json()["detail"]), (409, True))
        recording.show = Show.objects.create(workspace=self.workspace, name="Bench Notes")
        recording.save()
        style = STYLES["poster"].model_copy(update={"key": "own-1", "name": "Workshop"}).model_dump(mode="json")
        edits = [
            {"type": "set_captions", "captions": "own-1", "style": style},
            {"type": "set_layout", "layout": LAYOUTS["One word"].model_dump(mode="json")},
        ]
        edit = {"version": 1, "edit": {"type": "batch", "edits": edits}}
        self.assertEqual(self.post(f"/api/documents/{clip.pk}/edits", edit).status_code, 200)
        self.assertEqual(self.post(path).json(), {"name": "Bench Notes"})
        new = make_clip(Recording.objects.select_related("show").get(pk=recording.pk), 10, 15)
        made = self.client.get(f"/api/documents/{new.pk}").json()
        self.assertEqual((made["sheet"]["style"], made["layout_name"]), (style, "One word"))
        self.assertEqual(made["sheet"]["editions"][0]["outlet"], "tall")
        self.client.force_login(self.member("edda", "Elsewhere")[0])
        self.assertEqual(self.post(path).status_code, 404)
