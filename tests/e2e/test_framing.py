"""How the picture stands in the frame, chosen on the sheet: a speaker kept in view, corrected by hand, seen closer."""

import json
import re

from PIL import Image
from playwright.sync_api import Page, expect

from hovvet.core.colour.grade import LOOKS
from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import outlet
from tests.e2e.base import draw_talk
from tests.e2e.clips import ClipCase
from tests.e2e.test_preview import AGREE, Agreement
from tests.media import ffmpeg

SHARP = 0.95  # structural similarity of what is sharpened


class FramingCase(ClipCase):
    own = True

    def plan(self, page: Page) -> Plan:
        return Plan.model_validate(self.document(page)["plan"])


class Framed(FramingCase):
    def middles(self, page: Page) -> list[float]:
        """What of the recording is in the middle of the picture, in shares of its width, layer by layer."""
        plan = self.plan(page)
        crops = [layer.crop for layer in plan.picture]
        return [(crop.x + crop.width / 2) / 960 for crop in crops if crop]

    def test_a_speaker_is_kept_in_view_and_the_view_is_corrected(self):
        drawn = draw_talk(self.data / "drawn.mp4", 13)
        # The speaker stands left of the middle.
        ffmpeg(
            "-i", drawn, "-vf", "crop=750:540:210:0,pad=960:540:0:0:0x3a3a3a", "-c:a", "copy", self.data / "talk.mp4"
        )
        self.bring_in(self.data / "talk.mp4")
        page = self.open_clip(other=False)
        page.get_by_role("button", name="Add", exact=True).click()
        page.get_by_role("menuitem", name="Reframe the whole clip").click()
        settings = page.get_by_role("region", name="Settings")
        expect(settings.get_by_role("heading", name="Follow the speaker")).to_be_visible()
        expect(settings.get_by_role("status")).to_have_count(0)  # the faces are there
        face = (502 - 210) / 960
        self.assertEqual([round(at, 2) for at in self.middles(page)], [round(face, 2)])

        # By hand, for the first words only: more of the right.
        self.select(page, 0, 2)
        page.get_by_text("Follow the speaker").first.click()
        expect(settings.locator("[data-test=path] polyline")).to_have_count(1)
        handle = page.locator("[data-test=framing-handle]:not(.quiet)")
        box = handle.bounding_box()
        assert box
        page.mouse.move(box["x"] + box["width"] * 0.8, box["y"] + 100)
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] * 0.3, box["y"] + 100, steps=4)
        page.mouse.up()
        expect(page.locator("[data-test=bar]", has_text="Fill")).to_be_visible()
        first, *others = self.middles(page)
        self.assertAlmostEqual(first, face + 0.5 * 304 / 960, delta=0.02)
        self.assertEqual({round(at, 2) for at in others}, {round(face, 2)})

        # Closer at every other cut, by the keyboard.
        page.locator(".rows .word").nth(8).click()
        page.keyboard.press("Delete")
        expect(page.locator(".rows .word").nth(8)).to_have_class(re.compile("cut"))
        page.keyboard.press("Escape")  # the drawer
        page.keyboard.press("Escape")  # the selection
        page.keyboard.press("Control+k")
        page.keyboard.type("zoom at every")
        expect(page.get_by_label("What do you want to do?")).to_have_value("zoom at every")  # typed before it was there
        page.keyboard.press("Enter")
        expect(page.locator("[data-test=bar]", has_text="Zoom").first).to_be_visible()
        page.keyboard.press("Control+z")
        expect(page.locator("[data-test=bar]", has_text="Zoom")).to_have_count(0)
        self.assertEqual(self.problems, [])
        self.assertTrue(
            json.loads(next((self.data / "media" / "recordings").glob("*/faces-*.json")).read_text())["tracks"]
        )


