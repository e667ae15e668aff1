"""What earlier releases kept opens, and says the same: a file of each past version."""

import json
import unittest
from pathlib import Path

from pydantic import TypeAdapter

from hovvet.core.errors import CoreError
from hovvet.core.plan.model import VERSION as PLAN_VERSION
from hovvet.core.plan.upgrade import read_plan
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.contents import KINDS
from hovvet.core.sheet.contents.base import SILENT
from hovvet.core.sheet.edits import Edit
from hovvet.core.sheet.house import HouseStyle
from hovvet.core.sheet.model import VERSION, Sheet
from hovvet.core.sheet.upgrade import named_content, read_edit, read_house, read_sheet

KEPT = Path(__file__).parent.parent / "data"


def kept(name: str):
    return json.loads((KEPT / f"{name}.json").read_text())


class Upgrades(unittest.TestCase):
    def test_there_is_a_file_of_each_past_version(self):
        for version in range(1, VERSION):
            stored = kept(f"sheet-{version}")
            self.assertEqual(stored.get("version", 1), version)
            self.assertEqual(read_sheet(stored).version, VERSION)
        for version in range(2, PLAN_VERSION):
            self.assertEqual(kept(f"plan-{version}")["version"], version)
            self.assertEqual(read_plan(kept(f"plan-{version}")).version, PLAN_VERSION)

    def test_the_first_sheets_were_made_for_one_outlet(self):
        sheet = read_sheet(kept("sheet-1"))
        self.assertEqual([edition.outlet for edition in sheet.editions], ["square"])
        self.assertEqual([piece.origin for piece in sheet.pieces], ["p1", "p1"], "split from one another")

    def test_all_kinds_of_the_second_are_there_under_the_names_of_the_trade(self):
        sheet = read_sheet(kept("sheet-2"))
        later = {"background", "camera", "clearer", "microphone", "narration", "voice_over", "voices", "volume"}
        self.assertEqual({layer.content.kind for layer in sheet.layers}, set(KINDS) - later)
        content = {layer.content.kind: layer.content for layer in sheet.layers}
        self.assertEqual(content["freeze"].seconds, 2)
        self.assertEqual((content["sound"].volume, content["sound"].loop), (-7.96, True))
        self.assertEqual((content["broll"].volume, content["broll"].short), (-6.02, "looped"))
        self.assertEqual(sheet.style.letter_spacing, 0.07)
        self.assertEqual(sheet.house.captioning.style.letter_spacing, 0.07)
        self.assertEqual(sheet.house.laid[0].content.kind, "fades")

    def test_what_was_not_heard_is_not_heard(self):
        self.assertEqual(named_content({"kind": "broll", "loud": 0.0})["volume"], SILENT)

    def test_edits_and_house_styles_of_the_second_come_to_the_same(self):
        sheet = Sheet(pieces=read_sheet(kept("sheet-2")).pieces)
        for stored in kept("edits-2"):
            sheet = apply(sheet, TypeAdapter(Edit).validate_python(read_edit(stored)))
        self.assertEqual(sheet, read_sheet(kept("sheet-2")))
        house = HouseStyle.model_validate(read_house(kept("house-2")))
        self.assertEqual([content.kind for content in house.laid], ["fades", "sound"])
        self.assertEqual((house.laid[1].volume, house.captioning.style.letter_spacing), (-16.48, 0.07))

    def test_what_is_written_today_is_read_as_it_is(self):
        sheet = read_sheet(kept("sheet-2"))
        stored = sheet.model_dump(mode="json")
        self.assertEqual(read_sheet(stored), sheet)
        plan = read_plan(kept("plan-2"))
        self.assertEqual(read_plan(plan.model_dump(mode="json")), plan)

    def test_a_plan_of_the_second_is_drawn_and_heard_as_it_was(self):
        stored, plan = kept("plan-2"), read_plan(kept("plan-2"))
        self.assertEqual(
            sum(bool(layer["corners"]) for layer in stored["picture"]),
            sum(bool(each.vignette) for each in plan.picture),
        )
        sharp = [layer["edges"] for layer in stored["picture"] if layer["edges"]]
        self.assertTrue(sharp)
        self.assertEqual([each.sharpening.model_dump() for each in plan.picture if each.sharpening], sharp)
        self.assertEqual(
            {each.media for each in plan.prepared}, {each.media for each in plan.sound if each.media.startswith("made")}
        )
        extra = [word["text"] for word in stored["words"] if word["aside"]]
        self.assertEqual([word.text for word in plan.words if word.layer], extra)

    def test_a_plan_that_is_too_old_or_too_new_is_refused_in_plain_words(self):
        for version in (1, PLAN_VERSION + 1):
            with self.assertRaisesRegex(CoreError, "Export the clip again"):
                read_plan(kept("plan-2") | {"version": version})
