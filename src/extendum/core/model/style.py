"""How a class is cued: a named set of settings. Three ship; a class carries its own copy."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache

from extendum.core.model.body import Side
from extendum.core.model.errors import RefusedError
from extendum.core.model.fields import Checked, Extra, extra, text, whole
from extendum.core.model.voice import Speech, Voice
from extendum.core.model.ways import WayWords

#: The slowest and the fastest rate of speaking, in words a minute.
RATES = 60, 300


class Countdown(StrEnum):
    """How the end of a hold or a timed move is counted."""

    FROM_5 = "5-1"
    FROM_3 = "3-2-1"
    TONE = "tone"
    NONE = "none"

    @property
    def first(self) -> int:
        """The number it starts from."""
        return {Countdown.FROM_5: 5, Countdown.FROM_3: 3, Countdown.TONE: 3}.get(self, 0)


class RepCount(StrEnum):
    """How reps and breaths are counted aloud: their numbers, how many are left, or counts inside each of them."""

    NONE = "not aloud"
    UP = "up"
    DOWN = "down"
    INSIDE = "inside each"


class TalkStyle(StrEnum):
    """How the class's own lines are worded: the half, the time left, what comes next, the last reps."""

    PLAIN = "plain"
    CALM = "calm"
    BRISK = "brisk"


class Teaching(StrEnum):
    """Whether the teacher moves as a mirror image of the class or on the same side."""

    MIRROR = "mirror"
    MATCH = "match"


class Facing(StrEnum):
    """How the teacher stands to the class. Turned side-on or away, a teacher is not a mirror image."""

    TOWARDS = "towards the class"
    SIDE_ON = "side-on"
    AWAY = "away from the class"


class HoldConvention(StrEnum):
    """How long static holds are in a class; a fit keeps to it, a teacher's own wish may go beyond."""

    OWN = "as each move says"
    REPEATED = "5 to 10 s, repeated"
    ONCE = "15 to 30 s"
    STEADY = "20 to 30 s"
    LONG = "30 to 60 s"

    @property
    def limits(self) -> tuple[int, int] | None:
        """Least and most seconds of a hold; None where each move has its own."""
        return _HOLDS.get(self)


_HOLDS = {
    HoldConvention.REPEATED: (5, 10),
    HoldConvention.ONCE: (15, 30),
    HoldConvention.STEADY: (20, 30),
    HoldConvention.LONG: (30, 60),
}


class SideNames(StrEnum):
    """How the sides are spoken: by name, by order, by place, or not at all."""

    LEFT_RIGHT = "left and right"
    FIRST_SECOND = "first and second"
    NEAR_FAR = "near and far"
    UNSPOKEN = "not spoken"


@dataclass(frozen=True, slots=True)
class CueStyle(Checked):
    """How the class is cued."""

    name: str = text(80, "Steady and spoken", shortest=1)
    words_per_minute: int = whole(*RATES, 165, "while speaking, without the silences")
    countdown: Countdown = Countdown.FROM_3
    count_reps: RepCount = RepCount.NONE
    last_calls: int = whole(0, 3, 0, "of the last reps or breaths")
    halfway: bool = True
    time_left: tuple[int, ...] = ()
    next_call: bool = True
    prompts: bool = True
    say_breaths: int = whole(0, 20, 0, "of the first breaths, in and out are spoken")
    breath_every_s: int = whole(0, 600, 0, "a reminder to breathe in holds; 0 for none")
    quiet_percent: int = whole(0, 100, 40, "of every hold that prompts leave without words")
    settle_s: int = whole(0, 30, 3)
    breath_in_ms: int = whole(500, 30_000, 4000, "with the out-breath: what a snapped hold snaps to")
    breath_out_ms: int = whole(500, 30_000, 6000)
    lead_side: Side = Side.LEFT
    side_names: SideNames = SideNames.LEFT_RIGHT
    teaching: Teaching = Teaching.MIRROR
    holds: HoldConvention = HoldConvention.OWN
    one_leg_most_s: int = whole(0, 600, 0, "of a hold on one leg in a fit; 0: no limit of its own")
    pace_percent: int = whole(50, 300, 100, "of the body seconds; the slowest person decides")
    way_words: tuple[WayWords, ...] = ()
    talk_style: TalkStyle = TalkStyle.PLAIN
    voice: Voice | None = None
    extra: Extra = extra()

    @property
    def speech(self) -> Speech:
        """What the length of its words follows from."""
        return Speech(self.words_per_minute, self.voice)

    def __post_init__(self) -> None:
        Checked.__post_init__(self)
        if self.lead_side is Side.BOTH:
            raise RefusedError("lead_side", "left or right", self.lead_side.value)
        if any(not 3 <= one <= 600 for one in self.time_left):
            raise RefusedError("time_left", "calls at 3 to 600 seconds before the end", str(self.time_left))

    @property
    def breath_ms(self) -> int:
        """One breath of the class's pace."""
        return self.breath_in_ms + self.breath_out_ms


SHIPPED = (
    CueStyle(),
    CueStyle(
        name="Quiet and breath-led",
        countdown=Countdown.TONE,
        halfway=False,
        next_call=False,
        say_breaths=2,
        quiet_percent=65,
        talk_style=TalkStyle.CALM,
    ),
    CueStyle(
        name="Brisk and counted",
        words_per_minute=180,
        countdown=Countdown.FROM_5,
        last_calls=2,
        time_left=(10,),
        quiet_percent=25,
        settle_s=2,
        talk_style=TalkStyle.BRISK,
    ),
)


@lru_cache(maxsize=256)
def cued_by(
    style: CueStyle,
    countdown: Countdown | None,
    side_names: SideNames | None,
    count_reps: RepCount | None,
    last_calls: int | None,
) -> CueStyle:
    """A style with what one item has otherwise: how it is counted, and how its sides are spoken."""
    return replace(
        style,
        countdown=countdown or style.countdown,
        side_names=side_names or style.side_names,
        count_reps=count_reps or style.count_reps,
        last_calls=style.last_calls if last_calls is None else last_calls,
    )


def spoken_side(side: Side, lead: Side, names: SideNames) -> str:
    """A side as the class hears it; empty where sides are not spoken."""
    if side is Side.BOTH:
        return "both" if names is SideNames.LEFT_RIGHT else ""
    pair = {
        SideNames.FIRST_SECOND: ("first", "second"),
        SideNames.NEAR_FAR: ("near", "far"),
        SideNames.UNSPOKEN: ("", ""),
    }.get(names)
    return side.value if pair is None else pair[side is not lead]


def teacher_side(side: Side, teaching: Teaching, facing: Facing) -> Side:
    """The side that the teacher moves: mirrored only when facing the class."""
    mirrored = teaching is Teaching.MIRROR and facing is Facing.TOWARDS
    return side.other if mirrored else side
