"""Classes as they were taught: runs, and what happened in them."""

from django.db import models

from extendum.core.run.fold import Event
from extendum.web.classes.models import Revision, StretchClass


class LiveRun(models.Model):
    """One teaching of a class, known by a name that the Stage made."""

    of = models.ForeignKey(StretchClass, models.CASCADE, related_name="runs")
    key = models.CharField(max_length=40)
    stamp = models.PositiveIntegerField(help_text="which state of the class was taught")
    began_at = models.DateTimeField(auto_now_add=True)
    revision = models.ForeignKey(
        Revision, models.PROTECT, null=True, related_name="runs", help_text="the document that was taught"
    )
    rehearsal = models.BooleanField(default=False)
    holder = models.CharField(max_length=40, blank=True, help_text="which Stage teaches; others watch")
    held_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["of", "key"], name="one_run_of_a_key")]

    def __str__(self) -> str:
        return f"{self.of_id} {self.key}"

    def told(self) -> list[Event]:
        """What happened, in the order of time."""
        return [Event(e.key, e.at, e.kind, e.step, e.ms) for e in self.events.all()]


class LiveEvent(models.Model):
    """One thing that happened in a run, with the id that the Stage gave it: told twice, it is kept once."""

    run = models.ForeignKey(LiveRun, models.CASCADE, related_name="events")
    key = models.CharField(max_length=40)
    at = models.BigIntegerField(help_text="milliseconds of the wall clock of the Stage")
    kind = models.CharField(max_length=20)
    step = models.CharField(max_length=120, blank=True)
    ms = models.IntegerField(default=0)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["run", "key"], name="one_event_of_a_key")]
        ordering = ["at", "pk"]

    def __str__(self) -> str:
        return f"{self.kind} {self.at}"
