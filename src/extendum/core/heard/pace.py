"""The pace of a class: in a slow one all silence is longer, in a brisk one all of it is shorter.

How long parts last was counted in classes of a usual pace. So the parts of a recording are looked for in even time, in
which each silence lasts as long as it would at that pace, and told in real time.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from extendum.core.heard.said import Word
from extendum.core.heard.states import Floats, Part, Places

#: Seconds of silence for each one spoken, in the middle of the classes that were counted.
USUAL = 0.37
#: How much the silence of another class is drawn to it (0 to 1), and the most that it becomes longer or shorter.
EVENED, MOST = 0.5, 4.0


@dataclass(frozen=True)
class Pace:
    """Real and even time of one recording: the same moments in both, in seconds."""

    real: Floats
    even: Floats

    def evened(self, seconds: Floats) -> Floats:
        """Times in even time."""
        found: Floats = np.interp(seconds, self.real, self.even)
        return found

    def places(self, places: Places) -> Places:
        """Places in even time."""
        return replace(places, begins=self.evened(places.begins), ended=self.evened(places.ended))

    def parts(self, parts: Sequence[Part]) -> list[Part]:
        """Parts that were found in even time, in real time."""
        times = np.interp([[part.start, part.end] for part in parts], self.even, self.real).tolist()
        return [replace(part, start=start, end=end) for part, (start, end) in zip(parts, times, strict=True)]


def pace_of(words: Sequence[Word], length: float) -> Pace:
    """The pace of a recording, from the silence between its words; what comes before the first one stays."""
    at = np.array([*(word.at for word in words), length])
    until = np.minimum([word.until for word in words], at[1:])
    real = np.concatenate(([0.0], np.ravel(np.column_stack((at[:-1], until))), [length]))
    lasts = np.diff(real)
    silence = lasts[2::2]
    share = max(1e-3, float(silence.sum())) / max(1e-3, float(lasts[1::2].sum()))
    silence *= float(np.clip((USUAL / share) ** EVENED, 1 / MOST, MOST))
    return Pace(real, np.concatenate(([0.0], np.cumsum(lasts))))
