"""From a film to where it goes: packed with nineteen others, planned, sent once, told of; and shared, embedded elsewhere."""

import http.server
import sqlite3
import threading
import zipfile
from contextlib import closing
from datetime import UTC, datetime, timedelta
from functools import partial
from pathlib import Path

import micawber
from playwright.sync_api import Page, expect

from tests.e2e.base import DATABASE
from tests.e2e.clips import ClipCase

CLIPS = 20


class Deliveries(ClipCase):
    small = True

    def made(self) -> Page:
        """Twenty clips, one of which is exported."""
        page = self.open_clip(other=False)
        self.shortened(page, 6)
        page.keyboard.press("x")
        page.locator("[data-test=export]").click()
        expect(page.locator("article[data-ready=true]")).to_have_count(1, timeout=300_000)
        clip, token = page.url.rsplit("/", 1)[1], self.token(page)
        for _ in range(CLIPS - 1):
            copy = page.request.post(f"{self.address}/api/documents/{clip}/copy", headers={"X-CSRFToken": token})
            self.assertTrue(copy.ok)
        return page

    def token(self, page: Page) -> str:
        return page.request.get(f"{self.address}/api/session").json()["csrf"]

    def test_packed_planned_sent_once_told_shared_and_embedded(self):
        page = self.made()
        page.get_by_role("navigation", name="Places").get_by_role("link", name="Deliveries").click()
        rows = page.locator("[data-test=board-row]")
        expect(rows).to_have_count(CLIPS)
        self.packed(page)
        self.account(page)
        self.planned(page)
        self.sent(page)
        self.shared(page)
        self.assertEqual(self.problems, [])

    def packed(self, page: Page) -> None:
        page.get_by_label("Choose all").check()
        expect(page.get_by_text(f"{CLIPS} of {CLIPS} chosen")).to_be_visible()
        page.locator("[data-test=board-package]").click()
        dialog = page.get_by_role("dialog", name="Package")
        for part in ("Covers", "For another editor (OTIO)"):
            dialog.get_by_text(part, exact=True).click()  # twenty of each take long
        dialog.locator("[data-test=pack]").click()
        link = dialog.locator("[data-test=package]")
        link.wait_for(timeout=300_000)
        expect(dialog.get_by_text("Not in it:")).to_be_visible()  # nineteen are not exported
        with page.expect_download() as saved:
            link.click()
        with zipfile.ZipFile(saved.value.path()) as package:
            names = package.namelist()
            self.assertIsNone(package.testzip())
        self.assertEqual(len([name for name in names if name.endswith("sheet.json")]), CLIPS)
        self.assertEqual(len([name for name in names if name.endswith(".mp4")]), 1)
        dialog.get_by_role("button", name="Close", exact=True).last.click()
        expect(dialog).to_have_count(0)
        page.get_by_label("Choose all").uncheck()

    def account(self, page: Page) -> None:
        page.get_by_role("link", name="Outbox", exact=True).click()
        page.get_by_label("Name of the new account").fill("Mending, tall")
        page.get_by_label("Outlet of the new account").select_option("tall")
        page.get_by_role("button", name="Add", exact=True).click()
        expect(page.get_by_label("How Mending, tall behaves")).to_be_visible()
        page.get_by_role("link", name="Board", exact=True).click()

    def planned(self, page: Page) -> None:
        """By keys: to the clip that is exported, chosen, planned for tomorrow."""
        page.get_by_label("State").select_option(label="Exported")
        row = page.locator("[data-test=board-row]")
        expect(row).to_have_count(1)
        row.get_by_role("checkbox").focus()
        page.keyboard.press("Space")
        page.keyboard.press("p")
        dialog = page.get_by_role("dialog", name="Plan")
        expect(dialog.locator("[data-test=plan-list] li")).to_have_count(1)
        dialog.get_by_label("Day").fill("2026-01-05")
        dialog.locator("[data-test=plan-go]").click()
        expect(dialog.get_by_role("alert")).to_contain_text("That time is past")
        dialog.get_by_label("Day").fill((datetime.now(UTC) + timedelta(days=1)).date().isoformat())
        dialog.locator("[data-test=plan-go]").click()
        expect(dialog).to_have_count(0)
        page.get_by_role("button", name=f"Show all {CLIPS}").click()

    def sent(self, page: Page) -> None:
        board = page.locator("[data-board]")
        expect(board.locator("[data-state=planned]")).to_have_count(1)
        with closing(sqlite3.connect(self.data / DATABASE, timeout=20)) as database, database:
            database.execute("update outbox_posting set due = datetime('now')")  # its time has come
        expect(board.locator("[data-state=sent]")).to_have_count(1)
        page.get_by_role("link", name="Outbox", exact=True).click()
        expect(page.locator("[data-test=posting]")).to_have_count(1)
        page.get_by_role("link", name="See it there").click()
        film = page.locator("[data-test=fed] video")
        expect(film).to_have_count(1)
        self.assertGreater(film.evaluate("(v) => v.play().then(() => v.pause()).then(() => v.duration)"), 0.5)
        page.keyboard.press("Shift+U")
        told = page.get_by_role("region", name="What happened")
        expect(told.get_by_text("has gone out to Mending, tall")).to_be_visible()
        expect(told.get_by_text("is ready").first).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.get_by_role("button", name="What happened", exact=True)).to_be_focused()  # nothing new any more

    def shared(self, page: Page) -> None:
        """A page of its own: for who has the link, then for everybody, embedded in a page of another origin, found by oEmbed."""
        page.get_by_role("link", name="Board", exact=True).click()
        page.locator("[data-test=board-row]", has=page.locator("[data-state=sent]")).locator("th a").click()
        page.wait_for_selector(".play:not([disabled])")
        page.keyboard.press("Shift+G")
        drawer = page.get_by_role("region", name="Share page")
        drawer.get_by_role("button", name="Make a page for Tall feed").click()
        address = drawer.get_by_role("link", name="Open").get_attribute("href")
        private = self.elsewhere(
            page, f'<iframe src="{address.replace("/share/", "/embed/")}" width="300" height="300"></iframe>'
        )
        self.assertEqual(private.frames[1].locator("video").count(), 0)
        private.close()
        drawer.get_by_text("Everybody", exact=True).click()
        expect(drawer.get_by_role("button", name="Copy the code to embed it")).to_be_visible()
        self.foreign(page, address)
        shared = page.context.browser.new_page()  # signed in nowhere
        shared.goto(address)
        expect(shared.get_by_role("heading", name="What is said")).to_be_visible()
        self.assertGreater(
            shared.locator("video").evaluate("(v) => v.play().then(() => v.pause()).then(() => v.duration)"), 0.5
        )
        self.assertEqual(shared.locator("track").count(), 1)
        shared.close()

    def foreign(self, page: Page, address: str) -> None:
        """A consumer of oEmbed that others wrote asks, and what it is told is put into a page of another origin."""
        told = micawber.Provider(f"{self.address}/oembed").request(address)
        self.assertEqual((told["type"], told["version"]), ("video", "1.0"))
        other = self.elsewhere(page, told["html"])
        film = other.frames[1].locator("video")
        expect(film).to_be_visible()
        self.assertGreater(film.evaluate("(v) => v.play().then(() => v.pause()).then(() => v.duration)"), 0.5)
        box = other.locator("iframe").bounding_box()
        self.assertEqual((round(box["width"]), round(box["height"])), (told["width"], told["height"]))
        other.close()

    def elsewhere(self, page: Page, html: str) -> Page:
        """A page of another site with this in it."""
        folder = self.data / "elsewhere"
        folder.mkdir(exist_ok=True)
        (folder / "index.html").write_text(f"<!doctype html><title>Elsewhere</title>{html}")
        server = _served(folder)
        self.addCleanup(server.shutdown)
        other = page.context.browser.new_page()
        other.goto(f"http://127.0.0.1:{server.server_port}/")
        other.wait_for_function(
            "document.querySelector('iframe') && performance.getEntriesByType('navigation')[0].loadEventEnd > 0"
        )
        return other


def _served(folder: Path) -> http.server.ThreadingHTTPServer:
    class Silent(http.server.SimpleHTTPRequestHandler):
        def log_message(self, *_: object) -> None:
            pass

    server = http.server.ThreadingHTTPServer(("127.0.0.1", 0), partial(Silent, directory=str(folder)))
    threading.Thread(target=server.serve_forever, daemon=True).start()
    return server
