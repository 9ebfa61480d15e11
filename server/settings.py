"""Settings of a Paleta that serves one house: SQLite, local files, everything from this machine."""

import os
import secrets
import sys
from pathlib import Path
from typing import Any

# Whatever the server writes is for its own user alone.
os.umask(0o077)
BASE_DIR = Path(__file__).resolve().parent.parent
VAR_DIR = Path(os.environ.get("PALETA_VAR", BASE_DIR / "var"))
VAR_DIR.mkdir(parents=True, exist_ok=True)
TESTING = "test" in sys.argv[1:2]


def _secret() -> str:
    """A key of this installation's own, made at its first start."""
    place = VAR_DIR / "secret-key"
    if not place.exists():
        place.write_text(secrets.token_urlsafe(48))
        place.chmod(0o600)
    return place.read_text().strip()


SECRET_KEY = _secret()
DEBUG = os.environ.get("PALETA_DEBUG") == "1"
ALLOWED_HOSTS = os.environ.get("PALETA_HOSTS", "127.0.0.1,localhost").split(",")
# PALETA_HTTPS=1 where a proxy in front speaks HTTPS: cookies then never travel in the open.
SECURE = os.environ.get("PALETA_HTTPS") == "1"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE
# A browser that came by HTTPS once does not come otherwise for a year.
SECURE_HSTS_SECONDS = 31_536_000 if SECURE else 0
# Whose word is taken for where a request came from and by which protocol: the proxy's, and nobody else's.
TRUSTED_PROXY = os.environ.get("PALETA_PROXY", "127.0.0.1") if SECURE else None
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS] if SECURE else []
INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "rest_framework",
    "drf_spectacular",
    "server.files",
    "server.accounts",
    "server.drawers",
    "server.pieces",
    "server.recipes",
    "server.cards",
    "server.runs",
    "server.photo_check",
    "server.backup",
    "demo",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "server.web.SafePages",
    "server.request_limits.RequestLimitMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "server.urls"
WSGI_APPLICATION = "server.wsgi.application"
TEMPLATES: list[dict[str, object]] = []
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": VAR_DIR / "paleta.sqlite3",
        # Writers queue instead of failing, and readers do not wait for them.
        "OPTIONS": {
            "timeout": 20,
            "transaction_mode": "IMMEDIATE",
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;",
        },
        # A file, so that the browser tests' server threads have connections of their own, as in real life.
        "TEST": {"NAME": VAR_DIR / "test.sqlite3"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
SHORTEST_PASSWORD = 12
"""[ASVS] 2.1.1."""
_KNOWN = "django.contrib.auth.password_validation"
AUTH_PASSWORD_VALIDATORS: list[dict[str, Any]] = [
    {"NAME": f"{_KNOWN}.MinimumLengthValidator", "OPTIONS": {"min_length": SHORTEST_PASSWORD}},
    {"NAME": f"{_KNOWN}.UserAttributeSimilarityValidator"},
    {"NAME": f"{_KNOWN}.CommonPasswordValidator"},
    {"NAME": "server.accounts.passwords.NotMonotonous"},
    {"NAME": "server.accounts.passwords.NotTheName"},
]
LANGUAGE_CODE = "en"
TIME_ZONE = "UTC"
USE_TZ = True

STATIC_URL = "/static/"
WEB_DIR = BASE_DIR / "web" / "dist"
WHITENOISE_ROOT = WEB_DIR if WEB_DIR.exists() else None
WHITENOISE_INDEX_FILE = False
# What the build names by its content never changes under that name.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[A-Za-z0-9_-]{8}\.[a-z0-9]+$"
MEDIA_ROOT = VAR_DIR / "media"
CACHE_ROOT = VAR_DIR / "cache"
RESTORE_ROOT = VAR_DIR / "restores"
GUESSES_ROOT = VAR_DIR / "guesses"
CACHE_BYTES = 1_500_000_000
MEMORY_BYTES = 320_000_000
"""Room for what is derived: on disk, and in the server's memory."""
HEAVY_AT_ONCE = 2
LATER_AT_ONCE = TESTING
MOST_PIECES = 20_000
MOST_ACCOUNT_BYTES = 8_000_000_000
# A pasted table may have three million characters, of up to four bytes each.
DATA_UPLOAD_MAX_MEMORY_SIZE = 13_000_000
FILE_UPLOAD_MAX_MEMORY_SIZE = 4_000_000
LARGEST_UPLOAD_BYTES = 40_000_000
LARGEST_REQUEST_BYTES = 41_000_000
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_FAILURE_VIEW = "server.problems.forbidden"
SECURE_REFERRER_POLICY = "same-origin"

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"worth_logging": {"()": "server.problems.WorthLogging"}},
    "formatters": {"line": {"format": "%(asctime)s %(levelname)s %(name)s: %(message)s"}},
    "handlers": {"said": {"class": "logging.StreamHandler", "formatter": "line"}},
    "loggers": {
        "django.request": {"filters": ["worth_logging"]},
        "server.accounts": {"handlers": ["said"], "level": "WARNING" if TESTING else "INFO", "propagate": False},
    },
}

TEST_RUNNER = "tests.runner.Runner"

REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": ["server.accounts.authentication.SignedIn"],
    "DEFAULT_PERMISSION_CLASSES": ["rest_framework.permissions.IsAuthenticated"],
    "DEFAULT_RENDERER_CLASSES": ["rest_framework.renderers.JSONRenderer"],
    "DEFAULT_PARSER_CLASSES": ["server.strict_json.StrictJSON"],
    "DEFAULT_SCHEMA_CLASS": "drf_spectacular.openapi.AutoSchema",
    "DEFAULT_PAGINATION_CLASS": "server.paging.Pages",
    "EXCEPTION_HANDLER": "server.problems.handle",
    "UNAUTHENTICATED_USER": "django.contrib.auth.models.AnonymousUser",
}
SPECTACULAR_SETTINGS = {
    "TITLE": "Paleta",
    "VERSION": "1",
    "DESCRIPTION": "The API of Paleta, a tool for colourists of stamped images.",
    "SERVE_INCLUDE_SCHEMA": False,
    "COMPONENT_SPLIT_REQUEST": True,
    "POSTPROCESSING_HOOKS": [
        "drf_spectacular.hooks.postprocess_schema_enums",
        "server.contract.with_problems",
    ],
    "ENUM_NAME_OVERRIDES": {
        "Medium": "server.drawers.models.MEDIUM_CHOICES",
        "ValueWarningKind": "server.pieces.colours.serializers.KIND_CHOICES",
        "RowKind": "server.drawers.serializers.ROW_KINDS",
        "AccentKind": "server.pieces.serializers.ACCENT_CHOICES",
        "FadeKind": "server.pieces.serializers.FADE_CHOICES",
        "HandlingKind": "server.pieces.order.serializers.HANDLING_KINDS",
        "FormEnum": "server.pieces.vocabulary.FORM_CHOICES",
        "MeasuredBy": "server.drawers.models.MEASURED_CHOICES",
    },
}
