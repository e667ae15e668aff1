"""What every kind of content has."""

from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field

from hovvet.core.value import APART, Value

Lane = Literal["picture", "screen", "sound", "text"]


class Content(Value):
    """Something laid over words. ``lane`` is where it is drawn beside them; ``alone``, whether there can be only one
    of its kind over the same words; ``most`` how many of its kind a sheet may have; ``title``, what the kind is called;
    ``presets`` settings to begin from, by name."""

    lane: ClassVar[Lane]
    alone: ClassVar[bool] = True
    most: ClassVar[int] = 500
    title: ClassVar[str]
    presets: ClassVar[dict[str, dict[str, Any]]] = {}

    def replaces(self, other: "Content") -> bool:
        """Whether it takes the place of another content over the same words."""
        return self.alone and other.kind == self.kind  # type: ignore[attr-defined]

    @property
    def follows_faces(self) -> bool:
        """Whether it has to be known where faces are."""
        return False

    @property
    def media_shown(self) -> tuple[str, ...]:
        """The recordings and pictures that it shows."""
        return ()

    @property
    def assets(self) -> tuple[str, ...]:
        """All that it needs of what the workspace brought in."""
        return self.media_shown

    def label(self) -> str:
        """What it is, in a few words, for its bar and for the list of changes."""
        return self.title


class Showing(Content):
    """What shows one thing of the workspace: a recording, or an asset; "" before it is chosen."""

    media: Annotated[
        str, Field(max_length=64, pattern=r"^[\w.-]*$", title="What is shown", json_schema_extra=APART)
    ] = ""

    @property
    def media_shown(self) -> tuple[str, ...]:
        """What it shows."""
        return (self.media,) if self.media else ()
