"""The Shelf: what is found by words and by meaning, and what licences ask for."""

import json
import unittest
from datetime import date

import numpy as np

from hovvet.core.engines.meaning import SIZE, vectors
from hovvet.core.shelf.licence import Licence, credits_for
from hovvet.core.shelf.searching import Described, found
from tests.media import DEMO

CATALOGUE = [each for each in json.loads((DEMO / "stock" / "catalogue.json").read_text()) if each["kind"] == "picture"]
THINGS = [Described(each["name"], each["tags"]) for each in CATALOGUE]
# What somebody says, and what should be offered for it first.
SAID = {
    "it stopped at half past four": "clock",
    "nobody throws away a clock": "clock",
    "I had never looked inside a machine": "gears",
    "the mechanism that drives it": "gears",
    "when the ships come home": "harbour",
    "the sun goes down over the water": "harbour",
    "we put the water on": "kettle",
    "and then we had a cup of tea": "kettle",
    "you need a good light to see": "lamp",
    "a box of screwdrivers that did not match": "bench",
    "people come to our workshop": "bench",
    "she rides to work every day": "bicycle",
    "the tyre was flat": "bicycle",
    "a torn shirt and a needle": "sewing",
    "she makes her own clothes": "sewing",
    "we listened to the news every evening": "radio",
    "it was pouring outside": "rain",
    "the people who live next door": "street",
    "so many toasters": "toaster",
    "what we have for breakfast": "toaster",
}


class Searching(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.means = vectors([thing.text for thing in THINGS])

    def best(self, text: str) -> list[str]:
        return [CATALOGUE[n]["id"].rpartition("-")[0] for n in found(text, THINGS, self.means, vectors)]

    def test_what_is_said_finds_what_shows_it(self):
        first = sum(self.best(said)[:1] == [wanted] for said, wanted in SAID.items())
        among = sum(wanted in self.best(said)[:3] for said, wanted in SAID.items())
        print(f"shown for what is said: {first} of {len(SAID)} first, {among} among three")
        self.assertGreaterEqual(first, 15)
        self.assertGreaterEqual(among, 17)

    def test_what_is_nowhere_near_is_not_offered(self):
        for said in ("quarterly tax return", "quantum physics", "xyzzy"):
            self.assertEqual(self.best(said), [], said)

    def test_words_and_their_beginnings_come_before_meaning(self):
        self.assertEqual(self.best("screwd"), ["bench"])
        self.assertEqual(self.best("needle")[0], "sewing")
        self.assertEqual(len(self.best("  ")), len(THINGS))
        self.assertEqual(found("tea", [], np.zeros((0, SIZE), np.float32), vectors), [])

    def test_meanings_are_of_length_one_and_the_same_alone_or_together(self):
        texts = ["a kettle", "the harbour in the evening, with boats and a low sun", ""]
        together = vectors(texts)
        self.assertEqual(together.shape, (3, SIZE))
        self.assertTrue(np.allclose(np.linalg.norm(together, axis=1), 1, atol=1e-5))
        for n, text in enumerate(texts):
            self.assertGreater(float(vectors([text])[0] @ together[n]), 0.98)


class Licences(unittest.TestCase):
    def test_one_that_has_ended_is_refused_from_the_day_after(self):
        licence = Licence(sort="paid", until=date(2027, 3, 5))
        self.assertEqual([licence.refusal(date(2027, 3, day)) for day in (4, 5)], ["", ""])
        self.assertEqual(licence.refusal(date(2027, 3, 6)), "its licence ended on 5 March 2027")
        self.assertEqual(Licence().refusal(date(2099, 1, 1)), "")

    def test_authors_are_named_once_as_they_are_seen(self):
        named = Licence(sort="attribution", credit="Ottilie Marsh", source="Harbour Stock")
        shown = [("Gears", named), ("Ours", Licence()), ("Rain", Licence(sort="attribution")), ("Gears", named)]
        self.assertEqual(credits_for(shown), ["“Gears” by Ottilie Marsh (Harbour Stock)", "“Rain”"])
