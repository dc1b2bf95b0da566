"""What a glance should tell about a class: sides, talk, quiet, getting up and down."""

from __future__ import annotations

from dataclasses import dataclass

from extendum.core.model.body import FLOOR, Side
from extendum.core.model.script import Script
from extendum.core.model.timeline import Mode, Timeline


@dataclass(frozen=True, slots=True)
class Summary:
    """Seconds worked per side, spoken share in percent, the longest quiet, and changes of level and props."""

    moves: int
    left_s: int
    right_s: int
    both_s: int
    talk_percent: int
    longest_quiet_s: int
    floor_changes: int
    unsaid: int

    @property
    def sides_equal(self) -> bool:
        """Whether both sides are worked equally long."""
        return self.left_s == self.right_s


def summarise(script: Script, timeline: Timeline) -> Summary:
    """The summary of a compiled class."""
    worked = dict.fromkeys(Side, 0)
    for segment in timeline.segments:
        if segment.kind.works and segment.side:
            worked[segment.side] += segment.seconds
    spoken_ms, quiet_ms, at = 0, 0, 0
    for cue in timeline.cues:
        if cue.mode is Mode.SPOKEN:
            spoken_ms += cue.end_ms - cue.start_ms
            quiet_ms = max(quiet_ms, cue.start_ms - at)
            at = max(at, cue.end_ms)
    quiet_ms = max(quiet_ms, timeline.length_s * 1000 - at)
    low, changes = script.start_posture in FLOOR, 0
    for item in script.moves():
        for posture in (item.move.posture, item.move.ends_in):
            if (posture in FLOOR) != low:
                low = not low
                changes += 1
    return Summary(
        moves=len(script.moves()),
        left_s=worked[Side.LEFT],
        right_s=worked[Side.RIGHT],
        both_s=worked[Side.BOTH],
        talk_percent=round(100 * spoken_ms / (timeline.length_s * 1000)) if timeline.length_s else 0,
        longest_quiet_s=quiet_ms // 1000,
        floor_changes=changes,
        unsaid=len(timeline.unsaid),
    )
