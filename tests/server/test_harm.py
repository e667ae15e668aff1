"""What would take the server down, or leave things behind, is refused in plain words while others are served."""

import io
import json
import random
import threading
import time
import zipfile
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import SimpleTestCase

from hovvet.core.colour.cube_file import read_cube
from hovvet.core.errors import CoreError
from hovvet.core.sheet.house_file import PackedHouse
from hovvet.server.assets.models import Asset
from hovvet.server.documents.making import make_clip
from hovvet.server.problems import Problem
from hovvet.server.styles.models import NamedSettings
from hovvet.server.turns import Line, takes_turns
from tests.media import DEMO
from tests.server.base import ServerCase


class Turns(SimpleTestCase):
    def test_two_go_on_at_once_two_wait_and_the_others_are_told(self):
        line = Line(2, 2, 30.0, "Come again.")
        inside, most, go = [], [], threading.Event()
        ended: list[object] = []

        @takes_turns(line)
        def view(name: int) -> str:
            inside.append(name)
            most.append(len(inside))
            go.wait(60)
            inside.remove(name)
            return "done"

        def ask(name: int) -> None:
            try:
                ended.append(view(name))
            except Problem as problem:
                ended.append(problem.status)

        asking = [threading.Thread(target=ask, args=(n,)) for n in range(8)]
        for each in asking:
            each.start()
        until = time.monotonic() + 60
        while len(ended) < 4 and time.monotonic() < until:
            time.sleep(0.01)
        self.assertEqual(ended, [503] * 4, "told at once, while the others are still at work")
        go.set()
        for each in asking:
            each.join(60)
        self.assertEqual(sorted(map(str, ended)), ["503"] * 4 + ["done"] * 4)
        self.assertEqual(max(most), 2)

    def test_whose_turn_does_not_come_in_time_is_told(self):
        line = Line(1, 1, 0.05, "Come again.")
        with line.turn(), self.assertRaisesRegex(Problem, "Come again"), line.turn():
            pass
        with line.turn():
            pass  # and it is free again


class HouseFiles(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        clip = make_clip(self.recording(), 3, 14)
        mark = (DEMO / "stickers" / "quillhaven-mark.svg").read_bytes()
        logo = self.client.post("/api/assets?kind=sticker", {"file": SimpleUploadedFile("mark.svg", mark)}).json()
        ask = {"ask": "lay", "content": {"kind": "logo", "media": logo["key"]}, "first": None, "last": None}
        self.post(f"/api/documents/{clip.pk}/asks", {"version": 1, "ask": ask})
        house = self.post("/api/house", {"clip": str(clip.pk), "name": "Quillhaven"}).json()
        self.good = self.client.get(f"/api/house/{house['key']}/file").content
        with self.captureOnCommitCallbacks(execute=True):
            Asset.objects.all().delete()
        NamedSettings.objects.all().delete()

    def brought(self, data: bytes):
        return self.client.post("/api/house/file", {"file": SimpleUploadedFile("style.zip", data)})

    def packed(self, change, **files: bytes) -> bytes:
        with zipfile.ZipFile(io.BytesIO(self.good)) as good:
            held = {name: good.read(name) for name in good.namelist()} | files
        told = json.loads(held["house.json"])
        change(told)
        made = io.BytesIO()
        with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as file:
            for name, data in (held | {"house.json": json.dumps(told).encode()}).items():
                file.writestr(name, data)
        return made.getvalue()

    def test_a_hundred_that_name_one_entry_are_refused_before_it_is_read(self):
        def many(told: dict) -> None:
            told["assets"] = [told["assets"][0] | {"key": f"k{n}"} for n in range(100)]

        data = self.packed(many, **{"assets/1.png": bytes(50_000_000)})
        self.assertLess(len(data), 200_000)
        with mock.patch.object(PackedHouse, "_taken", autospec=True, side_effect=PackedHouse._taken) as taken:
            answer = self.brought(data)
        self.assertEqual((answer.status_code, taken.call_count), (422, 1), answer.content)

    def test_every_flipped_byte_is_read_or_refused_and_leaves_nothing_of_what_was_refused(self):
        rng = random.Random(7)
        ended = {200: 0, 422: 0}
        with mock.patch("hovvet.server.styles.house_file.brought_in", side_effect=CoreError("no")):
            for _ in range(150):
                bad = bytearray(self.good)
                for _ in range(rng.choice((1, 1, 4))):
                    bad[rng.randrange(len(bad))] ^= 1 << rng.randrange(8)
                ended[self.brought(bytes(bad)).status_code] += 1
                NamedSettings.objects.all().delete()
        self.assertEqual((sum(ended.values()), ended[422] > 0, Asset.objects.count()), (150, True, 0))

    def test_what_is_brought_in_goes_again_when_the_style_cannot_be_kept(self):
        refused = mock.patch("hovvet.server.styles.house_file.keep", side_effect=Problem(409, "There are 50 already."))
        with refused, self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(self.brought(self.good).status_code, 409)
        self.assertEqual((Asset.objects.count(), list((self.media_root / "assets").glob("*"))), (0, []))
        self.assertEqual(self.brought(self.good).status_code, 200)

    def test_names_of_assets_that_are_also_names_of_fields_change_nothing_else(self):
        for name in ("text", "media", "kind", "logo", "bold", "captioning"):

            def renamed(told: dict, name=name) -> None:
                before = told["assets"][0]["key"]
                told["assets"][0]["key"] = name
                for laid in told["style"]["laid"]:
                    if laid.get("media") == before:
                        laid["media"] = name

            answer = self.brought(self.packed(renamed))
            self.assertEqual((answer.status_code, answer.json().get("told")), (200, ""), answer.content)
            self.assertEqual(answer.json()["house"]["parts"][0], "Captions: Bold")


class Tables(SimpleTestCase):
    def test_rows_are_counted_no_further_than_a_table_may_have(self):
        rows = b"0 0 0\n" * 2_000_000
        for head in (b"LUT_3D_SIZE 2\n", b"", b"# a remark\n" * 400_000):
            began = time.process_time()
            with self.assertRaises(CoreError):
                read_cube((head + rows)[:12_000_000])
            self.assertLess(time.process_time() - began, 5)

    def test_a_domain_that_is_next_to_nothing_is_refused(self):
        table = "LUT_3D_SIZE 2\nDOMAIN_MAX {0} {0} {0}\n" + "0 0 0\n" * 8
        for top in ("5e-324", "1e-9", "nan", "inf", "1e300"):
            with self.assertRaises(CoreError, msg=top):
                read_cube(table.format(top).encode())
