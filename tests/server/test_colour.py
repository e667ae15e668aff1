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
