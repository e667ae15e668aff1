"""Shows: what their recordings begin with."""

import uuid
from collections.abc import Callable, Sequence
from typing import Any, Self

from django.db import models, transaction
from django.db.models import F

from hovvet.core.passages.judgements import Judgements
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.words.glossary import Term
from hovvet.server.accounts.models import Workspace


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
    approved_only = models.BooleanField(default=False)  # whether only what reviewers approved is sent to outlets
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["workspace", "name"], name="one_show_of_a_name")]

    def __str__(self) -> str:
        return self.name
