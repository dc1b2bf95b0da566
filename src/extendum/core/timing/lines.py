"""What is said of the class itself, in its talk_style: the half, the time that is left, what comes next, the last reps.

The lines of a kind are said in turn, so that where there are several none is said twice running.
"""

from __future__ import annotations

from collections import Counter

from extendum.core.listening.spelled import number_words
from extendum.core.model.placeholders import fill
from extendum.core.model.style import TalkStyle
from extendum.core.model.timeline import CueKind

_LINES: dict[TalkStyle, dict[CueKind, tuple[str, ...]]] = {
    TalkStyle.PLAIN: {
        CueKind.NEXT: ("Next, {next}.",),
        CueKind.HALFWAY: ("Halfway.",),
        CueKind.TIME_LEFT: ("{seconds} more seconds.",),
        CueKind.KEEP_BREATHING: ("Keep breathing.",),
        CueKind.LAST: ("Last one.",),
    },
    TalkStyle.CALM: {
        CueKind.NEXT: ("Soon we'll come to {next}.", "In a moment, {next}."),
        CueKind.HALFWAY: ("Halfway. Soften your shoulders.", "You're halfway. Let it be easy."),
        CueKind.TIME_LEFT: ("{seconds} more seconds. Stay soft.", "{seconds} seconds to rest here."),
        CueKind.KEEP_BREATHING: (
            "Let your breath come and go.",
            "Soften a little as you breathe out.",
            "Notice your next breath out.",
        ),
        CueKind.LAST: ("One more, nice and slow.", "And a last one, with ease."),
    },
    TalkStyle.BRISK: {
        CueKind.NEXT: ("Up next, {next}.", "After this, {next}."),
        CueKind.HALFWAY: ("Halfway. Stay steady.", "That's half."),
        CueKind.TIME_LEFT: ("{seconds} seconds to go.", "Last {seconds} seconds."),
        CueKind.KEEP_BREATHING: ("Keep breathing.", "Breathe in, breathe out."),
        CueKind.LAST: ("Last one. Make it smooth.", "One more and you're done."),
    },
}


class Lines:
    """Which line of a kind comes next, in the order of the class."""

    def __init__(self, talk_style: TalkStyle = TalkStyle.PLAIN) -> None:
        self._of, self._said = _LINES[talk_style], Counter[CueKind]()

    def say(self, kind: CueKind, **values: str) -> str:
        """The next line of a kind, filled with what it speaks of."""
        lines = self._of[kind]
        self._said[kind] += 1
        return fill(lines[(self._said[kind] - 1) % len(lines)], values)

    def last(self, left: int) -> str:
        """The call before so many last reps."""
        return self.say(CueKind.LAST) if left == 1 else f"{number_words(left).capitalize()} more."
