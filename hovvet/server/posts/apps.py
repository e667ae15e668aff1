"""The app of posts: the text that goes with a clip."""

from django.apps import AppConfig


class PostsConfig(AppConfig):
    """Listens to what happens to clips."""

    name = "hovvet.server.posts"

    def ready(self) -> None:
        """Begin to listen."""
        from hovvet.server.posts import writing  # noqa: F401
