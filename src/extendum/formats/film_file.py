"""The film as a file: frames, guide, captions, chapters and a cover, packed as MP4 or WebM."""

from __future__ import annotations

import tempfile
from collections.abc import Callable, Iterator
from fractions import Fraction
from io import BytesIO
from pathlib import Path
from typing import Any

import av
from av.stream import Disposition

from extendum.core.model.errors import RefusedError
from extendum.core.model.script import Script
from extendum.core.model.timeline import Timeline
from extendum.core.moves.cautions import USUAL
from extendum.core.outputs.captions import Caption, captions, chapters
from extendum.core.outputs.cue_sheet import cue_sheet
from extendum.formats.film import Film, Kind, Paints, frame_ms, painter_of, video_frame
from extendum.formats.paper import USUAL_LOOK, Look
from extendum.formats.score import Known

Progress = Callable[[float], object]
#: Seconds between two pictures that a player can jump to.
KEY_S = 2
#: What keeps the memory of the packing small: it looks only a little ahead.
_SMALL = "rc-lookahead=4:ref=1:bframes=2:sync-lookahead=0"
#: Samples of one piece of sound.
_PIECE = 1024


# ---- the file ----------------------------------------------------------------------------------------------------


def write_film(
    script: Script,
    timeline: Timeline,
    path: Path,
    film: Film,
    sound: Path | None = None,
    look: Look = USUAL_LOOK,
    progress: Progress = lambda share: None,
    library: Known | None = None,
) -> None:
    """Write the film to a file, whole or not at all; ``sound``: the guide as a file, exactly as long as the class.

    RefusedError for a class with nothing in it.
    """
    if not timeline.segments:
        raise RefusedError("class", "something that is done or said, to make a film of it", "nothing")
    with tempfile.TemporaryDirectory(dir=path.parent, prefix=f".{path.name.lstrip('.')}.") as folder:
        beside = Path(folder) / f"film.{film.kind}"
        packed(painter_of(script, timeline, film, look, library), script, timeline, beside, film, sound, progress)
        beside.replace(path)


def packed(
    painter: Paints, script: Script, timeline: Timeline, path: Path, film: Film, sound: Path | None, progress: Progress
) -> None:
    """Pack what somebody paints."""
    frames = timeline.length_s * film.rate
    flags = {"movflags": "+faststart"} if film.kind is Kind.MP4 else {}
    with av.open(str(path), "w", format=str(film.kind), options=flags) as out:
        out.metadata.update({"title": script.title, "artist": film.author, "comment": USUAL})
        picture = _picture_stream(out, film)
        heard = _sound_stream(out, film) if sound else None
        texts = _caption_stream(out, film)
        cover = _cover_stream(out, film)
        out.set_chapters(_chapters(script, timeline))
        if cover is not None:
            out.mux(_cover(cover, painter))
        said = _caption_packets(texts, captions(timeline), film)
        samples = _samples(sound, heard) if sound and heard is not None else iter(())
        for n in range(frames):
            frame = video_frame(painter.frame(frame_ms(n, film.rate)), *film.pixels)
            frame.pts = n
            out.mux(picture.encode(frame))
            seconds = (n + 1) / film.rate
            for packets in _until(samples, seconds):
                out.mux(packets)
            for packet in _until(said, seconds):
                out.mux(packet)
            if n % film.rate == 0:
                progress(n / frames)
        out.mux(picture.encode(None))
        for _, packets in samples:
            out.mux(packets)
        for _, packet in said:
            out.mux(packet)
    progress(1.0)


def _picture_stream(out: av.container.OutputContainer, film: Film) -> Any:
    codec = "libx264" if film.kind is Kind.MP4 else "libvpx-vp9"
    stream: Any = out.add_stream(codec, rate=film.rate)
    stream.width, stream.height = film.pixels
    stream.pix_fmt = "yuv420p"
    stream.gop_size = KEY_S * film.rate
    context = stream.codec_context
    context.time_base = Fraction(1, film.rate)
    context.colorspace = context.color_primaries = context.color_trc = 1
    context.color_range = 1
    context.thread_count = 1  # on a busy machine more of them wait for each other
    if film.kind is Kind.MP4:
        stream.options = {
            "preset": "veryfast",
            "crf": "23",
            "x264-params": f"keyint={KEY_S * film.rate}:scenecut=0:{_SMALL}",
        }
    else:
        stream.options = {"deadline": "realtime", "cpu-used": "7", "crf": "34", "b:v": "0", "row-mt": "0"}
    return stream


