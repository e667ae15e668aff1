"""Reviews: what somebody with a link may do, and nobody else; comments that stay with their words."""

import uuid
from datetime import timedelta

from django.core.cache import cache
from django.test import Client
from django.utils import timezone

from hovvet.core.plan.model import PlanWord
from hovvet.core.plan.upgrade import read_plan
from hovvet.core.review.carried import Place, Spot, spot_of, where_now
from hovvet.core.sheet.edits import CutWords
from hovvet.server.delivery.models import Export
from hovvet.server.documents.changing import apply_edit
from hovvet.server.documents.models import Document
from hovvet.server.review.models import Comment, ReviewLink, Verdict
from tests.server.test_handover import HandoverCase


class ReviewCase(HandoverCase):
    def setUp(self) -> None:
        super().setUp()
        cache.clear()
        self.film = self.export()
        self.stranger = Client()  # has the link and no account

    def share(self, **wanted) -> ReviewLink:
        answer = self.post(f"{self.path}/reviews", {"editions": ["e1"]} | wanted)
        self.assertEqual(answer.status_code, 200, answer.content)
        return ReviewLink.objects.get(pk=answer.json()["id"])

    def page(self, link: ReviewLink, status: int = 200, client: Client | None = None) -> dict:
        answer = (client or self.stranger).get(f"/api/review/{link.token}")
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def at(self, link: ReviewLink) -> str:
        return f"/api/review/{link.token}/items/{link.items.get().pk}"

    def say(self, link: ReviewLink, status: int = 200, **saying) -> dict:
        body = {"name": "Ilse", "text": "Softer here", "version": 1, "words": [4, 5]} | saying
        answer = self.post(f"{self.at(link)}/comments", body, self.stranger)
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def newer(self) -> Export:
        """The clip exported again, two words shorter."""
        apply_edit(self.clip, Document.objects.get(pk=self.clip.pk).version, CutWords(piece="p1", words=(4, 5)), None)
        self.clip.refresh_from_db()
        return self.export()


