"""Django settings. Everything that differs between machines is an environment variable."""

import os
from pathlib import Path

from glyptarch_server.config.logs import logging_settings
from glyptarch_server.config.secrets import encryption_keys, secret_key
from glyptarch_server.config.storage import media_storage


def _listed(name: str, default: str = "") -> list[str]:
    """Return the comma-separated parts of a setting, without surrounding spaces."""
    return [part for text in os.environ.get(name, default).split(",") if (part := text.strip())]


REPOSITORY = Path(__file__).resolve().parents[3]
VAR = Path(os.environ.get("GLYPTARCH_VAR", REPOSITORY / "var"))
WEB_DIST = Path(os.environ.get("GLYPTARCH_WEB_DIST", REPOSITORY / "web" / "dist"))
# The build's manifest, outside the public files.
WEB_MANIFEST = Path(os.environ.get("GLYPTARCH_WEB_MANIFEST", REPOSITORY / "web" / "manifest.json"))

# In production (``./glyptarch serve``) keys come from the environment only, and must be strong.
PRODUCTION = os.environ.get("GLYPTARCH_PRODUCTION", "") == "1"
SECRET_KEY = secret_key(VAR, required=PRODUCTION)
# Keys of stored secrets, newest first; older ones decrypt older secrets.
GLYPTARCH_ENCRYPTION_KEYS = encryption_keys(VAR, required=PRODUCTION)
# The public base address for links in messages: https://desk.example.org
GLYPTARCH_PUBLIC_ADDRESS = os.environ.get("GLYPTARCH_PUBLIC_ADDRESS", "")
DEBUG = False
ALLOWED_HOSTS = _listed("GLYPTARCH_HOSTS", "127.0.0.1,localhost")

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.postgres",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "procrastinate.contrib.django",
    "glyptarch_server.throttle",
    "glyptarch_server.audit",
    "glyptarch_server.mail",
    "glyptarch_server.accounts",
    "glyptarch_server.blogs",
    "glyptarch_server.people",
    "glyptarch_server.tasks",
    "glyptarch_server.sources",
    "glyptarch_server.items",
    "glyptarch_server.websub",
    "glyptarch_server.archives",
    "glyptarch_server.feed_lists",
    "glyptarch_server.pages",
    "glyptarch_server.platforms",
    "glyptarch_server.campaigns",
    "glyptarch_server.media",
    "glyptarch_server.posts",
    "glyptarch_server.names",
    "glyptarch_server.comments",
    "glyptarch_server.services",
    "glyptarch_server.editions",
    "glyptarch_server.offers",
    "glyptarch_server.runs",
    "glyptarch_server.proofs",
    "glyptarch_server.replay",
    "glyptarch_server.today",
    "glyptarch_server.notices",
    "glyptarch_server.front",
    "glyptarch_server.care",
    # Production has nothing of the demo.
    *([] if PRODUCTION else ["glyptarch_server.demo"]),
    "glyptarch_server.config",
]
MIDDLEWARE = [
    "glyptarch_server.common.request_number.numbered",
    "glyptarch_server.common.probes.any_host",
    "django.middleware.security.SecurityMiddleware",
    "glyptarch_server.common.border.checked_requests",
    "glyptarch_server.common.headers.security_headers",
    "glyptarch_server.common.static_files.BuiltFiles",
    "glyptarch_server.common.turns.in_turn",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "glyptarch_server.common.acting.remember_request",
]
ROOT_URLCONF = "glyptarch_server.config.urls"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {"context_processors": []},
    }
]
ASGI_APPLICATION = "glyptarch_server.config.asgi.application"

# Concurrent requests of one web process, each with a database connection.
GLYPTARCH_REQUESTS_AT_ONCE = _REQUESTS_AT_ONCE = int(os.environ.get("GLYPTARCH_REQUESTS_AT_ONCE", "12"))

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "NAME": os.environ.get("GLYPTARCH_DB_NAME", "glyptarch"),
        "USER": os.environ.get("GLYPTARCH_DB_USER", "glyptarch"),
        "PASSWORD": os.environ.get("GLYPTARCH_DB_PASSWORD", ""),
        "HOST": os.environ.get("GLYPTARCH_DB_HOST", "127.0.0.1"),
        "PORT": os.environ.get("GLYPTARCH_DB_PORT", "54329"),
        # Under ASGI every request has its own thread, so a persistent connection would never be reused, and a few dozen
        # requests would exhaust the server's limit.
        "CONN_MAX_AGE": 0,
        # A connection closed by the server is replaced before use.
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {"pool": {"min_size": 1, "max_size": _REQUESTS_AT_ONCE + 4, "timeout": 20}},
    }
}

