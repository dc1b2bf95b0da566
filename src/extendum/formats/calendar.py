"""A class as a calendar entry (iCalendar)."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

from icalendar import Calendar, Event

from extendum.core.model.script import Script
from extendum.core.model.timeline import clock


def calendar_entry(script: Script, length_s: int, starts: datetime, made: datetime, uid: str, place: str = "") -> bytes:
    """One event, from its start (with its time zone) for the length of the class; ``made``: when it is written.

    Times are written in UTC, which every calendar shows in its reader's zone; a name of a zone would need its rules.
    """
    event = Event()
    event.add("uid", uid)
    event.add("dtstamp", made.astimezone(UTC))
    event.add("dtstart", starts.astimezone(UTC))
    event.add("dtend", starts.astimezone(UTC) + timedelta(seconds=length_s))
    event.add("summary", script.title)
    told = [clock(length_s), script.brief.group, f"{len(script.moves())} moves"]
    event.add("description", ", ".join(filter(None, told)))
    if place:
        event.add("location", place)
    calendar = Calendar()
    calendar.add("prodid", "-//Extendum//class//EN")
    calendar.add("version", "2.0")
    calendar.add_component(event)
    return bytes(calendar.to_ical())
