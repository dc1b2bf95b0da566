"""Following a run: which one is on, and what a screen still has to learn of it."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime, timedelta
from time import monotonic
from typing import Any, TypeVar

from django.conf import settings
from django.utils import timezone

from extendum.core.model.limits import whole_number
from extendum.web.classes.models import StretchClass
from extendum.web.teach.models import Link, LiveRun

#: A Stage that has not told anything for so long does not hold the class any more; it tells something every 4 s.
HELD_FOR = timedelta(seconds=15)
#: A screen goes on by itself when the Stage is not heard of; after so long it waits for the next class.
SHOWN_FOR = timedelta(minutes=10)
#: Clocks that part by more are set anew; below that the quickest of the messages tells best.
PARTED_MS = 2000
#: So much is remembered for a moment at the most.
MOST_KEPT = 500

Found = TypeVar("Found")


def _around(within: timedelta) -> tuple[datetime, datetime]:
    """So long before now, and after it: what is further in the future was told before the clock was set back."""
    now = timezone.now()
    return now - within, now + within


def held(of: StretchClass) -> LiveRun | None:
    """The run that a Stage holds now; one that has been silent for a while is free."""
    found = LiveRun.objects.filter(of=of, held_at__range=_around(HELD_FOR)).exclude(holder="")
    return found.order_by("-held_at").first()


def running(owner_id: int, within: timedelta = SHOWN_FOR) -> LiveRun | None:
    """What a teacher teaches now, as last reported; rehearsals are private."""
    found = LiveRun.objects.filter(of__owner_id=owner_id, held_at__range=_around(within), rehearsal=False)
    return found.order_by("-held_at").first()


def clock_off(before: int | None, told: object, at: datetime) -> int | None:
    """How far the server's clock is ahead of the Stage's: the least over its messages, which is the quickest one."""
    if isinstance(told, bool) or not isinstance(told, int) or not 0 <= told < 2**62:
        return before
    here = round(at.timestamp() * 1000) - told
    return here if before is None or abs(here - before) > PARTED_MS else min(before, here)


def by_code(code: str, kind: Link.Kind) -> Link | None:
    """The link of a code; None for one that never was or was revoked."""
    return Link.objects.filter(code=code, kind=kind, revoked_at=None).first()


def owner_of(code: str, kind: Link.Kind) -> int | None:
    """Whose link a code is, as of a moment ago; None for one that never was or was revoked."""

    def look() -> int | None:
        link = by_code(code, kind)
        return link.owner_id if link else None

    return briefly((kind, code), look)


def news(owner_id: int, seen: str) -> dict[str, Any]:
    """What a screen does not know yet: ``seen`` is "run.event", the last it was told, or empty.

    Times of events are those of the Stage; ``off`` brings them to the server's clock, whose time is ``now``.
    """
    run, told = briefly(("run", owner_id), lambda: _taught(owner_id))
    plain: dict[str, Any] = {"now": round(timezone.now().timestamp() * 1000), "run": None}
    if run is None:
        return plain
    known, _, last = seen.partition(".")
    after = (whole_number(last) or 0) if known == str(run.pk) else 0
    events = [dict(zip(_NAMES, one, strict=True)) for one in told if one[0] > after]
    return {**plain, "run": run.pk, "revision": run.revision_id, "off": run.clock_off or 0, "events": events}


_NAMES = ("n", "id", "at", "kind", "step", "ms")


def _taught(owner_id: int) -> tuple[LiveRun | None, list[tuple[Any, ...]]]:
    """What somebody teaches now, with everything that was told of it."""
    run = running(owner_id)
    told = run.events.order_by("pk").values_list("pk", "key", "at", "kind", "step", "ms") if run else ()
    return run, list(told)


_KEPT: dict[tuple[str, object], tuple[float, Any]] = {}


def briefly(about: tuple[str, object], look: Callable[[], Found]) -> Found:
    """What was found a moment ago, so that hundreds of screens that follow one class ask the database once."""
    at, kept = monotonic(), _KEPT.get(about)
    if kept is not None and at < kept[0]:
        found: Found = kept[1]
        return found
    if len(_KEPT) >= MOST_KEPT:
        _KEPT.clear()
    found = look()
    _KEPT[about] = (at + settings.FOLLOWERS_SHARE_S, found)
    return found
