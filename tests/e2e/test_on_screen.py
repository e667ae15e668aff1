"""Stickers, logos and progress bars: laid, moved on the stage, the same there and in a file."""

from playwright.sync_api import expect

from hovvet.core.plan.knots import place_at
from hovvet.core.plan.model import Plan, Still
from tests.e2e.clips import ClipCase
from tests.e2e.test_preview import AGREE, Agreement
from tests.media import DEMO

STICKERS = DEMO / "stickers"


class OnScreen(Agreement, ClipCase):
    def plan(self) -> Plan:
        return Plan.model_validate(self.document(self.page)["plan"])

    def test_a_sticker_a_logo_and_a_bar_are_the_same_on_the_stage_and_in_a_file(self):
        page = self.open_clip(other=False)
        settings = page.get_by_role("region", name="Settings")
        (self.data / "broken.svg").write_text('<svg xmlns="http://www.w3.org/2000/svg"><use href="a.svg"/></svg>')

        # Selected words, U, and a picture.
        self.select(page, 2, 6)
        page.keyboard.press("u")
        expect(settings.get_by_text("Choose what is to be seen here.")).to_be_visible()
        page.set_input_files("[data-test=shelf-file]", self.data / "broken.svg")
        expect(page.get_by_text("links to something outside itself")).to_be_visible()
        page.set_input_files("[data-test=shelf-file]", STICKERS / "alarm-clock.svg")
        expect(page.locator("[data-test=placed-handle]")).to_be_visible()
        alike = {}
        for comes, meanwhile in (("Pop", "Wiggle"), ("Slide", "None"), ("Fade", "Bounce")):
            for group, name in (("Animation in", comes), ("Animation while shown", meanwhile)):
                own = settings.get_by_role("radiogroup", name=group)
                own.get_by_text(name, exact=True).click()
                expect(own.get_by_role("radio", name=name, exact=True)).to_be_checked()
            plan = self.plan()
            layer = next(each for each in plan.picture if isinstance(each.source, Still))
            page.keyboard.press("Escape")  # its frame on the stage goes with the drawer
            expect(page.locator("[data-test=placed-handle]")).to_have_count(0)
            alike[comes] = self.stage_and_still(plan, layer.first + 4)  # amid its coming
            page.locator("[data-test=bar]", has_text="clock").first.click()

        # An emoji in its place, by name; undone.
        settings.get_by_label("Find by name").fill("hammer")
        settings.get_by_role("button", name="Hammer", exact=True).click()
        expect(settings.locator("[data-test=sticker-item][title=Hammer]")).to_have_attribute("aria-pressed", "true")
        plan = self.plan()
        layer = next(each for each in plan.picture if isinstance(each.source, Still))
        page.keyboard.press("Escape")
        expect(page.locator("[data-test=placed-handle]")).to_have_count(0)
        alike["an emoji"] = self.stage_and_still(plan, (layer.first + layer.last) // 2)
        page.keyboard.press("Control+z")
        page.locator("[data-test=bar]", has_text="clock").first.click()

        # Dragged to where it is to be, then moved by a pixel with the keyboard; undone in two steps.
        stage, handle = page.locator(".stage").bounding_box(), page.locator("[data-test=placed-handle]").bounding_box()
        assert stage and handle
        page.mouse.move(handle["x"] + handle["width"] / 2, handle["y"] + handle["height"] / 2)
        page.mouse.down()
        page.mouse.move(stage["x"] + stage["width"] * 0.25, stage["y"] + stage["height"] * 0.6, steps=5)
        page.mouse.up()
        expect(settings.get_by_label("Position X (%)")).to_have_value("0.25")
        expect(settings.get_by_label("Position Y (%)")).to_have_value("0.6")
        page.locator("[data-test=placed-handle]").focus()
        page.keyboard.press("ArrowRight")
        plan = self.plan()
        layer = next(each for each in plan.picture if isinstance(each.source, Still))
        self.assertAlmostEqual(place_at(layer.place, (layer.first + layer.last) // 2).x, 271, delta=0.02)
        for _ in range(2):
            page.keyboard.press("Control+z")
        expect(settings.get_by_label("Position Y (%)")).to_have_value("0.3")
        page.keyboard.press("Escape")

        # A logo and a progress bar over the whole clip, by the finder of commands.
        for what in ("Logo", "Progress bar"):
            page.keyboard.press("Control+k")
            page.keyboard.type(what)
            page.keyboard.press("Enter")
            expect(settings.get_by_role("heading", name=what)).to_be_visible()
            if what == "Logo":
                page.set_input_files("[data-test=shelf-file]", STICKERS / "quillhaven-mark.svg")
                expect(settings.get_by_role("button", name="quillhaven-mark")).to_have_attribute("aria-pressed", "true")
            page.keyboard.press("Escape")
        plan = self.plan()
        alike["logo and bar"] = self.stage_and_still(plan, plan.frames // 2)
        self.assertEqual(sum(isinstance(each.source, Still) for each in plan.picture), 2)

        # Level bars over the whole clip; a title whose words are written where they stand, moved by the keyboard.
        page.keyboard.press("Control+k")
        page.keyboard.type("Audio waveform")
        page.keyboard.press("Enter")
        expect(settings.get_by_role("heading", name="Audio level")).to_be_visible()
        page.keyboard.press("Escape")
        plan = self.plan()
        alike["level bars"] = self.stage_and_still(plan, plan.frames // 3)
        self.select(page, 1, 5)
        page.keyboard.press("i")
        handle = page.locator("[data-test=title-handle]")
        handle.dblclick()
        page.get_by_label("Words of the title").fill("One clock\nmended")
        page.keyboard.press("Enter")
        expect(settings.get_by_label("Text", exact=True)).to_have_value("One clock\nmended")
        before = handle.bounding_box()
        handle.focus()
        page.keyboard.press("ArrowDown")
        expect(settings.get_by_label("Custom position")).to_be_checked()
        page.keyboard.press("Enter")
        page.get_by_label("Words of the title").fill("Never kept")
        page.keyboard.press("Escape")
        expect(handle).to_be_visible()
        title = next(
            each["content"] for each in self.document(page)["sheet"]["layers"] if each["content"]["kind"] == "title"
        )
        self.assertEqual(title["text"], "One clock\nmended")
        after, stage = handle.bounding_box(), page.locator(".stage").bounding_box()
        assert before and after and stage
        self.assertAlmostEqual(after["y"] - before["y"], 0.005 * stage["height"], delta=2)
        self.assertGreaterEqual(min(alike.values()), AGREE, alike)
        self.assertEqual(self.problems, [])
        print("stage against file, on screen:", ", ".join(f"{name} {value:.3f}" for name, value in alike.items()))