class AsExported(Agreement, FramingCase):
    def test_framings_that_move_and_looks_are_the_same_on_the_stage_and_in_a_file(self):
        drawn = draw_talk(self.data / "drawn.mp4", 13)
        # The speaker walks to and fro.
        walk = "crop=750:540:x='105+105*sin(t*0.9)':y=0,pad=960:540:0:0:0x3a3a3a"
        ffmpeg("-i", drawn, "-vf", walk, "-c:a", "copy", self.data / "talk.mp4")
        self.bring_in(self.data / "talk.mp4")
        page = self.open_clip(other=False)
        page.keyboard.press("Control+k")
        page.keyboard.type("reframe the whole clip")
        page.keyboard.press("Enter")
        settings = page.get_by_role("region", name="Settings")
        expect(settings.get_by_role("heading", name="Follow the speaker")).to_be_visible()
        expect(settings.get_by_role("status")).to_have_count(0)
        page.keyboard.press("Escape")  # the handle on the stage goes with the drawer
        expect(page.locator("[data-test=framing-handle]:not(.quiet)")).to_have_count(0)
        plan = self.plan(page)
        moving = [layer for layer in plan.picture if len(layer.place) > 1]
        self.assertGreaterEqual(len(moving), 2)
        frames = [layer.first + (layer.last - layer.first) * n // 4 for layer in moving[:2] for n in (1, 3)]
        frames += [plan.picture[0].first + 3, plan.frames - 4]
        agreed = {frame: self.stage_and_still(plan, frame) for frame in frames}
        self.assertGreaterEqual(min(agreed.values()), AGREE, agreed)
        self.other_framings_agree(page, plan.frames // 2)

        page.keyboard.press("Shift+L")
        looks = settings.get_by_role("group", name="Begin from")
        alike = {}
        for name in [*LOOKS][::4]:  # each is a table of its own; what draws them is the same for all
            looks.get_by_role("button", name=name).click()
            expect(settings.get_by_role("heading", name=f"Colour: {name}")).to_be_visible()
            alike[name] = self.stage_and_still(self.plan(page), frames[0])
        self.assertGreaterEqual(min(alike.values()), AGREE, alike)
        settings.get_by_label("Temperature").fill("0.35")
        expect(settings.get_by_role("heading", name="Colour: your own")).to_be_visible()
        settings.get_by_label("Name of the look").fill("Lamp light")
        settings.get_by_label("Name of the look").press("Enter")
        own = settings.get_by_role("group", name="Your looks").get_by_role("button", name="Lamp light")
        expect(own).to_be_visible()
        looks.get_by_role("button", name=name).click()  # and back to the last of everybody's
        expect(settings.get_by_role("heading", name=f"Colour: {name}")).to_be_visible()
        own.click()
        expect(settings.get_by_role("heading", name="Colour: your own")).to_be_visible()
        (look,) = {layer.look for layer in self.plan(page).picture}
        self.assertEqual(look.temperature, 0.35)
        page.keyboard.press("y")
        expect(page.get_by_text("Colours as they were filmed")).to_be_visible()
        with page.expect_download() as download:
            settings.get_by_role("link", name="Export as LUT").click()
        self.assertIn("LUT_3D_SIZE 33", download.value.path().read_text())

        page.keyboard.press("y")
        brought = self.what_is_brought_in_agrees(page, frames[0])
        self.safe_area_is_shown(page)
        self.assertEqual(self.problems, [])
        told = ", ".join(f"{name} {value:.3f}" for name, value in brought.items())
        print(f"stage against file: moving {min(agreed.values()):.3f}, looks {min(alike.values()):.3f}, {told}")

    def what_is_brought_in_agrees(self, page: Page, frame: int) -> dict[str, float]:
        """A table of colours from a .cube file, sharper edges, and a picture behind the recording's."""
        settings, alike = page.get_by_role("region", name="Settings"), {}
        (self.data / "broken.cube").write_text("LUT_3D_SIZE 99")
        settings.locator("[data-test=table-file]").set_input_files(self.data / "broken.cube")
        expect(page.get_by_text("It can be 2 to 65")).to_be_visible()
        rows = [f"{0.2 + 0.6 * r} {g} {1 - b}" for b in (0, 0.5, 1) for g in (0, 0.5, 1) for r in (0, 0.5, 1)]
        (self.data / "lamp.cube").write_text("\n".join(['TITLE "Lamp"', "LUT_3D_SIZE 3", *rows]))
        settings.locator("[data-test=table-file]").set_input_files(self.data / "lamp.cube")
        expect(settings.get_by_label("LUT strength (%)")).to_have_value("1")
        alike["table"] = self.stage_and_still(self.plan(page), frame)
        settings.get_by_label("Sharpen").fill("0.8")
        expect(settings.locator("output", has_text=re.compile(r"^0\.8$"))).to_be_visible()
        alike["sharpened"] = self.stage_and_still(self.plan(page), frame)
        self.assertTrue(all(layer.sharpening and layer.look.table for layer in self.plan(page).picture))

        page.locator("[data-test=bar]").first.click()
        settings.get_by_role("radio", name="Fit", exact=True).locator("..").click()
        shop = Image.effect_mandelbrot((900, 700), (-2.2, -1.2, 1.0, 1.2), 60).convert("RGB")
        shop.save(self.data / "shop.png")
        settings.get_by_text("Background picture or video").click()
        settings.locator("[data-test=shelf-file]").set_input_files(self.data / "shop.png")
        expect(settings.get_by_role("heading", name="Fit over a picture")).to_be_visible()
        alike["over a picture"] = self.stage_and_still(self.plan(page), frame)
        settings.locator("[data-test=recordings] [data-test=shelf-item]").first.click()
        expect(settings.locator("[data-test=behind] .recording.chosen")).to_be_visible()
        over_film = self.plan(page)
        self.assertEqual(len(over_film.recordings), 1, "the talk itself, behind it")
        self.assertGreater(len(over_film.picture), 2)
        alike["over a film"] = self.stage_and_still(over_film, frame)
        page.keyboard.press("Escape")
        self.assertGreaterEqual(alike["sharpened"], SHARP)
        self.assertGreaterEqual(min(alike["table"], alike["over a picture"], alike["over a film"]), AGREE, alike)
        return alike

    def other_framings_agree(self, page: Page, frame: int) -> None:
        """Two parts, a small picture in a corner, one put somewhere by dragging; mirrored, with round corners."""
        page.locator("[data-test=bar]").first.click()
        settings = page.get_by_role("region", name="Settings")
        alike = {}
        settings.get_by_text("Two speakers", exact=True).click()
        for how in ("One above the other", "Small in a corner"):
            settings.get_by_text(how, exact=True).click()
            expect(settings.get_by_role("heading", name=how.lower())).to_be_visible()
            alike[how] = self.stage_and_still(self.plan(page), frame)
        settings.get_by_text("Fill", exact=True).click()
        settings.get_by_text("Pan right", exact=True).click()
        expect(settings.get_by_role("heading", name="Pan to the right")).to_be_visible()
        page.keyboard.press("Escape")  # the handle on the stage goes with the drawer
        expect(page.locator("[data-test=framing-handle]:not(.quiet)")).to_have_count(0)
        alike["pan"] = self.stage_and_still(self.plan(page), frame)
        page.locator("[data-test=bar]").first.click()
        settings.get_by_text("None", exact=True).click()
        settings.get_by_text("Custom", exact=True).click()
        stage, corner = page.locator(".stage").bounding_box(), page.locator("[data-test=placed-corner]").bounding_box()
        assert stage and corner
        grip = corner["x"] + 9, corner["y"] + 9
        for (x, y), (across, down) in (
            (grip, (-0.2, 0.0)),
            ((stage["x"] + stage["width"] / 2, stage["y"] + stage["height"] / 2), (0.0, -0.16)),
        ):
            page.mouse.move(x, y)
            page.mouse.down()
            page.mouse.move(x + across * stage["width"], y + down * stage["height"], steps=5)
            page.mouse.up()
        expect(settings.get_by_label("Size", exact=True)).to_have_value(re.compile(r"0\.[56]"))
        expect(settings.get_by_label("Position Y (%)")).to_have_value("0.333")  # drawn to the third
        handle = page.locator("[data-test=placed-handle]")
        handle.focus()
        across = settings.get_by_label("Position X (%)")
        before = float(across.input_value())
        page.keyboard.press("Shift+ArrowRight")
        page.keyboard.press("ArrowLeft")  # before the first has come back
        expect(across).to_have_value(re.compile(str(round(before + 9 / 1080, 3))))
        settings.get_by_label("Mirrored").click()
        settings.get_by_label("Corner radius").fill("0.2")
        expect(settings.locator("output", has_text=re.compile(r"^0\.2$"))).to_be_visible()
        page.keyboard.press("Escape")
        (layer,) = [each for each in self.plan(page).picture if each.first <= frame < each.last]
        self.assertTrue(layer.mirrored and layer.window and layer.window.radius)
        self.assertAlmostEqual(layer.place[0].y, 640, delta=2)
        alike["by hand"] = self.stage_and_still(self.plan(page), frame)
        self.assertGreaterEqual(min(alike.values()), AGREE, alike)

    def safe_area_is_shown(self, page: Page) -> None:
        page.keyboard.press("Shift+S")
        stage, safe = (page.locator(each).bounding_box() for each in (".stage", ".stage .safe"))
        assert stage and safe
        left, top, _, bottom = outlet("tall").safe
        self.assertAlmostEqual(safe["x"] - stage["x"], left * stage["width"] / 1080, delta=1)
        self.assertAlmostEqual(safe["height"], stage["height"] * (1920 - top - bottom) / 1920, delta=2)
        grid = page.locator(".stage .grid").bounding_box()
        assert grid
        self.assertAlmostEqual(grid["width"], grid["height"], delta=2)
        self.assertAlmostEqual(grid["y"] + grid["height"] / 2, stage["y"] + stage["height"] / 2, delta=2)
        page.keyboard.press("Shift+S")
        expect(page.locator(".stage .grid, .stage .safe")).to_have_count(0)
