"""The application's settings, with static files served from where they lie."""

import os
import tempfile

os.environ.setdefault("EXTENDUM_DATA", tempfile.mkdtemp(prefix="extendum-test-"))
os.environ["EXTENDUM_INSECURE"] = "1"

from extendum.web.settings import *  # noqa: F403
from extendum.web.settings import MIDDLEWARE as _MIDDLEWARE

MIDDLEWARE = [one for one in _MIDDLEWARE if "whitenoise" not in one]
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
FOLLOWERS_SHARE_S = 0
JOBS_IN_THREADS = True
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
