"""The text for the post of a clip."""

from hovvet.server.posts.per_edition import PerEdition


class PostText(PerEdition):
    """A ``Post``."""

    class Meta(PerEdition.Meta):
        pass
