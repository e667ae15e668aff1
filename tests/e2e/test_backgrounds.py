"""The screen behind somebody is taken out, and something else is seen in its place: on the stage, in the file, in the next clip."""

import av
import numpy as np
from PIL import Image
from playwright.sync_api import Page, expect

from hovvet.core.plan.model import Fill, Plan, Still, Video
from tests.e2e.base import DRIVE
from tests.e2e.clips import ClipCase
from tests.e2e.test_preview import Agreement
from tests.screens import film

RED = (190, 60, 50)
ALIKE = 0.95  # of the stage and a file: hair of a pixel, from a copy of half the size


class Backgrounds(Agreement, ClipCase):
    def plan(self) -> Plan:
        return Plan.model_validate(self.document(self.page)["plan"])

    def press(self, page: Page, across: float, down: float) -> None:
        box = page.locator("[data-test=screen] video").bounding_box()
        page.mouse.click(box["x"] + across * box["width"], box["y"] + down * box["height"])

    def test_a_background_is_changed(self):
        self.bring_in(film(self.data / "talk.mp4", 8, sound=DRIVE / "bench-notes-teaser.opus"))
        self.bring_in(film(self.data / "other.mp4", 2, "blue", sound=DRIVE / "bench-notes-teaser.opus"))
        page = self.open_clip(other=False)
        settings = page.get_by_role("region", name="Settings")
        agree: dict[str, float] = {}

        # Laid over the whole clip: the screen is found by itself.
        page.keyboard.press("Control+k")
        page.keyboard.type("background of the whole clip")
        page.keyboard.press("Enter")
        expect(settings.get_by_label("The screen's colour")).to_be_visible()
        page.wait_for_function("() => document.querySelector('#saved').textContent === 'All saved'")
        plan = self.plan()
        self.assertIsInstance(plan.picture[0].keyed.ground.source, Fill)
        agree["a colour"] = self.stage_and_still(plan, 20)

        # Picked by hand at several places; what is no screen is refused, and nothing is changed by it.
        self.press(page, 0.1, 0.1)
        expect(settings.get_by_role("button", name="Start over (1)")).to_be_visible()
        self.press(page, 0.9, 0.8)
        expect(settings.get_by_role("button", name="Start over (2)")).to_be_visible()
        self.press(page, 0.5, 0.55)
        expect(page.locator(".el-message--warning")).to_contain_text("different colours")
        expect(settings.get_by_role("button", name="Start over (2)")).to_be_visible()

        # Drawn around: what is outside counts as screen.
        settings.get_by_role("button", name="Frame", exact=True).click()
        box = page.locator("[data-test=screen] video").bounding_box()
        page.mouse.move(box["x"] + 0.2 * box["width"], box["y"] + 2)
        page.mouse.down()
        page.mouse.move(box["x"] + 0.8 * box["width"], box["y"] + box["height"] - 1, steps=3)
        page.mouse.up()
        expect(settings.get_by_role("button", name="No frame")).to_be_visible()
        settings.get_by_role("button", name="Frame", exact=True).click()

        # A picture, and a film, in its place.
        Image.new("RGB", (400, 300), RED).save(self.data / "wall.png")
        settings.get_by_role("radio", name="Picture or video", exact=True).locator("..").click()
        page.set_input_files("[data-test=shelf-file]", self.data / "wall.png")
        expect(settings.get_by_text("Replace the picture or video")).to_be_visible()
        expect(page.locator("#saved")).to_have_text("All saved")
        plan = self.plan()
        self.assertIsInstance(plan.picture[0].keyed.ground.source, Still)
        self.assertAlmostEqual(plan.picture[0].keyed.screen.left, 0.2, delta=0.03)
        agree["a picture"] = self.stage_and_still(plan, 40)
        settings.get_by_text("Replace the picture or video").click()
        settings.locator("[data-test=recordings] [data-test=shelf-item]", has_text="other").click()
        expect(page.locator("#saved")).to_have_text("All saved")
        plan = self.plan()
        self.assertIsInstance(plan.picture[0].keyed.ground.source, Video)
        agree["a film"] = self.stage_and_still(plan, 70)  # past its end: it runs again
        with page.expect_response("**/undo"):
            page.keyboard.press("Control+z")
        self.assertIsInstance(self.plan().picture[0].keyed.ground.source, Still)

        # Over words: the blue one, and the talk is seen through it.
        page.keyboard.press("Escape")
        self.select(page, 2, 6)
        page.keyboard.press("v")
        shelf = page.get_by_role("region", name="B-roll")
        shelf.get_by_label("Find on the Shelf").fill("other")
        shelf.locator("[data-test=recordings] [data-test=shelf-item]", has_text="other").click()
        expect(settings.get_by_text("Part of it that is seen")).to_be_visible()
        page.keyboard.press("Escape")
        self.select(page, 2, 6)
        page.keyboard.press("Control+k")
        page.keyboard.type("screen of b-roll")
        page.keyboard.press("Enter")
        expect(settings.get_by_label("The screen's colour")).to_be_visible()
        expect(page.locator("#saved")).to_have_text("All saved")
        plan = self.plan()
        over = plan.picture[-1]
        self.assertTrue(over.is_clear)
        agree["seen through"] = self.stage_and_still(plan, (over.first + over.last) // 2)
        self.assertGreaterEqual(min(agree.values()), ALIKE, agree)
        print("stage against file, a background of one's own:", ", ".join(f"{a} {b:.3f}" for a, b in agree.items()))

        # Kept with the recording: its next clip has it, and says nothing of it.
        page.keyboard.press("Escape")
        page.locator("[data-test=bar]", has_text="Background: picture").first.click()
        settings.get_by_role("button", name="Use it for all clips of “talk”").click()
        expect(settings.get_by_role("button", name="No longer for all clips of “talk”")).to_be_visible()
        page.get_by_role("link", name="talk", exact=True).click()
        page.wait_for_url("**/recordings/*")
        page.wait_for_selector(".play:not([disabled])")
        page.locator(".word").first.click()
        for _ in range(6):
            page.keyboard.press("Shift+ArrowRight")
        page.keyboard.press("m")
        page.wait_for_url("**/clips/*")
        page.wait_for_selector(".play:not([disabled])")
        plan = self.plan()
        self.assertEqual(self.document(page)["sheet"]["layers"], [])
        self.assertIsInstance(plan.picture[0].keyed.ground.source, Still)

        # And in its file.
        with av.open(str(self.exported(page))) as container:
            frame = next(container.decode(video=0)).to_ndarray(format="rgb24").astype(int)
        middle = len(frame) // 2
        wall = frame[middle - 20 : middle + 20, 10:40].mean(axis=(0, 1))
        self.assertLess(np.abs(wall - RED).max(), 16, wall)
        self.assertEqual(self.problems, [])
