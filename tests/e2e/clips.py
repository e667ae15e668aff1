"""A clip on its sheet, for stories told with one."""

import shutil
import sqlite3
import tempfile
from contextlib import closing
from pathlib import Path
from typing import ClassVar

from playwright.sync_api import Page, expect

from tests.e2e.base import DATABASE, BrowserCase, draw_talk


class ClipCase(BrowserCase):
    """The talk is brought in once for all of these, but for those with a talk of their ``own``."""

    own = False
    brought_in: ClassVar[tempfile.TemporaryDirectory[str] | None] = None

    @classmethod
    def begin_with(cls) -> None:
        if cls.own or ClipCase.brought_in is None:
            super().begin_with()
        else:
            shutil.copytree(ClipCase.brought_in.name, cls.data, dirs_exist_ok=True)

    def bring_in_talk(self) -> None:
        """Bring the talk in, and keep all that came of it for those who begin later."""
        self.bring_in(draw_talk(self.data / "talk.mp4", 13))
        ClipCase.brought_in = tempfile.TemporaryDirectory()
        kept = Path(ClipCase.brought_in.name)
        shutil.copytree(self.data / "media", kept / "media")
        with closing(sqlite3.connect(self.data / DATABASE)) as now, closing(sqlite3.connect(kept / DATABASE)) as then:
            now.backup(then)

    def words(self, page: Page) -> list[str]:
        return page.locator(".rows .word").all_inner_texts()

    def open_clip(self, other: bool = True) -> Page:
        """A recording, and a clip of all of it, on its sheet; with an ``other`` recording to take words from."""
        page = self.page
        there = {title for (title,) in self.rows("select title from recordings_recording")}
        if "talk" not in there:
            self.bring_in_talk()
        if other and "other" not in there:
            self.bring_in(draw_talk(self.data / "other.mp4", 6))
        page.goto(self.address)
        page.get_by_text("talk", exact=True).click()
        page.wait_for_selector(".play:not([disabled])")
        page.locator(".word").first.click()
        for _ in range(page.locator(".word").count() + page.locator(".pause").count()):
            page.keyboard.press("Shift+ArrowRight")
        page.keyboard.press("m")
        page.wait_for_url("**/clips/*")
        page.wait_for_selector(".play:not([disabled])")
        return page

    def shortened(self, page: Page, words: int) -> None:
        """All but the first words cut: what is exported takes less time."""
        self.select(page, words, page.locator(".rows .word").count() - 1)
        page.keyboard.press("Delete")
        expect(page.locator(".rows .word.cut").last).to_be_visible()
        expect(page.locator("#saved")).to_have_text("All saved")

    def select(self, page: Page, first: int, last: int) -> None:
        page.locator(".rows .word").nth(first).click()
        page.locator(".rows .word").nth(last).click(modifiers=["Shift"])

    def lay(self, page: Page, first: int, last: int, what: str, label: str) -> None:
        """Lay something on words by the menu, and see its bar."""
        self.select(page, first, last)
        page.get_by_role("button", name="Add", exact=True).click()
        page.get_by_role("menuitem", name=what).click()
        expect(page.locator("[data-test=bar]", has_text=label).first).to_be_visible()
