"""The takes of a script laid beside it."""

from collections.abc import Sequence
from functools import lru_cache

from hovvet.core.script.beside import Reading, readings
from hovvet.core.script.choosing import ReadIn
from hovvet.core.script.lines import ScriptKind, script_of
from hovvet.core.words.transcript import Transcript
from hovvet.server.documents.transcripts import transcript_of
from hovvet.server.scripts.looking import looks_of
from hovvet.server.scripts.models import Script, Take


def takes_of(script: Script) -> list[Take]:
    """The takes of a script that people recorded, in the order in which they were made."""
    return _takes(script, voiced=False)


def read_aloud(script: Script) -> list[Take]:
    """Those that a voice read."""
    return _takes(script, voiced=True)


def _takes(script: Script, voiced: bool) -> list[Take]:
    rows = script.takes.select_related("recording__show", "recording__workspace")
    return list(rows.filter(recording__voiced=voiced))


def read_in(script: Script, takes: Sequence[Take]) -> list[ReadIn]:
    """All readings in those takes of a script whose words are there."""
    found: list[ReadIn] = []
    for take in takes:
        if not take.recording.words_ready:
            continue
        looks = looks_of(take)
        for reading in _readings(script.text, script.kind, transcript_of(take.recording)):
            part = looks.part(reading.start, reading.end) if looks else None
            found.append(ReadIn(take=str(take.recording_id), reading=reading, starred=take.starred, looks=part))
    return found


@lru_cache(maxsize=64)
def _compared(text: str, kind: ScriptKind, transcript: str) -> tuple[Reading, ...]:
    return tuple(readings(script_of(text, kind), Transcript.model_validate_json(transcript)))


def _readings(text: str, kind: ScriptKind, transcript: Transcript) -> tuple[Reading, ...]:
    return _compared(text, kind, transcript.model_dump_json())
