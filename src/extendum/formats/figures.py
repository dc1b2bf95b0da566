"""The shipped figures, which one a move has, and their drawings: built ahead, or drawn when they are asked for."""

from __future__ import annotations

import ast
import hashlib
import json
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from functools import cache, lru_cache
from importlib.resources import files
from io import BytesIO
from pathlib import Path
from threading import Lock
from zipfile import ZIP_DEFLATED, ZipFile, ZipInfo

from extendum.core.figure.builds import Build
from extendum.core.figure.figure import Figure, read_figures
from extendum.core.figure.marks import Mark, marks_of
from extendum.core.model.body import Side
from extendum.core.model.move import Move
from extendum.draw.figures.drawing import Drawing, drawing_of
from extendum.draw.figures.flat import Flat, flat
from extendum.draw.figures.picture import picture_of
from extendum.draw.figures.svg import framed, inside_svg, with_style
from extendum.draw.figures.tones import Skin, style_of
from extendum.draw.lying import lies
from extendum.formats.library import shipped_moves

_DATA = files("extendum").joinpath("data")
#: A small picture is not larger than this, in bytes; it is made coarser until it is not.
SMALL_BYTES = 4000
_COARSER = (0.0055, 0.0075, 0.01, 0.014, 0.02)


@cache
def shipped_figures() -> dict[str, Figure]:
    """Every figure by the key of its move."""
    return read_figures(json.loads(_DATA.joinpath("figures.json").read_text("utf-8")))


@dataclass(frozen=True, slots=True)
class Shown:
    """Which picture is wanted: whose figure, turned over, seen from elsewhere; of which build and skin."""

    key: str
    flipped: bool = False
    view: int | None = None
    build: Build = Build.SLIGHT
    skin: Skin = Skin.MIDDLE


def figure_of(move: Move) -> Shown | None:
    """The figure of a move: its own, or that of the move it names, turned as it says; None where there is none."""
    key = move.figure or move.key
    return Shown(key, move.figure_flipped, move.figure_view) if key in shipped_figures() else None


def as_spoken(shown: Shown, side: Side) -> Shown:
    """A picture for a screen that people follow: what is worked lies on the side that is spoken, as in a mirror."""
    if side not in (Side.LEFT, Side.RIGHT):
        return shown
    return replace(shown, flipped=shown.flipped != (lies(seen_figure(shown)) is Side.RIGHT))


def seen_figure(shown: Shown) -> Figure:
    """The figure of a picture, seen from where it is wanted; flipped it is that of the other side."""
    figure = shipped_figures()[shown.key]
    return figure if shown.view is None else replace(figure, view=float(shown.view))


@cache
def _marks() -> dict[str, tuple[Mark, ...]]:
    return {entry.move.key: marks_of(entry.move) for entry in shipped_moves()}


#: One is drawn at a time: who asks for what is built is not kept waiting by who asks for what is not.
_PEN = Lock()


def drawing(shown: Shown) -> Drawing:
    """The drawing of a figure with its movement; built ahead, or drawn now in another view (some seconds)."""
    if shown.view is None:
        return _read(shown)
    with _PEN:
        return _redrawn(shown)


@lru_cache(maxsize=256)
def _read(shown: Shown) -> Drawing:
    return Drawing.read(json.loads(built(f"{shown.build}/{shown.key}.json")))


@lru_cache(maxsize=256)
def _redrawn(shown: Shown) -> Drawing:
    return _drawn(seen_figure(shown), _marks()[shown.key], shown.build)


def moving_json(shown: Shown) -> bytes:
    """The drawing of a figure as a screen takes it."""
    if shown.view is None:
        return built(f"{shown.build}/{shown.key}.json")
    return _plain(drawing(replace(shown, flipped=False, skin=Skin.MIDDLE)))


@lru_cache(maxsize=1024)
def picture_svg(shown: Shown, side: Side, about: str = "", *, small: bool = False, prefix: str = "f") -> str:
    """A figure of a side as SVG, without its style."""
    inside, units, letter = _still(replace(shown, flipped=False, skin=Skin.MIDDLE), small=small)
    return framed(inside, units, letter, side, about, prefix, flipped=shown.flipped)


def picture_file(shown: Shown, side: Side, about: str = "", *, small: bool = False) -> str:
    """The same as a file of its own."""
    svg = picture_svg(shown, side, about, small=small)
    return with_style(svg, style_of(svg, shown.skin))


@lru_cache(maxsize=256)
def printed_figure(shown: Shown, side: Side) -> tuple[list[Flat], tuple[float, float] | None]:
    """A figure for print, and the place of its letter in shares of its square."""
    found = drawing(replace(shown, flipped=False, skin=Skin.MIDDLE))
    shapes = flat(found, side, shown.skin, flipped=shown.flipped)
    if not found.letter:
        return shapes, None
    x, y = found.letter[0] / found.units, found.letter[1] / found.units
    return shapes, (1 - x if (side is Side.RIGHT) != shown.flipped else x, y)


def _still(shown: Shown, *, small: bool) -> tuple[str, int, tuple[int, int] | None]:
    """What is inside of a still picture, its units, and the place of its letter."""
    if shown.view is None:
        return _still_of(shown, small=small)
    with _PEN:
        return _still_of(shown, small=small)


