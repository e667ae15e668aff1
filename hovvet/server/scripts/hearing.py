"""What is heard of somebody who reads a script, while they do."""

import threading
from functools import cache

import numpy as np

from hovvet.core.engines.whisper import WhisperRecogniser
from hovvet.core.media.decode import SPEECH_RATE
from hovvet.core.script.following import LONGEST, QUIETEST, Followed, follow
from hovvet.core.script.lines import words_of
from hovvet.core.sound.silence import Sound
from hovvet.core.words.vocabulary import ENGLISH
from hovvet.server.problems import Problem
from hovvet.server.scripts.models import Script

_one = threading.Lock()  # one is listened to at a time: who comes meanwhile goes on by the pace


@cache
def _ear() -> WhisperRecogniser:
    return WhisperRecogniser(threads=1)


def heard_of(sound: Sound) -> list[str]:
    """The words in a few seconds of 16 kHz mono sound, as they are compared; none where nobody speaks."""
    if not len(sound) or float(np.sqrt(np.mean(np.square(sound)))) < QUIETEST:
        return []
    return words_of(_ear().catch(sound))


def followed(script: Script, word: int, samples: bytes) -> Followed:
    """Where somebody is in a script who was before ``word``, after some seconds of 16 kHz mono sound, 16 bits. Raises Problem for
    more than can be listened to."""
    if len(samples) % 2 or len(samples) > 2 * LONGEST * SPEECH_RATE:
        raise Problem(413, "That is more sound than can be listened to at once.")
    unsure = Followed(word=word, sure=False)
    language = script.show.language if script.show else ENGLISH
    if language != ENGLISH or not _one.acquire(blocking=False):
        return unsure
    try:
        heard = heard_of(np.frombuffer(samples, "<i2").astype(np.float32) / np.float32(32768))
    finally:
        _one.release()
    return follow(script.lines, word, heard, language)
