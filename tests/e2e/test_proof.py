"""From proof to handing over: nothing wrong any more by keys alone, watched back, a cover, a text, a package, a timeline that
comes back."""

import json
import re
import zipfile

import opentimelineio as otio
from PIL import Image
from playwright.sync_api import Page, expect

from tests.e2e.clips import ClipCase

_MOST = 60  # faults of a clip that was never looked at


class Proof(ClipCase):
    def test_proof_to_zero_by_keys_and_back_by_undo(self):
        page = self.open_clip(other=False)
        self.lay(page, 2, 4, "Caption text, colour, size", "Caption")
        page.get_by_role("region", name="Settings").get_by_label("Hidden in captions").click()
        page.keyboard.press("Escape")
        page.keyboard.press("Shift+P")
        panel = page.get_by_role("region", name="Proof")
        expect(panel.locator("[data-check=uncaptioned]")).to_have_count(1)
        count = page.locator("[data-test=faults]")
        self.assertEqual(int(count.inner_text()), panel.locator("[data-fault]").count())
        first = panel.locator("[data-fault]").first
        expect(first).to_be_focused()
        page.keyboard.press("Space")  # heard at once
        expect(page.get_by_role("button", name="Pause", exact=True).first).to_be_visible()
        fixed = left = 0
        while panel.locator("[data-fault]").count() and fixed + left < _MOST:
            now = panel.locator("[data-fault].now")
            expect(now).to_be_focused()
            key = now.get_attribute("data-fault")
            if (
                now.get_by_role("button", name="Play").count() < now.get_by_role("button").count() - 1
                and now.locator(".el-button--primary").count()
            ):
                page.keyboard.press("Enter")
                fixed += 1
            else:
                page.keyboard.press("l")
                why = page.get_by_role("dialog").get_by_role("textbox")
                expect(why).to_be_focused()
                page.keyboard.type("It is meant so")
                page.keyboard.press("Enter")
                left += 1
            expect(panel.locator(f'[data-fault="{key}"]')).to_have_count(0)
        expect(panel.get_by_text("Nothing is wrong that can be seen from here")).to_be_visible()
        expect(count).to_have_count(0)
        self.assertGreaterEqual(fixed, 1)
        if left:
            panel.get_by_text(f"Left as it is ({left})").click()
            expect(panel.locator("[data-test=left]").first).to_contain_text("“It is meant so”, ")
        page.keyboard.press("Control+z")
        expect(panel.locator("[data-fault]").first).to_be_visible()
        self.assertEqual(self.problems, [])

    def test_handed_over_with_all_that_goes_with_it(self):
        page = self.open_clip(other=False)
        self.shortened(page, 16)
        self.exported_and_watched_back(page)
        self.covered(page)
        self.written(page)
        self.packed(page)
        self.to_another_editor_and_back(page)
        self.assertEqual(self.problems, [])

    def exported_and_watched_back(self, page: Page) -> None:
        page.keyboard.press("x")
        page.locator("[data-test=export]").click()
        expect(page.locator("article[data-ready=true]")).to_have_count(1, timeout=300_000)
        page.get_by_role("button", name="Watch back").click()
        watching = page.get_by_role("dialog", name="Watch back")
        expect(watching.locator(".word.now")).to_have_count(1)
        before = watching.locator(".word.now").get_attribute("data-word")
        expect(watching.locator(f'.word.now:not([data-word="{before}"])')).to_have_count(
            1, timeout=30_000
        )  # it runs along
        page.keyboard.press("m")
        page.keyboard.type("Softer here")
        page.keyboard.press("Enter")
        page.keyboard.press("Delete")  # what is below is not touched
        page.keyboard.press("Space")
        expect(watching.get_by_role("button", name="Pause", exact=True)).to_be_visible()
        expect(watching.get_by_role("button", name="Play", exact=True)).to_be_visible(timeout=120_000)  # at its end
        page.keyboard.press("Escape")
        expect(page.locator("[data-test=watched]")).to_contain_text("Watched to the end by")
        (marker,) = [each for each in self.document(page)["sheet"]["layers"] if each["content"]["kind"] == "marker"]
        self.assertEqual((marker["content"]["note"], marker["content"]["sort"]), ("Softer here", "to do"))
        expect(page.get_by_text("Clip changed since")).to_have_count(0)

    def covered(self, page: Page) -> None:
        page.keyboard.press("Shift+K")
        panel = page.get_by_role("region", name="Cover")
        expect(panel.get_by_role("button", name="The frame at")).to_have_count(5, timeout=60_000)
        page.keyboard.press("2")
        expect(panel.get_by_role("button", name="The frame at").nth(1)).to_have_attribute("aria-pressed", "true")
        panel.get_by_label("Title over it").fill("A clock")
        panel.get_by_label("Title over it").press("Enter")
        expect(panel.get_by_label("Template of the title")).to_be_visible()
        with page.expect_download() as download:
            panel.get_by_role("link", name="JPEG").click()
        with Image.open(download.value.path()) as picture:
            self.assertEqual((picture.size, picture.format), ((1080, 1920), "JPEG"))

    def written(self, page: Page) -> None:
        page.keyboard.press("Escape")
        page.keyboard.press("Shift+B")
        panel = page.get_by_role("region", name="Text for the post")
        panel.locator("[data-test=begin-post]").click()
        expect(panel.locator("[data-test=counted]")).to_have_text(
            re.compile(r"^[1-9]\d* of 2200 letters, 3 of 8 hashtags")
        )
        panel.get_by_label("Another hashtag").fill("mending two")
        panel.get_by_label("Another hashtag").press("Enter")
        panel.get_by_label("Link").fill("nowhere")
        expect(panel.get_by_role("alert")).to_contain_text("a link begins with https://")
        panel.get_by_label("Link").fill("https://quillhaven.example/tuesday")
        expect(panel.locator("[data-test=post-text]")).to_contain_text("https://quillhaven.example/tuesday")
        expect(panel.locator("[data-test=post-text]")).to_contain_text("#mending #two")
        page.keyboard.press("Alt+c")
        expect(page.get_by_text("The text is copied.")).to_be_visible()
        page.keyboard.press("Escape")

    def packed(self, page: Page) -> None:
        page.keyboard.press("x")
        page.locator("[data-test=package-open]").click()
        page.locator("[data-test=pack]").click()
        link = page.locator("[data-test=package]")
        expect(link).to_be_focused(timeout=120_000)
        with page.expect_download() as download:
            link.click()
        with zipfile.ZipFile(download.value.path()) as archive:
            self.assertIsNone(archive.testzip())
            listed = json.loads(archive.read("contents.json"))
            kinds = sorted(each["name"].rpartition(".")[2] for each in listed["files"])
        self.assertEqual(kinds, ["ass", "jpg", "json", "mp4", "otio", "srt", "txt", "txt", "vtt"])
        self.assertEqual(listed["left_out"], [])
        page.keyboard.press("Escape")

    def to_another_editor_and_back(self, page: Page) -> None:
        panel = page.get_by_role("region", name="Export")
        panel.get_by_text("For another editor").click()
        with page.expect_download() as download:
            panel.get_by_role("link", name="OTIO").click()
        whole = otio.adapters.read_from_file(str(download.value.path()), "otio_json")
        track = whole.tracks[0]
        before = self.document(page)["seconds"]
        clip = track[0]
        clip.source_range = otio.opentime.TimeRange(
            clip.source_range.start_time,
            clip.source_range.duration - otio.opentime.RationalTime(25, track.trimmed_range().duration.rate),
        )
        back = self.data / "back.otio"
        back.write_text(whole.to_json_string())
        panel.get_by_label("A timeline from another editor").set_input_files(back)
        expect(page.get_by_text("The cuts are as in that timeline now.")).to_be_visible()
        fps = whole.tracks[0].trimmed_range().duration.rate
        self.assertAlmostEqual(before - self.document(page)["seconds"], 25 / fps, 3)
        page.keyboard.press("Control+z")
        expect(page.locator("[data-test=length]")).to_contain_text(f"{int(before // 60)}:{before % 60:04.1f}")
