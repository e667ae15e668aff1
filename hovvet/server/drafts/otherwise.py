"""Sentences of a drafted clip said otherwise: in other words by its voice, or by people in its place."""

from collections.abc import Callable

from hovvet.core.draft.exchanging import Instead, exchanged
from hovvet.core.draft.speakable import said
from hovvet.core.draft.written import LONGEST_SENTENCE, Sentence
from hovvet.core.errors import CoreError
from hovvet.core.sheet.cutting import kept_words
from hovvet.core.sheet.edits import Edit
from hovvet.core.sheet.model import Piece, Sheet
from hovvet.core.value import with_changes
from hovvet.core.words.transcript import plain_text
from hovvet.server.documents.changing import apply_to_newest
from hovvet.server.documents.making import desk_of
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import sheet_of
from hovvet.server.documents.sources import Sources, sources_of
from hovvet.server.documents.transcripts import transcript_of
from hovvet.server.drafts.models import Draft
from hovvet.server.drafts.progress import OTHERWISE, jobs_of
from hovvet.server.drafts.reading import Then, begin_reading, read_by_people, read_by_voice, recording_of
from hovvet.server.jobs.running import Report, handles
from hovvet.server.problems import Problem
from hovvet.server.recordings.models import Recording

_NOT_VOICED = "That sentence was not read by a voice, so it cannot be said otherwise by one. Record it again instead."
_FAILED = "It could not be spoken. What was there before is still there; try it in other words."


def draft_of(clip: Document) -> Draft | None:
    """The draft that a clip was made of; None for any other."""
    return Draft.objects.select_related("script", "workspace").filter(clip=clip).first()


def begin_otherwise(draft: Draft, clip: Document, piece_id: str, text: str, author_id: int | None) -> Recording:
    """Have a sentence of a clip said in other words by the voice of its draft; it takes its place when it is spoken. Raises
    Problem."""
    piece = next((each for each in sheet_of(clip).pieces if each.id == piece_id), None)
    if piece is None or draft.script is None:
        raise Problem(409, "That sentence is no longer in the clip. Choose it again.")
    if any(job.active for job in jobs_of(draft, clip)):
        raise Problem(409, "Another sentence is being spoken just now. Wait until it stands in its place.")
    if not draft.voice or recording_of(piece.recording or "") is None:
        raise Problem(409, _NOT_VOICED)
    spoken = said(text)
    if not any(each.isalnum() for each in spoken):
        raise Problem(400, "There is nothing in this that can be said. Type a sentence.")
    if len(spoken) > LONGEST_SENTENCE:
        raise Problem(400, f"This is longer than one sentence may be ({LONGEST_SENTENCE} letters). Make two of it.")
    then = Then(OTHERWISE, clip.pk, {"piece": piece_id, "text": text, "author": author_id})
    return begin_reading(draft.script, [spoken], draft.voice, draft.pace, then)


@handles(OTHERWISE, priority=27)
def put_in_place(report: Report) -> None:
    """Let what was spoken take the place of its sentence, in the clip and in the draft."""
    clip = Document.objects.select_related("workspace").get(pk=report.target)
    wanted = report.job.wanted
    row = recording_of(str(wanted["recording"]))
    if row is None or not row.playable:
        raise CoreError(_FAILED)
    report.stage("Putting it in its place", 0, 1)
    draft = draft_of(clip)
    before = _written(draft, clip, str(wanted["piece"])) if draft else None
    words = transcript_of(row).words
    _exchange(clip, lambda _: [_instead(str(wanted["piece"]), row, words[0].id, words[-1].id)], wanted.get("author"))
    if draft and before is not None:
        text = str(wanted["text"])
        sentences = list(draft.sentences)
        sentences[before] = with_changes(sentences[before], text=text, said=said(text))
        Draft.objects.filter(pk=draft.pk).update(sentences_json=[each.model_dump(mode="json") for each in sentences])


def speak_instead(draft: Draft, clip: Document, author_id: int | None) -> int:
    """Let what people recorded of a draft take the place of what its voice read, sentence by sentence, where they have; how many
    sentences that are. Raises Problem."""
    read = read_by_people(draft)
    rows = {str(row.pk): row for row in Recording.objects.filter(pk__in={each.take for each in read.values()})}
    count = 0

    def stretches(sheet: Sheet) -> list[Instead]:
        nonlocal count
        found = []
        for piece, line in lines_of(draft, clip, sheet).items():
            if line in read:
                reading = read[line].reading
                found.append(_instead(piece, rows[read[line].take], reading.first, reading.last))
        count = len(found)
        return found

    if not read:
        raise Problem(409, "Nothing of this has been recorded yet, or its words are not there yet.")
    _exchange(clip, stretches, author_id)
    return count


def lines_of(draft: Draft, clip: Document, sheet: Sheet) -> dict[str, int]:
    """For the pieces of a clip that a voice read, by id, which of the sentences that are said each is."""
    found: dict[str, int] = {}
    voiced = Recording.objects.filter(workspace=clip.workspace_id, voiced=True, pk__in=sheet.recordings)
    read = {str(row.pk): read_by_voice(draft.lines, row) for row in voiced}
    for piece in sheet.pieces:
        for line, each in read.get(piece.recording or "", {}).items():
            middle = (each.reading.start + each.reading.end) / 2
            if piece.start <= middle < piece.end:
                found[piece.id] = line
    return found


def _written(draft: Draft, clip: Document, piece: str) -> int | None:
    """Which sentence of a draft a piece is."""
    line = lines_of(draft, clip, sheet_of(clip)).get(piece)
    kept = [n for n, each in enumerate(draft.sentences) if each.kept]
    return kept[line] if line is not None else None


def _instead(piece: str, row: Recording, first: int, last: int) -> Instead:
    return Instead(piece, sheet_of(desk_of(row)), first, last)


def _exchange(clip: Document, make: Callable[[Sheet], list[Instead]], author_id: object) -> None:
    def edit(sheet: Sheet) -> Edit:
        instead = make(sheet)
        known = dict(sources_of(clip, sheet).transcripts)
        for each in instead:
            for key in each.desk.recordings:
                known.setdefault(key, transcript_of(Recording.objects.get(pk=key)))
        return exchanged(sheet, known, instead)

    apply_to_newest(clip, edit, author_id if isinstance(author_id, int) else None)


def sentence_at(draft: Draft, clip: Document, piece: Piece, sources: Sources) -> tuple[Sentence, bool]:
    """What a piece says, as it is written in the draft (where it is not known, as it is said), and whether a voice read it."""
    voiced = recording_of(piece.recording or "") is not None
    place = _written(draft, clip, piece.id) if voiced else None
    if place is not None:
        return draft.sentences[place], draft.voice is not None
    transcript = sources.transcripts.get(piece.recording or "")
    text = plain_text(kept_words(transcript, piece)) if transcript else ""
    return Sentence(text=text, said=text), voiced and draft.voice is not None
