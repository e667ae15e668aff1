"""Who may see what."""

from django.test import Client

from hovvet.core.captions.style import STYLES
from hovvet.server.assets.models import Asset
from hovvet.server.delivery.models import Export
from hovvet.server.documents.making import desk_of, make_clip
from hovvet.server.documents.models import CustomOutlet
from hovvet.server.jobs.running import start_job
from hovvet.server.recordings.models import Show
from hovvet.server.styles.models import NamedSettings
from tests.server.base import ServerCase


class SigningIn(ServerCase):
    def test_name_and_password(self):
        client = Client(enforce_csrf_checks=True)
        token = client.get("/api/session").json()["csrf"]
        right = {"username": "maren", "password": "mend-it-well"}
        refused = client.post("/api/session", right, content_type="application/json")
        self.assertEqual(refused.status_code, 403, "without the token nothing changes")
        wrong = client.post(
            "/api/session", right | {"password": "no"}, content_type="application/json", headers={"X-CSRFToken": token}
        )
        self.assertEqual(wrong.status_code, 401)
        self.assertIn("Wrong name or password", wrong.json()["detail"])
        done = client.post("/api/session", right, content_type="application/json", headers={"X-CSRFToken": token})
        self.assertEqual((done.status_code, done.json()["workspace"]), (200, "Bench"))
        out = client.delete("/api/session", headers={"X-CSRFToken": done.json()["csrf"]})
        self.assertEqual(out.status_code, 204)
        self.assertEqual(client.get("/api/recordings").status_code, 401)

    def test_changes_need_the_token(self):
        recording = self.recording()
        client = Client(enforce_csrf_checks=True)
        client.force_login(self.user)
        self.assertEqual(client.delete(f"/api/recordings/{recording.pk}").status_code, 403)
        self.assertEqual(client.post("/api/uploads").status_code, 403)


