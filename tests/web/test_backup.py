"""Backup and restore: whole or not at all, while others write, and only what is a backup."""

import sqlite3
import threading

import pytest
from django.core.management import CommandError, call_command

from extendum.web.records.backup import UnusableError, back_up, check, restore


def database(path, rows=3):
    """A database with the table by which a backup is known."""
    with sqlite3.connect(path) as made:
        made.execute("PRAGMA journal_mode=WAL")
        made.execute("CREATE TABLE classes_stretchclass (id INTEGER PRIMARY KEY, title TEXT)")
        made.executemany("INSERT INTO classes_stretchclass (title) VALUES (?)", [(f"Class {n}",) for n in range(rows)])
    made.close()
    return path


def titles(path):
    with sqlite3.connect(path) as opened:
        return [title for (title,) in opened.execute("SELECT title FROM classes_stretchclass ORDER BY id")]


def test_a_backup_is_the_whole_and_comes_back_with_what_was_there_kept(tmp_path):
    live, copy, kept = database(tmp_path / "live.sqlite3"), tmp_path / "sub" / "copy.sqlite3", tmp_path / "kept.sqlite3"
    assert back_up(live, copy) == copy.stat().st_size
    with sqlite3.connect(live) as later:
        later.execute("DELETE FROM classes_stretchclass")
        later.execute("INSERT INTO classes_stretchclass (title) VALUES ('Newer')")
    restore(copy, live, kept)
    assert titles(live) == ["Class 0", "Class 1", "Class 2"]
    assert titles(kept) == ["Newer"]
    assert sorted(path.name for path in copy.parent.iterdir()) == ["copy.sqlite3"]


def test_a_backup_made_while_others_write_is_whole(tmp_path):
    live = database(tmp_path / "live.sqlite3", rows=4000)
    stop = threading.Event()

    def write():
        with sqlite3.connect(live, timeout=20) as writer:
            n = 0
            while not stop.is_set():
                writer.execute("INSERT INTO classes_stretchclass (title) VALUES (?)", (f"More {n}",))
                writer.execute("INSERT INTO classes_stretchclass (title) VALUES (?)", (f"And {n}",))
                writer.commit()
                n += 1

    writer = threading.Thread(target=write)
    writer.start()
    try:
        for n in range(5):
            back_up(live, tmp_path / f"copy-{n}.sqlite3")
    finally:
        stop.set()
        writer.join()
    for n in range(5):
        found = titles(tmp_path / f"copy-{n}.sqlite3")
        assert found[:4000] == [f"Class {k}" for k in range(4000)]
        assert len(found) % 2 == 0  # never half of what was written together


def test_a_reader_that_is_connected_sees_what_was_restored(tmp_path):
    live, copy = database(tmp_path / "live.sqlite3"), tmp_path / "copy.sqlite3"
    back_up(live, copy)
    reader = sqlite3.connect(live)
    reader.execute("INSERT INTO classes_stretchclass (title) VALUES ('Newer')")
    reader.commit()
    restore(copy, live, tmp_path / "kept.sqlite3")
    assert reader.execute("SELECT count(*) FROM classes_stretchclass").fetchone() == (3,)
    reader.close()


@pytest.mark.parametrize("kind", ["none", "text", "other", "cut"])
def test_what_is_no_backup_changes_nothing(tmp_path, kind):
    live, file = database(tmp_path / "live.sqlite3", rows=3000), tmp_path / "file"
    if kind == "text":
        file.write_text("Dear diary, this is no database at all. " * 50)
    elif kind == "other":
        with sqlite3.connect(file) as other:
            other.execute("CREATE TABLE birds (name TEXT)")
    elif kind == "cut":
        back_up(live, file)
        file.write_bytes(file.read_bytes()[:30_000])
    with pytest.raises(UnusableError, match="must be"):
        restore(file, live, tmp_path / "kept.sqlite3")
    check(live)
    assert len(titles(live)) == 3000
    assert not (tmp_path / "kept.sqlite3").exists()


def test_a_backup_that_cannot_be_written_leaves_the_one_before(tmp_path, monkeypatch):
    live, copy = database(tmp_path / "live.sqlite3"), tmp_path / "copy.sqlite3"
    back_up(live, copy)
    before = copy.read_bytes()

    def full(file):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("extendum.web.records.backup.check", full)
    with pytest.raises(OSError, match="No space"):
        back_up(live, copy)
    assert copy.read_bytes() == before
    assert sorted(path.name for path in tmp_path.glob("*copy*")) == ["copy.sqlite3"]


def test_a_restore_onto_a_full_disk_ends_with_a_sentence_and_what_was_there(tmp_path, monkeypatch):
    live, copy = database(tmp_path / "live.sqlite3"), tmp_path / "copy.sqlite3"
    back_up(live, copy)

    def full(*_):
        raise sqlite3.OperationalError("database or disk is full")

    monkeypatch.setattr("extendum.web.records.backup.back_up", full)
    monkeypatch.setattr("extendum.web.records.management.commands.restore.kept_in", lambda _: live)
    with pytest.raises(CommandError, match=r"the disk is full\. Nothing was replaced; make room, and try again"):
        call_command("restore", copy)
    check(live)
