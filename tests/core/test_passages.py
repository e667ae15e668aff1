"""Passages: sentences, signs, what spans are worth, and what is said of them; on small made cases and on marked talks."""

import json
import tempfile
import unittest
from functools import cache
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from hovvet.cli import main
from hovvet.core.engines.meaning import vectors
from hovvet.core.errors import CoreError
from hovvet.core.passages.after_sweep import after_sweep
from hovvet.core.passages.chapters import chapter_times
from hovvet.core.passages.choosing import STRONG, chosen
from hovvet.core.passages.features import features
from hovvet.core.passages.find import Passage, find_passages
from hovvet.core.passages.hooks import Hook, hooks
from hovvet.core.passages.judgements import judged, leanings
from hovvet.core.passages.reasons import warnings
from hovvet.core.passages.rules import signs_of
from hovvet.core.passages.scoring import Span, spans
from hovvet.core.passages.sentences import sentences
from hovvet.core.passages.stepping import stepped
from hovvet.core.plan.model import PlanWord
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.words.transcript import Transcript, Word
from tests.talks import Talk, marked_talks


def said(text: str, pause: float = 0.4, speakers: bool = False) -> Transcript:
    """Words 0.3 s long, with a pause after each sentence; with ``speakers``, a new line is another one."""
    words: list[Word] = []
    at = 0.5
    for n, line in enumerate(text.strip().splitlines()):
        for each in line.split():
            speaker = f"S{n % 2 + 1}" if speakers else "S1"
            words.append(
                Word(id=len(words) + 1, text=each, start=round(at, 3), end=round(at + 0.3, 3), speaker=speaker)
            )
            at += 0.32 + (pause if each[-1] in ".?!" else 0.0)
    return Transcript(duration=at + 0.5, words=tuple(words))


class Sentences(unittest.TestCase):
    def test_they_end_at_stops_at_other_speakers_and_at_long_pauses(self):
        made = sentences(said("One clock. Two clocks\nthree").words)
        self.assertEqual([each.text for each in made], ["One clock.", "Two clocks three"])
        made = sentences(said("One clock Two clocks\nthree", speakers=True).words)
        self.assertEqual([each.text for each in made], ["One clock Two clocks", "three"])
        words = [
            Word(id=n + 1, text="w", start=n + (2.0 if n > 2 else 0), end=n + 0.9 + (2.0 if n > 2 else 0))
            for n in range(6)
        ]
        self.assertEqual([(each.first, each.last) for each in sentences(words)], [(0, 2), (3, 5)])

    def test_where_stops_are_lost_pauses_part_what_is_long_enough(self):
        words, at = [], 0.0
        for n in range(30):
            words.append(Word(id=n + 1, text="word", start=at, end=at + 0.3))
            at += 0.3 + (0.4 if n in (3, 14) else 0.02)
        self.assertEqual([each.last for each in sentences(words)], [14, 29], "four words and a breath are none")

    @given(st.lists(st.sampled_from(["so", "it", "stopped.", "why?", "and,", "clock"]), max_size=120))
    def test_every_word_is_in_one_sentence_in_order(self, texts):
        words = [Word(id=n + 1, text=text, start=n * 0.4, end=n * 0.4 + 0.38) for n, text in enumerate(texts)]
        made = sentences(words)
        self.assertEqual([n for each in made for n in range(each.first, each.last + 1)], list(range(len(words))))


class Signs(unittest.TestCase):
    def test_what_sentences_do_is_seen(self):
        for text, sign in (
            ("Why do most things break?", "question"), ("I remember it exactly.", "story"),
            ("They do not come back with a lamp, they come back with a neighbour.", "contrast"),
            ("The most important tool in this room is the screwdriver.", "claim"),
            ("It took nine days to get it warm.", "number"), ("Please put a label on it.", "housekeeping"),
            ("As you can see up here, that is the drawing.", "slide"), ("Sorry, where was I.", "half thought"),
            ("That is wonderful.", "reaction"), ("He told me.", "unresolved"), ("And then it stopped.", "goes on"),
        ):  # fmt: skip
            self.assertIn(sign, signs_of(text), text)
        for text, sign in (
            ("The thesis was his.", "unresolved"), ("Android phones.", "goes on"), ("The stoplight.", "slide"),
            ("What I like is glue.", "question"),
        ):  # fmt: skip
            self.assertNotIn(sign, signs_of(text), text)

    def test_a_question_that_lost_its_mark_is_one_still(self):
        self.assertIn("question", signs_of("why do most things break"))


