"""The text for the post of a clip."""

from django.db import models

from hovvet.core.post.post import Post
from hovvet.server.documents.models import Document


class PostText(models.Model):
    """One for all editions of a clip (``edition`` is ""), and one for each that says it otherwise."""

    document = models.ForeignKey(Document, models.CASCADE, related_name="posts")
    edition = models.CharField(max_length=64, default="")
    post_json = models.JSONField(default=dict)
    version = models.PositiveIntegerField(default=1)  # grows with every change

    class Meta:
        constraints = [models.UniqueConstraint(fields=["document", "edition"], name="one_text_of_an_edition")]

    def __str__(self) -> str:
        return f"{self.document}, {self.edition or 'all editions'}"

    @property
    def post(self) -> Post:
        """What is written."""
        return Post.model_validate(self.post_json)
