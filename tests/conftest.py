"""Settings for all tests."""

import os

from hypothesis import settings

settings.register_profile("steady", derandomize=True, deadline=None, max_examples=20)
settings.load_profile("steady")
# Playwright's synchronous interface runs an event loop beside the ORM.
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")
