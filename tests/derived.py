"""What a script asks for, told from the script alone: an enumeration that shares no code with the compiler."""

import re
from dataclasses import replace
from typing import Any, NamedTuple

from extendum.core.listening.support import sends_to
from extendum.core.model.body import Base, Side
from extendum.core.model.dose import Breaths, Hold, Manner, Pulses, Reps, Timed
from extendum.core.model.item import CountIs, DirectionOrder, MoveItem, ReleaseAfter, SetOrder
from extendum.core.model.keeping import Keep
from extendum.core.model.move import Sidedness
from extendum.core.model.notes import NoteWhen
from extendum.core.model.prompts import PromptKind, Scope
from extendum.core.model.section import SidePlan
from extendum.core.model.style import RepCount
from extendum.core.model.talk import Talk
from extendum.core.timing.at_hand import thing_at_hand
from extendum.core.timing.speech import sentences

BY_SIDE = (Sidedness.EACH_SIDE, Sidedness.EACH_SIDE_AND_DIRECTION, Sidedness.CROSSED)
BY_WAY = (Sidedness.EACH_DIRECTION, Sidedness.EACH_SIDE_AND_DIRECTION)
WAITS = r"\[(?:\d+ s|until [^\]]+)\]"
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
                    opens = all(v[4] is not one[0] for v in own)
                    on = Side.BOTH if group.side_plan is not SidePlan.CHAIN else (lead.other if only is None else only)
                    found.append(Visit(item, group, round_, numbers[item.id], *one, straight, told, other, opens, on))
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
    opens: bool
    talk_side: Any


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


def needs_told(moves, script):
    """How many sentences say what the moves need: one of what is required, one of what is welcome."""
    required = {}
    for prop in (prop for i in moves for prop in i.move.props if used(prop, script)):
        has = thing_at_hand(prop, script.brief) if script.brief.props else None
        name = has.name if has else prop.name
        required[name] = required.get(name, False) or prop.required
    return len(set(required.values()))


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
    if isinstance(dose, Pulses | Reps | Breaths):
        value = dose.count.value if dose.stretches else value
    if isinstance(dose, Pulses):
        released = len(dose.phases) > 1
        found += [("pulse-phase", n) for n in range(value * len(dose.phases) - released)]
        found += phase_words(dose, value, lacks=released)
    if isinstance(dose, Reps | Breaths):
        found += [("last", n) for n in range(1, style.last_calls + 1)]
        phases = sum(ms > 0 for _, ms in dose.named_phases)
        alternating = item.move.sidedness in ALTERNATING
        each_side = alternating and item.count_is is CountIs.PER_SIDE
        total = 2 * value if each_side else value
        found += phase_words(dose, total)
        found += counts_aloud(dose, total, style, 2 if each_side else 1)
        kind = "rep-phase" if isinstance(dose, Reps) else "breath-phase"
        found += [(kind, n) for n in range(total * phases)]
        if isinstance(dose, Reps):
            found += [("rep-count", n) for n in range(total * dose.counts)]
        if alternating and item.words.each:
            found += [("each", n) for n in range(total)]
        if isinstance(dose, Breaths):
            own = {one.phase for one in dose.says}
            breaths = range(min(style.say_breaths, total))
            found += [
                ("say-breath", 2 * n + k) for n in breaths for k, name in enumerate(("in", "out")) if name not in own
            ]
    return found


def worded(dose, nth, total, phase):
    """Whether the words of a phase are said in the nth rep: the first ones, and the last."""
    return phase in {one.phase for one in dose.says} and (nth <= dose.say_first or nth == total)


def phase_words(dose, total, *, lacks=False):
    """What is asked for in the phases, none of which is of no time; the last of pulses is not done."""
    names = [name for name, _ in dose.named_phases]
    for nth in range(1, total + 1):
        for place, (name, ms) in enumerate(dose.named_phases):
            missing = lacks and nth == total and place == len(names) - 1
            if ms and not missing and worded(dose, nth, total, name):
                yield "phase-words", (nth - 1) * len(names) + place