@lru_cache(maxsize=512)
def _still_of(shown: Shown, *, small: bool) -> tuple[str, int, tuple[int, int] | None]:
    if small and shown.view is None:
        inside, units, letter = json.loads(built(f"{shown.build}/{shown.key}.small"))
        return inside, units, (letter[0], letter[1]) if letter else None
    if shown.view is None:
        found = drawing(shown)
        return inside_svg(found), found.units, found.letter
    if small:
        return _small(seen_figure(shown), _marks()[shown.key], shown.build)
    found = drawing_of(picture_of(seen_figure(shown), _marks()[shown.key], shown.build))
    return inside_svg(found), found.units, found.letter


def _drawn(figure: Figure, marks: tuple[Mark, ...], build: Build) -> Drawing:
    return drawing_of(picture_of(figure, marks, build, moving=True))


def _small(figure: Figure, marks: tuple[Mark, ...], build: Build) -> tuple[str, int, tuple[int, int] | None]:
    """A picture for 96 px, as fine as it may be."""
    for coarse in _COARSER:
        found = drawing_of(picture_of(figure, marks, build, coarse=coarse), small=True)
        inside = inside_svg(found)
        svg = framed(inside, found.units, found.letter, Side.RIGHT)
        if len(with_style(svg, style_of(svg))) <= SMALL_BYTES:
            break
    return inside, found.units, found.letter


# ---- built ahead -------------------------------------------------------------------------------------------------


def _plain(found: Drawing) -> bytes:
    return json.dumps(found.plain(), separators=(",", ":")).encode()


@cache
def _archive() -> ZipFile:
    return ZipFile(BytesIO(_DATA.joinpath("figures.zip").read_bytes()))


@lru_cache(maxsize=512)
def built(name: str) -> bytes:
    """A file of the archive of drawings."""
    return _archive().read(name)


#: Modules that begin where a drawing is done.
_AFTER = ("flat", "__init__")


def _sources() -> Iterator[Path]:
    """The modules that a drawing depends on."""
    root = Path(str(files("extendum")))
    yield from sorted(root.joinpath("core", "figure").glob("*.py"))
    yield from sorted(path for path in root.joinpath("draw", "figures").glob("*.py") if path.stem not in _AFTER)


@cache
def _code() -> str:
    """What the modules do, whatever their comments say."""
    told = hashlib.sha256()
    for path in _sources():
        tree = ast.parse(path.read_text("utf-8"))
        for node in ast.walk(tree):
            body = getattr(node, "body", None)
            if isinstance(body, list) and body and isinstance(body[0], ast.Expr):
                body[0].value = ast.Constant("") if isinstance(body[0].value, ast.Constant) else body[0].value
        told.update(path.name.encode() + ast.dump(tree).encode())
    return told.hexdigest()


def digest(key: str) -> str:
    """What the drawing of a figure follows from: when it changes, the archive is stale."""
    told = f"{_code()}{shipped_figures()[key]!r}{_marks()[key]!r}"
    return hashlib.sha256(told.encode()).hexdigest()[:20]


@cache
def digests() -> dict[str, str]:
    """The digests of the archive's drawings, as they were when it was built."""
    found: dict[str, str] = json.loads(built("index.json"))
    return found


def stale() -> list[str]:
    """The figures whose drawings are not built, or older than what they follow from."""
    known = digests()
    return [key for key in shipped_figures() if known.get(key) != digest(key)]


def _made(key: str) -> dict[str, bytes]:
    """The files of a figure."""
    figure, marks = shipped_figures()[key], _marks()[key]
    found = {}
    for build in Build:
        found[f"{build}/{key}.json"] = _plain(_drawn(figure, marks, build))
        found[f"{build}/{key}.small"] = json.dumps(_small(figure, marks, build)).encode()
    return found


def build_all(path: Path) -> Iterator[str]:
    """Write the archive of drawings; what is not stale is taken over. Tells each figure that is drawn."""
    old = BytesIO(path.read_bytes()) if path.exists() else None
    kept: dict[str, bytes] = {}
    known: dict[str, str] = {}
    if old:
        with ZipFile(old) as archive:
            known = json.loads(archive.read("index.json"))
            names = [name for name in archive.namelist() if name != "index.json"]
            kept = {name: archive.read(name) for name in names}
    wanted = {key: digest(key) for key in shipped_figures()}
    todo = [key for key, one in wanted.items() if known.get(key) != one]
    with ProcessPoolExecutor() as pool:
        for key, made in zip(todo, pool.map(_made, todo), strict=True):
            kept |= made
            yield key
    with ZipFile(path, "w", ZIP_DEFLATED, compresslevel=9) as archive:
        kept = {name: content for name, content in kept.items() if Path(name).stem in wanted}
        for name, content in sorted({**kept, "index.json": json.dumps(wanted).encode()}.items()):
            archive.writestr(ZipInfo(name, (2026, 1, 1, 0, 0, 0)), content, ZIP_DEFLATED, 9)


def main() -> None:
    """Build the drawings that are stale into the archive that ships."""
    for key in build_all(Path(str(_DATA.joinpath("figures.zip")))):
        print(key, flush=True)


if __name__ == "__main__":
    main()
