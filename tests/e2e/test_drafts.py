"""From a text to an exported clip: sentences kept and left out, read by a voice, one said otherwise, another picture, a film."""

import subprocess

import numpy as np
from playwright.sync_api import expect

from tests.e2e.accessible import Accessible
from tests.e2e.base import DRIVE, BrowserCase
from tests.media import decoded, streams

TEXT = (
    "# A clock that stopped\n\nNobody throws a clock away because it stopped. They throw it away because nobody opened it. "
    "Parking is behind the hall.\n\nMending takes 30 min. See https://bench.example/open."
)
INSTEAD = "Half an evening is enough."


class Drafts(Accessible, BrowserCase):
    small = True

    def test_a_text_becomes_a_clip_that_is_changed_by_keys_and_exported(self):
        page = self.page
        page.get_by_role("link", name="From a text", exact=True).click()
        self.check("no texts yet")
        broken = self.data / "broken.docx"
        broken.write_bytes(b"PK no document")
        page.set_input_files("[data-test=text-file]", broken)
        expect(page.get_by_text("Save it again, or paste its text.")).to_be_visible()
        page.set_input_files("[data-test=text-file]", DRIVE / "why-we-mend.html")
        expect(page.locator(".count")).to_contain_text("words")
        page.locator("[data-test=text]").fill(TEXT)
        page.get_by_label("Outlet").select_option(label="Square feed")
        page.locator("[data-test=text]").press("Control+Enter")

        # Sentences: what nobody would share is left out by itself; one is brought back and left out again by keys.
        rows = page.locator("[data-sentence]")
        expect(rows).to_have_count(6)
        boxes = page.locator("[data-sentence] input[type=checkbox]")
        kept = [boxes.nth(n).is_checked() for n in range(6)]
        self.assertEqual(kept, [False, True, True, False, True, True])
        self.check("sentences")
        page.keyboard.press("ArrowDown")
        page.keyboard.press("ArrowDown")
        page.keyboard.press("ArrowDown")
        expect(rows.nth(3)).to_be_focused()
        page.keyboard.press("x")
        expect(boxes.nth(3)).to_be_checked()
        page.keyboard.press("x")
        expect(boxes.nth(3)).not_to_be_checked()
        said = page.locator("[data-sentence='4'] .said")
        expect(said).to_have_value("Mending takes thirty minutes.")
        page.keyboard.press("ArrowDown")
        page.keyboard.press("Enter")
        expect(said).to_be_focused()
        said.fill("Mending takes half an hour.")
        said.press("Enter")
        page.keyboard.press("Alt+ArrowDown")
        expect(page.locator("[data-sentence='5'] .said")).to_have_value("Mending takes half an hour.")
        page.get_by_label("Closing card").fill("bench.example")
        page.get_by_role("button", name="Make the clip").click()
        expect(page.locator(".job .stage")).to_be_visible()
        page.get_by_role("link", name="Open the clip").click()

        # An ordinary clip: its words, a slide or a picture for each thought, music, a card.
        page.wait_for_url("**/clips/*")
        expect(page.get_by_text("opened it.").first).to_be_visible()
        clip = self.document(page)
        kinds = [layer["content"]["kind"] for layer in clip["sheet"]["layers"]]
        self.assertIn("sound", kinds)
        self.assertGreaterEqual(kinds.count("slide") + kinds.count("broll"), 3)

        # A sentence in other words: it is spoken, and stands where the one before stood.
        page.keyboard.press("j")
        texts = page.locator("[data-said]")
        expect(texts).to_have_count(4)
        self.check("the text of a clip")
        for _ in range(3):
            page.keyboard.press("ArrowDown")
        page.keyboard.press("Enter")
        page.locator("[data-said='3'] textarea").fill(INSTEAD)
        page.keyboard.press("Control+Enter")
        expect(page.locator(".drawer .status")).to_be_visible()
        expect(page.locator(".drawer .status")).to_have_count(0)
        expect(page.get_by_text("evening is enough.").first).to_be_visible()
        page.keyboard.press("Escape")
        page.keyboard.press("Escape")

        # Another picture, and back.
        before = self.document(page)["sheet"]["layers"]
        page.keyboard.press("d")
        expect(page.get_by_role("button", name="Undo")).to_be_enabled()
        page.wait_for_function("(count) => document.querySelectorAll('[data-layer]').length >= count", arg=1)
        after = self.document(page)["sheet"]["layers"]
        self.assertNotEqual([each["content"] for each in after], [each["content"] for each in before])
        page.keyboard.press("Control+z")

        film = self.exported(page)
        clip = self.document(page)
        rate = clip["plan"]["rate"]
        seconds = clip["plan"]["frames"] * rate["den"] / rate["num"]
        self.assertAlmostEqual(float(streams(film)["video"]["duration"]), seconds, delta=0.05)
        heard = decoded(film)
        spoken = [word for word in clip["plan"]["words"] if word["layer"] is None]
        self.assertEqual(" ".join(word["text"] for word in spoken[-4:]), " ".join(INSTEAD.split()[-4:]))
        loud = [
            np.sqrt(np.mean(heard[round(48_000 * word["start"]) : round(48_000 * word["end"])] ** 2)) for word in spoken
        ]
        quiet = np.sqrt(np.mean(heard[round(48_000 * (seconds - 2)) : round(48_000 * (seconds - 0.5))] ** 2))
        self.assertGreater(np.median(loud), 1.5 * quiet, "somebody speaks, and over the card only music is heard")
        report = subprocess.run(
            ["ffmpeg", "-nostats", "-i", film, "-af", "ebur128", "-f", "null", "-"],
            capture_output=True,
            text=True,
            check=True,
        ).stderr
        lufs = float(report.rsplit("I:", 1)[1].split("LUFS", 1)[0])
        self.assertAlmostEqual(lufs, -14, delta=0.5)
        self.assertEqual(self.problems, [])
