"""Doses as people write them in a list: `30s`, `1:30`, `2x8`, `10-12 reps`, `3 breaths each side`."""

from __future__ import annotations

import re
from dataclasses import dataclass

from extendum.core.model.dose import Breaths, Dose, Hold, Open, Pulses, Reps, Timed
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import CountIs
from extendum.core.model.move import Sidedness

#: Room around a dose that is one number, in percent, where a fit may give.
ROOM = 30
LONGEST_S, MOST = 7200, 500
#: A bare number from here on is seconds, also for a move that is counted.
BARE_SECONDS = 30

_SIDES = (
    (r"\b(?:each|per|both|every|a) sides? and (?:ways?|directions?)\b", Sidedness.EACH_SIDE_AND_DIRECTION),
    (r"\b(?:each|per|both|every) (?:ways?|directions?)\b", Sidedness.EACH_DIRECTION),
    (r"\balternat\w*|\balt\b", Sidedness.ALTERNATING),
    (r"\b(?:each|per|both|every) (?:sides?|legs?|arms?|feet|foot|hands?)\b|\be/?s\b|\bl ?[/+&] ?r\b|\b(?:a|/) ?side\b",
     Sidedness.EACH_SIDE),
    (r"\bleft ?[/,+&] ?right\b|\bright ?[/,+&] ?left\b|\bleft (?:and|then) right\b", Sidedness.EACH_SIDE),
)  # fmt: skip
_NUMBER = r"(\d{1,4}(?:[.,]\d{1,2})?)"
_RANGE = rf"{_NUMBER}(?:\s*(?:-|–|to)\s*{_NUMBER})?"
_CLOCK = re.compile(r"(?<!\d)(\d{1,3}):(\d\d)(?!\d)")
_UNITS = (
    ("min", re.compile(rf"{_RANGE}\s*(?:minutes?|mins?|m|')(?!\w)")),
    ("s", re.compile(rf"{_RANGE}\s*(?:seconds?|secs?|sec|s|\")(?!\w)")),
    ("breaths", re.compile(rf"{_RANGE}\s*(?:slow |deep |full )?(?:breaths?|br)(?!\w)")),
    ("pulses", re.compile(rf"{_RANGE}\s*(?:pulses?|pulsed holds?)(?!\w)")),
    ("reps", re.compile(rf"{_RANGE}\s*(?:reps?|repetitions?|times|x)(?![\w×])")),
)
_SETS = re.compile(r"(?<!\d)(\d{1,2})\s*(?:[x×*]|sets?\s*(?:of|[x×]))\s*(?=\d)")
_SET_COUNT = re.compile(r"(?<!\d)(\d{1,2})\s*sets?\b")
_OPEN = re.compile(r"\b(?:open|until ready|as long as\b.*|own time)\b")


@dataclass(frozen=True, slots=True)
class Told:
    """What a text says: the dose, how often, for which sides, and how a count counts; None where it says nothing."""

    dose: Dose | None
    sets: int = 1
    sides: Sidedness | None = None
    count_is: CountIs = CountIs.PER_SIDE


def read_dose(text: str, like: Dose | None = None) -> Told:
    """The dose that a text tells; ``like`` is the move's usual one, which bare numbers and phases follow.

    RefusedError where nothing can be read, or a number is beyond what a class can have.
    """
    plain = " ".join(text.casefold().replace("\u00a0", " ").split())
    sides = next((side for pattern, side in _SIDES if re.search(pattern, plain)), None)
    counts = CountIs.TOTAL if re.search(r"\bin (?:all|total)\b|\btotal\b", plain) else CountIs.PER_SIDE
    for pattern, _ in _SIDES:
        plain = re.sub(pattern, " ", plain)
    plain = re.sub(r"\bin (?:all|total)\b|\btotal\b|\btimes (?:a|each)\b", " ", plain).strip(" ,;")
    if not plain:
        return Told(None, 1, sides, counts)
    sets, rest = _sets(plain)
    dose = _dose(rest, like)
    if dose is None:
        raise RefusedError("dose", "such as 30 s, 2 x 8, 10-12 reps or 3 breaths each side", text.strip()[:60])
    return Told(dose, sets, sides, counts)


def _sets(plain: str) -> tuple[int, str]:
    found = _SETS.search(plain)
    if found:
        return max(1, min(20, int(found.group(1)))), plain[: found.start()] + plain[found.end() :]
    counted = _SET_COUNT.search(plain)
    if counted:
        return max(1, min(20, int(counted.group(1)))), plain[: counted.start()] + plain[counted.end() :]
    return 1, plain


def _dose(plain: str, like: Dose | None) -> Dose | None:
    clock = _CLOCK.search(plain)
    if clock:
        seconds = int(clock.group(1)) * 60 + int(clock.group(2))
        return _lasting(seconds, seconds, like)
    for unit, pattern in _UNITS:
        found = pattern.search(plain)
        if found:
            low, high = _numbers(found)
            if unit in ("min", "s"):
                times = 60 if unit == "min" else 1
                return _lasting(round(low * times), round(high * times), like)
            return _counted(unit, round(low), round(high), like)
    if _OPEN.search(plain):
        return Open(Elastic(10, 30, 120))
    bare = re.search(_RANGE, plain)
    if bare is None:
        return None
    low, high = (round(one) for one in _numbers(bare))
    if isinstance(like, Reps | Breaths | Pulses) and high < BARE_SECONDS:
        return _counted(type(like).unit, low, high, like)
    if like is None and high < BARE_SECONDS // 2:
        return _counted("reps", low, high, None)
    return _lasting(low, high, like)


def _numbers(found: re.Match[str]) -> tuple[float, float]:
    low = float(found.group(1).replace(",", "."))
    high = float(found.group(2).replace(",", ".")) if found.group(2) else low
    return min(low, high), max(low, high)


def _elastic(low: int, high: int, least: int, most: int, what: str) -> Elastic:
    if not least <= low <= high <= most:
        raise RefusedError("dose", f"from {least} to {most} {what}", f"{low}" if low == high else f"{low} to {high}")
    if low < high:
        return Elastic(low, (low + high) // 2, high)
    room = max(1, low * ROOM // 100)
    return Elastic(max(least, low - room), low, min(most, low + room))


def _lasting(low: int, high: int, like: Dose | None) -> Dose:
    seconds = _elastic(low, high, 1, LONGEST_S, "seconds")
    if isinstance(like, Hold | Timed | Open):
        return like.having(seconds)
    if isinstance(like, Reps):
        return Timed(seconds)
    return Hold(seconds)


def _counted(unit: str, low: int, high: int, like: Dose | None) -> Dose:
    count = _elastic(low, high, 1, MOST, unit)
    kinds: dict[str, type[Reps] | type[Breaths] | type[Pulses]] = {"reps": Reps, "breaths": Breaths, "pulses": Pulses}
    kind = kinds[unit]
    return like.having(count) if isinstance(like, kind) else kind(count)
