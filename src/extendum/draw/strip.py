"""The strip beside a text: how long it takes to say, against the time that it has."""

from __future__ import annotations

from extendum.draw.svg import n, tag

SCALE_S = 12


def draw_strip(said_ms: int, room_ms: int | None, width: float = 168, patient_ms: int | None = None) -> str:
    """A bar that fills with the words; what is longer than its room runs on over the mark, into the hold.

    Without a room of its own the words take what they take, and nothing is over; but after ``patient_ms`` they keep
    people waiting, and that shows too.
    """
    room_ms = patient_ms if room_ms is None and patient_ms is not None and said_ms > patient_ms else room_ms
    scale = max(SCALE_S * 1000, said_ms, room_ms or 0)
    said = said_ms / scale * width
    fits = said if room_ms is None else min(said, room_ms / scale * width)
    drawn = tag("rect", x="0", y="3", width=n(width), height="8", class_="room" if room_ms is None else "after")
    if room_ms is not None:
        drawn += tag("rect", x="0", y="3", width=n(room_ms / scale * width), height="8", class_="room")
    drawn += tag("rect", x="0", y="4.5", width=n(fits), height="5", class_="fits")
    if said > fits:
        drawn += tag("rect", x=n(fits), y="1.5", width=n(said - fits), height="11", class_="over")
    if room_ms is not None:
        drawn += tag("path", d=f"M{n(room_ms / scale * width)} 0v14", class_="edge")
    return tag(
        "svg", drawn, class_="strip", viewBox=f"0 0 {n(width)} 14", width=n(width), height="14", aria_hidden="true"
    )