def counts_aloud(dose, total, style, step):
    """The counts that are asked for: of reps whose first phase has no words and that no call announces."""
    called = {total - n for n in range(style.last_calls)}
    if style.count_reps in (RepCount.UP, RepCount.DOWN):
        first = dose.named_phases[0][0]
        for nth in range(1, total + 1, step):
            if nth not in called and not worded(dose, nth, total, first):
                yield "counted", nth
    if style.count_reps is RepCount.INSIDE:
        spans, at = [], 0
        for name, ms in dose.named_phases:
            spans.append((at, at + ms, name))
            at += ms
        if isinstance(dose, Reps) and dose.counts:
            begins = [k * at // dose.counts for k in range(dose.counts)]
            places = [next((name for a, b, name in spans if a <= one < b), spans[-1][2]) for one in begins]
        else:
            places = [name for a, b, name in spans for _ in range(min(16, (b - a) // 1000))]
        for nth in range(1, total + 1):
            for place, name in enumerate(places):
                if not worded(dose, nth, total, name) and not (place == 0 and nth in called):
                    yield "counted", (nth - 1) * len(places) + place


def scope_holds(prompt, visit, lead, first, opens):
    """Whether a prompt is said in the work of a pass."""
    when, kind = prompt.when, prompt.kind
    if when is Scope.USUAL:
        if kind in (PromptKind.CAUTION, PromptKind.EASIER):
            when = Scope.FIRST
        elif kind in (PromptKind.FEEL, PromptKind.FORM, PromptKind.ADJUST):
            when = Scope.EACH_SIDE
        else:
            when = Scope.LATER if kind is PromptKind.DEEPER and visit.group.rounds > 1 else Scope.EVERY
    return {
        Scope.BEFORE: False,
        Scope.FIRST: first,
        Scope.EACH_SIDE: opens and visit.round == 1,
        Scope.SECOND_SIDE: opens and visit.side is lead.other,
        Scope.ROUND: opens and visit.round == prompt.in_round,
        Scope.LATER: opens and visit.round > 1,
        Scope.EVERY: True,
    }[when]


def notes_meant(item, visit, first, switched):
    """The indices of the notes of a step."""
    for n, note in enumerate(getattr(item, "notes", ())):
        if not isinstance(item, MoveItem):
            meant = note.when is not NoteWhen.SWITCH and note.side in (None, visit.talk_side)
        elif note.when is NoteWhen.SWITCH:
            meant = switched
        elif note.side is not None:
            meant = visit.opens and visit.side in (note.side, Side.BOTH)
        else:
            meant = first or (not visit.straight and not visit.other)
        if meant:
            yield n


def asked_for(script, values, seconds_of):
    """The ids of every cue that a script asks for.

    ``values(item, stage, round)`` and ``seconds_of(item, stage, round)`` are what doses came to.
    """
    style, found, seen = script.style, [], set()
    order = visits(script)
    posture, sent = script.start_posture, frozenset()
    last_move = max((n for n, v in enumerate(order) if isinstance(v[0], MoveItem)), default=-1)
    for index, visit in enumerate(order):
        item, group, round_, number, side, way, set_, straight, released, other, opens, _ = visit
        after = order[index + 1] if index + 1 < len(order) else None
        first, _ = item.id not in seen, seen.add(item.id)
        lead = getattr(item, "lead_side", None) or group.lead_side or style.lead_side
        own = style
        for field in ("countdown", "count_reps", "last_calls"):
            if getattr(item, field, None) is not None:
                own = replace(own, **{field: getattr(item, field)})
        switched = other or (straight and order[index - 1].side is not side)
        for n in notes_meant(item, visit, first, switched):
            found.append(f"{item.id}.1.{number}.{round_}.note.{n}")

        def ask(kind, n=0, stage=1, name=f"{item.id}.{{}}.{number}.{round_}"):
            found.append(f"{name.format(stage)}.{kind}.{n}")

        if not isinstance(item, MoveItem):
            if isinstance(item, Talk):
                sent |= sends_to(item.words)
                words = item.words.replace("{next}", "x").replace("{minutes}", "1").replace("{moves}", "1")
                words = words.replace("{side}", "x").replace("{other}", "x")
                there = [i for i in script.items() if isinstance(i, MoveItem) and is_in(i)]
                words = words.replace("{needs}", "You need. " * needs_told(there, script))
                parts = re.split(WAITS, words)
                for n in range(sum(len(sentences(part)) for part in parts)):
                    ask("talk", n)
                for n in range(len(parts) - 1):
                    ask("wait", n)
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
            then = item.then[stage - 2] if stage > 1 else None
            if then and (then.words if first or not then.short else then.short):
                ask("stage", 0, stage)
            for n, prompt in enumerate(then.prompts if then and style.prompts else ()):
                if scope_holds(prompt, visit, lead, first, opens):
                    ask(prompt.kind.value, n, stage)
            cues = stage_cues(item, stage, dose, values(item, stage, round_), own, seconds_of(item, stage, round_))
            for kind, n in cues:
                ask(kind, n, stage)
        if style.prompts:
            for n, prompt in enumerate(told.prompts):
                if scope_holds(prompt, visit, lead, first, opens) or (prompt.when is Scope.BEFORE and first):
                    ask(prompt.kind.value, n)
        goes_on = after is not None and after.item is item and after.round == round_ and after.straight
        if style.next_call and not goes_on and index < last_move:
            ask("next", 0, len(item.doses))
        if told.release and released:
            ask("release")
    return found
