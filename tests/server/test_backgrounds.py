"""Backgrounds of one's own over HTTP: the screen is found and picked, and what is seen in its place is kept with a recording."""

import io
import shutil
import tempfile
import uuid
from pathlib import Path

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from PIL import Image

from hovvet.core.media.probe import probe
from hovvet.core.plan.model import Fill, Plan, Still, Video
from hovvet.server.delivery.exporting import originals_of
from hovvet.server.documents.making import make_clip
from hovvet.server.documents.models import Document
from hovvet.server.documents.stamps import stamp_of
from hovvet.server.recordings.models import Recording
from tests.media import even_words
from tests.screens import film
from tests.server.base import ServerCase

GREEN = {"light": 138.0, "blue": 95.0, "red": 72.0}


class BackgroundCase(ServerCase):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.green = film(Path(cls.enterClassContext(tempfile.TemporaryDirectory())) / "green.mp4", 3.0)
        cls.media = probe(cls.green)

    def filmed(self, title: str = "Talk") -> Recording:
        row = self.recording(even_words(6))
        shutil.copy(self.green, row.original)
        shutil.copy(self.green, row.working)
        Recording.objects.filter(pk=row.pk).update(title=title, media_json=self.media.model_dump(mode="json"))
        return Recording.objects.get(pk=row.pk)

    def setUp(self) -> None:
        super().setUp()
        self.talk = self.filmed()
        self.clip = make_clip(self.talk, 1, 6)
        self.path = f"/api/documents/{self.clip.pk}"
        self.screens = f"/api/colour/documents/{self.clip.pk}/screens"

    def lay(self, content: dict) -> dict:
        self.clip.refresh_from_db()
        answer = self.post(
            f"{self.path}/asks", {"version": self.clip.version, "ask": {"ask": "lay", "content": content}}
        )
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.json()

    def picture(self) -> str:
        made = io.BytesIO()
        Image.new("RGB", (64, 64), "#A04030").save(made, "PNG")
        return self.client.post(
            "/api/assets?kind=picture", {"file": SimpleUploadedFile("wall.png", made.getvalue())}
        ).json()["key"]


class Picking(BackgroundCase):
    def test_it_is_found_and_picked_on_what_is_seen(self):
        layer = self.lay({"kind": "background"})["bars"][0]["layer"]
        seen = self.client.get(f"{self.screens}/{layer}", {"seconds": 1.0}).json()
        self.assertEqual(seen["media"], str(self.talk.pk))
        self.assertGreater(seen["seconds"], 1.0)
        found = self.post(self.screens, {"layer": layer, "seconds": 1.0}).json()
        places = [{"seconds": seen["seconds"], "across": x, "down": y} for x, y in ((0.1, 0.1), (0.9, 0.5))]
        picked = self.post(self.screens, {"layer": layer, "seconds": 1.0, "spots": places}).json()
        for name in ("light", "blue", "red"):
            self.assertAlmostEqual(found[name], picked[name], delta=4)
        self.assertLess(found["blue"], 110)
        self.assertLess(found["red"], 90)

    def test_what_is_no_screen_is_refused_in_words_and_changes_nothing(self):
        layer = self.lay({"kind": "background"})["bars"][0]["layer"]
        suit = {"across": 0.5, "down": 0.95, "seconds": 1.0}
        answer = self.post(self.screens, {"layer": layer, "seconds": 1.0, "spots": [suit]})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("too little colour", answer.json()["detail"])
        for wrong in ({"across": 1.2, "down": 0}, {"across": 0, "down": 0, "seconds": -1}, {"across": "x", "down": 0}):
            self.assertEqual(self.post(self.screens, {"layer": layer, "seconds": 1, "spots": [wrong]}).status_code, 422)
        many = {"layer": layer, "seconds": 1.0, "spots": [suit] * 13}
        self.assertEqual(self.post(self.screens, many).status_code, 422)
        gone = self.post(self.screens, {"layer": "gone", "seconds": 1.0})
        self.assertEqual((gone.status_code, "no longer there" in gone.json()["detail"]), (409, True))

    def test_of_pictures_over_words_it_is_theirs(self):
        other = self.filmed("Other")
        over = {"kind": "background", "of": "pictures over words", "behind": "what is below"}
        layer = self.lay(over)["bars"][0]["layer"]
        nothing = self.client.get(f"{self.screens}/{layer}", {"seconds": 1.0})
        self.assertEqual((nothing.status_code, "Nothing is seen there" in nothing.json()["detail"]), (409, True))
        self.lay({"kind": "broll", "media": str(other.pk)})
        self.assertEqual(self.client.get(f"{self.screens}/{layer}", {"seconds": 1.0}).json()["media"], str(other.pk))

    def test_another_workspace_and_nobody_see_none_of_it(self):
        layer = self.lay({"kind": "background"})["bars"][0]["layer"]
        stranger, _ = self.member("ilse", "Another")
        theirs, nobody = Client(), Client()
        theirs.force_login(stranger)
        body = {"layer": layer, "seconds": 1.0}
        for client, status in ((theirs, 404), (nobody, 401)):
            self.assertEqual(self.post(self.screens, body, client).status_code, status)
            self.assertEqual(client.get(f"{self.screens}/{layer}", {"seconds": 1.0}).status_code, status)


