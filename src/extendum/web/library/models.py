"""Moves of an instructor's own, and own versions of shipped ones."""

from django.conf import settings
from django.db import models
from django.utils import timezone


class OwnMove(models.Model):
    """A move as an instructor has written it; with a shipped move's key it replaces that one."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="own_moves")
    key = models.CharField(max_length=80)
    name = models.CharField(max_length=200, help_text="that of the entry, for lists")
    entry = models.TextField(help_text="the move as JSON")
    changed_at = models.DateTimeField(default=timezone.now)
    removed_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["owner", "key"], name="one_own_move_of_a_key")]

    def __str__(self) -> str:
        return self.name
