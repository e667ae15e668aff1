"""Titles: laid over words with what they say, in a template, the same on the stage and in a file while they come."""

from playwright.sync_api import expect

from hovvet.core.captions.title_styles import TEMPLATES
from hovvet.core.plan.model import Plan
from tests.e2e.clips import ClipCase
from tests.e2e.test_preview import AGREE, Agreement

AMID = 3  # frames after a title has begun: while it comes
SHOWN = ("headline", "tape", "typewriter", "name-card", "button", "by-hand")


class OnScreen(Agreement, ClipCase):
    def plan(self) -> Plan:
        clip = self.page.url.rsplit("/", 1)[1]
        ask = "(id) => fetch(`/api/documents/${id}`).then((answer) => answer.json())"
        return Plan.model_validate(self.page.evaluate(ask, clip)["plan"])

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
        for key in SHOWN:
            template = TEMPLATES[key]
            settings.get_by_role("radio", name=template.style.name, exact=True).locator("..").click()
            expect(settings.get_by_role("radio", name=template.style.name, exact=True)).to_be_checked()
            page.wait_for_function(
                "async ([id, key]) => (await (await fetch(`/api/documents/${id}`)).json()).sheet.layers[0].content.template === key",
                arg=[page.url.rsplit("/", 1)[1], key],
            )
            plan = self.plan()
            alike[key] = self.stage_and_still(plan, plan.rate.frame(first) + AMID)
        self.assertGreaterEqual(min(alike.values()), AGREE, alike)
        settings.get_by_text("Where I want it").click()
        expect(settings.get_by_label("From top to bottom")).to_have_value("0.5")

        page.keyboard.press("Escape")
        page.keyboard.press("Control+k")
        page.keyboard.type("header of the whole clip")
        page.keyboard.press("Enter")
        expect(settings.get_by_role("radio", name="Header", exact=True)).to_be_checked()
        expect(page.locator(".barless [data-test=bar]")).to_have_count(1)
        page.keyboard.press("Control+z")
        expect(page.locator(".barless [data-test=bar]")).to_have_count(0)
        self.assertEqual(self.problems, [])
        print(
            "stage against file, titles while they come:",
            ", ".join(f"{key} {value:.3f}" for key, value in alike.items()),
        )
