"""Stamps: whether what a document compiles to can have changed, told without compiling it."""

import json
import uuid
from collections import defaultdict
from collections.abc import Sequence
from hashlib import sha256

from django.db.models import Count, Max, Sum

from hovvet.core.plan.model import VERSION
from hovvet.server.assets.models import Asset
from hovvet.server.clips.models import CustomOutlet, Document, DocumentSource
from hovvet.server.jobs.models import Job


def stamps_of(documents: Sequence[Document]) -> dict[uuid.UUID, str]:
    """A stamp of each document, from its version and from all that it is compiled with: the words and the media of its
    recordings, outlets, what stands on the Shelf. As long as it is the same, so is what the document compiles to. Takes
    the same few queries for one as for hundreds."""
    pks = [each.pk for each in documents]
    workspaces = {each.workspace_id for each in documents}
    sources: dict[uuid.UUID, list[list[object]]] = defaultdict(list)
    shown = DocumentSource.objects.filter(document__in=pks).values_list(
        "document_id", "recording_id", "recording__words_version", "recording__words_ready", "recording__media_json"
    )
    recordings = set()
    for document, recording, words, ready, media in shown:
        recordings.add(recording)
        sources[document].append([str(recording), words, ready, media])
    recordings.update(each.recording_id for each in documents if each.recording_id)
    desks = Document.objects.filter(kind=Document.Kind.DESK, recording__in=recordings)
    corrected = {str(recording): at for recording, at in desks.values_list("recording_id", "head__corrected_id")}
    shelves = {
        row["workspace_id"]: [str(row["newest"]), row["count"], row["versions"]]
        for row in Asset.objects.filter(workspace__in=workspaces)
        .order_by()
        .values("workspace_id")
        .annotate(newest=Max("created"), count=Count("pk"), versions=Sum("version"))
    }
    outlets: dict[uuid.UUID, list[object]] = defaultdict(list)
    for workspace, outlet in CustomOutlet.objects.filter(workspace__in=workspaces).values_list(
        "workspace_id", "outlet_json"
    ):
        outlets[workspace].append(outlet)
    made = {}
    for each in documents:
        own = sources[each.pk]
        corrections = {key: corrected.get(key) for key in {str(each.recording_id), *(str(source[0]) for source in own)}}
        told = [
            VERSION, each.version, each.head_id, own, corrections, shelves.get(each.workspace_id, []),
            outlets.get(each.workspace_id, []),
        ]  # fmt: skip
        made[each.pk] = sha256(json.dumps(told, sort_keys=True, default=str).encode()).hexdigest()
    return made


def stamp_of(document: Document) -> str:
    """The stamp of one document, and of the work that is done for it: when it changes, there may be something new to see."""
    recordings = list(document.sources.values_list("recording_id", flat=True))
    work = Job.objects.filter(target__in=[document.pk, *recordings]).values_list("kind", "state").order_by("pk")
    told = [stamps_of([document])[document.pk], document.title, list(work)]
    return sha256(json.dumps(told, default=str).encode()).hexdigest()