class OtherWorkspaces(ServerCase):
    def test_nothing_of_another_workspace_exists(self):
        stranger, _ = self.member("stranger", "Elsewhere")
        recording = self.recording()
        (recording.folder / "working.mp4").write_bytes(b"secret")
        desk = desk_of(recording)
        clip = make_clip(recording, 2, 9)
        export = Export.objects.create(
            workspace=self.workspace, document=clip, outlet="tall", version=1, plan={"samples": 1, "sample_rate": 48000}
        )
        job = start_job(self.workspace, "export", export.pk)
        show = Show.objects.create(workspace=self.workspace, name="Talks")
        correction = {"type": "rewrite", "changes": [{"words": [2], "text": "mine"}]}
        edit = {"version": 1, "edit": {"type": "set_captions", "captions": None}}
        word = {"origin": "p1", "word": 2}
        ask = {"ask": "move", "first": word, "last": word, "before": None}
        size = {"name": "Kiosk", "width": 640, "height": 480, "longest": 30}
        outlet = CustomOutlet.objects.create(workspace=self.workspace, outlet_json=size | {"safe": [0, 0, 0, 0]})
        bold = STYLES["bold"].model_dump(mode="json")
        style, look = (
            NamedSettings.objects.create(workspace=self.workspace, kind=kind, name="Workshop", settings_json=settings)
            for kind, settings in ((NamedSettings.Kind.STYLE, bold), (NamedSettings.Kind.LOOK, {}))
        )
        font = Asset.objects.create(
            workspace=self.workspace, kind=Asset.Kind.FONT, name="Hand", info_json={"family": "Own"}
        )
        asked = [
            ("get", f"/api/recordings/{recording.pk}", None),
            ("get", f"/api/recordings/{recording.pk}/transcript", None),
            ("get", f"/api/recordings/{recording.pk}/files/working", None),
            ("patch", f"/api/recordings/{recording.pk}", {"version": 1, "title": "mine"}),
            ("delete", f"/api/recordings/{recording.pk}", None),
            ("post", f"/api/recordings/{recording.pk}/prepare", {}),
            ("get", f"/api/documents/desk/{recording.pk}", None),
            ("post", f"/api/documents/desk/{recording.pk}/clips", {"first": 1, "last": 3}),
            ("get", f"/api/documents/{desk.pk}", None),
            ("get", f"/api/documents/{clip.pk}", None),
            ("post", f"/api/documents/{clip.pk}/edits", edit),
            ("post", f"/api/documents/{clip.pk}/undo", {"version": 1}),
            ("post", f"/api/documents/{clip.pk}/redo", {"version": 1}),
            ("post", f"/api/documents/{clip.pk}/asks", {"version": 1, "ask": ask}),
            ("get", f"/api/documents/{clip.pk}/editions/e1/plan", None),
            ("get", f"/api/documents/{clip.pk}/sounds/made1-{'0' * 40}", None),
            ("get", f"/api/documents/{clip.pk}/pieces/p1/beyond", None),
            ("post", f"/api/documents/{clip.pk}/copy", {}),
            ("post", f"/api/documents/{clip.pk}/dressing", {"parts": ["captions"], "onto": [str(clip.pk)]}),
            ("put", f"/api/outlets/{outlet.key}", size),
            ("delete", f"/api/outlets/{outlet.key}", None),
            ("put", f"/api/captions/styles/{style.key}", bold),
            ("delete", f"/api/captions/styles/{style.key}", None),
            ("delete", f"/api/colour/looks/{look.key}", None),
            ("get", f"/api/assets/{font.pk}/file", None),
            ("delete", f"/api/assets/{font.pk}", None),
            ("post", f"/api/documents/{clip.pk}/sweep", {"version": 1}),
            ("patch", f"/api/documents/{clip.pk}", {"version": 1, "title": "mine"}),
            ("get", f"/api/documents/{clip.pk}/history", None),
            ("post", f"/api/documents/{clip.pk}/history/1", {"version": 1}),
            ("delete", f"/api/documents/{clip.pk}", None),
            ("get", f"/api/documents/{clip.pk}/exports", None),
            ("post", f"/api/documents/{clip.pk}/exports", {"editions": ["e1"]}),
            ("post", f"/api/documents/{clip.pk}/exports/expected", {"editions": ["e1"]}),
            ("get", f"/api/exports/{export.pk}/files/mp4", None),
            ("post", f"/api/exports/{export.pk}/retry", {}),
            ("delete", f"/api/exports/{export.pk}", None),
            ("post", f"/api/jobs/{job.pk}/cancel", {}),
            ("post", f"/api/documents/{desk.pk}/corrections", {"version": 1, "correction": correction}),
            ("get", f"/api/documents/{desk.pk}/finds", None),
            ("post", f"/api/documents/{desk.pk}/sweep/preview", {}),
            ("post", f"/api/recordings/{recording.pk}/occurrences", {"find": "w2", "put": "x"}),
            ("get", f"/api/recordings/{recording.pk}/terms", None),
            ("post", f"/api/recordings/{recording.pk}/terms", {"text": "x"}),
            ("post", f"/api/recordings/{recording.pk}/terms/remove", {"text": "x"}),
            ("get", f"/api/recordings/{recording.pk}/terms/occurrences", None),
            ("get", f"/api/recordings/{recording.pk}/sweep-settings", None),
            ("patch", f"/api/recordings/{recording.pk}/sweep-settings", {}),
            ("get", f"/api/recordings/{recording.pk}/transcript", None),
            ("get", f"/api/recordings/{recording.pk}/places?text=x", None),
            ("post", f"/api/recordings/{recording.pk}/speakers", {"count": 2}),
            ("get", f"/api/recordings/{recording.pk}/transcript.txt", None),
            ("post", "/api/recordings/links", {"link": "/drive/files/x", "show": str(show.pk)}),
            ("patch", f"/api/shows/{show.pk}", {"version": 1, "name": "mine"}),
            ("delete", f"/api/shows/{show.pk}", None),
        ]
        theirs, nobody = Client(), Client()
        theirs.force_login(stranger)
        for method, path, body in asked:
            for client, status in ((theirs, 404), (nobody, 401)):
                answer = (
                    getattr(client, method)(path, body, content_type="application/json")
                    if body is not None
                    else getattr(client, method)(path)
                )
                self.assertEqual(answer.status_code, status, f"{method} {path}")
        self.assertEqual(theirs.get("/api/recordings").json(), [])
        self.assertEqual(self.client.get(f"/api/documents/{clip.pk}").json()["version"], 1)

    def test_no_address_answers_with_a_server_error(self):
        for path in (
            "/api/recordings/not-an-id",
            "/api/nothing",
            "/api/documents/00000000-0000-0000-0000-000000000000",
        ):
            self.assertIn(self.client.get(path).status_code, (404, 422), path)
