"""The text for the post of an edition."""

from django.dispatch import receiver

from hovvet.core.post.post import Post
from hovvet.server.documents.events import copied
from hovvet.server.documents.models import Document
from hovvet.server.posts.models import PostText
from hovvet.server.posts.per_edition import Chosen

Text = Chosen[Post]


def text_of(document: Document, edition: str) -> Text:
    """What goes with an edition."""
    return PostText.chosen(document, edition, Post)


def keep_text(document: Document, edition: str, post: Post, version: int) -> Text:
    """Keep what is written, over what had this version. Raises Newer."""
    return PostText.keep(document, edition, post, version)


@receiver(copied)
def copy_texts(clip: Document, copy: Document, **_: object) -> None:
    """A copy of a clip has the same texts."""
    PostText.copy(clip, copy)
