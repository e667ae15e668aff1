"""Recordings, and the words that have been found in them so far."""

import uuid
from pathlib import Path

from django.conf import settings
from django.core.files.storage import default_storage
from django.db import models
from django.db.models import BooleanField, ExpressionWrapper, Q

from hovvet.core.engines.whisper import QUALITIES, USUAL, Quality
from hovvet.core.media.info import MediaInfo
from hovvet.core.passages.chapters import Chapter
from hovvet.core.picture.faces import VERSION as FACES_VERSION
from hovvet.core.sheet.contents.background import Background
from hovvet.core.sound.beats import VERSION as BEATS_VERSION
from hovvet.core.words.transcript import Transcript
from hovvet.core.words.vocabulary import ENGLISH
from hovvet.server.accounts.models import Workspace
from hovvet.server.files import HasFiles
from hovvet.server.recordings.models.shows import Defaults, Show


class Recordings(models.Manager["Recording"]):
    """Recordings without their words, which may be many and are read only where they are needed."""

    def get_queryset(self) -> models.QuerySet["Recording"]:
        """All rows, the transcript left behind."""
        return super().get_queryset().defer("transcript_json")


class Recording(HasFiles, Defaults):
    """One long recording. Its files stand together in a folder of the storage.

    ``transcript_json`` is the transcript as it was recognised or given; corrections are kept as
    edits of the desk, so that they can be undone (see ``clips.transcripts``).
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="recordings")
    show = models.ForeignKey(Show, models.SET_NULL, null=True, related_name="recordings")
    title = models.CharField(max_length=200)
    file_name = models.CharField(max_length=255)
    size = models.BigIntegerField(default=0)  # bytes
    digest = models.CharField(max_length=64, default="", db_index=True)  # of the original; tells the same file twice
    for_shelf = models.BooleanField(default=False)  # shown over words: it is not listened to, and no desk is made of it
    camera_only = models.BooleanField(default=False)  # brought in as another camera of a talk: likewise
    voiced = models.BooleanField(default=False)  # read by a voice for a draft: it stands in clips, and in no list
    link = models.URLField(max_length=2000, default="")  # where it is fetched from, if it was not uploaded
    spoken = models.CharField(max_length=8, default="", blank=True)  # its own language; "" for that of its show
    sounds_like = models.CharField(max_length=8, default="", blank=True)  # another language than that, if it does
    media_json = models.JSONField(null=True)
    transcript_json = models.JSONField(null=True)
    words_ready = models.GeneratedField(  # all of them are there; known without reading them
        expression=ExpressionWrapper(Q(transcript_json__isnull=False), output_field=BooleanField()),
        output_field=BooleanField(),
        db_persist=False,
    )
    words_version = models.PositiveIntegerField(default=0)  # grows whenever the first transcript is another one
    skyline = models.JSONField(default=list)
    chapters_json = models.JSONField(default=list)  # as a person named them
    chapter_times = models.JSONField(default=list)  # seconds at which there could be more
    clearer = models.CharField(
        max_length=8, default="off"
    )  # how strongly its speech is made so (core.sound.clearer.Strength)
    clearer_made = models.JSONField(default=list)  # the names that such sounds have in plans, of those that are there
    background_json = models.JSONField(null=True)  # what is seen in the place of the screen behind who speaks
    word_count = models.PositiveIntegerField(default=0)
    speaker_names = models.JSONField(default=list)
    notice = models.TextField(default="")  # something the person should know, which is no error
    created = models.DateTimeField(auto_now_add=True)

    objects = Recordings()

    class Meta:
        ordering = ["-created"]
        base_manager_name = "objects"

    def __str__(self) -> str:
        return self.title

    @property
    def media(self) -> MediaInfo | None:
        """What is known of the original, once it has been looked into."""
        return MediaInfo.model_validate(self.media_json) if self.media_json else None

    @property
    def background(self) -> Background | None:
        """What is seen in the place of the screen behind who speaks, wherever a clip does not say otherwise."""
        return Background.model_validate(self.background_json) if self.background_json else None

    @property
    def chapters(self) -> list[Chapter]:
        """Its chapters, in order."""
        return [Chapter.model_validate(each) for each in self.chapters_json]

    @property
    def defaults(self) -> Defaults:
        """Where its names & terms and its settings are kept: with its show, if it has one."""
        return self.show or self

    @property
    def language(self) -> str:
        """The language spoken: its own, or as its show has it."""
        return self.spoken or (self.show.language if self.show else ENGLISH)

    @property
    def quality(self) -> Quality:
        """How carefully it is listened to."""
        wanted = self.hears or (self.show.hears if self.show else "")
        return next((each for each in QUALITIES if each == (wanted or settings.HEARING)), USUAL)

    @property
    def before(self) -> Path:
        """Where its words are kept while it is listened to again: as they were recognised, and as they read."""
        return self.folder / "before.json"

    @property
    def given_words(self) -> Path | None:
        """The words file that a person gave for it, if any."""
        return next(iter(sorted(self.folder.glob("given.*"))), None)

    @property
    def first_transcript(self) -> Transcript | None:
        """The transcript before any correction, once all of it is recognised."""
        return Transcript.model_validate(self.transcript_json) if self.transcript_json else None

    @property
    def folder(self) -> Path:
        """Where its files are."""
        return Path(default_storage.path(f"recordings/{self.pk}"))

    stored = folder

    @property
    def original(self) -> Path:
        """The file as it was brought in; never changed."""
        return self.folder / "original"

    @property
    def working(self) -> Path:
        """The copy that the page plays, once it is made."""
        return self.folder / "working.mp4"

    @property
    def unheard(self) -> bool:
        """Whether nobody listens to what is said in it."""
        return self.for_shelf or self.camera_only

    @property
    def playable(self) -> bool:
        """Whether all that the page plays of it is there."""
        return self.working.exists()

    @property
    def faces_file(self) -> Path:
        """Where its faces are, once they were looked for; in another way they are looked for anew."""
        return self.folder / f"faces-{FACES_VERSION}.json"

    @property
    def levels(self) -> Path:
        """How loud it is from moment to moment, once its sound is read."""
        return self.folder / "levels.f32"

    @property
    def energy(self) -> Path:
        """How loud it is heard from moment to moment, once that is measured."""
        return self.folder / "energy.f32"

    @property
    def beats(self) -> Path:
        """Where its beats are, once they were looked for; in another way they are looked for anew."""
        return self.folder / f"beats-{BEATS_VERSION}.json"

    def clearer_file(self, media: str, ending: str) -> Path:
        """What belongs to a sound that was made clearer: ``flac`` is drawn from, ``m4a`` is for the page, ``f32`` is how loud
        it is."""
        return self.folder / f"{media}.{ending}"

    @property
    def bridged(self) -> Path:
        """The copy without gaps of a file whose clock jumps; most recordings have none."""
        return self.folder / "bridged.mkv"

    @property
    def source_file(self) -> Path:
        """The file that picture and sound are read from."""
        return self.bridged if self.bridged.exists() else self.original


class Stretch(models.Model):
    """The words of one stretch while the rest is still being recognised; ``done`` in seconds."""

    recording = models.ForeignKey(Recording, models.CASCADE, related_name="stretches")
    done = models.FloatField()
    words = models.JSONField(default=list)

    class Meta:
        ordering = ["done"]

    def __str__(self) -> str:
        return f"{self.recording} to {self.done:.1f} s"
