"""Makes files in the background: one thread a file, in the process that was asked; its progress is in the database."""

from __future__ import annotations

import logging
import threading
import time
from datetime import datetime, timedelta

from django.db import connection
from django.utils import timezone

from extendum.formats.exports import Export, pack, report, write
from extendum.formats.pdf import Paper
from extendum.voice import espeak
from extendum.web.classes import store
from extendum.web.classes.look import printed_look
from extendum.web.classes.models import StretchClass
from extendum.web.giving.models import Making

#: A file is kept so long; one that is not heard of for so long was stopped with its process.
KEPT, STOPPED = timedelta(days=1), timedelta(seconds=30)
#: How often it says how far it is.
TELLS_S = 0.4
#: What is made in the background; the rest is quicker made than waited for.
SLOW = ("pack", "wav", "ogg")


def begin(of: StretchClass, kind: str, paper: Paper) -> Making:
    """Begin to make a file of a class as it is now; old files go."""
    for old in Making.objects.filter(made_at__lt=timezone.now() - KEPT):
        old.path.unlink(missing_ok=True)
        old.delete()
    store.close(of)
    making = Making.objects.create(of=of, revision=of.present, kind=kind, paper=paper.value)
    threading.Thread(target=_make, args=(making,), name=f"making-{making.pk}", daemon=True).start()
    return making


def planned(of: StretchClass) -> tuple[datetime | None, str]:
    """When and where a class is planned next; None where it is not."""
    coming = of.sessions.filter(run=None, at__gte=timezone.now()).order_by("at").first()
    return (coming.at, coming.place) if coming else (None, "")


def stopped(making: Making) -> bool:
    """Whether it was at work in a process that is not there any more."""
    return making.state == Making.State.MAKING and abs(timezone.now() - making.heard_at) > STOPPED


def _make(making: Making) -> None:
    told_at = 0.0

    def progress(share: float) -> None:
        nonlocal told_at
        if time.monotonic() - told_at >= TELLS_S:
            told_at = time.monotonic()
            Making.objects.filter(pk=making.pk).update(share=share, heard_at=timezone.now())

    try:
        starts, place = planned(making.of)
        script, look = store.script_of(making.revision), printed_look(making.of.owner)
        one = Export(script, Paper(making.paper), starts, place=place, look=look, voice=espeak())
        making.path.parent.mkdir(parents=True, exist_ok=True)
        if making.kind == "pack":
            beside = making.path.with_suffix(".new")
            with beside.open("wb") as out:
                pack(one, out, progress)
            beside.replace(making.path)
        else:
            write(one, making.kind, making.path, progress)
        found = {"state": Making.State.DONE, "share": 1.0, "told": report(one)}
    except Exception as error:
        logging.getLogger(__name__).exception("making %s failed", making.pk)
        found = {"state": Making.State.FAILED, "told": f"It could not be made: {error}"}
    Making.objects.filter(pk=making.pk).update(heard_at=timezone.now(), **found)
    connection.close()
