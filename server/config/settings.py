"""Settings come from the environment, with defaults that are safe for a demo on one machine."""

import os
import re
from pathlib import Path

import drf_spectacular_sidecar
from csp.constants import NONCE, SELF
from django.core.exceptions import ImproperlyConfigured

import temper_core

ROOT = Path(__file__).resolve().parent.parent.parent
DATA = Path(os.environ.get("TEMPER_DATA", ROOT / "var"))
WEB = Path(os.environ.get("TEMPER_WEB", ROOT / "web" / "dist"))

DEMO_SECRET = "demo-only-not-a-secret"
MODE = os.environ.get("TEMPER_MODE", "demo")
_KEPT = DATA / "secret.key"  # made by ./temper serve where none was set
SECRET_KEY = os.environ.get("TEMPER_SECRET_KEY") or (_KEPT.read_text().strip() if _KEPT.is_file() else DEMO_SECRET)
if MODE not in ("demo", "production"):
    raise ImproperlyConfigured(f"TEMPER_MODE is '{MODE}': demo or production is allowed.")
PRODUCTION = MODE == "production"
if PRODUCTION and (SECRET_KEY == DEMO_SECRET or len(SECRET_KEY) < 40):
    raise ImproperlyConfigured(
        "TEMPER_SECRET_KEY is missing, too short or the demo's: production needs one of its own, 40 characters or more."
    )

DEBUG = False
ALLOWED_HOSTS = os.environ.get("TEMPER_HOSTS", "*" if not PRODUCTION else "localhost").split(",")
CSRF_TRUSTED_ORIGINS = [origin for origin in os.environ.get("TEMPER_ORIGINS", "").split(",") if origin]

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "rest_framework",
    "drf_spectacular",
    "axes",
    "knox",
    "django.contrib.staticfiles",
    "people",
    "depots",
    "fleet",
    "catalogue",
    "shelf",
    "jobs",
    "instruments",
    "compute",
    "backups",
    "transfer",
    "practice",
]
MIDDLEWARE = [
    "config.middleware.BehindProxies",
    "config.middleware.KnownHost",
    "config.middleware.NothingIsKept",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "config.middleware.PermissionsPolicy",
    "config.middleware.TrailingSlash",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
    "practice.middleware.AtPractice",
]
ROOT_URLCONF = "config.urls"
WSGI_APPLICATION = "config.wsgi.application"
TEMPLATES: list[dict[str, object]] = []
STATICFILES_DIRS = [  # the files of the API's reference, and nothing else of what packages bring
    Path(__file__).resolve().parent / "static",
    ("openapi", Path(drf_spectacular_sidecar.__file__).parent / "static" / "drf_spectacular_sidecar" / "swagger-ui-dist"),
]
STATICFILES_FINDERS = ["django.contrib.staticfiles.finders.FileSystemFinder"]
WHITENOISE_USE_FINDERS = True
APPEND_SLASH = False

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA / "temper.sqlite3",
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;",
        },
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "people.Person"
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.Argon2PasswordHasher"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
AXES_FAILURE_LIMIT = 8
AXES_COOLOFF_TIME = 0.25  # hours
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_VERBOSE = False

SESSION_COOKIE_AGE = 60 * 60 * 14  # a long shift
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
CSRF_FAILURE_VIEW = "config.problems.csrf_failure"
HTTPS = PRODUCTION and os.environ.get("TEMPER_HTTPS", "1") == "1"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = HTTPS
SECURE_REDIRECT_EXEMPT = [r"^api/health$"]  # a monitor asks on the machine itself
SECURE_HSTS_SECONDS = int(os.environ.get("TEMPER_HSTS", "31536000")) if HTTPS else 0
SECURE_HSTS_INCLUDE_SUBDOMAINS = True
SILENCED_SYSTEM_CHECKS = ["security.W021"]  # preloading binds a public domain for good: the depot's word, not ours
# how many proxies of one's own stand before it, docs/running.md; TLS is theirs, so with HTTPS there is one
PROXIES = int(os.environ.get("TEMPER_PROXIES", "1" if HTTPS else "0"))
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if PROXIES else None
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
DATA_UPLOAD_MAX_MEMORY_SIZE = 1024 * 1024

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "script-src": [SELF, "'wasm-unsafe-eval'"],  # the decoder of codes before the camera
        "style-src": [SELF, NONCE],
        "media-src": [SELF, "blob:", "mediastream:"],
        "img-src": [SELF, "data:"],
        "object-src": ["'none'"],
        "base-uri": ["'none'"],
        "frame-ancestors": ["'none'"],
        "form-action": [SELF],
    }
}

BACKUPS = Path(os.environ.get("TEMPER_BACKUPS", DATA / "backups"))
DEMO_PASSWORD = None if PRODUCTION else os.environ.get("TEMPER_DEMO_PASSWORD")  # said on the sign-in page of the demo
LAN = Path(os.environ.get("TEMPER_LAN", DATA / "lan"))  # the authority of ./temper serve --lan
ADDRESS = os.environ.get("TEMPER_ADDRESS", "")  # where it is opened, under --lan
WEATHER = os.environ.get("TEMPER_WEATHER", "")  # address of a weather service; see depots/weather.py

STATIC_URL = "/static/"
WHITENOISE_ROOT = WEB if WEB.is_dir() else None
_HASHED = r"^/(assets/.+-[\w-]{8,}\.\w+|bay/[0-9a-f]{16}/.+)$"
WHITENOISE_IMMUTABLE_FILE_TEST = lambda _path, url: bool(re.match(_HASHED, url))  # noqa: E731

USE_TZ = True
TIME_ZONE = "UTC"
USE_I18N = False

REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": ["people.tokens.ProgramAuthentication", "people.auth.CookieAuthentication"],
    "DEFAULT_PERMISSION_CLASSES": ["rest_framework.permissions.IsAuthenticated"],
    "DEFAULT_RENDERER_CLASSES": ["rest_framework.renderers.JSONRenderer"],
    "DEFAULT_PARSER_CLASSES": ["config.boundary.BoundedJSONParser"],
    "DEFAULT_SCHEMA_CLASS": "drf_spectacular.openapi.AutoSchema",
    "EXCEPTION_HANDLER": "config.problems.problem_handler",
    "UNAUTHENTICATED_USER": "django.contrib.auth.models.AnonymousUser",
    "STRICT_JSON": True,
}
KNOX_TOKEN_MODEL = "people.ApiToken"
REST_KNOX = {"TOKEN_PREFIX": "temper-", "AUTH_HEADER_PREFIX": "Bearer", "TOKEN_TTL": None}
SPECTACULAR_SETTINGS = {
    "TITLE": "Temper",
    "DESCRIPTION": "Computes coolant changes. Volumes are litres at 20 degC; field names carry units.",
    "VERSION": temper_core.__version__,
    "OAS_VERSION": "3.1.0",
    "SERVE_INCLUDE_SCHEMA": False,
    "COMPONENT_SPLIT_REQUEST": False,
    "SORT_OPERATIONS": True,
    "ENUM_GENERATE_CHOICE_DESCRIPTION": False,
}

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
