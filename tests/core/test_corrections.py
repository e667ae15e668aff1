"""Correcting words: what changes, and what never does."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from hovvet.core.words.corrections import (
    CorrectionError,
    JoinWords,
    NameSpeaker,
    Rewrite,
    Rewritten,
    SetSpeaker,
    SuggestSpeakers,
    Turn,
    correct,
    difference,
)
from hovvet.core.words.glossary import Term, apply_terms, hints, nearly, with_term
from hovvet.core.words.replace import occurrences
from hovvet.core.words.transcript import Transcript, Word
from tests.media import even_words, spoken


def read(transcript: Transcript) -> str:
    return " ".join(word.text for word in transcript.words)


def read_of(transcript: Transcript, change: Rewritten) -> str:
    return " ".join(transcript.word(word).text for word in change.words)


def rewrite(transcript: Transcript, *changes: tuple[tuple[int, ...], str], fresh: int = 0) -> Transcript:
    made = tuple(Rewritten(words=words, text=text) for words, text in changes)
    return correct(transcript, Rewrite(changes=made, fresh=fresh))


@st.composite
def rewrites(draw) -> tuple[Transcript, Rewrite]:
    """Some words and a rewriting of runs of them, into as many words, fewer or more."""
    transcript = even_words(draw(st.integers(1, 30)))
    ids = [word.id for word in transcript.words]
    changes, at = [], 0
    while at < len(ids):
        length = draw(st.integers(1, 4))
        if draw(st.booleans()):
            texts = draw(st.lists(st.text("abcäé'-", min_size=1, max_size=9), min_size=1, max_size=5))
            changes.append(Rewritten(words=tuple(ids[at : at + length]), text=" ".join(texts)))
        at += length
    changes = changes or [Rewritten(words=(ids[0],), text="x")]
    return transcript, Rewrite(changes=tuple(changes), fresh=draw(st.integers(0, 5000)))


class Rewriting(unittest.TestCase):
    def test_joining_leaves_out_what_ended_the_first(self):
        before = spoken("Nobody throws, away a clock.")
        after = correct(before, JoinWords(words=(2, 3), texts=("throws,", "away")))
        self.assertEqual([word.text for word in after.words], ["Nobody", "throwsaway", "a", "clock."])
        self.assertEqual((after.words[1].id, after.words[1].start, after.words[1].end), (2, 0.4, 1.1))
        with self.assertRaises(CorrectionError):
            correct(before, JoinWords(words=(1, 3), texts=("Nobody", "away")))

    def test_a_corrected_word_keeps_its_id_and_time_and_is_certain(self):
        before = spoken("Quill haven mends")
        after = rewrite(before, ((3,), "repairs"))
        self.assertEqual(read(after), "Quill haven repairs")
        self.assertEqual((after.words[2].id, after.words[2].start, after.words[2].end), (3, 0.8, 1.1))
        self.assertEqual(after.words[2].confidence, 1.0)
        self.assertEqual(before.words[2].text, "mends", "the transcript given is not changed")

    def test_joined_words_reach_from_the_first_to_the_last(self):
        after = rewrite(spoken("at Quill haven now"), ((2, 3), "Quillhaven"))
        self.assertEqual([(word.id, word.text) for word in after.words], [(1, "at"), (2, "Quillhaven"), (4, "now")])
        self.assertEqual((after.words[1].start, after.words[1].end), (0.4, 1.1))

    def test_a_split_word_shares_its_time_by_letters(self):
        after = rewrite(spoken("a cannotgo b"), ((2,), "cannot go"), fresh=500)
        one, two = after.words[1:3]
        self.assertEqual((one.id, two.id), (2, 500))
        self.assertEqual((one.start, one.end, two.end), (0.4, two.start, 0.7))
        self.assertGreater(one.end - one.start, two.end - two.start)

    def test_an_um_becomes_a_filler_and_a_sound_a_word(self):
        self.assertEqual(rewrite(spoken("bomb we"), ((1,), "um,")).words[0].kind, "filler")
        sound = Transcript(duration=2, words=(Word(id=1, text="[sound]", start=0, end=1, kind="sound"),))
        self.assertEqual(rewrite(sound, ((1,), "yes")).words[0].kind, "word")

    def test_what_cannot_be_is_refused_in_words(self):
        words = spoken("one two three")
        for changes, about in [
            ([((9,), "x")], "no longer in the transcript"),
            ([((1, 3), "x")], "side by side"),
            ([((1,), "x"), ((1, 2), "y")], "twice"),
            ([((1,), "\u2003")], "cannot be empty"),
            (
                [((1,), "so many words in so little sound can nobody ever have said at all my dear people")],
                "enough sound",
            ),
        ]:
            with self.assertRaisesRegex(CorrectionError, about):
                rewrite(words, *changes)

    @given(rewrites())
    def test_any_rewriting_leaves_a_transcript_that_holds(self, made):
        before, correction = made
        after = correct(before, correction)
        Transcript.model_validate(after.model_dump())  # in order, no overlap, ids unique
        wanted = {change.words[0]: change.text.split() for change in correction.changes}
        self.assertEqual(
            sum(map(len, wanted.values())),
            len(after.words) - len(before.words) + sum(len(change.words) for change in correction.changes),
        )
        touched = {word for change in correction.changes for word in change.words}
        for word in before.words:
            if word.id not in touched:
                self.assertIs(after.word(word.id), word)

    @given(rewrites())
    def test_a_difference_leads_from_one_transcript_to_the_other(self, made):
        before, correction = made
        after = correct(before, correction)
        gone, come = difference(before, after)
        fresh = {word.id: word for word in come}
        merged = [fresh.pop(word.id, word) for word in before.words if word.id not in gone]
        merged = sorted([*merged, *fresh.values()], key=lambda word: word.start)
        self.assertEqual(tuple(merged), after.words)


class Speakers(unittest.TestCase):
    def test_a_suggestion_never_changes_what_was_set_by_hand(self):
        words = correct(spoken("a b c d e"), SetSpeaker(words=(2, 3), speaker="S2"))
        after = correct(words, SuggestSpeakers(turns=(Turn(first=1, last=4, speaker="S3"),)))
        self.assertEqual([word.speaker for word in after.words], ["S3", "S2", "S2", "S3", "S1"])
        self.assertEqual([word.speaker_by for word in after.words], ["voices", "hand", "hand", "voices", "nobody"])
        settled = correct(after, SetSpeaker(words=(1,), speaker="S3"))
        self.assertEqual(settled.words[0].speaker_by, "hand", "the same speaker, now by hand")

    def test_names_and_colours(self):
        words = correct(spoken("a b"), SetSpeaker(words=(2,), speaker="S2"))
        words = correct(words, NameSpeaker(speaker="S2", name=" Maren "))
        words = correct(words, NameSpeaker(speaker="S2", colour="#112233"))
        one, two = words.cast()
        self.assertEqual((one.name, two.name, two.colour), ("Speaker 1", "Maren", "#112233"))
        self.assertNotEqual(one.colour, "")


class Everywhere(unittest.TestCase):
    def test_punctuation_and_sentence_beginnings_stay(self):
        words = spoken("Quill haven, we said. “Quill Haven” is far. near quill haven. The haven")
        found = occurrences(words, "quill haven", "Quillhaven")
        self.assertEqual([each.change.text for each in found], ["Quillhaven,", "“Quillhaven”", "Quillhaven."])
        self.assertEqual(found[0].after, "we said. “Quill Haven” is")
        after = correct(words, Rewrite(changes=tuple(each.change for each in found)))
        self.assertEqual(read(after), "Quillhaven, we said. “Quillhaven” is far. near Quillhaven. The haven")
        self.assertEqual(occurrences(after, "quill haven", "Quillhaven"), [])

    def test_a_lower_case_word_opens_a_sentence_with_a_capital(self):
        found = occurrences(spoken("Naren came. naren went"), "naren", "somebody")
        self.assertEqual([each.change.text for each in found], ["Somebody", "Somebody"])
        found = occurrences(spoken("Then naren went"), "naren", "somebody")
        self.assertEqual([each.change.text for each in found], ["somebody"])

    def test_what_reads_nearly_like_a_name_is_found_for_a_person_to_look_at(self):
        said = spoken("Then “Odelys’s son met Odalys and Quillhavens, mr Tolliver and the odelys of Marden in March.")
        terms = [Term(text=text) for text in ("Odalys", "Quillhaven", "Tolliver", "Marsh", "Marden")]
        found = [(read_of(said, each), each.text) for each in nearly(said, terms)]
        self.assertEqual(found, [("“Odelys’s", "“Odalys’s"), ("Quillhavens,", "Quillhaven,")])
        two = spoken("Ask Odelys Marsh or Odelys Smith.")
        self.assertEqual([each.text for each in nearly(two, [Term(text="Odalys Marsh")])], ["Odalys Marsh"])

    def test_names_and_terms_put_known_mishearings_right(self):
        terms = with_term(with_term([], "Quillhaven", "quill haven"), "Oddvik", "odd vic")
        terms = with_term(terms, "Quillhaven", "kool-haven")
        self.assertEqual(terms[-1], Term(text="Quillhaven", heard=("quill haven", "kool-haven")))
        words = spoken("At Kool-haven. Odd Vic of quill haven, quill and haven")
        self.assertEqual(read(apply_terms(words, terms)), "At Quillhaven. Oddvik of Quillhaven, quill and haven")
        self.assertEqual(hints(terms), ["Oddvik", "Quillhaven"])
        self.assertEqual(apply_terms(words, []), words)
