"""Films: a frame follows from its time alone, counts are those of the timeline, sound and picture meet."""

from dataclasses import replace
from fractions import Fraction

import av
import numpy as np
import pytest
import soundfile
from PIL import Image

from extendum.core.model.errors import RefusedError
from extendum.core.model.section import Group, Section
from extendum.core.model.words import Words
from extendum.core.outputs.captions import captions, chapters
from extendum.core.outputs.cue_sheet import cue_sheet
from extendum.core.timing.compile import compile_script
from extendum.draw.film.paint import planes
from extendum.formats.document import loads
from extendum.formats.film import SIZES, Film, frame_ms, painter_of, still
from extendum.formats.film_file import packed, write_film
from extendum.formats.publishing import thumbnail
from tests.formats.test_playing_page import DEMO

RATE = 48_000
DIGGING = loads(DEMO.joinpath("after-digging.json").read_bytes())


def small(script):
    """One move of it, a few seconds long, in a picture that is quickly packed."""
    first = script.moves()[5]
    item = replace(
        first.having(first.quantity.wanting(4)), words=Words(short="Lean.", moving="Lean forward.", release="Rest.")
    )
    group = Group("g", items=(item,))
    return replace(script, sections=(Section("s", "Legs", groups=(group,)),), meanwhiles=(), kept=())


SHORT = small(DIGGING)


