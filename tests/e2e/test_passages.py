"""Passages: brought in, found, walked by keyboard, begun a sentence earlier, hidden, made into clips."""

from pathlib import Path

from playwright.sync_api import Page, expect

from hovvet.core.formats.transcripts import transcript_file
from hovvet.core.words.transcript import Transcript
from tests.core.test_outside import wait_until
from tests.e2e.base import BrowserCase
from tests.media import DEMO, demo_transcript, ffmpeg

FROM, TO = 540.0, 745.0  # seconds of the demo's open night


def part(folder: Path) -> list[Path]:
    """That part of the recording, and its words as subtitles."""
    whole = demo_transcript("open-night")
    words = tuple(
        word.model_copy(update={"start": word.start - FROM, "end": word.end - FROM})
        for word in whole.words
        if word.start > FROM and word.end < TO
    )
    sound, said = folder / "night.opus", folder / "night.srt"
    ffmpeg("-ss", str(FROM), "-t", str(TO - FROM), "-i", DEMO / "speech" / "open-night.opus", "-c:a", "copy", sound)
    said.write_text(transcript_file(Transcript(duration=TO - FROM, words=words), "srt"))
    return [sound, said]


class Passages(BrowserCase):
    def test_they_come_are_walked_by_keyboard_begin_earlier_and_two_become_clips(self):
        page = self.page
        page.set_input_files("[data-test=files]", part(self.data))
        page.get_by_role("link", name="suggested passages").click(timeout=180_000)
        rows = page.locator("[data-test=passage]")
        expect(page.get_by_role("tab", name="Passages")).to_have_attribute("aria-selected", "true")
        expect(rows.nth(2)).to_be_visible()
        count = rows.count()
        first = page.locator("[data-test=passage].current")
        expect(first).to_contain_text("Tells what happened")
        expect(first).not_to_contain_text("%")
        expect(page.locator(".bracket.current").first).to_be_visible()

        # By keyboard alone: the next one, a sentence earlier, heard.
        page.get_by_role("list", name="Passages").focus()
        page.keyboard.press("ArrowDown")
        expect(rows.nth(1)).to_have_class("current")
        line = rows.nth(1).locator(".line").inner_text()
        page.keyboard.press("e")
        expect(rows.nth(1).locator(".line")).not_to_have_text(line)
        page.keyboard.press("l")
        expect(rows.nth(1).locator(".line")).to_have_text(line)
        page.keyboard.press("p")
        expect(page.get_by_role("button", name="Pause", exact=True)).to_be_visible()
        self.name_a_chapter(page)
        page.get_by_role("button", name="Pause", exact=True).click()

        # The last one is hidden, and shown again; two become clips.
        page.get_by_role("list", name="Passages").focus()
        for _ in range(count - 2):
            page.keyboard.press("ArrowDown")
        page.keyboard.press("x")
        expect(rows).to_have_count(count - 1)
        expect(page.get_by_text("has a small part in this")).to_be_visible()
        page.get_by_role("button", name="Show 1 hidden").click()
        expect(rows).to_have_count(count)
        page.get_by_role("button", name="Leave out 1 hidden").click()
        titles = [rows.nth(n).locator("b").inner_text() for n in (0, 1)]
        for n in (0, 1):
            rows.nth(n).locator(".el-checkbox").click()
        page.locator("[data-test=make-clips]").click()
        expect(page.get_by_text("2 clips were made")).to_be_visible()
        expect(rows.nth(0)).to_contain_text("A clip was made")
        page.get_by_role("tab", name="Clips").click()
        for title in titles:
            expect(page.get_by_role("link", name=title, exact=True)).to_be_visible()

        # A clip of one of them: it is called so, begins with its words, and has been swept.
        page.get_by_role("link", name=titles[0], exact=True).click()
        page.wait_for_url("**/clips/*")
        page.wait_for_selector(".play:not([disabled])")
        made = self.document(page)
        self.assertEqual(made["title"], titles[0])
        self.assertLess(made["seconds"], made["uncut"])
        page.get_by_label("Hovvet, to your recordings").click()
        expect(page.get_by_text("2 clips", exact=False).first).to_be_visible()
        waiting = page.evaluate(
            "() => fetch('/api/recordings').then((answer) => answer.json()).then(([row]) => row.passages)"
        )
        self.assertEqual(waiting, count - 3)
        self.assertEqual(self.problems, [])

    def name_a_chapter(self, page: Page) -> None:
        """While it plays, which takes nothing away of what is typed."""
        page.get_by_role("button", name="Begin one at").click()
        chapter = page.locator("[data-test=chapter]:not(.offered)").get_by_role("textbox")
        expect(chapter).to_have_value("New chapter")
        chapter.press("Control+a")
        chapter.press_sequentially("The kettle", delay=50)
        expect(page.get_by_role("button", name="Pause", exact=True)).to_be_visible()
        chapter.press("Enter")
        kept = "SELECT chapters_json FROM recordings_recording"
        self.assertTrue(wait_until(lambda: "The kettle" in str(self.rows(kept)), 60), self.rows(kept))
        expect(chapter).to_have_value("The kettle")
