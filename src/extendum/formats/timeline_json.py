"""The timeline as plain values, for the command line and for the screens that play it."""

from __future__ import annotations

from typing import Any

from extendum.core.model.timeline import Segment, Timeline


def timeline_plain(timeline: Timeline) -> dict[str, Any]:
    """The timeline as plain values: segments in whole seconds, cues in seconds to three decimals."""
    return {
        "length": timeline.length_s,
        "segments": [_segment(s) for s in timeline.segments],
        "cues": [
            {
                "id": c.id,
                "kind": c.kind.value,
                "start": c.start_ms / 1000,
                "end": c.end_ms / 1000,
                "text": c.text,
                "segment": c.segment,
                "mode": c.mode.value,
                "anchor": c.anchor.value,
                "offset": c.offset_ms,
                "key": c.key,
            }
            for c in timeline.cues
        ],
        "unsaid": [{"id": u.id, "kind": u.kind.value, "text": u.text, "rule": u.rule} for u in timeline.unsaid],
        "underlays": [_segment(s) for s in timeline.underlays],
    }


def _segment(s: Segment) -> dict[str, Any]:
    return {
        "id": s.id,
        "kind": s.kind.value,
        "start": s.start_s,
        "end": s.end_s,
        "item": s.item,
        "stage": s.stage,
        "side": s.side.value if s.side else None,
        "round": s.round,
        "direction": s.direction,
        "reason": s.reason,
    }
