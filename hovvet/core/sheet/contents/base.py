"""What every kind of content has."""

from typing import Annotated, Any, ClassVar, Literal

from pydantic import Field, GetCoreSchemaHandler
from pydantic_core import CoreSchema, core_schema

from hovvet.core.plan.model import Spoken
from hovvet.core.sound.clearer import Strength
from hovvet.core.value import APART, Value

Lane = Literal["picture", "screen", "sound", "text"]
LANES: dict[Lane, str] = {"picture": "Picture", "screen": "On screen", "sound": "Sound", "text": "Words"}
SILENT, LOUDEST = -60.0, 6.0  # dB beside the speech: what is at the first is not heard at all
Group = Literal["screen", "picture", "sound", "time", "words"]

KINDS: dict[str, type["Content"]] = {}  # by what they are called in files; one is registered by being defined


class OfAnyKind:
    """For the schema of a field: it holds content of any kind that there is, told by its ``kind``."""

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        """One of all kinds."""
        return core_schema.tagged_union_schema(
            {key: handler.generate_schema(kind) for key, kind in KINDS.items()}, discriminator="kind"
        )


class Offer(Value):
    """A way in which a kind is offered to be laid, in a menu and by ``keys``: over the selected ``words``, from their first
    one ``to the end``, or over the whole ``clip``, beginning from a ``preset`` and with what it ``sets``. Offers of a menu stand
    in the order of ``place``."""

    label: str
    place: int
    id: str = ""  # of its command, where that is not made of its kind and what it lies over
    over: Literal["words", "to the end", "clip"] = "words"
    here: bool = False  # where no words are selected, over the one at the playhead
    keys: tuple[str, ...] = ()
    preset: str | None = None
    sets: dict[str, Any] = {}
    text: Literal["", "what is said", "the title"] = (
        ""  # what it says at first: the selected words, or the clip's title
    )


class Content(Value):
    """Something laid over words."""

    kind: str

    lane: ClassVar[Lane]
    """Where it is drawn beside the words."""
    title: ClassVar[str]
    """What the kind is called."""
    group: ClassVar[Group | None] = None
    """The menu in which it is offered."""
    offers: ClassVar[tuple[Offer, ...]] = ()
    presets: ClassVar[dict[str, dict[str, Any]]] = {}
    """Settings to begin from, by name."""
    alone: ClassVar[bool] = True
    """Whether there can be only one of its kind over the same words."""
    covers: ClassVar[bool] = False
    """Whether it hides the picture of who speaks."""
    on_cover: ClassVar[bool] = False
    """Whether what stands on screen is on the cover of the clip, too."""
    most: ClassVar[int] = 500
    """How many of its kind a sheet may have."""

    @classmethod
    def __pydantic_init_subclass__(cls, **given: Any) -> None:
        """Register it, if it is a kind and not what kinds have in common."""
        kind = cls.model_fields["kind"].default
        if isinstance(kind, str):
            KINDS[kind] = cls

    def replaces(self, other: "Content") -> bool:
        """Whether it takes the place of another content over the same words."""
        return self.alone and other.kind == self.kind

    @property
    def follows_faces(self) -> bool:
        """Whether it has to be known where faces are."""
        return False

    @property
    def travels(self) -> bool:
        """Whether it means something over another clip as well: a house style takes it along then."""
        return True

    @property
    def media_shown(self) -> tuple[str, ...]:
        """The recordings and pictures that it shows, or that are heard with it."""
        return ()

    @property
    def clearings(self) -> tuple[Strength, ...]:
        """How strongly speech is made clearer for it."""
        return ()

    @property
    def heard_at(self) -> float | None:
        """The ``volume`` in dB that its own sound is set to; None for what has none."""
        return None

    @property
    def spoken(self) -> tuple[Spoken, ...]:
        """The sentences that are spoken for it."""
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
