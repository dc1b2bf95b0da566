"""Long work: a row a job, with how far it is, what was asked of it and what came of it."""

from django.db import models
from django.utils import timezone

from extendum.web.classes.models import StretchClass


class Job(models.Model):
    """One piece of work outside a request: waiting, at work, done, failed, or stopped with its process."""

    class State(models.TextChoices):
        WORKING = "working"
        DONE = "done"
        FAILED = "failed"

    of = models.ForeignKey(StretchClass, models.CASCADE, related_name="jobs")
    kind = models.CharField(max_length=20)
    asked = models.JSONField(default=dict, help_text="what the work is given")
    found = models.JSONField(default=dict, help_text="what it has found so far")
    state = models.CharField(max_length=10, choices=State.choices, default=State.WORKING)
    told = models.TextField(blank=True, help_text="why it failed")
    enough = models.BooleanField(default=False, help_text="somebody said that what was found is enough")
    made_at = models.DateTimeField(default=timezone.now)
    heard_at = models.DateTimeField(default=timezone.now, help_text="when it was last known to be at work")

    def __str__(self) -> str:
        return f"{self.kind} of {self.of_id}"
