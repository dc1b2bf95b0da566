"""A film measured: `make bench-film` makes that of a demo class and of a class of clicks, and looks into both.

Seconds and memory of the whole command; then from the file: length, every shown count, sound against picture, jumps.
"""

from __future__ import annotations

import resource
import subprocess
import sys
import tempfile
import time
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import soundfile

from extendum.core.timing.compile import compile_script
from extendum.draw.film.layout import Place
from extendum.draw.film.paint import planes
from extendum.draw.film.painter import Painter
from extendum.draw.film.pen import Pixels
from extendum.formats.document import loads
from extendum.formats.film import Film, frame_ms, painter_of
from extendum.formats.film_file import packed

DEMO = Path("src/extendum/data/demo/after-digging.json")
MOMENTS, RATE, SOUND = 200, 25, 48_000


def made(path: Path) -> None:
    """The whole command, as somebody would give it."""
    began = time.perf_counter()
    subprocess.run([sys.executable, "-m", "extendum.cli", "film", str(DEMO), "-o", str(path)], check=True)  # noqa: S603
    seconds = time.perf_counter() - began
    memory, size = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024, path.stat().st_size / 1e6
    print(f"12 minutes at 1280x720, 25 frames: {seconds:.0f} s, {memory:.0f} MB of memory, {size:.1f} MB of file")


def read(path: Path) -> None:
    """Length, counts and places to jump to."""
    script = loads(DEMO.read_bytes())
    timeline = compile_script(script)
    painter = painter_of(script, timeline, Film())
    place, rng = painter.places.count, np.random.default_rng(31)
    with av.open(str(path)) as film:
        stream = film.streams.video[0]
        print(f"length {float(stream.duration * stream.time_base):.3f} s of {timeline.length_s} s")
        keys = [float(one.pts * one.time_base) for one in film.demux(stream) if one.is_keyframe]
        print(f"{len(keys)} pictures to jump to, {np.diff(keys).max():.2f} s apart at the most")
        right, between = 0, (painter.title_ms * RATE // 1000, painter.end_ms * RATE // 1000)
        for n in sorted(rng.integers(*between, MOMENTS).tolist()):
            film.seek(int(n / RATE / stream.time_base), stream=stream)
            frame = next(one for one in film.decode(stream) if one.pts * stream.time_base >= Fraction(n, RATE))
            box, ms = _cut(frame.to_ndarray(format="yuv420p"), place), frame_ms(n, RATE)
            off = {k: np.abs(_cut(painter.frame(at)[0], place) - box).mean() for k, at in _around(painter, ms).items()}
            right += min(off, key=lambda one: float(off[one])) == _count(painter, ms)
        print(f"{right} of {MOMENTS} counts read back from the film are those of the timeline")


def _cut(bright: Pixels, place: Place) -> np.ndarray:
    return bright[place.y : place.y + place.tall, place.x : place.right].astype(int)


def _count(painter: Painter, ms: int) -> str:
    seen = painter.watched.at(ms)
    return f"{seen.nth or seen.left_s} {seen.works}"


def _around(painter: Painter, ms: int) -> dict[str, int]:
    """Moments around one, by the counts that they show."""
    around = range(max(painter.title_ms, ms - 6000), min(painter.end_ms, ms + 6000), 250)
    return {_count(painter, at): at for at in around} | {_count(painter, ms): ms}


class Flashing:
    """White for a fifth of a second from each whole minute on."""

    def __init__(self, painter: Painter, film: Film) -> None:
        self.black, self.white = (planes(np.full((*film.pixels[::-1], 3), tone, np.uint8)) for tone in (0, 255))
        self.cover = painter.cover

    def frame(self, ms: int) -> tuple[Pixels, Pixels, Pixels]:
        """Black or white."""
        return self.white if ms % 60_000 < 200 else self.black


def clapped(folder: Path) -> None:
    """How far a click is from its flash, minute by minute."""
    script = loads(DEMO.read_bytes())
    timeline = compile_script(script)
    heard = np.zeros((timeline.length_s * SOUND, 2), np.float32)
    for second in range(0, timeline.length_s, 60):
        heard[second * SOUND : second * SOUND + 400] = 0.8 * np.sin(np.arange(400) * 0.3)[:, None]
    soundfile.write(folder / "clicks.wav", heard, SOUND, "PCM_16")
    flashing = Flashing(painter_of(script, timeline, Film()), Film())
    packed(flashing, script, timeline, folder / "f.mp4", Film(), folder / "clicks.wav", lambda share: None)
    flashes, clicks = _flashes(folder / "f.mp4"), _clicks(folder / "f.mp4")
    off = max(abs(one - other) for one, other in zip(flashes, clicks, strict=True))
    print(f"{len(flashes)} flashes and clicks, {1000 * off:.0f} ms apart at the most")


def _flashes(path: Path) -> list[float]:
    found, before = [], 0.0
    with av.open(str(path)) as film:
        for frame in film.decode(video=0):
            bright = float(frame.to_ndarray(format="yuv420p")[:720:40, ::40].mean())
            if bright > 128 > before:
                found.append(float(frame.time))
            before = bright
    return found


def _clicks(path: Path) -> list[float]:
    found: list[float] = []
    with av.open(str(path)) as film:
        for frame in film.decode(audio=0):
            for place in np.flatnonzero(np.abs(frame.to_ndarray()).max(axis=0) > 0.3)[:1]:
                second = float(frame.time) + place / SOUND
                if not found or second - found[-1] > 1:
                    found.append(second)
    return found


def main() -> int:
    """All of it."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "class.mp4"
        made(path)
        read(path)
        clapped(Path(folder))
    return 0


if __name__ == "__main__":
    sys.exit(main())
