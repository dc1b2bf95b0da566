"""Classes and their revisions. Every edit is a revision; nothing is ever overwritten but quick repeats."""

from django.conf import settings
from django.db import models
from django.utils import timezone


class StretchClass(models.Model):
    """A class on somebody's shelf; what it contains is in its head revision."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="classes")
    title = models.CharField(max_length=200, help_text="that of the head revision, for lists")
    head = models.ForeignKey("Revision", models.PROTECT, null=True, related_name="+")
    stamp = models.PositiveIntegerField(default=0, help_text="counts every change, undo and redo too")
    last_action = models.CharField(max_length=300, blank=True)
    created_at = models.DateTimeField(default=timezone.now)
    changed_at = models.DateTimeField(default=timezone.now)
    taught_at = models.DateTimeField(null=True)
    archived_at = models.DateTimeField(null=True)
    counted_by = models.PositiveSmallIntegerField(
        default=0, help_text="the version of the document whose length the owner knows; 0: of an early one"
    )

    class Meta:
        indexes = [models.Index(fields=["owner", "archived_at", "-changed_at"], name="shelf")]

    def __str__(self) -> str:
        return self.title

    @property
    def present(self) -> "Revision":
        """The revision that the class is at; none only while it is made."""
        if self.head is None:
            raise Revision.DoesNotExist
        return self.head


class Revision(models.Model):
    """A whole document as one edit left it."""

    of = models.ForeignKey(StretchClass, models.CASCADE, related_name="revisions")
    parent = models.ForeignKey("self", models.CASCADE, null=True, related_name="children")
    forward = models.ForeignKey(
        "self", models.SET_NULL, null=True, related_name="+", help_text="where redo goes from here"
    )
    document = models.BinaryField(help_text="compressed JSON")
    label = models.CharField(max_length=300)
    field = models.CharField(max_length=120, blank=True, help_text="repeated edits of it may be one revision")
    stamp = models.PositiveIntegerField(help_text="the class's stamp when it was last written")
    at = models.DateTimeField(default=timezone.now)

    class Meta:
        indexes = [models.Index(fields=["of", "stamp"], name="revisions_since")]

    def __str__(self) -> str:
        return f"{self.of_id}: {self.label}"


class OwnStyle(models.Model):
    """A cue style that an instructor keeps under a name of their own."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="cue_styles")
    name = models.CharField(max_length=80)
    settings = models.TextField(help_text="the style as JSON")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["owner", "name"], name="one_style_of_a_name")]

    def __str__(self) -> str:
        return self.name


class OwnAudience(models.Model):
    """An audience profile that an instructor keeps under a name of their own."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="audiences")
    name = models.CharField(max_length=80)
    settings = models.TextField(help_text="the profile as JSON")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["owner", "name"], name="one_audience_of_a_name")]

    def __str__(self) -> str:
        return self.name


class Defaults(models.Model):
    """What one instructor's new classes and files begin with; without a row all of it is as it ships."""

    owner = models.OneToOneField(settings.AUTH_USER_MODEL, models.CASCADE, related_name="defaults")
    length_s = models.PositiveIntegerField(default=600, help_text="of a new class's slot")
    style = models.TextField(blank=True, help_text="the cue style of a new class, as JSON; empty: as it ships")
    paper = models.CharField(max_length=10, default="A4", help_text="what is printed on")
    line = models.CharField(max_length=120, blank=True, help_text="what is put on every handout and page")
    build = models.CharField(max_length=10, default="slight", help_text="of the figures")
    skin = models.CharField(max_length=10, default="middle", help_text="of the figures")

    def __str__(self) -> str:
        return f"defaults of {self.owner_id}"


class MoveUse(models.Model):
    """That a class, as it is now, has a move of the library."""

    of = models.ForeignKey(StretchClass, models.CASCADE, related_name="uses")
    key = models.CharField(max_length=80)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["of", "key"], name="one_use_of_a_move")]
        indexes = [models.Index(fields=["key"], name="used_in")]

    def __str__(self) -> str:
        return f"{self.of_id}: {self.key}"
