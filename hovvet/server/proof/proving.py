"""The proof of an edition of a clip: what has to be known of it is looked up, then the core judges."""

from dataclasses import replace

from hovvet.core.compile.target import target_of
from hovvet.core.proof.looked import Looked
from hovvet.core.proof.measured import Measured
from hovvet.core.proof.proofing import stopping
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import Opened
from hovvet.server.posts.shelf_used import shelf_used
from hovvet.server.problems import Problem
from hovvet.server.proof.models import FileMeasured


def looked(now: Opened, post: str = "") -> Looked:
    """An opened clip, with all that is known of it. ``post`` is the text that goes with it."""
    target = target_of(now.sheet, now.edition, now.kit)
    bare = Looked(now.sheet, now.edition, now.kit, now.sources.sources, target, now.scene, now.plan, post=post)
    recordings = now.sources.recordings
    return replace(
        bare,
        terms={key: recording.defaults.terms for key, recording in recordings.items()},
        sweeps={key: recording.defaults.sweep for key, recording in recordings.items()},
        shelf=shelf_used(now.document.workspace, now.plan),
        file=file_measured(now.document, now.edition.id, now.plan.digest),
    )


def stops_of(document: Document, bare: Looked) -> list[str]:
    """What keeps a clip from being exported, as sentences."""
    return [fault.says for fault in stopping(replace(bare, shelf=shelf_used(document.workspace, bare.plan)))]


def check_stops(document: Document, bare: Looked) -> None:
    """Raises Problem with the first thing that keeps a clip from being exported."""
    for told in stops_of(document, bare):
        raise Problem(409, told)


def file_measured(document: Document, edition: str, plan_digest: str) -> Measured | None:
    """What was measured of the file of a plan; None where there is none."""
    found = FileMeasured.objects.filter(document=document, edition=edition, plan_digest=plan_digest).first()
    return found.measured if found else None


def keep_measured(document: Document, edition: str, plan_digest: str, measured: Measured) -> None:
    """Keep what was measured of the newest file of an edition."""
    values = {"plan_digest": plan_digest, "measured_json": measured.model_dump(mode="json")}
    FileMeasured.objects.update_or_create(document=document, edition=edition, defaults=values)
