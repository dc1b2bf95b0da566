"""Files that take a while to make, a pack or the audio guide: each is a job, in a folder beside the database."""

from __future__ import annotations

import shutil
import time
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from django.conf import settings
from django.utils import timezone

from extendum.core.model.errors import ExtendumError
from extendum.core.model.timeline import clock
from extendum.core.outputs.bedding import music_of
from extendum.formats.exports import FILMS, SOUNDS, Export, pack, report, write
from extendum.formats.paper import Paper
from extendum.voice import stand_in
from extendum.web.classes import store
from extendum.web.classes.look import printed_look
from extendum.web.classes.models import Revision, StretchClass
from extendum.web.giving.pages import address_for, publish, shows_of
from extendum.web.jobs import work
from extendum.web.jobs.models import Job
from extendum.web.library.store import library_of
from extendum.web.teach.takes import as_recorded
from extendum.web.voices.music import beds_of
from extendum.web.voices.store import speaker

#: How often it says how far it is.
TELLS_S = 0.4
#: From this share on it can be told how long the rest takes.
_TELLING = 0.02
#: What is made in the background; the rest is quicker made than waited for.
SLOW = ("pack", *SOUNDS, "page", *FILMS)
#: In which part of the page a making is shown, and what it is called; the rest is of the pack.
PARTS = {"page": "page", "mp4": "film", "webm": "film"}
_CALLED = {"pack": "pack", "page": "page", "mp4": "film", "webm": "film"}


@dataclass(frozen=True, slots=True)
class Making:
    """One file being made from a class as it was then, with how far it is."""

    job: Job

    @property
    def pk(self) -> int:
        """The number of its job."""
        return self.job.pk

    @property
    def kind(self) -> str:
        """Which file it is."""
        return self.job.kind

    @property
    def part(self) -> str:
        """In which part of the page it is shown."""
        return PARTS.get(self.kind, "pack")

    @property
    def called(self) -> str:
        """What it is called."""
        return _CALLED.get(self.kind, "audio guide")

    @property
    def state(self) -> str:
        """Working, done or failed."""
        return self.job.state

    @property
    def made_at(self) -> datetime:
        """When it was begun."""
        return self.job.made_at

    @property
    def paper(self) -> Paper:
        """What it is made for."""
        return Paper(self.job.asked["paper"])

    @property
    def revision(self) -> int:
        """The step of the class that it is made from."""
        return int(self.job.asked["revision"])

    @property
    def shows(self) -> dict[str, str]:
        """What a page shows beside the class, or how a film looks, as it was asked for."""
        return dict(self.job.asked.get("shows", {}))

    @property
    def path(self) -> Path:
        """Where the file is."""
        return Path(settings.DATA) / "made" / f"{self.job.pk}"

    @property
    def percent(self) -> int:
        """How far it is."""
        return round(100 * float(self.job.found.get("share", 0)))

    @property
    def to_go(self) -> str:
        """How long the rest takes; empty where that cannot be told yet."""
        seconds = int(self.job.found.get("to_go_s", 0))
        return clock(seconds) if seconds else ""

    @property
    def cancelled(self) -> bool:
        """Whether it ends as soon as it hears of it."""
        return self.job.enough

    @property
    def told(self) -> str:
        """What should be known of it, or why it failed."""
        return self.job.told or str(self.job.found.get("told", ""))

    @property
    def stopped(self) -> bool:
        """Whether it was at work in a process that is not there any more."""
        return work.killed(self.job)


class CancelledError(ExtendumError):
    """Somebody does not want it any more, or has asked for another one of its kind."""

    def __init__(self) -> None:
        super().__init__("It was cancelled. Nothing half-made was left.")


class CannotBeMadeError(ExtendumError):
    """A file that could not be written, in words for whoever waits for it."""


def begin(of: StretchClass, kind: str, paper: Paper, **more: object) -> Making:
    """Begin to make a file of a class as it is now, with what else is asked of it; old files go."""
    _tidy(Path(settings.DATA) / "made")
    store.close(of)
    return Making(
        work.begin(of, kind, {"revision": of.head_id, "paper": paper.value, **more}, {}, FILMS if kind in FILMS else ())
    )


