"""Everything that a class is given away as: each alone, or all in one pack."""

from __future__ import annotations

import tempfile
import zipfile
from collections.abc import Callable, Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass, field
from datetime import UTC, datetime
from functools import cached_property, partial
from pathlib import Path
from typing import IO, Any
from uuid import NAMESPACE_URL, uuid5

from extendum.core.model.errors import RefusedError
from extendum.core.model.library import LibraryMove
from extendum.core.model.script import Script
from extendum.core.model.timeline import Mode, Timeline, clock
from extendum.core.outputs.bedding import SHIPPED, Music, bedding, music_of
from extendum.core.outputs.captions import Caption, Chapter, captions, chapters, hasty
from extendum.core.outputs.cue_sheet import Entry, cue_sheet
from extendum.core.outputs.sound import Hurried, Speaker
from extendum.core.timing.compile import compile_script
from extendum.formats.apart import apart
from extendum.formats.calendar import calendar_entry
from extendum.formats.captions import chapters_list, chapters_vtt, srt, vtt
from extendum.formats.document import dumps
from extendum.formats.library import shipped_moves
from extendum.formats.paper import USUAL_LOOK, Look, Paper, unprinted
from extendum.formats.playing_page import Shows, playing_page
from extendum.formats.publishing import publishing_text, thumbnail
from extendum.formats.running_order import running_order
from extendum.formats.script_text import markdown, plain_text

Progress = Callable[[float], object]


@dataclass
class Export:
    """A class to be given away: its document, which paper, when it is, who speaks, how its figures look, what music.

    ``line``: what its teacher puts on every handout; ``address``: where the class plays;
    ``shows``: what a page that plays has beside the class, ``speaks``: what its voice is called, empty: it is silent;
    ``film``: how a film is made, as `formats.film.Film` has it, ``silent``: without its guide; ``recorded``: captions
    and chapters of a recording, to be given instead of the planned ones; ``moves``: the library.
    """

    script: Script
    paper: Paper = Paper.A4
    starts: datetime | None = None
    made: datetime = field(default_factory=lambda: datetime.now(UTC))
    place: str = ""
    voice: Speaker | None = None
    look: Look = USUAL_LOOK
    line: str = ""
    address: str = ""
    shows: Shows = field(default_factory=Shows)
    speaks: str = ""
    film: Mapping[str, Any] = field(default_factory=dict)
    silent: bool = False
    recorded: tuple[Sequence[Caption], Sequence[Chapter]] | None = None
    moves: Mapping[str, LibraryMove] = field(default_factory=lambda: {one.move.key: one for one in shipped_moves()})
    beds: Mapping[str, Music] = field(default_factory=lambda: dict(SHIPPED))
    hurried: list[Hurried] = field(default_factory=list)

    @cached_property
    def timeline(self) -> Timeline:
        """The compiled class."""
        return compile_script(self.script)

    @cached_property
    def entries(self) -> list[Entry]:
        """Its cue sheet."""
        return cue_sheet(self.script, self.timeline)

    @cached_property
    def captions(self) -> Sequence[Caption]:
        """Its captions: those of a recording where there is one, otherwise as planned."""
        return self.recorded[0] if self.recorded else captions(self.timeline)

    @cached_property
    def chapters(self) -> Sequence[Chapter]:
        """Its chapters, likewise."""
        return self.recorded[1] if self.recorded else chapters(self.entries)

    @property
    def uid(self) -> str:
        """What the calendar entry is known by: the same for the same class at the same time."""
        return f"{uuid5(NAMESPACE_URL, f'{self.script.title} {self.starts}')}@extendum"


def _ics(one: Export) -> bytes:
    if one.starts is None:
        raise RefusedError("time", "given for a calendar entry: when the class is", "nothing")
    return calendar_entry(one.script, one.timeline.length_s, one.starts, one.made, one.uid, one.place)


def _cue_pages(one: Export) -> bytes:
    from extendum.formats.cue_pages import cue_sheet_pdf  # what prints takes 28 MB: only where it is wanted

    return cue_sheet_pdf(one.script, one.timeline, one.entries, one.paper, one.look)


def _handout(one: Export) -> bytes:
    from extendum.formats.handout import handout_pdf  # as above

    return handout_pdf(one.script, one.entries, one.paper, one.look, one.line, one.address)


