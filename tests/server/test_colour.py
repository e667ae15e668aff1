"""Colour tables over HTTP."""

from hovvet.core.colour.grade import LOOKS, Grade
from hovvet.core.colour.lut import lut_of, packed
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
            (self.WARM | {"name": "  "}, 409),
            (self.WARM | {"grade": {"temperature": 7}}, 422),
            (self.WARM | {"grade": {"sparkle": 1}}, 422),
        ):
            self.assertEqual(self.post(self.URL, wrong).status_code, status, wrong)
        made = self.post(self.URL, self.WARM).json()
        self.assertEqual(self.post(self.URL, self.WARM).status_code, 409)
        self.client.force_login(self.member("edda", "Elsewhere")[0])
        self.assertEqual(self.client.get(self.URL).json(), [])
        self.assertEqual(self.client.delete(f"{self.URL}/{made['key']}").status_code, 404)
