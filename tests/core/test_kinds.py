"""Every kind of content there is, through all that can happen to it; and one that this test adds, with no line of the
product changed for it."""

import tempfile
import unittest
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import ClassVar, Literal

import numpy as np
from PIL import Image
from pydantic import TypeAdapter

from hovvet.core.captions.style import caption_style
from hovvet.core.compile.angles import Angle
from hovvet.core.compile.contents import PLACEMENTS, Placement
from hovvet.core.compile.picture import filled
from hovvet.core.compile.scene import Laid, Scene
from hovvet.core.compile.source import Source
from hovvet.core.compile.steps import compile, planned, staged
from hovvet.core.compile.target import Target
from hovvet.core.media.probe import probe
from hovvet.core.picture.strip import Strip
from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import Outlet
from hovvet.core.render.chunks import Script, chunks, text_time
from hovvet.core.render.compositor import Compositor
from hovvet.core.render.mix import mix
from hovvet.core.render.sounds import SoundReader
from hovvet.core.render.sources import Original
from hovvet.core.render.text import Text
from hovvet.core.sheet import asking, edits, house, model
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.asking import Around, Ask, Lay, Move, SplitBefore, edit_for
from hovvet.core.sheet.contents import KINDS
from hovvet.core.sheet.contents.base import Content, Lane
from hovvet.core.sheet.contents.narration import Narration
from hovvet.core.sheet.edits import BringBack, CutWords, Edit
from hovvet.core.sheet.model import Piece, Sheet, WordRef
from hovvet.core.sheet.upgrade import read_edit, read_sheet
from hovvet.core.sound.clearer import clearer_media
from hovvet.core.sound.silence import Levels
from hovvet.core.time import Rate
from hovvet.core.view.rows import bars, rows
from tests.media import counted, even_words, ffmpeg

SMALL = Outlet(key="small", name="Small", width=216, height=384, longest=60, safe=(10, 12, 14, 60))
TALK = even_words(40)
TALK = TALK.model_copy(  # with a pause after the sixteenth word
    update={
        "words": tuple(
            w.model_copy(update={"start": w.start + 1, "end": w.end + 1}) if w.id > 16 else w for w in TALK.words
        )
    }
)
# What has to be chosen before anything of a kind is seen or heard, or what it does where the usual does nothing.
CHOSEN: dict[str, dict[str, object]] = {
    "background": {"light": 100.0, "blue": 60.0, "red": 100.0, "reach": 0.8, "softness": 0.05},
    "broll": {"media": "still"},
    "framing": {"mode": "fill"},
    "transition": {"picture": "dip", "colour": "#FF0000"},
    "logo": {"media": "mark"},
    "look": {"exposure": 1.0},
    "sound": {"media": "r2", "volume": 0.0},
    "sticker": {"media": "mark"},
    "clearer": {"strength": "strong"},
    "narration": {"text": "Said otherwise."},
    "voice_over": {"media": "r2"},
    "voices": {"amounts": ({"speaker": "S1", "volume": -6.0},)},
    "wording": {"text": "Otherwise"},
}
CLEARER = clearer_media("r1", "strong")
SPOKEN = Narration(text="Said otherwise.").spoken[0].media
UNSEEN = ("marker",)  # a note of the person's own
WHEN = {
    "transition": lambda own: own.first,
    "extra_caption": lambda own: own.last + 15,
}  # the frame to look at; else that amid its words


class Patch(Content):
    """A kind that only this test has: a patch of red over its words."""

    kind: Literal["patch"] = "patch"
    lane: ClassVar[Lane] = "picture"
    title: ClassVar[str] = "Patch"


class PatchPlacement(Placement[Patch]):
    """Covers all."""

    def place(self, laid: Laid[Patch], scene: Scene) -> None:
        """Put it over what is there."""
        scene.picture.append(filled(laid.first, laid.last, "#FF0000", ()))


def rebuilt() -> None:
    """Let all that holds content of any kind know which kinds there are now."""
    for each in (
        model.Layer,
        model.Worn,
        model.Sheet,
        asking.Lay,
        edits.PutLayer,
        edits.WearHouse,
        edits.Batch,
        house.HouseStyle,
    ):
        each.model_rebuild(force=True)


del KINDS["patch"], PLACEMENTS[Patch]  # other tests have never heard of it


