"""Tags that a thing of the Shelf could have: words of its name, and tags of others that mean something like it."""

import re
from collections.abc import Callable, Sequence

import numpy as np

from hovvet.core.engines.meaning import Vectors

MOST = 6  # tags that are offered
_NEAR = 0.4  # cosine from which a tag means something like a name
_OWN = 3  # of them from the name itself, at most
_WORD = re.compile(r"[^\W\d_]{4,}")
_SAYS_NOTHING = frozenset(
    "copy final from into image over part photo picture version video with your their this that".split()
)


def tags_for(
    name: str, has: Sequence[str], known: Sequence[str], meaning: Callable[[Sequence[str]], Vectors]
) -> list[str]:
    """Tags that a thing of this name could have besides those it ``has``, best first; ``known`` are those of other things."""
    taken = {tag.lower() for tag in has}
    words = [word for word in _WORD.findall(name.lower()) if word not in _SAYS_NOTHING]
    own = [word for word in dict.fromkeys(words) if word not in taken][:_OWN]
    others = [tag for tag in dict.fromkeys(tag.lower() for tag in known) if tag not in taken and tag not in own]
    if not others or not words:
        return own
    means = meaning([" ".join(words), *others])
    alike = means[1:] @ means[0]
    near = [others[n] for n in np.argsort(-alike, kind="stable") if alike[n] >= _NEAR]
    return [*own, *near][:MOST]
