"""How long an edit locks the database for everybody: ``python bench/locks.py``, a part of ``make bench``.

A clip of an hour (9,000 words) with many pieces and layers is edited; what is written down is timed apart from all that is
worked out before.
"""

import gc
import sys
import time
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent.parent))

from django.core.management import call_command

import bench.own_data  # noqa: F401  # before anything of the server
from hovvet.core.sheet.contents.title import Title
from hovvet.core.sheet.edits import CutWords
from hovvet.core.sheet.model import Layer, Piece, Run, Sheet, Span
from hovvet.server.accounts.models import Workspace
from hovvet.server.documents import changing, making
from hovvet.server.documents.models import Document
from tests.media import even_words
from tests.server.base import recording_row

EDITS = 60


def clip_of(workspace: Workspace, words: int, pieces: int, layers: int) -> Document:
    """A clip of so many words in so many pieces, with titles over them."""
    transcript = even_words(words)
    row = recording_row(workspace, transcript)
    step = transcript.duration / pieces
    own = tuple(
        Piece(id=f"p{n}", origin="p0", recording=str(row.pk), start=n * step, end=(n + 1) * step) for n in range(pieces)
    )
    over = tuple(
        Layer(
            id=f"l{n}",
            span=Span(runs=(Run(origin="p0", start=n * 10.0, end=n * 10.0 + 5),)),
            content=Title(text=f"Title {n}"),
        )
        for n in range(layers)
    )
    return making.create_document(workspace, Document.Kind.CLIP, "A clip", Sheet(pieces=own, layers=over))


def main() -> None:
    """Edit, and print what it took."""
    call_command("migrate", verbosity=0)
    gc.freeze()
    gc.set_threshold(50_000, 20, 20)  # as the web server has it
    workspace = Workspace.objects.create(name="Bench")
    write = changing._write
    held: list[float] = []

    def timed(*arguments: object) -> None:
        began = time.perf_counter()
        write(*arguments)  # type: ignore[arg-type]
        held.append(1000 * (time.perf_counter() - began))

    changing._write = timed  # type: ignore[assignment]
    for words, pieces, layers in ((130, 10, 10), (1_200, 400, 100), (8_900, 2_000, 200)):
        clip = clip_of(workspace, words, pieces, layers)
        held.clear()
        whole = []
        for n in range(EDITS):
            began = time.perf_counter()
            changing.apply_edit(clip, n + 1, CutWords(piece=f"p{n % pieces}", words=(2 + n * 2,)), None)
            whole.append(1000 * (time.perf_counter() - began))
        whole.sort()
        held.sort()
        print(
            f"{words} words, {pieces} pieces, {layers} layers: an edit p50 {whole[EDITS // 2]:.0f} ms, most {whole[-1]:.0f} ms; of that "
            f"the database is locked p50 {held[EDITS // 2]:.1f} ms, p99 {held[int(EDITS * 0.99)]:.1f} ms"
        )


if __name__ == "__main__":
    main()
