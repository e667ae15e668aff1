"""Recordings, the words in them, and uploads under way."""

import uuid
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any, Self

from django.conf import settings
from django.core.files.storage import default_storage
from django.db import models, transaction
from django.db.models import BooleanField, ExpressionWrapper, F, Q

from hovvet.core.engines.whisper import QUALITIES, USUAL, Quality
from hovvet.core.media.info import MediaInfo
from hovvet.core.passages.chapters import Chapter
from hovvet.core.passages.judgements import Judgements
from hovvet.core.picture.faces import VERSION as FACES_VERSION
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.words.glossary import Term
from hovvet.core.words.transcript import Transcript
from hovvet.core.words.vocabulary import ENGLISH
from hovvet.server.accounts.models import Workspace
from hovvet.server.files import HasFiles


class Defaults(models.Model):
    """What has names & terms, settings for the sweep and for listening, and a person's choices among passages, of its own."""

    terms_json = models.JSONField(default=list)
    sweep_json = models.JSONField(default=dict)
    hears = models.CharField(
        max_length=10, default="", blank=True
    )  # how carefully; "" for as its show has it, or as usual
    judged_json = models.JSONField(default=dict)  # by the kinds of reasons
    version = models.PositiveIntegerField(default=1)  # grows with every change of title, show, names & terms, settings

    class Meta:
        abstract = True

    language: Any  # that is spoken, ISO 639-1: a field of a show, what its show has of a recording

    @property
    def terms(self) -> list[Term]:
        """Names & terms, in the order they were added."""
        return [Term.model_validate(term) for term in self.terms_json]

    @property
    def sweep(self) -> SweepSettings:
        """What a sweep looks for: what is usual in the language, but for what a person has changed."""
        usual = SweepSettings.usual(self.language)
        return SweepSettings.model_validate(usual.model_dump() | self.sweep_json)

    @property
    def judged(self) -> dict[str, Judgements]:
        """How often passages were kept and hidden, by the kinds of their reasons."""
        return {kind: Judgements.model_validate(each) for kind, each in self.judged_json.items()}

    def change_judged(self, change: Callable[[dict[str, Judgements]], dict[str, Judgements]]) -> None:
        """Change these choices as they are now."""
        with transaction.atomic():
            self.judged_json = {kind: each.model_dump() for kind, each in change(self._fresh().judged).items()}
            self._write("judged_json")

    def change_terms(self, change: Callable[[Sequence[Term]], Sequence[Term]]) -> None:
        """Change the names & terms as they are now, whatever this copy of the row says of them."""
        with transaction.atomic():
            fresh = self._fresh()
            self.terms_json = [Term.model_validate(term).model_dump(mode="json") for term in change(fresh.terms)]
            self._write("terms_json")

    def change_sweep(self, change: Callable[[SweepSettings], SweepSettings]) -> SweepSettings:
        """Change the settings of the sweep as they are now; the new ones."""
        with transaction.atomic():
            settings = change(self._fresh().sweep)
            usual = SweepSettings.usual(self.language)
            changed = {name for name in SweepSettings.model_fields if getattr(settings, name) != getattr(usual, name)}
            self.sweep_json = settings.model_dump(mode="json", include=changed)
            self._write("sweep_json")
        return settings

    def _fresh(self) -> Self:
        return type(self)._default_manager.select_for_update().get(pk=self.pk)

    def _write(self, field: str) -> None:
        values = {field: getattr(self, field), "version": F("version") + 1}
        type(self)._default_manager.filter(pk=self.pk).update(**values)


class Show(Defaults):
    """A folder of recordings that belong together, with what they have in common."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="shows")
    name = models.CharField(max_length=120)
    language = models.CharField(max_length=8, default="en")
    captions_json = models.JSONField(default=dict)  # of its new clips: fields of a sheet; {} for the usual ones
    house = models.CharField(
        max_length=64, default="", blank=True
    )  # the key of the style they are dressed in; "" for none
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["workspace", "name"], name="one_show_of_a_name")]

    def __str__(self) -> str:
        return self.name


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
    def faces_file(self) -> Path:
        """Where its faces are, once they were looked for; in another way they are looked for anew."""
        return self.folder / f"faces-{FACES_VERSION}.json"

    @property
    def levels(self) -> Path:
        """How loud it is from moment to moment, once its sound is read."""
        return self.folder / "levels.f32"

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


class FoundPassage(models.Model):
    """A stretch of a recording that may be worth sharing: the ids of its ``first`` and ``last`` word, ``seconds`` of it that a
    sweep leaves; why, and what it could be called, as the core found it."""

    class State(models.TextChoices):
        WAITING = "waiting"
        MADE = "made"  # a clip was made of it
        HIDDEN = "hidden"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    recording = models.ForeignKey(Recording, models.CASCADE, related_name="passages")
    place = models.PositiveIntegerField()  # best first
    first = models.BigIntegerField()
    last = models.BigIntegerField()
    start = models.FloatField()
    end = models.FloatField()
    seconds = models.FloatField()
    strength = models.CharField(max_length=20)
    reasons_json = models.JSONField(default=list)
    warnings_json = models.JSONField(default=list)
    titles_json = models.JSONField(default=list)
    state = models.CharField(max_length=10, choices=State, default=State.WAITING)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["place"]

    def __str__(self) -> str:
        return f"{self.titles_json[0]} ({self.start:.0f} to {self.end:.0f} s)"

    @property
    def workspace(self) -> Workspace:
        """Whose it is."""
        return self.recording.workspace


class Upload(HasFiles):
    """A file on its way in, by the open tus protocol."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="uploads")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="uploads")
    show = models.ForeignKey(Show, models.SET_NULL, null=True)
    for_shelf = models.BooleanField(default=False)
    file_name = models.CharField(max_length=255)
    length = models.BigIntegerField()
    expires = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.file_name} ({self.length} bytes)"

    @property
    def path(self) -> Path:
        """Where its bytes are gathered."""
        return Path(default_storage.path(f"uploads/{self.pk}"))

    stored = path

    @property
    def offset(self) -> int:
        """How many bytes have arrived."""
        return self.path.stat().st_size if self.path.exists() else 0
