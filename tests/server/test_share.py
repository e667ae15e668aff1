"""Share pages: for everybody or for who has the link, embedded or not, and what other sites are told."""

import re
from unittest import mock
from urllib.parse import urlsplit

from defusedxml import ElementTree
from django.test import Client

from hovvet.core.errors import CoreError
from hovvet.core.post.post import Post
from hovvet.server.posts.writing import keep_text
from hovvet.server.share import sharing
from hovvet.server.share.models import SharePage
from tests.server.test_handover import HandoverCase


class ShareCase(HandoverCase):
    def setUp(self) -> None:
        super().setUp()
        self.film = self.export()
        self.stranger = Client()
        self.drawing = self.enterContext(mock.patch.object(sharing, "picture_of", return_value=b"a picture"))

    def share(self, **wanted) -> SharePage:
        answer = self.post(f"{self.path}/editions/e1/shared")
        self.assertEqual(answer.status_code, 200, answer.content)
        page = SharePage.objects.get(pk=answer.json()["id"])
        if wanted:
            self.change(page, **wanted)
            page.refresh_from_db()
        return page

    def change(self, page: SharePage, status: int = 200, **wanted) -> dict:
        path = f"/api/shared/{page.pk}"
        answer = self.client.patch(path, {"version": page.version} | wanted, content_type="application/json")
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json()

    def oembed(self, page: SharePage, status: int = 200, **more) -> dict:
        answer = self.stranger.get("/oembed", {"url": f"http://testserver{page.path}", **more})
        self.assertEqual(answer.status_code, status, answer.content)
        return answer.json() if status == 200 else {}


class Pages(ShareCase):
    def test_a_private_page_is_for_who_has_the_link_and_for_no_search_engine(self):
        page = self.share()
        self.assertEqual((page.public, len(page.token) >= 20), (False, True))
        answer = self.stranger.get(page.path)
        self.assertContains(answer, "w3 w4 w5")
        self.assertContains(answer, '<meta name="robots" content="noindex, nofollow">')
        self.assertNotContains(answer, "oembed")
        for path in ("", "/film", "/captions.vtt", "/cover.jpg"):
            answer = self.stranger.get(f"{page.path}{path}")
            self.assertEqual((answer.status_code, answer["X-Robots-Tag"]), (200, "noindex, nofollow"), path)
            self.assertIn("frame-ancestors 'none'", answer["Content-Security-Policy"])
        self.assertEqual(self.stranger.get("/share/" + "x" * 22).status_code, 404)

    def test_a_public_page_may_be_found_and_says_what_others_show_of_it(self):
        keep_text(self.clip, "", Post(first_line="Why <i>clocks</i> stop"), 0)
        page = self.share(public=True, title='Clocks & "hope"')
        answer = self.stranger.get(page.path)
        self.assertNotIn("X-Robots-Tag", answer)
        text = answer.content.decode()
        self.assertNotIn("noindex", text)
        self.assertIn("<title>Clocks &amp; &quot;hope&quot; · Bench</title>", text)
        self.assertIn("Why &lt;i&gt;clocks", text)
        for name in ("og:title", "og:image", "og:video"):
            self.assertRegex(text, f'<meta property="{name}" content="[^"]+"')
        address = re.search(r'application/json\+oembed" href="([^"]+)"', text)
        self.assertEqual(
            self.stranger.get(urlsplit(address[1]).path + "?" + urlsplit(address[1]).query).status_code, 200
        )
        film = self.stranger.get(f"{page.path}/film", headers={"Range": "bytes=0-3"})
        self.assertEqual((film.status_code, b"".join(film.streaming_content)), (206, b"film"))
        self.assertEqual(b"".join(self.stranger.get(f"{page.path}/cover.jpg").streaming_content), b"a picture")

    def test_what_is_said_is_shown_or_not(self):
        page = self.share(words=False)
        self.assertNotContains(self.stranger.get(page.path), "What is said")

    def test_there_is_one_of_an_edition_and_none_of_what_is_not_exported(self):
        self.assertEqual(self.share().pk, self.share().pk)
        self.assertEqual(self.post(f"{self.path}/editions/e9/shared").status_code, 409)

    def test_without_a_cover_it_shows_its_film(self):
        self.drawing.side_effect = CoreError("there is no picture")
        page = self.share()
        self.assertNotContains(self.stranger.get(page.path), "poster")
        self.assertEqual(self.stranger.get(f"{page.path}/cover.jpg").status_code, 404)

    def test_a_newer_film_is_shown_when_somebody_says_so_and_a_deleted_one_not_at_all(self):
        page = self.share()
        self.assertEqual(self.post(f"/api/shared/{page.pk}/newest", {"version": page.version}).status_code, 409)
        newer = self.export(output={"kind": "webm"})
        (listed,) = self.client.get(f"{self.path}/shared").json()
        self.assertEqual((listed["newer"], listed["gone"]), (True, False))
        self.assertContains(self.stranger.get(page.path), "video/mp4")
        self.post(f"/api/shared/{page.pk}/newest", {"version": page.version})
        self.assertContains(self.stranger.get(page.path), "video/webm")
        newer.delete()
        self.assertContains(self.stranger.get(page.path), "There is no such page", status_code=404)
        self.assertTrue(self.client.get(f"{self.path}/shared").json()[0]["gone"])

    def test_of_two_who_change_it_one_is_told(self):
        page = self.share()
        self.change(page, public=True)
        self.assertIn("Somebody else", self.change(page, 409, public=False)["detail"])

    def test_another_workspace_has_none_of_it_and_what_is_deleted_is_gone(self):
        page = self.share()
        self.client.force_login(self.other)
        self.assertEqual(self.client.get(f"{self.path}/shared").status_code, 404)
        self.change(page, 404, public=True)
        self.assertEqual(self.client.delete(f"/api/shared/{page.pk}").status_code, 404)
        self.client.force_login(self.user)
        with self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(self.client.delete(f"/api/shared/{page.pk}").status_code, 204)
        self.assertEqual(self.stranger.get(page.path).status_code, 404)
        self.assertFalse(page.folder.exists())


