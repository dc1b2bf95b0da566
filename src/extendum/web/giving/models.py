"""Pages that play a class at an address of their own."""

from django.conf import settings
from django.db import models
from django.utils import timezone

from extendum.web.classes.models import Revision, StretchClass
from extendum.web.teach.models import new_code


class PlayingPage(models.Model):
    """A page as it was made last, at an address that cannot be guessed and works until it is revoked."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="playing_pages")
    of = models.ForeignKey(StretchClass, models.CASCADE, related_name="pages")
    code = models.CharField(max_length=40, unique=True, default=new_code)
    shows = models.JSONField(default=dict, help_text="what the page shows beside the class")
    revision = models.ForeignKey(Revision, models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField(default=timezone.now)
    revoked_at = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return f"{self.of_id} {self.code}"
