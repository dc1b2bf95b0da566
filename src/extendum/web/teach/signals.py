"""What teaching tells the rest of the application."""

from __future__ import annotations

from django.dispatch import Signal

from extendum.web.teach.models import LiveRun

#: A run in front of a class has begun; with ``run`` and ``planned``, the session that the Stage was opened for, if any.
#: A receiver may answer with what the teacher should know.
run_begun = Signal()


def tell_begun(run: LiveRun, planned: object) -> str:
    """Tell that a run has begun; gives what the teacher should know about it, mostly nothing."""
    return " ".join(filter(None, (answer for _, answer in run_begun.send(LiveRun, run=run, planned=planned))))
