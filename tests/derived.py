"""What a script asks for, told from the script alone: an enumeration that shares no code with the compiler."""

from dataclasses import replace
from typing import Any, NamedTuple

from extendum.core.listening.support import sends_to
from extendum.core.model.body import Base, Side
from extendum.core.model.dose import Breaths, Hold, Manner, Pulses, Reps, Timed
from extendum.core.model.item import CountIs, DirectionOrder, Keep, MoveItem, ReleaseAfter, SetOrder, Talk
from extendum.core.model.move import Sidedness
from extendum.core.model.section import SidePlan
from extendum.core.model.words import PromptKind
from extendum.core.timing.speech import sentences

BY_SIDE = (Sidedness.EACH_SIDE, Sidedness.EACH_SIDE_AND_DIRECTION, Sidedness.CROSSED)
BY_WAY = (Sidedness.EACH_DIRECTION, Sidedness.EACH_SIDE_AND_DIRECTION)
ALTERNATING = (Sidedness.ALTERNATING, Sidedness.CROSSED_ALTERNATING)


def is_in(item):
    """Whether an item is in the class, told from its marks."""
    keep = getattr(item, "keep", Keep.ALWAYS)
    return keep is Keep.ALWAYS or (keep is Keep.OPTIONAL and not item.dropped)


def item_passes(item, lead):
    """(side, direction, set) of every pass of an item."""
    sides = (lead, lead.other) if item.move.sidedness in BY_SIDE else (Side.BOTH,)
    places = range(len(ways_on(item, lead)))
    every = [(s, w, n) for s in sides for w in places for n in range(1, item.sets + 1)]
    if item.direction_order is DirectionOrder.DIRECTION_BY_DIRECTION:
        every.sort(key=lambda one: one[1])
    if item.set_order is SetOrder.SET_BY_SET:
        every.sort(key=lambda one: one[2])
    return [(s, ways_on(item, s)[w], n) for s, w, n in every]


def ways_on(item, side):
    """The directions of a move on a side, named; where they follow the side, left and right change places."""
    if item.move.sidedness not in BY_WAY:
        return (None,)
    swaps = item.move.directions_follow_side and side is Side.RIGHT
    found = []
    for way in item.move.directions:
        words = way.split(" ")
        if swaps:
            words = [{"left": "right", "right": "left"}.get(word, word) for word in words]
        found.append(" ".join(words).replace("{side}", str(side)).replace("{other}", str(side.other)))
    return tuple(found)


def visits(script):
    """(item, round, number, side, direction, set, come to straight from the pass before) in order."""
    found = []
    for group in (g for s in script.sections for g in s.groups):
        lead = group.lead_side or script.style.lead_side
        items = [i for i in group.items if is_in(i)]
        chain = [i for i in items if not getattr(i, "between", False)]
        plan = {
            SidePlan.EACH_MOVE: [(i, None) for i in items],
            SidePlan.CHAIN: [(i, lead) for i in chain]
            + [(i, None) for i in items if i not in chain]
            + [(i, lead.other) for i in chain],
            SidePlan.INTERLEAVED: [(i, (r.side, r.direction)) for r in group.passes for i in items if i.id == r.item],
        }[group.side_plan]
        for round_ in range(1, group.rounds + 1):
            numbers, before, at = {}, None, len(found)
            for item, only in plan:
                if isinstance(item, MoveItem):
                    passes = item_passes(item, item.lead_side or lead)
                    side, way = only if isinstance(only, tuple) else (only, "")
                    passes = [p for p in passes if side is None or p[0] in (side, Side.BOTH)]
                    passes = [p for p in passes if not way or written(item, p) == way]
                else:
                    passes = [(None, None, 1)]
                for n, one in enumerate(passes):
                    numbers[item.id] = numbers.get(item.id, 0) + 1
                    straight = before is item and isinstance(item, MoveItem)
                    after = passes[n + 1] if n + 1 < len(passes) else None
                    told = isinstance(item, MoveItem) and says_release(item, one, after)
                    own = [v for v in found[at:] if v[0] is item]
                    other = bool(own) and own[-1][4] is not one[0]
                    found.append(Visit(item, group, round_, numbers[item.id], *one, straight, told, other))
                    before = item
    return found


class Visit(NamedTuple):
    """One step of a class as the script asks for it."""

    item: Any
    group: Any
    round: int
    number: int
    side: Any
    direction: Any
    set: int
    straight: bool
    released: bool
    other: bool


def written(item, one):
    """The direction of a pass as the move has it."""
    return item.move.directions[ways_on(item, one[0]).index(one[1])]


def says_release(item, this, after):
    """Whether the words for coming out are said after a pass, from what comes straight after it in its visit."""
    if after is None or (after[2] > this[2] and item.rest_s):
        return True
    rule, same_side = item.release_after, after[0] is this[0]
    if rule in (ReleaseAfter.ALWAYS, ReleaseAfter.ONCE):
        return rule is ReleaseAfter.ALWAYS
    set_only = same_side and (item.move.sidedness not in BY_WAY or written(item, this) == written(item, after))
    if rule is ReleaseAfter.EACH_SIDE:
        return not same_side or set_only
    return set_only or (not same_side and item.move.sidedness not in BY_WAY)


def used(prop, script):
    """Whether the class uses a prop: what nobody needs only where the brief has it, or something that counts as it."""
    names = {prop.name, *prop.or_else}
    there = {name for one in script.brief.props for name in (one.name, one.counts_as)}
    return prop.required or not script.brief.props or bool(names & there)


