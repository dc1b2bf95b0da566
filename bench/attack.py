"""Attacks a server of its own and says what came of it, a line each: `make attack` (CLIENTS=200).

Loopback only, bounded in number and time: slow clients, documents that ask for too much, odd numbers, rows that are
damaged, a database that somebody else holds. It exits with 1 where something did not hold.
"""

from __future__ import annotations

import asyncio
import json
import re
import sqlite3
import sys
import time
import urllib.error
import urllib.parse
import urllib.request
import zlib
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path
from typing import Any

from bench.demo import served_with_data
from bench.rooms import Teacher

BUDGET_MS, REFUSED_MS, READ_MS = 300.0, 1500.0, 1000.0
FORM = "application/x-www-form-urlencoded"
ODD = ("²", "9" * 5000, "-1", "1e9", "NaN", "0" * 400)
Line = tuple[str, str, bool]


class Client:
    """Requests over connections of their own, as many at once as are asked for."""

    def __init__(self, teacher: Teacher) -> None:
        address = urllib.parse.urlparse(teacher.base)
        self.host, self.port = str(address.hostname), int(address.port or 80)
        cookies = "; ".join(f"{one.name}={one.value}" for one in teacher.jar)
        self.head = f"Host: {self.host}:{self.port}\r\nCookie: {cookies}\r\n"

    async def get(self, path: str) -> tuple[int, float]:
        """The status of an answer and its milliseconds; 0 for none within five seconds."""
        begun = time.perf_counter()
        try:
            async with asyncio.timeout(5):
                reader, writer = await asyncio.open_connection(self.host, self.port)
                writer.write(f"GET {path} HTTP/1.1\r\n{self.head}Connection: close\r\n\r\n".encode())
                told = await reader.read()
                writer.close()
                return int(told.split(b" ", 2)[1]), (time.perf_counter() - begun) * 1000
        except (OSError, TimeoutError, IndexError):
            return 0, 5000.0

    async def p95(self, path: str, requests: int = 120, at_once: int = 6) -> float:
        """The 95th percentile of normal requests, in ms; one without an answer counts five seconds."""
        found: list[float] = []

        async def some() -> None:
            for _ in range(requests // at_once):
                status, ms = await self.get(path)
                found.append(ms if status == 200 else 5000.0)

        await asyncio.gather(*(some() for _ in range(at_once)))
        return sorted(found)[int(len(found) * 0.95)]

    async def half(self, count: int, *, body: bool) -> list[asyncio.StreamWriter]:
        """Connections that have sent half a head, or a head without its body, and go on no further."""
        left = f"POST /settings/ HTTP/1.1\r\n{self.head}Content-Type: {FORM}\r\nContent-Length: 1000\r\n\r\npart="
        text = left if body else "GET / HTTP/1.1\r\nHost: x\r\nX-Slow: "
        opened = []
        for _ in range(count):
            _, writer = await asyncio.open_connection(self.host, self.port)
            writer.write(text.encode())
            opened.append(writer)
        return opened


def posted(teacher: Teacher, path: str, fields: dict[str, str], *, signed: bool = True) -> tuple[int, float]:
    """The status of a form's answer, and its milliseconds."""
    begun = time.perf_counter()
    body = urllib.parse.urlencode(fields).encode()
    try:
        if signed:
            teacher.post(path, body, FORM)
        else:
            with urllib.request.urlopen(urllib.request.Request(teacher.base + path, body)):  # noqa: S310
                pass
        status = 200
    except urllib.error.HTTPError as error:
        status = error.code
    return status, (time.perf_counter() - begun) * 1000


async def slow_clients(client: Client, count: int) -> list[Line]:
    """Half-open connections, while normal requests are timed."""
    requests = min(120, 12 + 2 * count)
    lines = [("normal requests, nobody else there", f"{await client.p95('/help/', requests):.0f} ms at 95 %", True)]
    for body, what in ((False, "half a request head"), (True, "a head without its body")):
        opened = await client.half(count, body=body)
        found = await client.p95("/help/", requests)
        lines.append((f"{count} connections with {what}", f"{found:.0f} ms at 95 %", found < BUDGET_MS))
        for writer in opened:
            writer.close()
    return lines


def documents(teacher: Teacher) -> Iterator[Line]:
    """Documents that overflow, nest, repeat themselves, or unfold to more than anybody teaches."""
    plain = json.loads(teacher.get(f"/classes/{teacher.of}/document/"))
    text, item = json.dumps(plain), {"type": "move", "move": {"name": "M", "sidedness": "each side and direction"}}
    dose = {"type": "hold", "seconds": {"least": 1, "wanted": 5, "most": 60}}
    many = [{**item, "id": f"i{n}", "dose": dose, "sets": 20} for n in range(100)]
    bomb = {**plain, "sections": [{"id": "s", "groups": [{"id": "g", "rounds": 20, "items": many}]}], "meanwhiles": []}
    for what, document in (
        ("a number beyond all, 1e999", text.replace("{", '{"mood": 1e999, ', 1)),
        ("930 levels of lists", text.replace("{", '{"mood": ' + "[" * 930 + "]" * 930 + ", ", 1)),
        ("100,000 levels", "[" * 100_000),
        ("a number of 5,000 digits", text.replace("{", '{"mood": ' + "9" * 5000 + ", ", 1)),
        ("half a letter", text.replace("{", '{"mood": "\\ud800", ', 1)),
        ("a name twice", text.replace("{", '{"title": "Again", ', 1)),
        ("300,000 values", text.replace("{", '{"mood": [' + "0," * 300_000 + "0], ", 1)),
        ("100 moves, 20 sets, 20 rounds, four ways", json.dumps(bomb)),
    ):
        status, ms = posted(teacher, "/read-in/", {"text": document})
        yield f"a document with {what}", f"{status} after {ms:.0f} ms", status == 422 and ms < REFUSED_MS


def oversized(teacher: Teacher) -> Iterator[Line]:
    """Bodies larger than anything of ours, with an account and without."""
    status, ms = posted(teacher, "/read-in/", {"text": "x" * 6_000_000})
    yield "6 MB with an account", f"{status} after {ms:.0f} ms", status == 413
    status, ms = posted(teacher, "/sign-in/", {"username": "x" * 2_000_000}, signed=False)
    yield "2 MB without an account", f"{status} after {ms:.0f} ms", status == 413
    status, ms = posted(teacher, "/moves/new/", {"name": "M", "target_rows": "99999999999"})
    yield "99,999,999,999 rows in a form", f"{status} after {ms:.0f} ms", status == 422


def odd_numbers(teacher: Teacher) -> Iterator[Line]:
    """Numbers that are none, wherever an address takes one."""
    at = ("/logbook/?class=", "/logbook/?from=", "/moves/?used=", "/moves/calf-lean/figure.svg?view=")
    found = [_status(teacher, path + urllib.parse.quote(odd)) for path in at for odd in ODD]
    yield f"{len(found)} odd numbers in addresses", f"{max(found)} at worst", max(found) < 500


def _status(teacher: Teacher, path: str) -> int:
    try:
        teacher.get(path)
        return 200
    except urllib.error.HTTPError as error:
        return error.code


def damaged(teacher: Teacher, data: Path) -> Iterator[Line]:
    """A revision whose bytes are broken, and one that is no class any more."""
    for what, document in (("no zlib", b"\x00\x01"), ("no document", zlib.compress(b"{"))):
        made = _copy(teacher)
        with closing(sqlite3.connect(data / "extendum.sqlite3")) as opened, opened:
            opened.execute("UPDATE classes_revision SET document = ? WHERE of_id = ?", (document, made))
        shelf, page = _status(teacher, "/"), _status(teacher, f"/classes/{made}/")
        yield f"a class whose document is {what}", f"shelf {shelf}, its page {page}", (shelf, page) == (200, 422)


def _copy(teacher: Teacher) -> str:
    teacher.post(f"/classes/{teacher.of}/duplicate/", b"", FORM)
    return max(re.findall(r'href="/classes/(\d+)/"', teacher.get("/")), key=int)


async def held_database(teacher: Teacher, client: Client, data: Path, writers: int = 10) -> list[Line]:
    """Ten who write while somebody else holds the database, and one who reads."""
    made = _copy(teacher)
    with closing(sqlite3.connect(data / "extendum.sqlite3", isolation_level=None)) as opened:
        opened.execute("BEGIN IMMEDIATE")
        form = {"edit": "talk", "stamp": "1"}
        waits = [asyncio.to_thread(posted, teacher, f"/classes/{made}/edit/", form) for _ in range(writers)]
        waiting = asyncio.gather(*waits)
        await asyncio.sleep(0.2)
        read = await client.p95(f"/classes/{made}/", requests=30, at_once=3)
        told: list[tuple[int, float]] = await waiting
        stage, ms = await client.get(f"/classes/{made}/stage/")
        opened.execute("ROLLBACK")
    statuses, longest = {status for status, _ in told}, max(took for _, took in told)
    return [
        (f"{writers} writers of a database that is held", f"{statuses}, {longest:.0f} ms at most", statuses == {503}),
        ("  a reader meanwhile", f"{read:.0f} ms at 95 %", read < READ_MS),
        ("  the Stage meanwhile", f"{stage} after {ms:.0f} ms", stage == 200),
    ]


def measured(clients: int = 200) -> list[Line]:
    """Everything, a line as soon as it is known."""
    found: list[Line] = []

    def say(lines: Any) -> None:
        for line in lines:
            found.append(line)
            print(f"{'held' if line[2] else 'FAILED':7} {line[0]:52} {line[1]}", flush=True)

    with served_with_data() as (base, data):
        teacher = Teacher(base)
        client = Client(teacher)
        say(asyncio.run(slow_clients(client, clients)))
        say(documents(teacher))
        say(oversized(teacher))
        say(odd_numbers(teacher))
        say(damaged(teacher, data))
        say(asyncio.run(held_database(teacher, client, data)))
    return found


if __name__ == "__main__":
    sys.exit(not all(held for *_, held in measured(*(int(one) for one in sys.argv[1:]))))
