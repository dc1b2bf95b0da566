"""The demo's own sign-in: whoever sits at this machine is the demo instructor."""

from collections.abc import Callable

from django.conf import settings
from django.contrib.auth import get_user_model, login
from django.http import HttpRequest, HttpResponse, HttpResponseForbidden

_LOOPBACK = {"127.0.0.1", "::1"}
#: Addresses that their code opens, without a session.
_BY_CODE = ("/room/", "/clicker/")


class DemoSignIn:
    """Signs the demo instructor in; any address but this machine's own is turned away."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponse]) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.META.get("REMOTE_ADDR") not in _LOOPBACK:
            return HttpResponseForbidden("The demo answers this machine only.")
        if not request.path.startswith(_BY_CODE) and not request.user.is_authenticated:
            user = get_user_model().objects.filter(username=settings.DEMO_USER).first()
            if user is not None:
                login(request, user, backend="django.contrib.auth.backends.ModelBackend")
        return self.answer(request)