class Embedded(ShareCase):
    def test_what_is_public_may_stand_in_any_frame_and_nothing_else_of_ours(self):
        page = self.share(public=True)
        answer = self.stranger.get(page.embed_path)
        self.assertIn("frame-ancestors *", answer["Content-Security-Policy"])
        self.assertNotIn("X-Frame-Options", answer)
        for path in (page.path, "/", "/review/x", "/api/session"):
            answer = self.stranger.get(path)
            self.assertIn("frame-ancestors 'none'", answer["Content-Security-Policy"], path)
            self.assertEqual(answer["X-Frame-Options"], "DENY", path)

    def test_what_is_private_or_nothing_is_refused_in_a_frame(self):
        page = self.share()
        for path, status in ((page.embed_path, 403), ("/embed/" + "x" * 22, 404)):
            answer = self.stranger.get(path)
            self.assertEqual((answer.status_code, answer["X-Frame-Options"]), (status, "DENY"))
            self.assertIn("frame-ancestors 'none'", answer["Content-Security-Policy"])
            self.assertNotContains(answer, "<video", status_code=status)
        self.assertEqual(self.client.get(f"{self.path}/shared").json()[0]["code"], "")

    def test_oembed_says_what_is_public(self):
        page = self.share(public=True, title='Clocks & "hope"')
        told = self.oembed(page)
        self.assertEqual((told["type"], told["version"], told["title"]), ("video", "1.0", 'Clocks & "hope"'))
        self.assertEqual((told["width"], told["height"]), (360, 640))
        self.assertIn(f'src="http://testserver{page.embed_path}"', told["html"])
        self.assertIn("title='Clocks &amp; \"hope\"'", told["html"])
        self.assertEqual(told["thumbnail_url"], f"http://testserver{page.path}/cover.jpg")
        for most, size in (({"maxwidth": 90}, (90, 160)), ({"maxwidth": 900, "maxheight": 320}, (180, 320))):
            told = self.oembed(page, **most)
            self.assertEqual((told["width"], told["height"]), size)
        for odd in ({"maxwidth": "-1"}, {"maxwidth": "9" * 40}, {"maxheight": "x"}):
            self.assertGreater(self.oembed(page, **odd)["width"], 0)
        xml = ElementTree.fromstring(
            self.stranger.get("/oembed", {"url": f"http://testserver{page.path}", "format": "xml"}).content
        )
        self.assertEqual((xml.tag, xml.findtext("title")), ("oembed", 'Clocks & "hope"'))

    def test_oembed_says_nothing_of_what_is_private_elsewhere_or_none(self):
        page = self.share()
        self.oembed(page, 401)
        self.oembed(page, 501, format="yaml")
        for url in (
            "",
            "http://[",
            "http://elsewhere.example" + page.path,
            "javascript:" + page.path,
            "http://testserver/",
            "x" * 9_000,
        ):
            self.assertEqual(self.stranger.get("/oembed", {"url": url}).status_code, 404, url)