def _tidy(folder: Path) -> None:
    """Take away old files, and what a making that was killed has left half-made."""
    old = (timezone.now() - work.KEPT - timedelta(hours=1)).timestamp()
    heard = timezone.now() - work.KILLED
    at_work = {
        str(pk) for pk in Job.objects.filter(state=Job.State.WORKING, heard_at__gt=heard).values_list("pk", flat=True)
    }
    for one in folder.iterdir() if folder.is_dir() else ():
        if one.name.startswith("."):  # half-made, named for its job
            if one.name.split(".")[1] not in at_work:
                shutil.rmtree(one) if one.is_dir() else one.unlink(missing_ok=True)
        elif one.stat().st_mtime < old:
            one.unlink(missing_ok=True)


def last_of(of: StretchClass, part: str) -> Making | None:
    """The file of a part of the page that was asked for last."""
    job = of.jobs.filter(kind__in=[kind for kind in SLOW if PARTS.get(kind, "pack") == part]).order_by("-pk").first()
    return Making(job) if job else None


def planned(of: StretchClass) -> tuple[datetime | None, str]:
    """When and where a class is planned next; None where it is not."""
    coming = of.sessions.filter(run=None, at__gte=timezone.now()).order_by("at").first()
    return (coming.at, coming.place) if coming else (None, "")


def make(job: Job, tell: work.Tell) -> dict[str, object]:
    """The work: the file, whole or not at all, and what should be known of it."""
    making, told_at, began = Making(job), 0.0, time.monotonic()

    def progress(share: float) -> None:
        nonlocal told_at
        if time.monotonic() - told_at >= TELLS_S:
            told_at = time.monotonic()
            if not tell({"share": share, "to_go_s": _to_go(began, share)}):
                raise CancelledError

    one = export_of(job.of, Revision.objects.get(pk=making.revision), making.paper, str(job.asked.get("base", "")))
    one.voice = speaker(one.script, job.of.owner, stand_in())
    if key := str(job.asked.get("recording", "")):
        one.recorded = as_recorded(job.of.runs.get(key=key, take=True))
    one.beds = beds_of(job.of.owner, music_of(one.script))
    if making.kind == "page":
        one.shows = shows_of(making.shows)
        one.speaks = _voice_name(one) if making.shows.get("speaks") else ""
    if making.kind in FILMS:
        asked = making.shows
        one.film = {"size": asked.get("size", "720"), "dark": asked.get("tone") == "dark", "drawn": "drawn" in asked}
        one.silent = "sound" not in asked
    try:
        making.path.parent.mkdir(parents=True, exist_ok=True)
        if making.kind == "pack":
            beside = making.path.with_name(f".{making.pk}.new")
            with beside.open("wb") as out:
                pack(one, out, progress)
            beside.replace(making.path)
        else:
            write(one, making.kind, making.path, progress)
    except OSError as error:
        raise CannotBeMadeError(f"It could not be made: {error}") from error
    if making.kind == "page" and making.shows.get("address"):
        publish(
            job.of, Revision.objects.get(pk=making.revision), making.path, making.shows, making.shows.get("code", "")
        )
    return {"share": 1.0, "told": "" if making.part != "pack" else report(one)}


def _to_go(began: float, share: float) -> int:
    """Seconds until it is done, as it goes now; 0 where that cannot be told yet."""
    return round((time.monotonic() - began) * (1 - share) / share) if share > _TELLING else 0


def export_of(of: StretchClass, revision: Revision, paper: Paper, base: str) -> Export:
    """A class as its owner gives it away; ``base``: where this server is reached."""
    starts, place = planned(of)
    one = Export(store.script_of(revision), paper, starts, place=place, look=printed_look(of.owner))
    one.line, one.address = store.defaults_of(of.owner).line, address_for(of, base)
    one.moves = library_of(of.owner).moves
    return one


def _voice_name(one: Export) -> str:
    voice = one.script.style.voice
    return voice.name if voice else "a machine's voice" if one.voice else ""
