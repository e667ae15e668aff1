"""``manage.py tidy``: remove what was left behind, and say what that freed."""

from typing import Any

from django.core.management.base import BaseCommand

from hovvet.server.upkeep.tidying import tidy


class Command(BaseCommand):
    """Tidy once."""

    help = "Remove stray files, expired uploads, finished jobs and old sessions. Workers do this every hour."

    def handle(self, *_arguments: Any, **_options: Any) -> None:
        """Tidy, and print what was removed."""
        self.stdout.write(str(tidy()))
