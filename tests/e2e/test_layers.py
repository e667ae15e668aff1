"""A clip in full: two recordings, any order, layers on words, three editions at once; by mouse and by keyboard alone."""

from playwright.sync_api import Page, expect

from hovvet.core.media.probe import probe
from tests.e2e.clips import ClipCase
from tests.e2e.test_preview import Agreement


class Layered(Agreement, ClipCase):
    def test_with_the_mouse(self):
        page = self.open_clip()
        before = self.words(page)
        self.select(page, 6, 9)
        page.locator(".rows .word").nth(7).hover()
        page.mouse.down()
        page.locator(".rows .word").nth(3).hover()
        page.locator(".rows .word").first.hover()
        page.mouse.up()
        expect(page.locator(".rows .word").first).to_have_text(before[6])
        order = [*before[6:10], *before[:6], *before[10:]]
        self.assertEqual(self.words(page), order, "dragged to the front")
        page.get_by_role("button", name="Add", exact=True).click()
        page.get_by_text("Insert words from a recording…").click()
        drawer = page.get_by_role("region", name="Insert words")
        drawer.locator(".el-select").click()
        page.get_by_role("option", name="other").click()
        side = drawer.locator(".word")
        expect(side.first).to_be_visible()
        side.nth(0).click()
        side.nth(5).click(modifiers=["Shift"])
        added = side.all_inner_texts()[:6]
        drawer.locator("[data-test=add]").click()
        expect(page.locator(".rows .word")).to_have_count(len(order) + 6)
        self.assertEqual(sorted(self.words(page)), sorted([*order, *added]))
        drawer.get_by_role("button", name="Close").click()
        place = len(order)
        self.assertEqual(self.words(page)[place:], added)
        self.lay(page, place, place, "Transition into these words", "Crossfade 0.5 s")
        self.lay(page, 14, 20, "Speed", "Speed 1.5x")
        rate = page.get_by_role("spinbutton", name="Speed (x)")
        rate.fill("2")
        rate.press("Tab")
        expect(page.locator("[data-test=bar]", has_text="Speed 2x").first).to_be_visible()
        self.lay(page, 10, 10, "Freeze frame", "Freeze 1 s")
        self.lay(page, 16, 22, "Zoom in on the face", "Zoom 1.2x")
        page.get_by_role("radio", name="Ease in").locator("..").click()
        expect(page.locator("[data-test=bar]", has_text="Slow zoom 1.2x").first).to_be_visible()
        page.get_by_role("button", name="Editions").click()
        page.locator("[data-test=another]").click()
        expect(page.locator("[data-test=edition]")).to_have_count(2)
        page.keyboard.press("Escape")
        expect(page.get_by_role("dialog")).to_be_hidden()
        films = self.export_all(page)
        shapes = {(made.width, made.height): film for film in films for made in (probe(film),)}
        self.assertEqual(set(shapes), {(1080, 1920), (1080, 1350)})
        self.check_pictures(shapes[1080, 1920], moments=7)
        self.assertEqual(self.problems, [])

    def export_all(self, page: Page) -> list:
        """Export all editions in one go; the files."""
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Export", exact=True).click()
        boxes = page.get_by_label("Editions to export").locator("label")
        for n in range(boxes.count()):
            if "is-checked" not in (boxes.nth(n).get_attribute("class") or ""):
                boxes.nth(n).click()
        page.locator("[data-test=export]").click()
        ready = page.locator("article[data-ready=true]")
        expect(ready).to_have_count(boxes.count(), timeout=400_000)
        films = []
        for n in range(ready.count()):
            with page.expect_download() as download:
                ready.nth(n).get_by_text("MP4", exact=True).click()
            films.append(self.data / f"film{n}.mp4")
            download.value.save_as(films[-1])
        page.get_by_role("region", name="Export").get_by_role("button", name="Close").click()
        return films

    def test_with_the_keyboard_alone(self):
        page = self.open_clip()
        before = self.words(page)
        press = page.keyboard.press
        page.locator(".rows").focus()
        self.step_to(page, 6, 9)
        press("Control+Home")
        expect(page.locator(".rows .word").first).to_have_text(before[6])
        press("Control+k")
        expect(page.get_by_label("What do you want to do?")).to_be_focused()
        page.keyboard.type("insert words from")
        press("Enter")
        drawer = page.get_by_role("region", name="Insert words")
        expect(drawer.get_by_role("region", name="Words of the recording")).to_contain_text("weather")
        search = drawer.get_by_label("Find words")
        search.focus()
        page.keyboard.type("weather")
        press("Enter")
        expect(drawer.get_by_text("1 word,")).to_be_visible()
        side = drawer.get_by_role("region", name="Words of the recording")
        side.focus()
        press("Shift+ArrowLeft")
        expect(drawer.get_by_text("2 words,")).to_be_visible()
        press("Enter")
        expect(page.locator(".rows .word")).to_have_count(len(before) + 2)
        press("Escape")
        place = len(before)
        self.step_to(page, place, place)
        press("c")
        expect(page.locator("[data-test=bar]", has_text="Crossfade").first).to_be_visible()
        press("Escape")
        self.step_to(page, 14, 20)
        press("r")
        expect(page.locator("[data-test=bar]", has_text="Speed").first).to_be_visible()
        start = page.locator("section[aria-label=Settings] .time").inner_text()
        page.locator("section[aria-label=Settings] h2").focus()  # in a field it is a full stop
        press(".")
        expect(page.locator("section[aria-label=Settings] .time")).not_to_have_text(start)
        press("Escape")
        self.step_to(page, 3, 3)
        press("m")
        expect(page.locator("[data-test=bar]", has_text="Note").first).to_be_visible()
        note = page.get_by_role("region", name="Settings").get_by_role("textbox", name="Note")
        note.focus()
        page.keyboard.type("Ask for a photo")
        press("Tab")
        expect(page.locator("[data-test=bar]", has_text="Ask for a photo").first).to_be_visible()
        press("Control+z")
        expect(page.locator("[data-test=bar]", has_text="Note").first).to_be_visible()
        press("Escape")
        press("g")
        press("Enter")
        expect(page.get_by_text("Gap of 2.0 s")).to_be_visible()
        for _ in range(4):
            press("Control+z")
        expect(page.locator(".rows [data-test=bar]:not([tabindex='-1'])")).to_have_count(1)
        press("Control+Shift+z")
        expect(page.locator("[data-test=bar]", has_text="Speed").first).to_be_visible()
        press("t")
        expect(page.get_by_role("region", name="Trim")).to_be_visible()
        length = page.inner_text("[data-test=length]")
        for _ in range(6):
            press(".")
        expect(page.locator("[data-test=length]")).not_to_have_text(length)
        press("Escape")
        self.assertEqual(self.problems, [])

    def step_to(self, page: Page, first: int, last: int) -> None:
        """Select words by the arrows."""
        tokens = page.locator(".rows [data-t]")
        places = [n for n in range(tokens.count()) if "word" in (tokens.nth(n).get_attribute("class") or "")]
        page.locator(".rows").focus()
        page.keyboard.press("Escape")
        for _ in range(places[first] + 1):
            page.keyboard.press("ArrowRight")
        for _ in range(places[last] - places[first]):
            page.keyboard.press("Shift+ArrowRight")
