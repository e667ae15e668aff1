"""A house style: kept from one clip, then another one is dressed in it, in three shapes, in three actions."""

from playwright.sync_api import expect

from hovvet.core.plan.model import Plan
from tests.e2e.clips import ClipCase
from tests.e2e.test_preview import AGREE, Agreement
from tests.media import DEMO


class House(Agreement, ClipCase):
    def test_a_clip_is_dressed_in_three_shapes_in_three_actions_and_keeps_what_is_its_own(self):
        page = self.open_clip(other=False)
        settings, dialog = page.get_by_role("region", name="Settings"), page.get_by_role("dialog", name="House styles")
        for what in ("Logo", "Progress bar"):
            page.keyboard.press("Control+k")
            page.keyboard.type(what)
            page.keyboard.press("Enter")
            expect(settings.get_by_role("heading", name=what)).to_be_visible()
            if what == "Logo":
                page.set_input_files("[data-test=shelf-file]", DEMO / "stickers" / "quillhaven-mark.svg")
                expect(settings.get_by_role("button", name="quillhaven-mark")).to_have_attribute("aria-pressed", "true")
            page.keyboard.press("Escape")
        self.select(page, 0, 3)
        page.keyboard.press("i")
        settings.get_by_role("button", name="templates").click()
        settings.get_by_role("radio", name="Tape", exact=True).locator("..").click()
        expect(settings.get_by_role("radio", name="Tape", exact=True)).to_be_checked()
        page.keyboard.press("Escape")
        clip = page.url.rsplit("/", 1)[1]
        # All shapes beside one another, seen before they are kept.
        page.keyboard.press("Shift+E")
        seen = page.get_by_role("dialog", name="Shapes side by side").locator("[data-test=shape] img")
        expect(seen).to_have_count(4)
        page.wait_for_function(
            """() => { const all = [...document.querySelectorAll('[data-test=shape] img')];
            return all.length === 4 && all.every((each) => each.complete && each.naturalWidth > 0) }"""
        )
        sizes = seen.evaluate_all("(all) => all.map((each) => [each.naturalWidth, each.naturalHeight])")
        self.assertEqual(sizes, [[360, 640], [360, 450], [360, 360], [640, 360]])
        page.locator("[data-test=keep-shapes]").click()
        expect(page.get_by_text("This clip is made in 4 editions now.")).to_be_visible()
        page.keyboard.press("Shift+H")
        dialog.get_by_label("Name of the house style").fill("Quillhaven")
        dialog.get_by_role("button", name="Save this clip's style").click()
        expect(dialog.locator("[data-test=house]")).to_contain_text("Logo · Progress bar · Hook title · 4 editions")
        page.keyboard.press("Escape")

        # Another clip: the menu, the dialog, the style.
        page.get_by_role("link", name="talk", exact=True).click()
        self.make_another()
        page.keyboard.press("Shift+H")
        dialog.get_by_role("button", name="Apply to this clip").click()
        expect(page.locator(".whole [data-test=bar]:not([data-layer=l1])")).to_have_count(2)
        made = self.document(page)
        self.assertEqual([each["outlet"] for each in made["sheet"]["editions"]], ["tall", "portrait", "square", "wide"])
        hook = next(each for each in made["sheet"]["layers"] if each["id"] == "house-hook")
        self.assertEqual(hook["content"]["text"], made["title"])
        plan = Plan.model_validate(made["plan"])
        self.assertGreaterEqual(self.stage_and_still(plan, 20), AGREE)

        # Its own colour stays when the style has changed and it is dressed again.
        page.locator("[data-test=bar]", has_text="Progress bar").click()
        settings.get_by_text("Along the top", exact=True).click()
        expect(settings.get_by_role("radio", name="Along the top")).to_be_checked()
        page.keyboard.press("Escape")
        page.locator("[data-test=bar]", has_text="quillhaven").first.click()
        settings.get_by_text("Bottom left", exact=True).click()
        expect(settings.get_by_role("radio", name="Bottom left")).to_be_checked()
        self.document(page)
        page.keyboard.press("Escape")
        page.goto(f"{self.address}/clips/{clip}")
        page.wait_for_selector(".play:not([disabled])")
        page.locator("[data-test=bar]", has_text="Progress bar").click()
        settings.get_by_label("Unplayed part: opacity (%)").fill("0")
        expect(settings.locator("output").last).to_have_text("0 %")
        self.document(page)
        page.keyboard.press("Escape")
        page.keyboard.press("Shift+H")
        dialog.get_by_role("button", name="Update from this clip").click()
        page.get_by_role("button", name="Update", exact=True).click()
        expect(page.get_by_text("is updated from this clip")).to_be_visible()
        page.goto(f"{self.address}/clips/{made['id']}")
        page.get_by_text("has changed since this clip was given it").wait_for()
        page.get_by_role("button", name="Apply again").click()
        expect(page.get_by_text("has changed since this clip was given it")).to_have_count(0)
        layers = {each["id"]: each["content"] for each in self.document(page)["sheet"]["layers"]}
        self.assertEqual(layers["house-progress-1"]["place"], "along the top", "its own")
        self.assertEqual(layers["house-logo-1"]["corner"], "bottom left", "its own")
        self.assertEqual(self.problems, [])

    def make_another(self) -> None:
        """Another clip of the talk, of its first words."""
        page = self.page
        page.wait_for_selector(".play:not([disabled])")
        page.locator(".word").nth(2).click()
        page.locator(".word").nth(16).click(modifiers=["Shift"])
        page.keyboard.press("m")
        page.wait_for_url("**/clips/*")
        page.wait_for_selector(".play:not([disabled])")
