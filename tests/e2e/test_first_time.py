"""What a new user does first, by mouse and by keys: each task within so many actions."""

import sqlite3
from collections.abc import Callable
from contextlib import closing

from playwright.sync_api import Locator, Page, expect

from tests.e2e.base import DATABASE, BrowserCase, draw_talk
from tests.media import DEMO

TO_FILE, DRESSED, BY_KEYS = 5, 45, 20  # actions, the last keys


class Actions:
    """A person at a page: every click, drag, key and text that is typed counts."""

    def __init__(self, page: Page) -> None:
        self.page, self.count = page, 0

    def click(self, what: Locator, **options: object) -> None:
        what.click(**options)
        self.count += 1

    def key(self, name: str) -> None:
        self.page.keyboard.press(name)
        self.count += 1

    def type(self, text: str) -> None:
        self.page.keyboard.type(text)
        self.count += 1

    def drag(self, what: Locator, across: float) -> None:
        box = what.bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + across, y, steps=4)
        self.page.mouse.up()
        self.count += 1


class FirstTime(BrowserCase):
    small = True

    def talk(self, title: str, seconds: float) -> Locator:
        """The row of a talk in the list, brought in if it is not there yet."""
        row = self.page.locator("li", has_text=title).first
        if not self.rows(f"select 1 from recordings_recording where title = '{title}'"):
            self.bring_in(draw_talk(self.data / f"{title}.mp4", seconds))
        return row

    def passages(self) -> Locator:
        """The link of the list that leads to passages, once they have been found."""
        link = self.talk("an evening", 60).locator(".waits")  # long enough for one that stands alone
        with closing(
            sqlite3.connect(self.data / DATABASE)
        ) as database:  # a passage that a test before made a clip of, too
            database.execute("update recordings_foundpassage set state = 'waiting'")
            database.commit()
        self.page.reload()
        link.wait_for()
        return link

    def test_from_the_list_to_a_file(self):
        link = self.passages()
        do, page = Actions(self.page), self.page
        do.click(link)
        do.click(page.locator(".passages").get_by_role("button", name="Make clip", exact=True))
        page.wait_for_url("**/clips/*")
        do.click(page.get_by_role("button", name="Export", exact=True))
        do.click(page.locator("[data-test=export]"))
        page.wait_for_selector("article[data-ready=true]", timeout=400_000)
        with page.expect_download() as saved:
            do.click(page.locator("article").get_by_text("MP4", exact=True))
        self.assertGreater(saved.value.path().stat().st_size, 10_000)
        print(f"from the list to a file: {do.count} actions")
        self.assertLessEqual(do.count, TO_FILE)

    def test_the_first_clip_by_keys_alone(self):
        self.passages()
        do, page = Actions(self.page), self.page
        page.locator("main").focus()
        while not page.evaluate("document.activeElement.matches('.waits')"):  # the newest stands first
            do.key("Tab")
            self.assertLessEqual(do.count, BY_KEYS, "the passages are not reached")
        do.key("Enter")
        expect(page.locator(".passages ul")).to_be_focused()
        do.key("Enter")
        page.wait_for_url("**/clips/*")
        expect(page.get_by_label("Sheet", exact=True)).to_be_focused()
        do.key("x")
        expect(page.locator("[data-test=export]")).to_be_focused()
        do.key("Enter")
        page.wait_for_selector("article[data-ready=true]", timeout=400_000)
        print(f"the first clip by keys: {do.count} keys")
        self.assertLessEqual(do.count, BY_KEYS)

    def test_then_a_dressed_clip(self):
        page = self.page
        self.talk("a teaser", 13).locator(".what a").click()
        page.wait_for_selector(".word")
        page.get_by_role("button", name="Whole recording as a clip").click()
        page.wait_for_url("**/clips/*")
        page.wait_for_selector(".play:not([disabled])")
        settings = page.get_by_role("region", name="Settings")
        rows = page.locator(".rows .row")
        do = Actions(page)

        def phrase(n: int) -> None:
            do.click(rows.nth(n).locator(".time"))

        def picked(name: str) -> None:
            do.click(
                page.get_by_role("toolbar", name="The selected words").get_by_role("button", name=name, exact=True)
            )

        def added(name: str) -> None:
            do.click(page.get_by_role("button", name="Add", exact=True))
            do.click(page.get_by_role("menuitem", name=name))

        def laid(kind: str) -> None:
            expect(page.locator("#saved")).not_to_have_text("Saving…")
            kinds = [layer["content"]["kind"] for layer in self.document(page)["sheet"]["layers"]]
            self.assertIn(kind, kinds)

        stage = page.locator("[data-test=framing-handle]")
        steps: list[tuple[str, Callable[[], None]]] = [
            ("to the front", lambda: (phrase(2), picked("To front"))),
            ("cut", lambda: (do.click(page.locator(".rows .word").nth(8)), picked("Cut"))),
            ("b-roll", lambda: (phrase(1), picked("B-roll"), do.click(page.locator("[data-test=stock] [data-test=shelf-item]").first))),
            ("reframed", lambda: do.drag(stage, 40)),
            ("a hook", lambda: (phrase(0), picked("Title"), do.type("Nobody throws it away"))),
            ("a lower third", lambda: (phrase(2), do.key("Shift+T"), do.type("Maren Oddvik"))),
            ("a logo", lambda: (added("Logo"), page.set_input_files("[data-test=shelf-file]", DEMO / "stickers" / "quillhaven-mark.svg"))),
            ("a progress bar", lambda: added("Progress bar")),
            ("music", lambda: (added("Music under the whole clip"), do.click(settings.locator("[data-test=stock] [data-test=shelf-item]").first))),
            ("a sound effect", lambda: (phrase(1), picked("Sound"), do.click(settings.locator("[data-test=stock] [data-test=shelf-item]").nth(1)))),
            ("a crossfade", lambda: (do.click(page.locator(".rows .word").nth(6)), do.key("c"))),
            ("a zoom", lambda: (phrase(3), picked("Zoom"))),
            ("a card", lambda: (added("Closing card"), do.type("Bring yours on Tuesday"))),
        ]  # fmt: skip
        for name, step in steps:
            step()
            expect(page.locator("#saved")).not_to_have_text("Saving…")
            if name in ("b-roll", "music", "a sound effect") and page.locator(".el-message-box:visible").count():
                do.click(page.locator(".el-message-box").get_by_role("button", name="Take it"))
            print(f"{name}: {do.count}")
        do.key("Escape")
        for kind in ("broll", "framing", "title", "logo", "progress", "sound", "transition", "punch", "slide"):
            laid(kind)
        do.key("Shift+E")
        shapes = page.get_by_role("dialog", name="Shapes side by side")
        expect(shapes.locator("[data-test=keep-shapes]")).to_be_enabled()
        do.click(shapes.locator("[data-test=keep-shapes]"))
        expect(shapes).to_have_count(0)
        do.key("Shift+H")
        houses = page.get_by_role("dialog", name="House styles")
        do.click(houses.get_by_label("Name of the house style"))
        do.type("Quillhaven evenings")
        do.key("Enter")
        expect(houses.get_by_text("applied to this clip")).to_be_visible()
        do.click(houses.get_by_role("button", name="Use for new clips of this show")) if houses.get_by_role(
            "button", name="Use for new clips of this show"
        ).is_enabled() else None
        do.key("Escape")
        do.key("x")
        boxes = page.get_by_label("Editions to export").get_by_role("checkbox")
        self.assertGreaterEqual(boxes.count(), 3)
        do.key("Enter")  # all of them are ticked
        expect(page.locator("article[data-ready=true]")).to_have_count(boxes.count(), timeout=600_000)
        expect(page.locator("[data-test=package-open]")).to_be_visible()
        print(f"a dressed clip in {boxes.count()} shapes: {do.count} actions")
        self.assertLessEqual(do.count, DRESSED)
