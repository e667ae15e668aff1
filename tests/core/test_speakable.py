"""What is written, as it is said: a table made by hand, and what holds for any text."""

import unittest
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from hovvet.core.draft.numbers import roman
from hovvet.core.draft.speakable import said

TABLE = [
    line.split(" => ")
    for line in Path(__file__).with_name("speakable.txt").read_text().splitlines()
    if line and not line.startswith("# ")
]


class Speakable(unittest.TestCase):
    def test_each_of_the_table_is_said_as_a_person_would(self):
        self.assertGreaterEqual(len(TABLE), 200)
        for written, spoken in TABLE:
            with self.subTest(written):
                self.assertEqual(said(written), spoken)

    def test_what_stands_around_an_expression_stays(self):
        for written, spoken in TABLE:
            if (written[0].islower() or written[0].isdigit()) and not written.endswith("."):
                with self.subTest(written):
                    self.assertEqual(said(f"They said {written} then"), f"They said {spoken} then")

    @given(st.text(alphabet="bhjqz BHJQ.,;!?'\"", max_size=80))
    def test_plain_words_are_not_touched(self, text):
        plain = " ".join(text.split())
        words = [word.strip(".,;!?'\"") for word in plain.split()]
        self.assertEqual(
            [word for word in words if word],
            [word.strip(".,;!?'\"") for word in said(plain).split() if word.strip(".,;!?'\"")],
        )

    @given(st.text(max_size=200))
    def test_nothing_from_outside_breaks_it_and_no_digit_stays_alone(self, text):
        spoken = said(text)
        self.assertNotIn("\n", spoken)
        self.assertNotRegex(spoken, r"(?<![^\s])[0-9]{1,3}(?![^\s])")

    @given(st.integers(0, 10**6))
    def test_a_number_with_commas_is_said_as_one_without_unless_it_may_be_a_year(self, number):
        if not 1100 <= number < 2100:
            self.assertEqual(said(f"{number:,}"), said(str(number)))

    def test_roman_numerals(self):
        self.assertEqual([roman(each) for each in ("IV", "IX", "XIV", "XL", "MCMXC", "K")], [4, 9, 14, 40, 1990, 0])
