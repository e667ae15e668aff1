"""The proof and the text for the post over HTTP."""

from hovvet.core.proof.measured import Measured
from hovvet.server.documents.making import copy_clip, make_clip
from hovvet.server.documents.opening import documents, opened
from hovvet.server.posts.models import PostText
from hovvet.server.proof.models import LeftAsItIs
from hovvet.server.proof.proving import keep_measured
from tests.media import spoken
from tests.server.base import ServerCase


class ProofCase(ServerCase):
    """A clip with a filler sound in it, of somebody whom the recogniser did not trust."""

    def setUp(self) -> None:
        super().setUp()
        self.row = self.recording(spoken("A kettle that hums, um, is a kettle that works. Nothing else matters here."))
        self.clip = make_clip(self.row, 1, 14)
        self.path = f"/api/documents/{self.clip.pk}"
        self.other, _ = self.member("tolliver", "Elsewhere")

    def proof(self) -> dict:
        answer = self.client.get(f"{self.path}/proof")
        self.assertEqual(answer.status_code, 200, answer.content)
        return answer.json()

    def fault(self, check: str) -> dict:
        return next(each for each in self.proof()["faults"] if each["check"] == check)


class OverHttp(ProofCase):
    def test_a_fault_goes_with_its_fix_and_comes_back_with_undo(self):
        fault = self.fault("left_in")
        self.assertEqual((fault["says"], fault["left"]), ("“um,” is a filler sound.", None))
        (edit,) = fault["fixes"][0]["edits"]
        answer = self.post(f"{self.path}/edits", {"version": 1, "edit": edit})
        self.assertEqual(answer.status_code, 200)
        self.assertNotIn("left_in", [each["check"] for each in self.proof()["faults"]])
        self.post(f"{self.path}/undo", {"version": 2})
        self.assertEqual(self.fault("left_in")["key"], fault["key"])

    def test_what_is_left_as_it_is_says_who_left_it_and_why_until_it_is_taken_up_again(self):
        key = self.fault("left_in")["key"]
        self.assertEqual(self.post(f"{self.path}/proof/left", {"key": key, "why": " it is charming "}).status_code, 204)
        left = self.fault("left_in")["left"]
        self.assertEqual((left["who"], left["why"]), ("maren", "it is charming"))
        self.post(f"{self.path}/proof/left", {"key": key, "why": "still"})
        self.assertEqual(LeftAsItIs.objects.get().why, "still", "once")
        self.assertEqual(self.client.delete(f"{self.path}/proof/left?key={key}").status_code, 204)
        self.assertIsNone(self.fault("left_in")["left"])

    def test_what_is_no_fault_cannot_be_left(self):
        for key in ("", "nothing", "nothing:p1"):
            self.assertEqual(self.post(f"{self.path}/proof/left", {"key": key}).status_code, 422, key)
        self.assertEqual(
            self.post(f"{self.path}/proof/left", {"key": "left_in:p1:5", "why": "x" * 201}).status_code, 422
        )
        self.assertEqual(self.post(f"{self.path}/proof/left", {"key": "licence:x"}).status_code, 409)

    def test_what_was_measured_of_a_file_holds_while_the_clip_is_as_it_was(self):
        self.assertFalse(self.proof()["of_file"])
        now = opened(documents().get(pk=self.clip.pk))
        keep_measured(self.clip, "e1", now.plan.digest, Measured(peak=-0.1, bytes=1000))
        self.assertEqual(self.fault("peak")["gravity"], "wrong")
        edit = {"type": "cut_words", "piece": "p1", "words": [5]}
        self.post(f"{self.path}/edits", {"version": 1, "edit": edit})
        now = self.proof()
        self.assertFalse(now["of_file"])
        self.assertNotIn("peak", [each["check"] for each in now["faults"]])

    def test_a_clip_of_others_does_not_exist(self):
        self.client.force_login(self.other)
        for answer in (
            self.client.get(f"{self.path}/proof"), self.post(f"{self.path}/proof/left", {"key": "left_in:p1:5"}),
            self.client.delete(f"{self.path}/proof/left?key=x"), self.client.get(f"{self.path}/editions/e1/post"),
            self.client.get(f"{self.path}/editions/e1/post/offered"), self.client.get(f"{self.path}/editions/e1/post.txt"),
        ):  # fmt: skip
            self.assertEqual(answer.status_code, 404)


class Posts(ProofCase):
    def write(self, edition: str = "e1", version: int = 0, alone: bool = False, **post):
        body = {"post": post, "version": version, "alone": alone}
        return self.client.put(f"{self.path}/editions/{edition}/post", body, content_type="application/json")

    def read(self, edition: str = "e1") -> dict:
        return self.client.get(f"{self.path}/editions/{edition}/post").json()

    def test_one_text_for_all_and_one_that_an_edition_says_otherwise(self):
        edit = {"type": "put_edition", "edition": {"id": "e2", "outlet": "square"}}
        self.post(f"{self.path}/edits", {"version": 1, "edit": edit})
        self.assertEqual((self.read()["version"], self.read()["text"]), (0, ""))
        self.assertEqual(self.write(first_line="Mend it.", hashtags=["kettle"]).status_code, 200)
        self.assertEqual(self.read("e2")["text"], "Mend it.\n\n#kettle")
        self.assertEqual((self.read("e2")["letters_limit"], self.read()["letters_limit"]), (1000, 2200))
        self.write("e2", 0, True, first_line="In a square.")
        self.assertEqual((self.read("e2")["text"], self.read("e2")["own"]), ("In a square.", True))
        self.assertEqual(self.read()["text"], "Mend it.\n\n#kettle")
        again = self.client.delete(f"{self.path}/editions/e2/post").json()
        self.assertEqual((again["text"], again["own"]), ("Mend it.\n\n#kettle", False))

    def test_two_who_write_at_once_lose_nothing(self):
        self.write(first_line="One")
        self.assertEqual(self.write(version=1, first_line="Two").status_code, 200)
        late = self.write(version=1, first_line="Three")
        self.assertEqual(
            (late.status_code, late.json()["post"]["text"], late.json()["post"]["version"]), (409, "Two", 2)
        )
        self.assertEqual(self.write(version=0, first_line="Four").status_code, 409)
        self.assertEqual(self.read()["text"], "Two")

    def test_what_is_no_hashtag_or_link_is_refused_and_a_deleted_edition_is_not_there(self):
        self.assertEqual(self.write(hashtags=["two words"]).status_code, 422)
        self.assertEqual(self.write(link="javascript:alert(1)").status_code, 422)
        self.assertEqual(self.write("e9", first_line="One").status_code, 404)

    def test_as_a_file_and_with_a_copy_of_the_clip(self):
        self.write(first_line="Mend it.")
        file = self.client.get(f"{self.path}/editions/e1/post.txt")
        self.assertEqual((file.content.decode(), file["Content-Type"]), ("Mend it.\n", "text/plain; charset=utf-8"))
        copy = copy_clip(documents().get(pk=self.clip.pk))
        self.assertEqual(PostText.objects.get(document=copy).kept_json["first_line"], "Mend it.")

    def test_what_is_offered_is_said_in_it(self):
        offered = self.client.get(f"{self.path}/editions/e1/post/offered").json()
        self.assertIn("#kettle", offered["hashtags"])
        self.assertEqual(offered["body"], "A kettle that hums, is a kettle that works. Nothing else matters here.")
        self.assertTrue(self.write(**offered["begun"]).status_code == 200)
