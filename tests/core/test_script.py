"""Scripts: their lines, what was said beside them, the best of it, where somebody is in them."""

import io
import unittest
import zipfile

from docx import Document
from hypothesis import given, settings
from hypothesis import strategies as st

from hovvet.core.engines.faces import Face
from hovvet.core.errors import CoreError
from hovvet.core.picture.facing import Looks, is_facing
from hovvet.core.script.beside import Reading, readings
from hovvet.core.script.choosing import ReadIn, best, cost
from hovvet.core.script.following import follow
from hovvet.core.script.lines import MOST_WORDS, Script, script_of, words_of
from hovvet.core.script.pace import FASTEST, SLOWEST, pace_of, seconds_of
from hovvet.core.script.text_in import read_text, text_apart
from hovvet.core.words.transcript import Transcript, Word
from tests.media import ScratchCase

TEXT = """So today I want to talk about gardens. A garden needs three things: water, light and patience.

Most people forget the last one. They dig it all up in March and wonder why nothing grows."""
GARDEN = script_of(TEXT, "flowing")


def said(text: str) -> Transcript:
    """Words one after the other; ``|`` is a halt of 1.2 s."""
    words: list[Word] = []
    at = 0.5
    for each in text.split():
        if each == "|":
            at += 1.2
            continue
        kind = "filler" if each.strip(",").lower() in ("um", "uh") else "word"
        words.append(Word(id=len(words) + 1, text=each, start=at, end=at + 0.3, kind=kind))
        at += 0.35
    return Transcript(duration=at + 1, words=tuple(words))


def differences(reading: Reading) -> list[tuple[str, str]]:
    return [(token.text, token.said) for token in reading.tokens if token.said != "as written"]


class Lines(unittest.TestCase):
    def test_sentences_keep_their_paragraph(self):
        self.assertEqual(
            [(line.part, len(words_of(line.text))) for line in GARDEN.lines], [(0, 8), (0, 9), (1, 6), (1, 12)]
        )
        self.assertEqual(GARDEN.starts, (0, 8, 17, 23, 35))
        self.assertEqual([GARDEN.line_at(word) for word in (0, 7, 8, 34, 99)], [0, 0, 1, 3, 3])

    def test_cards_are_parted_by_empty_lines_and_rules(self):
        cards = script_of("Welcome.\nSit down.\n\nThe plan\n---\nGoodbye", "cards")
        self.assertEqual([card.text for card in cards.lines], ["Welcome. Sit down.", "The plan", "Goodbye"])

    def test_what_is_too_long_is_refused_with_what_to_do(self):
        with self.assertRaisesRegex(CoreError, "50,000 words.*6,000: part it"):
            script_of("word " * 50_000, "flowing")
        script_of("word. " * MOST_WORDS, "flowing")

    def test_nothing_is_a_script_without_lines(self):
        for text in ("", " \n\n ", "--- … !"):
            self.assertEqual(script_of(text, "flowing"), Script(), text)
            self.assertEqual(script_of(text, "cards"), Script(), text)

    def test_from_right_to_left(self):
        self.assertTrue(script_of("היום נדבר על גינות. נתחיל.", "flowing").right_to_left)
        self.assertFalse(script_of("Today we say שלום to gardens.", "flowing").right_to_left)

    def test_pace(self):
        self.assertEqual(pace_of(70, 30), 140)
        self.assertEqual([pace_of(1, 600), pace_of(500, 1)], [SLOWEST, FASTEST])
        self.assertAlmostEqual(seconds_of(70, 140), 30)


