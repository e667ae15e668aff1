"""Remake the stored transcripts of the demo recordings: ``python demo/make_words.py``.

The careful recogniser listens, and what it misheard is corrected by what was read out, as a person would who listens along.
Those who speak in a conversation are as their voices suggest, and named.
"""

import json
import sys
from pathlib import Path
from tempfile import TemporaryDirectory

from rapidfuzz.distance import Levenshtein

from hovvet.cli import main
from hovvet.core.formats.transcripts import transcript_file
from hovvet.core.media.decode import speech_wav
from hovvet.core.media.wav import open_wav
from hovvet.core.words.corrections import NameSpeaker, Rewrite, Rewritten, SuggestSpeakers, correct
from hovvet.core.words.speakers import suggest_speakers
from hovvet.core.words.transcript import Transcript
from hovvet.core.words.vocabulary import bare

HERE = Path(__file__).parent
SPEAKERS, CONVERSATIONS = ("Tolliver", "Maren"), ("interview", "open-night")


def corrected(heard: Transcript, said: list[str]) -> Transcript:
    """A transcript with its words as they were said, where they are as many and as long as a person would put right at once.
    What was not heard at all stays away, and sounds that nobody read out stay."""
    words = [word for word in heard.words if word.kind == "word"]
    spoken = [text for text in said if bare(text)]
    changes = []
    for op in Levenshtein.opcodes([bare(word.text) for word in words], [bare(text) for text in spoken]):
        own, texts = words[op.src_start : op.src_end], spoken[op.dest_start : op.dest_end]
        if op.tag == "equal":
            pairs = [((word,), text) for word, text in zip(own, texts, strict=True)]
        elif op.tag == "replace":
            pairs = [(tuple(own), " ".join(texts))]
        else:
            continue
        changes += [
            Rewritten(words=tuple(word.id for word in one), text=text)
            for one, text in pairs
            if " ".join(word.text for word in one) != text
        ]
    return correct(heard, Rewrite(changes=tuple(changes), fresh=10**6)) if changes else heard


def told_apart(speech: Path, words: Transcript) -> Transcript:
    """A conversation with the two who speak in it named."""
    with TemporaryDirectory() as folder:
        wav = Path(folder) / "speech.wav"
        speech_wav(speech, wav, words.duration)
        turns = suggest_speakers(open_wav(wav), words.words, len(SPEAKERS))
    words = correct(words, SuggestSpeakers(turns=tuple(turns)))
    for n, name in enumerate(SPEAKERS, 1):
        words = correct(words, NameSpeaker(speaker=f"S{n}", name=name))
    return words


if __name__ == "__main__":
    for speech in sorted((HERE / "speech").glob("*.opus")):
        out = HERE / "words" / f"{speech.stem}.json"
        code = main(["transcribe", "--careful", str(speech), "-o", str(out)])
        if code:
            sys.exit(code)
        truth = json.loads(speech.with_suffix(".truth.json").read_text())
        texts = [word for each in truth["utterances"] for word in each["text"].split()]
        fillers = {"um", "uh", "er", "hmm"}
        made = corrected(
            Transcript.model_validate_json(out.read_bytes()), [text for text in texts if bare(text) not in fillers]
        )
        if speech.stem in CONVERSATIONS:
            made = told_apart(speech, made)
        out.write_text(transcript_file(made, "json"))
