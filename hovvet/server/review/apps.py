"""The app of reviews: what others say of a clip, without an account."""

from django.apps import AppConfig


class ReviewConfig(AppConfig):
    """Its models."""

    name = "hovvet.server.review"
