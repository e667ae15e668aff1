"""Django settings. Everything a deployment may change comes from ``HOVVET_*`` environment variables."""

import os
import secrets
import sys
from pathlib import Path

from hovvet.core.media.intake import LONGEST

BASE_DIR = Path(__file__).resolve().parent.parent.parent
DATA_DIR = Path(os.environ.get("HOVVET_DATA", BASE_DIR / "data"))


def _secret_key() -> str:
    """A key made once for this data folder, readable by its owner only."""
    if key := os.environ.get("HOVVET_SECRET_KEY"):
        return key
    file = DATA_DIR / "secret-key"
    DATA_DIR.mkdir(parents=True, exist_ok=True)
    try:
        with os.fdopen(os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as new:
            new.write(secrets.token_urlsafe(50))
    except FileExistsError:
        pass
    return file.read_text()


SECRET_KEY = _secret_key()
DEBUG = False
ALLOWED_HOSTS = os.environ.get("HOVVET_HOSTS", "localhost,127.0.0.1,[::1]").split(",")
CSRF_TRUSTED_ORIGINS = [origin for origin in os.environ.get("HOVVET_ORIGINS", "").split(",") if origin]
HTTPS = os.environ.get("HOVVET_HTTPS") == "1"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = HTTPS
SESSION_COOKIE_AGE = 60 * 60 * 24 * 30

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "django_tasks",
    "django_tasks_db",
    "ninja",
    "hovvet.server.accounts",
    "hovvet.server.jobs",
    "hovvet.server.recordings",
    "hovvet.server.assets",
    "hovvet.server.documents",
    "hovvet.server.notices",
    "hovvet.server.styles",
    "hovvet.server.passages",
    "hovvet.server.clips",
    "hovvet.server.scripts",
    "hovvet.server.drafts",
    "hovvet.server.posts",
    "hovvet.server.proof",
    "hovvet.server.delivery",
    "hovvet.server.review",
    "hovvet.server.share",
    "hovvet.server.outside",
    "hovvet.server.outbox",
    "hovvet.server.deliveries",
    "hovvet.server.upkeep",
]
MIDDLEWARE = [
    "hovvet.server.middleware.Numbered",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.http.ConditionalGetMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "hovvet.server.middleware.content_policy",
    "hovvet.server.middleware.fresh_answers",
]
ROOT_URLCONF = "hovvet.server.urls"
WSGI_APPLICATION = "hovvet.server.wsgi.application"
TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates", "APP_DIRS": True}]
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
LANGUAGE_CODE = "en"
USE_TZ = True
TIME_ZONE = "UTC"

# WAL with immediate transactions: without both, many writers meet "database is locked".
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA_DIR / "hovvet.sqlite3",
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=NORMAL;",
        },
        "TEST": {"NAME": os.environ.get("HOVVET_TEST_DB", str(DATA_DIR / "test.sqlite3"))},
    }
}

TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": []}}

MEDIA_ROOT = DATA_DIR / "media"
STATIC_URL = "static/"
STATIC_ROOT = DATA_DIR / "static"
WEB_DIST = BASE_DIR / "web" / "dist"
STATICFILES_DIRS = [
    *([("web", WEB_DIST)] if WEB_DIST.exists() else []),
    ("fonts", BASE_DIR / "hovvet" / "core" / "captions" / "fonts"),
]
WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = False

if "test" in sys.argv[1:2]:  # tests make many users, and none of their passwords is worth guessing
    PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]

AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]

# How many proxies of ours stand before the server. Only they are believed when they say where a request came from.
PROXIES = int(os.environ.get("HOVVET_PROXIES", 0))

# Finished jobs, their tasks and old sessions are forgotten after this long.
KEPT_DAYS = 30

# Limits on what is brought in.
UPLOAD_BYTES = int(os.environ.get("HOVVET_UPLOAD_BYTES", 20 * 1024**3))
UPLOAD_HOURS = 48  # an unfinished upload is kept this long
RECORDING_SECONDS = float(os.environ.get("HOVVET_RECORDING_SECONDS", LONGEST))
FREE_BYTES = int(os.environ.get("HOVVET_FREE_BYTES", 500 * 1024**2))  # always left free on the disk

# Fetching from links: only these hosts are ever contacted.
IMPORT_HOSTS = frozenset(
    host.strip().lower() for host in os.environ.get("HOVVET_IMPORT_HOSTS", "").split(",") if host.strip()
)
IMPORT_SECONDS = int(os.environ.get("HOVVET_IMPORT_SECONDS", 2 * 3600))
DRIVE_DIR = BASE_DIR / "demo" / "drive"  # what the stand-in drive shares
EMOJI_FILE = WEB_DIST / "emoji.zip"  # as tools/make_emoji.py gathers them
STOCK_DIR = BASE_DIR / "demo" / "stock"  # what the stand-in for a stock library offers, and how it is drawn

# The folder of a larger speech model in CTranslate2 form, where the user has one.
SPEECH_MODEL = os.environ.get("HOVVET_SPEECH_MODEL") or None
HEARING = os.environ.get(
    "HOVVET_HEARING", ""
)  # quick or careful, where neither a recording nor its show says; "" for as usual

# A running job of a worker on another machine that has not been heard of for this long is handed out again.
JOB_STALE_SECONDS = 120
JOB_ATTEMPTS = 3
JOB_FORGOTTEN_SECONDS = 30  # a queued job without a task behind it is handed out again after this long

# Where people open Hovvet, for links in mail and on pages of other sites.
ADDRESS = os.environ.get("HOVVET_ADDRESS", f"http://localhost:{os.environ.get('PORT', '8000')}").rstrip("/")

# Mail goes into files, unless there is a server for it.
EMAIL_HOST = os.environ.get("HOVVET_MAIL_HOST", "")
EMAIL_PORT = int(os.environ.get("HOVVET_MAIL_PORT", 587))
EMAIL_HOST_USER = os.environ.get("HOVVET_MAIL_USER", "")
EMAIL_HOST_PASSWORD = os.environ.get("HOVVET_MAIL_PASSWORD", "")
EMAIL_USE_TLS = os.environ.get("HOVVET_MAIL_TLS", "1") == "1"
EMAIL_TIMEOUT = 20
EMAIL_BACKEND = f"django.core.mail.backends.{'smtp' if EMAIL_HOST else 'filebased'}.EmailBackend"
EMAIL_FILE_PATH = DATA_DIR / "mail"
DEFAULT_FROM_EMAIL = os.environ.get("HOVVET_MAIL_FROM", "Hovvet <hovvet@localhost>")

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"line": {"format": "{asctime} {levelname} {name}: {message}", "style": "{"}},
    "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "line"}},
    "loggers": {"hovvet": {"handlers": ["console"], "level": "INFO"}},
}
