"""Jobs whose worker is killed outright, at many moments: ``python bench/killing.py [moments]``, ``make kills``.

Exports, preparing, looking for faces and passages are each begun in a process of their own, which is killed after a share
of the time that such a job takes; then a worker takes the job up as it would have been. Drawing processes are killed under
an export that goes on. Disks fill up while an export is written. Each time the job has to end, with the same SHA-256 as
undisturbed, and nothing that is half made may be left. Prints a line for each kind; exits with 1 for anything else.
"""

import hashlib
import os
import signal
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

from django.core.management import call_command
from django.db import connection

from bench.own_data import DATA  # before anything of the server
from hovvet.core.media.checked import PART, check_media
from hovvet.core.words.transcript import Transcript
from hovvet.server.accounts.models import Workspace
from hovvet.server.delivery.api import _row
from hovvet.server.delivery.exporting import EXPORT, chunk_folder
from hovvet.server.delivery.made import ClipNow
from hovvet.server.delivery.models import Export
from hovvet.server.documents.making import make_clip
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.reaping import take_up_stale_jobs
from hovvet.server.jobs.running import run_job, start_job
from hovvet.server.passages.models import FoundPassage
from hovvet.server.recordings.looking import FACES
from hovvet.server.recordings.models import Recording
from hovvet.server.recordings.preparing import PASSAGES, PREPARE
from tests.e2e.base import draw_talk
from tests.media import demo_transcript

MOMENTS = 40
SECONDS = 8.0  # of the talk that is worked on


class Case:
    """A kind of job: how it is begun on something fresh, what came of it, and whether that is whole."""

    def __init__(self, workspace: Workspace, film: Path) -> None:
        self.workspace, self.film = workspace, film

    def recording(self, prepared: bool) -> Recording:
        """The talk, brought in; ``prepared`` as far as a job before would have."""
        words = demo_transcript().between(0, SECONDS)
        transcript = Transcript(duration=SECONDS, words=tuple(words))
        row = Recording(
            workspace=self.workspace,
            title="Talk",
            file_name="talk.mp4",
            transcript_json=transcript.model_dump(mode="json"),
        )
        row.folder.mkdir(parents=True)
        row.original.write_bytes(self.film.read_bytes())
        row.save()
        if prepared:
            run_job.func(str(start_job(self.workspace, PREPARE, row.pk).pk))
            row.refresh_from_db()
        return row

    def begin(self) -> Job:
        """Queue the job."""
        raise NotImplementedError

    def came_of(self, job: Job) -> str:
        """A digest of what the job left."""
        raise NotImplementedError


class Exporting(Case):
    """An export, with nothing in the cache."""

    def begin(self) -> Job:
        """See Case."""
        if not hasattr(self, "clip"):
            words = (row := self.recording(prepared=True)).first_transcript.words
            self.clip = make_clip(row, words[0].id, words[-1].id)
        Export.objects.all().delete()
        subprocess.run(["rm", "-rf", str(chunk_folder())], check=True)
        made = ClipNow(self.clip)._make("e1", Export(output_json={}).output)
        return start_job(self.workspace, EXPORT, _row(self.clip, "e1", made, Export(output_json={}).output).pk)

    def came_of(self, job: Job) -> str:
        """See Case."""
        return digest_of(Export.objects.get(pk=job.target).main)


class Preparing(Case):
    """A recording that is prepared: what ffmpeg encodes is looked into, all else is compared."""

    def begin(self) -> Job:
        """See Case."""
        return start_job(self.workspace, PREPARE, self.recording(prepared=False).pk)

    def came_of(self, job: Job) -> str:
        """See Case."""
        row = Recording.objects.get(pk=job.target)
        check_media(row.working, SECONDS - 0.5, True, True)
        names = ("speech.wav", "levels.f32", "peaks.bin", "thumbs.jpg")
        return " ".join(digest_of(row.folder / name)[:12] for name in names)


class Looking(Case):
    """Faces that are looked for."""

    def begin(self) -> Job:
        """See Case."""
        if not hasattr(self, "row"):
            self.row = self.recording(prepared=True)
        Job.objects.filter(kind=FACES).delete()
        self.row.faces_file.unlink(missing_ok=True)
        return start_job(self.workspace, FACES, self.row.pk)

    def came_of(self, job: Job) -> str:
        """See Case."""
        return digest_of(self.row.faces_file)


class Finding(Looking):
    """Passages."""

    def begin(self) -> Job:
        """See Case."""
        if not hasattr(self, "row"):
            self.row = self.recording(prepared=True)
            Recording.objects.filter(pk=self.row.pk).update(transcript_json=demo_transcript().model_dump(mode="json"))
        FoundPassage.objects.all().delete()
        Job.objects.filter(kind=PASSAGES).delete()
        return start_job(self.workspace, PASSAGES, self.row.pk)

    def came_of(self, job: Job) -> str:
        """See Case."""
        found = FoundPassage.objects.filter(recording=self.row).values_list("place", "first", "last", "titles_json")
        return f"{len(found)} {hashlib.sha256(repr(list(found)).encode()).hexdigest()}"


def digest_of(path: Path) -> str:
    """SHA-256 of a file."""
    return hashlib.sha256(path.read_bytes()).hexdigest()


def halves() -> list[Path]:
    """What is half made and can be seen as if it were whole."""
    root = DATA / "media"
    return [path for path in root.rglob("*") if path.is_file() and path.stat().st_size == 0 and PART not in path.name]


