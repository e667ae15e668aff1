"""What repeats, restarts and retakes look at alike: how words read, and whether a sentence or a phrase is finished."""

from collections.abc import Sequence

from hovvet.core.words.transcript import Word
from hovvet.core.words.vocabulary import bare, ends_sentence

SUBJECTS = frozenset("i we you he she it they the this that there these those my our your his her".split())

# A phrase that ends with one of these was not finished.
UNFINISHED = frozenset(
    (
        "a an the and but or so of to in on at by for from with as is are was were be been am if my your his "
        "her our their its i we you they he she it that this these those not no when where who which because "
        "would could should can will have has had do did does very really about into just"
    ).split()
)


def readings(words: Sequence[Word]) -> list[str]:
    """How words read, without case and marks."""
    return [bare(word.text) for word in words]


def trails_off(text: str) -> bool:
    """Whether a word ends in dots or a dash."""
    return text.rstrip().endswith(("...", "…", "-", "–", "—"))


def ends(word: Word) -> bool:
    """Whether a sentence is finished with this word; one that trails off is not."""
    return ends_sentence(word.text) and not trails_off(word.text)


def places(words: Sequence[Word]) -> dict[int, int]:
    """Where each word stands, by id: ids say nothing of it once words were joined or split."""
    return {word.id: n for n, word in enumerate(words)}
