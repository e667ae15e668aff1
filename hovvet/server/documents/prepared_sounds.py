"""Sounds that are made beforehand for the clips of a workspace: named by what they are, made once, removed when unused."""

import os
import re
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path

from django.core.files.storage import default_storage

from hovvet.core.media.sealed import seal_of
from hovvet.core.plan.model import Plan, Prepared
from hovvet.core.render.prepared import prepare
from hovvet.core.sound.clearer import told_by
from hovvet.server.accounts.models import Workspace
from hovvet.server.documents.models import Document
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import Report, handles, start_job
from hovvet.server.problems import Problem
from hovvet.server.recordings.models import Recording

SOUNDS = "sounds"
_NAME = re.compile(r"(made|spoken)[0-9]+-[0-9a-f]{40}")


def prepared_folder(workspace: Workspace) -> Path:
    """Where the prepared sounds of a workspace are."""
    return Path(default_storage.path(f"prepared/{workspace.pk}"))


def prepared_file(workspace: Workspace, media: str) -> Path:
    """One of them. Raises Problem for a name that none has."""
    if not _NAME.fullmatch(media):
        raise Problem(404, "There is no such sound.")
    return prepared_folder(workspace) / f"{media}.wav"


def still_preparing(document: Document, plan: Plan) -> bool:
    """Whether sounds of a plan are missing; then they are being made."""
    missing = False
    for each in plan.prepared:
        file = prepared_file(document.workspace, each.media)
        try:
            os.utime(file)
        except OSError:
            missing = True
    if missing and not _gave_up(document, plan):
        start_job(document.workspace, SOUNDS, document.pk, sounds=_wanted(plan))
        return True
    return False


def _wanted(plan: Plan) -> list[object]:
    return [each.model_dump(mode="json") for each in plan.prepared]


def _gave_up(document: Document, plan: Plan) -> bool:
    """Whether making these very sounds failed the last time."""
    last = Job.objects.filter(kind=SOUNDS, target=document.pk).first()
    same = last is not None and last.wanted.get("sounds") == _wanted(plan)
    return bool(last and same and last.state == Job.State.FAILED)


@handles(SOUNDS, priority=20, part="in the background")
def make_sounds(report: Report) -> None:
    """Make the sounds of a clip that are not there yet."""
    document = Document.objects.select_related("workspace").get(pk=report.target)
    prepared_folder(document.workspace).mkdir(parents=True, exist_ok=True)
    report.stage("Preparing sound", 0, 1)
    wanted = [Prepared.model_validate(each) for each in report.job.wanted["sounds"]]
    for n, each in enumerate(wanted):
        report(n / len(wanted))
        out = prepared_file(document.workspace, each.media)
        if not out.exists():
            prepare(each, _file_of(document.workspace, each.recording), out)


def _file_of(workspace: Workspace, media: str) -> Path:
    """What a sound is made of: a recording, or its clearer speech."""
    clearer = told_by(media)
    recording = Recording.objects.get(workspace=workspace, pk=clearer[0] if clearer else media)
    return recording.clearer_file(media, "flac") if clearer else recording.source_file


def unused(before: float) -> Iterator[Path]:
    """Prepared sounds that no page has asked for since a time; they are made again when one does."""
    for file in Path(default_storage.path("prepared")).glob("*/*.wav"):
        with suppress(OSError):
            if file.stat().st_mtime < before:
                beside = (file.with_suffix(ending) for ending in (".json", ".f32"))  # of what is spoken
                yield from (file, seal_of(file), *(each for each in beside if each.exists()))
