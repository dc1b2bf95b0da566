"""The work of proposing: three classes one after the other, each told as soon as there is something to tell."""

from __future__ import annotations

import time
from dataclasses import replace
from datetime import timedelta
from typing import Any

from django.contrib.auth.models import User
from django.utils import timezone

from extendum.core.propose.propose import NothingMeetsError, Proposal, Proposer
from extendum.core.propose.told import told
from extendum.core.propose.weights import Sliders
from extendum.formats.document import dumps
from extendum.web.classes import store
from extendum.web.classes.models import Revision
from extendum.web.classes.own import Own
from extendum.web.jobs.models import Job
from extendum.web.jobs.work import Tell
from extendum.web.records.models import Session

#: Classes at a time, and seconds for each at the most.
PROPOSED, SECONDS = 3, 10.0
#: How often it is told how near the best is.
TELLS_S = 0.3
#: What counts as the last weeks of a group.
RECENT = timedelta(weeks=6)


def proposer_of(job: Job) -> Proposer:
    """The proposer of what was asked for."""
    script, own = store.script_of(Revision.objects.get(pk=job.asked["revision"])), Own(job.of.owner)
    if not job.asked.get("keep"):
        script = replace(script, sections=(), meanwhiles=(), kept=())
    sliders = Sliders(**job.asked.get("sliders", {}))
    library = tuple(own.library.moves.values())
    return Proposer(script, library, sliders, familiar(job.of.owner, script.brief.group), own.library.form)


def familiar(owner: User, group: str) -> dict[str, int]:
    """By key, how familiar the moves of the last weeks are to a group; of every group where none is named."""
    taught = Session.objects.filter(owner=owner, at__gte=timezone.now() - RECENT, run__isnull=False)
    if group:
        taught = taught.filter(group=group)
    known: dict[str, int] = {}
    for session in taught.select_related("of").order_by("-at")[:30]:
        for item in store.script_of(session.of.present).moves():
            known[item.move.key] = min(2, known.get(item.move.key, 0) + 1)
    return known


def plain(proposal: Proposal, proposer: Proposer) -> dict[str, Any]:
    """A proposal as its row keeps it."""
    return {
        "document": dumps(proposal.script),
        "planned": proposal.planned,
        "bound": proposal.bound,
        "score": proposal.score,
        "told": list(told(proposer.task, proposal)),
        "open": [one.found.message for one in proposal.open],
    }


def propose(job: Job, tell: Tell) -> dict[str, object]:
    """Three classes, or as many as there are by the time that somebody says that they will do."""
    proposer = proposer_of(job)
    found: dict[str, object] = {"proposals": []}
    made: list[dict[str, Any]] = []
    heard = [time.monotonic(), True]

    def now(score: int, bound: int) -> bool:
        if time.monotonic() - heard[0] > TELLS_S:
            heard[0] = time.monotonic()
            heard[1] = tell({**found, "score": score, "bound": bound})
        return bool(heard[1])

    if not proposer.impossible:
        found["first"] = plain(proposer.at_once(), proposer)
        tell(found)
    for _ in range(PROPOSED):
        if proposer.exhausted:
            break
        try:
            made.append(plain(proposer.another(SECONDS, now), proposer))
        except NothingMeetsError as error:
            found |= {} if made else {"conflict": list(error.wishes)}
            break
        found["proposals"] = made
        if not tell(found):
            break
    return found
