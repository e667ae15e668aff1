"""The proof: a clip with one of each fault. Each is found, each fix removes its fault and makes no other."""

import unittest
from collections.abc import Callable
from dataclasses import replace

import numpy as np

from hovvet.core.captions.style import STYLES
from hovvet.core.compile.kit import EVERYBODYS
from hovvet.core.compile.source import Source
from hovvet.core.media.info import MediaInfo
from hovvet.core.picture.faces import Faces, Track
from hovvet.core.picture.strip import Strip
from hovvet.core.plan.outlets import OUTLETS
from hovvet.core.proof.checks import CHECKS
from hovvet.core.proof.fault import Fault
from hovvet.core.proof.looked import Looked, looked_at
from hovvet.core.proof.measured import Measured
from hovvet.core.proof.proofing import proof, stopping
from hovvet.core.sheet.contents.base import Content
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.punch import Punch
from hovvet.core.sheet.contents.sound import Sound
from hovvet.core.sheet.contents.sticker import Sticker
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.contents.wording import Wording
from hovvet.core.sheet.edits import BringBack, CutWords, Edit, PutLayer
from hovvet.core.sheet.model import Edition, Layer, Piece, Sheet, Span, WordRef
from hovvet.core.sheet.places import Places
from hovvet.core.sheet.upgrade import read_edit
from hovvet.core.shelf.used import OnShelf
from hovvet.core.sound.energy import Energy
from hovvet.core.time import Rate
from hovvet.core.value import with_changes
from hovvet.core.words.corrections import Rewrite, correct
from hovvet.core.words.glossary import Term
from hovvet.core.words.transcript import Transcript, Word

TEXT = (
    "Kettles that hum are sound and stay useful. Lamps flicker when their plugs grow tired of waiting. "
    "Nobody here throws away something that could be mended. Bring yours along before winter comes around again. "
    "We open at six and close when it works."
)
FILM = MediaInfo(duration=40, has_picture=True, has_sound=True, width=1920, height=1080, rate=Rate(num=30, den=1))
SMALL = with_changes(FILM, width=320, height=180)
SOFT = with_changes(FILM, width=512, height=288)  # a closer view would show too few of its pixels
MUSIC = MediaInfo(duration=60, has_picture=False, has_sound=True)


def said(text: str, sure: float = 0.95) -> Transcript:
    """A text at an even pace, with a rest after each sentence."""
    words, at = [], 0.2
    for n, each in enumerate(text.split()):
        words.append(Word(id=n + 1, text=each, start=round(at, 3), end=round(at + 0.32, 3), confidence=sure))
        at += 0.4 + (0.3 if each.endswith(".") else 0.0)
    return Transcript(duration=max(at, 40.0), words=tuple(words))


def loud(spans: list[tuple[float, float]], seconds: float, lufs: float = -20.0) -> Energy:
    """A sound that is so loud within some spans, and very soft outside."""
    power = np.full(int(seconds * 100), 1e-8, np.float32)
    for start, end in spans:
        power[int(start * 100) : int(end * 100)] = 10 ** ((lufs + 0.691) / 10)
    return Energy(power, np.sqrt(power).astype(np.float32))


def face(across: float = 0.5) -> Faces:
    """Somebody who sits still at the top."""
    looks = 90
    track = Track(first=0, x=(across,) * looks, y=(0.3,) * looks, side=(0.08,) * looks, moved=(0.0,) * looks)
    return Faces(times=tuple(n / 2 for n in range(looks)), tracks=(track,))


def spoken(text: str = TEXT, media: MediaInfo = FILM, across: float = 0.5, sure: float = 0.95) -> Source:
    """A recording in which somebody says a text."""
    words = said(text, sure)
    return Source(words, media, None, face(across), loud([(w.start, w.end) for w in words.words], 40))


