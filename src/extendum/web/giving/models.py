"""Files that take a while to make: a pack, or the audio guide."""

from pathlib import Path

from django.conf import settings
from django.db import models
from django.utils import timezone

from extendum.web.classes.models import Revision, StretchClass


class Making(models.Model):
    """One file being made from a class as it is now, in the background, with how far it is."""

    class State(models.TextChoices):
        MAKING = "making"
        DONE = "done"
        FAILED = "failed"

    of = models.ForeignKey(StretchClass, models.CASCADE, related_name="makings")
    revision = models.ForeignKey(Revision, models.CASCADE, related_name="+")
    kind = models.CharField(max_length=10)
    paper = models.CharField(max_length=10)
    state = models.CharField(max_length=10, choices=State.choices, default=State.MAKING)
    share = models.FloatField(default=0)
    told = models.TextField(blank=True, help_text="what should be known of it, or why it failed")
    made_at = models.DateTimeField(default=timezone.now)
    heard_at = models.DateTimeField(default=timezone.now, help_text="when it was last known to be at work")

    def __str__(self) -> str:
        return f"{self.kind} of {self.of_id}"

    @property
    def path(self) -> Path:
        """Where the file is."""
        return Path(settings.DATA) / "made" / f"{self.pk}"

    @property
    def percent(self) -> int:
        """How far it is."""
        return round(100 * self.share)
