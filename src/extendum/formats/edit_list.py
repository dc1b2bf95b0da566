"""The kept takes as an edit decision list: plain text with time codes, which cutting programs read."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from extendum.core.run.takes import Take

#: Frames a second of cameras.
RATES = (24, 25, 30, 50, 60)


def edit_list(title: str, some: Sequence[Take], names: Mapping[str, str], offset_ms: int, rate: int) -> str:
    """Each kept take with its times in the camera's file and in the cut, one after the other, at a frame rate.

    Frames are rounded down at both ends, so that takes meet in the cut without a gap.
    """
    lines = [f"TITLE: {_plain(title)}", "FCM: NON-DROP FRAME", f"* FRAME RATE: {rate}", ""]
    at = 0
    kept = sorted((take for take in some if take.kept), key=lambda take: take.start_ms)
    for n, take in enumerate(kept, 1):
        first, last = _frames(take.start_ms + offset_ms, rate), _frames(take.end_ms + offset_ms, rate)
        codes = " ".join(_code(one, rate) for one in (first, last, at, at + last - first))
        lines.append(f"{n:03d}  CAMERA   AA/V  C        {codes}")
        side = f", {take.side}" if take.side else ""
        lines.append(f"* FROM CLIP NAME: {_plain(names.get(take.item, ''))}{side}, take {take.number}")
        at += last - first
    return "\n".join(lines) + "\n"


def _frames(ms: int, rate: int) -> int:
    return max(0, ms) * rate // 1000


def _code(frames: int, rate: int) -> str:
    seconds, rest = divmod(frames, rate)
    return f"{seconds // 3600:02d}:{seconds // 60 % 60:02d}:{seconds % 60:02d}:{rest:02d}"


def _plain(words: str) -> str:
    return " ".join(words.split())
