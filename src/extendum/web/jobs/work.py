"""Begins, runs and ends jobs: each in a process of its own, so no request waits and a crash takes nothing along."""

from __future__ import annotations

import logging
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Collection, Mapping
from datetime import timedelta

from django.conf import settings
from django.db import connection
from django.utils import timezone
from django.utils.module_loading import import_string

from extendum.core.model.errors import ExtendumError
from extendum.web.classes.models import StretchClass
from extendum.web.jobs.models import Job

#: A job is kept so long; one that is not heard of for so long was killed.
KEPT, KILLED = timedelta(days=1), timedelta(seconds=20)
#: How often a process says that it is there.
HEARD_EVERY_S = 5.0
#: So many jobs are at work at a time on one machine.
AT_ONCE = 3
#: What does each kind of work: it is given the job and tells what it has found, and gives what it found in the end.
_MAKES = "extendum.web.giving.making.make"
_PROPOSES = "extendum.web.proposing.worker"
WORKERS = {
    "propose": f"{_PROPOSES}.propose",
    "why-not": f"{_PROPOSES}.why",
    **dict.fromkeys(("pack", "wav", "flac", "ogg", "mp3", "page", "mp4", "webm"), _MAKES),
}
Tell = Callable[[dict[str, object]], bool]


class BusyError(ExtendumError):
    """There is enough long work at the moment."""

    def __init__(self) -> None:
        super().__init__(f"{AT_ONCE} other files or proposals are being made at the moment. Try again in a minute.")


def begin(
    of: StretchClass, kind: str, asked: Mapping[str, object], found: Mapping[str, object], like: Collection[str] = ()
) -> Job:
    """Begin work on a class; the owner's earlier work of its kind, or of one like it, ends, and old rows go."""
    Job.objects.filter(made_at__lt=timezone.now() - KEPT).delete()
    at_work = Job.objects.filter(state=Job.State.WORKING, heard_at__gt=timezone.now() - KILLED)
    at_work.filter(of__owner=of.owner, kind__in=(kind, *like)).update(enough=True)
    if at_work.filter(enough=False).count() >= AT_ONCE:
        raise BusyError
    job = Job.objects.create(of=of, kind=kind, asked=asked, found=found)
    start(job)
    job.refresh_from_db()
    return job


def start(job: Job) -> None:
    """Begin a job in a process of its own."""
    if settings.JOBS_IN_THREADS:
        threading.Thread(target=_in_a_thread, args=(job.pk,), daemon=True).start()
        return
    command = [sys.executable, "-m", "extendum.web.jobs", str(job.pk)]
    child = subprocess.Popen(command, stdin=subprocess.DEVNULL)  # noqa: S603
    threading.Thread(target=child.wait, daemon=True).start()  # so that it leaves no dead process behind


def killed(job: Job) -> bool:
    """Whether it was at work in a process that is not there any more."""
    return job.state == Job.State.WORKING and abs(timezone.now() - job.heard_at) > KILLED


def run(pk: int) -> None:
    """Do a job, and keep in its row whatever comes of it."""
    job = Job.objects.select_related("of__owner").get(pk=pk)

    def tell(found: dict[str, object]) -> bool:
        """Tell what was found; whether to go on."""
        Job.objects.filter(pk=pk).update(found=found, heard_at=timezone.now())
        return not Job.objects.filter(pk=pk, enough=True).exists()

    try:
        ended = {"found": import_string(WORKERS[job.kind])(job, tell), "state": Job.State.DONE}
    except ExtendumError as error:
        ended = {"state": Job.State.FAILED, "told": str(error)}
    except Exception:
        logging.getLogger(__name__).exception("job %s failed", pk)
        ended = {"state": Job.State.FAILED, "told": "It stopped at a fault of the program, which is in its log."}
    Job.objects.filter(pk=pk).update(heard_at=timezone.now(), **ended)


def keep_heard(pk: int) -> None:
    """Say every few seconds that a job is at work, also while it has nothing to tell."""
    while True:
        Job.objects.filter(pk=pk, state=Job.State.WORKING).update(heard_at=timezone.now())
        time.sleep(HEARD_EVERY_S)


def _in_a_thread(pk: int) -> None:
    try:
        run(pk)
    finally:
        connection.close()
