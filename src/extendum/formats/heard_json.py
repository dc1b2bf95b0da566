"""What was heard of a recording, as JSON: each thing with its times in seconds, and how sure it is."""

from __future__ import annotations

from typing import Any

from extendum.core.heard.beside import to_mend
from extendum.core.heard.recording import Heard, HeardMove
from extendum.core.heard.repeats import blocks_of
from extendum.core.heard.report import facts
from extendum.core.heard.slipping import slips_of
from extendum.core.heard.talking import talks_of


def heard_plain(heard: Heard) -> dict[str, Any]:
    """Everything that was heard, under plain names."""
    passes = [(move, one) for move in heard.moves for one in move.passes]
    return {
        "length_s": _s(heard.length),
        "facts": facts(heard),
        "rounds": max((block.rounds for block in blocks_of(heard.moves)), default=1),
        "moves": [_move(one) for one in heard.moves],
        "passes": [
            {
                "name": move.name,
                "side": one.side,
                "from_s": _s(one.start),
                "to_s": _s(one.end),
                "sure": _share(one.sure),
            }
            | ({"reps": one.count} if one.count else {})
            | ({"direction": one.direction} if one.direction else {})
            for move, one in passes
        ],
        "talk": [{"kind": one.kind.value, "from_s": _s(one.start), "to_s": _s(one.end)} for one in talks_of(heard)],
        "to_mend": to_mend(heard),
        "switches": [{"at_s": _s(at)} for at in heard.switches],
        "calls": [
            {"at_s": _s(one.at), "said_s": one.said_s, "really_s": None if one.real_s is None else _s(one.real_s)}
            for one in heard.calls
        ],
        "last": [{"at_s": _s(at)} for at in heard.few],
        "halfways": [{"at_s": _s(one.at), "percent": one.percent} for one in heard.halves],
        "countdowns": [{"at_s": _s(one.at), "to": one.numbers[-1]} for one in heard.counts if one.down],
        "counts": [
            {"at_s": _s(one.at), "from": one.numbers[0], "to": one.numbers[-1], "slips": list(one.slips)}
            for one in heard.counts
            if not one.down
        ],
        "slips": [{"at_s": _s(one.at), "what": one.what} for one in slips_of(heard)],
        "promises": [{"at_s": _s(one.at), "kind": one.what, "said": one.number} for one in heard.promises],
        "claims": _said(heard, "claim"),
        "pushes": _said(heard, "push"),
        "cautions": _said(heard, "caution"),
        "easier_ways": _said(heard, "easier way"),
        "reminders": [{"text_gist": text, "at_s": [_s(one) for one in at]} for text, at in heard.reminders],
    }


def _move(one: HeardMove) -> dict[str, Any]:
    return {
        "at_s": _s(one.start),
        "end_s": _s(one.end),
        "name": one.name,
        "library_key": one.key or None,
        "names": [offer.name for offer in one.offers],
        "posture": one.posture or None,
        "sure": _share(one.sure),
        "doubtful": one.doubtful,
    }


def _said(heard: Heard, what: str) -> list[dict[str, Any]]:
    return [{"at_s": _s(one.at), "said": one.said} for one in heard.of(what)]


def _s(seconds: float) -> float:
    return round(seconds, 1)


def _share(sure: float) -> float:
    return round(sure, 2)
