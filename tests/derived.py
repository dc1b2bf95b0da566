"""What a script asks for, told from the script alone: an enumeration that shares no code with the compiler."""

from extendum.core.model.body import Side
from extendum.core.model.dose import Breaths, Hold, Manner, Pulses, Reps, Timed
from extendum.core.model.item import CountIs, Keep, MoveItem, SetOrder, Talk
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
    every = [(s, w, n) for s in sides for w in ways_on(item, s) for n in range(1, item.sets + 1)]
    if item.set_order is SetOrder.SET_BY_SET:
        every.sort(key=lambda one: one[2])
    return every


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
            SidePlan.INTERLEAVED: [(i, r.side) for r in group.passes for i in items if i.id == r.item],
        }[group.side_plan]
        for round_ in range(1, group.rounds + 1):
            numbers, before = {}, None
            for item, only in plan:
                if isinstance(item, MoveItem):
                    passes = item_passes(item, item.lead_side or lead)
                    passes = [p for p in passes if only is None or p[0] in (only, Side.BOTH)]
                else:
                    passes = [(None, None, 1)]
                for one in passes:
                    numbers[item.id] = numbers.get(item.id, 0) + 1
                    straight = before is item and isinstance(item, MoveItem)
                    found.append((item, group, round_, numbers[item.id], *one, straight))
                    before = item
    return found


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
        doubled = isinstance(dose, Reps) and stage == 1 and item.move.sidedness in ALTERNATING
        total = 2 * value if doubled and item.count_is is CountIs.PER_SIDE else value
        kind = "rep-phase" if isinstance(dose, Reps) else "breath-phase"
        found += [(kind, n) for n in range(total * phases)]
        if isinstance(dose, Reps):
            found += [("rep-count", n) for n in range(total * dose.counts)]
            if stage == 1 and item.move.sidedness in ALTERNATING and item.words.each:
                found += [("each", n) for n in range(total)]
        else:
            found += [("say-breath", n) for n in range(2 * min(style.say_breaths, total))]
    return found


def asked_for(script, values, seconds_of):
    """The ids of every cue that a script asks for.

    ``values(item, stage, round)`` and ``seconds_of(item, stage, round)`` are what doses came to.
    """
    style, found, seen = script.style, [], set()
    order = visits(script)
    last_move = max((n for n, v in enumerate(order) if isinstance(v[0], MoveItem)), default=-1)
    for index, (item, group, round_, number, side, way, _, straight) in enumerate(order):
        after = order[index + 1] if index + 1 < len(order) else None
        first, _ = item.id not in seen, seen.add(item.id)

        def ask(kind, n=0, stage=1, name=f"{item.id}.{{}}.{number}.{round_}"):
            found.append(f"{name.format(stage)}.{kind}.{n}")

        if not isinstance(item, MoveItem):
            if isinstance(item, Talk):
                words = item.words.replace("{next}", "x").replace("{minutes}", "1").replace("{moves}", "1")
                needs = any(i.move.props for i in script.items() if isinstance(i, MoveItem) and is_in(i))
                words = words.replace("{needs}", "You need." if needs else "")
                for n in range(len(sentences(words))):
                    ask("talk", n)
            continue
        told = item.words
        previous = order[index - 1] if straight else None
        if first and item.demonstrate_s and told.demonstration:
            ask("demonstration")
        if previous is not None and previous[4] is not side:
            opening = [("switch", told.switch)]
        elif previous is not None and previous[5] != way:
            opening = [("turn", told.turn)]
        elif previous is not None:
            opening = []
        elif told.short and not first:
            opening = [("short", told.short)]
        else:
            opening = [("moving", told.moving), ("there", told.there)]
        opening = [(kind, text) for kind, text in opening if text]
        if group.cadence_s and opening:
            asked_by_cadence = [f"{item.id}.1.{number}.{round_}.{kind}." for kind, _ in opening]
            found.append(("cadence", asked_by_cadence, [text for _, text in opening], told.short))
        else:
            for kind, _ in opening:
                ask(kind)
        for stage, dose in enumerate(item.doses, 1):
            if stage > 1 and item.then[stage - 2].words:
                ask("stage", 0, stage)
            cues = stage_cues(item, stage, dose, values(item, stage, round_), style, seconds_of(item, stage, round_))
            for kind, n in cues:
                ask(kind, n, stage)
        if style.prompts:
            for n, prompt in enumerate(told.prompts):
                if first or prompt.kind not in (PromptKind.CAUTION, PromptKind.EASIER):
                    ask(prompt.kind.value, n)
        goes_on = after is not None and after[0] is item and after[2] == round_ and after[7]
        if style.next_call and not goes_on and index < last_move:
            ask("next", 0, len(item.doses))
        if told.release:
            ask("release")
    return found
