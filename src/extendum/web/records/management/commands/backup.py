"""Copies everything into one file, while the application runs."""

import sqlite3
from datetime import datetime
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from extendum.web.records.backup import UnusableError, in_words, kept_in, pack_up


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path, nargs="?", help="where to; a file of its own without it")

    def handle(self, *args: Any, file: Path | None, **options: Any) -> None:
        try:
            database = kept_in(settings)
        except UnusableError as error:
            raise CommandError(str(error)) from None
        if not database.is_file():
            raise CommandError(f"There is nothing to copy yet: {database} is not there.")
        to = file or Path(settings.DATA) / "backups" / f"extendum-{datetime.now():%Y%m%d-%H%M%S}.zip"
        try:
            size = pack_up(database, Path(settings.DATA), to)
        except (UnusableError, OSError, sqlite3.Error) as error:
            raise CommandError(f"{to}: {in_words(error)}") from None
        self.stdout.write(f"{to}: {size:,} bytes")
