"""``manage.py load_demo``: the demo account, recordings and a first clip."""

import shutil
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from functools import partial
from pathlib import Path
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.core.management.base import BaseCommand
from django.db import connection, transaction
from django.utils import timezone

from hovvet.core.colour.grade import Grade
from hovvet.core.engines.meaning import vectors
from hovvet.core.engines.narrator import narrators
from hovvet.core.plan.outlets import OUTLETS
from hovvet.core.post.offering import begun, offered
from hovvet.core.proof.proofing import proof
from hovvet.core.render.output import Output
from hovvet.core.script.text_in import read_text
from hovvet.core.sheet.asking import AddCard, Lay
from hovvet.core.sheet.contents import Content
from hovvet.core.sheet.contents.broll import Broll
from hovvet.core.sheet.contents.camera import Camera
from hovvet.core.sheet.contents.framing import Framing
from hovvet.core.sheet.contents.freeze import Freeze
from hovvet.core.sheet.contents.logo import Logo
from hovvet.core.sheet.contents.marker import Marker
from hovvet.core.sheet.contents.progress import Progress
from hovvet.core.sheet.contents.slide import Slide
from hovvet.core.sheet.contents.sound import Sound
from hovvet.core.sheet.contents.sticker import Sticker
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.contents.transition import Transition
from hovvet.core.sheet.edits import Batch, PutEdition
from hovvet.core.sheet.model import Edition, WordRef
from hovvet.core.sweep.settings import SweepSettings
from hovvet.core.sweep.sweep import sweep, sweep_edit
from hovvet.core.words.glossary import Term
from hovvet.core.words.transcript import Transcript
from hovvet.server.accounts.models import Membership, Workspace
from hovvet.server.assets.bringing import bring_in
from hovvet.server.assets.from_stock import take
from hovvet.server.assets.models import Asset
from hovvet.server.deliveries.models import Duty
from hovvet.server.delivery.beginning import begin_exports, checked
from hovvet.server.delivery.exporting import EXPORT
from hovvet.server.delivery.made import ClipNow
from hovvet.server.documents.changing import apply_edit, do_asked
from hovvet.server.documents.making import make_clip
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents, opened, sheet_of
from hovvet.server.documents.transcripts import silences_of, source_of, transcript_of
from hovvet.server.drafts.beginning import begin
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job, start_job
from hovvet.server.outbox.due import send_what_is_due
from hovvet.server.outbox.planning import plan_posts
from hovvet.server.outbox.sending import SEND
from hovvet.server.outside.models import OutsideAccount
from hovvet.server.passages.finding import PASSAGES
from hovvet.server.posts.writing import keep_text
from hovvet.server.proof.proving import looked
from hovvet.server.recordings.describing import describe_words
from hovvet.server.recordings.looking import FACES
from hovvet.server.recordings.models import Recording, Show
from hovvet.server.recordings.preparing import PREPARE
from hovvet.server.recordings.shows import set_terms
from hovvet.server.review.reviewing import make_link, say
from hovvet.server.styles.house import style_shown_by, wear_kept
from hovvet.server.styles.models import NamedSettings
from hovvet.server.upkeep.demo_recorded import film_again, read_as_script

DEMO = settings.BASE_DIR / "demo"
_ARTICLE = DEMO / "drive" / "why-we-mend.html"
USER, PASSWORD = "demo", "mend-the-evening-first"
_TALK, _INTERVIEW = "Nobody throws away a clock", "Bench Notes: mend the evening first"
_OPEN_NIGHT = "Open night: questions from the box"


