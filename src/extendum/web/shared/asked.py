"""A request as nearly every view gets it: of somebody who is signed in, and marked by django-htmx."""

from django.contrib.auth.models import User
from django.http import HttpRequest
from django_htmx.middleware import HtmxDetails


class Asked(HttpRequest):
    """What the middleware makes of a request; the sign-in lets nobody else through to these views."""

    user: User
    htmx: HtmxDetails