def clip(
    source: Source | None = None, *contents: tuple[Content, int, int], outlet: str = "square", **more: object
) -> Looked:
    """A clip of all words of a recording but for what is given; contents lie over words (0, 0: all of it)."""
    source = source or spoken()
    words = source.transcript.words
    piece = Piece(id="p1", recording="r", start=0.0, end=round(words[-1].end + 0.2, 3))
    sheet = Sheet(
        pieces=more.pop("pieces", (piece,)),
        editions=(Edition(id="e1", outlet=outlet, dressing=more.pop("dressing", "dressed")),),
        style=with_changes(STYLES["bold"], height=0.9),
    )
    music = Source(Transcript(duration=60), MUSIC, energy=loud([(0, 60)], 60))
    film = Source(Transcript(duration=40), FILM, energy=loud([], 40))
    sources = {"r": source, "music": music, "film": film}
    places = Places(sheet, {"r": source.transcript})
    laid = [(Framing(mode="fill"), 0, 0), *contents]
    layers = []
    for n, (content, first, last) in enumerate(laid):
        over = Span()
        if first:
            refs = (WordRef(origin="p1", word=word) for word in (first, last))
            over = places.over(*refs)
        layers.append(Layer(id=f"l{n}", span=over, content=content))
    sheet = with_changes(sheet, layers=tuple(layers), **more)
    kit = replace(
        EVERYBODYS,
        pictures={"still": (1920, 1080)},
        stickers={"mark": Strip(400, 200)},
        outlets=OUTLETS | {"tiny": with_changes(OUTLETS["square"], key="tiny", longest=8.0, file_limit=1_000_000)},
    )
    return looked_at(sheet, sheet.editions[0], kit, sources)


def cut(looked: Looked, *edits: Edit) -> Looked:
    """The same, edited."""
    return looked.with_edits(*edits)


def in_file(looked: Looked, **measured: object) -> Looked:
    """The same, with a finished file."""
    return replace(looked, file=Measured(**{"lufs": -14.0, "peak": -1.6, "bytes": 900_000} | measured))


def cornered() -> Looked:
    """Two titles that a person put over one another."""
    return clip(None, (Title(text="One", height=0.5), 1, 8), (Title(text="Two", height=0.5), 4, 12))


def hidden(piece: Piece) -> Looked:
    """A clip of two pieces, of which one's recording is gone."""
    return clip(None, pieces=(Piece(id="p1", recording="r", start=0.0, end=17.0), piece))


def partly(start: float, end: float) -> Looked:
    """A part of the recording."""
    return clip(None, pieces=(Piece(id="p1", recording="r", start=start, end=end),))


def slow() -> Looked:
    """With two seconds before a word."""
    words = said(TEXT).words
    late = tuple(w if w.id < 20 else with_changes(w, start=w.start + 2, end=w.end + 2) for w in words)
    transcript = Transcript(duration=40, words=late)
    return clip(
        Source(transcript, FILM, None, face(), loud([(w.start, w.end) for w in late], 40)),
        (Broll(media="film"), 17, 23),
    )


def quick() -> Looked:
    """With some words twice as fast as one can read, and time after them."""
    words = []
    for word in said(TEXT).words:
        by = 0.0 if word.id < 9 else 1.5
        words.append(with_changes(word, start=word.start + by, end=word.end + by))
    for n in range(4, 9):
        start = words[3].end + (n - 4) * 0.11
        words[n - 1 + 0] = with_changes(
            words[n - 1], text="extraordinarily" + ("." if n == 8 else ""), start=start, end=start + 0.1
        )
    transcript = Transcript(duration=40, words=tuple(words))
    return clip(Source(transcript, FILM, None, face(), loud([(w.start, w.end) for w in words], 40)))


def softly() -> Looked:
    """With a sentence that is hardly heard."""
    source = spoken()
    words = source.transcript.words
    power = source.energy.power.copy()
    power[int(words[8].start * 100) : int(words[16].end * 100)] *= 10**-1.6
    return clip(replace(source, energy=Energy(power, np.sqrt(power))))


def shouted() -> Looked:
    """With a sentence much louder than the rest."""
    source = spoken()
    words = source.transcript.words
    power = source.energy.power.copy()
    power[int(words[8].start * 100) : int(words[16].end * 100)] *= 10**1.2
    return clip(replace(source, energy=Energy(power, np.sqrt(power) / 40)))


