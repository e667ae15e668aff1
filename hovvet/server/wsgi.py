"""The application for gunicorn."""

import gc
import os

from django.core.wsgi import get_wsgi_application

from hovvet.core.engines.meaning import keep_apart

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "hovvet.server.settings")
application = get_wsgi_application()
keep_apart()

# An edit of a large clip makes tens of thousands of small values and no rings of them: looking for those as often as
# Python does by itself makes one edit in ten half as slow again (bench/exports.py).
gc.freeze()
gc.set_threshold(50_000, 20, 20)