class ByLink(ReviewCase):
    def test_who_has_the_link_watches_reads_and_comments_without_an_account(self):
        link = self.share()
        page = self.page(link)
        self.assertEqual((page["by"], page["locked"], len(page["items"])), ("Bench", False, 1))
        (item,) = page["items"]
        self.assertEqual([each["text"] for each in item["words"][0]["words"]], [f"w{n}" for n in range(3, 15)])
        film = self.stranger.get(f"{self.at(link)}/film", headers={"Range": "bytes=0-3"})
        self.assertEqual((film.status_code, b"".join(film.streaming_content)), (206, b"film"))
        self.assertIn("WEBVTT", self.stranger.get(f"{self.at(link)}/captions.vtt").content.decode())
        said = self.say(link, place={"x": 0.25, "y": 0.5}, seconds=2.0)["comments"][0]
        self.assertEqual((said["name"], said["first"], said["last"], said["version"]), ("Ilse", 4, 5, 1))
        self.assertEqual(said["place"], {"x": 0.25, "y": 0.5})
        answered = self.say(link, answers=said["id"], text="Me too", name="Tolliver")["comments"]
        self.assertEqual([each["text"] for each in answered[0]["answers"]], ["Me too"])

    def test_links_that_are_guessed_revoked_over_or_deleted_say_the_same(self):
        link = self.share()
        told = set()
        guessed = self.stranger.get(f"/api/review/{'x' * 32}")
        told.add((guessed.status_code, guessed.json()["detail"]))
        for change in ({"revoked": True}, {"revoked": False, "until": str(timezone.localdate() - timedelta(days=1))}):
            self.client.patch(f"/api/reviews/{link.pk}", change, content_type="application/json")
            answer = self.stranger.get(f"/api/review/{link.token}")
            told.add((answer.status_code, answer.json()["detail"]))
            for path in ("film", "captions.vtt"):
                self.assertEqual(self.stranger.get(f"{self.at(link)}/{path}").status_code, 404)
            self.say(link, 404)
        self.assertEqual(len(told), 1)
        self.client.patch(
            f"/api/reviews/{link.pk}", {"until": str(timezone.localdate())}, content_type="application/json"
        )
        self.page(link)
        self.client.delete(f"/api/reviews/{link.pk}")
        self.page(link, 404)
        self.assertGreaterEqual(len(link.token), 32)

    def test_a_password_is_asked_for_and_tries_are_slowed_down(self):
        link = self.share(password="brass gears")
        page = self.page(link)
        self.assertEqual((page["locked"], page["title"], page["items"]), (True, "", []))
        for path in ("film", "captions.vtt"):
            self.assertEqual(self.stranger.get(f"{self.at(link)}/{path}").status_code, 401)
        self.say(link, 401)
        path = f"/api/review/{link.token}/password"
        self.assertNotIn("brass", link.password)
        statuses = [self.post(path, {"password": f"try {n}"}, self.stranger).status_code for n in range(8)]
        self.assertEqual(statuses[:5], [403] * 5)
        self.assertIn(429, statuses)
        cache.clear()
        self.assertEqual(len(self.post(path, {"password": "brass gears"}, self.stranger).json()["items"]), 1)
        self.assertEqual(len(self.page(link)["items"]), 1)
        self.assertTrue(self.page(link, client=Client())["locked"], "another browser does not know it")
        self.client.patch(f"/api/reviews/{link.pk}", {"password": "another"}, content_type="application/json")
        self.assertTrue(self.page(link)["locked"], "nor does this one know the new one")

    def test_the_film_is_saved_only_where_that_is_allowed(self):
        link = self.share()
        self.assertEqual(self.stranger.get(f"{self.at(link)}/film?save=true").status_code, 403)
        self.client.patch(f"/api/reviews/{link.pk}", {"download": True}, content_type="application/json")
        saved = self.stranger.get(f"{self.at(link)}/film?save=true")
        self.assertIn("attachment", saved["Content-Disposition"])

    def test_a_link_opens_nothing_but_its_own(self):
        one = self.share()
        other = self.share()
        wrong = f"/api/review/{one.token}/items/{other.items.get().pk}"
        self.assertEqual(self.stranger.get(f"{wrong}/film").status_code, 404)
        comment = self.say(other)["comments"][0]["id"]
        self.say(one, 404, answers=comment)
        path = f"{self.at(one)}/comments/{comment}/resolved"
        self.assertEqual(self.post(path, {"name": "Ilse", "resolved": True}, self.stranger).status_code, 404)
        for path in (
            f"{self.path}/reviews",
            f"{self.path}/comments",
            f"/api/exports/{self.film.pk}/words",
            "/api/clips",
        ):
            self.assertEqual(self.stranger.get(path).status_code, 401)

    def test_comments_are_texts_and_of_a_length(self):
        link = self.share()
        said = self.say(link, text="<script>alert(1)</script>", name="<b>Ilse</b>")["comments"][0]
        self.assertEqual(
            (said["text"], said["name"]), ("<script>alert(1)</script>", "<b>Ilse</b>"), "as it was written"
        )
        for wrong in (
            {"text": ""}, {"text": " \u200b "}, {"text": "x" * 4001}, {"text": "x" * 1_000_000}, {"name": ""}, {"name": "n" * 81},
            {"words": [4, 9000]}, {"words": [-1, 3]}, {"place": {"x": 2, "y": 0}}, {"seconds": -1}, {"seconds": "soon"},
        ):  # fmt: skip
            self.say(link, 422, **wrong)
        self.say(link, 404, version=7)
        self.say(link, 404, answers=str(uuid.uuid4()))
        self.assertEqual(Comment.objects.count(), 1)

    def test_there_is_an_end_to_comments(self):
        link = self.share()
        item = link.items.get()
        Comment.objects.bulk_create(Comment(item=item, version=1, name="n", text="t") for _ in range(2_000))
        self.say(link, 409)
        self.assertEqual(len(self.page(link)["items"][0]["comments"]), 2_000)

    def test_another_page_cannot_comment_in_somebody_s_name(self):
        link = self.share()
        forged = Client(enforce_csrf_checks=True)
        answer = self.post(f"{self.at(link)}/comments", {"name": "x", "text": "y", "version": 1}, forged)
        self.assertEqual(answer.status_code, 403)


