"""How a word is said, in the phones of the aligner (ARPAbet)."""

import re
import subprocess
from functools import lru_cache

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


@lru_cache(maxsize=20_000)
def phones(word: str) -> str:
    """The phones of a word, numeral or abbreviation, spaced; a neutral vowel when it cannot be said."""
    command = ["espeak-ng", "-q", "--ipa", "-v", "en-us", "--", word]
    run = subprocess.run(command, capture_output=True, text=True, timeout=10, check=False)
    found = " ".join(_IPA[part] for part in _PATTERN.findall(run.stdout))
    return found or "AH"
