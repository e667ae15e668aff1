"""What a sweep looks for, and how much it leaves."""

from pydantic import BaseModel, ConfigDict, Field

from hovvet.core.sweep.finds import FindKind


class SweepSettings(BaseModel):
    """Kinds to look for; pauses of ``pause_from`` seconds and more are shortened to ``pause_left``."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    kinds: frozenset[FindKind] = frozenset({"filler", "pause"})
    pause_from: float = Field(default=0.7, ge=0.3, le=10)
    pause_left: float = Field(default=0.35, ge=0.1, le=2)