@pytest.fixture(scope="module", autouse=True)
def _smaller():
    """The usual size with half the width: what is tested of it does not depend on it."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setitem(SIZES, "720", (640, 360))
        yield


@pytest.fixture(scope="module")
def made(tmp_path_factory):
    """A small class as a film with a guide of silence."""
    timeline, folder = compile_script(SHORT), tmp_path_factory.mktemp("film")
    sound = folder / "guide.wav"
    soundfile.write(sound, np.zeros((timeline.length_s * RATE, 2), np.float32), RATE, "PCM_16")
    shares = []
    write_film(SHORT, timeline, folder / "film.mp4", Film(author="Ana"), sound, progress=shares.append)
    return SHORT, timeline, folder / "film.mp4", shares


@pytest.mark.parametrize(("size", "dark"), [("720", False), ("1080", True), ("upright", False)])
def test_a_frame_that_is_asked_for_alone_is_the_frame_of_the_film(size, dark):
    film = Film(size=size, dark=dark)
    timeline = compile_script(DIGGING)
    running, rng = painter_of(DIGGING, timeline, film), np.random.default_rng(3)
    for ms in sorted(rng.integers(0, timeline.length_s * 1000, 4).tolist()):
        for before in (80, 40, 0):
            seen = running.frame(max(0, ms - before))
        alone = painter_of(DIGGING, timeline, film).frame(ms)
        assert all(np.array_equal(one, other) for one, other in zip(seen, alone, strict=True))
        assert alone[0].shape == film.pixels[::-1]


def test_the_file_is_as_long_as_the_class_and_has_its_captions_chapters_and_cover(made):
    script, timeline, path, shares = made
    with av.open(str(path)) as film:
        picture, sound = film.streams.video[0], film.streams.audio[0]
        assert (picture.codec_context.name, sound.codec_context.name) == ("h264", "aac")
        assert picture.frames == timeline.length_s * 25
        assert abs(float(film.duration / 1_000_000) - timeline.length_s) <= 1 / 25
        assert film.metadata["title"] == script.title and film.metadata["artist"] == "Ana"
        told = [(one["start"] * one["time_base"], one["metadata"]["title"]) for one in film.chapters()]
        assert told == [(one.start_s, one.title) for one in chapters(cue_sheet(script, timeline))]
        assert len(film.streams.video) == 2 and "attached_pic" in film.streams.video[1].disposition.name
        texts = film.streams.subtitles[0]
        found = [bytes(packet) for packet in film.demux(texts) if packet.size > 2]
        wanted = ["\n".join(one.lines) for one in captions(timeline)]
        assert [one[2 : 2 + int.from_bytes(one[:2], "big")].decode() for one in found] == wanted
    assert shares == sorted(shares) and shares[-1] == 1.0


def test_every_count_is_that_of_the_timeline_and_a_player_can_jump(made):
    script, timeline, path, _ = made
    painter = painter_of(script, timeline, Film())
    place, rng = painter.places.count, np.random.default_rng(5)
    with av.open(str(path)) as film:
        stream = film.streams.video[0]
        keys = [packet.pts * packet.time_base for packet in film.demux(stream) if packet.is_keyframe]
        assert np.diff([float(key) for key in keys]).max() <= 2.0
        shown = (painter.title_ms // 40, painter.end_ms // 40)  # between the cards
        for n in sorted(rng.integers(*shown, 12).tolist()):
            film.seek(int(n / 25 / stream.time_base), stream=stream)
            frame = next(one for one in film.decode(stream) if one.pts * stream.time_base >= Fraction(n, 25))
            box = frame.to_ndarray(format="yuv420p")[place.y : place.y + place.tall, place.x : place.right].astype(int)
            drawn = {
                text: painter.frame(at)[0][place.y : place.y + place.tall, place.x : place.right].astype(int)
                for text, at in _counts(painter, timeline, frame_ms(n, 25)).items()
            }
            nearest = min(drawn, key=lambda text: np.abs(drawn[text] - box).mean())
            assert nearest == _count(painter, frame_ms(n, 25))


def _count(painter, ms):
    seen = painter.watched.at(ms)
    return f"{seen.nth or seen.left_s} {seen.works}"


def _counts(painter, timeline, ms):
    """Moments with other counts around one, by what they show."""
    around = range(max(0, ms - 5000), min(timeline.length_s * 1000, ms + 5000), 250)
    return {_count(painter, at): at for at in around} | {_count(painter, ms): ms}


class Flashing:
    """Paints black, and white for a fifth of a second from each whole two seconds on."""

    def __init__(self, film):
        wide, tall = film.pixels
        self.black, self.white = (planes(np.full((tall, wide, 3), tone, np.uint8)) for tone in (0, 255))

    def frame(self, ms):
        return self.white if ms % 2000 < 200 else self.black

    def cover(self):
        return Image.new("RGB", (640, 360))


@pytest.mark.parametrize("kind", ["mp4", "webm"])
def test_a_flash_and_a_click_are_seen_and_heard_together(tmp_path, kind):
    timeline = compile_script(SHORT)
    heard = np.zeros((timeline.length_s * RATE, 2), np.float32)
    for second in range(0, timeline.length_s, 2):
        heard[second * RATE : second * RATE + 400] = 0.8 * np.sin(np.arange(400) * 0.3)[:, None]
    soundfile.write(tmp_path / "clicks.wav", heard, RATE, "PCM_16")
    film = Film(kind=kind)
    packed(Flashing(film), SHORT, timeline, tmp_path / "f", film, tmp_path / "clicks.wav", lambda share: None)
    with av.open(str(tmp_path / "f")) as told:
        flashes, before = [], 0.0
        for frame in told.decode(video=0):
            bright = frame.to_ndarray(format="gray")[::40, ::40].mean()
            if bright > 128 > before:
                flashes.append(float(frame.time))
            before = bright
    clicks, at = [], 0.0
    with av.open(str(tmp_path / "f")) as told:
        for frame in told.decode(audio=0):
            loud = np.abs(frame.to_ndarray()).max(axis=0)
            for place in np.flatnonzero(loud > 0.3 * (1 if loud.dtype.kind == "f" else 32767)):
                second = float(frame.time) + place / RATE
                if second - at > 1 or not clicks:
                    clicks.append(second)
                at = second
    assert len(flashes) == len(clicks) == -(-timeline.length_s // 2)
    assert max(abs(one - other) for one, other in zip(flashes, clicks, strict=True)) < 0.04


def test_what_stops_in_the_middle_leaves_no_file(tmp_path):
    class StoppedError(Exception):
        pass

    def stop(share):
        if share > 0:
            raise StoppedError

    with pytest.raises(StoppedError):
        write_film(SHORT, compile_script(SHORT), tmp_path / "film.mp4", Film(), progress=stop)
    assert list(tmp_path.iterdir()) == []
    for wrong in ({"size": "4000"}, {"rate": 24}, {"kind": "avi"}):
        with pytest.raises((RefusedError, ValueError)):
            Film(**wrong)


def test_a_class_with_nothing_in_it_has_a_thumbnail_and_no_film(tmp_path):
    nothing = replace(DIGGING, sections=(), meanwhiles=(), kept=())
    with pytest.raises(RefusedError, match="something that is done or said"):
        write_film(nothing, compile_script(nothing), tmp_path / "film.mp4", Film())
    assert thumbnail(nothing, compile_script(nothing))[1:4] == b"PNG" and not list(tmp_path.iterdir())


def test_the_cards_tell_the_class_and_its_caution_and_what_is_done():
    timeline = compile_script(DIGGING)
    painter = painter_of(DIGGING, timeline, Film())
    assert painter.told.title == "After the digging"
    assert "never sharp pain" in painter.told.care and "leave that move out" in painter.told.after
    assert painter.told.needs == ("wall", "chair")
    first, last = still(painter, 0, 640, 360), still(painter, timeline.length_s * 1000 - 1, 640, 360)
    assert first.size == last.size and np.abs(np.asarray(first, int) - np.asarray(last, int)).mean() > 5
