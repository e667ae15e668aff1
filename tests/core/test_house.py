"""House styles: taken from one clip, laid onto others; what a person has changed since stays theirs."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from hovvet.core.captions.layout import CaptionLayout
from hovvet.core.compile.kit import EVERYBODYS
from hovvet.core.compile.repairs import repaired_house
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile
from hovvet.core.compile.target import Target
from hovvet.core.media.info import MediaInfo
from hovvet.core.plan.outlets import OUTLETS
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.logo import Logo
from hovvet.core.sheet.contents.marker import Marker
from hovvet.core.sheet.contents.progress import Progress
from hovvet.core.sheet.contents.slide import Slide
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.contents.voices import SpeakerLevel, Voices
from hovvet.core.sheet.contents.wording import Wording
from hovvet.core.sheet.edits import CutWords, PutLayer, RemoveLayer, RemovePiece, SetLayout, TrimPiece
from hovvet.core.sheet.house import Card, HouseStyle, house_of
from hovvet.core.sheet.house_laying import changes, dress, wear
from hovvet.core.sheet.model import Edition, Layer, Piece, Sheet, Span, WordRef
from hovvet.core.sheet.places import Places
from hovvet.core.sheet.shapes import Shape, shapes_edit
from hovvet.core.words.glossary import Term
from hovvet.core.words.transcript import Speaker
from tests.media import even_words

TALK = even_words(60).model_copy(
    update={"speakers": (Speaker(key="S1", name="Maren"), Speaker(key="S2", name="Tolliver"))}
)
TALK = TALK.model_copy(
    update={"words": tuple(w.model_copy(update={"speaker": "S1" if w.id <= 20 else "S2"}) for w in TALK.words)}
)
TRANSCRIPTS = {"r1": TALK}
EDITIONS = (Edition(id="e1"), Edition(id="e2", outlet="square"), Edition(id="e3", outlet="wide", dressing="captioned"))
HOUSE = HouseStyle(
    laid=(Logo(media="m1"), Progress(colour="#C2412D"), Title(text="x", template="header")),
    hook=Title(text="x", template="tape"),
    names=Title(text="x", template="name-card"),
    editions=EDITIONS,
)


def clip(**parts: object) -> Sheet:
    return Sheet(pieces=(Piece(id="p1", recording="r1", start=0.0, end=20.0),), **parts)


def dressed(sheet: Sheet, house: HouseStyle = HOUSE, version: int = 1, title: str = "A clock") -> Sheet:
    return apply(sheet, dress(sheet, house, "own-1", version, title, TRANSCRIPTS))


def layer(sheet: Sheet, name: str) -> Layer | None:
    return next((each for each in sheet.layers if each.id == name), None)


class Dressing(unittest.TestCase):
    def test_all_of_it_is_laid_and_says_what_the_clip_and_its_people_are_called(self):
        made = dressed(clip())
        names = [each.id for each in made.layers]
        self.assertEqual(
            names, ["house-logo-1", "house-progress-1", "house-title-1", "house-hook", "house-name-1", "house-name-2"]
        )
        self.assertEqual(
            [layer(made, name).content.text for name in names[2:]], ["A clock", "A clock", "Maren", "Tolliver"]
        )
        self.assertEqual([(e.id, e.outlet, e.dressing) for e in made.editions],
                         [("e1", "tall", "dressed"), ("e2", "square", "dressed"), ("e3", "wide", "captioned")])  # fmt: skip
        places = Places(made, TRANSCRIPTS)
        self.assertEqual(places.kept(layer(made, "house-hook").span)[0], 0)
        begins = places.kept(layer(made, "house-name-2").span)[0]
        self.assertEqual(places.spots[begins].word.id, 21, "at their first words")

    def test_a_style_taken_from_a_dressed_clip_is_that_style(self):
        made = dressed(clip())
        taken = house_of(made, Places(made, TRANSCRIPTS))
        self.assertEqual(dressed(clip(), taken).layers, made.layers)
        self.assertEqual(taken.editions, EDITIONS)
        noted = apply(made, PutLayer(layer=Layer(id="n1", content=Marker(note="look"))))
        self.assertEqual(house_of(noted, Places(noted, TRANSCRIPTS)), taken, "notes are of the clip alone")
        levels = Voices(amounts=(SpeakerLevel(speaker="S1", volume=3.0),))
        voiced = apply(made, PutLayer(layer=Layer(id="n1", content=levels)))
        self.assertEqual(house_of(voiced, Places(voiced, TRANSCRIPTS)), taken, "so are the levels of its speakers")

    @given(words=st.lists(st.tuples(st.integers(1, 30), st.integers(0, 9)), max_size=4), version=st.integers(1, 3))
    def test_a_style_just_kept_changes_nothing_on_its_own_clip(self, words, version):
        templates = ("plate", "name-card", "tape", "header")
        sheet = clip(captions="calm")
        places = Places(sheet, TRANSCRIPTS)
        for n, (first, more) in enumerate(words):
            over = places.over(places.spots[first].ref, places.spots[min(first + more, len(places.spots) - 1)].ref)
            title = Title(text=f"Title {n}", template=templates[n])
            sheet = apply(sheet, PutLayer(layer=Layer(id=f"l{n}", span=over if n < 3 else Span(), content=title)))
        terms = (Term(text="Quillhaven", heard=("w6",)),)
        for key in ("own-1", "own-2"):  # the second time it wears another one already
            style = house_of(sheet, Places(sheet, TRANSCRIPTS), terms)
            sheet = apply(sheet, wear(sheet, style, key, version, "A clock", TRANSCRIPTS))
            self.assertEqual(changes(sheet, dress(sheet, style, key, version, "A clock", TRANSCRIPTS), OUTLETS), [])

    def test_a_title_of_ones_own_over_the_first_words_stays_the_only_one(self):
        sheet, places = clip(), Places(clip(), TRANSCRIPTS)
        over = places.over(places.spots[0].ref, places.spots[5].ref)
        for template, there in (("plate", False), ("name-card", True)):
            own = Layer(id="l9", span=over, content=Title(text="Mine", template=template))
            made = dressed(apply(sheet, PutLayer(layer=own)))
            self.assertEqual(layer(made, "house-hook") is not None, there, template)
            self.assertEqual(layer(made, "house-name-1") is None, there)
            self.assertEqual(layer(made, "l9"), own)

    def test_dressed_again_it_is_as_the_style_is_now(self):
        made = dressed(clip())
        self.assertEqual(dressed(made), made)
        newer = HOUSE.model_copy(update={"laid": (Logo(media="m2"), HOUSE.laid[2]), "hook": None})
        again = dressed(made, newer, 2, "A kettle")
        self.assertEqual(layer(again, "house-logo-1").content.media, "m2")
        self.assertEqual(layer(again, "house-title-1").content.text, "A kettle")
        self.assertIsNone(layer(again, "house-progress-1"))
        self.assertIsNone(layer(again, "house-hook"))
        self.assertEqual(again.house.version, 2)

    @given(st.sets(st.sampled_from(["logo-1", "progress-1", "title-1", "hook", "name-1"])),
           st.sets(st.sampled_from(["logo-1", "progress-1", "title-1", "hook", "name-1"])))  # fmt: skip
    def test_what_a_person_changed_or_took_off_stays_so(self, changed, taken_off):
        made, own = dressed(clip()), {}
        for name in sorted(changed | taken_off):
            there = layer(made, f"house-{name}")
            if name in taken_off:
                made = apply(made, RemoveLayer(layer=there.id))
                continue
            part = {"size": 0.5} if "size" in type(there.content).model_fields else {"thickness": 0.02}
            own[there.id] = there.model_copy(update={"content": there.content.model_copy(update=part)})
            made = apply(made, PutLayer(layer=own[there.id]))
        newer = HOUSE.model_copy(update={"laid": (Logo(media="m2"), Progress(colour="#47713F"), HOUSE.laid[2])})
        again = dressed(made, newer, 2)
        for name in taken_off:
            self.assertIsNone(layer(again, f"house-{name}"))
        for name, there in own.items():
            self.assertEqual(layer(again, name), there)
        if not {"logo-1"} & (changed | taken_off):
            self.assertEqual(layer(again, "house-logo-1").content.media, "m2")

    def test_what_they_laid_themselves_stays_and_moved_layers_stay_where_they_are(self):
        own = (Layer(id="l1", content=Logo(media="mine")), Layer(id="l2", content=Framing(mode="fill")))
        made = dressed(clip(layers=own))
        self.assertEqual((layer(made, "l1"), layer(made, "house-logo-1")), (own[0], None), "no second logo")
        span = Places(made, TRANSCRIPTS).over(WordRef(origin="p1", word=10), WordRef(origin="p1", word=14))
        moved = apply(made, PutLayer(layer=layer(made, "house-hook").model_copy(update={"span": span})))
        again = dressed(moved, HOUSE.model_copy(update={"hook": Title(text="x", template="plate")}), 2)
        self.assertEqual(
            (layer(again, "house-hook").span, layer(again, "house-hook").content.template), (span, "plate")
        )

    def test_captions_are_the_styles_until_a_person_sets_their_own(self):
        house = HOUSE.model_copy(update={"captioning": clip(captions="bold", layout=CaptionLayout(lines=1)).captioning})
        made = dressed(clip(captions=None), house)
        self.assertEqual((made.captions, made.layout.lines), ("bold", 1))
        other = HOUSE.model_copy(update={"captioning": clip(captions=None).captioning})
        self.assertIsNone(dressed(made, other, 2).captions)
        own = apply(made, SetLayout(layout=CaptionLayout(lines=3)))
        self.assertEqual(dressed(own, other, 2).layout.lines, 3)

    def test_a_clip_of_which_nothing_is_heard_can_be_dressed(self):
        made = dressed(Sheet())
        self.assertEqual(len(made.layers), 3)
        self.assertEqual(house_of(made, Places(made, {})).laid[0], HOUSE.laid[0])

    def test_what_is_no_longer_on_the_shelf_is_left_out(self):
        house = HOUSE.model_copy(update={"editions": (Edition(id="e1", outlet="gone"),)})
        made, told = repaired_house(house, EVERYBODYS)
        self.assertIn("outlet", told)
        self.assertEqual(made.editions[0].outlet, "tall")
        self.assertEqual(repaired_house(HOUSE, EVERYBODYS), (HOUSE, ""))
        self.assertEqual(repaired_house(HouseStyle(), EVERYBODYS)[0], HouseStyle())

    def test_it_is_told_in_words(self):
        self.assertEqual(
            HOUSE.told(),
            ["Captions: Bold", "Logo", "Progress bar", "Headline", "Hook title", "Names of speakers", "3 editions"],
        )


class Cards(unittest.TestCase):
    """A card before everything, and one after it, each in a gap of its own."""

    HOUSE = HouseStyle(
        opening=Card(seconds=2, slide=Slide(text="x")), closing=Card(seconds=3, slide=Slide(text="Mend it first"))
    )

    def shown(self, sheet: Sheet) -> list[tuple[str, float]]:
        return [(piece.recording or piece.id, piece.end - piece.start) for piece in sheet.pieces]

    def test_they_stand_at_the_ends_and_the_first_says_what_the_clip_is_called(self):
        made = dressed(clip(), self.HOUSE)
        self.assertEqual(self.shown(made), [("house-opening", 2), ("r1", 20), ("house-closing", 3)])
        texts = [layer(made, name).content.text for name in ("house-opening", "house-closing")]
        self.assertEqual(texts, ["A clock", "Mend it first"])
        taken = house_of(made, Places(made, TRANSCRIPTS))
        self.assertEqual((taken.opening.seconds, taken.closing), (2, self.HOUSE.closing), "taken from it again")
        self.assertEqual(dressed(made, self.HOUSE), made, "dressed again nothing is doubled")

    def test_they_are_as_long_as_the_style_has_them_unless_a_person_changed_that(self):
        longer = self.HOUSE.model_copy(update={"opening": Card(seconds=5, slide=Slide(text="x"))})
        made = dressed(clip(), self.HOUSE)
        self.assertEqual(self.shown(dressed(made, longer, 2))[0], ("house-opening", 5))
        own = apply(made, TrimPiece(piece="house-opening", start=0, end=4))
        self.assertEqual(self.shown(dressed(own, longer, 2))[0], ("house-opening", 4))

    def test_one_taken_off_stays_off_and_one_the_style_no_longer_has_goes_with_its_gap(self):
        made = dressed(clip(), self.HOUSE)
        off = apply(apply(made, RemoveLayer(layer="house-opening")), RemovePiece(piece="house-opening"))
        self.assertEqual(self.shown(dressed(off, self.HOUSE, 2)), [("r1", 20), ("house-closing", 3)])
        self.assertEqual(self.shown(dressed(made, HouseStyle(), 2)), [("r1", 20)])

    def test_a_card_of_ones_own_stays_the_only_one(self):
        own = dressed(clip(), self.HOUSE).model_copy(update={"house": None})
        other = HouseStyle(closing=Card(seconds=6, slide=Slide(text="Other")))
        made = apply(own, dress(own, other, "own-2", 1, "A clock", TRANSCRIPTS))
        self.assertEqual(self.shown(made), self.shown(own))

    def test_they_can_be_seen(self):
        made = dressed(clip(), self.HOUSE)
        plan = compile(
            made,
            {"r1": Source(TALK, MediaInfo(duration=TALK.duration, has_picture=False, has_sound=True))},
            Target(OUTLETS["tall"]),
        )
        self.assertEqual(plan.frames, plan.rate.frame(25))
        self.assertIn("}Mend", plan.script)


class NamesAndTerms(unittest.TestCase):
    HOUSE = HouseStyle(terms=(Term(text="Quillhaven", heard=("w7 w8",)), Term(text="W30"), Term(text="w9")))

    def test_captions_write_them_as_the_style_does(self):
        made = dressed(clip(), self.HOUSE)
        places = Places(made, TRANSCRIPTS)
        laid = {
            tuple(places.spots[n].word.id for n in places.kept(each.span)): each.content.text for each in made.layers
        }
        self.assertEqual(laid, {(7, 8): "Quillhaven", (30, 30): "W30"}, "what is right already stays")

    def test_where_words_are_cut_or_a_person_wrote_otherwise_nothing_is_laid(self):
        cut = apply(clip(), CutWords(piece="p1", words=(8,)))
        self.assertEqual([each.content.text for each in dressed(cut, self.HOUSE).layers], ["W30"])
        places = Places(clip(), TRANSCRIPTS)
        over = places.over(WordRef(origin="p1", word=29), WordRef(origin="p1", word=31))
        own = clip(layers=(Layer(id="l1", span=over, content=Wording(text="mine")),))
        self.assertEqual([each.content.text for each in dressed(own, self.HOUSE).layers], ["mine", "Quillhaven"])

    def test_files_are_called_as_it_says(self):
        made = dressed(clip(), HouseStyle(naming="{date} {title}"))
        self.assertEqual(made.house.naming, "{date} {title}")


class Shapes(unittest.TestCase):
    def test_each_that_is_missing_becomes_an_edition_once(self):
        wanted = [
            Shape(outlet="tall"),
            Shape(outlet="square"),
            Shape(outlet="square"),
            Shape(outlet="wide", dressing="plain"),
        ]
        made = apply(clip(), shapes_edit(clip(), wanted))
        self.assertEqual([(each.id, each.outlet, each.dressing) for each in made.editions],
                         [("e1", "tall", "dressed"), ("e2", "square", "dressed"), ("e3", "wide", "plain")])  # fmt: skip
        self.assertEqual(apply(made, shapes_edit(made, wanted)), made)
