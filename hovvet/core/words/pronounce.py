"""How a word is said, in the phones of the aligner (ARPAbet)."""

import re
import subprocess
from collections.abc import Sequence

# espeak-ng's IPA for English to ARPAbet, longest first.
_IPA = {
    "aɪə": "AY ER", "aɪɚ": "AY ER", "tʃ": "CH", "dʒ": "JH", "aɪ": "AY", "aʊ": "AW", "eɪ": "EY", "oʊ": "OW", "əʊ": "OW",
    "ɔɪ": "OY", "ɪɹ": "IH R", "iə": "IY AH", "ɛɹ": "EH R", "ʊɹ": "UH R", "ɔːɹ": "AO R", "oːɹ": "AO R", "ɑːɹ": "AA R",
    "ɜː": "ER", "ɚ": "ER", "ɝ": "ER", "əl": "AH L", "ən": "AH N", "iː": "IY", "uː": "UW", "ɔː": "AO", "ɑː": "AA", "oː": "AO",
    "i": "IY", "ɪ": "IH", "ᵻ": "IH", "e": "EH", "ɛ": "EH", "æ": "AE", "a": "AE", "ɐ": "AH", "ʌ": "AH", "ə": "AH", "ɑ": "AA",
    "ɒ": "AA", "ɔ": "AO", "o": "OW", "ʊ": "UH", "u": "UW", "p": "P", "b": "B", "t": "T", "d": "D", "k": "K", "ɡ": "G",
    "g": "G", "f": "F", "v": "V", "θ": "TH", "ð": "DH", "s": "S", "z": "Z", "ʃ": "SH", "ʒ": "ZH", "h": "HH", "m": "M",
    "n": "N", "ŋ": "NG", "l": "L", "ɹ": "R", "r": "R", "ɾ": "T", "w": "W", "j": "Y", "ʔ": "T", "x": "K",
}  # fmt: skip
_PATTERN = re.compile("|".join(sorted(map(re.escape, _IPA), key=len, reverse=True)))


_known: dict[str, str] = {}


def phones(words: Sequence[str]) -> dict[str, str]:
    """The phones of each word, numeral or abbreviation, spaced; a neutral vowel for what cannot be said.

    All new words are asked for at once: starting the pronouncer costs more than asking it.
    """
    fresh = [word for word in dict.fromkeys(words) if word not in _known]
    if fresh:
        command = ["espeak-ng", "-q", "--ipa", "-v", "en-us", "--stdin"]
        # A full stop and an empty line keep each word a sentence, and so a line, of its own.
        text = "\n\n".join(f"{word}." for word in fresh)
        run = subprocess.run(command, input=text, capture_output=True, text=True, timeout=60, check=False)
        said = [line for line in run.stdout.splitlines() if line.strip()]
        if len(said) != len(fresh):
            said = [_said_alone(word) for word in fresh]
        for word, ipa in zip(fresh, said, strict=True):
            _known[word] = " ".join(_IPA[part] for part in _PATTERN.findall(ipa)) or "AH"
    return {word: _known[word] for word in words}


def _said_alone(word: str) -> str:
    command = ["espeak-ng", "-q", "--ipa", "-v", "en-us", "--", word]
    return subprocess.run(command, capture_output=True, text=True, timeout=10, check=False).stdout
