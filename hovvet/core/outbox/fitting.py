"""What an outlet takes, and what of a post it would not."""

from typing import Annotated

from pydantic import Field

from hovvet.core.post.post import Post
from hovvet.core.value import Value


class Limits(Value):
    """What one account takes: ``longest`` in seconds, ``bytes`` of a film (None: any), letters and hashtags of the text,
    ``kinds`` of files."""

    longest: float
    bytes: int | None
    letters: int
    hashtags: int
    kinds: tuple[str, ...]


class Outgoing(Value):
    """A post as it goes out: its text as it is read, and what is known of its film (``seconds``, pixels, ``bytes``)."""

    title: str
    text: str
    hashtags: int
    kind: str
    seconds: float
    width: Annotated[int, Field(ge=1)]
    height: Annotated[int, Field(ge=1)]
    bytes: int


def outgoing(
    title: str, post: Post, credits: list[str], kind: str, seconds: float, size: tuple[int, int], bytes_: int
) -> Outgoing:
    """A post put together, with the lines that have to be named."""
    count = len(dict.fromkeys(post.hashtags))
    return Outgoing(
        title=title, text=post.written(credits), hashtags=count, kind=kind, seconds=seconds, width=size[0],
        height=size[1], bytes=bytes_,
    )  # fmt: skip


def unfit(post: Outgoing, limits: Limits) -> list[str]:
    """What an account would not take of a post, as sentences; nothing where it takes it."""
    told = []
    if post.kind not in limits.kinds:
        told.append(f"It takes {' and '.join(each.upper() for each in limits.kinds)}, and this is {post.kind.upper()}.")
    if post.seconds > limits.longest:
        told.append(f"It takes {limits.longest:g} s, and this film has {post.seconds:.1f}.")
    if limits.bytes is not None and post.bytes > limits.bytes:
        told.append(f"It takes {limits.bytes / 1e6:.0f} MB, and this film has {post.bytes / 1e6:.0f}.")
    if len(post.text) > limits.letters:
        told.append(f"It takes {limits.letters:,} letters, and the text has {len(post.text):,}.")
    if post.hashtags > limits.hashtags:
        told.append(f"It takes {limits.hashtags} hashtags, and the text has {post.hashtags}.")
    return told
