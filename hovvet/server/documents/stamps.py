"""Stamps: whether what a document compiles to can have changed, told without compiling it."""

import json
import uuid
from collections import defaultdict
from collections.abc import Sequence
from hashlib import sha256

from django.db.models import Count, Max, OuterRef, Subquery, Sum

from hovvet.core.plan.model import VERSION
from hovvet.server.assets.models import Asset
from hovvet.server.documents.models import CustomOutlet, Document, DocumentSource
from hovvet.server.jobs.models import Job
from hovvet.server.recordings.models import Angle, Recording


def stamps_of(documents: Sequence[Document]) -> dict[uuid.UUID, str]:
    """A stamp of each document, from its version and from all that it is compiled with: the words and the media of its
    recordings, outlets, what stands on the Shelf. As long as it is the same, so is what the document compiles to. Takes
    the same few queries for one as for hundreds."""
    pks = [each.pk for each in documents]
    workspaces = {each.workspace_id for each in documents}
    sources: dict[uuid.UUID, list[uuid.UUID]] = defaultdict(list)
    for document, recording in DocumentSource.objects.filter(document__in=pks).values_list(
        "document_id", "recording_id"
    ):
        sources[document].append(recording)
    recordings = {recording for own in sources.values() for recording in own}
    recordings.update(each.recording_id for each in documents if each.recording_id)
    # The documents of a recording are its desk: its head tells at which correction the words stand.
    own_angles = Angle.objects.filter(recording=OuterRef("pk")).order_by().values("recording")
    cameras = own_angles.annotate(told=Count("pk") + 1_000 * Sum("version") + 1_000_000 * Max("pk")).values("told")
    known = (
        Recording.objects.filter(pk__in=recordings)
        .annotate(cameras=Subquery(cameras))
        .values_list(
            "pk", "words_version", "words_ready", "media_json", "clearer", "clearer_made", "background_json", "cameras",
            "documents__head__corrected_id",
        )
    )  # fmt: skip
    state = {pk: json.dumps([str(pk), *told], sort_keys=True) for pk, *told in known}
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
        own = [*sources[each.pk], *([each.recording_id] if each.recording_id else [])]
        told = [
            VERSION, each.version, each.head_id, [state.get(recording, "") for recording in own], shelves.get(each.workspace_id, []),
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