class Command(BaseCommand):
    """Load the demo once; a second run changes nothing."""

    help = "Make the demo account and its recordings."

    def handle(self, *_arguments: Any, **_options: Any) -> None:
        """Make what is missing."""
        workspace, _ = Workspace.objects.get_or_create(name="Quillhaven Mending Room")
        if not User.objects.filter(username=USER).exists():
            user = User.objects.create_user(USER, password=PASSWORD)
            Membership.objects.create(workspace=workspace, user=user)
        notes, _ = Show.objects.get_or_create(workspace=workspace, name="Bench Notes")
        talks, _ = Show.objects.get_or_create(workspace=workspace, name="Evening talks")
        if not notes.terms:
            set_terms(notes, [Term(text="Quillhaven", heard=("Quill Haven",)), Term(text="Oddvik")])
        there = set(workspace.recordings.values_list("title", flat=True))
        work: list[Callable[[], object]] = []
        if _TALK not in there:
            work += [
                lambda: self._talk(workspace, talks),
                lambda: self._shelf(workspace),
            ]
        for title, name in ((_OPEN_NIGHT, "open-night"), (_INTERVIEW, "interview")):
            if title not in there:
                work.append(partial(self._conversation, workspace, title, name, notes))
        with ThreadPoolExecutor(3) as together:
            for done in [together.submit(_apart, each) for each in work]:
                done.result()
        if _TALK not in there:
            talk = workspace.recordings.get(title=_TALK)
            film_again(talk)
            self._first_clip(talk)
            self._finished_clip(talk)
            read_as_script(talk)
            text = read_text(_ARTICLE.read_bytes(), _ARTICLE.suffix, marked=True)
            begin(workspace, text, outlet=next(iter(OUTLETS)), narrator=next(iter(narrators())), show=notes)
        self.stdout.write(f"Sign in as {USER} with the password {PASSWORD}")

    def _talk(self, workspace: Workspace, show: Show) -> None:
        talk = self._bring_in(workspace, _TALK, "talk", "bench-talk.mp4", show)
        self._found(talk)
        for job in Job.objects.filter(kind=FACES, target=talk.pk, state=Job.State.QUEUED):  # whom the view follows
            run_job.func(str(job.pk))

    def _conversation(self, workspace: Workspace, title: str, name: str, show: Show) -> None:
        self._found(self._bring_in(workspace, title, name, f"{show.name.lower().replace(' ', '-')}-{name}.opus", show))

    def _found(self, recording: Recording) -> None:
        """Its passages."""
        run_job.func(str(start_job(recording.workspace, PASSAGES, recording.pk).pk))

    def _shelf(self, workspace: Workspace) -> None:
        """What the workspace brought in, and took from the library."""
        for file in sorted((DEMO / "stickers").iterdir()):
            self._sticker(workspace, file)
        for item in _TAKEN:
            self._taken(workspace, item)

    def _bring_in(self, workspace: Workspace, title: str, name: str, file_name: str, show: Show) -> Recording:
        self.stdout.write(f"Preparing the demo recording “{title}”…")
        self.stdout.flush()
        words = Transcript.model_validate_json((DEMO / "words" / f"{name}.json").read_bytes())
        recording = Recording(
            workspace=workspace, show=show, title=title, file_name=file_name,
            transcript_json=words.model_dump(mode="json"),
        )  # fmt: skip
        recording.folder.mkdir(parents=True, exist_ok=True)
        shutil.copyfile(DEMO / "speech" / f"{name}{Path(file_name).suffix}", recording.original)
        with transaction.atomic():
            recording.save()
            describe_words(recording, words)
            job = start_job(workspace, PREPARE, recording.pk)
        run_job.func(str(job.pk))
        job.refresh_from_db()
        if job.state != job.State.DONE:
            raise SystemExit(f"The demo could not be prepared: {job.error} {job.error_detail}")
        recording.refresh_from_db()
        return recording

    def _sticker(self, workspace: Workspace, file: Path) -> str:
        """A logo or sticker on the shelf, by the name that sheets have for it."""
        with file.open("rb") as opened:
            return str(bring_in(workspace, Asset.Kind.STICKER, file.stem.replace("-", " "), opened.read).pk)

    def _taken(self, workspace: Workspace, item: str) -> str:
        """Something of the stock library on the Kit, prepared; by the name that sheets have for it."""
        asset = take(workspace, item)
        for job in Job.objects.filter(target=asset.recording_id, state=Job.State.QUEUED) if asset.recording_id else ():
            run_job.func(str(job.pk))
        return asset.key

    def _first_clip(self, talk: Recording) -> None:
        """A clip of the passage that gave the talk its name, swept."""
        transcript = source_of(talk).transcript
        texts = [word.text.lower().strip(".,") for word in transcript.words]
        first = next(n for n in range(len(texts)) if texts[n : n + 4] == ["nobody", "throws", "away", "a"])
        last = max(
            n
            for n in range(first, first + 150)
            if transcript.words[n].text.endswith(".") and transcript.words[n].end < transcript.words[first].start + 58
        )
        document = make_clip(talk, transcript.words[first].id, transcript.words[last].id)
        wanted = SweepSettings()
        finds = sweep(transcript, silences_of(talk), wanted)
        (piece,) = sheet_of(document).pieces
        edit = sweep_edit(piece, transcript, finds, wanted)
        now = apply_edit(document, document.version, edit, None).document
        for ask in _laid(transcript.words[first].id, last - first, _named(talk.workspace)):
            now = do_asked(now, now.version, ask, None).document
        edition = Edition(id="e2", outlet="square")
        apply_edit(now, now.version, PutEdition(edition=edition), None)

    def _finished_clip(self, talk: Recording) -> None:
        """A short clip in the house style, exported in three shapes; the style and a look are kept with the workspace."""
        workspace = talk.workspace
        first, last = _said(talk, _FINISHED)
        clip = make_clip(talk, first, last, "Most broken things are not broken")
        hook = Lay(
            content=Title(text="Most broken things are not broken", template="plate"),
            first=_ref(first),
            last=_ref(first + 8),
        )
        for ask in (
            Lay(content=Framing(mode="speaker")),
            Lay(content=Logo(media=_named(workspace)["quillhaven mark"])),
            Lay(content=Progress(colour="#C2412D")),
            hook,
        ):
            clip = do_asked(clip, clip.version, ask, None).document
        for edition in (Edition(id="e2", outlet="square"), Edition(id="e3", outlet="wide")):
            clip = apply_edit(clip, clip.version, PutEdition(edition=edition), None).document
        style = NamedSettings.objects.create(
            workspace=workspace, kind=NamedSettings.Kind.HOUSE, name="Quillhaven evenings",
            settings_json=style_shown_by(clip, "").model_dump(mode="json"),
        )  # fmt: skip
        wear_kept(clip, style, None)
        lamp = Grade(temperature=0.3, contrast=0.1, shadows=0.1, vignette=0.25)
        NamedSettings.objects.create(
            workspace=workspace,
            kind=NamedSettings.Kind.LOOK,
            name="Evening lamp",
            settings_json=lamp.model_dump(mode="json"),
        )
        clip = documents().get(pk=clip.pk)
        for edition in sheet_of(clip).editions:
            clip = _mended(clip, edition.id)
        words = opened(clip).plan.words
        keep_text(clip, "", begun(offered(words, clip.title, vectors)), 0)
        made = ClipNow(clip)
        found = {each.id: checked(clip, made.made(each.id, Output())) for each in sheet_of(clip).editions}
        begin_exports(clip, found, Output())
        for job in Job.objects.filter(workspace=workspace, kind=EXPORT).order_by("created"):
            run_job.func(str(job.pk))
        self._delivered(clip)

    def _delivered(self, clip: Document) -> None:
        """Accounts at made-up outlets; of the finished clip one edition has gone out, one is planned, one is being reviewed."""
        workspace = clip.workspace
        accounts = [
            OutsideAccount.objects.create(workspace=workspace, name=f"Quillhaven, {sort}", sort=sort)
            for sort in ("tall", "square", "wide")
        ]
        films = {each.outlet: each for each in clip.exports.select_related("document__workspace", "workspace")}
        user = User.objects.get(username=USER)
        tomorrow = timezone.now().replace(hour=9, minute=0, second=0, microsecond=0) + timedelta(days=1)
        for account, times in zip(accounts, (None, [tomorrow]), strict=False):
            plan_posts(workspace, [films[account.sort]], "stand-in", str(account.pk), times, "UTC", user.pk)
        send_what_is_due()
        for job in Job.objects.filter(workspace=workspace, kind=SEND):
            run_job.func(str(job.pk))
        link = make_link(clip, [films["wide"].edition], user.pk, "", None, download=False)
        say(link.items.get(), "Ilse", "Could the title stay a little longer?", 1, about=(0, 5))
        for n, each in enumerate(Document.objects.filter(workspace=workspace, kind=Document.Kind.CLIP)):
            Duty.objects.create(document=each, person=user, due=timezone.localdate() + timedelta(days=2 + n))


