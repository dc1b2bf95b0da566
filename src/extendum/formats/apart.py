"""Work that takes much memory, done in a process of its own, so that all of it is given back at its end."""

from __future__ import annotations

import multiprocessing
import threading
from collections.abc import Callable
from multiprocessing.connection import Connection
from typing import Any

from extendum.core.model.errors import ExtendumError

Progress = Callable[[float], object]
_FORK = "fork"


class StoppedError(ExtendumError):
    """The process ended without an answer, as when the machine had no memory left for it."""

    def __init__(self) -> None:
        super().__init__("A part of it was stopped from outside. There may be too little memory here.")


def apart(work: Callable[[Progress], Any], progress: Progress) -> Any:
    """What some work gives; its progress is heard here, and what it raises is raised here.

    Where a process cannot be split off, as beside other threads, it is done here.
    """
    if _FORK not in multiprocessing.get_all_start_methods() or threading.active_count() > 1:
        return work(progress)
    ours, theirs = multiprocessing.Pipe(duplex=False)
    context: Any = multiprocessing.get_context(_FORK)
    child = context.Process(target=_run, args=(work, theirs), daemon=True)
    child.start()
    theirs.close()
    try:
        while True:
            kind, value = ours.recv()
            if kind == "progress":
                progress(value)
            elif kind == "raised":
                raise value
            else:
                return value
    except EOFError:
        raise StoppedError from None
    finally:
        child.terminate()
        child.join()
        ours.close()


def _run(work: Callable[[Progress], Any], answer: Connection) -> None:
    try:
        answer.send(("done", work(lambda share: answer.send(("progress", share)))))
    except Exception as error:  # noqa: BLE001 whoever waits hears of it
        answer.send(("raised", error))