class Versions(ReviewCase):
    def test_what_was_said_goes_to_where_its_words_now_are(self):
        link = self.share()
        kept = self.say(link, words=[6, 8])["comments"][0]
        self.say(link, words=[1, 2], text="These go")  # w4 and w5
        self.say(link, words=None, text="All of it")
        self.assertEqual(self.post(f"/api/reviews/{link.pk}/versions").status_code, 409, "there is nothing newer")
        self.newer()
        (shown,) = self.client.get(f"{self.path}/reviews").json()[0]["items"]
        self.assertTrue(shown["newer"])
        self.assertEqual(self.page(link)["items"][0]["version"], 1, "until it is shown")
        self.assertEqual(self.post(f"/api/reviews/{link.pk}/versions").status_code, 200)
        item = self.page(link)["items"][0]
        self.assertEqual(item["version"], 2)
        by = {each["text"]: each for each in item["comments"]}
        self.assertEqual((by["Softer here"]["first"], by["Softer here"]["last"]), (4, 6))
        self.assertLess(by["Softer here"]["start"], kept["start"])
        self.assertEqual((by["These go"]["lost"], by["These go"]["start"]), (True, None))
        self.assertEqual((by["All of it"]["lost"], by["All of it"]["start"]), (False, None))

    def test_comments_stand_beside_the_words_of_the_sheet_and_are_answered_there(self):
        link = self.share()
        self.say(link, words=[6, 8])
        apply_edit(self.clip, 1, CutWords(piece="p1", words=(9,)), None)
        (said,) = self.client.get(f"{self.path}/comments").json()
        self.assertEqual(said["words"], [{"origin": "p1", "word": 10}, {"origin": "p1", "word": 11}])
        self.assertEqual(self.post(f"/api/comments/{said['id']}/answers", {"text": "Done so"}).status_code, 204)
        self.assertEqual(self.post(f"/api/comments/{said['id']}/resolved", {"resolved": True}).status_code, 204)
        seen = self.page(link)["items"][0]["comments"][0]
        self.assertEqual(
            (seen["resolved"], seen["answers"][0]["name"], seen["answers"][0]["text"]), ("maren", "maren", "Done so")
        )
        path = f"{self.at(link)}/comments/{said['id']}/resolved"
        opened = self.post(path, {"name": "Ilse", "resolved": False}, self.stranger).json()
        self.assertEqual(opened["comments"][0]["resolved"], "")

    def test_who_approves_has_seen_the_newest_and_the_last_word_counts(self):
        link = self.share()

        def judge(says: str, version: int, name: str = "Ilse") -> int:
            body = {"name": name, "says": says, "version": version}
            return self.post(f"{self.at(link)}/verdict", body, self.stranger).status_code

        self.assertEqual(judge("changes wanted", 1), 200)
        self.assertEqual(judge("approved", 1, "Tolliver"), 200)
        self.assertEqual(self.page(link)["items"][0]["verdict"]["says"], "approved")
        self.newer()
        self.post(f"/api/reviews/{link.pk}/versions")
        self.assertIsNone(self.page(link)["items"][0]["verdict"], "nobody has said anything of this one")
        self.assertEqual(judge("approved", 1), 409, "somebody who still looks at the one before")
        self.assertEqual(judge("approved", 2), 200)
        self.assertEqual(judge("splendid", 2), 422)
        (item,) = self.client.get(f"{self.path}/reviews").json()[0]["items"]
        self.assertEqual((item["verdict"]["says"], item["verdict"]["name"]), ("approved", "Ilse"))
        self.assertEqual(Verdict.objects.count(), 3, "all of it is kept")

    def test_what_is_not_exported_is_not_shared_and_a_deleted_film_says_so(self):
        self.post(
            f"{self.path}/edits",
            {"version": 1, "edit": {"type": "put_edition", "edition": {"id": "e2", "outlet": "wide"}}},
        )
        answer = self.post(f"{self.path}/reviews", {"editions": ["e1", "e2"]})
        self.assertEqual(answer.status_code, 409)
        self.assertIn("not exported yet", answer.json()["detail"])
        self.assertEqual(ReviewLink.objects.count(), 0)
        link = self.share()
        self.film.delete()
        self.page(link, 404)

    def test_a_film_that_is_deleted_leaves_the_others_to_be_seen(self):
        edit = {"type": "put_edition", "edition": {"id": "e2", "outlet": "wide"}}
        self.post(f"{self.path}/edits", {"version": 1, "edit": edit})
        made = self.post(f"{self.path}/exports", {"editions": ["e2"], "output": {}}).json()[0]
        wide = Export.objects.get(pk=made["id"])
        wide.folder.mkdir(parents=True, exist_ok=True)
        wide.main.write_bytes(b"wide")
        link = self.share(editions=["e1", "e2"])
        self.assertEqual([each["name"] for each in self.page(link)["items"]], ["Tall feed", "Wide player"])
        self.film.delete()
        self.assertEqual([each["name"] for each in self.page(link)["items"]], ["Wide player"])

    def test_the_number_of_a_version_whose_film_was_deleted_is_not_given_again(self):
        link = self.share()
        second = self.newer()
        self.post(f"/api/reviews/{link.pk}/versions")
        second.delete()
        apply_edit(self.clip, Document.objects.get(pk=self.clip.pk).version, CutWords(piece="p1", words=(9,)), None)
        self.clip.refresh_from_db()
        self.export()
        self.assertEqual(self.post(f"/api/reviews/{link.pk}/versions").status_code, 200)
        self.assertEqual(self.page(link)["items"][0]["version"], 3)

    def test_links_of_others_do_not_exist(self):
        link = self.share()
        comment = self.say(link)["comments"][0]["id"]
        self.client.force_login(self.other)
        self.assertEqual(self.client.get(f"{self.path}/reviews").status_code, 404)
        self.assertEqual(self.client.get(f"{self.path}/comments").status_code, 404)
        self.assertEqual(self.client.delete(f"/api/reviews/{link.pk}").status_code, 404)
        self.assertEqual(self.post(f"/api/reviews/{link.pk}/versions").status_code, 404)
        self.assertEqual(self.post(f"/api/comments/{comment}/answers", {"text": "x"}).status_code, 404)
        self.assertEqual(self.post(f"/api/comments/{comment}/resolved", {"resolved": True}).status_code, 404)