class Worth(unittest.TestCase):
    def worth(self, text: str, **how) -> dict[tuple[int, int], Span]:
        of = features(sentences(said(text, **how).words), vectors, {})
        return {(each.first, each.last): each for each in spans(of, 60, lambda start, end: end - start)}

    STORY = (
        "The screwdriver opens the case of the clock. Inside the clock there is dust on every wheel. You wipe the wheels "
        "of the clock with a dry brush. You put the wheels back into the clock one by one. Then the clock runs again for "
        "twenty years."
    )

    def test_spans_are_as_long_as_may_be_and_no_shorter_than_they_must(self):
        transcript = said(self.STORY)
        for longest in (16, 18, 30):
            of = features(sentences(transcript.words), vectors, {})
            for span in spans(of, longest, lambda start, end: end - start):
                self.assertTrue(15 <= span.seconds <= longest)
        of = features(sentences(transcript.words), vectors, {})
        self.assertEqual(list(spans(of, 60, lambda start, end: (end - start) / 4)), [], "of what is kept")

    def test_an_announcement_a_pointer_and_a_bad_beginning_are_worth_less(self):
        whole = self.worth(self.STORY)[0, 4].score
        for spoilt in (
            self.STORY.replace("The screwdriver opens the case of the clock.", "Please put your name on the sheet."),
            self.STORY.replace("Inside the clock there is dust", "As you can see on this slide there is dust"),
            self.STORY.replace("The screwdriver opens the case", "And he opens the case"),
        ):
            self.assertLess(self.worth(spoilt)[0, 4].score, whole - 0.5, spoilt)

    def test_a_question_that_another_answers_is_worth_more(self):
        asked = "Why does a clock stop after all these years?\n" + self.STORY
        alone, two = self.worth(asked.replace("\n", " "))[0, 5].score, self.worth(asked, speakers=True)[0, 5].score
        self.assertGreater(two, alone)

    def test_of_spans_over_one_another_the_best_is_taken(self):
        all_ = [Span(0, 5, 30, 6.0), Span(3, 8, 30, 7.0), Span(9, 12, 20, 5.0), Span(20, 22, 20, 4.4)]
        self.assertEqual(chosen(all_, 8), [all_[1], all_[2]])
        self.assertEqual(chosen(all_, 1), [all_[1]])


@cache
def found(name: str, damaged: bool) -> tuple[Talk, list[Passage]]:
    talk = next(each for each in marked_talks(damaged) if each.name == name)
    return talk, find_passages(talk.transcript, vectors)


