"""Finding assets of a workspace."""

from collections.abc import Sequence

import numpy as np

from hovvet.core.engines.meaning import vectors
from hovvet.core.shelf.searching import found
from hovvet.server.assets.models import STANDING, Asset


def matching(assets: Sequence[Asset], text: str) -> list[Asset]:
    """Those that answer a text, best first; without one all, as they are."""
    if not text.strip():
        return list(assets)
    standing = [asset for asset in assets if asset.kind in STANDING]
    means = np.array([asset.means for asset in standing])
    return [standing[n] for n in found(text, [asset.described for asset in standing], means, vectors)]
