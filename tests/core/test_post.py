"""The text for a post: begun from the clip's own words, counted against what its outlet takes."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from hovvet.core.plan.model import PlanWord
from hovvet.core.plan.outlets import OUTLETS
from hovvet.core.post.offering import HASHTAGS, begun, offered
from hovvet.core.post.post import Post, counted
from hovvet.core.value import with_changes

TALK = (
    "You know, nobody in Quillhaven throws away a kettle. A kettle that hums, um, is a kettle that works. "
    "So Maren opened the workshop with two kettles and three lamps. The lamps of Quillhaven belonged to everybody. "
    "What would you mend first? And then"
)


def said(text: str) -> tuple[PlanWord, ...]:
    return tuple(
        PlanWord(id=n + 1, piece="p1", origin="p1", text=each, start=n * 0.4, end=n * 0.4 + 0.3)
        for n, each in enumerate(text.split())
    )


def no_meaning(texts):
    return np.ones((len(texts), 4), np.float32) / 2


class Offering(unittest.TestCase):
    def setUp(self):
        self.offers = offered(said(TALK), "Kettles", no_meaning)

    def test_all_that_is_offered_is_said_in_the_clip(self):
        spoken = TALK.lower().replace(" um,", "")
        for line in (*self.offers.first_lines[:-1], *self.offers.body.split(". ")):
            self.assertIn(line.lower().rstrip("."), spoken)
        for tag in self.offers.hashtags:
            self.assertIn(tag[1:].lower(), spoken)
        self.assertEqual(self.offers.first_lines[-1], "Kettles", "and its title")

    def test_whole_sentences_without_what_is_only_said_to_begin(self):
        self.assertTrue(self.offers.body.startswith("Nobody in Quillhaven throws away a kettle. A kettle that hums,"))
        self.assertNotIn("um", self.offers.body.split())
        self.assertNotIn("And then", " ".join((*self.offers.first_lines, self.offers.body)))

    def test_hashtags_are_what_it_is_about_and_names_as_they_are_written(self):
        tags = self.offers.hashtags
        self.assertIn("#Quillhaven", tags[:3])
        self.assertIn("#kettle", tags[:4])
        self.assertLessEqual(len(tags), HASHTAGS)
        self.assertNotIn("#opened", tags)
        self.assertNotIn("#that", tags)

    def test_one_to_begin_from_says_nothing_twice(self):
        post = begun(self.offers)
        self.assertEqual(post.first_line, self.offers.first_lines[0])
        self.assertEqual(len(post.hashtags), 3)
        only = begun(offered(said("Kettles hum."), "Kettles", no_meaning))
        self.assertEqual(only.written().count("Kettles hum."), 1)

    def test_of_nothing_nothing_is_offered_but_the_title(self):
        offers = offered((), "Kettles", no_meaning)
        self.assertEqual((offers.first_lines, offers.body, offers.hashtags), (("Kettles",), "", ()))


class Writing(unittest.TestCase):
    def test_its_parts_stand_under_one_another_with_what_has_to_be_named(self):
        post = Post(
            first_line="Mend it.", body="All of it.", hashtags=("kettle", "#lamp", "kettle"), link="https://a.example/b"
        )
        self.assertEqual(
            post.written(["“Gears” by Maren"]),
            "Mend it.\n\nAll of it.\n\nhttps://a.example/b\n\n“Gears” by Maren\n\n#kettle #lamp",
        )
        self.assertTrue(Post(first_line="  ").is_empty)
        self.assertEqual(Post().written(["“Gears” by Maren"]), "“Gears” by Maren")

    def test_what_is_no_hashtag_and_no_link_is_refused(self):
        for tag in ("", "#", "two words", "#1,2", "a" * 70, "<b>"):
            with self.assertRaises(ValidationError, msg=tag):
                Post(hashtags=(tag,))
        for link in ("javascript:alert(1)", "a.example", "https://a b", "https://a\nb", 'https://a"b'):
            with self.assertRaises(ValidationError, msg=link):
                Post(link=link)

    @given(
        st.text(max_size=200),
        st.text(max_size=300),
        st.lists(st.from_regex(r"[a-z]{4,10}", fullmatch=True), max_size=12),
    )
    def test_it_is_counted_as_it_is_written(self, first, body, tags):
        post = Post(first_line=first, body=body, hashtags=tuple(tags))
        outlet = with_changes(OUTLETS["tall"], post_letters=100, post_hashtags=3)
        count = counted(post, ["“Gears” by Maren"], outlet)
        self.assertEqual(count.letters, len(post.written(["“Gears” by Maren"])))
        self.assertEqual(count.tags, len(set(tags)))
        self.assertEqual(count.fits, count.letters <= 100 and count.tags <= 3)


if __name__ == "__main__":
    unittest.main()
