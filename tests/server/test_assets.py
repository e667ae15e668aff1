"""Assets of a workspace: fonts brought in, used in captions, deleted; broken ones refused."""

import io
import json

from django.core.files.uploadedfile import SimpleUploadedFile
from fontTools.ttLib import TTFont
from PIL import Image

from hovvet.core.captions.fonts import FONTS
from hovvet.core.captions.own_fonts import LARGEST
from hovvet.core.captions.style import STYLES
from hovvet.core.plan.model import Plan
from hovvet.server.assets.models import Asset
from hovvet.server.delivery.exporting import originals_of
from hovvet.server.documents.making import make_clip
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import sheet_of
from hovvet.server.documents.sources import clips_with
from hovvet.server.recordings.models import Recording
from tests.server.base import ServerCase

HAND, POSTER = (FONTS / f"{name}.ttf" for name in ("hand", "poster"))


class Fonts(ServerCase):
    def bring(self, data: bytes, name: str = "own.ttf"):
        return self.client.post("/api/assets?kind=font", {"file": SimpleUploadedFile(name, data)})

    def listed(self) -> list[str]:
        return [each["key"] for each in self.client.get("/api/assets?kind=font").json()]

    def test_one_is_brought_in_once_and_used_in_captions(self):
        made = self.bring(HAND.read_bytes()).json()
        self.assertIn("OFL", made["licence"])
        self.assertEqual(self.bring(HAND.read_bytes()).json()["key"], made["key"], "the same one twice is one")
        self.assertEqual(self.listed(), [made["key"]])
        self.assertEqual(len([*(self.media_root / "assets").iterdir()]), 1)
        clip = make_clip(self.recording(), 3, 14)
        path = f"/api/documents/{clip.pk}"
        style = STYLES["bold"].model_dump(mode="json") | {"key": "changed", "font": made["key"]}
        edit = {"version": 1, "edit": {"type": "set_captions", "captions": "changed", "style": style}}
        plan = Plan.model_validate(self.post(f"{path}/edits", edit).json()["plan"])
        self.assertEqual(plan.fonts, (made["key"],))
        self.assertIn(Asset.objects.get().font.family, plan.script or "")
        file = self.client.get(f"/api/assets/{made['key']}/file")
        drawn = TTFont(io.BytesIO(b"".join(file.streaming_content)))
        self.assertEqual(drawn["name"].getDebugName(1), Asset.objects.get().font.family)
        self.assertEqual(originals_of(self.workspace, plan)[made["key"]].path, Asset.objects.get().file)
        own, usual = (
            self.client.get(
                "/api/captions/styles/changed/sample", {"text": "Mended", "style": json.dumps(each)}
            ).content
            for each in (style, style | {"font": "hand"})
        )
        self.assertEqual(own, usual, "it is the same font, by another name")

        stored = Asset.objects.get().stored
        with self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(self.client.delete(f"/api/assets/{made['key']}").status_code, 204)
        self.assertFalse(stored.exists())
        now = self.client.get(path).json()
        self.assertEqual((now["plan"]["fonts"], now["sheet"]["style"]["font"]), ([], "condensed"))
        self.assertIn("font of its captions was deleted", now["told"])
        self.assertEqual(self.post(f"{path}/edits", edit | {"version": now["version"]}).status_code, 422)

    def test_what_is_no_font_or_may_not_be_used_is_refused_and_leaves_nothing(self):
        locked = TTFont(POSTER)
        locked["OS/2"].fsType = 2
        written = io.BytesIO()
        locked.save(written)
        bare = TTFont(POSTER)
        del bare["glyf"], bare["loca"]
        without = io.BytesIO()
        bare.save(without)
        data = HAND.read_bytes()
        for given, told in (
            (b"", "not a font"),
            (b"hello, I am no font" * 99, "not a font"),
            (data[:200], "broken"),
            (data[: len(data) // 2], "broken"),
            (data[:2000] + bytes(len(data) - 2000), "no letters"),
            (b"ttcf" + data[4:], "several fonts"),
            (b"wOF2" + data[4:], "broken"),
            (written.getvalue(), "does not allow"),
            (without.getvalue(), "no outlines"),
            (data + bytes(LARGEST), "larger than"),
        ):
            with self.subTest(told=told, length=len(given)):
                answer = self.bring(given)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(told, answer.json()["detail"])
        self.assertEqual(self.listed(), [])
        self.assertEqual([*(self.media_root / "assets").iterdir()], [])

    def test_web_fonts_are_opened_and_programs_in_fonts_are_left_out(self):
        font = TTFont(HAND)
        font.flavor = "woff2"
        packed = io.BytesIO()
        font.save(packed)
        made = self.bring(packed.getvalue(), "own.woff2").json()
        file = b"".join(self.client.get(f"/api/assets/{made['key']}/file").streaming_content)
        kept = TTFont(io.BytesIO(file))
        self.assertIsNone(kept.flavor)
        self.assertFalse({"fpgm", "prep", "cvt ", "DSIG", "SVG ", "fvar"} & set(kept.keys()))
        self.assertEqual(kept.getBestCmap(), TTFont(HAND).getBestCmap())

    def test_they_are_the_workspaces_alone(self):
        made = self.bring(HAND.read_bytes()).json()
        self.client.force_login(self.member("edda", "Elsewhere")[0])
        self.assertEqual(self.listed(), [])
        for answer in (
            self.client.get(f"/api/assets/{made['key']}/file"),
            self.client.delete(f"/api/assets/{made['key']}"),
        ):
            self.assertEqual(answer.status_code, 404)
        self.client.logout()
        self.assertEqual(self.client.get("/api/assets?kind=font").status_code, 401)


class TablesAndPictures(ServerCase):
    CUBE = b'TITLE "Evening"\nLUT_1D_SIZE 2\n1 1 1\n0 0 0\n'

    def bring(self, kind: str, data: bytes, name: str):
        return self.client.post(f"/api/assets?kind={kind}", {"file": SimpleUploadedFile(name, data)})

    def picture(self) -> bytes:
        made = io.BytesIO()
        Image.new("RGB", (60, 40), "#204060").save(made, "PNG")
        return made.getvalue()

    def lay(self, path: str, version: int, content: dict):
        return self.post(f"{path}/asks", {"version": version, "ask": {"ask": "lay", "content": content}})

    def test_they_are_used_in_a_clip_and_left_out_when_deleted(self):
        table = self.bring("table", self.CUBE, "a.cube").json()
        picture = self.bring("picture", self.picture(), "shop front.png").json()
        self.assertEqual((table["name"], picture["name"]), ("Evening", "shop front"))
        self.assertEqual(self.bring("picture", self.picture(), "again.png").json()["key"], picture["key"])
        seen = self.recording()
        seen.media_json |= {"has_picture": True, "width": 960, "height": 540}
        seen.save()
        clip = make_clip(seen, 3, 14)
        path = f"/api/documents/{clip.pk}"
        laid = self.lay(path, 1, {"kind": "look", "table": table["key"]}).json()
        now = self.lay(path, laid["version"], {"kind": "framing", "picture": picture["key"]}).json()
        plan = Plan.model_validate(now["plan"])
        self.assertEqual(set(plan.assets), {table["key"], picture["key"]})
        self.assertTrue(set(plan.assets) <= set(originals_of(self.workspace, plan)))
        shown = self.client.get("/api/colour/table", {"table": table["key"]}).content
        self.assertEqual((len(shown), shown[:3]), (33**3 * 3, bytes([255] * 3)))
        taken = self.client.get("/api/colour/look.cube", {"table": table["key"]}).content.decode()
        self.assertIn("1.000000 1.000000 1.000000", taken)
        file = b"".join(self.client.get(f"/api/assets/{picture['key']}/file").streaming_content)
        self.assertEqual(Image.open(io.BytesIO(file)).size, (60, 40))

        for each in (table, picture):
            self.assertEqual(self.client.delete(f"/api/assets/{each['key']}").status_code, 204)
        now = self.client.get(path).json()
        self.assertIn("table of colours that it uses was deleted", now["told"])
        self.assertIn("was deleted, or is still being prepared", now["bars"][1]["note"])
        self.assertEqual(Plan.model_validate(now["plan"]).assets, ())
        refused = self.lay(path, now["version"], {"kind": "look", "table": table["key"]})
        self.assertEqual(refused.status_code, 422)

    def test_what_is_broken_leaves_nothing_and_they_are_the_workspaces_alone(self):
        for kind, data in (("table", b"LUT_3D_SIZE 9\n"), ("table", self.picture()), ("picture", self.CUBE)):
            self.assertEqual(self.bring(kind, data, "broken").status_code, 422)
        self.assertEqual([*(self.media_root / "assets").iterdir()], [])
        self.assertEqual(self.bring("sparkle", self.CUBE, "a.cube").status_code, 422)
        table = self.bring("table", self.CUBE, "a.cube").json()["key"]
        edda, elsewhere = self.member("edda", "Elsewhere")
        self.client.force_login(edda)
        for query in ({"table": table}, {"table": "nothing"}):
            self.assertEqual(self.client.get("/api/colour/table", query).status_code, 404)
        clip = make_clip(self.recording(workspace=elsewhere), 3, 14)
        refused = self.lay(f"/api/documents/{clip.pk}", 1, {"kind": "look", "table": table})
        self.assertEqual(refused.status_code, 422)


class OverWords(ServerCase):
    """Recordings and pictures laid over words."""

    def seen(self, **given) -> Recording:
        row = self.recording(**given)
        row.media_json |= {"has_picture": True, "width": 960, "height": 540}
        row.save()
        return row

    def laid(self, clip: Document, version: int, media: str):
        first = sheet_of(clip).pieces[0].origin
        words = {"first": {"origin": first, "word": 4}, "last": {"origin": first, "word": 8}}
        ask = {"ask": "lay", "content": {"kind": "broll", "media": media}} | words
        return self.post(f"/api/documents/{clip.pk}/asks", {"version": version, "ask": ask}).json()

    def test_a_recording_over_words_is_one_that_the_clip_shows_and_its_absence_is_told(self):
        clip, other = make_clip(self.seen(), 3, 14), self.seen()
        made = self.laid(clip, 1, str(other.pk))
        self.assertEqual([each["id"] for each in made["sources"]][1:], [str(other.pk)])
        self.assertIn(str(other.pk), Plan.model_validate(made["plan"]).recordings)
        self.assertEqual([each.pk for each in clips_with(other)], [clip.pk])
        other.delete()
        now = self.client.get(f"/api/documents/{clip.pk}").json()
        (bar,) = now["bars"]
        self.assertIn("was deleted", bar["note"])
        self.assertEqual(len(now["plan"]["picture"]), 1)
        self.assertEqual(now["told"], "", "what is said is all there")

    def test_what_another_workspace_has_is_not_there(self):
        elsewhere = self.member("edda", "Elsewhere")[1]
        clip = make_clip(self.seen(), 3, 14)
        made = self.laid(clip, 1, str(self.seen(workspace=elsewhere).pk))
        self.assertEqual(len(made["sources"]), 1)
        self.assertIn("was deleted", made["bars"][0]["note"])
        self.assertIn("detail", self.laid(clip, made["version"], "../../etc/passwd"))