def stage_cues(item, stage, dose, value, style, seconds):
    """(kind, index) of what one stage asks for in a pass, beside prompts and the next call."""
    first = style.countdown.first
    found = []
    if isinstance(dose, Hold | Timed):
        found += [("count", n) for n in range(1, first + 1)]
        halves = isinstance(dose, Timed) and dose.manner is Manner.HALVES
        if halves and seconds > 1:
            found.append(("half-switch", 0))
        elif style.halfway:
            found.append(("halfway", 0))
        found += [("time-left", s) for s in style.time_left]
    if isinstance(dose, Hold) and style.breath_every_s:
        found += [("keep-breathing", n) for n in range((seconds - 1) // style.breath_every_s)]
    if isinstance(dose, Pulses):
        released = len(dose.phases) > 1
        found += [("pulse-phase", n) for n in range(value * len(dose.phases) - released)]
    if isinstance(dose, Reps | Breaths):
        found += [("last", n) for n in range(1, style.last_calls + 1)]
        phases = sum(ms > 0 for _, ms in dose.named_phases)
        alternating = item.move.sidedness in ALTERNATING
        total = 2 * value if alternating and item.count_is is CountIs.PER_SIDE else value
        kind = "rep-phase" if isinstance(dose, Reps) else "breath-phase"
        found += [(kind, n) for n in range(total * phases)]
        if isinstance(dose, Reps):
            found += [("rep-count", n) for n in range(total * dose.counts)]
        if alternating and item.words.each:
            found += [("each", n) for n in range(total)]
        if isinstance(dose, Breaths):
            found += [("say-breath", n) for n in range(2 * min(style.say_breaths, total))]
    return found


def asked_for(script, values, seconds_of):
    """The ids of every cue that a script asks for.

    ``values(item, stage, round)`` and ``seconds_of(item, stage, round)`` are what doses came to.
    """
    style, found, seen = script.style, [], set()
    order = visits(script)
    posture, sent = script.start_posture, frozenset()
    last_move = max((n for n, v in enumerate(order) if isinstance(v[0], MoveItem)), default=-1)
    for index, visit in enumerate(order):
        item, group, round_, number, side, way, set_, straight, released, other = visit
        after = order[index + 1] if index + 1 < len(order) else None
        first, _ = item.id not in seen, seen.add(item.id)
        counted = getattr(item, "countdown", None)
        own = style if counted is None else replace(style, countdown=counted)

        def ask(kind, n=0, stage=1, name=f"{item.id}.{{}}.{number}.{round_}"):
            found.append(f"{name.format(stage)}.{kind}.{n}")

        if not isinstance(item, MoveItem):
            if isinstance(item, Talk):
                sent |= sends_to(item.words)
                words = item.words.replace("{next}", "x").replace("{minutes}", "1").replace("{moves}", "1")
                words = words.replace("{side}", "x").replace("{other}", "x")
                there = [i for i in script.items() if isinstance(i, MoveItem) and is_in(i)]
                needs = any(used(prop, script) for i in there for prop in i.move.props)
                words = words.replace("{needs}", "You need." if needs else "")
                for n in range(len(sentences(words))):
                    ask("talk", n)
            continue
        told = item.words
        previous = order[index - 1] if straight else None
        if first and item.demonstrate_s and told.demonstration:
            ask("demonstration")
        if previous is not None and previous.side is not side:
            by_way = item.direction_order is DirectionOrder.DIRECTION_BY_DIRECTION and previous.set == set_
            if by_way and written(item, (side, way)) != written(item, (previous.side, previous.direction)):
                switch = "" if "{side}" in told.turn else told.switch
                opening = [("turn", f"{told.turn} {switch}".strip())]
            else:
                opening = [("switch", told.switch)]
        elif previous is not None and previous.direction != way:
            opening = [("turn", told.turn)]
        elif previous is not None:
            opening = [("again", told.again)]
        elif other and told.switch:
            opening = [("switch", told.switch)]
        elif told.short and not first:
            opening = [("short", told.short)]
        else:
            opening = [("moving", told.moving), ("there", told.there)]
        opening = [(kind, text) for kind, text in opening if text]
        to, said = Base.of(item.move.posture), {base for _, text in opening for base in sends_to(text)}
        if item.say_way and to is not Base.of(posture) and to not in said | sent:
            ask("way")
        last_way = item.move.sidedness not in BY_WAY or written(item, (side, way)) == item.move.directions[1]
        posture = item.move.ends_in if released or last_way else item.move.posture
        sent = sends_to(told.release) if released else frozenset()
        again = opening == [("again", told.again)]
        if group.cadence_s and opening and not again:
            asked_by_cadence = [f"{item.id}.1.{number}.{round_}.{kind}." for kind, _ in opening]
            found.append(("cadence", asked_by_cadence, [text for _, text in opening], told.short))
        else:
            for kind, _ in opening:
                ask(kind)
        for stage, dose in enumerate(item.doses, 1):
            if stage > 1 and item.then[stage - 2].words:
                ask("stage", 0, stage)
            cues = stage_cues(item, stage, dose, values(item, stage, round_), own, seconds_of(item, stage, round_))
            for kind, n in cues:
                ask(kind, n, stage)
        if style.prompts:
            for n, prompt in enumerate(told.prompts):
                if first or prompt.kind not in (PromptKind.CAUTION, PromptKind.EASIER):
                    ask(prompt.kind.value, n)
        goes_on = after is not None and after.item is item and after.round == round_ and after.straight
        if style.next_call and not goes_on and index < last_move:
            ask("next", 0, len(item.doses))
        if told.release and released:
            ask("release")
    return found
