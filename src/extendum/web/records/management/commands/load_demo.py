"""Loads the demo instructor and the demo classes once; what was edited since stays."""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import transaction

from extendum.core.model.errors import RefusedError
from extendum.formats.document import loads
from extendum.web.classes import store
from extendum.web.records.demo import teach_for_months


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument(
            "folder", type=Path, nargs="?", default=settings.DEMO_CLASSES, help="where the class documents are"
        )

    @transaction.atomic
    def handle(self, *args: Any, folder: Path, **options: Any) -> None:
        user, made = get_user_model().objects.get_or_create(
            username=settings.DEMO_USER, defaults={"first_name": "Demo"}
        )
        if not made:
            return
        user.set_unusable_password()
        user.save()
        for path in sorted(folder.glob("*.json")):
            try:
                script = loads(path.read_bytes())
            except RefusedError as error:
                raise CommandError(f"{path}: {error}") from None
            store.create(user, script, f"Loaded {path.name}")
        teach_for_months(list(user.classes.order_by("pk")))
        self.stdout.write(f"Demo classes loaded: {user.classes.count()}")
