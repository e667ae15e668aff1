"""Beginning exports: what can be exported is checked first, and each edition becomes a job."""

from collections.abc import Mapping
from dataclasses import asdict

from django.db import transaction

from hovvet.core.render.export import check_sources
from hovvet.core.render.output import Output
from hovvet.server.delivery.exporting import EXPORT, TOGETHER, originals_of
from hovvet.server.delivery.made import Made
from hovvet.server.delivery.models import Export
from hovvet.server.documents.models import Document
from hovvet.server.jobs.running import start_job
from hovvet.server.problems import Problem
from hovvet.server.proof.proving import check_stops


def begin_exports(document: Document, found: Mapping[str, Made], output: Output) -> list[Export]:
    """Export what was made of editions (by id). What is asked for twice is made once."""
    with transaction.atomic():
        rows = [_row(document, edition, made, output) for edition, made in found.items()]
        _begin(rows, output)
    return rows


def checked(document: Document, made: Made | None) -> Made:
    """An edition that can be exported: what would be refused in the end is refused before it waits. Raises Problem,
    CoreError."""
    if made is None:
        raise Problem(404, "That edition is no longer there. Choose another one.")
    if made.plan.frames == 0:
        raise Problem(422, "Nothing is left to export: every word of this clip is cut. Bring some back first.")
    check_stops(document, made.looked)
    check_sources(made.plan, originals_of(document.workspace, made.plan))
    return made


def _row(document: Document, edition: str, made: Made, output: Output) -> Export:
    row, _ = Export.objects.get_or_create(
        document=document,
        edition=edition,
        digest=made.digest,
        defaults={
            "workspace": document.workspace,
            "outlet": made.outlet.key,
            "name": made.outlet.name,
            "version": document.version,
            "plan": made.plan.model_dump(mode="json"),
            "output_json": output.model_dump(mode="json"),
            "encoding_json": asdict(made.encoding),
        },
    )
    return row


def _begin(rows: list[Export], output: Output) -> None:
    """Queue the exports that are not there yet: films of one clip in groups, in each of which the first draws for all."""
    group = TOGETHER if output.is_film else 1
    missing = [row for row in rows if not row.main.exists()]
    for n in range(0, len(missing), group):
        first, *others = missing[n : n + group]
        leads = start_job(first.workspace, EXPORT, first.pk)
        for row in others:
            start_job(row.workspace, EXPORT, row.pk, after=leads)
