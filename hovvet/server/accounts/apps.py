"""The app of accounts."""

from django.apps import AppConfig


class AccountsConfig(AppConfig):
    """Names the app."""

    name = "hovvet.server.accounts"
