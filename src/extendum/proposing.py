"""The command that makes a class from a brief; apart from the others, since the solver takes a while to load."""

from __future__ import annotations

import argparse
import sys
from dataclasses import replace
from pathlib import Path
from typing import Any

from extendum.commands import OK, REFUSED, print_json, write_whole
from extendum.core.model.script import Script
from extendum.core.model.timeline import clock
from extendum.core.propose.made import Proposal
from extendum.core.propose.propose import NothingMeetsError, NotInTimeError, Proposer
from extendum.core.propose.told import told
from extendum.core.timing.layout import length_of
from extendum.formats.document import dumps
from extendum.formats.library import shipped_form, shipped_moves


def propose_command(script: Script, chosen: argparse.Namespace) -> int:
    """Propose classes; exit code 1 with the wishes that stand in each other's way when nothing meets the brief."""
    script = replace(script, brief=replace(script.brief, target_s=chosen.to or script.brief.target_s))
    proposer = Proposer(script, shipped_moves(), taken=shipped_form)
    show = sys.stderr.isatty()

    def tell(nth: int, score: int, bound: int) -> bool:
        if show:
            more = 100 * (bound - score) / max(1, abs(score))
            print(f"\rProposal {nth + 1}: at most {more:.0f} % better is possible ", end="", file=sys.stderr)
        return True

    try:
        found = proposer.several(chosen.n, chosen.seconds, tell)
    except NothingMeetsError as error:
        _say_conflict(error, proposer, chosen)
        return REFUSED
    except NotInTimeError as error:
        print(error, file=sys.stderr)
        return REFUSED
    finally:
        if show:
            print(file=sys.stderr)
    for name, proposal in zip(_names(chosen.out, len(found)), found, strict=True) if chosen.out else ():
        write_whole(name, dumps(proposal.script))
    if chosen.json:
        print_json({"proposals": [_plain(one, proposer) for one in found]})
    else:
        print("\n\n".join(_words(one, proposer) for one in found))
    return OK


def _say_conflict(error: NothingMeetsError, proposer: Proposer, chosen: argparse.Namespace) -> None:
    """The wishes that cannot be had together, and the nearest class; nothing is written."""
    near = proposer.nearest(error.conflict, chosen.seconds)
    if chosen.json:
        found = {"without": error.conflict.without, **_plain(near, proposer)} if near else None
        print_json({"proposals": [], "conflict": list(error.wishes), "nearest": found})
        return
    print("No class meets this brief. These wishes stand in each other's way:")
    print("\n".join(f"- {wish}" for wish in error.wishes))
    if near:
        print(f"\nThe nearest class goes without this: {error.conflict.without}.\n{_words(near, proposer)}")


def _names(out: str, many: int) -> list[str]:
    """Where each proposal goes: the first as asked, the others with their number."""
    path = Path(out)
    return [out, *(str(path.with_name(f"{path.stem}-{n}{path.suffix}")) for n in range(2, many + 1))]


def _words(proposal: Proposal, proposer: Proposer) -> str:
    lines = [f"{clock(length_of(proposal.script))}", *(f"  {one}" for one in told(proposer.task, proposal))]
    for section in proposal.script.sections:
        lines.append(f"  {section.name}: {', '.join(item.name for item in section.items)}")
    lines += [f"  To {one.severity}: {one.found.message}" for one in proposal.open]
    return "\n".join(lines)


def _plain(proposal: Proposal, proposer: Proposer) -> dict[str, Any]:
    return {
        "seconds": length_of(proposal.script),
        "moves": [item.move.key for item in proposal.script.moves()],
        "planned": proposal.planned,
        "bound": proposal.bound,
        "score": proposal.score,
        "told": list(told(proposer.task, proposal)),
        "open": [one.key for one in proposal.open],
    }
