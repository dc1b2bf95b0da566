"""Replaces everything by a backup; what was there is kept beside it."""

import sqlite3
from datetime import datetime
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection

from extendum.web.records.backup import UnusableError, in_words, kept_in, put_back


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path, help="a file that backup made")

    def handle(self, *args: Any, file: Path, **options: Any) -> None:
        try:
            database = kept_in(settings)
        except UnusableError as error:
            raise CommandError(str(error)) from None
        kept = Path(settings.DATA) / "backups" / f"before-restore-{datetime.now():%Y%m%d-%H%M%S}.zip"
        connection.close()
        try:
            put_back(file, database, Path(settings.DATA), kept)
        except (UnusableError, OSError, sqlite3.Error) as error:
            raise CommandError(f"{file}: {in_words(error)}") from None
        call_command("migrate", verbosity=0)
        before = next((one for one in (kept, kept.with_suffix(".sqlite3")) if one.is_file()), None)
        self.stdout.write(f"{file} is in its place." + (f" What was there before: {before}" if before else ""))
