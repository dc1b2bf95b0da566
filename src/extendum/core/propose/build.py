"""A plan as a class: sections, moves with their words and doses, a welcome and a goodbye, and the closing quiet."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import replace
from itertools import count, groupby

from extendum.core.checks.mends import with_time_to_say
from extendum.core.fit.explain import names
from extendum.core.model.body import Base, Posture, Region
from extendum.core.model.elastic import Elastic
from extendum.core.model.item import Item, MoveItem
from extendum.core.model.script import Script
from extendum.core.model.section import Group, Role, Section
from extendum.core.model.talk import Quiet, Talk, TalkKind
from extendum.core.order.section_order import HEIGHT
from extendum.core.propose.candidates import PART_OF, Candidate, Part, dosed
from extendum.core.propose.judge import Pick, Plan, Task
from extendum.core.propose.whole import loose, meanwhiles, moves_of, whole
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
#: The id of a section or group until it gets one of its own.
_MADE = "made"
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
    script = task.script
    used = script.ids()
    fresh = _fresh(used)

    def made(pick: Pick) -> MoveItem | Section:
        candidate = task.candidates[pick.candidate]
        if candidate.section:
            return candidate.section
        item = dosed(candidate.item, candidate.values[pick.steps])
        return item if item.id in used else replace(item, id=fresh("i"), taken=taken(candidate.key))

    by_part = {part: [made(pick) for pick in in_order(task, plan) if pick.part is part] for part in Part}
    hello, bye, quiet = _talks(script, _last_posture(script, by_part), fresh)
    own = {one.id for one in (hello, bye, quiet) if one}
    said = {part: _other_talk(loose(script), part, own) for part in Part}
    ends = [one for one in (bye, quiet) if one]
    sections = _sections(
        "Arrive", Role.OPENING, [*([hello] if hello else []), *said[Part.ARRIVE], *by_part[Part.ARRIVE]]
    )
    sections += _sections("Warm up", Role.WARM_UP, [*said[Part.WARM], *by_part[Part.WARM]])
    sections += _sections("Talk", Role.TEACHING, said[Part.MAIN])
    for base, items in groupby(by_part[Part.MAIN], key=_base):
        sections += _sections(_SECTION[base], Role.MAIN, items)
    sections += _sections("Settle", Role.CLOSING, [*by_part[Part.SETTLE], *said[Part.SETTLE], *ends])
    named = tuple(_named(one, fresh) for one in sections)
    class_ = replace(script, sections=named, meanwhiles=meanwhiles(script) if plan else (), kept=())
    for talk in (hello, bye):
        if talk and talk.id not in used:
            class_ = with_time_to_say(class_, talk.id)
    return class_


Fresh = Callable[[str], str]


def _fresh(used: set[str]) -> Fresh:
    """Gives ids that nothing has yet, of a kind: i1, s1, g1."""
    last = dict.fromkeys("isg", 0)

    def fresh(kind: str) -> str:
        last[kind] = next(n for n in count(last[kind] + 1) if f"{kind}{n}" not in used)
        return f"{kind}{last[kind]}"

    return fresh


def _named(section: Section, fresh: Fresh) -> Section:
    """A section that was made gets ids of its own; one that stays whole has them."""
    if section.id != _MADE:
        return section
    return replace(section, id=fresh("s"), groups=tuple(replace(one, id=fresh("g")) for one in section.groups))


def _sections(name: str, role: Role, pieces: Iterable[Item | Section]) -> list[Section]:
    """Items that follow each other share a section; sections that stay whole stand between them."""
    found: list[Section] = []
    for stays, own in groupby(pieces, key=lambda one: isinstance(one, Section)):
        if stays:
            found += [one for one in own if isinstance(one, Section)]
        else:
            items = tuple(one for one in own if not isinstance(one, Section))
            found.append(Section(_MADE, name, role, (Group(_MADE, items=items),)))
    return found


def _base(piece: MoveItem | Section) -> Base:
    return Base.of((piece if isinstance(piece, MoveItem) else moves_of(piece)[0]).move.posture)


def _last_posture(script: Script, by_part: dict[Part, list[MoveItem | Section]]) -> Posture:
    """Where people are when the last move is done."""
    pieces = [one for part in Part for one in by_part[part]]
    if not pieces:
        return script.start_posture
    last = pieces[-1]
    return (last if isinstance(last, MoveItem) else moves_of(last)[-1]).move.ends_in


def _talks(script: Script, end: Posture, fresh: Fresh) -> tuple[Talk | None, Talk | None, Quiet | None]:
    """Welcome, goodbye and closing quiet: those of the class, or new ones beside what whole sections say."""
    hello, bye = (_own_talk(loose(script), role) for role in (Role.OPENING, Role.CLOSING))
    if not hello and not _own_talk(whole(script), Role.OPENING):
        hello = Talk(fresh("i"), Elastic(1, 1, 120), welcome(script), "Welcome")
    if not bye and not _own_talk(whole(script), Role.CLOSING):
        bye = Talk(fresh("i"), Elastic(1, 1, 120), _GOODBYE[Base.of(end)], "Goodbye")
    quiet = next((item for item in loose(script).items() if isinstance(item, Quiet)), None)
    if not quiet and not any(isinstance(item, Quiet) for item in whole(script).items()):
        quiet = Quiet(fresh("i"))
    return hello, bye, quiet


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
