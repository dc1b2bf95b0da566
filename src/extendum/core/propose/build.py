"""A plan as a class: sections, moves with their words and doses, a welcome and a goodbye, and the closing quiet."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from itertools import count, groupby

from extendum.core.checks.mends import with_time_to_say
from extendum.core.fit.explain import names
from extendum.core.model.body import Base, Region
from extendum.core.model.elastic import Elastic
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Role, Section
from extendum.core.model.talk import Quiet, Talk, TalkKind
from extendum.core.order.section_order import HEIGHT
from extendum.core.propose.candidates import PART_OF, Candidate, Part, dosed
from extendum.core.propose.judge import Pick, Plan, Task
from extendum.core.timing.layout import length_of

#: So many areas are named at the start; more than that nobody remembers.
NAMED_MOST = 4
#: Areas as a class hears them, where "your" before the name is not enough.
_SPOKEN = {
    Region.UPPER_ARM: "your upper arms",
    Region.FOREARM: "your forearms",
    Region.WRIST: "your wrists",
    Region.HAND: "your hands",
    Region.SIDE_BODY: "your sides",
    Region.ABDOMINALS: "your belly",
    Region.HIP_FRONT: "the front of your hips",
    Region.HIP_SIDE: "the sides of your hips",
    Region.DEEP_HIP: "the deep muscles of your hips",
    Region.INNER_THIGH: "your inner thighs",
    Region.FRONT_THIGH: "the fronts of your thighs",
    Region.BACK_THIGH: "the backs of your thighs",
    Region.CALF: "your calves",
    Region.ANKLE: "your ankles",
    Region.FOOT: "your feet",
}
_CARE = (
    "Nothing should hurt: a mild stretch is plenty. Ease off or stop at any pain, numbness or tingling, and keep "
    "breathing."
)
_GOODBYE = {
    Base.STANDING: "Let your arms hang and take one easy breath. That brings us to the end. Thank you.",
    Base.CHAIR: "Rest your hands in your lap and take one easy breath. Get up slowly when you are ready. Thank you.",
    Base.FLOOR: "Stay here for one easy breath. Get up slowly when you are ready, with a hand on something if you "
    "like. Thank you.",
    Base.LYING: "Stay here for one easy breath. When you are ready, roll onto one side, rest there, and push yourself "
    "up slowly with your hands. Thank you.",
}
_SECTION = {
    Base.STANDING: "On your feet",
    Base.CHAIR: "On the chair",
    Base.FLOOR: "On the floor",
    Base.LYING: "Lying down",
}


def welcome(script: Script) -> str:
    """The words that a proposed class begins with."""
    areas = [one for one in script.brief.areas if one not in (Region.WHOLE_BODY, Region.BREATH)]
    said = [_SPOKEN.get(one, f"your {one}") for one in areas]
    if all(one.startswith("your ") for one in said):
        said[1:] = [one.removeprefix("your ") for one in said[1:]]
    what = f" for {names(said)}" if 0 < len(said) <= NAMED_MOST else ""
    return f"Welcome. {{needs}} We have {{minutes}} minutes{what}. {_CARE}"


def built(task: Task, plan: Plan, taken: Callable[[str], str] = lambda key: "") -> Script:
    """The class of a plan; its doses are wanted as the plan has them."""
    ids = (f"i{n}" for n in count(1))
    script, used = task.script, {item.id for item in task.script.items()}

    def fresh() -> str:
        return next(one for one in ids if one not in used)

    def made(pick: Pick) -> MoveItem:
        candidate = task.candidates[pick.candidate]
        item = dosed(candidate.item, candidate.values[pick.steps])
        return item if item.id in used else replace(item, id=fresh(), taken=taken(candidate.key))

    by_part = {part: [made(pick) for pick in in_order(task, plan) if pick.part is part] for part in Part}
    moves = [item for part in Part for item in by_part[part]]
    end = Base.of(moves[-1].move.ends_in if moves else script.start_posture)
    hello = _own_talk(script, Role.OPENING) or Talk(fresh(), Elastic(1, 1, 120), welcome(script), "Welcome")
    bye = _own_talk(script, Role.CLOSING) or Talk(fresh(), Elastic(1, 1, 120), _GOODBYE[end], "Goodbye")
    quiet = next((item for item in script.items() if isinstance(item, Quiet)), None) or Quiet(fresh())
    said = {part: _other_talk(script, part, {hello.id, bye.id, quiet.id}) for part in Part}
    parts: list[tuple[str, Role, list[Item]]] = [
        ("Arrive", Role.OPENING, [hello, *said[Part.ARRIVE], *by_part[Part.ARRIVE]])
    ]
    if warm := [*said[Part.WARM], *by_part[Part.WARM]]:
        parts.append(("Warm up", Role.WARM_UP, warm))
    if said[Part.MAIN]:
        parts.append(("Talk", Role.TEACHING, list(said[Part.MAIN])))
    for base, items in groupby(by_part[Part.MAIN], key=lambda one: Base.of(one.move.posture)):
        parts.append((_SECTION[base], Role.MAIN, list(items)))
    parts.append(("Settle", Role.CLOSING, [*by_part[Part.SETTLE], *said[Part.SETTLE], bye, quiet]))
    sections = tuple(
        Section(f"s{n}", name, role, (Group(f"g{n}", items=tuple(items)),))
        for n, (name, role, items) in enumerate(parts, 1)
    )
    class_ = replace(script, sections=sections, meanwhiles=(), kept=())
    for talk in (hello, bye):
        if talk.id not in used:
            class_ = with_time_to_say(class_, talk.id)
    return class_


def _own_talk(script: Script, role: Role) -> Talk | None:
    """The talk that a class already has there."""
    said = (item for one in script.sections if one.role is role for item in one.items)
    return next((item for item in said if isinstance(item, Talk) and item.kind is TalkKind.TALK), None)


def _other_talk(script: Script, part: Part, but: set[str]) -> list[Item]:
    """What else a class says in a part: it stays, before the moves of the part or, at the end, after them."""
    own = (item for one in script.sections if PART_OF[one.role] is part for item in one.items)
    return [item for item in own if not isinstance(item, MoveItem) and item.id not in but]


def in_order(task: Task, plan: Plan) -> list[Pick]:
    """The picks of a plan; inside a block from head to feet, the easier of one height first."""
    found: list[Pick] = []
    for _, picks in groupby(plan, key=task.block):
        found += sorted(picks, key=lambda one: _height(task.candidates[one.candidate]))
    return found


def _height(candidate: Candidate) -> tuple[int, int]:
    heights = [HEIGHT.index(region) for region in candidate.item.move.main_regions if region in HEIGHT]
    return (min(heights, default=0), candidate.item.move.effort)


def talk_s(script: Script) -> int:
    """Seconds of welcome, goodbye and whatever else is said, without moves and quiet."""
    empty = built(Task(script, ()), ())
    return length_of(empty) - sum(item.quantity.value for item in empty.items() if isinstance(item, Quiet))
