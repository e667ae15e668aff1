"""Pictures over words: laid in three actions, another part chosen, the same on the stage and in a file."""

from PIL import Image
from playwright.sync_api import expect

from hovvet.core.plan.model import Plan, Still
from tests.e2e.clips import ClipCase
from tests.e2e.test_preview import AGREE, Agreement


class OverWords(Agreement, ClipCase):
    def plan(self) -> Plan:
        clip = self.page.url.rsplit("/", 1)[1]
        ask = "(id) => fetch(`/api/documents/${id}`).then((answer) => answer.json())"
        return Plan.model_validate(self.page.evaluate(ask, clip)["plan"])

    def test_a_picture_and_a_recording_are_laid_over_words(self):
        page = self.open_clip(other=False)
        settings, shelf = (page.get_by_role("region", name=name) for name in ("Settings", "Picture over words"))
        Image.effect_mandelbrot((900, 700), (-2.2, -1.2, 1.0, 1.2), 60).convert("RGB").save(
            self.data / "shop front.png"
        )

        # The first time it is brought in; laid at once.
        self.select(page, 2, 6)
        page.keyboard.press("v")
        expect(shelf.get_by_role("heading", name="Picture over words")).to_be_focused()
        page.set_input_files("[data-test=shelf-file]", self.data / "shop front.png")
        expect(settings.get_by_text("While it is shown, it")).to_be_visible()
        (still,) = [layer for layer in self.plan().picture if isinstance(layer.source, Still)]
        alike = {}
        for move in ("Comes closer", "To the left", "Stands still"):
            settings.get_by_text(move, exact=True).click()
            expect(settings.get_by_role("radio", name=move)).to_be_checked()
            alike[move] = self.stage_and_still(self.plan(), (still.first + still.last) // 2)
        page.keyboard.press("Escape")

        # Selected words, V, and what is to be seen: three actions.
        self.select(page, 9, 12)
        page.keyboard.press("v")
        shelf.locator("[data-test=shelf-item]").last.click()
        expect(settings.get_by_text("Which part is seen")).to_be_visible()
        where = settings.get_by_role("slider", name="Where it begins")
        where.evaluate(
            "(e) => { e.value = 5; e.dispatchEvent(new Event('input')); e.dispatchEvent(new Event('change', { bubbles: true })) }"
        )
        expect(settings.get_by_text("0:05.0 to")).to_be_visible()
        expect(page.locator("[data-test=bar]", has_text="Picture over words")).to_have_count(2)
        page.wait_for_function(
            "async (id) => (await (await fetch(`/api/documents/${id}`)).json()).sheet.layers.some((layer) => layer.content.start === 5)",
            arg=page.url.rsplit("/", 1)[1],
        )
        plan = self.plan()
        over = plan.picture[-1]
        alike["a recording"] = self.stage_and_still(plan, (over.first + over.last) // 2)
        self.assertGreaterEqual(min(alike.values()), AGREE, alike)

        # Another one in its place, then undone; and the picture deleted elsewhere.
        settings.get_by_text("Show another one here").click()
        settings.locator("[data-test=shelf-item]", has_text="shop front").click()
        expect(settings.get_by_text("Which part is seen")).to_have_count(0)
        page.keyboard.press("Control+z")
        expect(settings.get_by_text("Which part is seen")).to_be_visible()
        self.assertEqual(self.problems, [])
        print(
            "stage against file, pictures over words:",
            ", ".join(f"{name} {value:.3f}" for name, value in alike.items()),
        )
