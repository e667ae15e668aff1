"""From a draft to its clip: an ordinary one, on an ordinary sheet."""

from collections.abc import Sequence
from contextlib import suppress

from hovvet.core.draft.laying import Drafted, laid
from hovvet.core.draft.thoughts import Thought, pictures_for, thoughts_of
from hovvet.core.draft.written import link_of
from hovvet.core.engines.meaning import vectors
from hovvet.core.errors import CoreError
from hovvet.core.post.offering import begun, offered
from hovvet.core.script.choosing import ReadIn
from hovvet.core.sheet.edits import Batch, Edit, PutEdition
from hovvet.core.sheet.model import Sheet
from hovvet.core.value import with_changes
from hovvet.server.assets.models import Asset
from hovvet.server.documents.changing import apply_to_newest
from hovvet.server.documents.making import WordsOf
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import opened
from hovvet.server.documents.sources import as_uuid, sources_of
from hovvet.server.drafts.models import Draft
from hovvet.server.drafts.progress import MAKE, jobs_of
from hovvet.server.drafts.reading import Then, begin_reading, read_by_people, read_by_voice, recording_of
from hovvet.server.drafts.seeing import candidates, key_of, means_of
from hovvet.server.jobs.running import Report, handles, start_job
from hovvet.server.posts.writing import keep_text
from hovvet.server.problems import Problem
from hovvet.server.recordings.models import Recording
from hovvet.server.scripts.models import Script
from hovvet.server.stock.stand_in import LIBRARY
from hovvet.server.styles.house import make_dressed_clip_of
from hovvet.server.styles.models import NamedSettings

_UNREAD = "Nobody has read this yet. Record it first, or let a voice read it."
_GONE = "What was read could not be prepared, so there is no clip. Press Make the clip again."


def script_for(draft: Draft) -> Script:
    """The script of what is said in a draft; made when first asked for, and brought up to date."""
    text = "\n\n".join(each.said for each in draft.kept)
    script = draft.script
    if script is None:
        script = Script.objects.create(
            workspace=draft.workspace, show=draft.show, title=draft.title, text=text, kind="cards", drafted=True
        )
        Draft.objects.filter(pk=draft.pk).update(script=script)
        draft.script = script
    elif (script.text, script.title) != (text, draft.title):
        script.text, script.title = text, draft.title
        script.version += 1
        script.save(update_fields=["text", "title", "version", "changed"])
    return script


def begin_making(draft: Draft, author_id: int | None) -> None:
    """Have the clip of a draft made: read by its voice first, or of what people have recorded of it; once, however often it is
    asked for meanwhile. Raises Problem."""
    if any(job.active for job in jobs_of(draft)):
        return
    if not draft.kept:
        raise Problem(409, "Every sentence is left out. Keep at least one.")
    script = script_for(draft)
    if draft.voice:
        texts = [each.said for each in draft.kept]
        begin_reading(script, texts, draft.voice, draft.pace, Then(MAKE, draft.pk, {"author": author_id}))
    elif not read_by_people(draft):
        raise Problem(409, _UNREAD)
    else:
        start_job(draft.workspace, MAKE, draft.pk, author=author_id)


@handles(MAKE, priority=27)
def make_drafted_clip(report: Report) -> None:
    """Put the clip together from what was read, and lay over it what belongs to it."""
    draft = Draft.objects.select_related("workspace", "show", "script").get(pk=report.target)
    author, recording = report.job.wanted.get("author"), report.job.wanted.get("recording")
    report.stage("Putting it together", 0, 0.3)
    read = _read(draft, recording)
    lines = sorted(read)
    kept = [draft.kept[n] for n in lines]
    rows = {str(row.pk): row for row in Recording.objects.filter(pk__in={each.take for each in read.values()})}
    stretches = [WordsOf(rows[read[n].take], read[n].reading.first, read[n].reading.last) for n in lines]
    clip = make_dressed_clip_of(stretches, author, _house(draft), draft.title)
    report.stage("Choosing pictures", 0.3, 0.9)
    thoughts = thoughts_of(kept, draft.pace)
    things = _pictures(draft, thoughts, report)
    drafted = Drafted(thoughts, things, draft.title, _music(draft), draft.card)
    rate = opened(clip).plan.rate

    def lay(sheet: Sheet) -> Edit:
        edition = PutEdition(edition=with_changes(sheet.editions[0], outlet=draft.outlet))
        return Batch(edits=(edition, laid(sheet, sources_of(clip, sheet).transcripts, drafted, rate)))

    apply_to_newest(clip, lay, author)
    report.stage("Writing the text for the post", 0.9, 1)
    _write_post(draft, clip)
    Draft.objects.filter(pk=draft.pk).update(clip=clip)


def _read(draft: Draft, recording: str | None) -> dict[int, ReadIn]:
    if recording is None:
        read = read_by_people(draft)
        if not read:
            raise CoreError(_UNREAD)
        return read
    row = recording_of(recording)
    if row is None or not row.playable:
        raise CoreError(_GONE)
    return read_by_voice(draft.lines, row)


def _house(draft: Draft) -> NamedSettings | None:
    pk = as_uuid(draft.house.removeprefix("own-"))
    mine = NamedSettings.objects.filter(workspace=draft.workspace_id, kind=NamedSettings.Kind.HOUSE)
    return mine.filter(pk=pk).first() if pk else None


def _pictures(draft: Draft, thoughts: Sequence[Thought], report: Report) -> list[str | None]:
    """What shows each thought, of what may be used: of the Shelf, and pictures of the stock library that cost nothing. What could
    not be fetched is a slide."""
    things = candidates(draft.workspace)
    chosen = pictures_for(thoughts, means_of(things), vectors)
    made: list[str | None] = []
    for n, place in enumerate(chosen):
        made.append(key_of(draft.workspace, things[place]) if place is not None else None)
        report((n + 1) / len(chosen))
    return made


def _music(draft: Draft) -> str:
    """Music that may be used and costs nothing, that of the Shelf first; "" where there is none."""
    own = Asset.objects.filter(workspace=draft.workspace_id, kind=Asset.Kind.SOUND).select_related("recording")
    for each in own.order_by("created"):
        if "music" in each.tags and not each.refusal and each.ready:
            return each.key
    free = next(
        (each for each in LIBRARY.search("music", "sound") if "music" in each.tags and not each.licence.asks), None
    )
    return (key_of(draft.workspace, free) if free else None) or ""


def _write_post(draft: Draft, clip: Document) -> None:
    """Begin the text for the post with what the clip says, and the link of the text."""
    now = opened(clip)
    post = begun(offered(now.plan.words, draft.title, vectors))
    link = link_of(draft.text)
    with suppress(ValueError):  # a link that no post takes
        post = with_changes(post, link=link)
    keep_text(clip, "", post, 0)
