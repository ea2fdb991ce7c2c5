"""Settings. What a machine may choose comes from the environment: DRY_DATA, DRY_DEMO, DRY_SECRET, DRY_HOSTS, DRY_ORIGINS,
DRY_HTTPS, DRY_LANGUAGE, DRY_LOG, DRY_PASSWORD_DAYS, DRY_FEED_HOSTS, DRY_OUTBOX and DRY_OUTBOX_VIEW (ports and address of the outbox)."""

import os
import secrets
from importlib import import_module
from pathlib import Path

from csp.constants import NONE, SELF

from dryledger import words
from server.shared.words import speak

ROOT = Path(__file__).parents[2]
DATA = Path(os.environ.get("DRY_DATA", ROOT / "var"))
DATABASE = DATA / "dry.sqlite3"


def _for_nobody_else() -> None:
    """The folder of the data, and all that is written, are for whoever runs this alone; those of earlier builds become so."""
    os.umask(0o077)
    DATA.mkdir(parents=True, exist_ok=True, mode=0o700)
    for kept in (DATA, DATABASE):
        if DATABASE.exists() and kept.stat().st_uid == os.geteuid() and not kept.stat().st_mode & 0o1000:
            kept.chmod(kept.stat().st_mode & 0o700)


_for_nobody_else()
DIST = ROOT / "web" / "dist"
DEMO = os.environ.get("DRY_DEMO") == "1"
"""Demo mode offers the demo people on the sign-in page. Nothing else depends on it."""


def _secret() -> str:
    """The signing key: given, or made once and kept beside the data."""
    kept = DATA / "secret-key"
    if "DRY_SECRET" in os.environ:
        return os.environ["DRY_SECRET"]
    if not kept.exists():
        kept.write_text(secrets.token_urlsafe(50))
        kept.chmod(0o600)
    return kept.read_text()


SECRET_KEY = _secret()
DEBUG = False
ALLOWED_HOSTS = os.environ.get("DRY_HOSTS", "127.0.0.1,localhost,[::1]").split(",")
CSRF_TRUSTED_ORIGINS = [o.strip() for o in os.environ.get("DRY_ORIGINS", "").split(",") if o.strip()]
"""Addresses such as https://ledger.example from which forms may be sent, where a proxy changes the host."""
FEED_HOSTS = tuple(h.strip() for h in os.environ.get("DRY_FEED_HOSTS", "127.0.0.1" if DEMO else "").split(",") if h.strip())
"""The hosts, or `host:port`, that feeds may be fetched from (none unless asked for; the demo's own sources stand on this machine);
nothing is fetched but when somebody asks for it."""
FEED_SECONDS = 10.0
"""How long a source may take to answer in all."""
OUTBOX_HOST, OUTBOX_PORT = "127.0.0.1", int(os.environ.get("DRY_OUTBOX", "0") or 0)
"""The mail server on this machine that keeps what reports are sent with; mail goes nowhere else."""
OUTBOX_VIEW = os.environ.get("DRY_OUTBOX_VIEW", "")
"""Where its viewer answers."""
OUTBOX_FROM = "reports@dry-ledger.invalid"
INBOX = DATA / "inbox"
"""Where sheets that are sent back come in."""
INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "rest_framework",
    "drf_spectacular",
    "axes",
    *(f"server.{ground}" for ground in ("accounts", "book", "journal")),
    *(f"server.{room}" for room in ("calendar", "resources", "plan", "budget", "baseline", "posting", "asking", "feeds", "marks")),
    *(f"server.{room}" for room in ("options",)),
    *(f"server.{room}" for room in ("value", "timeline", "report", "exchange", "archive", "projects", "people", "desk")),
]
MIDDLEWARE = [
    "server.shared.request_log.RequestLog",
    "server.shared.reading.ReadingLimits",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "server.accounts.formats.InFormats",
    "server.accounts.audit.Exports",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "csp.middleware.CSPMiddleware",
    "axes.middleware.AxesMiddleware",
]
ROOT_URLCONF = "server.site.urls"
WSGI_APPLICATION = "server.site.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [DIST, ROOT / "server" / "templates"],
        "APP_DIRS": False,
        "OPTIONS": {"context_processors": ["django.template.context_processors.request"]},
    }
]

