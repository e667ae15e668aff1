"""Drafts: a text, what of it is said, and the clip that was made of it."""

import uuid

from django.db import models

from hovvet.core.draft.choosing import USUAL
from hovvet.core.draft.written import Sentence
from hovvet.core.engines.narrator import NARRATORS, Narrator
from hovvet.core.script.lines import Line
from hovvet.core.script.lines import Script as Lines
from hovvet.server.accounts.models import Workspace
from hovvet.server.documents.models import Document
from hovvet.server.recordings.models import Show
from hovvet.server.scripts.models import Script


class Draft(models.Model):
    """A text that a clip is made of. ``narrator`` reads it, "" for the person; ``script`` is what is read."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    workspace = models.ForeignKey(Workspace, models.CASCADE, related_name="drafts")
    show = models.ForeignKey(Show, models.SET_NULL, null=True, related_name="+")
    script = models.OneToOneField(Script, models.SET_NULL, null=True, related_name="draft")
    clip = models.ForeignKey(Document, models.SET_NULL, null=True, related_name="+")
    title = models.CharField(max_length=200)
    text = models.TextField()
    sentences_json = models.JSONField(default=list)
    outlet = models.CharField(max_length=64)
    seconds = models.FloatField(default=USUAL)
    narrator = models.CharField(max_length=20, default="")
    pace = models.FloatField(default=1.0)
    house = models.CharField(max_length=64, default="")
    card = models.CharField(max_length=160, default="")
    version = models.PositiveIntegerField(default=1)
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-changed"]

    def __str__(self) -> str:
        return self.title

    @property
    def voice(self) -> Narrator | None:
        """Who reads it; None for the person."""
        return next((each for each in NARRATORS if each == self.narrator), None)

    @property
    def sentences(self) -> tuple[Sentence, ...]:
        """All its sentences, in order, those left out too."""
        return tuple(Sentence.model_validate(each) for each in self.sentences_json)

    @property
    def kept(self) -> tuple[Sentence, ...]:
        """Those that are said."""
        return tuple(each for each in self.sentences if each.kept)

    @property
    def lines(self) -> Lines:
        """What is said, a line a sentence."""
        return Lines(lines=tuple(Line(text=each.said, part=each.part) for each in self.kept))
