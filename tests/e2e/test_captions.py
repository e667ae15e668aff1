"""Captions of a clip: chosen by keyboard, and in every style the same on the stage and in a file."""

import re

from playwright.sync_api import Page, expect

from hovvet.core.captions.fonts import FONTS
from hovvet.core.captions.style import STYLES
from hovvet.core.plan.model import Plan
from tests.e2e.clips import ClipCase
from tests.e2e.test_preview import AGREE, Agreement

AMID = 3  # frames after a caption has begun: while it comes


class Captioned(Agreement, ClipCase):
    def test_every_style_is_the_same_on_the_stage_and_in_a_file(self):
        page = self.open_clip(other=False)
        page.keyboard.press("Shift+C")
        drawer = page.get_by_role("region", name="Captions")
        expect(drawer.get_by_role("heading", name="Captions")).to_be_focused()
        drawer.get_by_role("radio", name="Two or three words").locator("..").click()
        expect(drawer.get_by_role("radio", name="Two or three words")).to_be_checked()
        expect(drawer.get_by_role("heading", name="too fast to read")).to_be_visible()
        styles = drawer.get_by_role("radiogroup", name="Style of the captions")
        styles.get_by_role("radio", name="Bold").focus()
        agreed = {}
        for n, style in enumerate(STYLES.values()):
            if n:
                page.keyboard.press("ArrowDown")
            expect(page.get_by_role("button", name=f"Captions: {style.name}")).to_be_visible()
            if n % 2 == 0:
                agreed[style.key] = self.seen_and_made(page, style.key)
        self.assertGreaterEqual(min(agreed.values()), AGREE, agreed)
        page.keyboard.press("ArrowDown")
        expect(page.get_by_role("button", name="No captions")).to_be_visible()
        page.keyboard.press("Escape")
        expect(drawer).to_have_count(0)
        page.keyboard.press("Control+z")
        expect(page.get_by_role("button", name=f"Captions: {style.name}")).to_be_visible()
        self.assertEqual(self.problems, [])

    def test_a_style_is_made_from_another_kept_and_used_in_another_clip(self):
        page = self.open_clip(other=False)
        page.keyboard.press("Shift+C")
        drawer = page.get_by_role("region", name="Captions")
        drawer.get_by_text("Change this style").click()
        own = drawer.locator("details", has_text="Text and position")
        own.get_by_role("combobox", name="Spoken word").click(force=True)
        page.get_by_role("option", name="Larger").click()
        expect(page.get_by_role("button", name="Captions: Bold, changed")).to_be_visible()
        own.get_by_label("Position Y in the safe area (%)").fill("0.5")
        own.get_by_role("textbox", name="Text colour", exact=True).fill("#ffe0a0")
        expect(drawer.get_by_role("group", name="Keep this style")).to_be_visible()
        drawer.get_by_label("Name of the style").fill("Bold")
        drawer.get_by_label("Name of the style").press("Enter")
        expect(page.get_by_text("There is a style called “Bold” already.")).to_be_visible()
        drawer.get_by_label("Name of the style").fill("Workshop")
        drawer.get_by_label("Name of the style").press("Enter")
        expect(page.get_by_role("button", name="Captions: Workshop")).to_be_visible()
        expect(drawer.get_by_role("radio", name="Workshop")).to_be_checked()
        style = self.sheet(page)["style"]
        self.assertEqual((style["spoken"]["how"], style["height"], style["colour"]), ("size", 0.5, "#ffe0a0"))
        self.assertGreaterEqual(self.seen_and_made(page, style["key"]), AGREE)

        self.open_clip(other=False)
        expect(page.get_by_role("button", name="Captions: Bold")).to_be_visible()
        page.keyboard.press("Shift+C")
        drawer.get_by_role("radio", name="Workshop").locator("..").click()
        expect(page.get_by_role("button", name="Captions: Workshop")).to_be_visible()
        self.assertEqual(self.sheet(page)["style"], style)
        page.keyboard.press("Escape")
        page.keyboard.press("Control+z")
        expect(page.get_by_role("button", name="Captions: Bold")).to_be_visible()
        self.assertEqual(self.problems, [])

    def test_a_font_is_brought_in_and_a_broken_one_is_refused(self):
        page = self.open_clip(other=False)
        page.keyboard.press("Shift+C")
        drawer = page.get_by_role("region", name="Captions")
        drawer.get_by_text("Change this style").click()
        broken = self.data / "broken.ttf"
        broken.write_bytes((FONTS / "hand.ttf").read_bytes()[:4_000])
        page.set_input_files("[data-test=font-file]", broken)
        expect(page.get_by_text("This font is broken")).to_be_visible()
        page.set_input_files("[data-test=font-file]", FONTS / "hand.ttf")
        expect(drawer.get_by_role("radio", name="Hovvet Hand")).to_be_checked()
        expect(page.get_by_role("button", name="Captions: Bold, changed")).to_be_visible()
        page.wait_for_function("() => document.querySelectorAll('.el-message').length === 0")
        (font,) = self.rows("SELECT id FROM assets_asset")[0]
        self.assertEqual(self.sheet(page)["style"]["font"].replace("-", ""), font)
        self.assertGreaterEqual(self.seen_and_made(page, "changed"), AGREE)
        self.assertEqual(self.problems, [])

    def sheet(self, page: Page) -> dict:
        return self.document(page)["sheet"]

    def test_captions_are_split_joined_and_worded_by_keyboard(self):
        page = self.open_clip(other=False)
        press = page.keyboard.press
        press("Shift+C")
        drawer = page.get_by_role("region", name="Captions")
        drawer.get_by_role("radio", name="One by one").locator("..").click()
        each = drawer.get_by_role("list", name="Captions one by one")
        each.focus()
        texts = [" ".join(text.split()) for text in each.locator(".text").all_inner_texts()]
        first = texts[0].split()

        def expect_first(*captions: str) -> None:
            for n, text in enumerate(captions):
                expect(each.locator(".text").nth(n)).to_have_text(re.compile(rf"^\s*{re.escape(text)}\s"))

        press("ArrowRight")
        press("Enter")
        expect_first(first[0], " ".join(first[1:]))
        press("Backspace")  # the cursor stands before the word that opens the second one
        expect_first(texts[0], texts[1])
        press("Shift+Enter")
        expect(each.locator("li").first.locator("br")).to_have_count(1)
        self.assertEqual(each.locator(".text").first.inner_text().split("\n")[0].strip(), first[0])

        press("Shift+W")
        expect(each.get_by_label("Caption text")).to_be_focused()  # it is written where it stands
        page.keyboard.type("Something else altogether")
        press("Enter")
        expect_first("Something else altogether")
        expect(each).to_be_focused()
        press("Delete")
        hidden = each.locator("[data-test=hidden-caption]")
        expect(hidden).to_be_visible()  # it stays there to be brought back
        expect(each.locator("li:not(.hidden) .text").first).to_have_text(re.compile(re.escape(texts[1])))
        hidden.get_by_role("button", name="Show again").click()
        expect(hidden).to_have_count(0)
        with page.expect_download() as saved:
            drawer.get_by_role("link", name="SRT").click()
        self.assertIn(texts[1].split()[0], saved.value.path().read_text())
        press("Control+z")
        press("Control+z")
        press("Control+z")
        expect_first(texts[0])
        self.assertEqual(self.problems, [])

    def seen_and_made(self, page: Page, key: str) -> float:
        """How like one another the stage and a still of the file are, while a caption comes."""
        clip = page.url.rsplit("/", 1)[1]
        document = page.evaluate("(id) => fetch(`/api/documents/${id}`).then((answer) => answer.json())", clip)
        self.assertEqual(document["sheet"]["captions"], key)
        plan = Plan.model_validate(document["plan"])
        return self.stage_and_still(plan, plan.captions[2].first + AMID)

    def test_words_are_marked_a_sound_is_captioned_and_captions_are_dragged(self):
        page = self.open_clip(other=False)
        self.select(page, 0, 1)
        page.keyboard.press("k")
        page.keyboard.press("Escape")
        page.keyboard.press("Shift+C")
        drawer = page.get_by_role("region", name="Captions")
        expect(drawer.get_by_text("2 of them.")).to_be_visible()
        drawer.get_by_role("radio", name="One by one").locator("..").click()
        each = drawer.get_by_role("list", name="Captions one by one")
        expect(each.locator(".word.key")).to_have_count(2)
        each.focus()
        page.keyboard.press("k")
        expect(each.locator(".word.key")).to_have_count(1)
        drawer.get_by_role("radio", name="All captions").locator("..").click()

        handle = page.locator("[data-test=caption-handle]")
        box = handle.bounding_box()
        assert box
        page.mouse.move(box["x"] + 60, box["y"] + box["height"] * 0.9)
        page.mouse.down()
        page.mouse.move(box["x"] + 60, box["y"] + box["height"] * 0.3, steps=4)
        page.mouse.up()
        expect(page.get_by_role("button", name="Captions: Bold, changed")).to_be_visible()
        self.assertAlmostEqual(self.sheet(page)["style"]["height"], 1 - 0.6 / 0.85, delta=0.05)
        page.keyboard.press("Escape")
        expect(handle).to_have_count(0)

        self.select(page, 3, 3)
        page.get_by_role("button", name="Add", exact=True).click()
        page.get_by_role("menuitem", name="Caption where nobody speaks").click()
        settings = page.get_by_role("region", name="Settings")
        expect(settings.get_by_role("heading", name="[laughs]")).to_be_visible()
        settings.get_by_role("button", name="Applause").click()
        expect(page.locator("[data-test=bar]", has_text="[applause]")).to_be_visible()
        self.assertEqual(self.problems, [])
