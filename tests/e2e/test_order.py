"""Words of a clip in another order, by mouse and by keyboard, as seen on the page and heard in the file."""

import re

from playwright.sync_api import expect

from hovvet.core.engines.whisper import WhisperRecogniser
from hovvet.core.media.decode import speech_wav
from hovvet.core.words.timing import Aligner
from hovvet.core.words.transcribe import transcribe
from tests.compare import normal_words
from tests.e2e.base import BrowserCase


class Order(BrowserCase):
    small = True

    def texts(self) -> list[str]:
        return normal_words(" ".join(self.page.locator(".rows .word:not(.cut)").all_inner_texts()))

    def word(self, text: str):
        return self.page.locator(".rows .word", has_text=re.compile(rf"^{text}\b")).first

    def test_the_hook_comes_first(self):
        page = self.page
        self.bring_in_teaser(8)
        page.locator(".what a").first.click()
        page.wait_for_selector("[data-test=length]")
        page.locator(".word").first.click()
        for _ in range(40):
            page.keyboard.press("Shift+ArrowRight")
        page.keyboard.press("m")
        page.wait_for_url("**/clips/*")
        page.wait_for_selector(".play:not([disabled])")
        before = self.texts()
        self.assertGreater(len(before), 25)

        # By mouse: words 10 to 14 to the front.
        words = page.locator(".rows .word")
        words.nth(10).click()
        words.nth(14).click(modifiers=["Shift"])
        page.get_by_role("button", name="Add", exact=True).click()
        page.click("text=Move to the start")
        expect(page.locator(".row.opens")).to_have_count(2)
        moved = [*before[10:15], *before[:10], *before[15:]]
        self.assertEqual(self.texts(), moved)

        # By keyboard alone: hold them, choose the place, put them there; undo takes all back.
        page.keyboard.press("ArrowRight")
        for _ in range(4):
            page.keyboard.press("Shift+ArrowRight")
        page.keyboard.press("Control+x")
        expect(page.locator(".held")).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.locator(".held")).to_have_count(0)
        self.assertEqual(self.texts(), moved)
        page.keyboard.press("Control+z")
        expect(page.locator(".row.opens")).to_have_count(0)
        self.assertEqual(self.texts(), before)
        words.nth(10).click()
        words.nth(14).click(modifiers=["Shift"])
        page.keyboard.press("Control+x")
        words.nth(0).click()
        expect(page.locator(".row.opens")).to_have_count(2)
        self.assertEqual(self.texts(), moved)

        # What is exported is said in that order.
        page.keyboard.press("x")
        page.click("[data-test=export]")
        page.wait_for_selector("article[data-ready=true]", timeout=200_000)
        with page.expect_download() as download:
            page.locator("article").get_by_text("MP4", exact=True).click()
        film, wav = self.data / "film.mp4", self.data / "film.wav"
        download.value.save_as(film)
        speech_wav(film, wav, 30)
        heard = transcribe(wav, WhisperRecogniser(), Aligner(), lambda _: None)
        said = normal_words(" ".join(word.text for word in heard.words))
        self.assertLess(before.index("bench"), before.index("tolliver"), "as it was said")
        hook = next(n for n, word in enumerate(said) if word in ("am", "i'm"))
        self.assertLess(hook, said.index("bench"), f"as it was ordered: {said}")
        self.assertEqual(self.problems, [])
