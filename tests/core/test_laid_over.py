"""Corrections laid over the words of another recogniser."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from hovvet.core.words.corrections import NameSpeaker, Rewrite, Rewritten, SetSpeaker, correct
from hovvet.core.words.laid_over import corrections_in, laid_over
from hovvet.core.words.transcript import Transcript, plain_text
from tests.media import spoken

FIRST = spoken("We mend at quill haven on Tuesdays and the clock in odd vic stopped.")


def rewritten(transcript: Transcript, *changes: tuple[tuple[int, ...], str]) -> Transcript:
    made = tuple(Rewritten(words=words, text=text) for words, text in changes)
    return correct(transcript, Rewrite(changes=made))


NOW = rewritten(FIRST, ((4, 5), "Quillhaven"), ((12, 13), "Oddvik"), ((2,), "mend lamps"))


class LaidOver(unittest.TestCase):
    def test_what_was_corrected_is_known_by_where_it_was_said(self):
        found = corrections_in(FIRST, NOW)
        self.assertIn(("quill haven", "Quillhaven"), [(each.heard, each.text) for each in found])

    def test_they_are_laid_over_other_words_with_other_times(self):
        fresh = spoken("We mend at Quilhaven in on Tuesdays and the clock in of vic stopped.")
        made, left = laid_over(fresh, FIRST, NOW)
        self.assertIn("at Quillhaven on Tuesdays and the clock in Oddvik stopped.", plain_text(made.words))
        self.assertEqual(left, [])

    def test_what_is_right_already_stays_and_what_no_longer_fits_is_listed(self):
        fresh = spoken("We mend lamps at Quillhaven on every Tuesday morning when birds sing loud.")
        made, left = laid_over(fresh, FIRST, NOW)
        self.assertEqual(plain_text(made.words), plain_text(fresh.words))
        self.assertIn("Oddvik", [each.text for each in left])

    def test_speakers_go_along_with_what_they_said(self):
        now = correct(correct(NOW, SetSpeaker(words=(7, 8, 9), speaker="S2")), NameSpeaker(speaker="S2", name="Maren"))
        made, _ = laid_over(FIRST, FIRST, now)
        said = {word.speaker for word in made.words if 2.4 <= word.start < 3.3}
        self.assertEqual(said, {"S2"})
        self.assertEqual(made.speaker_name("S2"), "Maren")

    @given(st.lists(st.sampled_from("one two three four five six".split()), min_size=1, max_size=30), st.data())
    def test_over_the_same_words_all_corrections_are_there_again(self, texts, data):
        first = spoken(" ".join(texts))
        n = data.draw(st.integers(1, len(texts)))
        now = rewritten(first, ((n,), data.draw(st.sampled_from(["seven", "eight nine"]))))
        made, left = laid_over(first, first, now)
        self.assertEqual(plain_text(made.words), plain_text(now.words))
        self.assertEqual(left, [])
