"""The band: how short something could be, how long it is, how long it could get, and a peg at the target."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from extendum.core.model.elastic import Elastic
from extendum.core.model.timeline import Timeline, clock
from extendum.draw.svg import clip, n, tag, text

#: Room that the name of a limit needs beside its mark.
NAME_ROOM = 70


@dataclass(frozen=True, slots=True)
class Span:
    """A named stretch of the class, in seconds."""

    name: str
    start_s: int
    end_s: int


def section_spans(timeline: Timeline, sections: list[tuple[str, set[str]]]) -> list[Span]:
    """Each section with items, as the stretch of the timeline that its items fill."""
    found = []
    for name, items in sections:
        own = [s for s in timeline.segments if s.item in items]
        if own:
            found.append(Span(name, own[0].start_s, own[-1].end_s))
    return found


def ruler_s(length_s: int, most_s: int, target_s: int) -> int:
    """Seconds that the ruler shows: everything, and a little air, in whole minutes."""
    longest = max(length_s, min(most_s, 4 * max(length_s, target_s)), target_s, 60)
    return -(-longest * 105 // 100 // 60) * 60


#: Where the ruler begins in the drawing.
LEFT = 8.0


@dataclass(frozen=True, slots=True)
class _Scale:
    """Places on the ruler: how many seconds it shows, and how wide that is."""

    ruler_s: int
    wide: float

    def __call__(self, seconds: int) -> float:
        """Where a number of seconds is; beyond the ruler at its end."""
        return LEFT + min(seconds, self.ruler_s) / self.ruler_s * self.wide


def draw_band(spans: list[Span], length_s: int, least_s: int, most_s: int, target_s: int, width: float = 1240) -> str:
    """The class as an elastic band over a ruler of minutes, with the peg at its target."""
    x = _Scale(ruler_s(length_s, most_s, target_s), width - 2 * LEFT)
    drawn = list(_minutes(x))
    drawn.append(tag("path", d=f"M{n(x(least_s))} 33H{n(x(most_s))}", class_="reach"))
    for span in spans:
        bar = max(1.0, x(span.end_s) - x(span.start_s) - 1.5)
        drawn.append(tag("rect", x=n(x(span.start_s)), y="24", width=n(bar), height="18", rx="3", class_="span"))
        drawn.append(text(clip(span.name, bar - 10, 11), x(span.start_s) + 7, 37, class_="span-name"))
    drawn += _limits(x, least_s, most_s, width)
    drawn.append(_peg(x, least_s, most_s, target_s))
    return tag(
        "svg",
        "".join(drawn),
        id="band",
        class_="band",
        viewBox=f"0 0 {n(width)} 62",
        role="group",
        aria_label=f"Length {clock(length_s)}, from {clock(least_s)} to {clock(most_s)}",
        data_ruler=x.ruler_s,
        data_left=n(LEFT),
        data_wide=n(x.wide),
        data_target=target_s,
    )


def _minutes(x: _Scale) -> Iterator[str]:
    minutes = x.ruler_s // 60
    step = next(s for s in (1, 2, 5, 10, 15, 30, 60) if minutes / s <= 32)
    for minute in range(0, minutes + 1, step):
        yield tag("path", d=f"M{n(x(minute * 60))} 44v5", class_="tick")
        yield text(str(minute), x(minute * 60), 59, class_="scale", text_anchor="middle")


def _limits(x: _Scale, least_s: int, most_s: int, width: float) -> Iterator[str]:
    """A mark at each limit, with its name beside it; where the left one has no room, both names in one."""
    for seconds in (least_s, most_s):
        yield tag("path", d=f"M{n(x(seconds))} 20v26", class_="limit")
    least, most = f"least {clock(least_s)}", f"most {clock(most_s)}"
    together = x(least_s) < NAME_ROOM
    if not together:
        yield text(least, x(least_s) - 5, 15, class_="limit-name", text_anchor="end")
    inside = x(most_s) > width - NAME_ROOM * (2 if together else 1)
    at, anchor = (x(most_s) - 5, "end") if inside else (x(most_s) + 5, "start")
    yield text(f"{least}, {most}" if together else most, at, 15, class_="limit-name", text_anchor=anchor)


def _peg(x: _Scale, least_s: int, most_s: int, target_s: int) -> str:
    peg = tag("path", d="M0 18v28M-7 4h14l-3 14h-8z", class_="peg-shape")
    peg += tag("rect", x="-14", y="0", width="28", height="50", class_="hit")
    return tag(
        "g",
        peg,
        id="peg",
        class_="peg",
        transform=f"translate({n(x(target_s))} 0)",
        role="slider",
        tabindex=0,
        aria_label="Target length",
        aria_valuemin=min(least_s, target_s),
        aria_valuemax=max(most_s, target_s),
        aria_valuenow=target_s,
        aria_valuetext=clock(target_s),
    )


def draw_dose_band(quantity: Elastic, width: float = 64) -> str:
    """An item's own little band: the line from least to most, a tick at the wanted, a bead at what it is."""
    low, high = quantity.least, max(quantity.most, quantity.least + 1)

    def x(value: int) -> float:
        return 4 + (value - low) / (high - low) * (width - 8)

    bead = tag("circle", cx=n(x(quantity.value)), cy="8", r="3.6", class_="bead")
    if quantity.locked:
        bead = tag("rect", x=n(x(quantity.value) - 3.6), y="4.4", width="7.2", height="7.2", class_="bead")
    drawn = (
        tag("path", d=f"M4 8H{n(width - 4)}", class_="reach")
        + tag("path", d=f"M{n(x(quantity.wanted))} 3v10", class_="wanted")
        + bead
    )
    return tag(
        "svg",
        drawn,
        class_="dose-band",
        viewBox=f"0 0 {n(width)} 16",
        width=n(width),
        height="16",
        aria_hidden="true",
    )
