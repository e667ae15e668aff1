"""Pictures and titles over words: laid in three actions, chosen, the same on the stage and in a file."""

from PIL import Image
from playwright.sync_api import expect

from hovvet.core.captions.title_styles import TEMPLATES
from hovvet.core.plan.model import Plan, Still
from tests.e2e.clips import ClipCase
from tests.e2e.test_preview import AGREE, Agreement

AMID = 3  # frames after a title has begun: while it comes
SHOWN = ("headline", "tape", "typewriter", "name-card", "button", "by-hand")


class OverWords(Agreement, ClipCase):
    def plan(self) -> Plan:
        return Plan.model_validate(self.document(self.page)["plan"])

    def test_a_picture_and_a_recording_are_laid_over_words(self):
        page = self.open_clip(other=False)
        settings, shelf = (page.get_by_role("region", name=name) for name in ("Settings", "B-roll"))
        Image.effect_mandelbrot((900, 700), (-2.2, -1.2, 1.0, 1.2), 60).convert("RGB").save(
            self.data / "shop front.png"
        )

        # The first time it is brought in; laid at once.
        self.select(page, 2, 6)
        page.keyboard.press("v")
        expect(shelf.get_by_label("Find on the Shelf")).to_be_focused()
        page.set_input_files("[data-test=shelf-file]", self.data / "shop front.png")
        expect(settings.get_by_text("Movement")).to_be_visible()
        (still,) = [layer for layer in self.plan().picture if isinstance(layer.source, Still)]
        alike = {}
        for move in ("Zoom in", "Pan left"):
            settings.get_by_text(move, exact=True).click()
            expect(settings.get_by_role("radio", name=move)).to_be_checked()
            alike[move] = self.stage_and_still(self.plan(), (still.first + still.last) // 2)
        settings.get_by_text("Pan between two points", exact=True).click()
        part = settings.locator("[data-test=part-to]")
        expect(part).to_be_visible()
        expect(settings.locator("[data-test=parts] img")).not_to_have_js_property("naturalHeight", 0)
        box, before = part.bounding_box(), self.plan().picture[-1].place[-1]
        page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] / 2 + 30, box["y"] + box["height"] / 2 + 10)
        page.mouse.up()
        slider = settings.get_by_role("slider", name="End: position X (%)")
        expect(slider).not_to_have_value("0.5")
        drawn = self.plan()
        self.assertLess(drawn.picture[-1].place[-1].x, before.x, "what is further right is seen")
        alike["from part to part"] = self.stage_and_still(drawn, still.last - 2)
        page.keyboard.press("Escape")
        self.select(page, 2, 6)
        page.keyboard.press("Control+k")
        page.keyboard.type("colour of b-roll")
        page.keyboard.press("Enter")
        settings.get_by_role("button", name="Print").click()
        expect(settings.get_by_role("heading", name="Colour of pictures: Print")).to_be_visible()
        graded = self.plan()
        self.assertEqual([bool(layer.look) for layer in graded.picture], [False, True])
        alike["in colours of its own"] = self.stage_and_still(graded, (still.first + still.last) // 2)
        page.keyboard.press("Escape")

        # Selected words, V, and what is to be seen: three actions.
        self.select(page, 9, 12)
        page.keyboard.press("v")
        shelf.locator("[data-test=shelf-item]").last.click()
        expect(settings.get_by_text("Part of it that is seen")).to_be_visible()
        where = settings.get_by_role("slider", name="Starts at (s)")
        where.evaluate(
            "(e) => { e.value = 5; e.dispatchEvent(new Event('input')); e.dispatchEvent(new Event('change', { bubbles: true })) }"
        )
        expect(settings.get_by_text("0:05.0 to")).to_be_visible()
        expect(page.locator(".picture [data-test=bar].begins")).to_have_count(3)  # the colour of both, too
        plan = self.plan()
        over = plan.picture[-1]
        alike["a recording"] = self.stage_and_still(plan, (over.first + over.last) // 2)
        self.assertGreaterEqual(min(alike.values()), AGREE, alike)

        # Another one in its place, then undone; and the picture deleted elsewhere.
        settings.get_by_text("Replace").click()
        settings.locator("[data-test=shelf-item]", has_text="shop front").click()
        expect(settings.get_by_text("Part of it that is seen")).to_have_count(0)
        page.keyboard.press("Control+z")
        expect(settings.get_by_text("Part of it that is seen")).to_be_visible()
        self.assertEqual(self.problems, [])
        print(
            "stage against file, pictures over words:",
            ", ".join(f"{name} {value:.3f}" for name, value in alike.items()),
        )

    def test_titles_are_laid_and_chosen(self):
        page = self.open_clip(other=False)
        settings = page.get_by_role("region", name="Settings")
        said = " ".join(self.words(page)[2:5])
        self.select(page, 2, 4)
        page.keyboard.press("i")
        expect(settings.get_by_role("textbox", name="Text", exact=True)).to_have_value(said)
        bar = page.locator("[data-test=bar]", has_text=said)
        expect(bar).to_be_visible()
        settings.get_by_role("textbox", name="Text", exact=True).fill("Nobody throws away a clock")
        settings.get_by_role("textbox", name="Text", exact=True).blur()
        expect(settings.get_by_role("heading", name="Nobody throws away a clock")).to_be_visible()
        first = self.plan().words[2].start
        alike = {}
        settings.get_by_role("button", name="templates").click()
        for key in SHOWN:
            template = TEMPLATES[key]
            settings.get_by_role("radio", name=template.style.name, exact=True).locator("..").click()
            expect(settings.get_by_role("radio", name=template.style.name, exact=True)).to_be_checked()
            plan = self.plan()
            alike[key] = self.stage_and_still(plan, plan.rate.frame(first) + AMID)
        # A list that builds up, a number while it counts: by what their templates set.
        for search, name, text, after in (
            ("list", "List", "Open it\nClean it\nOil it", 30),
            ("number", "Number", "40", 12),
        ):
            settings.get_by_role("textbox", name="Text", exact=True).fill(text)
            settings.get_by_label("Find a template").fill(search)
            settings.get_by_role("radio", name=name, exact=True).locator("..").click()
            expect(settings.get_by_role("radio", name=name, exact=True)).to_be_checked()
            expect(settings.get_by_role("heading", name=text.replace("\n", " "))).to_be_visible()
            plan = self.plan()
            alike[search] = self.stage_and_still(plan, plan.rate.frame(first) + after)
        self.assertGreaterEqual(min(alike.values()), AGREE, alike)
        settings.get_by_text("Custom position").click()
        expect(settings.get_by_label("Position Y (%)")).to_have_value("0.5")

        page.keyboard.press("Escape")
        # A card at the end: a gap of its own, and a slide over it.
        page.keyboard.press("Control+k")
        page.keyboard.type("closing card")
        page.keyboard.press("Enter")
        settings.get_by_role("textbox", name="Text", exact=True).fill("Bring yours on Tuesday")
        settings.get_by_role("textbox", name="Text", exact=True).blur()
        expect(settings.get_by_role("heading", name="Slide: Bring yours on Tuesday")).to_be_visible()
        page.keyboard.press("Escape")
        plan = self.plan()
        alike["a card"] = self.stage_and_still(plan, plan.frames - 87)
        self.assertGreaterEqual(alike["a card"], AGREE)

        page.keyboard.press("Control+k")
        page.keyboard.type("headline throughout")
        page.keyboard.press("Enter")
        expect(settings.get_by_role("radio", name="Header", exact=True)).to_be_checked()
        expect(page.locator(".whole [data-test=bar]:not([data-layer=l1])")).to_have_count(1)
        page.keyboard.press("Control+z")
        expect(page.locator(".whole [data-test=bar]:not([data-layer=l1])")).to_have_count(0)
        self.assertEqual(self.problems, [])
        print(
            "stage against file, titles while they come:",
            ", ".join(f"{key} {value:.3f}" for key, value in alike.items()),
        )