class Carried(ReviewCase):
    def words(self, *ids: int) -> tuple[PlanWord, ...]:
        return tuple(
            PlanWord(id=n, piece="p", origin="o", text=f"w{n}", start=k * 0.5, end=k * 0.5 + 0.4)
            for k, n in enumerate(ids)
        )

    def test_a_spot_is_where_the_first_of_its_words_still_is(self):
        spot = Spot(words=tuple({"origin": "o", "word": n} for n in (3, 4, 5)), after=0.3, place=Place(x=0.5, y=0.5))
        now = where_now(spot, self.words(1, 2, 3, 4, 5, 6))
        self.assertEqual((now.first, now.last, round(now.start, 2), now.end), (2, 4, 1.3, 2.4))
        now = where_now(spot, self.words(1, 4, 9, 5))
        self.assertEqual(
            (now.first, now.last, now.start), (1, 3, 0.5), "its first word is gone: the moment goes with it"
        )
        self.assertIsNone(where_now(spot, self.words(1, 2)))
        self.assertIsNone(where_now(Spot(), self.words(1, 2)))

    def test_a_stretch_is_told_in_either_order_and_within_the_clip(self):
        plan = self.client.get(f"{self.path}/editions/e1/plan").json()
        self.assertTrue(plan["words"])
        whole = read_plan(plan)
        self.assertEqual([each.word for each in spot_of(whole, 3, 1).words], [4, 5, 6], "in either order")
        with self.assertRaises(IndexError):
            spot_of(whole, 0, 99)
