"""A text becomes sentences, some of them a clip, and what is laid over it; sentences are said otherwise."""

import io
import unittest

import numpy as np
from docx import Document
from hypothesis import given, settings
from hypothesis import strategies as st

from hovvet.core.draft.choosing import OVER, choose, leans, needs, seconds_of
from hovvet.core.draft.exchanging import Instead, exchanged
from hovvet.core.draft.laying import CARD, Drafted, laid
from hovvet.core.draft.thoughts import Thought, lettering, next_best, pictures_for, thoughts_of
from hovvet.core.draft.written import MOST_WORDS, Sentence, blocks_of, link_of, sentences_of, title_of
from hovvet.core.engines.meaning import vectors
from hovvet.core.errors import CoreError
from hovvet.core.script.text_in import read_text, text_apart
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.sheet.contents.slide import Slide
from hovvet.core.sheet.contents.sound import Sound
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.edits import EditError
from hovvet.core.sheet.model import CaptionBreak, Layer, Run, Sheet, Span, WordRef
from hovvet.core.sheet.places import Places
from hovvet.core.sheet.starting import desk_sheet, passage, sheet_of_pieces
from hovvet.core.time import Rate
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Transcript, Word
from tests.media import DEMO

PAGE = (DEMO / "drive" / "why-we-mend.html").read_bytes()
ARTICLE = read_text(PAGE, ".html", marked=True)
RATE = Rate(num=25, den=1)


def texts(sentences) -> list[str]:
    return [each.text for each in sentences]


def bag(given: list[str]) -> np.ndarray:
    """Meanings by the words that texts have in common, for tests of what is done with them."""
    made = np.zeros((len(given), 64), np.float32)
    for row, text in zip(made, given, strict=True):
        for word in text.lower().split():
            row[sum(map(ord, word.strip(".,:?!"))) % 64] += 1
    return made / np.maximum(np.linalg.norm(made, axis=1, keepdims=True), 1e-6)


class Written(unittest.TestCase):
    def test_a_page_gives_what_is_read_of_its_article_and_nothing_that_runs(self):
        kinds = [each.kind for each in blocks_of(ARTICLE)]
        self.assertEqual(kinds[:5], ["heading", "text", "text", "text", "heading"])
        self.assertEqual((kinds.count("item"), kinds.count("quotation"), kinds.count("heading")), (3, 1, 2))
        for never in ("Home", "never read", "rights", "teal", "<b>"):
            self.assertNotIn(never, ARTICLE)
        self.assertNotIn("# ", read_text(PAGE, ".html"))

    def test_documents_and_markdown_tell_headings_items_and_quotations(self):
        document = Document()
        document.add_heading("Mend it", 1)
        document.add_paragraph("Bring a lamp.")
        document.add_paragraph("A saw", style="List Bullet")
        document.add_paragraph("It is a spring.", style="Quote")
        made = io.BytesIO()
        document.save(made)
        want = "# Mend it\n\nBring a lamp.\n\n- A saw\n\n> It is a spring."
        self.assertEqual(text_apart(made.getvalue(), "a.docx", marked=True), want)
        markdown = "# Mend it\n\nBring a\nlamp.\n\n* A saw\n\n> It is a spring.\n"
        self.assertEqual(text_apart(markdown.encode(), "a.md", marked=True), want)

    def test_a_page_as_deep_as_a_well_or_of_nothing_is_told(self):
        for page in (b"<p></p>", b"", b"<script>let a = 'words'</script>", b"<div>" * 5_000 + b"words"):
            with self.assertRaises(CoreError):
                text_apart(page, "a.html", marked=True)

    def test_what_is_pasted_is_told_apart_without_marks(self):
        pasted = (
            "Why we mend\n\nWe mend things that\nothers throw away.\nIt is cheap.\n\n“It is a spring, nothing more.”"
        )
        pasted += "\n\n1. Open it\n2) Look\n\nThe end"
        self.assertEqual(
            [(each.kind, each.text) for each in blocks_of(pasted)],
            [
                ("heading", "Why we mend"), ("text", "We mend things that others throw away."), ("text", "It is cheap."),
                ("quotation", "“It is a spring, nothing more.”"), ("item", "Open it"), ("item", "Look"), ("text", "The end"),
            ],
        )  # fmt: skip

    def test_code_and_tables_are_not_said(self):
        text = "Look here.\n\n```\ncode = 1\n```\n\n| a | b |\n| 1 | 2 |\n\nDone."
        self.assertEqual(texts(sentences_of(text)), ["Look here.", "Done."])

    def test_sentences_keep_their_wording_and_end_where_they_do(self):
        got = sentences_of("Come at 7 p.m. on Thursday. It costs 3.5 euros, i.e. nothing. Dr. Varn helps!")
        self.assertEqual(
            texts(got), ["Come at 7 p.m. on Thursday.", "It costs 3.5 euros, i.e. nothing.", "Dr. Varn helps!"]
        )
        self.assertEqual(got[0].said, "Come at seven p m on Thursday.")

    def test_nothing_too_much_or_only_signs_is_told(self):
        for text, told in (
            ("", "no words"),
            (" \u200b\n", "no words"),
            ("word " * 100_000, f"{MOST_WORDS:,}"),
            ("```\na\n```", "nothing in this text"),
        ):
            with self.assertRaisesRegex(CoreError, told):
                sentences_of(text)

    def test_its_title_and_its_link(self):
        self.assertEqual(title_of(ARTICLE), "Mend it before you buy a new one")
        self.assertEqual(title_of("We mend. Always."), "We mend.")
        self.assertEqual(link_of(ARTICLE), "https://tide-bench.example/open")
        self.assertEqual(link_of("none"), "")

    def test_marks_that_turn_text_round_are_closed_where_they_stand(self):
        self.assertTrue(
            all(
                each.text.count("\u202e") == each.text.count("\u202c")
                for each in sentences_of("Pay \u202e001 now.\nThanks a lot.")
            )
        )