class Beside(unittest.TestCase):
    def test_what_was_left_out_added_and_said_otherwise(self):
        found = readings(
            GARDEN,
            said(
                "So today I want | So today I want to talk about gardens. um A garden needs three things, water, and patience. "
                "A garden needs three things, water, light and patience. Most folks forget | the last one. "
                "They dig it all up in um March and really wonder why nothing grows."
            ),
        )
        told = [(each.line, each.run, each.halts, differences(each)) for each in found]
        left = [(word, "left out") for word in ("to", "talk", "about", "gardens.")]
        self.assertEqual(told[0], (0, 0, 0, left))
        self.assertEqual(told[1], (0, 1, 0, []))
        self.assertEqual(told[2], (1, 1, 0, [("light", "left out")]))
        self.assertEqual(told[3], (1, 2, 0, []))
        self.assertEqual(told[4], (2, 2, 1, [("folks", "otherwise")]))
        self.assertEqual(told[5], (3, 2, 0, [("um", "filler"), ("really", "added")]))
        self.assertAlmostEqual(found[4].longest_halt, 1.25, delta=0.01)

    def test_talk_about_something_else_is_no_reading(self):
        self.assertEqual(readings(GARDEN, said("Is this thing on? Hello, can you hear me over there by the door?")), [])
        self.assertEqual(readings(Script(), said("Hello there")), [])
        self.assertEqual(readings(GARDEN, Transcript(duration=3)), [])

    @settings(max_examples=40, deadline=None)
    @given(st.data())
    def test_lines_read_as_they_are_written_are_found_whole_and_those_read_twice_are_found_twice(self, data):
        vocabulary = st.sampled_from("amber birch cedar delta ember flint grove heron inlet jetty kayak larch".split())
        lines = data.draw(
            st.lists(st.lists(vocabulary, min_size=5, max_size=9).map(tuple), min_size=2, max_size=6, unique=True)
        )
        script = script_of(" ".join(f"{' '.join(line).capitalize()}." for line in lines), "flowing")
        again = data.draw(st.integers(0, len(lines) - 1))
        order = [*range(again + 1), *range(len(lines))]  # up to that line, then all from the beginning
        found = readings(script, said(" | ".join(script.lines[n].text for n in order)))
        self.assertEqual([(each.line, differences(each)) for each in found], [(n, []) for n in order])
        self.assertEqual([each.run for each in found], [0] * (again + 1) + [1] * len(lines))


class Choosing(unittest.TestCase):
    def read(self, take: str, text: str, **more) -> list[ReadIn]:
        return [ReadIn(take=take, reading=each, **more) for each in readings(GARDEN, said(text))]

    def test_each_line_from_where_it_was_read_best(self):
        first = self.read(
            "a",
            "So today I want to talk about gardens. A garden needs water, light and patience. Most people um forget the last one.",
        )
        second = self.read(
            "b", "A garden needs three things: water, light and patience. Most people forget the last one."
        )
        chosen = best(len(GARDEN.lines), [*first, *second])
        self.assertEqual({n: each.take for n, each in chosen.items()}, {0: "a", 1: "b", 2: "b"})

    def test_one_go_is_worth_more_than_a_nicety_and_a_star_more_than_a_filler(self):
        plain = "Most people forget the last one. They dig it all up in March and wonder why nothing grows."
        one, two = self.read("a", plain), self.read("b", plain)
        takes = {each.take for each in best(4, [*one, *two]).values()}
        self.assertEqual(len(takes), 1)
        starred = self.read("c", plain.replace("dig", "um dig"), starred=True)
        self.assertEqual({each.take for each in best(4, [*one, *starred]).values()}, {"c"})

    def test_who_looks_away_is_not_chosen(self):
        plain = "Most people forget the last one."
        away, there = self.read("a", plain, looks=0.1), self.read("b", plain, looks=0.9)
        self.assertEqual(best(4, [*away, *there])[2].take, "b")
        self.assertGreater(cost(away[0]), cost(there[0]))

    def test_nothing_read_is_nothing_chosen(self):
        self.assertEqual(best(4, []), {})


class Following(unittest.TestCase):
    def test_it_goes_on_with_what_is_heard(self):
        at = 0
        words = list(GARDEN.words)
        for end in range(5, len(words) + 1, 3):
            found = follow(GARDEN, at, words[max(end - 12, 0) : end], "en")
            self.assertEqual((found.word, found.sure), (end, True))
            at = found.word

    def test_badly_heard_words_and_overlaps_do_no_harm(self):
        found = follow(GARDEN, 8, words_of("gardens a gardn needs tree things water"), "en")
        self.assertEqual((found.word, found.sure), (14, True))

    def test_silence_waits_straying_waits_and_too_little_is_not_sure(self):
        self.assertTrue(follow(GARDEN, 5, [], "en").silent)
        strayed = follow(GARDEN, 5, words_of("hold on the bus is very late again"), "en")
        self.assertEqual((strayed.sure, strayed.strayed), (False, True))
        little = follow(GARDEN, 5, ["to", "talk"], "en")
        self.assertEqual((little.word, little.sure, little.strayed), (5, False, False))

    def test_who_begins_anew_far_back_is_found_once_enough_is_heard(self):
        found = follow(GARDEN, 30, words_of("a garden needs three things water light and patience"), "en")
        self.assertEqual((found.word, found.sure), (17, True))


