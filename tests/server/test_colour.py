"""Colour tables over HTTP."""

from hovvet.core.colour.grade import LOOKS, Grade
from hovvet.core.colour.lut import lut_of, packed
from hovvet.server.documents.making import make_clip
from hovvet.server.documents.opening import sheet_of
from tests.media import ffmpeg
from tests.server.base import ServerCase


class Tables(ServerCase):
    def test_a_table_for_the_page_and_one_to_take_away(self):
        grade = LOOKS["Punchy"]
        answer = self.client.get("/api/colour/table", grade.model_dump())
        self.assertEqual((answer.status_code, answer.content), (200, packed(lut_of(grade))))
        taken = self.client.get("/api/colour/look.cube", grade.model_dump())
        self.assertIn("LUT_3D_SIZE 33", taken.content.decode())
        self.assertIn("attachment", taken["Content-Disposition"])
        self.assertEqual(self.client.get("/api/colour/table").content, packed(lut_of(Grade())))

    def test_what_makes_no_sense_is_told(self):
        for query in ({"exposure": "3"}, {"contrast": "nan"}, {"tint": "pink"}):
            self.assertEqual(self.client.get("/api/colour/table", query).status_code, 422, query)
        self.client.logout()
        self.assertEqual(self.client.get("/api/colour/table").status_code, 401)


class OwnLooks(ServerCase):
    URL = "/api/colour/looks"
    WARM = {"name": "Lamp light", "grade": {"temperature": 0.35, "vignette": 0.2}}

    def test_one_is_kept_and_deleted(self):
        made = self.post(self.URL, self.WARM).json()
        (listed,) = self.client.get(self.URL).json()
        self.assertEqual(listed, made)
        self.assertEqual((listed["grade"]["temperature"], listed["grade"]["exposure"]), (0.35, 0))
        self.assertEqual(self.client.delete(f"{self.URL}/{made['key']}").status_code, 204)
        self.assertEqual(self.client.get(self.URL).json(), [])

    def test_what_cannot_be_kept_is_told_and_it_is_the_workspaces_alone(self):
        everybodys = next(iter(LOOKS))
        for wrong, status in (
            (self.WARM | {"name": everybodys.upper()}, 409),
            (self.WARM | {"name": "  "}, 422),
            (self.WARM | {"grade": {"temperature": 7}}, 422),
            (self.WARM | {"grade": {"sparkle": 1}}, 422),
        ):
            self.assertEqual(self.post(self.URL, wrong).status_code, status, wrong)
        made = self.post(self.URL, self.WARM).json()
        self.assertEqual(self.post(self.URL, self.WARM).status_code, 409)
        self.client.force_login(self.member("edda", "Elsewhere")[0])
        self.assertEqual(self.client.get(self.URL).json(), [])
        self.assertEqual(self.client.delete(f"{self.URL}/{made['key']}").status_code, 404)


class Matched(ServerCase):
    """A colour set so that its words look like another part of the clip."""

    def setUp(self) -> None:
        super().setUp()
        row = self.recording()
        row.media_json |= {"has_picture": True, "width": 320, "height": 180}
        row.save()
        # Dim and blue for three seconds, then as it should be.
        parts = ("color=0x203050:s=320x180:r=30:d=3", "color=0x8a7a6a:s=320x180:r=30:d=9")
        inputs = [word for part in parts for word in ("-f", "lavfi", "-i", part)]
        ffmpeg(*inputs, "-filter_complex", "concat=n=2", "-pix_fmt", "yuv420p", row.working)
        self.working = row.working
        self.clip = make_clip(row, 1, 19)
        ask = {"ask": "lay", "content": {"kind": "look"}, "first": self.ref(2), "last": self.ref(5)}
        made = self.post(f"/api/documents/{self.clip.pk}/asks", {"version": 1, "ask": ask}).json()
        self.layer = made["sheet"]["layers"][0]["id"]

    def ref(self, word: int) -> dict:
        return {"origin": sheet_of(self.clip).pieces[0].origin, "word": word}

    def matched(self, **given):
        given = {"layer": self.layer, "seconds": 6.0} | given
        return self.post(f"/api/colour/documents/{self.clip.pk}/matched", given)

    def test_it_is_made_lighter_and_warmer(self):
        for how in ("even out", "match"):
            made = self.matched(how=how).json()
            self.assertGreater(made["exposure"], 0.5)
            self.assertGreater(made["temperature"], 0.05)
        same = self.matched(seconds=1.0).json()
        self.assertLess(abs(same["exposure"]) + abs(same["temperature"]), 0.02)

    def test_what_cannot_be_done_is_told(self):
        for wrong, status, told in (
            ({"layer": "l9"}, 409, "no longer there"),
            ({"how": "sparkle"}, 422, ""),
            ({"strength": 3}, 422, ""),
        ):
            answer = self.matched(**wrong)
            self.assertEqual((answer.status_code, told in str(answer.json()["detail"])), (status, True))
        self.working.write_bytes(b"no film")
        self.assertIn("could not be read", self.matched().json()["detail"])
        self.working.unlink()
        self.assertIn("still being made", self.matched().json()["detail"])
        self.client.force_login(self.member("edda", "Elsewhere")[0])
        self.assertEqual(self.matched().status_code, 404)
