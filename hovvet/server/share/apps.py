"""The app of share pages: a film with its title and its words, for everybody, or for who has the link."""

from django.apps import AppConfig


class ShareConfig(AppConfig):
    """Its models, and the templates of its pages."""

    name = "hovvet.server.share"
