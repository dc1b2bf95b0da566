"""The work of proposing: three classes one after the other, each shown as soon as it is found."""

from __future__ import annotations

import time
from typing import Any

from extendum.core.propose.propose import NothingMeetsError, NotInTimeError, Proposer
from extendum.web.jobs.models import Job
from extendum.web.jobs.work import Tell
from extendum.web.proposing.asked import plain, wanted

#: Classes at a time, and seconds for each at the most.
PROPOSED, SECONDS = 3, 10.0
#: How often it says how near the best is.
TELLS_S = 0.3


def propose(job: Job, tell: Tell) -> dict[str, object]:
    """Three classes, or as many as there are by the time that somebody says that they will do."""
    proposer = Proposer(*wanted(job.of.owner, job.asked))
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
            found |= {} if made else {"conflict": list(error.wishes)}
            break
        except NotInTimeError:
            if not made and tell(found):  # nobody said that the first class will do
                raise
            break
        found["proposals"] = made
        if not tell(found):
            break
    return found
