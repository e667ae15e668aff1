"""Reading words files in a program of its own, under limits: they come from outside, and their parsers are not ours."""

import tempfile
from pathlib import Path, PurePath

from hovvet.core.errors import CoreError
from hovvet.core.media.process import Limits, answer_of
from hovvet.core.words.words_in import KINDS, LARGEST, Said

_BROKEN = "The words of this file could not be read. Export it again."
_LIMITS = Limits(seconds=20, cpu=20, output=0, memory=1024**3)


def read_apart(path: Path) -> list[Said]:
    """What a words file says, in order (see ``words_in.read_words``). Raises CoreError."""
    if path.stat().st_size > LARGEST:
        raise CoreError(f"The file is larger than {LARGEST // 1_000_000} MB, too large for a transcript.")
    answer = answer_of("hovvet.core.words.words_in", [str(path)], _LIMITS, _BROKEN)
    return [Said(**each) for each in answer["said"]]


def check_apart(data: bytes, name: str) -> None:
    """Raises CoreError unless these bytes, under this file name, are a words file with words in it."""
    kind = PurePath(name).suffix.lower()
    if kind not in KINDS:
        raise CoreError("Words can be taken from SRT, VTT and TXT files.")
    with tempfile.TemporaryDirectory() as scratch:
        file = Path(scratch) / f"given{kind}"
        file.write_bytes(data)
        read_apart(file)