# The check, and clips in which it finds something.
CASES: dict[str, Callable[[], Looked]] = {
    "licence": lambda: replace(
        clip(None, (Broll(media="still"), 9, 14)), shelf=[OnShelf("still", "Gears", 100, refusal="its licence ended")]
    ),
    "credit": lambda: replace(
        clip(None, (Broll(media="still"), 9, 14)), shelf=[OnShelf("still", "Gears", 100, credit="“Gears” by Maren")]
    ),
    "gone": lambda: hidden(Piece(id="p2", recording="lost", start=0, end=3)),
    "too_long": lambda: clip(None, outlet="tiny"),
    "too_large": lambda: in_file(clip(spoken(TEXT[:77]), outlet="tiny"), bytes=1_200_000),
    "sentence": lambda: partly(1.35, 17.2),
    "within_word": lambda: partly(0.27, 17.2),
    "left_in": lambda: clip(spoken(TEXT.replace("when their", "um, when when their")), (Broll(media="film"), 8, 15)),
    "pause": slow,
    "unsure": lambda: clip(replace(spoken(), transcript=with_changes(
        said(TEXT), words=tuple(with_changes(w, confidence=0.2) if w.id in (4, 5) else w for w in said(TEXT).words)
    ))),
    "near_term": lambda: replace(
        clip(spoken(TEXT.replace("Kettles", "Quilhaven"))), terms={"r": [Term(text="Quillhaven")]}
    ),
    "fast": quick,
    "short": lambda: clip(None, breaks=tuple(
        {"word": WordRef(origin="p1", word=n), "how": "caption"} for n in (5, 6)
    )),
    "off_safe": lambda: clip(None, style=with_changes(STYLES["bold"], height=0.9, size=280, smallest=280)),
    "over_face": lambda: clip(None, style=with_changes(STYLES["bold"], height=0.2)),
    "over_screen": lambda: clip(None, (Sticker(media="mark", across=0.5, down=0.85), 4, 12)),
    "letters": lambda: clip(spoken(TEXT.replace("useful.", "\U0001F9FFuse."))),
    "uncaptioned": lambda: clip(None, (Wording(hidden=True), 9, 12)),
    "title_over_face": lambda: clip(None, (Title(text="In front of them", height=0.2), 9, 14)),
    "screen_off_safe": lambda: clip(None, (Sticker(media="mark", across=0.95, down=0.5), 4, 12)),
    "overlap": cornered,
    "noted": lambda: clip(None, (Sound(media="nothing"), 9, 14)),
    "loudness": lambda: in_file(clip(), lufs=-17.0),
    "peak": lambda: in_file(clip(), peak=-0.2),
    "quiet": softly,
    "loud": shouted,
    "silence": lambda: cut(clip(None, (Title(text="A card"), 20, 24)), *_gap()),
    "music": lambda: clip(None, (Sound(media="music", volume=-3.0, under=0.0), 0, 0)),
    "click": lambda: in_file(cut(clip(), CutWords(piece="p1", words=(12,))), clicks=(4.0,)),
    "enlarged": lambda: clip(spoken(media=SMALL)),
    "jump": lambda: cut(clip(), CutWords(piece="p1", words=(12, 13))),
    "unseen": lambda: clip(spoken(across=0.95)),
    "twice": lambda: clip(None, (Broll(media="still"), 9, 12), (Broll(media="still"), 20, 24)),
    "black": lambda: in_file(clip(None, (Broll(media="film"), 9, 14)), black=((4.0, 5.5),)),
    "still": lambda: in_file(clip(None, (Broll(media="film"), 9, 14)), still=((4.0, 6.3),)),
    "flashes": lambda: in_file(clip(None, (Broll(media="film"), 9, 14)), flashes=((4.0, 5.5),)),
    "opening": lambda: clip(spoken(across=0.95), dressing="dressed", captions=None, style=None),
}  # fmt: skip


def _gap() -> tuple[Edit, ...]:
    """Three seconds of nothing at the end."""
    insert = {"type": "insert_pieces", "pieces": [{"id": "g1", "recording": None, "start": 0, "end": 3}]}
    return (read_edit(insert),)


