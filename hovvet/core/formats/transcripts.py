"""A whole transcript as a file to read or to take elsewhere: TXT, SRT, VTT, JSON."""

import json
from collections.abc import Sequence
from typing import Any, Literal

import pysubs2

from hovvet.core.captions.phrases import break_phrases
from hovvet.core.words.layout import paragraphs
from hovvet.core.words.transcript import Transcript, Word, plain_text

TranscriptKind = Literal["txt", "srt", "vtt", "json"]


def transcript_file(transcript: Transcript, kind: TranscriptKind) -> str:
    """The text of a file of this kind. Cues are phrases, timed to their words in seconds of the recording."""
    match kind:
        case "txt":
            return as_text(transcript)
        case "json":
            return json.dumps(document(transcript), ensure_ascii=False) + "\n"
        case "srt" | "vtt":
            return _cues(transcript, kind)


def document(transcript: Transcript) -> dict[str, Any]:
    """The transcript as words.json has it: what nobody has said of its speakers is left out."""
    made = transcript.model_dump(mode="json")
    if not transcript.speakers:
        del made["speakers"]
    for word in made["words"]:
        if word["speaker_by"] == "nobody":
            del word["speaker_by"]
    return made


def as_text(transcript: Transcript) -> str:
    """Paragraphs, with a speaker's name before the first of each of their turns when there is more than one speaker."""
    words = transcript.words
    named = len({word.speaker for word in words}) > 1 or any(speaker.name for speaker in transcript.speakers)
    lines = []
    before = None
    for paragraph in paragraphs(words):
        text = plain_text(_written(words[paragraph.first : paragraph.last + 1]))
        if text:
            name = f"{transcript.speaker_name(paragraph.speaker)}: " if named and paragraph.speaker != before else ""
            lines.append(name + text)
            before = paragraph.speaker
    return "\n\n".join(lines) + "\n"


def _written(words: Sequence[Word]) -> list[Word]:
    return [word for word in words if word.kind != "sound"]


def _cues(transcript: Transcript, kind: str) -> str:
    file = pysubs2.SSAFile()
    words = _written(transcript.words)
    for first, end in break_phrases(words):
        text = plain_text(words[first:end]).replace("\\", "∖").replace("{", "(").replace("}", ")")
        file.events.append(
            pysubs2.SSAEvent(round(words[first].start * 1000), round(words[end - 1].end * 1000), text=text)
        )
    return file.to_string(kind)