def _mended(clip: Document, edition: str) -> Document:
    """A clip with what the proof finds put right, by the first way that is offered."""
    for _ in range(_FAULTS):
        fixes = [fault.fixes[0] for fault in proof(looked(opened(clip, edition))) if fault.fixes]
        if not fixes:
            break
        apply_edit(clip, clip.version, Batch(edits=fixes[0].edits), None, edition)
        clip = documents().get(pk=clip.pk)
    return clip


_FAULTS = 12  # of a clip, at most, that are put right
_TAKEN = ("toaster-video", "clock-picture", "bench-picture", "lamp-video", "street-picture", "hope-sound", "bell-sound")
_FINISHED = "most things that are broken are not broken"  # how the finished clip begins


def _said(talk: Recording, text: str) -> tuple[int, int]:
    """The words from a sentence on, to the end of the next one."""
    words = transcript_of(talk).words
    wanted = text.split()
    spoken = [word.text.lower().strip(".,?") for word in words]
    first = next(n for n in range(len(spoken)) if spoken[n : n + len(wanted)] == wanted)
    ends = [n for n in range(first, len(words)) if words[n].text.endswith((".", "?"))]
    return words[first].id, words[ends[1]].id


def _ref(word: int) -> WordRef:
    return WordRef(origin="p1", word=word)


