"""Cautions as they are spoken: what moves are usually cautioned for, and the lines that say so.

The usual cautions of the field; local rules, the venue's procedures and licensed practice come first.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import lru_cache

from extendum.core.listening.conditions import gives_advice, names_condition
from extendum.core.model.audience import Condition
from extendum.core.model.body import FLOOR, Posture, Region
from extendum.core.model.move import Bearing, Caution, Kind, Move

#: What every class is told once at the start.
USUAL = (
    "Nothing should hurt. Stay with mild tension, never sharp pain, numbness or tingling. "
    "Keep breathing, and stop and rest whenever something feels wrong."
)
#: What is added where somebody in the group has something.
ASK_FIRST = (
    "If you have an injury, recent surgery or a condition, ask your doctor or physiotherapist what is right for you."
)
#: What stands wherever something is said about care.
SCOPE = (
    "Finding nothing does not mean that a class is safe for anybody. Local rules, your venue's procedures and your own "
    "qualification come first."
)
SLOW_RISE = "Come up slowly, your head last."
UP_FROM_FLOOR = "Get up slowly, and hold on to something if you like."
SUPPORT = "Keep a hand on the chair or the wall."

_IF: dict[str, str] = {
    Condition.BALANCE: "If your balance is poor",
    Condition.BLOOD_PRESSURE: "With high blood pressure",
    Condition.BLOOD_THINNERS: "With blood thinners or fragile bones",
    Condition.BREATH: "If you are short of breath or have heart trouble",
    Condition.DIZZINESS: "If you get dizzy",
    Condition.GLAUCOMA: "With glaucoma",
    Condition.HIP_REPLACEMENT: "With a new hip",
    Condition.HYPERMOBILITY: "If you are very flexible",
    Condition.JAW: "If your jaw hurts or clicks",
    Condition.KNEES: "With sore or new knees",
    Condition.LOW_BACK: "If your lower back hurts",
    Condition.NECK: "If your neck is sore, or moving it makes you dizzy",
    Condition.NERVES: "If you have tingling or nerve pain",
    Condition.OSTEOPOROSIS: "With osteoporosis",
    Condition.PREGNANCY: "Later in pregnancy",
    Condition.SHOULDERS: "If your shoulders are sore",
    Condition.WRISTS: "With sore wrists",
}

#: Which moves the field usually cautions for what.
ABOUT: tuple[tuple[Condition, Callable[[Move], bool], str], ...] = (
    (
        Condition.KNEES,
        lambda m: (
            m.posture in (Posture.KNEELING, Posture.HALF_KNEELING, Posture.ALL_FOURS, Posture.HEELS)
            or m.posture is Posture.DEEP_SQUAT
            or Bearing.KNEES in m.weight_on
        ),
        "Fold your mat in two, or do it on a chair.",
    ),
    (Condition.WRISTS, lambda m: Bearing.WRISTS in m.weight_on, "Come down onto your forearms."),
    (
        Condition.PREGNANCY,
        lambda m: m.posture in (Posture.PRONE, Posture.SUPINE),
        "Do it sitting or lying on your side instead.",
    ),
    (Condition.BALANCE, lambda m: m.posture is Posture.ONE_LEG, "Hold on, or sit down for it."),
    (Condition.BLOOD_THINNERS, lambda m: m.kind is Kind.PRESSING, "Leave it out."),
    (Condition.GLAUCOMA, lambda m: m.posture is Posture.FORWARD_FOLD, "Keep your head above your hips."),
    (Condition.BLOOD_PRESSURE, lambda m: m.posture is Posture.FORWARD_FOLD, "Keep your head above your hips."),
    (Condition.BREATH, lambda m: m.kind is Kind.PULSE_RAISER, "Go slower, and rest whenever you like."),
    (
        Condition.NERVES,
        lambda m: Region.BACK_THIGH in m.main_regions and any(p.name == "strap" for p in m.props),
        "Let your foot relax, and stop if it tingles.",
    ),
)


def lacking(move: Move) -> tuple[Caution, ...]:
    """The usual cautions that a move does not carry."""
    about = [(condition.value, advice) for condition, applies, advice in ABOUT if applies(move)]
    if not about:
        return ()
    has = {caution.condition for caution in move.cautions}
    return tuple(Caution(condition, advice) for condition, advice in about if condition not in has)


def spoken(caution: Caution) -> str:
    """A caution as a line to say: ``With osteoporosis, keep to the small middle range.``"""
    lead = _IF.get(caution.condition) or f"With {caution.condition}"
    advice = caution.advice or "Leave it out."
    return f"{lead}, {advice[:1].lower()}{advice[1:]}"


@lru_cache(maxsize=8192)
def is_spoken(caution: Caution, words: str) -> bool:
    """Whether words name the condition of a caution, or give its advice."""
    return names_condition(caution.condition, words) or gives_advice(caution.advice, words)


def start_line(conditions: Iterable[str]) -> str:
    """What a class is told at the start; where somebody has something, also to ask a professional first."""
    return f"{USUAL} {ASK_FIRST}" if tuple(conditions) else USUAL


def rises(before: Posture, after: Posture) -> bool:
    """Whether people come up from the floor, or from a fold with the head low."""
    if before is Posture.FORWARD_FOLD:
        return after is not Posture.FORWARD_FOLD and after not in FLOOR
    return before in FLOOR and after not in FLOOR
