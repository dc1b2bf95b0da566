"""The script to be read: Markdown and plain text."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from extendum.core.model.script import Script
from extendum.core.model.timeline import clock
from extendum.core.moves.cautions import SCOPE, USUAL
from extendum.core.outputs.cue_sheet import Entry

_MARKUP = "\\`*_{}[]<>#|"


def markdown(script: Script, entries: Sequence[Entry]) -> str:
    """The script as Markdown: sections, items with their times and doses, and each text with its time."""
    return "\n".join(_lines(script, entries, marked=True)) + "\n"


def plain_text(script: Script, entries: Sequence[Entry]) -> str:
    """The script as plain text."""
    return "\n".join(_lines(script, entries, marked=False)) + "\n"


def _lines(script: Script, entries: Sequence[Entry], *, marked: bool) -> Iterator[str]:
    def said(text: str) -> str:
        return "".join(f"\\{sign}" if sign in _MARKUP else sign for sign in text) if marked else text

    length = clock(entries[-1].end_s if entries else 0)
    yield ("# " if marked else "") + said(script.title)
    yield ""
    yield said(", ".join(filter(None, (length, script.brief.group, _needs(entries)))))
    section = None
    for entry in entries:
        if entry.section is not section:
            section = entry.section
            yield ""
            yield ("## " if marked else "") + said(section.name or str(section.role))
        yield ""
        told = f"{clock(entry.start_s)} {entry.title} ({entry.dose})"
        yield ("### " if marked else "") + said(told)
        if marked:
            yield ""
        for line in entry.lines:
            side = f", {line.side}" if line.side and len(entry.sides) > 1 else ""
            kind = "for you alone" if line.private else f"{line.kind}{side}"
            yield f"{'- ' if marked else '  '}{clock(line.at_ms // 1000)} {kind}: {said(line.text)}"
    yield ""
    yield said(USUAL)
    yield said(SCOPE)


def _needs(entries: Sequence[Entry]) -> str:
    props = dict.fromkeys(prop for entry in entries for prop in entry.props)
    return f"needs {', '.join(props)}" if props else ""
