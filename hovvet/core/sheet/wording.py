"""What an edit did, in words for a list of changes."""

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass

from hovvet.core.captions.layout import layout_name
from hovvet.core.captions.style import STYLES
from hovvet.core.plan.outlets import OUTLETS, Outlet, outlet_name
from hovvet.core.sheet.applying import apply
from hovvet.core.sheet.cutting import kept_words
from hovvet.core.sheet.edits import (
    ArrangePieces,
    Batch,
    BreakCaption,
    BringBack,
    CopyPieces,
    CutPause,
    CutWords,
    Edit,
    InsertPieces,
    MarkKeywords,
    MovePieces,
    PutEdition,
    PutLayer,
    RemoveEdition,
    RemoveLayer,
    RemovePiece,
    SetCaptions,
    SetLayout,
    SplitPiece,
    TrimPiece,
    WearHouse,
)
from hovvet.core.sheet.model import Sheet, WordRef
from hovvet.core.value import BreakHow
from hovvet.core.words.corrections import Correction, JoinWords, NameSpeaker, Rewrite, SetSpeaker, SuggestSpeakers
from hovvet.core.words.transcript import Transcript, Word

_QUOTED = 40  # characters of what is said that are told; of more, as many whole words as fit

_REASONS = {
    "filler": "filler sounds",
    "phrase": "filler phrases",
    "repeat": "repeats",
    "restart": "restarts",
    "retake": "retakes",
}


_BREAKS: dict[BreakHow | None, str] = {
    "caption": "Split a caption",
    "join": "Joined two captions",
    "line": "Broke a line of a caption",
    None: "Left a caption to its layout",
}


@dataclass(frozen=True)
class Before:
    """What an edit was made on: the sheet, and what is said in its recordings. Of those that are missing nothing is told."""

    sheet: Sheet
    transcripts: Mapping[str, Transcript]

    def said(self, piece: str, words: Iterable[int]) -> str:
        """What is said in words of a piece, in quotes; "" where that is not known."""
        return self._quoted(self._recording(piece), words)

    def marked(self, refs: Sequence[WordRef]) -> str:
        """What is said in words that are named by where they come from."""
        origins = {ref.origin for ref in refs}
        one = next((each for each in self.sheet.pieces if each.origin in origins), None) if len(origins) == 1 else None
        return self._quoted(one.recording if one else None, (ref.word for ref in refs if ref.word is not None))

    def heard(self, pieces: Sequence[str]) -> str:
        """What is heard in pieces, in quotes."""
        words: list[Word] = []
        for each in self.sheet.pieces:
            if each.id in pieces and (transcript := self.transcripts.get(each.recording or "")):
                words += kept_words(transcript, each)
        return _quote(word.text for word in words)

    def layer(self, layer: str) -> str:
        """What a layer is called."""
        return next((each.content.label() for each in self.sheet.layers if each.id == layer), "")

    def _recording(self, piece: str) -> str | None:
        pieces = self.sheet.pieces
        return next((each.recording for each in pieces if each.id == piece), None)

    def _quoted(self, recording: str | None, words: Iterable[int]) -> str:
        transcript = self.transcripts.get(recording or "")
        places = [transcript.position.get(word) for word in words] if transcript else []
        if transcript is None or None in places:
            return ""
        return _quote(transcript.words[place].text for place in sorted(place for place in places if place is not None))


_UNKNOWN = Before(Sheet(), {})


