"""Measures many instructors who edit at once: `make bench-load` (N=30 instructors, an edit each every 3 s, for 30 s).

Each has a copy of the thirty-minute class and makes a dose longer and shorter as the Desk does, over a new connection
each time. What is measured is an answer of the Desk: parsed, edited, saved, compiled, checked and drawn. With
EXTENDUM_DATABASE and EXTENDUM_WORKERS it measures another database and other numbers of processes.
"""

from __future__ import annotations

import asyncio
import os
import random
import re
import sys
import time
import urllib.parse

from bench.demo import served
from bench.rooms import Found, Teacher

EVERY_S, SECONDS = 3.0, 30.0


def copies(teacher: Teacher, count: int) -> list[tuple[int, str]]:
    """So many copies of the longest class, with an item to nudge."""
    page = teacher.get("/")
    of = re.search(r'href="/classes/(\d+)/">Hall class', page).group(1)  # type: ignore[union-attr]
    for _ in range(count):
        teacher.post(f"/classes/{of}/duplicate/", b"", "application/x-www-form-urlencoded")
    found = sorted({int(n) for n in re.findall(r'href="/classes/(\d+)/">Hall class[^<]*\(copy\)', teacher.get("/"))})
    item = re.findall(r'data-choose="(i\d+)"', teacher.get(f"/classes/{of}/"))[6]
    return [(pk, item) for pk in found]


async def instructor(teacher: Teacher, pk: int, item: str, until: float, found: Found) -> None:
    """One who edits."""
    address = urllib.parse.urlparse(teacher.base)
    cookies = "; ".join(f"{one.name}={one.value}" for one in teacher.jar)
    token = next(str(one.value) for one in teacher.jar if one.name == "csrftoken")
    await asyncio.sleep(random.random() * EVERY_S)
    stamp, by = 1, 5
    while time.monotonic() < until:
        begun = time.perf_counter()
        body = urllib.parse.urlencode({"edit": "nudge", "item": item, "by": by, "stamp": stamp})
        try:
            reader, writer = await asyncio.open_connection(address.hostname, address.port)
            writer.write(
                f"POST /classes/{pk}/edit/ HTTP/1.1\r\nHost: {address.netloc}\r\nCookie: {cookies}\r\n"
                f"X-CSRFToken: {token}\r\nReferer: {teacher.base}/\r\nHX-Request: true\r\n"
                f"Content-Type: application/x-www-form-urlencoded\r\nContent-Length: {len(body)}\r\n\r\n{body}".encode()
            )
            head = (await reader.readuntil(b"\r\n\r\n")).decode().lower()
            length = int(re.search(r"content-length: (\d+)", head).group(1))  # type: ignore[union-attr]
            answer = (await reader.readexactly(length)).decode()
            told = re.search(r'data-stamp="(\d+)"', answer)
            if told is None:
                found.failed += 1
            else:
                found.answers.append((time.perf_counter() - begun) * 1000)
                stamp, by = int(told.group(1)), -by
            writer.close()
        except (OSError, asyncio.IncompleteReadError):
            found.failed += 1
        await asyncio.sleep(max(0.0, EVERY_S - (time.perf_counter() - begun)))


async def measure(teacher: Teacher, classes: list[tuple[int, str]], seconds: float = SECONDS) -> Found:
    """All of them for a while."""
    found, until = Found(), time.monotonic() + seconds
    await asyncio.gather(*(instructor(teacher, pk, item, until, found) for pk, item in classes))
    return found


def main() -> int:
    """Say what was measured."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 30
    with served() as base:
        teacher = Teacher(base)
        found = asyncio.run(measure(teacher, copies(teacher, count)))
    answers = sorted(found.answers)
    kept = "PostgreSQL" if os.environ.get("EXTENDUM_DATABASE") else "SQLite"
    print(
        f"{count} instructors, {kept}, {os.environ.get('EXTENDUM_WORKERS', '2')} processes: {len(answers)} edits, "
        f"{found.failed} failed, {len(answers) / SECONDS:.1f} a second; "
        f"{answers[len(answers) // 2]:.0f} ms median, {answers[int(len(answers) * 0.95)]:.0f} ms 95 %, "
        f"{answers[-1]:.0f} ms most"
    )
    return 0


if __name__ == "__main__":
    sys.exit(main())
