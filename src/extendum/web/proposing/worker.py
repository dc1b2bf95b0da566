"""The work of proposing: three classes one after the other, each shown as soon as it is found."""

from __future__ import annotations

import time
from typing import Any

from extendum.core.propose.propose import SHARED_WITH_ITS_LIKE, NothingMeetsError, NotInTimeError, Proposer
from extendum.core.propose.why_not import why_not
from extendum.web.jobs.models import Job
from extendum.web.jobs.work import Tell
from extendum.web.proposing.asked import made_of, plain, unlike, wanted

#: Classes at a time, and seconds for each at the most.
PROPOSED, SECONDS = 3, 10.0
#: How often it says how near the best is.
TELLS_S = 0.3


def _proposer(job: Job) -> Proposer:
    proposer = Proposer(*wanted(job.of.owner, job.asked))
    if keys := unlike(job.asked):
        proposer.unlike(keys, SHARED_WITH_ITS_LIKE)
    return proposer


def propose(job: Job, tell: Tell) -> dict[str, object]:
    """Three classes, or as many as there are by the time that somebody says that they will do."""
    proposer = _proposer(job)
    found: dict[str, object] = {"proposals": [], "first": job.found.get("first")}
    made: list[dict[str, Any]] = []
    heard = [time.monotonic(), True]

    def now(score: int, bound: int) -> bool:
        if time.monotonic() - heard[0] > TELLS_S:
            heard[0] = time.monotonic()
            heard[1] = tell({**found, "score": score, "bound": bound})
        return bool(heard[1])

    for _ in range(PROPOSED):
        if proposer.exhausted:
            break
        try:
            made.append(plain(proposer.another(SECONDS, now), proposer.task))
        except NothingMeetsError as error:
            if not made:
                found |= {"conflict": list(error.wishes)}
                near = proposer.nearest(error.conflict, SECONDS, now) if tell(found) else None
                if near:
                    found |= {"proposals": [plain(near, proposer.task)], "without": error.conflict.without}
            break
        except NotInTimeError:
            if not made and tell(found):  # nobody said that the first class will do
                raise
            break
        found["proposals"] = made
        if not tell(found):
            break
    return found


def why(job: Job, tell: Tell) -> dict[str, object]:
    """What a class with a move would be like beside the first proposal."""
    proposer = _proposer(job)
    heard = [time.monotonic(), True]

    def now(score: int, bound: int) -> bool:
        if time.monotonic() - heard[0] > TELLS_S:
            heard[0], heard[1] = time.monotonic(), tell({})
        return bool(heard[1])

    answer = why_not(proposer, job.asked["move"], made_of(job.asked["than"]), SECONDS, now)
    found = plain(answer.proposal, proposer.task) if answer.proposal else None
    return {"told": list(answer.told), "proposal": found}
