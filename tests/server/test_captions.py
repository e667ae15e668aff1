"""Captions over HTTP: samples of styles, layouts, and the files of an export."""

import io

from PIL import Image

from hovvet.core.captions.layout import LAYOUTS
from hovvet.core.captions.style import STYLES
from hovvet.server.clips.documents import make_clip
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
            ("/api/captions/styles/none-such/sample?text=a", 422),
            ("/api/captions/styles/bold/sample?text=", 422),
            ("/api/captions/styles/bold/sample", 422),
            (f"/api/captions/styles/bold/sample?text={'a' * 161}", 422),
        ):
            self.assertEqual(self.client.get(url).status_code, status, url)
        self.assertEqual(self.client.get("/api/captions/styles/bold/sample?text=%20%7B%5Cc%7D").status_code, 200)
        self.client.logout()
        self.assertEqual(self.client.get("/api/captions/styles/bold/sample?text=a").status_code, 401)


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
