"""The settings of a class as the Desk's drawer shows them: each with what it does, by an example."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from extendum.core.model.brief import Priority
from extendum.core.model.script import Script
from extendum.core.model.style import (
    Countdown,
    CueStyle,
    HoldConvention,
    RepCount,
    SideNames,
    TalkStyle,
    Teaching,
)
from extendum.core.model.timeline import CueKind
from extendum.core.timing.lines import Lines
from extendum.core.timing.speech import ceil_s, speaking_ms
from extendum.web.shared.forms import options

#: A line as it is said, to hear how fast it would be.
_LINE = "Hands to the wall, and step your left foot back."


def _counted_down(countdown: Countdown) -> str:
    return ", ".join(str(n) for n in range(countdown.first, 0, -1))


def effects_of(style: CueStyle, priority: Priority = Priority.EVEN) -> dict[str, str]:
    """What each setting does, by an example."""
    first, own = style.lead_side, style.lead_side.other
    minute = 60_000 / max(1, style.breath_in_ms + style.breath_out_ms)
    counted = {
        Countdown.NONE: "They hear the release, and no count.",
        Countdown.TONE: "A short tone in each of the last seconds.",
    }
    gives = {
        Priority.MOVES: "Every move stays. Holds become shorter, down to their least.",
        Priority.HOLDS: "Holds stay as they are wanted. What may go is left out.",
    }
    mirror = f"You move your {own} side as they move their {first} one. The Stage tells you both."
    calls = Lines(style.talk_style)
    return {
        "lead": f"{first.value.capitalize()} first, then {own}, in every move that has sides.",
        "teaching": mirror if style.teaching is Teaching.MIRROR else f"You move your {first} side as they do.",
        "countdown": counted.get(style.countdown, f"You say “{_counted_down(style.countdown)}” before a hold ends."),
        "words_per_minute": f"“{_LINE}” takes {speaking_ms(_LINE, style.speech) / 1000:.1f} s.",
        "settle_s": f"Everybody arrives for {style.settle_s} s. Then the seconds of the hold begin.",
        "pace_percent": f"A way of 8 s takes {ceil_s(80 * style.pace_percent)} s.",
        "priority": gives.get(priority, "Holds give a little first, then what may go is left out."),
        "holds": "A fit keeps every hold to this, inside the move’s own limits.",
        "talk_style": f"“{calls.say(CueKind.HALFWAY)}” “{calls.last(1)}”",
        "breath_out_ms": f"{minute:.1f} breaths a minute.",
    }


def settings_of(script: Script, styles: Sequence[CueStyle]) -> dict[str, Any]:
    """What the drawer of the class settings shows: each setting with what it does."""
    style, priority = script.style, script.brief.priority
    shown = effects_of(style, priority)

    def number(name: str, key: str, label: str, value: object, mode: str = "numeric", hint: str = "") -> dict[str, Any]:
        told = {"name": name, "id": f"set-{key}", "label": label, "value": value, "mode": mode, "hint": hint}
        return told | {"effect": shown.get(name, "")}

    def choice(name: str, key: str, label: str, some: list[tuple[str, bool]]) -> dict[str, Any]:
        return {"name": name, "id": f"set-{key}", "label": label, "options": some, "effect": shown.get(name, "")}

    return {
        "kind": "class",
        "style": style,
        "shown": shown,
        "styles": [(one.name, one.name == style.name) for one in styles],
        "countdowns": options(Countdown, style.countdown),
        "teachings": options(Teaching, style.teaching),
        "numbers": [
            number("words_per_minute", "wpm", "Words a minute, while speaking", style.words_per_minute),
            number("settle_s", "settle", "Settle before a hold, s", style.settle_s),
            number("pace_percent", "pace", "Pace of the slowest, % of the moving time", style.pace_percent),
            number("breath_in_ms", "in", "Breath in, s", f"{style.breath_in_ms / 1000:g}", "decimal"),
            number("breath_out_ms", "out", "Breath out, s", f"{style.breath_out_ms / 1000:g}", "decimal"),
            number("quiet_percent", "quiet", "Quiet in every hold, at least %", style.quiet_percent),
            number("breath_every_s", "every", "Remind to breathe every, s; 0 never", style.breath_every_s),
            number("say_breaths", "say", "Say in and out for the first breaths", style.say_breaths),
            number("last_calls", "last", "Call the last reps or breaths", style.last_calls),
            number(
                "time_left",
                "time-left",
                "Time-left calls, s before the end",
                _listed(style.time_left),
                "text",
                "30, 10",
            ),
        ],
        "choices": [
            choice("priority", "priority", "If it has to be shorter", options(Priority, priority)),
            choice("holds", "holds", "Holds in a fit", options(HoldConvention, style.holds)),
            choice("talk_style", "talk-style", "Style of the calls", options(TalkStyle, style.talk_style)),
            choice("count_reps", "count-reps", "Count reps and breaths aloud", options(RepCount, style.count_reps)),
            choice("side_names", "names", "Sides are spoken as", options(SideNames, style.side_names)),
        ],
    }


def _listed(some: Sequence[int]) -> str:
    return ", ".join(map(str, some))
