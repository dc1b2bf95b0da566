"""What is asked of a proposal, as the core takes it, and what came of it, as a row keeps it; it needs no solver."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from datetime import timedelta
from typing import Any, NamedTuple

from django.contrib.auth.models import User
from django.utils import timezone

from extendum.core.model.library import LibraryMove
from extendum.core.model.script import Script
from extendum.core.propose.judge import Task
from extendum.core.propose.made import Proposal
from extendum.core.propose.told import told
from extendum.core.propose.weights import Sliders
from extendum.formats.document import dumps, loads
from extendum.web.classes import store
from extendum.web.classes.models import Revision
from extendum.web.classes.own import Own
from extendum.web.records.models import Session
from extendum.web.records.sessions import log_of
from extendum.web.teach.models import LiveEvent, LiveRun

#: What counts as the last weeks of a group, and how many of its classes are read.
RECENT, READ_MOST = timedelta(weeks=6), 30


class Wanted(NamedTuple):
    """What a proposer is given."""

    script: Script
    library: tuple[LibraryMove, ...]
    sliders: Sliders
    known: dict[str, int]
    taken: Callable[[str], str]
    skipped: dict[str, int]


def wanted(owner: User, asked: Mapping[str, Any]) -> Wanted:
    """What was asked for, read from the class as it was then."""
    script, own = store.script_of(Revision.objects.get(pk=asked["revision"])), Own(owner)
    if not asked.get("keep"):
        script = replace(script, sections=(), meanwhiles=(), kept=())
    known, skipped = history(owner, script.brief.group)
    return Wanted(script, tuple(own.library), Sliders(**asked.get("sliders", {})), known, own.library.form, skipped)


def unlike(asked: Mapping[str, Any]) -> frozenset[str]:
    """The moves of the class from which another like it differs; none where none is asked for."""
    if not asked.get("like"):
        return frozenset()
    script = store.script_of(Revision.objects.get(pk=asked["revision"]))
    return frozenset(item.move.key for item in script.moves())


def history(owner: User, group: str) -> tuple[dict[str, int], dict[str, int]]:
    """By key, in how many classes of the last weeks a group had a move, and in how many it was skipped; up to two each.

    Every group where none is named.
    """
    taught = Session.objects.filter(owner=owner, at__gte=timezone.now() - RECENT, run__isnull=False)
    if group:
        taught = taught.filter(group=group)
    known: dict[str, int] = {}
    skipped: dict[str, int] = {}
    past = set(LiveEvent.objects.filter(run__session__in=taught, kind="skip-item").values_list("run", flat=True))
    for session in taught.select_related("of", "run__revision").order_by("-at")[:READ_MOST]:
        taught_as = (session.run and session.run.revision) or session.of.present
        for item in store.script_of(taught_as).moves():
            known[item.move.key] = min(2, known.get(item.move.key, 0) + 1)
        if session.run and session.run.pk in past:
            for key in _skipped(session.run):
                skipped[key] = min(2, skipped.get(key, 0) + 1)
    return known, skipped


def _skipped(run: LiveRun) -> set[str]:
    """The moves that a run went past."""
    log = log_of(run)
    gone = {one.item for one in log.report.skipped} if log else set[str]()
    return {item.move.key for item in log.script.moves() if item.id in gone} if log else set()


def plain(proposal: Proposal, task: Task) -> dict[str, Any]:
    """A proposal as its row keeps it."""
    return {
        "document": dumps(proposal.script),
        "planned": proposal.planned,
        "bound": proposal.bound,
        "score": proposal.score,
        "told": list(told(task, proposal)),
        "open": [one.found.message for one in proposal.open],
    }


def made_of(kept: Mapping[str, Any]) -> Proposal:
    """A proposal from its row, for one to be compared with it."""
    return Proposal(loads(kept["document"]), (), kept["planned"], kept["bound"], kept["score"], ())