_TEXTS: Mapping[str, Callable[[Export], str | bytes]] = {
    "vtt": lambda one: vtt(one.captions),
    "srt": lambda one: srt(one.captions),
    "chapters": lambda one: chapters_vtt(one.chapters),
    "chapters-list": lambda one: chapters_list(one.chapters),
    "md": lambda one: markdown(one.script, one.entries),
    "txt": lambda one: plain_text(one.script, one.entries),
    "csv": lambda one: running_order(one.entries),
    "ics": _ics,
    "pdf": _cue_pages,
    "handout": _handout,
    "page": lambda one: playing_page(
        one.script, one.moves, one.shows, one.look, one.voice if one.speaks else None, one.speaks
    ),
    "text": lambda one: publishing_text(
        one.script, one.timeline, one.entries, one.chapters, one.line, _about_music(one)
    ),
    "png": lambda one: thumbnail(one.script, one.timeline, one.look),
    "json": lambda one: dumps(one.script),
}
#: What each kind is called in a pack, and what it is.
FILES: Mapping[str, tuple[str, str]] = {
    "vtt": ("captions.vtt", "captions, WebVTT"),
    "srt": ("captions.srt", "captions, SRT"),
    "chapters": ("chapters.vtt", "chapters, WebVTT"),
    "chapters-list": ("chapters.txt", "chapters, a plain list"),
    "md": ("script.md", "the script, Markdown"),
    "txt": ("script.txt", "the script, plain text"),
    "csv": ("running-order.csv", "the running order, CSV"),
    "ics": ("class.ics", "a calendar entry"),
    "pdf": ("cue-sheet.pdf", "cue sheet with figures and minute sheet, PDF"),
    "handout": ("handout.pdf", "the handout for participants, PDF"),
    "page": ("class.html", "a page that plays, HTML"),
    "text": ("about.txt", "a text for publishing: needs, areas, cautions, chapters"),
    "png": ("thumbnail.png", "a thumbnail, PNG"),
    "json": ("class.json", "the class as a document"),
    "mp4": ("class.mp4", "the film, MP4"),
    "webm": ("class.webm", "the film, WebM"),
    "wav": ("guide.wav", "the audio guide, WAV"),
    "flac": ("guide.flac", "the audio guide, FLAC"),
    "ogg": ("guide.ogg", "the audio guide, Ogg Opus"),
    "mp3": ("guide.mp3", "the audio guide, MP3"),
}
KINDS = tuple(FILES)
SOUNDS, FILMS = ("wav", "flac", "ogg", "mp3"), ("mp4", "webm")


def write(one: Export, kind: str, path: Path, progress: Progress = lambda share: None) -> None:
    """Write one kind to a file, whole or not at all."""
    beside = path.with_name(f".{path.name}.new")
    try:
        if kind in SOUNDS:
            _guide(one, kind, beside, progress)
        elif kind in FILMS:
            _film(one, kind, beside, progress)
        else:
            made = _TEXTS[kind](one)
            beside.write_bytes(made.encode() if isinstance(made, str) else made)
        beside.replace(path)
    finally:
        with suppress(OSError):
            beside.unlink(missing_ok=True)


def _guide(one: Export, kind: str, path: Path, progress: Progress) -> None:
    from extendum.formats.audio import Kind, audio_guide  # takes a second to load: only where it is wanted

    bed = bedding(one.script, one.timeline, one.beds)
    rate = one.script.style.words_per_minute
    one.hurried += audio_guide(one.timeline, path, Kind(kind), rate, one.voice, progress, bed)


def _guide_alone(one: Export, path: Path, progress: Progress) -> list[Hurried]:
    """The guide of a film: made apart, as what listens to its loudness takes more memory than all the painting."""
    _guide(one, "flac", path, progress)
    return one.hurried


#: Of making a film, the share of its guide.
_HEARD = 0.08


