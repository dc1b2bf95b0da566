"""Teachings: planned in the calendar, and as they became; and what a teacher wants to remember for the next time."""

from django.conf import settings
from django.db import models
from django.utils import timezone

from extendum.web.classes.models import StretchClass
from extendum.web.teach.models import LiveRun


class Session(models.Model):
    """One teaching of a class: planned, taught, or both."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="sessions")
    of = models.ForeignKey(StretchClass, models.CASCADE, related_name="sessions")
    at = models.DateTimeField(help_text="when it is planned, or when it began")
    place = models.CharField(max_length=120, blank=True)
    group = models.CharField(max_length=120, blank=True)
    run = models.OneToOneField(LiveRun, models.CASCADE, null=True, related_name="session")
    people = models.PositiveSmallIntegerField(null=True)
    notes = models.TextField(blank=True, max_length=4000)
    tags = models.CharField(max_length=200, blank=True, help_text="words with commas between them")

    class Meta:
        indexes = [models.Index(fields=["owner", "-at"], name="sessions_by_time")]

    def __str__(self) -> str:
        return f"{self.of_id} {self.at:%Y-%m-%d %H:%M}"


class NextTime(models.Model):
    """Something to do differently next time; it shows on the Desk until it is done."""

    of = models.ForeignKey(StretchClass, models.CASCADE, related_name="next_times")
    text = models.CharField(max_length=300)
    made_at = models.DateTimeField(default=timezone.now)
    done_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["made_at", "pk"]

    def __str__(self) -> str:
        return self.text


class PastRecording(models.Model):
    """The timed text of a recording of a class, and the corrections of what was heard in it, one on each line."""

    of = models.ForeignKey(StretchClass, models.CASCADE, related_name="past_recordings")
    name = models.CharField(max_length=200)
    text = models.TextField()
    steps = models.TextField(blank=True)
    kept_at = models.DateTimeField(default=timezone.now)
    removed_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-kept_at", "-pk"]

    def __str__(self) -> str:
        return f"{self.of_id}: {self.name}"
