"""Voices, what each has read, and music; the sound itself is in files of the data folder."""

from django.conf import settings
from django.db import models
from django.utils import timezone

from extendum.web.classes.models import StretchClass


class Voice(models.Model):
    """A person's voice, by the name that its owner gave it."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="voices")
    name = models.CharField(max_length=80)
    made_at = models.DateTimeField(default=timezone.now)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["owner", "name"], name="one_voice_of_a_name")]
        ordering = ["name"]

    def __str__(self) -> str:
        return self.name


class Reading(models.Model):
    """One text as it was read by a voice; read again, it is replaced."""

    voice = models.ForeignKey(Voice, models.CASCADE, related_name="readings")
    known_by = models.CharField(max_length=64, help_text="a digest of what the text is known by")
    text = models.TextField(max_length=4000)
    ms = models.PositiveIntegerField(help_text="from its first sound to its last")
    loudness = models.FloatField(help_text="LUFS as it was recorded")
    file = models.CharField(max_length=80, help_text="name of its sound, and of the original beside it")
    read_for = models.ForeignKey(StretchClass, models.SET_NULL, null=True, related_name="readings")
    read_at = models.DateTimeField(default=timezone.now)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["voice", "known_by"], name="one_reading_of_a_text")]

    def __str__(self) -> str:
        return f"{self.voice_id}: {self.text[:60]}"


class Music(models.Model):
    """A piece of music for under classes, by the name that its owner gave it."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="music")
    name = models.CharField(max_length=80)
    rights = models.CharField(max_length=300, blank=True, help_text="whose it is, and what it may be used for")
    file = models.CharField(max_length=80)
    made_at = models.DateTimeField(default=timezone.now)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["owner", "name"], name="one_music_of_a_name")]
        ordering = ["name"]

    def __str__(self) -> str:
        return self.name
