"""Whether two transcripts are of one talk: heard twice, by another microphone; and not a text read again, or another talk."""

import random
import unittest

from hovvet.core.words.heard_alike import are_alike
from tests.media import demo_transcript

TALK = [(word.text, word.start) for word in demo_transcript("talk").words]
OTHER = [(word.text, word.start) for word in demo_transcript("interview").words]


def again(heard, wrong: float, later: float = 0.0, drift: float = 0.0, seed: int = 1):
    """As another microphone has it: so many words otherwise, each a little off."""
    chance = random.Random(seed)
    return [
        ("mumble" if chance.random() < wrong else text, (at - later) * (1 - drift) + chance.gauss(0, 0.03))
        for text, at in heard
    ]


def read_again(heard, seed: int = 2):
    """The same text, read another time: each word and each pause as long as it happens to be."""
    chance, at, made, before = random.Random(seed), 0.0, [], heard[0]
    for text, start in heard:
        at += (start - before[1]) * chance.uniform(0.85, 1.15)
        at += chance.uniform(0, 0.5) if before[0][-1] in ".,?!" else 0.0
        before = text, start
        made.append((text, at))
    return made


class Alike(unittest.TestCase):
    def test_one_talk_heard_twice(self):
        for wrong, later, drift in ((0.0, 0.0, 0.0), (0.07, 4.3, 100e-6), (0.1, -312.0, -100e-6)):
            with self.subTest(wrong=wrong, later=later):
                self.assertTrue(are_alike(TALK, again(TALK, wrong, later, drift)))

    def test_a_part_of_it_is_of_it(self):
        self.assertTrue(are_alike(TALK, again(TALK[100:220], 0.05, 12.0)))
        self.assertTrue(are_alike(again(TALK[100:220], 0.05, 12.0), TALK))

    def test_a_text_read_again_is_not(self):
        for length in (60, 150, len(TALK)):
            with self.subTest(words=length):
                self.assertFalse(are_alike(TALK[:length], read_again(TALK[:length])))

    def test_nor_is_another_talk_or_nothing(self):
        self.assertFalse(are_alike(TALK, OTHER))
        for few in ([], TALK[:1], TALK[:20]):
            self.assertFalse(are_alike(few, TALK))
        self.assertFalse(are_alike([("so", n) for n in range(50)], [("so", n) for n in range(50)]))