class Choosing(unittest.TestCase):
    def test_as_much_as_fits_in_its_order_and_nothing_that_leans_on_what_is_left_out(self):
        sentences = sentences_of(ARTICLE)
        need = needs(sentences)
        for seconds in (12, 20, 30, 45, 60, 90):
            with self.subTest(seconds):
                chosen = choose(sentences, seconds, vectors)
                self.assertEqual(texts(chosen), texts(sentences))
                kept = {n for n, each in enumerate(chosen) if each.kept}
                lasts = sum(seconds_of(chosen[n].said) for n in kept)
                self.assertLessEqual(lasts, OVER * seconds)
                self.assertGreater(lasts, 0.5 * min(seconds, 60))
                first = min(kept)
                for n in kept - {first}:
                    self.assertTrue(all(each in kept for each in need[n]), chosen[n].text)
                self.assertFalse(leans(chosen[first].text))
                self.assertFalse(any("newsletter" in chosen[n].text or "Parking" in chosen[n].text for n in kept))
                self.assertFalse(any(chosen[n].kind == "heading" for n in kept))

    def test_a_list_is_kept_with_what_it_is_of_and_whole(self):
        sentences = sentences_of(ARTICLE)
        lead = texts(sentences).index("Three things are enough:")
        items = tuple(n for n, each in enumerate(sentences) if each.kind == "item")
        self.assertEqual(needs(sentences)[lead], items)
        self.assertTrue(all(needs(sentences)[n] == (lead,) for n in items))

    def test_a_text_of_one_long_sentence_is_kept_however_long_it_is(self):
        (only,) = choose(sentences_of("A " + "very " * 60 + "long sentence."), 10, vectors)
        self.assertTrue(only.kept)

    def test_what_says_the_same_twice_is_kept_once_where_something_else_fits(self):
        text = "Lamps are easy to mend at home. Lamps are easy to mend at home. Radios need patience and a warm iron."
        chosen = choose(sentences_of(text), 2 * seconds_of("Lamps are easy to mend at home.") + 1, bag)
        self.assertEqual([each.kept for each in chosen], [True, False, True])

    @settings(max_examples=40, deadline=None)
    @given(
        st.lists(
            st.sampled_from(
                (
                    "It is so.",
                    "And then?",
                    "We mended a lamp.",
                    "Never buy a new radio again, never.",
                    "He left.",
                    "Three things:",
                )
            ),
            min_size=1,
            max_size=14,
        ),
        st.floats(3, 60),
    )
    def test_any_text_is_chosen_from_within_its_length(self, written, seconds):
        sentences = tuple(Sentence(text=each, said=each) for each in written)
        chosen = choose(sentences, seconds, bag)
        kept = [each for each in chosen if each.kept]
        self.assertTrue(kept)
        if len(kept) > 1:
            self.assertLessEqual(sum(seconds_of(each.said) for each in kept), OVER * seconds + 1e-6)


