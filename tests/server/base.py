"""What the server's tests share."""

import tempfile
import uuid
from pathlib import Path

from django.contrib.auth.models import User
from django.core.files.storage import default_storage
from django.test import SimpleTestCase, TestCase, override_settings

from hovvet.core.media.info import MediaInfo
from hovvet.core.words.transcript import Transcript
from hovvet.server.accounts.models import Membership, Workspace
from hovvet.server.recordings.models import Recording
from tests.media import even_words


def texts_of(clip: dict) -> list[str]:
    """The words of a clip in the order of its rows, cut ones included."""
    return [token["word"]["text"] for row in clip["rows"] for token in row["tokens"] if token["word"]]


def recording_row(workspace: Workspace, transcript: Transcript) -> Recording:
    """A prepared recording with these words and without files."""
    media = MediaInfo(duration=transcript.duration, has_picture=False, has_sound=True)
    row = Recording.objects.create(
        id=uuid.uuid4(),
        workspace=workspace,
        title="A talk",
        file_name="talk.mp3",
        media_json=media.model_dump(mode="json"),
        transcript_json=transcript.model_dump(mode="json"),
    )
    row.folder.mkdir(parents=True)
    row.original.write_bytes(b"x")
    return row


def own_media(case: SimpleTestCase) -> None:
    """Files of a test go into a folder that goes away."""
    holder = tempfile.TemporaryDirectory()
    case.addCleanup(holder.cleanup)
    settings = override_settings(MEDIA_ROOT=holder.name)
    settings.enable()
    case.addCleanup(settings.disable)


# Passwords are hashed slowly on purpose; tests make a person each.
fast_passwords = override_settings(PASSWORD_HASHERS=["django.contrib.auth.hashers.MD5PasswordHasher"])


@fast_passwords
class ServerCase(TestCase):
    """A signed-in member of one workspace, with files in a folder that goes away."""

    def setUp(self) -> None:
        own_media(self)
        self.media_root = Path(default_storage.path(""))
        self.user, self.workspace = self.member("maren", "Bench")
        self.client.force_login(self.user)

    def member(self, name: str, workspace: str) -> tuple[User, Workspace]:
        user = User.objects.create_user(name, password="mend-it-well")
        place = Workspace.objects.create(name=workspace)
        Membership.objects.create(user=user, workspace=place)
        return user, place

    def recording(self, transcript: Transcript | None = None, workspace: Workspace | None = None) -> Recording:
        """A prepared recording without files."""
        return recording_row(workspace or self.workspace, transcript or even_words(20))

    def post(self, path: str, body: object = None, client=None):
        return (client or self.client).post(path, body or {}, content_type="application/json")
