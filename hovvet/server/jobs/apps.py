"""The app of jobs."""

from django.apps import AppConfig


class JobsConfig(AppConfig):
    """Names the app."""

    name = "hovvet.server.jobs"