AUTH_USER_MODEL = "accounts.User"
AUTH_PASSWORD_VALIDATORS = [{"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"}]
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
# With TLS, usually by a proxy: secure cookies, redirects of plain requests, and HSTS for GLYPTARCH_HSTS_SECONDS.
HTTPS = os.environ.get("GLYPTARCH_HTTPS", "") == "1"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = HTTPS
# Our own middleware sets the framing policy (``common/headers.py``).
SILENCED_SYSTEM_CHECKS = ["security.W002"]
SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = os.environ.get("GLYPTARCH_HSTS_SUBDOMAINS", "") == "1"
SECURE_HSTS_SECONDS = int(os.environ.get("GLYPTARCH_HSTS_SECONDS", "31536000")) if HTTPS else 0
CSRF_TRUSTED_ORIGINS = [f"https://{host}" for host in ALLOWED_HOSTS] if HTTPS else []
# Networks of trusted proxies, whose X-Forwarded-For and X-Forwarded-Proto are used: 10.0.0.0/8.
GLYPTARCH_TRUSTED_PROXIES = tuple(_listed("GLYPTARCH_TRUSTED_PROXIES"))
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if HTTPS and GLYPTARCH_TRUSTED_PROXIES else None
# Monitoring asks directly, by number and without TLS (common/probes.py).
SECURE_REDIRECT_EXEMPT = [r"^health/", r"^metrics$"]
SECURE_REFERRER_POLICY = "strict-origin-when-cross-origin"

# The mail server (SMTP). Without a host no mail is sent, and the desk says so.
EMAIL_HOST = os.environ.get("GLYPTARCH_MAIL_HOST", "")
EMAIL_PORT = int(os.environ.get("GLYPTARCH_MAIL_PORT", "587"))
EMAIL_HOST_USER = os.environ.get("GLYPTARCH_MAIL_USER", "")
EMAIL_HOST_PASSWORD = os.environ.get("GLYPTARCH_MAIL_PASSWORD", "")
EMAIL_USE_TLS = os.environ.get("GLYPTARCH_MAIL_TLS", "") == "starttls"
EMAIL_USE_SSL = os.environ.get("GLYPTARCH_MAIL_TLS", "") == "tls"
EMAIL_TIMEOUT = 20
DEFAULT_FROM_EMAIL = os.environ.get("GLYPTARCH_MAIL_FROM", "Glyptarch <glyptarch@localhost>")
PASSWORD_RESET_TIMEOUT = 24 * 3600

LANGUAGE_CODE = "en-gb"
# The words of the public pages are in front/locale; those of the desk are English.
USE_I18N = True
TIME_ZONE = "UTC"
USE_TZ = True

STATIC_URL = "/static/"
SERVESTATIC_ROOT = WEB_DIST if WEB_DIST.is_dir() else None
SERVESTATIC_USE_STATIC_ROOT = False
SERVESTATIC_ALLOW_ALL_ORIGINS = False

# Copies of media, in a folder or in a bucket of an S3-compatible service.
MEDIA_ROOT = Path(os.environ.get("GLYPTARCH_MEDIA", VAR / "media"))
MEDIA_URL = "/media/"
STORAGES = {
    "default": media_storage(os.environ),
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}

# A sample of 4 MB in Base64.
DATA_UPLOAD_MAX_MEMORY_SIZE = 6 << 20

# Private addresses (host:port) that may be fetched: the shipped stand-ins.
GLYPTARCH_FETCH_ALLOW = frozenset(_listed("GLYPTARCH_FETCH_ALLOW"))
# Whom the owner of a site may ask about our requests: a mail address or the address of a page.
GLYPTARCH_CONTACT = os.environ.get("GLYPTARCH_CONTACT", GLYPTARCH_PUBLIC_ADDRESS)
# Chromium, for pages with scripts; an installed one is found automatically.
GLYPTARCH_CHROMIUM = os.environ.get("GLYPTARCH_CHROMIUM", "")
# The bearer token of /metrics; without one there are no metrics.
GLYPTARCH_METRICS_TOKEN = os.environ.get("GLYPTARCH_METRICS_TOKEN", "")
# Minutes per run; remaining items are decided by the next run.
GLYPTARCH_RUN_MINUTES = int(os.environ.get("GLYPTARCH_RUN_MINUTES", "120"))
# Days for which traces without a post, readings, and payloads without a post are kept.
GLYPTARCH_KEEP_TRACES_DAYS = int(os.environ.get("GLYPTARCH_KEEP_TRACES_DAYS", "90"))
GLYPTARCH_KEEP_READINGS_DAYS = int(os.environ.get("GLYPTARCH_KEEP_READINGS_DAYS", "90"))
GLYPTARCH_KEEP_PAYLOADS_DAYS = int(os.environ.get("GLYPTARCH_KEEP_PAYLOADS_DAYS", "365"))
# Days for which values of changes, failed jobs, and the audit are kept.
GLYPTARCH_KEEP_CHANGES_DAYS = int(os.environ.get("GLYPTARCH_KEEP_CHANGES_DAYS", "365"))
GLYPTARCH_KEEP_FAILED_JOBS_DAYS = int(os.environ.get("GLYPTARCH_KEEP_FAILED_JOBS_DAYS", "30"))
GLYPTARCH_KEEP_AUDIT_DAYS = int(os.environ.get("GLYPTARCH_KEEP_AUDIT_DAYS", "1095"))
# Items per transaction of a run.
GLYPTARCH_RUN_BATCH = int(os.environ.get("GLYPTARCH_RUN_BATCH", "50"))

LOGGING = logging_settings(as_json=os.environ.get("GLYPTARCH_LOG", "text") == "json")
