"""The transcript desk and bringing in, worked by keyboard and mouse as a person would."""

import re
import wave

from playwright.sync_api import Page, expect

from tests.core.test_outside import wait_until
from tests.e2e.base import DRIVE, BrowserCase


class Desk(BrowserCase):
    def word(self, text: str, nth: int = 0):
        return self.page.locator(".word", has_text=re.compile(rf"^{text}\b")).nth(nth)

    def text(self) -> str:
        return " ".join(self.page.locator(".page p").all_inner_texts())

    def test_a_transcript_is_corrected_and_swept(self):
        page = self.page
        self.bring_in_teaser()
        expect(page.locator("li", has_text="bench notes teaser")).to_contain_text("Tolliver, Maren")
        page.click("text=bench notes teaser")
        page.wait_for_selector("[data-test=length]")
        expect(page.locator(".speaker").first).to_have_text("Tolliver")
        page.wait_for_selector(".play:not([disabled])")
        self.correct_by_keyboard(page)
        self.find_and_replace(page)
        self.give_speakers(page)
        self.keep_names_and_terms(page)
        self.take_words_away(page)
        self.play_at_other_speeds(page)
        self.walk_through_the_sweep(page)
        page.reload()
        page.wait_for_selector(".word.cut")
        self.assertIn("Mending House", self.text())
        self.assertEqual(self.problems, [])

    def correct_by_keyboard(self, page: Page) -> None:
        self.word("Room").click()
        page.keyboard.press("Enter")
        expect(page.locator(".edit")).to_have_value("Room.")
        page.keyboard.type("House.")
        page.keyboard.press("Tab")  # keeps it, and goes on with the next word
        expect(page.locator(".edit")).to_have_value("I")
        page.keyboard.press("Escape")
        expect(self.word("House")).to_be_visible()
        expect(page.locator(".fix")).to_contain_text("Changed “Room” to “House”")

        # Split by typing a space, join with Backspace at the very beginning; one undo each.
        words = page.locator(".word").count()
        self.word("Welcome").click()
        page.keyboard.press("Enter")
        page.keyboard.type("Be welcome,")
        page.keyboard.press("Enter")
        expect(page.locator(".word")).to_have_count(words + 1)
        self.word("welcome").click()
        page.keyboard.press("Enter")
        page.keyboard.press("Home")
        page.keyboard.press("Backspace")
        expect(page.locator(".word")).to_have_count(words)
        expect(self.word("Bewelcome")).to_be_visible()
        page.keyboard.press("Control+z")
        page.keyboard.press("Control+z")
        expect(self.word("Welcome")).to_be_visible()

        # Words that the cues left out and the sound has are doubtful at most; the next one is a key away.
        self.assertEqual(page.locator(".word.cut").count(), 0)

    def find_and_replace(self, page: Page) -> None:
        page.keyboard.press("Control+f")
        page.keyboard.type("lamps")
        expect(page.locator(".find .count")).to_have_text(re.compile("[23]"))
        page.keyboard.press("Enter")
        expect(page.locator(".find .count")).to_have_text(re.compile("1 of [23]"))
        self.assertTrue(page.evaluate("CSS.highlights.has('found')"))
        page.fill("[aria-label='Replace with']", "lanterns")
        page.click("text=Replace everywhere")
        dialog = page.locator(".el-dialog")
        expect(dialog).to_contain_text("Lanterns.")
        dialog.locator("li .el-checkbox").first.click()
        left = dialog.locator("li").count() - 1
        dialog.get_by_role("button", name=f"Change {left}").click()
        expect(self.word("lanterns")).to_be_visible()
        self.assertEqual(len(re.findall("[Ll]anterns", self.text())), left)
        page.fill("[data-test=find]", "0:20")
        page.press("[data-test=find]", "Enter")
        expect(page.locator("[data-test=clock]")).to_contain_text("0:20.")
        page.press("[data-test=find]", "Escape")
        expect(page.locator(".find")).to_have_count(0)

    def give_speakers(self, page: Page) -> None:
        page.get_by_role("tab", name="Speakers").click()
        names = page.locator("[aria-label^='Name of speaker']")
        self.assertEqual([field.input_value() for field in names.all()], ["Tolliver", "Maren"])
        page.locator(".side").first.click()  # selects the paragraph
        page.keyboard.press("3")
        expect(page.locator(".speaker").first).to_have_text("Speaker 3")
        names.nth(2).fill("Ida")
        names.nth(2).press("Enter")
        expect(page.locator(".speaker").first).to_have_text("Ida")
        page.click("text=Undo")
        page.click("text=Undo")
        expect(page.locator(".speaker").first).to_have_text("Tolliver")
        page.get_by_role("button", name="Suggest").click()
        done = "SELECT state FROM jobs_job WHERE kind = 'speakers'"
        self.assertTrue(wait_until(lambda: self.rows(done) == [("done",)], 300), self.rows(done))
        expect(page.locator(".speakers .el-select")).to_be_visible()
        expect(page.locator(".speaker.suggested")).to_have_count(0)  # all was set by the file

    def keep_names_and_terms(self, page: Page) -> None:
        page.get_by_role("tab", name="Terms").click()
        page.fill("[aria-label='Name or term']", "cauldron")
        page.fill("[aria-label='Often misheard as']", "kettle")
        page.get_by_role("button", name="Add", exact=True).click()
        expect(page.locator(".terms li")).to_contain_text("cauldron")
        page.click("text=Correct in this recording…")
        page.locator(".el-dialog").get_by_role("button", name=re.compile("Change")).click()
        expect(self.word("cauldron")).to_be_visible()
        expect(page.locator(".el-dialog")).to_be_hidden()
        page.keyboard.press("Control+z")
        expect(self.word("kettle")).to_be_visible()

    def take_words_away(self, page: Page) -> None:
        page.get_by_role("button", name="Download", exact=True).click()
        with page.expect_download() as download:
            page.click("text=Text (TXT)")
        saved = self.data / "saved.txt"
        download.value.save_as(saved)
        self.assertIn("Mending House.", saved.read_text())
        self.assertTrue(saved.read_text().startswith("Tolliver: "))
        self.assertEqual(download.value.suggested_filename, "bench notes teaser.txt")
        # What is copied is the selected words.
        copied = "new Promise((done) => document.addEventListener('copy', (e) => done(e.clipboardData.getData('text/plain')), {once: true}))"
        self.word("kettle").click()
        page.keyboard.press("Shift+ArrowLeft")
        page.evaluate(f"() => {{ window.copied = {copied} }}")
        page.keyboard.press("Control+c")
        self.assertEqual(page.evaluate("window.copied"), "the kettle.")

    def play_at_other_speeds(self, page: Page) -> None:
        self.word("Thank").click()
        page.select_option("[aria-label=Speed]", "2")
        page.keyboard.press("Space")
        self.assertAlmostEqual(self.plays_to(page, 15), 2, delta=0.3)
        page.keyboard.press("k")
        expect(page.locator(".play")).to_have_attribute("aria-label", "Play")
        expect(page.locator("[aria-label=Speed]")).to_have_value("1")

    def hear(self, page: Page) -> None:
        """Hear the find that is looked at; it stops by itself."""
        page.evaluate(
            """() => { const button = document.querySelector('.play'), names = []
                window.heard = new Promise((done) => new MutationObserver(() => {
                  names.push(button.ariaLabel)
                  if (names.includes('Pause') && names.at(-1) === 'Play') done()
                }).observe(button, { attributeFilter: ['aria-label'] })) }"""
        )
        page.keyboard.press("h")
        page.evaluate("window.heard")

    def walk_through_the_sweep(self, page: Page) -> None:
        page.get_by_role("tab", name="Sweep").click()
        page.click("text=Review before cutting")
        group = page.locator(".group", has_text="Filler sounds")
        count = int(re.search(r"of (\d+)", group.inner_text())[1])
        self.assertGreaterEqual(count, 3)
        group.get_by_role("button", name="Show").click()
        expect(page.locator(".sweep li.current")).to_have_count(1)
        whole = page.inner_text("[data-test=length]")
        page.keyboard.press("Enter")  # leaves the first, and goes on to the second
        expect(group).to_contain_text(f"{count - 1} of {count}")
        expect(page.locator(".sweep li.leave")).to_have_count(1)
        self.hear(page)  # as it is
        self.hear(page)  # and as it would be
        self.assertEqual(page.inner_text("[data-test=length]"), whole, "nothing is cut by listening")
        expected = page.inner_text("[data-test=after]").split("→")[1].strip()
        page.locator(".foot").get_by_role("button", name=re.compile("^Cut")).click()
        page.wait_for_selector(".word.cut")
        self.assertTrue(page.inner_text("[data-test=length]").startswith(expected))
        page.click("text=Clean-up settings")
        page.fill("textarea >> nth=0", "um, evening")
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.locator(".group", has_text="Filler sounds")).to_be_visible()


