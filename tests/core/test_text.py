"""Texts from outside: what cannot be seen and does something goes, what can be read stays."""

import unittest

from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from hovvet.core.media.naming import MOST_BYTES, saved_name, title_of
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.upgrade import read_edit
from hovvet.core.text import SomeText, clean, clean_all, is_blank

OPENS, CLOSES = "\u202a\u202b\u202d\u202e\u2066\u2067\u2068", "\u202c\u2069"
NASTY = st.text(
    st.sampled_from([*"abc \n\t\r\0\x07\x1b\x7f\x85", "\u2028", "\ud800", "\ufeff", *OPENS, *CLOSES, "ש", "\u0301"])
)


class Clean(unittest.TestCase):
    @given(NASTY)
    def test_nothing_is_left_that_does_something_unseen_and_cleaning_twice_is_cleaning_once(self, text):
        made = clean(text)
        self.assertFalse(any((each < " " and each != "\n") or "\x7f" <= each <= "\x9f" for each in made), repr(made))
        made.encode()  # no half of a pair of surrogates
        for line in made.split("\n"):
            open_now = 0
            for each in line:
                open_now += (each in OPENS) - (each in CLOSES)
                self.assertGreaterEqual(open_now, 0)
            self.assertEqual(open_now, 0, "what a line opens it closes")
        self.assertEqual(clean(made), made)

    def test_what_can_be_read_stays(self):
        for text in ("", "Ordinary, 1€\nsecond line", "שלום עולם", "né", "👩‍🔧 mends", "a\u2067b\u2069c"):
            self.assertEqual(clean(text), text)
        self.assertEqual(clean("a\tb\r\nc\u2028d\0e\u202ef"), "a b\nc\nde\u202ef\u202c")
        self.assertEqual(clean_all({"a\0": ["b\0", {"c": "\ud800"}, 1, None]}), {"a": ["b", {"c": ""}, 1, None]})

    def test_blank_texts_are_told_from_those_with_something_to_read(self):
        for text in ("", " ", "\n", "\u2028", "\u200b\ufeff", "\u3164", "\u00a0", "\u2067\u2069"):
            self.assertTrue(is_blank(text), repr(text))
            with self.assertRaises(ValidationError):
                TypeAdapter(SomeText).validate_python(text)
            with self.assertRaises(ValidationError):
                Title(text=text)
            kept = {"type": "put_layer", "layer": {"id": "l", "content": {"kind": "title", "text": text}}}
            self.assertEqual(read_edit(kept)["layer"]["content"]["text"], "…", "one kept before still opens")
        self.assertFalse(is_blank("."))


class Names(unittest.TestCase):
    @given(NASTY | st.text(), st.sampled_from(["", ".mp4", ".zip"]))
    def test_every_name_of_a_file_can_be_kept_by_every_disk(self, text, ending):
        name = saved_name(text + ending)
        self.assertTrue(0 < len(name.encode()) <= MOST_BYTES)
        self.assertFalse(set(name) & set('/\\:*?"<>|\n\0' + OPENS + CLOSES), repr(name))
        self.assertTrue(name.endswith(ending))
        self.assertFalse(is_blank(name.removesuffix(ending)), repr(name))
        self.assertFalse(is_blank(title_of(text)))

    def test_long_names_keep_their_ending_and_whole_letters(self):
        self.assertEqual(saved_name("a talk.mp4"), "a talk.mp4")
        long = saved_name("ü" * 300 + ".mp4")
        self.assertEqual((long[-5:], set(long[:-4])), ("ü.mp4", {"ü"}))
        self.assertEqual(saved_name("\u202e.mp4"), "Hovvet.mp4")
