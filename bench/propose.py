"""Proposals measured on sixty briefs that a generator made: `make bench-propose`.

For each: seconds until a first class, until the best is proved or within 2 % of the bound, what the checks find, and
the score against that of suggestions that are taken one after the other.
"""

from __future__ import annotations

import resource
import sys
import time
from dataclasses import dataclass, replace
from multiprocessing import Pool

from bench.briefs import brief_of
from extendum.core.edit.script_edits import insert_item, new_script
from extendum.core.edit.take_up import take_up
from extendum.core.model.errors import RefusedError
from extendum.core.model.script import Script
from extendum.core.moves.suggest import suggest
from extendum.core.propose.judge import Pick
from extendum.core.propose.propose import Proposer
from extendum.core.timing.layout import length_of
from extendum.formats.library import shipped_form, shipped_moves

BRIEFS, SECONDS, NEAR_PERCENT = 60, 25.0, 2.0
#: So many blocks make a brief of eleven to thirty minutes a hard one.
BLOCKS_MOST = 45


def asked_of(minutes: int, blocks: int) -> tuple[str, float, float]:
    """What is asked of a brief: its kind, how near to the best in percent, and seconds."""
    if minutes > 30:
        return "more than 30 minutes", 5.0, 30.0
    if minutes <= 10:
        return "up to 10 minutes", NEAR_PERCENT, 5.0
    return ("up to 30 minutes", NEAR_PERCENT, 10.0) if blocks <= BLOCKS_MOST else ("hard ones", NEAR_PERCENT, 25.0)


@dataclass
class Row:
    """What one brief came to."""

    seed: int
    minutes: int
    blocks: int
    first_s: float
    near_s: float | None
    near_cpu_s: float | None
    whole_s: float
    planned: int
    bound: int
    score: int
    suggested: int | None
    open: int
    exact: bool
    megabytes: int
    refused: str = ""


def suggested_score(proposer: Proposer, script: Script) -> int | None:
    """The score of a class of the first suggestions, one after the other until it is long enough."""
    made = replace(script, sections=new_script("Suggested", script.brief.target_s).sections)
    library, picks, at = shipped_moves(), [], {one.key: n for n, one in enumerate(proposer.task.candidates)}
    while length_of(made) < script.brief.target_s - 45:
        found = suggest(made, [one for one in library if one.move.key in at], most=1)
        if not found:
            break
        entry = found[0].entry
        made = insert_item(made, take_up(entry, f"i{len(picks) + 10}", script.style), "g1")
        one = proposer.task.candidates[at[entry.move.key]]
        picks.append(Pick(at[entry.move.key], min(one.parts, key=lambda part: abs(part - 2)), one.usual))
    return proposer.task.score(tuple(sorted(picks, key=lambda pick: pick.part))) if picks else None


def measured(seed: int) -> Row:
    script, began = brief_of(seed), time.perf_counter()
    minutes = script.brief.target_s // 60
    proposer = Proposer(script, shipped_moves(), taken=shipped_form)
    proposer.at_once()
    first, near, near_cpu = time.perf_counter() - began, None, None
    began, cpu = time.perf_counter(), time.process_time()
    proposer._make_ready()
    places = {proposer.task.block(Pick(n, p, 0)) for n, one in enumerate(proposer.task.candidates) for p in one.parts}
    _, percent, seconds = asked_of(minutes, len(places))

    def tell(score: int, bound: int) -> bool:
        nonlocal near, near_cpu
        if score and not near and 100 * (bound - score) <= percent * abs(score):
            near, near_cpu = time.perf_counter() - began, time.process_time() - cpu
        return True

    try:
        made = proposer.best(max(SECONDS, seconds), tell=tell)
    except RefusedError as error:
        return Row(seed, minutes, 0, first, None, None, 0, 0, 0, 0, None, 0, False, 0, str(error)[:80])
    whole = time.perf_counter() - began
    if made.gap_percent > percent:
        near = near_cpu = None
    elif near is None:
        near, near_cpu = whole, time.process_time() - cpu
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024
    return Row(
        *(seed, minutes, len(places), first, near, near_cpu, whole, made.planned, made.bound, made.score),
        *(suggested_score(proposer, script), len(made.open), length_of(made.script) == script.brief.target_s, memory),
    )


def main(briefs: int = BRIEFS, workers: int = 1) -> int:
    print("brief min blocks first s  near s  all s  planned   bound  fitted suggested open exact MB")
    with Pool(workers) as pool:
        rows = []
        for row in pool.imap(measured, range(briefs)):
            rows.append(row)
            if row.refused:
                print(f"{row.seed:5} {row.minutes:3} {row.refused}", flush=True)
                continue
            near = f"{row.near_s:6.1f}" if row.near_s is not None else "     -"
            told = f"{row.seed:5} {row.minutes:3} {row.blocks:6} {row.first_s:7.2f} {near} {row.whole_s:6.1f}"
            told += f" {row.planned:8} {row.bound:7} {row.score:7} {row.suggested or 0:9} {row.open:4} {row.exact!s:5}"
            print(f"{told} {row.megabytes}", flush=True)
    done = [row for row in rows if not row.refused]
    print(f"{len(done)} of {briefs} briefs met; {sum(row.exact for row in done)} to the second, ", end="")
    print(f"{sum(not row.open for row in done)} with nothing to fix or to consider")
    kinds: dict[tuple[str, float, float], list[Row]] = {}
    for row in done:
        kinds.setdefault(asked_of(row.minutes, row.blocks), []).append(row)
    for (kind, percent, limit), some in sorted(kinds.items()):
        near = sum(row.near_s is not None and row.near_s <= limit for row in some)
        own = sum(row.near_cpu_s is not None and row.near_cpu_s <= limit for row in some)
        print(
            f"{kind}: {near} of {len(some)} within {percent:g} % in {limit:g} s, {own} in as much time of the processor"
        )
    better = [row.planned / row.suggested - 1 for row in done if row.suggested and row.suggested > 0]
    if better:
        print(f"against suggestions in turn: {100 * sum(better) / len(better):.0f} % better on average")
    print(f"first class: {sorted(row.first_s for row in done)[len(done) // 2]:.2f} s in the middle")
    return 0


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if sys.argv[1:] else BRIEFS))
