"""What an edit did, in words for a list of changes."""

from collections import Counter
from collections.abc import Iterator, Mapping

from hovvet.core.captions.layout import layout_name
from hovvet.core.captions.style import STYLES
from hovvet.core.plan.outlets import OUTLETS, Outlet, outlet_name
from hovvet.core.sheet.edits import (
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
    TrimPiece,
    WearHouse,
)
from hovvet.core.value import BreakHow
from hovvet.core.words.corrections import Correction, JoinWords, NameSpeaker, Rewrite, SetSpeaker, SuggestSpeakers

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


def edit_in_words(edit: Edit, outlets: Mapping[str, Outlet] = OUTLETS) -> str:
    """One line that says what an edit of a sheet did; ``outlets`` are those it may name."""
    words: Counter[str] = Counter()
    pauses = back = 0
    other = ""
    for each in _singles(edit):
        match each:
            case CutWords():
                words[each.reason] += len(each.words)
            case CutPause():
                pauses += 1
            case BringBack():
                back += len(each.words) + len(each.spans)
            case MovePieces():
                other = "Moved to the end" if each.before is None else "Moved words"
            case CopyPieces():
                other = "Repeated words"
            case RemovePiece():
                other = "Took a piece away"
            case InsertPieces():
                other = "Added a gap" if each.pieces[0].is_gap else "Added words"
            case TrimPiece():
                other = "Trimmed"
            case PutLayer():
                other = each.layer.content.label()
            case RemoveLayer():
                other = "Took something off"
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
                count = _count(len(each.words), "word", "words")
                other = f"{'Marked' if each.marked else 'No longer marked'} {count}"
            case WearHouse():
                other = "Dressed in the house style" if each.worn else "Took the house style off"
            case SetLayout():
                name = layout_name(each.layout) or "own lengths"
                other = f"Captions: {name[0].lower()}{name[1:]}"
    if back:
        return f"Brought back {_count(back, 'word or pause', 'words and pauses')}"
    if other:
        return other
    parts = [f"{_count(count, 'word', 'words')}{_why(reason)}" for reason, count in words.items()]
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