# FULL: an acknowledged entry survives a power cut, not only a killed process (docs/decisions/0003); a test outlives neither.
_TESTING = os.environ.get("DRY_TESTING") == "1"
_SYNCHRONOUS = "OFF" if _TESTING else "FULL"
_PRAGMAS = f"PRAGMA synchronous={_SYNCHRONOUS}; PRAGMA foreign_keys=ON; PRAGMA cache_size=-32000;"
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATABASE,
        # Kept open: what reading needs beside the data stays there, also when the disk is full.
        "CONN_MAX_AGE": 0 if _TESTING else None,
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 30,
            "init_command": _PRAGMAS if _TESTING else f"PRAGMA journal_mode=WAL; {_PRAGMAS}",
        },
        "TEST": {"NAME": DATA / "test.sqlite3"},
    }
}
CACHES = {"default": {"BACKEND": "django.core.cache.backends.locmem.LocMemCache"}}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "accounts.Person"
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.Argon2PasswordHasher"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
PASSWORD_DAYS = int(os.environ.get("DRY_PASSWORD_DAYS", "0") or 0)
"""After how many days a password has to be changed; 0: only when an administrator says so."""
ONE_TIME_DAYS = 7
"""How long a password that an administrator gave for the first sign-in holds."""
AXES_FAILURE_LIMIT = 10
AXES_COOLOFF_TIME = 0.25
AXES_RESET_COOL_OFF_ON_FAILURE_DURING_LOCKOUT = False
"""A lock ends when it said that it would, however often is tried meanwhile."""
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_CLIENT_IP_CALLABLE = "server.accounts.session.address_of"
AXES_LOCKOUT_CALLABLE = "server.accounts.session.locked_out"
AXES_VERBOSE = False
DATA_UPLOAD_MAX_MEMORY_SIZE = 16 * 1024 * 1024
FILE_UPLOAD_MAX_MEMORY_SIZE = 8 * 1024 * 1024
SILENCED_SYSTEM_CHECKS = ["axes.W006"]
HTTPS = os.environ.get("DRY_HTTPS") == "1"
"""Whether people reach it over HTTPS, through a proxy that says so. By itself it listens on this machine alone, over HTTP."""
SECURE_REDIRECT_EXEMPT = [r"^api/health$"]
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = HTTPS
if HTTPS:
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
    SECURE_HSTS_SECONDS = 365 * 24 * 3600
    SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = False
    SILENCED_SYSTEM_CHECKS += ["security.W005", "security.W021"]  # whether other names of the host are on HTTPS is not ours to say
else:
    SILENCED_SYSTEM_CHECKS += ["security.W004", "security.W008", "security.W012", "security.W016"]  # all of them ask for HTTPS
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"

REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": ["server.accounts.session.SignedIn"],
    "DEFAULT_PERMISSION_CLASSES": ["server.accounts.passwords.Current"],
    "DEFAULT_RENDERER_CLASSES": ["server.shared.json_values.Json"],
    "DEFAULT_PARSER_CLASSES": ["server.shared.reading.StrictJSON"],
    "DEFAULT_SCHEMA_CLASS": "drf_spectacular.openapi.AutoSchema",
    "EXCEPTION_HANDLER": "server.shared.problems.handle",
}
SPECTACULAR_SETTINGS = {
    "TITLE": "Dry Ledger",
    "VERSION": "1",
    "SERVE_INCLUDE_SCHEMA": False,
    "SERVE_PERMISSIONS": ["server.accounts.passwords.Current"],
    "COMPONENT_SPLIT_REQUEST": False,
    "ENUM_GENERATE_CHOICE_DESCRIPTION": False,
    "DESCRIPTION": "Progress, earned value and reports of projects kept like a set of books.",
}

STATIC_URL = "/static/"
STATICFILES_DIRS = [d for d in (DIST, ROOT / "server" / "static") if d.exists()]
STATIC_ROOT = None
WHITENOISE_USE_FINDERS = True
WHITENOISE_AUTOREFRESH = False
WHITENOISE_IMMUTABLE_FILE_TEST = r"^.+[-.][0-9a-zA-Z_-]{8,12}\..+$"
# The hash is that of the empty string: it lets the style library add its empty style element and fill it by script.
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "script-src": [SELF],
        "style-src": [SELF, "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='"],
        "img-src": [SELF, "data:"],
        "font-src": [SELF, "data:"],
        "object-src": [NONE],
        "frame-ancestors": [NONE],
        "base-uri": [SELF],
        "form-action": [SELF],
    }
}
USE_TZ = True
TIME_ZONE = "UTC"
# Instants of people and pages are kept in UTC; those of a plan are local wall time and never pass through a zone.
LANGUAGE_CODE = "en"
LANGUAGE = os.environ.get("DRY_LANGUAGE", "en")
"""What everything is said in: English, or a language that has its file on each floor."""
if LANGUAGE != "en":  # before anything that says something is loaded
    words.speak(import_module(f"dryledger.languages.{LANGUAGE}").SENTENCES)
    speak(import_module(f"server.shared.languages.{LANGUAGE}").SENTENCES)
LOGGED = "INFO" if os.environ.get("DRY_LOG") == "1" else "WARNING"
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"request": {"format": "%(asctime)s %(message)s"}},
    "handlers": {
        "console": {"class": "logging.StreamHandler"},
        "requests": {"class": "logging.StreamHandler", "formatter": "request"},
    },
    "root": {"handlers": ["console"], "level": "WARNING"},
    "loggers": {
        "dry.requests": {"handlers": ["requests"], "level": LOGGED, "propagate": False},
        "django.security.DisallowedHost": {"level": "CRITICAL"},  # answered with 400; whoever asks for another host fills no log
        **{name: {"level": "ERROR"} for name in ("axes", "django.request", "weasyprint", "fontTools", "waitress.queue")},
    },
}
