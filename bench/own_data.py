"""A data folder of one's own, and Django on it: import this before anything of the server."""

import os
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).parent.parent
sys.path.insert(0, str(ROOT))
_HOLDER = tempfile.TemporaryDirectory(ignore_cleanup_errors=True)
DATA = Path(_HOLDER.name)
os.environ["HOVVET_DATA"] = _HOLDER.name
os.environ["DJANGO_SETTINGS_MODULE"] = "hovvet.server.settings"

import django

django.setup()
