"""A whole transcript as a file to read or to take elsewhere: TXT, SRT, VTT, JSON."""

import json
from collections.abc import Sequence
from typing import Any, Literal

import pysubs2

from hovvet.core.captions.phrases import break_phrases
from hovvet.core.passages.chapters import Chapter
from hovvet.core.time import clock
from hovvet.core.words.layout import paragraphs
from hovvet.core.words.transcript import Transcript, Word, plain_text

TranscriptKind = Literal["txt", "srt", "vtt", "json"]


def transcript_file(transcript: Transcript, kind: TranscriptKind, chapters: Sequence[Chapter] = ()) -> str:
    """The text of a file of this kind. Cues are phrases, timed to their words in seconds of the recording. Chapters stand in
    TXT (before the paragraph that begins with or in them) and, as notes, in VTT."""
    match kind:
        case "txt":
            return as_text(transcript, chapters)
        case "json":
            return json.dumps(document(transcript), ensure_ascii=False) + "\n"
        case "srt" | "vtt":
            return _cues(transcript, kind, chapters if kind == "vtt" else ())


def document(transcript: Transcript) -> dict[str, Any]:
    """The transcript as words.json has it: what nobody has said of its speakers is left out."""
    made = transcript.model_dump(mode="json")
    if not transcript.speakers:
        del made["speakers"]
    for word in made["words"]:
        if word["speaker_by"] == "nobody":
            del word["speaker_by"]
    return made


def as_text(transcript: Transcript, chapters: Sequence[Chapter] = ()) -> str:
    """Paragraphs, with a speaker's name before the first of each of their turns when there is more than one speaker; before
    them the names of chapters, each with its time."""
    waiting = list(chapters)
    words = transcript.words
    named = len({word.speaker for word in words}) > 1 or any(speaker.name for speaker in transcript.speakers)
    lines = []
    before = None
    for paragraph in paragraphs(words):
        text = plain_text(_written(words[paragraph.first : paragraph.last + 1]))
        while waiting and waiting[0].start < words[paragraph.last].end:
            chapter = waiting.pop(0)
            lines.append(f"[{clock(chapter.start)}] {chapter.title}")
        if text:
            name = f"{transcript.speaker_name(paragraph.speaker)}: " if named and paragraph.speaker != before else ""
            lines.append(name + text)
            before = paragraph.speaker
    return "\n\n".join(lines) + "\n"


def _written(words: Sequence[Word]) -> list[Word]:
    return [word for word in words if word.kind != "sound"]


def _cues(transcript: Transcript, kind: str, chapters: Sequence[Chapter]) -> str:
    file = pysubs2.SSAFile()
    words = _written(transcript.words)
    phrases = break_phrases(words)
    for first, end in phrases:
        text = plain_text(words[first:end]).replace("\\", "∖").replace("{", "(").replace("}", ")")
        file.events.append(
            pysubs2.SSAEvent(round(words[first].start * 1000), round(words[end - 1].end * 1000), text=text)
        )
    text = file.to_string(kind)
    # Cues are parted by empty lines, the head of the file being the first part.
    head, *cues = text.split("\n\n") if chapters else (text,)
    for chapter in reversed(chapters):
        at = next((n for n, (_, end) in enumerate(phrases) if words[end - 1].end > chapter.start), len(phrases))
        cues.insert(at, f"NOTE Chapter: {chapter.title.replace('-->', '→')}")
    return "\n\n".join([head, *cues])