def _sound_stream(out: av.container.OutputContainer, film: Film) -> Any:
    stream: Any = out.add_stream("aac" if film.kind is Kind.MP4 else "libopus", rate=48_000, layout="stereo")
    stream.bit_rate = 128_000 if film.kind is Kind.MP4 else 96_000
    stream.metadata["language"] = "eng"
    return stream


def _caption_stream(out: av.container.OutputContainer, film: Film) -> Any:
    stream: Any = out.add_stream("mov_text" if film.kind is Kind.MP4 else "webvtt")
    stream.codec_context.subtitle_header = _HEADER
    stream.time_base = stream.codec_context.time_base = _MS
    stream.metadata["language"] = "eng"
    return stream


#: What captions look like, where a player asks; texts are in lines of their own.
_HEADER = (
    b"[Script Info]\r\nScriptType: v4.00+\r\n\r\n[V4+ Styles]\r\nFormat: Name, Fontname, Fontsize\r\n"
    b"Style: Default,Arial,16\r\n\r\n[Events]\r\nFormat: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, "
    b"Effect, Text\r\n"
)
_MS = Fraction(1, 1000)


def _caption_packets(stream: Any, some: list[Caption], film: Film) -> Iterator[tuple[float, Any]]:
    """Each caption as a packet, with the second that it ends at."""
    for one in some:
        text = "\n".join(one.lines).encode()
        packet = av.Packet(len(text).to_bytes(2, "big") + text if film.kind is Kind.MP4 else text)
        packet.stream, packet.time_base = stream, _MS
        packet.pts = packet.dts = one.start_ms
        packet.duration = one.end_ms - one.start_ms
        packet.is_keyframe = True
        yield one.end_ms / 1000, packet


def _chapters(script: Script, timeline: Timeline) -> list[Any]:
    return [
        {
            "id": n,
            "start": one.start_s * 1000,
            "end": one.end_s * 1000,
            "time_base": _MS,
            "metadata": {"title": one.title},
        }
        for n, one in enumerate(chapters(cue_sheet(script, timeline)))
    ]


def _cover_stream(out: av.container.OutputContainer, film: Film) -> Any:
    """Where a file can have a picture of what is in it: WebM cannot."""
    if film.kind is Kind.WEBM:
        return None
    stream: Any = out.add_stream("mjpeg", rate=1)
    stream.width, stream.height = film.pixels
    stream.pix_fmt = "yuvj420p"
    stream.disposition = Disposition.attached_pic
    return stream


def _cover(stream: Any, painter: Paints) -> Any:
    jpeg = BytesIO()
    painter.cover().save(jpeg, "JPEG", quality=88)
    packet = av.Packet(jpeg.getvalue())
    packet.stream, packet.pts, packet.dts = stream, 0, 0
    packet.is_keyframe = True
    return packet


def _samples(sound: Path, stream: Any) -> Iterator[tuple[float, list[Any]]]:
    """The guide in packets, each with the second that it begins at."""
    resample = av.AudioResampler(stream.codec_context.format, "stereo", 48_000, frame_size=_PIECE)
    at = 0
    with av.open(str(sound)) as source:
        for frame in source.decode(audio=0):
            frame.pts = None
            for piece in resample.resample(frame):
                piece.pts, piece.time_base = at, Fraction(1, 48_000)
                at += piece.samples
                yield at / 48_000, stream.encode(piece)
    for piece in resample.resample(None):
        piece.pts, piece.time_base = at, Fraction(1, 48_000)
        at += piece.samples
        yield at / 48_000, stream.encode(piece)
    yield at / 48_000, stream.encode(None)


def _until(some: Iterator[tuple[float, Any]], seconds: float) -> Iterator[Any]:
    """What comes before a second; one piece may be ahead."""
    for at, one in some:
        yield one
        if at >= seconds:
            return
