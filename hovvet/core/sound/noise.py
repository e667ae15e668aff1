"""Taking steady noise out of speech, for what measures speech and not for what is heard."""

import numpy as np
from numpy.typing import NDArray

from hovvet.core.sound.silence import Sound

_FRAME, _HOP = 512, 128  # samples: 32 ms every 8 ms
_QUIET = 15  # the percentile of frames that are taken for the room alone
_TAKEN = 2.0  # of the noise's power
_LEFT = 0.3  # of a band's amplitude at least: taking all of it would leave chirps


def without_noise(sound: Sound) -> Sound:
    """A sound (mono, 16 kHz, shape (samples,)) with the noise of its quietest moments taken out of all of it.

    Spectral subtraction: Boll, "Suppression of Acoustic Noise in Speech Using Spectral Subtraction" (1979).
    """
    padded = np.pad(sound.astype(np.float64), (_FRAME, 2 * _FRAME))
    window = np.hanning(_FRAME + 1)[:_FRAME]
    spectra = np.fft.rfft(np.lib.stride_tricks.sliding_window_view(padded, _FRAME)[::_HOP] * window, axis=1)
    power = np.abs(spectra) ** 2
    level = power.sum(axis=1)
    noise = power[level <= np.percentile(level, _QUIET)].mean(axis=0)
    gain = np.sqrt(np.maximum(1 - _TAKEN * noise / np.maximum(power, 1e-12), _LEFT**2))
    frames = np.fft.irfft(spectra * gain, axis=1) * window
    return _overlapped(frames, window, len(padded))[_FRAME : _FRAME + len(sound)].astype(np.float32)


def _overlapped(frames: NDArray[np.float64], window: NDArray[np.float64], length: int) -> NDArray[np.float64]:
    made, weight = np.zeros(length), np.zeros(length)
    for n, frame in enumerate(frames):
        made[n * _HOP : n * _HOP + _FRAME] += frame
        weight[n * _HOP : n * _HOP + _FRAME] += window**2
    return made / np.maximum(weight, 1e-3)