def found(looked: Looked) -> dict[str, list[Fault]]:
    """What is found, by check."""
    by: dict[str, list[Fault]] = {}
    for fault in proof(looked):
        by.setdefault(fault.check, []).append(fault)
    return by


def fixed(looked: Looked, fix) -> Looked:
    """A clip with a fix of it applied, the words of its recordings included."""
    sources = dict(looked.sources)
    for rewriting in fix.rewrites:
        source = sources[rewriting.recording]
        transcript = correct(source.transcript, Rewrite(changes=(rewriting.change,), fresh=1000))
        sources[rewriting.recording] = replace(source, transcript=transcript)
    after = looked.with_edits(*fix.edits) if fix.edits else looked
    gone = {each.layer for each in fix.edits if each.type == "remove_layer"}
    left = [
        each
        for each in looked.shelf
        if not any(layer.id in gone and each.media in layer.content.media_shown for layer in looked.sheet.layers)
    ]
    return looked_at(after.sheet, after.edition, after.kit, sources, replace(after, shelf=left))


class Proof(unittest.TestCase):
    def test_nothing_is_wrong_with_a_clip_with_which_nothing_is_wrong(self):
        self.assertEqual(proof(clip()), [])
        self.assertEqual(proof(in_file(clip())), [])

    def test_there_is_a_case_for_every_check(self):
        self.assertEqual(set(CASES), set(CHECKS))

    def test_each_fault_is_found_at_its_place(self):
        for key, made in CASES.items():
            with self.subTest(key):
                looked = made()
                faults = found(looked).get(key)
                self.assertTrue(faults, f"not found among {list(found(looked))}")
                for fault in faults or ():
                    self.assertTrue(fault.says.strip())
                    if fault.where:
                        self.assertLessEqual(0, fault.where.start)
                        self.assertLessEqual(fault.where.start, fault.where.end)
                        self.assertLessEqual(fault.where.end, looked.plan.seconds + 3)

    def test_each_fix_removes_its_fault_and_makes_no_other(self):
        tried = 0
        for key, made in CASES.items():
            looked = made()
            before = {fault.key for fault in proof(looked)}
            for fault in found(looked)[key]:
                for fix in fault.fixes:
                    tried += 1
                    with self.subTest(key, fix=fix.label):
                        after = {each.key for each in proof(fixed(looked, fix))}
                        self.assertNotIn(fault.key, after)
                        self.assertLessEqual(after, before, f"{fix} made {after - before}")
        self.assertGreaterEqual(tried, 34)

    def test_a_jump_is_hidden_by_a_closer_view_only_where_the_picture_has_the_pixels(self):
        for media, label in ((FILM, "Zoom in from there"), (SOFT, "Crossfade there")):
            looked = cut(clip(spoken(media=media)), CutWords(piece="p1", words=(12, 13)))
            (fault,) = found(looked)["jump"]
            self.assertEqual(fault.fixes[0].label, label)
            self.assertEqual(proof(fixed(looked, fault.fixes[0])), [])

    def test_a_fault_keeps_its_name_while_other_things_change(self):
        looked = CASES["left_in"]()
        before = {fault.key for fault in proof(looked)}
        later = cut(looked, CutWords(piece="p1", words=(30,)), BringBack(piece="p1", words=(30,)))
        titled = cut(looked, PutLayer(layer=Layer(id="t", span=Span(), content=Punch())))
        for other in (later, titled):
            self.assertLessEqual(before, {fault.key for fault in proof(other)} | {""})

    def test_only_what_may_not_be_shown_keeps_a_clip_from_being_exported(self):
        stops = {key for key, made in CASES.items() if stopping(made())}
        self.assertEqual(stops, {"licence"})

    def test_a_clip_of_nothing_has_no_faults(self):
        looked = clip()
        words = tuple(word.id for word in looked.sources["r"].transcript.words)
        self.assertEqual(proof(cut(looked, CutWords(piece="p1", words=words))), [])


if __name__ == "__main__":
    unittest.main()
