"""Clips from a text: what a person has to change in drafts of ten texts (``bench/texts``), and how long it takes from three hundred
words to a clip that plays. Run by ``make bench``.
"""

import json
import sys
import time
import unittest
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

from playwright.sync_api import expect

from hovvet.core.draft.choosing import choose, seconds_of
from hovvet.core.draft.laying import CARD
from hovvet.core.draft.written import Sentence, sentences_of
from hovvet.core.engines.meaning import vectors
from hovvet.core.script.text_in import read_text
from tests.e2e.base import BrowserCase

TEXTS = Path(__file__).parent / "texts"
SECONDS = 45.0


def written(name: str) -> str:
    """One of the texts, with its marks."""
    file = TEXTS / name
    return read_text(file.read_bytes(), file.suffix, marked=True)


def changes(sentences: tuple[Sentence, ...], by_hand: dict) -> int:
    """How much has to be changed by hand: sentences flipped, and said otherwise."""
    count = 0
    for each in sentences:
        begins = each.text.startswith
        count += any(map(begins, by_hand["kept"])) and not each.kept
        count += any(map(begins, by_hand["left out"])) and each.kept
        count += any(begins(start) and each.said != said and each.kept for start, said in by_hand["said"].items())
    return count


class Drafts(BrowserCase):
    """Three hundred words to a clip that plays."""

    workers = 2

    def runTest(self) -> None:
        total = 0
        for name, by_hand in json.loads((TEXTS / "by_hand.json").read_text()).items():
            sentences = choose(sentences_of(written(name)), SECONDS - CARD, vectors)
            kept = [each for each in sentences if each.kept]
            count = changes(sentences, by_hand)
            total += count
            lasts = sum(seconds_of(each.said) for each in kept)
            print(f"{name}: {len(kept)} of {len(sentences)} sentences, {lasts:.0f} s, {count} to be changed by hand")
        print(f"in all {total} of ten texts")

        text = " ".join(f"{written('01-article.md')}\n\n{written('02-howto.md')}".split(" ")[:300])
        page = self.page
        page.get_by_role("link", name="From a text", exact=True).click()
        page.locator("[data-test=text]").fill(text)
        began = time.monotonic()
        page.get_by_role("button", name="Choose the sentences").click()
        page.locator("[data-sentence='0']").wait_for()
        chosen = time.monotonic() - began
        page.get_by_role("button", name="Make the clip").click()
        page.get_by_role("link", name="Open the clip").click()
        page.locator(".play:not([disabled])").wait_for()
        page.keyboard.press("Space")
        expect(page.locator("[data-test=clock]")).not_to_have_text("0:00.0")
        print(
            f"{len(text.split())} words: sentences after {chosen:.1f} s, plays after {time.monotonic() - began:.1f} s (goal 45)"
        )


if __name__ == "__main__":
    unittest.main(argv=sys.argv[:1])
