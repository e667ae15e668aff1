"""Leaving in a hurry, and two pages at once: nothing done is lost, and what is gone is said."""

import re
from collections import Counter

from playwright.sync_api import Page, expect

from tests.e2e.base import BrowserCase


class Leaving(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.bring_in_teaser(9)

    def open_desk(self, page: Page) -> None:
        page.locator("li", has_text="bench notes teaser").locator("a").first.click()
        page.wait_for_selector("[data-test=length]")
        page.wait_for_selector(".word")

    def cut(self, page: Page, n: int) -> None:
        page.locator(".word").nth(n).click()
        page.keyboard.press("Delete")

    def test_quick_edits_before_a_reload_are_kept(self):
        page = self.page
        self.open_desk(page)
        # The server is slow to answer, so that all six wait in the page when it is left.
        page.route("**/edits", lambda route: (page.wait_for_timeout(300), route.continue_()))
        for n in range(6):
            self.cut(page, 2 * n)
        expect(page.locator("#saved")).to_have_text("Saving…")
        page.reload()
        page.wait_for_selector("[data-test=length]")
        expect(page.locator(".word.cut")).to_have_count(6)
        expect(page.locator("#saved")).to_have_text("All saved")
        page.reload()
        page.wait_for_selector(".word.cut")
        expect(page.locator(".word.cut")).to_have_count(6)

    def test_edits_while_the_server_cannot_be_reached_are_sent_later(self):
        page = self.page
        self.open_desk(page)
        page.route("**/edits", lambda route: route.abort())
        self.cut(page, 3)
        expect(page.locator(".el-message--error")).to_contain_text("cannot be reached")
        page.unroute("**/edits")
        page.reload()
        expect(page.locator(".word.cut")).to_have_count(1)

    def test_two_hundred_conflicts_lose_nothing_and_are_told_as_they_end(self):
        page, often, cuts = self.page, 4, 50
        self.open_desk(page)
        recording = page.url.rsplit("/", 1)[1].split("#")[0]
        own = f"{self.address}/api/documents/desk/{recording}"
        token = page.request.get(f"{self.address}/api/session").json()["csrf"]
        words = page.request.get(f"{self.address}/api/recordings/{recording}/transcript").json()["words"]
        self.assertGreater(len(words), cuts)
        tries: Counter[str] = Counter()

        theirs = page.request.get(own).json()

        def somebody_else() -> None:
            """Another page cuts the last word, or brings it back."""
            nonlocal theirs
            word = words[-1]["id"]
            path = f"{self.address}/api/documents/{theirs['id']}/edits"
            while True:
                how = "bring_back" if word in theirs["struck"] else "cut_words"
                body = {"version": theirs["version"], "edit": {"type": how, "piece": "p1", "words": [word]}}
                answer = page.request.post(path, data=body, headers={"X-CSRFToken": token})
                theirs = answer.json() if answer.ok else answer.json()["document"]
                if answer.ok:
                    return

        def first_theirs(route) -> None:
            wanted = str(route.request.post_data_json["edit"])
            tries[wanted] += 1
            if tries[wanted] <= often:
                somebody_else()
            route.continue_()

        page.route("**/edits", first_theirs)
        for n in range(cuts):
            self.cut(page, n)
        expect(page.locator("#saved")).to_have_text(
            "All saved", timeout=900_000
        )  # three requests for each conflict, one by one
        self.assertEqual(set(tries.values()), {often + 1})
        self.assertEqual(len(tries) * often, 200)
        struck = page.request.get(own).json()["struck"]
        self.assertLessEqual({word["id"] for word in words[:cuts]}, set(struck), "each cut is kept")
        self.assertEqual(page.locator(".word.cut").count(), len(struck), "and the page shows what is kept")
        told = page.locator(".el-message").all_inner_texts()
        self.assertFalse(
            [text for text in told if "try once more" in text or "not done" in text or "not saved" in text], told
        )
        self.assertTrue(any("made on top" in text for text in told), told)
        page.reload()
        expect(page.locator(".word.cut")).to_have_count(len(struck))

    def test_a_page_that_comes_to_the_front_shows_what_is_newer(self):
        page = self.page
        self.open_desk(page)
        other = self.browser.new_page(viewport={"width": 1280, "height": 800}, storage_state=self.signed_in)
        self.addCleanup(other.close)
        other.goto(page.url)
        other.wait_for_selector(".word")
        other.wait_for_selector("[data-test=length]")
        self.cut(other, 3)
        expect(other.locator("#saved")).not_to_have_text("Saving…")
        page.evaluate("window.dispatchEvent(new Event('focus'))")
        expect(page.locator(".word.cut")).to_have_count(1)

    def test_undo_stops_where_the_page_was_opened_and_history_reaches_further(self):
        page = self.page
        self.open_desk(page)
        self.cut(page, 3)
        expect(page.locator(".word.cut")).to_have_count(1)
        page.reload()
        page.wait_for_selector(".word.cut")
        expect(page.get_by_role("button", name="Undo")).to_be_enabled()  # a reload is no new opening
        later = self.browser.new_page(viewport={"width": 1280, "height": 800})
        self.addCleanup(later.close)
        self.sign_in(later)
        self.open_desk(later)
        expect(later.locator(".word.cut")).to_have_count(1)
        expect(later.get_by_role("button", name="Undo")).to_be_disabled()
        later.keyboard.press("Control+z")
        expect(later.locator(".el-message--error")).to_contain_text("when you opened it")
        later.keyboard.press("Control+z")
        expect(later.locator(".el-message--error")).to_have_count(1)  # messages do not stack
        later.keyboard.press("h")
        expect(later.locator(".history li").first).to_contain_text("Cut “")
        later.get_by_role("button", name="Go back to: Began").click()
        expect(later.locator(".word.cut")).to_have_count(0)
        later.keyboard.press("Escape")
        expect(later.locator(".history")).to_have_count(0)
        later.keyboard.press("Control+z")
        expect(later.locator(".word.cut")).to_have_count(1)

    def test_what_was_deleted_in_another_tab_is_said(self):
        page = self.page
        self.open_desk(page)
        other = self.browser.new_page(viewport={"width": 1280, "height": 800})
        self.addCleanup(other.close)
        self.sign_in(other)
        row = other.locator("li", has_text="bench notes teaser").first
        row.get_by_role("button", name=re.compile("More")).click()
        other.click("text=Delete…")
        other.locator(".el-message-box").get_by_role("button", name="Delete").click()
        expect(row).to_have_count(0)
        self.cut(page, 3)
        expect(page.locator(".el-message--error")).to_contain_text("has been deleted")
        self.assertEqual(list((self.data / "media" / "recordings").iterdir()), [])
        self.assertEqual(self.problems, [])

    def tearDown(self) -> None:
        """Each test has its recording to itself."""
        self.page.unroute_all()
        self.page.goto(self.address)
        self.page.wait_for_selector("text=/Nothing here yet|Drop more files/")
        for row in self.page.locator("li", has_text="bench notes teaser").all():
            row.get_by_role("button", name=re.compile("More")).click()
            self.page.locator("text=Delete… >> visible=true").click()
            self.page.locator(".el-message-box").get_by_role("button", name="Delete").click()
            expect(row).to_have_count(0)
