"""What a person's own choices say of the passages they like: weights that shift gently, and never far."""

from collections.abc import Collection, Mapping

from pydantic import BaseModel, ConfigDict

_MOST = 0.4  # by which a weight may shift
_CALM = 4  # choices that are needed before it has shifted half as far
KINDS = ("question", "story", "claim", "number")  # signs that passages begin with


class Judgements(BaseModel):
    """How many passages with a sign were ``kept``, and ``hidden``."""

    model_config = ConfigDict(frozen=True)

    kept: int = 0
    hidden: int = 0


def judged(choices: Mapping[str, Judgements], kinds: Collection[str], kept: bool) -> dict[str, Judgements]:
    """The choices with one more: a passage for these reasons was kept, or hidden."""
    made = dict(choices)
    for kind in KINDS:
        if kind in kinds:
            own = made.get(kind, Judgements())
            made[kind] = Judgements(kept=own.kept + kept, hidden=own.hidden + (not kept))
    return made


def leanings(choices: Mapping[str, Judgements]) -> dict[str, float]:
    """What the choices add to the weight of each sign, from -0.4 to 0.4."""
    return {
        kind: _MOST * (own.kept - own.hidden) / (own.kept + own.hidden + _CALM)
        for kind, own in choices.items()
        if kind in KINDS
    }