def kept_of(*given: tuple[str, str]) -> list[Sentence]:
    return [Sentence(text=text, said=text, kind=kind, part=n // 2) for n, (kind, text) in enumerate(given)]


class Thoughts(unittest.TestCase):
    def test_short_sentences_of_a_paragraph_are_seen_together_and_lists_one_by_one(self):
        kept = kept_of(
            ("text", "Take the kettle."), ("text", "It leaks."), ("item", "Good light"), ("item", "Time"),
            ("text", "This sentence is long enough to be looked at by itself, surely."), ("text", "So is this one, which says even more of it all."),
        )  # fmt: skip
        self.assertEqual(
            [(each.first, each.last) for each in thoughts_of(kept)], [(0, 1), (2, 2), (3, 3), (4, 4), (5, 5)]
        )

    def test_no_picture_is_shown_twice_and_together_they_fit_best(self):
        thoughts = [Thought(n, n, text, "text") for n, text in enumerate(("clock radio", "clock", "radio lamp"))]
        means = bag(["clock", "radio", "boat"])
        found = pictures_for(thoughts, means, bag)
        self.assertEqual(found, [1, 0, None] if found[2] is None else [None, 0, 1])
        self.assertEqual(found[1], 0, "the one that fits nothing else has its own")
        read = [each._replace(kind="item") for each in thoughts]
        self.assertEqual(pictures_for(read, means, bag), [None] * 3)
        self.assertEqual(pictures_for(thoughts, np.zeros((0, 64), np.float32), bag), [None] * 3)

    def test_another_one_is_the_next_best_and_comes_round(self):
        means = bag(["clock clock bell", "clock bell bell", "clock", "boat"])
        shown, seen = None, []
        for _ in range(4):
            shown = next_best("clock", means, [], shown, bag)
            seen.append(shown)
        self.assertEqual(seen[:1] + sorted(seen[1:3]) + seen[3:], [2, 0, 1, 2])
        self.assertIsNone(next_best("clock", means, [0, 1, 2], None, bag))

    def test_slides_say_the_figure_the_item_the_quotation_or_how_it_begins(self):
        said = {text: lettering(Thought(0, 0, text, kind)) for kind, text in (
            ("text", "We mended 68% of them."), ("text", "It cost €1.2 million in all."), ("item", "Good light"), ("quotation", "“It is a spring.”"),
            ("text", "What stops people is not the money, it is that nobody ever showed them how to open it, not even once in their lives."),
        )}  # fmt: skip
        self.assertEqual(
            [each.text for each in said.values()],
            [
                "68%",
                "€1.2 million",
                "Good light",
                "It is a spring.",
                "What stops people is not the money, it is that nobody ever showed them how to open it",
            ],
        )
        self.assertEqual(
            [each.template for each in said.values()], ["number", "number", "slide-book", "quote", "slide"]
        )


def spoken_in(sentences: list[str], start: float = 0.5) -> tuple[Transcript, list[tuple[int, int]]]:
    """A transcript of sentences with pauses between them, and the first and last word (ids) of each."""
    words, ends, at = [], [], start
    for sentence in sentences:
        first = len(words) + 1
        for text in sentence.split():
            words.append(Word(id=len(words) + 1, text=text, start=round(at, 3), end=round(at + 0.3, 3)))
            at += 0.35
        ends.append((first, len(words)))
        at += 0.35
    return Transcript(duration=round(at + 1, 3), words=tuple(words)), ends


VOICE = ["We mend old things here.", "It takes half an hour.", "Come and see."]


class LaidCase(unittest.TestCase):
    """A clip of three sentences that a voice read."""

    def setUp(self):
        self.transcript, ends = spoken_in(VOICE)
        desk = desk_sheet("voice", self.transcript.duration)
        self.sheet = sheet_of_pieces([passage(desk, self.transcript, *each) for each in ends])
        self.transcripts = {"voice": self.transcript}
        self.thoughts = [Thought(0, 0, VOICE[0], "text"), Thought(1, 2, " ".join(VOICE[1:]), "text")]

    def lay(self, *things, title="Mend it", music="tune", card="bench.example") -> Sheet:
        return apply(
            self.sheet, laid(self.sheet, self.transcripts, Drafted(self.thoughts, things, title, music, card), RATE)
        )

    def contents(self, sheet: Sheet, kind: type) -> list:
        return [layer for layer in sheet.layers if isinstance(layer.content, kind)]


class Laying(LaidCase):
    def test_a_picture_for_each_thought_a_title_music_and_a_card(self):
        sheet = self.lay("lamp", "clock")
        places = Places(sheet, self.transcripts)
        broll = self.contents(sheet, Broll)
        self.assertEqual([each.content.media for each in broll], ["lamp", "clock"])
        self.assertEqual([places.kept(each.span) for each in broll], [(0, 4), (5, 12)])
        self.assertEqual(len({each.content.move for each in broll}), 2, "not all stills move alike")
        (title,) = self.contents(sheet, Title)
        self.assertEqual((title.content.text, places.kept(title.span)), ("Mend it", (0, 4)))
        (music,) = self.contents(sheet, Sound)
        self.assertTrue(music.span.is_whole)
        self.assertEqual(music.content.ends, "fitted", "it ends with the clip")
        self.assertEqual((sheet.pieces[-1].is_gap, sheet.pieces[-1].end - sheet.pieces[-1].start), (True, CARD))
        (card,) = self.contents(sheet, Slide)
        self.assertEqual(card.content.text, "bench.example")

    def test_where_nothing_fits_a_slide_stands_and_the_first_says_the_title(self):
        sheet = self.lay(None, None, music="", card="")
        self.assertEqual(
            [each.content.text for each in self.contents(sheet, Slide)],
            ["It takes half an hour. Come and see.", "Mend it"],
        )
        self.assertEqual((self.contents(sheet, Title), self.contents(sheet, Sound), len(sheet.pieces)), ([], [], 3))

    def test_a_slide_stands_for_all_of_the_first_thought_with_and_without_a_title_of_the_house(self):
        self.thoughts = [Thought(0, 1, " ".join(VOICE[:2]), "text"), Thought(2, 2, VOICE[2], "text")]
        for layers in ((), (Layer(id="l1", content=Title(text="Bench Notes")),)):
            self.sheet = with_changes(self.sheet, layers=layers)
            sheet = self.lay(None, "clock", music="", card="")
            (slide,) = self.contents(sheet, Slide)
            self.assertEqual(Places(sheet, self.transcripts).kept(slide.span), (0, 9))
            self.assertEqual(slide.content.text == "Mend it", not layers)

    def test_what_a_house_style_has_laid_is_not_laid_again(self):
        self.sheet = with_changes(
            self.sheet,
            layers=(Layer(id="l1", content=Title(text="Bench Notes")), Layer(id="l2", content=Sound(media="own"))),
        )
        sheet = self.lay("lamp", "clock")
        self.assertEqual([each.content.text for each in self.contents(sheet, Title)], ["Bench Notes"])
        self.assertEqual([each.content.media for each in self.contents(sheet, Sound)], ["own"])
        self.assertEqual(len({each.id for each in sheet.layers}), len(sheet.layers))


class Exchanging(LaidCase):
    def setUp(self):
        super().setUp()
        self.sheet = self.lay("lamp", "clock")
        self.own, self.ends = spoken_in(["It takes about half an hour of your evening."], 2.0)
        self.transcripts["own"] = self.own

    def exchange(self, piece: str = "p2") -> Sheet:
        instead = Instead(piece, desk_sheet("own", self.own.duration), *self.ends[0])
        return apply(self.sheet, exchanged(self.sheet, self.transcripts, [instead]))

    def words(self, sheet: Sheet, layer: Layer) -> str:
        places = Places(sheet, self.transcripts)
        first, last = places.kept(layer.span) or (0, -1)
        return " ".join(spot.word.text for spot in places.spots[first : last + 1] if spot.word)

    def test_another_sentence_stands_in_its_place_and_what_lies_over_it_stays(self):
        sheet = self.exchange()
        self.assertEqual([piece.recording for piece in sheet.pieces], ["voice", "own", "voice", None])
        broll = self.contents(sheet, Broll)
        self.assertEqual(
            [self.words(sheet, each) for each in broll],
            [VOICE[0], "It takes about half an hour of your evening. Come and see."],
        )

    def test_part_of_a_sentence_keeps_its_words(self):
        places = Places(self.sheet, self.transcripts)
        half, hour = (WordRef(origin="p2", word=n) for n in (8, 10))
        layer = Layer(id="l9", span=places.over(half, hour), content=Title(text="Half an hour"))
        self.sheet = with_changes(
            self.sheet,
            layers=(*self.sheet.layers, layer),
            keywords=(hour,),
            breaks=(CaptionBreak(word=half, how="caption"),),
        )
        sheet = self.exchange()
        self.assertEqual(self.words(sheet, sheet.layers[-1]), "half an hour")
        origin = sheet.pieces[1].origin
        told = {each.id: each.text for each in self.own.words}
        self.assertEqual([told[each.word] for each in sheet.keywords if each.origin == origin], ["hour"])
        self.assertEqual([told[each.word.word] for each in sheet.breaks if each.word.origin == origin], ["half"])

    def test_a_sentence_that_is_gone_is_told(self):
        with self.assertRaisesRegex(EditError, "no longer on the sheet"):
            self.exchange("p9")

    def test_what_reaches_beyond_a_piece_whose_origin_is_elsewhere_too_stays_there(self):
        shared = with_changes(self.sheet.pieces[2], origin="p2")
        run = Run(origin="p2", start=self.sheet.pieces[1].start, end=shared.end)
        layer = Layer(id="l9", span=Span(runs=(run,)), content=Title(text="Both"))
        self.sheet = with_changes(self.sheet, pieces=(*self.sheet.pieces[:2], shared), layers=(layer,))
        self.assertEqual(self.exchange().layers[0].span.runs, (run,))


if __name__ == "__main__":
    unittest.main()
