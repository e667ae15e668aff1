"""What the demo has as if it had been recorded here: another camera of the talk, and a script that was read twice."""

from django.db import transaction

from hovvet.core.media.ffmpeg import GUARD, encode, no_progress, source
from hovvet.core.media.part import cut_part
from hovvet.core.media.process import limits
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import Transcript
from hovvet.server.documents.transcripts import transcript_of
from hovvet.server.jobs.models import Job
from hovvet.server.jobs.running import run_job, start_job
from hovvet.server.recordings.describing import describe_words
from hovvet.server.recordings.looking import FACES
from hovvet.server.recordings.models import Recording
from hovvet.server.recordings.preparing import PREPARE
from hovvet.server.recordings.stepping import STEP, angle_of
from hovvet.server.scripts.models import Script, Take

_BEGINS, _LASTS = 2.4, 90.0  # seconds of the talk that the other camera has
_LOOKS = "crop=iw*0.5:ih*0.5:iw*0.25:ih*0.16,hflip,eq=gamma=1.12:saturation=0.8,scale=960:540"
_MOST = 4_000_000  # bytes a second
_SCRIPT = (
    "Tonight I want to talk about one sentence. Nobody throws away a clock because it stopped. "
    "They throw it away because nobody nearby can open it.\n\n"
    "When we started, we had one table, two lamps, and a box of screwdrivers that did not match. People brought us toasters. "
    "It is a spring, a wire, and a small amount of hope."
)
_TAKES = (
    ("Tonight", "match.", 0),
    ("They", "hope.", 2),
)  # from and to which word of the talk, and from which line of the script


def film_again(talk: Recording) -> None:
    """The talk from another side, closer and in other light: it begins a little later."""
    row = Recording(workspace=talk.workspace, title="From the side", file_name="bench-talk-side.mp4", camera_only=True)
    row.folder.mkdir(parents=True, exist_ok=True)
    taken = f"-t {_LASTS} -vf {_LOOKS} -c:v libx264 -preset ultrafast -crf 20 -c:a aac -f mp4".split()
    arguments = [*GUARD, "-ss", str(_BEGINS), "-i", source(talk.original), *taken, str(row.original)]
    encode(arguments, _LASTS, no_progress, limits(_LASTS, 8, _MOST))
    _prepared(row)
    angle_of(talk, Recording.objects.get(pk=row.pk))
    for kind in (STEP, FACES):
        for waiting in Job.objects.filter(kind=kind, target=row.pk, state=Job.State.QUEUED):
            run_job.func(str(waiting.pk))


def read_as_script(talk: Recording) -> None:
    """A script that was read twice: of the talk, as if that had been written first."""
    title = "An invitation, read to the camera"
    script = Script.objects.create(
        workspace=talk.workspace, show=talk.show, title=title, text=_SCRIPT, highest=len(_TAKES)
    )
    said = transcript_of(talk)
    assert talk.media
    for number, (first, last, line) in enumerate(_TAKES, 1):
        start, end = _span(said, first, last)
        row = Recording(
            workspace=talk.workspace, show=talk.show, title=f"{title}, take {number}",
            file_name=f"invitation-{number}.mp4", transcript_json=_part(said, start, end).model_dump(mode="json"),
        )  # fmt: skip
        row.folder.mkdir(parents=True, exist_ok=True)
        cut_part(talk.original, talk.media, start, end, row.original)
        _prepared(row)
        describe_words(row, transcript_of(row))
        Take.objects.create(script=script, recording=row, number=number, line=line)


def _prepared(row: Recording) -> None:
    with transaction.atomic():
        row.save()
        job = start_job(row.workspace, PREPARE, row.pk)
    run_job.func(str(job.pk))
    job.refresh_from_db()
    if job.state != job.State.DONE:
        raise SystemExit(f"The demo could not be prepared: {job.error} {job.error_detail}")


def _span(said: Transcript, first: str, last: str) -> tuple[float, float]:
    """The seconds from one word to the next other one after it."""
    words = said.words
    begin = next(n for n, word in enumerate(words) if word.text == first)
    end = next(n for n in range(begin, len(words)) if words[n].text == last)
    return words[begin].start - 0.3, words[end].end + 0.3


def _part(said: Transcript, start: float, end: float) -> Transcript:
    """What is said in some seconds, on a clock that begins with them."""
    words = [
        with_changes(word, id=n, start=round(word.start - start, 3), end=round(word.end - start, 3))
        for n, word in enumerate(said.between(start, end), 1)
    ]
    return with_changes(said, words=tuple(words), duration=round(end - start, 3))
