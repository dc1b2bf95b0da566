"""The WSGI application that `whole.py` hands whole requests to."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "extendum.web.settings")
application = get_wsgi_application()
