"""Backup and restore of everything: one file, made and put back while the application runs.

SQLite's own way of copying a database page by page keeps both sides whole: whoever writes meanwhile waits or is copied
too, and a copy that is broken off leaves what was there. What was read in and the music are files beside the database;
they never change once they are there, so they are copied as they are. A backup is a zip of all of it.
"""

from __future__ import annotations

import shutil
import sqlite3
import tempfile
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from errno import ENOSPC
from pathlib import Path
from typing import Any

#: The database in a backup, and the folders of sound beside it.
DATABASE, FOLDERS = "extendum.sqlite3", ("voices", "music", "takes", "pages")
PAGES = 500
WAIT_S = 20.0


class UnusableError(Exception):
    """A file that is no backup, or a damaged one: what must hold, and what was found."""


def kept_in(settings: Any) -> Path:
    """The file of the database; UnusableError where it is kept by a server, which has its own ways to copy it."""
    kept = settings.DATABASES["default"]
    if not kept["ENGINE"].endswith("sqlite3"):
        raise UnusableError("This Extendum keeps its data in PostgreSQL: pg_dump copies it, pg_restore puts it back")
    return Path(kept["NAME"])


@contextmanager
def _opened(path: Path, mode: str) -> Iterator[sqlite3.Connection]:
    connection = sqlite3.connect(f"{path.resolve().as_uri()}?mode={mode}", uri=True, timeout=WAIT_S)
    try:
        yield connection
    finally:
        connection.close()


def back_up(database: Path, to: Path) -> int:
    """Copy the database to a file, whole or not at all; its size in bytes."""
    to.parent.mkdir(parents=True, exist_ok=True)
    beside = to.with_name(f".{to.name}.new")
    beside.unlink(missing_ok=True)
    try:
        with _opened(database, "ro") as source, _opened(beside, "rwc") as target:
            source.backup(target, pages=PAGES)
            target.execute("PRAGMA journal_mode=DELETE")  # one file, without a log beside it
        check(beside)
        beside.replace(to)
    finally:
        beside.unlink(missing_ok=True)
    return to.stat().st_size


def check(file: Path) -> None:
    """Refuse a file that is no whole database of this application."""
    if not file.is_file():
        raise UnusableError(f"must be a file; found {file}")
    try:
        with _opened(file, "ro") as source:
            told = source.execute("PRAGMA integrity_check").fetchone()[0]
            tables = {name for (name,) in source.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
    except sqlite3.DatabaseError as error:
        raise UnusableError(f"must be a backup of Extendum; found {error}") from None
    if told != "ok":
        raise UnusableError(f"must be a whole database; found {told}")
    if "classes_stretchclass" not in tables:
        raise UnusableError("must be a backup of Extendum; found another database")


def in_words(error: Exception) -> str:
    """Why a copy could not be made, and what is there now."""
    full = isinstance(error, OSError) and error.errno == ENOSPC
    if full or (isinstance(error, sqlite3.Error) and "full" in str(error).lower()):
        return "the disk is full. Nothing was replaced; make room, and try again"
    return str(error)


def restore(file: Path, database: Path, kept: Path) -> None:
    """Replace everything by a backup; what was there before is first kept in another file."""
    check(file)
    if database.is_file():
        back_up(database, kept)
    with _opened(file, "ro") as source, _opened(database, "rwc") as target:
        source.backup(target)


def pack_up(database: Path, data: Path, to: Path) -> int:
    """Copy the database and the sound of a data folder into one file, whole or not at all; its size in bytes."""
    to.parent.mkdir(parents=True, exist_ok=True)
    beside = to.with_name(f".{to.name}.new")
    with tempfile.TemporaryDirectory(dir=to.parent) as folder:
        copy = Path(folder) / DATABASE
        back_up(database, copy)
        try:
            with zipfile.ZipFile(beside, "w", zipfile.ZIP_STORED) as files:
                files.write(copy, DATABASE, zipfile.ZIP_DEFLATED)
                for path in _sound(data):
                    with suppress(FileNotFoundError):  # read once more meanwhile
                        files.write(path, path.relative_to(data))
            beside.replace(to)
        finally:
            beside.unlink(missing_ok=True)
    return to.stat().st_size


def _sound(data: Path) -> Iterator[Path]:
    for name in FOLDERS:
        yield from sorted(path for path in (data / name).rglob("*") if path.is_file() and not path.name.startswith("."))


def put_back(file: Path, database: Path, data: Path, kept: Path) -> None:
    """Replace everything by a backup, also by one of a database alone; what was there is first kept in another file."""
    if not zipfile.is_zipfile(file):
        restore(file, database, kept.with_suffix(".sqlite3"))
        return
    data.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(dir=data) as folder, zipfile.ZipFile(file) as files:
        new = Path(folder)
        try:
            for name in files.namelist():
                if name == DATABASE or name.split("/")[0] in FOLDERS:
                    files.extract(name, new)
        except zipfile.BadZipFile as error:
            raise UnusableError(f"must be a whole backup; found {error}") from None
        check(new / DATABASE)
        if database.is_file():
            pack_up(database, data, kept)
        restore(new / DATABASE, database, new / "before.sqlite3")
        for name in FOLDERS:
            shutil.rmtree(data / name, ignore_errors=True)
            if (new / name).is_dir():
                (new / name).replace(data / name)
