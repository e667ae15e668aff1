"""Every screen within reach: on small windows, zoomed in, by keyboard alone, and for a screen reader."""

import re

from playwright.sync_api import Page, expect

from tests.e2e.accessible import Accessible
from tests.e2e.base import ROOT, BrowserCase

DRIVE = ROOT / "demo" / "drive"
SMALL, ZOOMED = {"width": 1024, "height": 700}, {"width": 640, "height": 400}  # 640x400 is 1280x800 at 200 %
PHONE = {"width": 390, "height": 844}


class Reach(Accessible, BrowserCase):
    small = True

    def setUp(self) -> None:
        super().setUp()
        self.page.wait_for_selector("text=/Nothing here yet|Drop more files/")
        if not self.page.locator("li", has_text="bench notes teaser").count():
            self.bring_in_teaser()

    def open_desk(self) -> None:
        self.page.locator(".what a").first.click()
        self.page.wait_for_selector("[data-test=length]")
        self.page.wait_for_selector(".word")

    def in_window(self, what) -> None:
        """Wholly within the window, and not covered by anything."""
        what.wait_for()
        box, size = what.bounding_box(), self.page.viewport_size
        self.assertTrue(
            box["x"] >= 0 and box["y"] >= 0 and box["x"] + box["width"] <= size["width"] + 1
            and box["y"] + box["height"] <= size["height"] + 1,
            f"{what} lies at {box} of {size}",
        )  # fmt: skip
        self.assertTrue(
            what.evaluate(
                """(element) => { const box = element.getBoundingClientRect()
                   const top = document.elementFromPoint(box.x + box.width / 2, box.y + box.height / 2)
                   return element.contains(top) || top?.contains(element) }"""
            ),
            f"{what} is covered",
        )

    def test_no_screen_has_a_violation(self):
        page = self.page
        self.check("recordings")
        page.click("text=From a link")
        page.wait_for_selector(".el-dialog")
        expect(page.locator(".dialog-fade-enter-active")).to_have_count(0)  # half-faded text has no contrast
        self.check("link dialog")
        page.keyboard.press("Escape")
        self.open_desk()
        self.check("desk")
        for tab in ("Speakers", "Sound", "Terms", "Clips"):
            page.get_by_role("tab", name=tab).click()
            self.check(f"desk, {tab}")
        page.get_by_role("tab", name="Sweep").click()
        page.click("text=Review before cutting")
        page.wait_for_selector(".sweep .group")
        page.get_by_role("button", name="Show").first.click()
        self.check("desk, review")
        page.keyboard.press("Control+f")
        page.wait_for_selector(".find")
        self.check("desk, find")
        page.keyboard.press("Escape")
        page.keyboard.press("h")
        page.wait_for_selector(".history li")
        self.check("desk, history")
        page.keyboard.press("Escape")
        self.make_clip()
        self.check("sheet")
        self.check_sheet()
        page.keyboard.press("x")
        page.wait_for_selector(".drawer h2")
        self.check("sheet, export")
        page.get_by_role("link", name="Shelf", exact=True).click()
        page.get_by_text("Stock library", exact=True).click()
        page.wait_for_selector(".el-pagination")
        self.check("shelf, stock library")
        page.locator("[data-test=shelf-item]", has_text="A clock on the wall").click()
        page.wait_for_selector("aside h2")
        self.check("shelf")
        self.check_deliveries()
        page.goto(f"{self.address}/nowhere")
        page.wait_for_selector("main a")
        self.check("nowhere")
        page.context.clear_cookies()
        page.goto(self.address)
        page.wait_for_selector("#username")
        self.check("sign-in")
        self.assertEqual(self.problems, [])

    def check_deliveries(self) -> None:
        """The board with its dialogs, the calendar, the outbox, a feed, and the bell."""
        page = self.page
        page.get_by_role("link", name="Deliveries", exact=True).click()
        page.locator("[data-test=board-row]").first.get_by_role("checkbox").check()
        self.check("board")
        page.get_by_role("link", name="Outbox", exact=True).click()
        page.get_by_label("Name of the new account").fill("Mending, tall")
        page.get_by_label("Outlet of the new account").select_option("tall")
        page.get_by_role("button", name="Add", exact=True).click()
        page.get_by_label("How Mending, tall behaves").wait_for()
        self.check("outbox")
        page.get_by_role("link", name="Its feed").click()
        page.get_by_text("It was sent nothing yet.").wait_for()
        self.check("feed")
        page.get_by_role("link", name="Calendar", exact=True).click()
        page.locator("[data-calendar]").wait_for()
        self.check("calendar")
        page.get_by_role("link", name="Board", exact=True).click()
        page.locator("[data-test=board-row]").first.get_by_role("checkbox").check()
        for key in ("p", "d", "k"):
            page.keyboard.press(key)
            page.locator(".el-dialog").wait_for()
            expect(page.locator(".dialog-fade-enter-active")).to_have_count(0)
            self.check(f"board, {key}")
            page.keyboard.press("Escape")
            expect(page.locator(".el-dialog:visible")).to_have_count(0)
        page.keyboard.press("Shift+U")
        page.get_by_role("heading", name="What happened").wait_for()
        self.check("bell")
        page.get_by_role("button", name="Mail…").click()
        page.get_by_label("Address for mail").wait_for()
        expect(page.locator(".dialog-fade-enter-active")).to_have_count(0)
        self.check("mail")
        page.keyboard.press("Escape")

    def check_sheet(self) -> None:
        """The sheet in all its states: with words selected, menus, commands, panels, dialogs."""
        page = self.page
        page.locator(".rows .word").nth(1).click()
        page.locator(".rows .word").nth(3).click(modifiers=["Shift"])
        page.wait_for_selector(".selection")
        self.check("sheet, words selected")
        for name in ("Add", "Clip"):
            page.get_by_role("button", name=name, exact=True).click()
            page.wait_for_selector(".command-menu:visible")
            self.check(f"sheet, the menu {name}")
            page.keyboard.press("Escape")
            expect(page.locator(".command-menu:visible")).to_have_count(0)
        page.get_by_role("button", name="Find a command").click()
        page.wait_for_selector("[data-finder]")
        expect(page.locator(".dialog-fade-enter-active")).to_have_count(0)
        self.check("commands")
        page.keyboard.press("Escape")
        page.locator(".rows").focus()
        for key, name in (
            ("i", "Settings"),
            ("Shift+C", "Captions"),
            ("t", "Trim"),
            ("v", "B-roll"),
            ("Shift+V", "Suggested b-roll"),
            ("Shift+A", "Sound levels"),
            ("Shift+O", "Settings"),
            ("Shift+P", "Proof"),
            ("Shift+B", "Text for the post"),
            ("Shift+K", "Cover"),
            ("Shift+G", "Share page"),
        ):
            page.keyboard.press(key)
            panel = page.locator(f"section.drawer[aria-label='{name}']")
            expect(panel).to_be_visible()
            if name == "Captions":
                panel.get_by_role("radio", name="One by one").locator("..").click()
            self.check(f"sheet, {name}")
            page.keyboard.press("Escape")
            expect(panel).to_have_count(0)
            expect(page.get_by_label("Sheet", exact=True)).to_be_focused()
        for key, name in (("e", "Editions"), ("Shift+E", "Shapes side by side"), ("Shift+H", "House styles")):
            page.keyboard.press(key)
            dialog = page.get_by_role("dialog", name=name)
            expect(dialog).to_be_visible()
            if name == "Editions":
                dialog.get_by_role("button", name="Add an outlet").click()
            expect(page.locator(".dialog-fade-enter-active")).to_have_count(0)
            self.check(f"sheet, {name}")
            page.keyboard.press("Escape")
            expect(dialog).to_have_count(0)

    def test_the_focus_is_never_lost(self):
        page = self.page
        self.open_desk()
        self.make_clip()
        page.locator(".rows .word").nth(2).click()
        page.keyboard.press("i")
        field = page.get_by_role("textbox", name="Text", exact=True)
        expect(field).to_be_focused()
        page.keyboard.type("A line")
        page.keyboard.press("Escape")
        bar = page.locator("[data-test=bar]", has_text="A line").first
        expect(bar).to_be_visible()  # what was typed is kept
        bar.focus()
        page.keyboard.press("Enter")
        expect(field).to_be_focused()
        page.keyboard.press("Escape")
        expect(bar).to_be_focused()  # a panel returns to the bar it was opened at
        page.keyboard.press("Enter")
        page.get_by_role("button", name="Remove", exact=True).press("Enter")
        expect(page.locator("section.drawer")).to_have_count(0)
        expect(page.locator(":focus")).to_have_count(1)
        page.keyboard.press("Control+z")
        expect(bar).to_be_visible()
        undo = page.get_by_role("button", name="Undo", exact=True)
        for _ in range(3):
            if undo.is_enabled():
                undo.focus()
                page.keyboard.press("Enter")
                expect(page.locator("#saved")).not_to_have_text("Saving…")
        expect(page.locator(":focus")).to_have_count(1)  # also where what had it is switched off
        self.assertEqual(self.problems, [])

    def test_on_a_phone_a_clip_is_read_played_and_exported(self):
        page = self.page
        page.set_viewport_size(PHONE)
        page.goto(self.address)
        self.in_window(page.get_by_role("button", name="Bring in a recording"))
        self.fits(page)
        self.open_desk()
        self.in_window(page.locator(".word").first)
        self.fits(page)
        page.locator(".word").nth(1).click()
        page.locator(".word").nth(9).click(modifiers=["Shift"])
        page.get_by_role("button", name="Make clip").click()
        page.wait_for_url("**/clips/*")
        self.in_window(page.locator(".rows .word").first)
        self.in_window(page.locator(".stage"))
        page.wait_for_selector(".play:not([disabled])")
        self.in_window(page.locator(".play"))
        page.locator(".play").click()
        self.plays_to(page, 0.5)
        page.locator(".play").click()
        self.fits(page)
        page.get_by_role("button", name="Export", exact=True).click()
        self.in_window(page.locator("[data-test=export]"))
        page.locator("[data-test=export]").click()
        page.wait_for_selector("article[data-ready=true]")
        self.assertEqual(self.problems, [])

    def make_clip(self) -> None:
        """By keyboard alone: the focus is where the work goes on."""
        page = self.page
        expect(page.get_by_label("Transcript", exact=True)).to_be_focused()
        page.keyboard.press("ArrowRight")
        for _ in range(12):
            page.keyboard.press("Shift+ArrowRight")
        expect(page.locator("[data-test=selected]")).to_have_text(re.compile(r"^0:\d\d\.\d of 1:00$"))
        page.keyboard.press("m")
        page.wait_for_url("**/clips/*")
        expect(page.get_by_label("Sheet", exact=True)).to_be_focused()

    def test_a_clip_is_made_and_exported_by_keyboard_alone(self):
        page = self.page
        self.open_desk()
        self.make_clip()
        page.keyboard.press("ArrowRight")
        page.keyboard.press("Enter")
        field = page.locator(".edit")
        expect(field).to_be_focused()
        page.keyboard.type("Corrected")
        page.keyboard.press("Enter")
        expect(page.locator(".rows .word", has_text="Corrected")).to_be_visible()
        page.keyboard.press("Control+z")
        expect(page.locator(".rows .word", has_text="Corrected")).to_have_count(0)
        page.keyboard.press("x")
        expect(page.locator("[data-test=export]")).to_be_focused()
        page.keyboard.press("Enter")
        page.wait_for_selector("article[data-ready=true]")
        page.keyboard.press("Escape")
        expect(page.locator(".drawer")).to_have_count(0)
        expect(page.get_by_label("Sheet", exact=True)).to_be_focused()

    def test_the_ruler_and_the_spine_work_by_keyboard(self):
        page = self.page
        self.open_desk()
        page.wait_for_selector(".play:not([disabled])")
        page.get_by_role("slider", name="Place in the whole recording").focus()
        page.keyboard.press("PageUp")
        expect(page.locator("[data-test=clock]")).not_to_have_text(re.compile(r"^0:00\.0"))

    def test_small_and_zoomed_windows(self):
        page = self.page
        for size in (SMALL, ZOOMED):
            page.set_viewport_size(size)
            page.goto(self.address)
            self.in_window(page.get_by_role("button", name="Bring in a recording"))
            self.in_window(page.locator(".what a").first)
            self.open_desk()
            for name in ("Cut", "Undo", "Find", "Make clip", "Download"):
                self.in_window(page.get_by_role("button", name=name, exact=True))
            self.in_window(page.locator(".word").first)
            if size is ZOOMED:
                page.get_by_role("button", name="Panel").click()
            self.in_window(page.get_by_role("tab", name="Clips"))
            page.get_by_role("tab", name="Sweep").click()
            if size is ZOOMED:
                page.mouse.click(10, 200)
            self.fits(page)
            page.locator(".word").nth(1).click()
            page.locator(".word").nth(5).click(modifiers=["Shift"])
            page.get_by_role("button", name="Make clip").click()
            page.wait_for_url("**/clips/*")
            page.wait_for_selector(".rows .word")
            self.in_window(page.get_by_role("button", name="Export", exact=True))
            self.in_window(page.locator(".rows .word").first)
            self.fits(page)
            page.keyboard.press("x")
            self.in_window(page.locator("[data-test=export]"))
            self.in_window(page.locator(".drawer").get_by_role("button", name="Close"))

    def fits(self, page: Page) -> None:
        """The page itself does not scroll."""
        over = page.evaluate(
            "[document.documentElement.scrollWidth - innerWidth, document.documentElement.scrollHeight - innerHeight]"
        )
        self.assertEqual(over, [0, 0], page.viewport_size)

    def test_going_to_a_time_that_is_cut(self):
        page = self.page
        self.open_desk()
        page.wait_for_selector(".play:not([disabled])")
        page.locator(".word").nth(2).click()
        page.locator(".word").nth(30).click(modifiers=["Shift"])
        page.keyboard.press("Delete")
        page.wait_for_selector(".word.cut")
        page.keyboard.press("Control+f")
        page.keyboard.type("0:40")
        expect(page.locator(".find")).to_contain_text("Press Enter to jump")
        page.keyboard.press("Enter")
        # The clock shows the time that was typed, that of the recording, and beside it the edited one.
        expect(page.locator("[data-test=clock]")).to_have_text(re.compile(r"^0:(39\.9|40\.\d)"))
        expect(page.locator(".transport")).to_contain_text(re.compile(r"→ 0:[0-3]\d\.\d"))
        page.keyboard.press("Escape")
        page.keyboard.press("Control+z")
        expect(page.locator(".word.cut")).to_have_count(0)

    def test_typing_in_find_is_no_shortcut(self):
        page = self.page
        self.open_desk()
        page.keyboard.press("Control+f")
        page.keyboard.type("zebra")
        expect(page.locator(".find .count")).to_have_text("Nothing")
        page.keyboard.press("Tab")
        page.keyboard.type("bdm")
        page.keyboard.press("Tab")
        page.keyboard.type("bdm1")
        self.assertEqual(page.locator(".word.cut").count(), 0)
        self.assertTrue(page.url.endswith(page.url.rsplit("/", 1)[1]) and "/recordings/" in page.url)
        self.assertTrue(page.evaluate("document.activeElement.closest('.find') !== null"))