class Marked(unittest.TestCase):
    """The talks of ``bench/talks``; ``bench/passages.py`` measures more."""

    NAMES = ("lecture", "podcast", "webinar")

    def test_the_first_five_are_those_that_were_marked_and_never_what_must_not_be_shown(self):
        for damaged, least in ((False, 0.8), (True, 0.7)):
            right = shown = 0
            for name in self.NAMES:
                talk, passages = found(name, damaged)
                for each in passages[:5]:
                    shown += 1
                    first, last = (talk.transcript.position[word] for word in each.words)
                    right += any(
                        2 * (min(last, b) - max(first, a) + 1) >= max(last, b) - min(first, a) + 1
                        for a, b in talk.passages
                    )
                    for a, b in talk.never:
                        self.assertFalse(first <= b and last >= a, f"{name}: {each.titles}")
            self.assertGreaterEqual(right / shown, least)

    def test_what_is_said_of_them_is_in_their_words(self):
        for name in self.NAMES:
            talk, passages = found(name, False)
            for each in passages:
                first, last = (talk.transcript.position[word] for word in each.words)
                text = " ".join(word.text for word in talk.transcript.words[first : last + 20]).lower()
                for title in each.titles:
                    self.assertTrue(set(title.lower().split()) <= set(text.replace(",", "").replace(".", "").split())
                                    or title.lower() in text, title)  # fmt: skip
                for reason in each.reasons:
                    if "“" in reason.text:
                        quoted = reason.text.split("“")[1].rstrip("”…")
                        self.assertIn(quoted.lower(), text)
                self.assertTrue(1 <= len(each.titles) <= 3)
            self.assertTrue(any(reason.kind == "question" for each in passages for reason in each.reasons))

    def test_what_speaks_against_one_is_told(self):
        cases = {
            "Leans on something said earlier": "That is why the clock stops when the wheels are full of dust.",
            "Points at something not seen": "As you can see on this slide the clock has eleven wheels.",
            "Sounds like an announcement": "Please put the clock on the table and sign up for the newsletter.",
        }
        for warning, opens in cases.items():
            of = features(sentences(said(f"{opens} {Worth.STORY}").words), vectors, {})
            self.assertIn(warning, list(warnings(of, Span(0, 4, 20, 5.0))))
        of = features(sentences(said(Worth.STORY).words), vectors, {})
        self.assertEqual(list(warnings(of, Span(0, 4, 20, 5.0))), [])

    def test_two_speakers_and_their_reactions_are_told(self):
        _, passages = found("podcast", False)
        told = [reason.text for each in passages for reason in each.reasons]
        self.assertTrue(any("another person answers" in text for text in told))
        self.assertTrue(any(text.startswith("The other speaker reacts") for text in told))

    def test_where_nothing_is_worth_it_nothing_is_shown(self):
        dull = (
            "Please sign the list at the door. The toilets are on the left. Thank you for coming in. The break is at ten. "
            * 4
        )
        self.assertEqual(find_passages(said(dull), vectors), [])
        self.assertEqual(find_passages(Transcript(duration=5), vectors), [])


class Steps(unittest.TestCase):
    TALK = said("One clock stops here. Two clocks run on. Three clocks are late. Four clocks strike.")

    def test_a_sentence_more_or_less_on_either_side(self):
        second = (5, 8)
        for step, words in (("earlier", (1, 8)), ("on", (5, 12))):
            self.assertEqual(stepped(self.TALK, *second, step), words)
        self.assertEqual(stepped(self.TALK, 1, 12, "later"), (5, 12))
        self.assertEqual(stepped(self.TALK, 1, 12, "sooner"), (1, 8))

    def test_at_the_ends_it_says_why_not(self):
        for words, step, about in (((1, 4), "earlier", "no further"), ((13, 15), "on", "no further"),
                                   ((1, 4), "later", "one sentence"), ((1, 99), "on", "corrected away")):  # fmt: skip
            with self.assertRaisesRegex(CoreError, about):
                stepped(self.TALK, *words, step)


class Kept(unittest.TestCase):
    @given(st.floats(0, 20), st.floats(0, 20))
    def test_stretches_add_up_and_nothing_grows(self, one, other):
        words = [Word(id=n + 1, text="um" if n % 5 == 2 else "w", start=n * 1.1, end=n * 1.1 + 0.3) for n in range(20)]
        kept = after_sweep(Transcript(duration=22, words=tuple(words)), None, SweepSettings())
        a, b = sorted((one, other))
        self.assertAlmostEqual(kept(0, a) + kept(a, b) + kept(b, 22), kept(0, 22), places=6)
        self.assertLessEqual(kept(a, b), b - a + 1e-9)
        self.assertGreaterEqual(kept(a, b), -1e-9)
        self.assertLess(kept(0, 22), 15, "pauses and fillers are out")


