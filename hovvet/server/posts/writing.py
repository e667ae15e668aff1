"""The text for the post of an edition: its own, or that of all editions."""

from dataclasses import dataclass

from django.db import IntegrityError, transaction
from django.dispatch import receiver

from hovvet.core.post.post import Post
from hovvet.server.documents.events import copied
from hovvet.server.documents.models import Document
from hovvet.server.posts.models import PostText


class Newer(Exception):
    """Somebody has written something else in the meantime."""


@dataclass(frozen=True)
class Text:
    """What is written for an edition; ``own`` says whether that is for it alone. Version 0 is not kept yet."""

    post: Post
    own: bool
    version: int


def text_of(document: Document, edition: str) -> Text:
    """What goes with an edition."""
    rows = {row.edition: row for row in document.posts.filter(edition__in=("", edition))}
    row = rows.get(edition) or rows.get("")
    return Text(row.post, bool(row.edition), row.version) if row else Text(Post(), own=False, version=0)


def keep_text(document: Document, edition: str, post: Post, version: int) -> Text:
    """Keep what is written, for all editions ("") or for one, over what had this ``version``. Raises Newer."""
    written = post.model_dump(mode="json")
    if version == 0:
        try:
            with transaction.atomic():
                PostText.objects.create(document=document, edition=edition, post_json=written)
        except IntegrityError:
            raise Newer from None
        return Text(post, bool(edition), 1)
    same = document.posts.filter(edition=edition, version=version)
    if not same.update(post_json=written, version=version + 1):
        raise Newer
    return Text(post, bool(edition), version + 1)


@receiver(copied)
def copy_texts(clip: Document, copy: Document, **_: object) -> None:
    """A copy of a clip has the same texts."""
    PostText.objects.bulk_create(
        PostText(document=copy, edition=row.edition, post_json=row.post_json) for row in clip.posts.all()
    )