def edit_in_words(edit: Edit, outlets: Mapping[str, Outlet] = OUTLETS, before: Before = _UNKNOWN) -> str:
    """One line that says what an edit of a sheet did, by the words it was done to; ``outlets`` are those it may name."""
    words: Counter[str] = Counter()
    said: dict[str, list[str]] = {"cut": [], "back": []}
    pauses = back = 0
    other = ""
    inserted = False  # a piece, in the place of one that is removed then
    for each in _singles(edit):
        match each:
            case CutWords():
                words[each.reason] += len(each.words)
                said["cut"].append(before.said(each.piece, each.words))
            case CutPause():
                pauses += 1
            case BringBack():
                back += len(each.words) + len(each.spans)
                said["back"].append(before.said(each.piece, each.words))
            case SplitPiece():
                # What is moved or copied after it are pieces that are there from now on.
                before = Before(apply(before.sheet, each), before.transcripts) if before is not _UNKNOWN else before
            case MovePieces():
                where = " to the end" if each.before is None else ""
                other = f"Moved {before.heard(each.pieces) or 'words'}{where}"
            case CopyPieces():
                other = f"Repeated {before.heard(each.pieces) or 'words'}"
            case RemovePiece() if inserted:
                other = f"Said otherwise: {before.heard([each.piece]) or 'a sentence'}"
            case RemovePiece():
                other = f"Removed {before.heard([each.piece]) or 'a piece'}"
            case InsertPieces():
                inserted = not each.pieces[0].is_gap
                other = f"Added {_inserted(each, before) or 'words'}" if inserted else "Added a gap"
            case ArrangePieces():
                other = "Took in a timeline from another editor"
            case TrimPiece():
                other = "Trimmed"
            case PutLayer():
                other = each.layer.content.label()
            case RemoveLayer():
                name = before.layer(each.layer)
                other = f"Removed: {name}" if name else "Removed a layer"
            case PutEdition():
                other = f"Edition for {outlet_name(each.edition.outlet, outlets)}"
            case RemoveEdition():
                other = "Removed an edition"
            case SetCaptions():
                style = each.style or STYLES.get(each.captions or "")
                other = f"Captions: {style.name}" if style else "No captions"
            case BreakCaption():
                other = _BREAKS[each.how]
            case MarkKeywords():
                what = before.marked(each.words) or _count(len(each.words), "word", "words")
                other = f"{'Marked' if each.marked else 'No longer marked'} {what}"
            case WearHouse():
                kept = "Kept as a house style" if each is edit else "House style applied"
                other = kept if each.worn else "House style removed"
            case SetLayout():
                name = layout_name(each.layout) or "own lengths"
                other = f"Captions: {name[0].lower()}{name[1:]}"
    if back:
        return f"Restored {_one(said['back']) or _count(back, 'word or pause', 'words and pauses')}"
    if other:
        return other
    parts = [f"{_count(count, 'word', 'words')}{_why(reason)}" for reason, count in words.items()]
    if len(parts) == 1 and (quoted := _one(said["cut"])):
        parts = [f"{quoted}{_why(next(iter(words)))}"]
    if pauses:
        parts.append(_count(pauses, "pause", "pauses"))
    return f"Cut {', '.join(parts)}" if parts else "Changed nothing"


def correction_in_words(correction: Correction) -> str:
    """One line that says what a correction of the transcript did."""
    match correction:
        case Rewrite() if len(correction.changes) == 1:
            return f"Corrected to “{correction.changes[0].text[:60]}”"
        case Rewrite():
            return f"Corrected {len(correction.changes)} places"
        case JoinWords():
            return f"Joined “{correction.texts[0]}” and “{correction.texts[1]}”"
        case SetSpeaker():
            return f"Gave {_count(len(correction.words), 'word', 'words')} to speaker {correction.speaker[1:]}"
        case NameSpeaker():
            what = f"Named speaker {correction.speaker[1:]} {correction.name}" if correction.name else ""
            return what or f"Changed speaker {correction.speaker[1:]}"
        case SuggestSpeakers():
            return "Told speakers apart by their voices"


def _inserted(edit: InsertPieces, before: Before) -> str:
    there = {each.recording: before.transcripts.get(each.recording or "") for each in edit.pieces}
    return _quote(
        word.text for each in edit.pieces if (said := there[each.recording]) for word in kept_words(said, each)
    )


def _one(said: Sequence[str]) -> str:
    """What is quoted, where that is one thing."""
    return said[0] if len(said) == 1 else ""


def _quote(texts: Iterable[str]) -> str:
    """Words in quotes, with … for those that are too many; "" for none."""
    kept = ""
    for text in texts:
        longer = f"{kept} {text}".lstrip()
        if len(longer) > _QUOTED:
            return f"“{kept or text[:_QUOTED]}…”"
        kept = longer
    kept = kept.rstrip(",.;:")
    return f"“{kept}”" if kept else ""


def _singles(edit: Edit) -> Iterator[Edit]:
    if isinstance(edit, Batch):
        for each in edit.edits:
            yield from _singles(each)
    else:
        yield edit


def _why(reason: str) -> str:
    return f" ({_REASONS[reason]})" if reason in _REASONS else ""


def _count(count: int, one: str, many: str) -> str:
    return f"{count} {one if count == 1 else many}"
