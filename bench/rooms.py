"""Measures many class screens that follow one class: `make bench-rooms` (N=300 rooms, for 30 s).

Each simulated room does what the page does: it asks every second what is new, over a connection that it keeps. The
Stage is simulated, too: it tells an event now and then, and it is measured when each room has been told of it.
"""

from __future__ import annotations

import asyncio
import http.cookiejar
import json
import random
import re
import sys
import time
import urllib.parse
import urllib.request
from dataclasses import dataclass, field

from bench.demo import served

EVERY_S, TELLS_EVERY_S = 1.0, 4.0


class Teacher:
    """A Stage without a screen: signed in by the demo, it tells what happens."""

    def __init__(self, base: str) -> None:
        self.base, self.count = base, 0
        self.jar = http.cookiejar.CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))
        shelf = self.get("/")
        # The last one: the first may be the one that is planned next, and held by a Stage.
        self.of = re.findall(r'href="/classes/(\d+)/"', shelf)[-1]

    def get(self, path: str) -> str:
        with self.opener.open(self.base + path) as answer:
            return answer.read().decode()

    def post(self, path: str, body: bytes, kind: str) -> str:
        token = next(cookie.value for cookie in self.jar if cookie.name == "csrftoken")
        headers = {"X-CSRFToken": str(token), "Content-Type": kind, "Referer": self.base}
        with self.opener.open(urllib.request.Request(self.base + path, body, headers)) as answer:  # noqa: S310
            return answer.read().decode()

    def room(self) -> str:
        """The path of a new screen."""
        form = urllib.parse.urlencode({"kind": "room", "name": "load"}).encode()
        page = self.post("/screens/", form, "application/x-www-form-urlencoded")
        return re.search(r"/room/\w+/", page).group(0)  # type: ignore[union-attr]

    def tell(self, kind: str) -> str:
        """One event; its id."""
        now, name = round(time.time() * 1000), f"e{self.count}"
        self.count += 1
        event = {"id": name, "at": now, "kind": kind}
        told = {"run": "load", "stamp": 1, "me": "load", "now": now, "events": [event]}
        self.post(f"/classes/{self.of}/events/", json.dumps(told).encode(), "application/json")
        return name


@dataclass
class Found:
    """Milliseconds of each answer; seconds until an event was seen, by event."""

    answers: list[float] = field(default_factory=list)
    told: dict[str, float] = field(default_factory=dict)
    seen: list[float] = field(default_factory=list)
    failed: int = 0
    octets: int = 0


async def room(host: str, port: int, path: str, until: float, found: Found, lag: float) -> None:
    """One screen."""
    await asyncio.sleep(lag)
    reader = writer = None
    seen, known = "", set[str]()
    while time.monotonic() < until:
        begun = time.perf_counter()
        try:
            if writer is None:
                reader, writer = await asyncio.open_connection(host, port)
            writer.write(f"GET {path}now/?seen={seen} HTTP/1.1\r\nHost: {host}:{port}\r\n\r\n".encode())
            head = (await reader.readuntil(b"\r\n\r\n")).decode().lower()
            length = int(re.search(r"content-length: (\d+)", head).group(1))  # type: ignore[union-attr]
            body = await reader.readexactly(length)
            found.answers.append((time.perf_counter() - begun) * 1000)
            found.octets += len(head) + length
            plain = json.loads(body)
            for event in plain.get("events", []):
                seen = f"{plain['run']}.{event['n']}"
                if event["id"] not in known and event["id"] in found.told:
                    found.seen.append(time.monotonic() - found.told[event["id"]])
                known.add(event["id"])
            if "connection: close" in head:
                writer.close()
                writer = None
        except (OSError, asyncio.IncompleteReadError):
            found.failed += 1
            writer = None
        await asyncio.sleep(max(0.0, EVERY_S - (time.perf_counter() - begun)))


async def measure(teacher: Teacher, rooms: int, seconds: float) -> Found:
    """So many screens for so long."""
    path, found = teacher.room(), Found()
    await asyncio.to_thread(teacher.tell, "start")
    address = urllib.parse.urlparse(teacher.base)
    until = time.monotonic() + seconds
    lags = [random.random() * EVERY_S for _ in range(rooms)]
    tasks = [
        asyncio.create_task(room(str(address.hostname), int(address.port or 80), path, until, found, lag))
        for lag in lags
    ]
    await asyncio.sleep(3)
    kinds = ("pause", "resume")
    while time.monotonic() < until - 3:
        at = time.monotonic()
        found.told[f"e{teacher.count}"] = at
        await asyncio.to_thread(teacher.tell, kinds[teacher.count % 2])
        await asyncio.sleep(TELLS_EVERY_S)
    await asyncio.gather(*tasks)
    return found


def measured(rooms: int = 300, seconds: float = 30) -> dict[str, float]:
    """Say what was measured: the 95th percentile of an answer in ms, the latest that a change was seen, in s."""
    with served() as base:
        found = asyncio.run(measure(Teacher(base), rooms, seconds))
    answers, seen = sorted(found.answers), sorted(found.seen)
    expected = len(found.told) * rooms
    print(
        f"{rooms} rooms, {seconds:.0f} s: {len(answers)} answers, {found.failed} failed, "
        f"{found.octets / max(1, len(answers)):.0f} octets each;\n"
        f"  an answer {answers[len(answers) // 2]:.1f} ms median, {answers[int(len(answers) * 0.95)]:.1f} ms "
        f"95th percentile, {answers[-1]:.0f} ms most;\n"
        f"  a change was seen by {len(seen)} of {expected} after {seen[len(seen) // 2]:.2f} s median, "
        f"{seen[-1]:.2f} s most",
        flush=True,
    )
    return {"answer": answers[int(len(answers) * 0.95)], "seen": seen[-1], "missed": expected - len(seen)}


if __name__ == "__main__":
    measured(*(int(one) for one in sys.argv[1:]))
