"""Classes as they were taught: runs, what happened in them, and the screens and clickers that follow them."""

import secrets

from django.conf import settings
from django.db import models
from django.utils import timezone

from extendum.core.run.state import Event
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
    rehearsal = models.BooleanField(default=False, help_text="kept apart from what was taught")
    take = models.BooleanField(default=False, help_text="a rehearsal in front of a camera: a recording")
    clock_off = models.BigIntegerField(
        null=True, help_text="milliseconds that the server's clock is ahead of the Stage's"
    )
    cut = models.JSONField(
        default=dict, help_text="of a recording: takes chosen and deleted, where the clap is, notes to insert shots"
    )
    holder = models.CharField(max_length=40, blank=True, help_text="which Stage teaches; others watch")
    held_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["of", "key"], name="one_run_of_a_key")]
        indexes = [models.Index(fields=["-held_at"], name="runs_heard_of")]

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


#: Without characters that are taken for one another.
_LETTERS = "abcdefghjkmnpqrstuvwxyz23456789"


def new_code() -> str:
    """An address that cannot be guessed: 16 of 31 characters, 79 bits."""
    return "".join(secrets.choice(_LETTERS) for _ in range(16))


class Link(models.Model):
    """A screen for the class, or a clicker, that follows whatever its owner teaches until it is revoked."""

    class Kind(models.TextChoices):
        ROOM = "room", "Room"
        CLICKER = "clicker", "Clicker"

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="links")
    kind = models.CharField(max_length=10, choices=Kind.choices)
    code = models.CharField(max_length=40, unique=True, default=new_code)
    name = models.CharField(max_length=80)
    mirrored = models.BooleanField(default=True, help_text="the figure as in a mirror")
    easier = models.BooleanField(default=False, help_text="the easier option beside the move")
    made_at = models.DateTimeField(default=timezone.now)
    revoked_at = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return f"{self.kind} {self.name}"


class Press(models.Model):
    """A key of a clicker that the Stage is to do, with the id that the clicker gave it."""

    run = models.ForeignKey(LiveRun, models.CASCADE, related_name="presses")
    key = models.CharField(max_length=40)
    kind = models.CharField(max_length=20)
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["run", "key"], name="one_press_of_a_key")]

    def __str__(self) -> str:
        return self.kind
