"""Whether a screen can be used by everybody, as far as axe can tell."""

import unittest

from playwright.sync_api import Page

from tests.e2e.base import ROOT

AXE = (ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text()
# Nothing is on its way; what goes round and round does not count.
STILL = "() => document.getAnimations().every((each) => each.effect.getComputedTiming().iterations === Infinity)"


class Accessible(unittest.TestCase):
    """For stories that look at screens."""

    page: Page

    def check(self, where: str) -> None:
        """No violation that axe knows of, once nothing moves: what is half-faded has no contrast."""
        self.page.wait_for_function(STILL)
        self.page.evaluate(AXE)
        found = self.page.evaluate(
            """async () => (await axe.run({resultTypes: ['violations']})).violations
                 .map((each) => `${each.id}: ${each.nodes.map((node) => node.html.slice(0, 160)).slice(0, 3).join(' | ')}`)"""
        )
        self.assertEqual(found, [], where)