class BringIn(BrowserCase):
    def test_from_a_link_and_what_is_refused(self):
        page = self.page
        page.click("text=From a link")
        page.fill("#link", f"{self.address}/drive/files/bench-notes-teaser.opus")
        page.keyboard.press("Enter")
        row = page.locator("li", has_text="bench notes teaser")
        row.wait_for()
        page.set_input_files("[data-test=files]", DRIVE / "bench-notes-teaser.srt")  # words for what is there
        row.locator("text=/\\d+ words/").wait_for(timeout=300_000)
        page.click("text=From a link")
        page.fill("#link", "https://inside.example/x.mp4")
        page.keyboard.press("Enter")
        page.wait_for_selector(".el-message:has-text('not allowed here')")

        # Into a show; the same file once more is noticed.
        page.click("text=New show")
        page.fill(".el-message-box input", "Evening talks")
        page.keyboard.press("Enter")
        page.wait_for_selector("text=Nothing here yet")
        page.get_by_role("button", name=re.compile("^All")).click()
        row.locator("select").select_option(label="Evening talks")
        page.get_by_role("button", name=re.compile("^Evening talks")).click()
        expect(row).to_be_visible()
        page.set_input_files("[data-test=files]", DRIVE / "bench-notes-teaser.opus")
        page.wait_for_selector("text=Bring it in again?")
        page.click(".el-message-box >> text=Cancel")
        expect(page.locator(".upload")).to_have_count(0)

    def test_an_upload_goes_on_after_the_page_was_loaded_anew(self):
        page, sound = self.page, self.data / "long_silence.wav"
        with wave.open(str(sound), "wb") as wav:
            wav.setparams((8, 4, 96000, 0, "NONE", ""))  # large, and soon prepared
            wav.writeframes(bytes(36_000_000))
        sent: list[int] = []
        page.on(
            "request", lambda request: request.method == "PATCH" and sent.append(int(request.headers["upload-offset"]))
        )
        page.route("**/api/uploads/*", lambda route: route.abort() if len(sent) > 1 else route.continue_())
        page.set_input_files("[data-test=files]", sound)
        expect(page.locator(".upload")).to_contain_text("MB of 36 MB")
        while len(sent) < 2:
            page.wait_for_event("request")
        page.unroute_all()
        page.reload()
        page.wait_for_selector("text=was not brought in completely")
        sent.clear()
        page.set_input_files("[data-test=files]", sound)
        page.locator("li", has_text="long silence").wait_for(timeout=120_000)
        self.assertGreater(sent[0], 15_000_000, "it goes on from where it was")
        expect(page.locator("text=was not brought in completely")).to_have_count(0)