def killed_after(job: Job, seconds: float) -> bool:
    """Begin a job in a process of its own and kill that, with all it started; False where it was over before."""
    connection.close()
    child = os.fork()
    if child == 0:
        os.setpgid(0, 0)
        with suppress(BaseException):
            run_job.func(str(job.pk))
        os._exit(0)
    time.sleep(seconds)
    over, _ = os.waitpid(child, os.WNOHANG)
    if over:
        return False
    os.kill(child, signal.SIGKILL)
    os.waitpid(child, 0)
    return True


def finished(job: Job) -> str:
    """Take the job up as a worker does; its state in the end."""
    take_up_stale_jobs()
    run_job.func(str(job.pk))
    job.refresh_from_db()
    return job.state


def at_moments(case: Case, moments: int) -> tuple[int, list[str]]:
    """How often a job of a kind was killed, and what broke."""
    job = case.begin()
    began = time.monotonic()
    run_job.func(str(job.pk))
    lasts = time.monotonic() - began
    job.refresh_from_db()
    wanted = case.came_of(job)
    broke = [] if job.state == "done" else [f"undisturbed it ended {job.state}: {job.error}"]
    count = 0
    for n in range(moments):
        job = case.begin()
        count += killed_after(job, lasts * (n + 0.5) / moments)
        state = finished(job)
        if state != "done":
            broke.append(f"moment {n}: {state}: {job.error} {job.error_detail}")
        elif case.came_of(job) != wanted:
            broke.append(f"moment {n}: something else came of it")
        broke += [f"moment {n}: {path} is half made" for path in halves()]
    return count, broke


def drawing(case: Exporting, moments: int) -> tuple[int, list[str]]:
    """Kill one drawing process under an export that goes on."""
    job = case.begin()
    began = time.monotonic()
    run_job.func(str(job.pk))
    lasts, wanted, count, broke = time.monotonic() - began, case.came_of(job), 0, []
    for n in range(moments):
        job = case.begin()
        killed: list[int] = []

        def kill(seconds: float = lasts * (n + 0.5) / moments, killed: list[int] = killed) -> None:
            time.sleep(seconds)
            for pid in Path(f"/proc/{os.getpid()}/task").glob("*/children"):
                for child in pid.read_text().split():
                    with suppress(OSError):
                        if b"render.work" in Path(f"/proc/{child}/cmdline").read_bytes():
                            os.kill(int(child), signal.SIGKILL)
                            killed.append(int(child))
                            return

        harm = threading.Thread(target=kill)
        harm.start()
        run_job.func(str(job.pk))
        harm.join()
        job.refresh_from_db()
        count += len(killed)
        if job.state != "done" or case.came_of(job) != wanted:
            broke.append(f"moment {n}: {job.state}: {job.error} {job.error_detail[-300:]}")
    return count, broke


@contextmanager
def disk_of(size: int) -> Iterator[None]:
    """All media on a disk of so many kB more than there is on it."""
    media = DATA / "media"
    held = int(subprocess.run(["du", "-sk", str(media)], capture_output=True, text=True, check=True).stdout.split()[0])
    aside = media.with_name("aside")
    media.rename(aside)
    media.mkdir()
    subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={held + size}k", "tmpfs", str(media)], check=True)
    try:
        subprocess.run(["cp", "-a", f"{aside}/.", str(media)], check=True)
        yield
    finally:
        subprocess.run(["umount", str(media)], check=True)
        media.rmdir()
        aside.rename(media)


def filling(case: Exporting, _moments: int) -> tuple[int, list[str]]:
    """Exports onto a disk that is full after so many kB; then onto one that is not."""
    broke, count = [], 0
    for size in (40, 200, 600, 1500, 3000, 4500):
        job = case.begin()
        with disk_of(size):
            run_job.func(str(job.pk))
            job.refresh_from_db()
            main = Export.objects.get(pk=job.target).main
            if job.state == "failed":
                count += 1
                if "disk is full" not in job.error:
                    broke.append(f"{size} kB: {job.error} {job.error_detail[-300:]}")
                if main.exists():
                    broke.append(f"{size} kB: something was published")
            elif job.state != "done":
                broke.append(f"{size} kB: {job.state}")
        job = start_job(case.workspace, EXPORT, job.target)
        if finished(job) != "done":
            broke.append(f"{size} kB: and then {job.state}: {job.error}")
    return count, broke


def main(moments: int) -> int:
    """Kill; 1 when anything broke."""
    call_command("migrate", verbosity=0)
    workspace = Workspace.objects.create(name="Bench")
    film = draw_talk(DATA / "film.mp4", SECONDS)
    exporting = Exporting(workspace, film)
    kinds: list[tuple[str, Callable[[], tuple[int, list[str]]]]] = [
        ("exports", lambda: at_moments(exporting, moments)),
        ("drawing processes", lambda: drawing(exporting, moments)),
        ("preparing", lambda: at_moments(Preparing(workspace, film), moments)),
        ("looking for faces", lambda: at_moments(Looking(workspace, film), moments)),
        ("passages", lambda: at_moments(Finding(workspace, film), moments)),
    ]
    if os.geteuid() == 0:
        kinds.append(("full disks", lambda: filling(exporting, moments)))
    failed = False
    for name, work in kinds:
        count, broke = work()
        print(f"{name}: disturbed {count} times, {len(broke)} broke", flush=True)
        for each in broke[:20]:
            print(f"BROKE {name}: {each[:600]}")
        failed = failed or bool(broke) or not count
    return 1 if failed else 0


if __name__ == "__main__":
    import logging

    logging.getLogger("hovvet").setLevel(logging.CRITICAL)
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else MOMENTS))