def _named(workspace: Workspace) -> dict[str, str]:
    """What stands on the Shelf, by name."""
    return {each.name: each.key for each in Asset.objects.filter(workspace=workspace).select_related("recording")}


def _apart(work: Callable[[], object]) -> None:
    """Some of the work, in a thread with a connection of its own."""
    try:
        work()
    finally:
        connection.close()


def _laid(word: int, count: int, shelf: dict[str, str]) -> list[Lay | AddCard]:
    """What lies over the words of the first clip; they are numbered from ``word`` on."""

    def over(content: Content, first: int, last: int) -> Lay:
        names = (WordRef(origin="p1", word=word + min(n, count)) for n in (first, last))
        return Lay(content=content, first=next(names), last=next(names))

    return [
        Lay(content=Framing(mode="speaker")),
        Lay(content=Logo(media=shelf["quillhaven mark"])),
        Lay(content=Progress(colour="#C2412D")),
        over(Title(text="Nobody throws away a clock", template="tape"), 0, 6),
        over(Sticker(media=shelf["alarm clock"], meanwhile="wiggles", across=0.74, down=0.32), 8, 14),
        over(Framing(), 8, 14),
        over(Broll(media=shelf["Toast pops up"], short="slowed down"), 39, 46),
        over(Transition(seconds=0.4), 20, 20),
        over(Camera(camera=2), 22, 34),
        over(Marker(note="Ask for a photo of the table", sort="to do"), 23, 26),
        over(Freeze(seconds=0.8), 37, 37),
        Lay(
            content=Sound(
                media=shelf["A small amount of hope"], **Sound.presets["Background music"] | {"ends": "fitted"}
            )
        ),
        over(Sound(media=shelf["A small bell"], **Sound.presets["Play once"]), 8, 8),
        AddCard(content=Slide(text="Bring yours on Tuesday", second="Quillhaven Mending Room, 6 pm", ground="#47713F")),
    ]
