"""The text for a post: what stands beside a clip where it goes."""

import re
from collections.abc import Sequence
from typing import Annotated, NamedTuple

from pydantic import AfterValidator, Field

from hovvet.core.plan.outlets import Outlet
from hovvet.core.value import Value

_TAG = re.compile(r"^#[^\W_][\w]{0,59}$")
_LINK = re.compile(r"^https?://[^\s<>\"']{1,500}$")


def _tag(text: str) -> str:
    tag = f"#{text.strip().lstrip('#')}"
    if not _TAG.match(tag):
        raise ValueError("a hashtag is letters and digits without a space, 60 at most")
    return tag


def _link(text: str) -> str:
    link = text.strip()
    if link and not _LINK.match(link):
        raise ValueError("a link begins with https:// or http:// and has no space in it")
    return link


Hashtag = Annotated[str, Field(max_length=64), AfterValidator(_tag)]


class Post(Value):
    """What a person writes of it; what has to be named is put under it by itself."""

    first_line: Annotated[str, Field(max_length=300)] = ""
    """What many see of it at first."""
    body: Annotated[str, Field(max_length=10_000)] = ""
    """The rest of the text."""
    hashtags: Annotated[tuple[Hashtag, ...], Field(max_length=60)] = ()
    """Each with its #."""
    link: Annotated[str, Field(max_length=520), AfterValidator(_link)] = ""
    """Where more is to be found; "" for nowhere."""

    def written(self, credits: Sequence[str] = ()) -> str:
        """The whole text, with the lines that have to be named: its parts with a line between them."""
        tags = " ".join(dict.fromkeys(self.hashtags))
        parts = (self.first_line.strip(), self.body.strip(), self.link, "\n".join(credits), tags)
        return "\n\n".join(part for part in parts if part)

    @property
    def is_empty(self) -> bool:
        """Whether nothing is written yet."""
        return not self.written()


class Counted(NamedTuple):
    """How long a text is, beside what its outlet takes: letters (as people count them: code points), and hashtags."""

    letters: int
    letters_limit: int
    tags: int
    tags_limit: int

    @property
    def fits(self) -> bool:
        """Whether the outlet takes it."""
        return self.letters <= self.letters_limit and self.tags <= self.tags_limit


def counted(post: Post, credits: Sequence[str], outlet: Outlet) -> Counted:
    """A text for an outlet, counted."""
    return Counted(
        len(post.written(credits)), outlet.post_letters, len(dict.fromkeys(post.hashtags)), outlet.post_hashtags
    )