class TextIn(ScratchCase):
    def docx(self, *paragraphs: str) -> bytes:
        document = Document()
        for each in paragraphs:
            document.add_paragraph(each)
        made = io.BytesIO()
        document.save(made)
        return made.getvalue()

    def test_documents_give_their_paragraphs(self):
        self.assertEqual(
            text_apart(self.docx("Good evening.", "", "Sit down."), "Evening.DOCX"), "Good evening.\n\nSit down."
        )

    def test_markdown_gives_what_is_read(self):
        text = "# Mend it\n\nBring *one* thing to the [bench](https://x.invalid).\n\n* A lamp\n* A chair\n\n![clock](c.png)\n\n```\ncode\n```\n"
        self.assertEqual(
            read_text(text.encode(), ".md"), "Mend it\n\nBring one thing to the bench.\n\nA lamp\n\nA chair"
        )

    def test_what_is_no_document_is_told(self):
        bomb = io.BytesIO()
        with zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as parts:
            parts.writestr("word/document.xml", b"<a>" + b" " * 70_000_000)
        cases = (
            (b"PK\x03\x04 broken", "a.docx", "could not be read"),
            (self.docx()[:900], "a.docx", "could not be read"),
            (bomb.getvalue(), "a.docx", "unpacks to far more"),
            (self.docx(" "), "a.docx", "no words"),
            (b"", "a.txt", "no words"),
            (b"\x00\x01\x02", "a.txt", "not a text"),
            (b"%PDF", "a.pdf", "TXT, MD, DOCX and HTML"),
            (b"x" * 10_000_001, "a.txt", "too large"),
        )
        for data, name, told in cases:
            with self.assertRaisesRegex(CoreError, told):
                text_apart(data, name)

    def test_a_document_that_asks_for_files_of_ours_gets_none(self):
        secret = self.scratch / "secret.txt"
        secret.write_text("hush")
        good = self.docx("Before SECRET")
        made = io.BytesIO()
        with zipfile.ZipFile(io.BytesIO(good)) as old, zipfile.ZipFile(made, "w") as new:
            for part in old.infolist():
                data = old.read(part)
                if part.filename == "word/document.xml":
                    asks = f'<!DOCTYPE w:document [<!ENTITY x SYSTEM "file://{secret}">]><w:document'
                    data = data.replace(b"<w:document", asks.encode(), 1).replace(b"SECRET", b"&x;")
                new.writestr(part, data)
        self.assertEqual(text_apart(made.getvalue(), "a.docx"), "Before")


class Facing(unittest.TestCase):
    def face(self, nose: tuple[float, float]) -> Face:
        return Face(50, 50, 80, ((30, 40), (70, 40)), (50, 80), 1.0, nose)

    def test_by_the_nose(self):
        self.assertTrue(is_facing(self.face((50, 60))))
        self.assertTrue(is_facing(self.face((54, 62))))
        self.assertFalse(is_facing(self.face((64, 60))))  # to the side
        self.assertFalse(is_facing(self.face((50, 79))))  # down
        self.assertFalse(is_facing(self.face((50, 44))))  # up

    def test_also_with_the_head_on_one_side(self):
        turned = Face(50, 50, 80, ((40, 30), (40, 70)), (0, 50), 1.0, (20, 50))
        self.assertTrue(is_facing(turned))

    def test_the_part_of_a_stretch(self):
        looks = Looks(times=(0.0, 0.5, 1.0, 1.5), facing=(True, True, False, False))
        self.assertEqual([looks.part(0, 1), looks.part(0.4, 1.2), looks.part(5, 6)], [1.0, 0.5, None])