@contextmanager
def patches() -> Iterator[None]:
    """While there are patches too."""
    KINDS["patch"], PLACEMENTS[Patch] = Patch, PatchPlacement()
    rebuilt()
    try:
        yield
    finally:
        del KINDS["patch"], PLACEMENTS[Patch]
        rebuilt()


class EveryKind(unittest.TestCase):
    """A recording with a picture and a sound, some of its words cut, and what may be laid over it."""

    @classmethod
    def setUpClass(cls) -> None:
        holder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(holder.cleanup)
        folder = Path(holder.name)
        files = {"r1": folder / "r1.mp4", "r2": counted(folder / "r2.mp4", 9, sound="sine=f=990:r=48000")}
        picture, sound = "testsrc2=s=320x180:r=30:d=18", "sine=f=440:r=48000:d=18"
        ffmpeg("-f", "lavfi", "-i", picture, "-f", "lavfi", "-i", sound, "-pix_fmt", "yuv420p", "-g", 30, files["r1"])
        files[CLEARER] = folder / "clearer.wav"
        ffmpeg("-f", "lavfi", "-i", "sine=f=220:r=48000:d=18", files[CLEARER])
        Image.new("RGB", (400, 300), (250, 250, 250)).save(folder / "still.png")
        Image.new("RGBA", (80, 40), (255, 0, 0, 255)).save(folder / "mark.png")
        media = {key: probe(file) for key, file in files.items()}
        cls.sources = {
            "r1": Source(TALK, media["r1"], Levels(np.full(1_800, -20.0)), angles=(Angle(2, "Side", "r2", 0.0),)),
            "r2": Source(even_words(1), media["r2"]),
            CLEARER: Source(TALK, media[CLEARER]),
            SPOKEN: Source(even_words(3), media["r2"]),
        }
        files[SPOKEN], media[SPOKEN] = files["r2"], media["r2"]
        files |= {"still": folder / "still.png", "mark": folder / "mark.png"}
        cls.originals = {key: Original(file, media.get(key, media["r1"]), key) for key, file in files.items()}
        whole = Sheet(pieces=(Piece(id="p1", recording="r1", start=0.0, end=17.0),))
        cls.clip = apply(whole, CutWords(piece="p1", words=(9,)))

    def target(self) -> Target:
        return Target(SMALL, caption_style("bold"), pictures={"still": (400, 300)}, stickers={"mark": Strip(80, 40)})

    def asked(self, sheet: Sheet, ask: Ask) -> Sheet:
        return apply(sheet, edit_for(ask, sheet, Around({"r1": TALK}, Rate(), {})))

    def laid(self, kind: str, over: tuple[int, int] | None = (10, 16)) -> Sheet:
        content = KINDS[kind](**CHOSEN.get(kind, {}))
        refs = [WordRef(origin="p1", word=word) for word in over] if over else [None, None]
        return self.asked(self.clip, Lay(content=content, first=refs[0], last=refs[1]))

    def plan(self, sheet: Sheet) -> Plan:
        return compile(sheet, self.sources, self.target())

    def keys(self, plan: Plan) -> list[str]:
        return [chunk.key for chunk in chunks(plan, str, "e")]

    def frame(self, plan: Plan, n: int) -> np.ndarray:
        """A frame as an export has it, its planes in a row."""
        compositor = Compositor(plan, self.originals)
        planes = [plane.copy() for plane in compositor.frame(n)]
        compositor.close()
        script = Script(plan).of(n, n + 1)
        if script is not None:
            text = Text(script, plan.width, plan.height)
            text.draw(planes, text_time(0, plan.rate))
            text.close()
        return np.concatenate([plane.ravel() for plane in planes]).astype(int)

    def heard(self, plan: Plan) -> np.ndarray:
        made = np.zeros((plan.samples, 2), np.float32)
        files = {key: each.path for key, each in self.originals.items()}
        sounds = plan.model_copy(update={"sound": tuple(each for each in plan.sound if each.media in files)})
        mix(sounds, SoundReader(sounds, files), made)
        return made

    def differs(self, kind: str, sheet: Sheet) -> bool:
        """Whether the clip with it is seen or heard otherwise than the one without it."""
        with_it, without = self.plan(sheet), self.plan(self.clip)
        if with_it.frames != without.frames:
            return True
        scene = staged(sheet, self.sources, self.target())
        (own,) = scene.laid
        amid = WHEN.get(kind, lambda own: (own.first + own.last) // 2)(own)
        for n in (amid, with_it.frames - 1):  # what fades out does so at the end
            if np.abs(self.frame(with_it, n) - self.frame(without, n)).max() > 16:
                return True
        return bool(np.abs(self.heard(with_it) - self.heard(without)).max() > 0.01)

    def check(self, kind: str) -> None:
        for over in ((10, 16), None):
            sheet = self.laid(kind, over)
            (layer,) = sheet.layers
            scene = staged(sheet, self.sources, self.target())
            planned(scene, self.target())
            (bar,) = bars(sheet, scene, rows(sheet, scene))
            self.assertEqual((bar.kind, bar.lane, bar.whole), (kind, KINDS[kind].lane, over is None))
            self.assertTrue(bar.label and bar.end > bar.start >= 0)
            self.assertTrue(layer.content.title)
            self.assertEqual(read_sheet(sheet.model_dump(mode="json")), sheet, "kept and read again")
        sheet = self.laid(kind)
        if kind not in UNSEEN:
            self.assertTrue(self.differs(kind, sheet), "it is neither seen nor heard")
            plain, plan = self.plan(self.clip), self.plan(sheet)
            self.assertTrue(
                self.keys(plan) != self.keys(plain) or plan.sound != plain.sound, "chunks of before are used"
            )
        self.survives(sheet)

    def survives(self, sheet: Sheet) -> None:
        """What is done to its words is done with it, and undone."""
        (layer,) = sheet.layers
        reach = self.over(sheet)
        struck = apply(sheet, CutWords(piece="p1", words=tuple(range(10, 17))))
        self.assertEqual((struck.layers, self.over(struck)), (sheet.layers, None), "it sleeps")
        self.assertEqual(self.over(apply(struck, BringBack(piece="p1", words=tuple(range(10, 17))))), reach)
        moved = self.asked(
            sheet, Move(first=WordRef(origin="p1", word=10), last=WordRef(origin="p1", word=16), before=None)
        )
        self.assertEqual(self.over(moved)[1], 37, "it goes along, to the end of 38 words")
        split = self.asked(sheet, SplitBefore(word=WordRef(origin="p1", word=13)))
        self.assertEqual((len(split.pieces), self.over(split)), (2, reach))
        joined = apply(split, edits.MovePieces(pieces=(split.pieces[1].id,)))
        self.assertEqual((len(joined.pieces), joined.layers), (1, (layer,)))
        stored = edits.PutLayer(layer=layer).model_dump(mode="json")
        self.assertEqual(TypeAdapter(Edit).validate_python(read_edit(stored)).layer, layer)

    def over(self, sheet: Sheet) -> tuple[int, int] | None:
        """The first and last of the places over which it lies that are kept; None while it sleeps."""
        scene = staged(sheet, self.sources, self.target())
        kept = [n for n, stand in enumerate(scene.places.spots) if stand.kept]
        reach = scene.reach(sheet.layers[0].span)
        return (kept.index(reach.begin), kept.index(reach.end)) if reach else None

    def test_every_kind_is_laid_shown_exported_and_survives_what_is_done_to_its_words(self):
        self.assertEqual(set(PLACEMENTS), set(KINDS.values()), "each kind has its placement")
        for kind in KINDS:
            with self.subTest(kind=kind):
                self.check(kind)

    def test_a_kind_that_the_product_does_not_know_passes_through_all_of_it(self):
        with patches():
            self.check("patch")
        with self.assertRaises(ValueError):
            read_sheet({"version": model.VERSION, "layers": [{"id": "l1", "content": {"kind": "patch"}}]})

    def test_what_is_offered_can_be_laid(self):
        commands = [offer.id or f"lay-{kind}-{offer.over}" for kind, of in KINDS.items() for offer in of.offers]
        self.assertEqual(len(set(commands)), len(commands))
        for kind, of in KINDS.items():
            for offer in of.offers:
                with self.subTest(kind=kind, offer=offer.label):
                    self.assertIsNotNone(of.group)
                    preset = of.presets[offer.preset] if offer.preset else {}
                    self.assertEqual(of(**{**preset, **offer.sets}).kind, kind)