class Judged(unittest.TestCase):
    def test_choices_shift_weights_gently_and_never_far(self):
        choices = judged({}, ("question", "subject"), kept=True)
        self.assertEqual(set(choices), {"question"}, "only signs that passages begin with")
        self.assertAlmostEqual(leanings(choices)["question"], 0.08)
        for _ in range(500):
            choices = judged(choices, ("story",), kept=False)
        self.assertAlmostEqual(leanings(choices)["story"], -0.4, delta=0.01)

    def test_what_is_liked_is_worth_more(self):
        talk = said("Why does a clock stop? " + Worth.STORY)
        scores = []
        for extra in (-0.4, 0.0, 0.4):
            of = features(sentences(talk.words), vectors, {"question": extra})
            scores.append(of.begins[0])
        self.assertAlmostEqual(scores[1] - scores[0], 0.0, places=6, msg="five words: no question that counts")
        of = [features(sentences(said("Why does a clock stop after years? " + Worth.STORY).words), vectors, {"question": extra}).begins[0]
              for extra in (-0.4, 0.4)]  # fmt: skip
        self.assertAlmostEqual(of[1] - of[0], 0.8, places=6)


class CommandLine(unittest.TestCase):
    def test_it_works_on_words_alone(self):
        talk = marked_talks()[0]
        with tempfile.TemporaryDirectory() as folder:
            words, out = Path(folder) / "words.json", Path(folder) / "passages.json"
            words.write_text(talk.transcript.model_dump_json())
            self.assertEqual(main(["passages", str(words), "--longest", "40", "-o", str(out)]), 0)
            made = json.loads(out.read_text())
            self.assertEqual(set(made), {"version", "passages"})
            self.assertGreaterEqual(len(made["passages"]), 3)
            for each in made["passages"]:
                self.assertEqual(set(each), {"start", "end", "words", "strength", "reasons", "warnings", "titles"})
                self.assertLess(each["end"] - each["start"], 60)
            self.assertEqual(made["passages"][0]["strength"], "strong")
            self.assertEqual(main(["passages", str(words), "--longest", "5", "-o", str(out)]), 1)
        self.assertGreater(STRONG, 5)


class Chapters(unittest.TestCase):
    def test_they_begin_where_the_subject_changes_and_are_not_too_short(self):
        clocks = "The clock on the wall has a wheel and a spring. The spring of the clock drives the wheel. A clock needs oil. "
        bread = "The baker makes bread of flour and water. The oven bakes the bread at night. Fresh bread smells of the oven. "
        transcript = said(clocks * 6 + bread * 6)
        of = features(sentences(transcript.words), vectors, {})
        times = chapter_times(of, 300)
        change = next(word.start for word in transcript.words if word.text == "baker")
        self.assertEqual(times[0], transcript.words[0].start)
        self.assertEqual(len(times), 2)
        self.assertAlmostEqual(times[1], change, delta=12)
        self.assertEqual(chapter_times(of, 60), times[:1], "of a short recording one")
        self.assertEqual(chapter_times(features([], vectors, {}), 300), [])


class Hooks(unittest.TestCase):
    def of(self, text: str) -> list[Hook]:
        return hooks(
            [PlanWord(id=w.id, piece="p", text=w.text, start=w.start, end=w.end) for w in said(text).words], vectors
        )

    def test_lines_that_hold_are_offered_and_those_that_end_it_are_told(self):
        text = (
            "We have a room by the harbour. It is open on Tuesdays. Why does nobody throw away a clock that has stopped? "
            "People bring us lamps and radios and chairs. We open them with a screwdriver. There is dust. "
            "The kettle is always on. A clock that stops is a promise that you can still keep."
        )
        found = self.of(text)
        self.assertEqual(len(found), 3)
        self.assertEqual(found[0].text, "Why does nobody throw away a clock that has stopped?")
        words = said(text).words
        for each in found:
            self.assertEqual(" ".join(word.text for word in words[each.first : each.last + 1]), each.text)
            self.assertGreater(each.first, 0, "not the line that opens it now")
        self.assertEqual([each.ending for each in found if each.text.startswith("A clock that stops")], [True])

    def test_of_one_sentence_there_is_none(self):
        self.assertEqual(self.of("One clock stops here."), [])
        self.assertEqual(hooks([], vectors), [])
