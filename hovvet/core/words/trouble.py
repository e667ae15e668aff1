"""What is wrong with a recording's sound or words, told so that a person knows what to do."""

from collections.abc import Sequence

import numpy as np

from hovvet.core.sound.silence import Sound, levels
from hovvet.core.time import clock
from hovvet.core.words.transcript import Word

_QUIET = -40.0  # dB: speech below this is hard to recognise
_SILENT = -60.0
_CLIPPED = 0.0005  # of the samples lie at the very top
_DOUBTFUL = 0.6  # mean confidence of words in a language that is not the one set
_UNCOVERED, _UNCOVERED_PART = 5.0, 0.25  # seconds, and part of a recording, without words somebody gave: more is told
_UNSURE, _UNSURE_WORDS = 0.55, 12  # words in a row that nobody can trust


def sound_trouble(sound: Sound, rate: int) -> str:
    """A message about the sound itself (mono, shape (samples,)), or "" when it is fine."""
    level = levels(sound, rate)
    loud = float(np.percentile(level, 95)) if level.size else -120.0
    if loud < _SILENT:
        return "This recording is silent. Check that the right microphone was recorded, then bring it in again."
    if loud < _QUIET:
        return (
            f"The sound is very quiet ({loud:.0f} dB at its loudest). Words may be missed; "
            "raise the level where it was recorded and bring it in again if you can."
        )
    top = float(np.abs(sound).max())
    if top > 0.5 and float(np.mean(np.abs(sound) > 0.985 * top)) > _CLIPPED:
        return (
            "The sound is clipped: it was recorded too loud and is distorted. Words may be wrong there; "
            "a copy recorded at a lower level would be better."
        )
    return ""


def words_trouble(words: Sequence[Word], duration: float, loud: bool) -> str:
    """A message about what was recognised in ``duration`` seconds, or "". ``loud`` says whether there was sound at all."""
    spoken = [word for word in words if word.kind == "word"]
    if not spoken:
        if loud:
            return (
                "No speech was found, only music or noise. If somebody speaks in it, bring in the speech "
                "without the music, or give the words as an SRT, VTT or TXT file."
            )
        return "No speech was found in this recording. If there is some, check that it can be heard."
    sure = sum(word.confidence for word in spoken) / len(spoken)
    if len(spoken) >= 20 and sure < _DOUBTFUL:
        return (
            f"Most words are doubtful ({sure:.0%} sure on average). The speech may be in another language than the one "
            "set, or people speak over music. Give the words as an SRT, VTT or TXT file, or correct them here."
        )
    places = unsure_stretches(spoken)
    if places:
        listed = ", ".join(f"{clock(start)} to {clock(end)}" for start, end in places[:3])
        more = f" and {len(places) - 3} more" if len(places) > 3 else ""
        return f"The words at {listed}{more} are doubtful: noise, or two people at once. Listen there first."
    return ""


def given_trouble(words: Sequence[Word], duration: float) -> str:
    """A message where the words that a person gave for ``duration`` seconds reach over a part of them only, or ""."""
    if not words or duration <= 0:
        return ""
    first, last = words[0].start, words[-1].end
    if first + duration - last <= max(_UNCOVERED, _UNCOVERED_PART * duration):
        return ""
    return (
        f"The words you gave reach from {clock(first)} to {clock(last)} of {clock(duration)}; what is said in the rest is not "
        "here. Give a transcript of all of it, or transcribe the recording again to have all of it recognised."
    )


def near_names(changes: Sequence[tuple[str, str]]) -> str:
    """A message about words that read nearly like names & terms: what they read, and what they could."""
    if not changes:
        return ""
    told = ", ".join(f"“{now}” (“{name}”?)" for now, name in dict.fromkeys(changes))
    return (
        f"Nearly like your names & terms: {told}. Look at them under Names & terms, with “Correct in this recording”."
    )


def unsure_stretches(words: Sequence[Word]) -> list[tuple[float, float]]:
    """Stretches (seconds) of at least 12 words of which hardly one is sure."""
    if len(words) < _UNSURE_WORDS:
        return []
    sure = np.array([word.confidence for word in words])
    means = np.convolve(sure, np.ones(_UNSURE_WORDS) / _UNSURE_WORDS, mode="valid")
    found: list[tuple[float, float]] = []
    for n in map(int, np.flatnonzero(means < _UNSURE)):
        unsure = [word for word in words[n : n + _UNSURE_WORDS] if word.confidence < _UNSURE]
        start, end = unsure[0].start, unsure[-1].end
        if found and start <= found[-1][1]:
            found[-1] = (found[-1][0], end)
        else:
            found.append((start, end))
    return found