class Kept(BackgroundCase):
    def keep(self, background: dict | None, version: int | None = None):
        version = Recording.objects.get(pk=self.talk.pk).version if version is None else version
        body = {"version": version, "background": background}
        return self.client.patch(f"/api/recordings/{self.talk.pk}", body, content_type="application/json")

    def plan(self) -> Plan:
        return Plan.model_validate(self.client.get(self.path).json()["plan"])

    def test_with_a_recording_for_all_its_clips_until_it_is_taken_off(self):
        before = stamp_of(Document.objects.get(pk=self.clip.pk))
        answer = self.keep({"kind": "background", **GREEN, "colour": "#203040"})
        self.assertEqual(answer.status_code, 200, answer.content)
        self.assertEqual(answer.json()["background"]["colour"], "#203040")
        self.assertEqual(self.plan().picture[0].keyed.ground.source, Fill(colour="#203040"))
        self.assertNotEqual(stamp_of(Document.objects.get(pk=self.clip.pk)), before, "there is something new to see")
        other = make_clip(self.talk, 2, 4)
        plan = Plan.model_validate(self.client.get(f"/api/documents/{other.pk}").json()["plan"])
        self.assertIsNotNone(plan.picture[0].keyed)
        body = {"version": answer.json()["version"], "title": "Called otherwise"}
        named = self.client.patch(f"/api/recordings/{self.talk.pk}", body, content_type="application/json").json()
        self.assertEqual(named["background"]["colour"], "#203040", "what is not given stays")
        self.assertIsNone(self.keep(None).json()["background"])
        self.assertIsNone(self.plan().picture[0].keyed)

    def test_two_who_change_it_are_told_and_nonsense_is_refused(self):
        self.assertEqual(self.keep({"kind": "background", **GREEN}, version=99).status_code, 409)
        self.assertEqual(self.keep({"kind": "background", "blue": 900}).status_code, 422)
        self.assertEqual(self.keep({"kind": "background", "media": "../../etc"}).status_code, 422)
        self.assertIsNone(Recording.objects.get(pk=self.talk.pk).background)

    def test_a_picture_or_a_film_behind_is_found_for_the_page_and_the_file(self):
        wall, behind = self.picture(), self.filmed("Behind")
        for media, kind in ((wall, Still), (str(behind.pk), Video)):
            with self.subTest(kind=kind.__name__):
                self.keep({"kind": "background", **GREEN, "behind": "a picture or film", "media": media})
                plan = self.plan()
                self.assertIsInstance(plan.picture[0].keyed.ground.source, kind)
                self.assertIn(media, originals_of(self.workspace, plan))
        behind.delete()
        self.assertIsInstance(self.plan().picture[0].keyed.ground.source, Fill, "what was deleted is a colour")

    def test_what_another_workspace_has_is_not_shown(self):
        _, elsewhere = self.member("ilse", "Another")
        theirs = self.recording(even_words(3), elsewhere)
        Recording.objects.filter(pk=theirs.pk).update(media_json=self.media.model_dump(mode="json"))
        for media in (str(theirs.pk), str(uuid.uuid4())):
            self.keep({"kind": "background", **GREEN, "behind": "a picture or film", "media": media})
            self.assertIsInstance(self.plan().picture[0].keyed.ground.source, Fill)
