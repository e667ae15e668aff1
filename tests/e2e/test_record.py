"""Recording: a script read with the prompter, again from a sentence, a clip of two takes; what breaks off is kept."""

import re

from playwright.sync_api import expect

from tests.e2e.accessible import Accessible
from tests.e2e.recorded import RecordCase
from tests.media import demo_transcript

SCRIPT = (
    "Tonight I want to talk about one sentence. Nobody throws away a clock because it stopped. "
    "They throw it away because nobody nearby can open it."
)


def span(first: str, last: str) -> tuple[float, float]:
    """Seconds of the demo talk from one word to another after it."""
    words = demo_transcript().words
    begin = next(n for n, word in enumerate(words) if word.text == first)
    end = next(n for n, word in enumerate(words) if n > begin and word.text == last)
    return words[begin].start - 0.05, words[end].end + 0.1


class Record(Accessible, RecordCase):
    def read(self, address: str) -> None:
        """Record while something is said, and stop."""
        self.begin()
        self.page.evaluate("(url) => window.say(url)", address)
        self.page.keyboard.press("Shift+X")
        self.page.wait_for_url("**step=takes")

    def test_a_script_is_read_again_from_a_sentence_and_the_best_is_a_clip(self):
        page = self.page
        page.get_by_role("link", name="Record", exact=True).click()
        expect(page.get_by_text("No scripts yet")).to_be_visible()
        self.check("no scripts")
        broken = self.data / "broken.docx"
        broken.write_bytes(b"PK no document")
        page.set_input_files("[data-test=script-file]", broken)
        expect(page.get_by_text("Save it again, or paste its text.")).to_be_visible()
        page.get_by_role("button", name="Write a script", exact=True).click()
        page.get_by_label("Title").fill("One sentence")
        page.get_by_label("What is read").fill("word " * 7000)
        expect(page.get_by_text("This script has 7,000 words")).to_be_visible()
        page.get_by_label("What is read").fill("שלום לכולם. היום נדבר על גינות.")
        expect(page.get_by_label("What is read")).to_have_attribute("dir", "rtl")
        page.get_by_label("What is read").fill(SCRIPT)
        expect(page.get_by_text("26 words")).to_be_visible()
        self.check("a script")
        page.get_by_role("button", name="Read it through once…").click()
        expect(page.get_by_role("dialog").get_by_text("Nobody throws away")).to_be_visible()
        page.get_by_role("button", name="Done").click()
        expect(page.get_by_text("at 260 words a minute")).to_be_visible()  # nobody reads that fast
        page.get_by_role("button", name="Record it").click()

        # A first take that leaves words out; the prompter follows the voice.
        prompter = page.locator("[data-test=prompter]")
        page.keyboard.press("f")
        expect(page.get_by_label("Follow my voice")).to_be_checked()
        flawed = self.sayable(
            "one.wav", span("Tonight", "sentence."), span("Nobody", "throws"), span("because", "stopped.")
        )
        self.begin()
        page.evaluate("(url) => void window.say(url)", flawed)
        expect(page.get_by_text("Follows you")).to_be_visible()
        self.assertGreater(int(prompter.get_attribute("data-word")), 2)
        expect(page.get_by_text("Waits for you")).to_be_visible()  # she has stopped
        page.keyboard.press("ArrowUp")
        page.keyboard.press("Shift+X")
        page.wait_for_url("**step=takes")
        self.assertIn("left out", page.locator(".left-out").first.get_attribute("title"))
        expect(page.locator(".left-out").filter(has_text="clock")).to_be_visible()
        expect(page.get_by_text("Not read in any take.")).to_be_visible()

        # Again from the second sentence.
        page.keyboard.press("ArrowDown")
        page.keyboard.press("a")
        page.wait_for_url("**step=record&line=1")
        expect(prompter).to_have_attribute("data-line-now", "1")
        self.read(self.sayable("two.wav", span("Nobody", "it.")))
        rows = page.locator("[data-take-line]")
        expect(rows.nth(2).get_by_text("suggested")).to_be_visible()
        takes = [
            row.get_by_role("radio", checked=True).locator("xpath=..").locator("b").inner_text() for row in rows.all()
        ]
        self.assertEqual(takes, ["Take 1", "Take 2", "Take 2"])
        expect(page.locator("[data-test=take]")).to_have_count(2)
        # Another reading of the second line after all, and back, by keys; the take is starred.
        rows.nth(1).locator(".written").click()
        page.keyboard.press("ArrowRight")
        expect(rows.nth(1).get_by_role("radio", checked=True).locator("xpath=..").locator("b")).to_have_text("Take 1")
        page.keyboard.press("ArrowLeft")
        page.keyboard.press("s")
        expect(page.get_by_role("button", name="Star take 2")).to_have_attribute("aria-pressed", "true")
        expect(rows.nth(2).get_by_text("suggested")).to_be_visible()
        self.check("takes")
        page.keyboard.press("Control+Enter")
        page.wait_for_url("**/clips/*")
        page.locator(".rows .word").first.wait_for()
        clip = self.document(page)
        self.assertEqual(clip["title"], "One sentence")
        self.assertEqual(len({piece["recording"] for piece in clip["sheet"]["pieces"]}), 2)
        said = re.sub(r"[^a-z ]", "", " ".join(word["text"] for word in clip["plan"]["words"]).lower())
        self.assertIn("talk about one sentence nobody throws away a clock because it stopped they throw it away", said)

    def test_what_breaks_off_is_kept_up_to_then(self):
        context = self.browser.new_context(storage_state=self.signed_in)  # outlives its pages
        self.addCleanup(context.close)
        page = self.page = self.prepare(context.new_page())
        page.goto(f"{self.address}/record/free")
        self.begin()
        clock = page.locator(".now")
        expect(clock).to_contain_text("0:02")
        page.route("**/api/uploads/*", lambda route: route.abort())
        expect(page.get_by_role("alert")).to_contain_text("The server cannot be reached")
        expect(clock).to_contain_text("0:05")
        arrived = self.rows("select count(*) from recordings_upload")
        self.assertEqual(arrived, [(1,)])
        page.close()  # the tab, with all that did not arrive

        page = self.page = self.prepare(context.new_page())
        page.goto(self.address)
        broken = page.locator("[data-test=broken-off]")
        expect(broken).to_contain_text("was broken off")
        expect(broken).to_contain_text("still in this browser")
        broken.get_by_role("button", name="Keep it").click()
        page.get_by_role("link", name=re.compile("^Recording, ")).wait_for()
        expect(broken).to_have_count(0)
        # What was shown as five seconds is at least 4.95; of that a part of one second may not have been there yet.
        self.assertGreater(self.prepared(), 3.9)
        self.assertEqual(self.rows("select count(*) from recordings_upload"), [(0,)])

    def test_devices_that_fail_are_told_and_lose_nothing(self):
        page = self.page
        page.goto(f"{self.address}/record/free")
        opens, told = page.get_by_role("button", name="Open camera and microphone"), page.get_by_role("alert")
        for error, words in (
            ("NotAllowedError", "may not use the microphone. Allow it"),
            ("NotFoundError", "No microphone was found. Plug one in"),
            ("NotReadableError", "Another program holds the microphone"),
        ):
            page.evaluate("(error) => (window.refused = error)", error)
            opens.click()
            expect(told).to_contain_text(words)
        page.evaluate("window.refused = ''")
        opens.click()
        expect(page.get_by_text("We hear nothing. Speak")).to_be_visible()
        self.check("devices")
        page.get_by_label("What is recorded").select_option("screen and camera")
        expect(page.get_by_text("It gives 640 × 360")).to_be_visible()
        page.get_by_role("button", name="Record Shift+R").click()
        self.stage("recording")
        expect(page.locator(".now")).to_contain_text("0:02")
        page.keyboard.press("Shift+R")
        self.stage("paused")
        page.keyboard.press("Shift+R")
        expect(page.locator(".now")).to_contain_text("0:04")
        page.evaluate("window.lose('video')")
        page.wait_for_url("**/recordings/*")
        self.assertGreater(self.prepared(), 3.0)