def _film(one: Export, kind: str, path: Path, progress: Progress) -> None:
    """The film with its guide, unless it is a silent one."""
    from extendum.formats.film import Film  # as above
    from extendum.formats.film_file import write_film

    film = Film(**{**one.film, "kind": kind, "author": one.line})
    with tempfile.TemporaryDirectory(dir=path.parent, prefix=f".{path.name.lstrip('.')}.") as folder:
        sound = None if one.silent else Path(folder) / FILES["flac"][0]
        if sound:
            one.hurried += apart(partial(_guide_alone, one, sound), lambda share: progress(_HEARD * share))
        write_film(
            *(one.script, one.timeline, path, film, sound, one.look),
            lambda share: progress(_HEARD + (1 - _HEARD) * share),
            one.moves,
        )


def pack(one: Export, out: IO[bytes], progress: Progress = lambda share: None) -> None:
    """Everything in one zip; the sound once, as Ogg. ``progress`` is told the share done.

    A class that is not planned has no calendar entry in it.
    """
    texts = [kind for kind in _TEXTS if kind != "json" and (kind != "ics" or one.starts)]
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as files, tempfile.TemporaryDirectory() as folder:
        for n, kind in enumerate([*texts, "json"]):
            files.writestr(FILES[kind][0], _TEXTS[kind](one))
            progress(0.3 * (n + 1) / (len(texts) + 1))
        path = Path(folder) / FILES["ogg"][0]
        write(one, "ogg", path, lambda share: progress(0.3 + 0.65 * share))
        files.write(path, path.name, zipfile.ZIP_STORED)
        if one.voice is None:
            files.writestr("spoken.txt", spoken_list(one.timeline))
        files.writestr("report.txt", report(one))
        progress(1.0)


def spoken_list(timeline: Timeline) -> str:
    """What is to be said and when, for a guide without a voice."""
    spoken = sorted((cue for cue in timeline.cues if cue.mode is Mode.SPOKEN), key=lambda cue: cue.start_ms)
    return "".join(f"{clock(cue.start_ms // 1000)} {cue.text}\n" for cue in spoken)


def report(one: Export) -> str:
    """What is in the files that should be known: captions that are fast, words that the voice had to hurry."""
    lines = [
        f"{one.script.title}, {clock(one.timeline.length_s)}",
        "",
        *about_captions(one),
        *about_sound(one),
        *about_print(one),
    ]
    if one.starts is None:
        lines.append("There is no calendar entry: the class is not planned in the logbook.")
    return "\n".join(lines) + "\n"


def about_print(one: Export) -> list[str]:
    """The signs of a class that the printed pages cannot show."""
    texts = [
        one.script.title,
        one.line,
        *(item.name for item in one.script.items()),
        *(c.text for c in one.timeline.cues),
    ]
    missing = unprinted(texts)
    if not missing:
        return []
    return [
        f"No face here can print {', '.join(missing[:12])}: an empty box stands for each in the cue sheet and handout."
    ]


def about_captions(one: Export) -> list[str]:
    """The captions that are faster to hear than to read, with no quiet after them."""
    fast, every = hasty(one.captions), len(one.captions)
    if not fast:
        return [f"All {every} captions can be read comfortably."]
    told = [f"{len(fast)} of {every} captions are faster to hear than to read, with no quiet after them:"]
    for caption in fast:
        at, speed = clock(caption.start_ms // 1000), f"{caption.per_second:.0f} characters a second"
        told.append(f"  {at} {speed}: {' '.join(caption.lines)}")
    return told


def about_sound(one: Export) -> list[str]:
    """What the voice had to hurry, or that there is none; and whose music is under it."""
    return [*_about_voice(one), *_about_music(one)]


def _about_music(one: Export) -> list[str]:
    """Whose music is under it, and what of it is not here."""
    found = music_of(one.script)
    missing = [f"“{name}” is not here: there is no music where it would be played." for name in found - one.beds.keys()]
    rights = [f"Music: {name}. {one.beds[name].rights}".strip() for name in sorted(found & one.beds.keys())]
    return [*sorted(missing), *rights]


def _about_voice(one: Export) -> list[str]:
    if one.voice is None:
        return ["The guide has no voice: espeak-ng is not installed here. Tones stand where something is to be said."]
    if not one.hurried:
        return ["The voice says everything as planned."]
    told = [f"{len(one.hurried)} texts are spoken faster than planned, so that nothing is cut:"]
    return told + [f"  {clock(h.at_ms // 1000)} at {h.percent} % of the rate: {h.text}" for h in one.hurried]
