"""From a script to its timeline."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from extendum.core.body import Side, Stance
from extendum.core.cues import Placed, meanwhile_cues, said_cues, talk_cues
from extendum.core.passes import Facts, Part, Situation, pass_facts, pass_parts, still_parts
from extendum.core.script import MoveItem, Script, Talk
from extendum.core.sequence import Pass, Step, Still, sequence
from extendum.core.timeline import Cue, Mode, Segment, SegmentKind, Timeline, Unsaid
from extendum.core.words import mentions
from extendum.core.working import Work

#: What is announced as next after the last move.
AFTER_THE_LAST = "the close"
_MINUTE_ROUNDS = 4


@dataclass(frozen=True, slots=True)
class Laid:
    """A step with what was true before it, its facts, and its parts."""

    step: Step
    before: Situation
    facts: Facts
    parts: tuple[Part, ...]


def start_situation(script: Script) -> Situation:
    """Bodies and hands at the start of the class."""
    return Situation(Stance(script.start_posture))


def needs(script: Script) -> str:
    """What the class needs, as sentences: props and what they must be, and room; empty when nothing."""
    props = {prop.name: prop for item in script.moves() for prop in item.move.props}
    told = [f"{p.name}, {p.must_be}" if p.must_be else p.name for p in props.values()]
    space = list(dict.fromkeys(item.move.space for item in script.moves() if item.move.space))
    lines = [f"You need: {'; '.join(told)}."] if told else []
    lines += [f"Room: {'; '.join(space)}."] if space else []
    return " ".join(lines)


def facts_along(script: Script, steps: list[Step], minutes: int) -> list[Facts]:
    """What words may say of the class at each step: next, minutes, moves, moves_left, rounds, needs."""
    shared = {"minutes": str(minutes), "moves": str(len(script.moves())), "needs": needs(script)}
    following: list[int | None] = [None] * len(steps)
    first: int | None = None  # the nearest pass after this step
    for index in reversed(range(len(steps))):
        same = first is not None and steps[first].item.id == steps[index].item.id
        following[index] = following[first] if same and first is not None else first
        if isinstance(steps[index], Pass):
            first = index
    to_come = {item.id for item in script.moves()}
    found: list[Facts] = []
    for step, after in zip(steps, following, strict=True):
        to_come.discard(step.item.id)
        name = AFTER_THE_LAST if after is None else steps[after].item.name
        along = {"next": name, "moves_left": str(len(to_come)), "rounds": str(step.group.rounds)}
        found.append({**shared, **along})
    return found


def whole_minutes(length_s: int) -> int:
    """The minutes that a length is announced as: the nearest whole one, at least 1."""
    return max(1, (length_s + 30) // 60)


def lay_out(script: Script, minutes: int | None = None) -> list[Laid]:
    """Every step with its parts.

    {minutes} may be spoken in a set-up and so change what it counts: laid out again until it is true,
    unless the minutes are given.
    """
    steps = sequence(script)
    asked = whole_minutes(script.brief.target_s) if minutes is None else minutes
    for _ in range(_MINUTE_ROUNDS):
        laid, before = [], start_situation(script)
        for step, facts in zip(steps, facts_along(script, steps, asked), strict=True):
            if isinstance(step, Still):
                parts, after = still_parts(step, before)
            else:
                parts, after = pass_parts(step, before, script.style, facts)
            laid.append(Laid(step, before, facts, tuple(parts)))
            before = after
        true = whole_minutes(sum(part.seconds for one in laid for part in one.parts))
        if minutes is not None or true == asked or not says_minutes(script):
            break
        asked = true
    return laid


def length_of(script: Script) -> int:
    """Whole seconds that the class lasts."""
    return sum(part.seconds for one in lay_out(script) for part in one.parts)


def says_minutes(script: Script) -> bool:
    """Whether any words of the class speak of its minutes."""
    for item in script.items():
        words: tuple[str, ...] = ()
        if isinstance(item, MoveItem):
            words = (*item.words.all(), *(stage.words for stage in item.then))
        elif isinstance(item, Talk):
            words = (item.words,)
        if any(mentions(text, {"minutes"}) for text in words):
            return True
    return any(mentions(under.words, {"minutes"}) for under in script.meanwhiles)


def compile_script(script: Script) -> Timeline:
    """The timeline of a script: segments that tile it, placed cues, and what stays unsaid."""
    laid = lay_out(script)
    last_of: dict[str, int] = {one.step.item.id: n for n, one in enumerate(laid) if isinstance(one.step, Pass)}
    last_move = max(last_of.values(), default=-1)
    segments: list[Segment] = []
    underlays: list[Segment] = []
    placed: list[Placed] = []
    at = 0
    for index, one in enumerate(laid):
        timed = list(_timed(one, at))
        at = timed[-1][0].end_s if timed else at
        segments += [segment for segment, _ in timed]
        underlays += _resets(timed)
        if isinstance(one.step, Still):
            if isinstance(one.step.item, Talk):
                segment = timed[0][0] if timed else None
                placed += talk_cues(one.step.item, segment, one.step.number, one.step.round, script.style, one.facts)
        else:
            calls = script.style.next_call and one.step.last and index < last_move
            placed += _pass_cues(one.step, timed, script, one.facts, calls_next=calls)
    for under in script.meanwhiles:
        hosts = _hosts(under.from_item, under.to_item, segments)
        if hosts:
            name = f"{under.id}.1.1.{SegmentKind.MEANWHILE}"
            start, end = hosts[0].start_s, hosts[-1].end_s
            why = f"{end - start} s, under what goes on from {hosts[0].name} to {hosts[-1].name}"
            underlays.append(
                Segment(name, SegmentKind.MEANWHILE, start, end, under.id, under.name, None, 1, 1, None, why)
            )
        spoken = [p for p in placed if isinstance(p, Cue) and p.mode is Mode.SPOKEN]
        facts = next((one.facts for one in laid if one.step.item.id == under.from_item), {})
        placed += meanwhile_cues(under, hosts, spoken, script.style, facts)
    cues = sorted((p for p in placed if isinstance(p, Cue)), key=lambda c: (c.start_ms, c.end_ms, c.id))
    unsaid = tuple(p for p in placed if isinstance(p, Unsaid))
    return Timeline(at, tuple(segments), tuple(cues), unsaid, tuple(underlays))


def _hosts(first: str, last: str, segments: list[Segment]) -> list[Segment]:
    at = [n for n, segment in enumerate(segments) if segment.item in (first, last)]
    return segments[at[0] : at[-1] + 1] if at else []


Timed = tuple[Segment, Part]


def _timed(one: Laid, at: int) -> Iterator[Timed]:
    step, names = one.step, set[str]()
    side: Side | None = step.side if isinstance(step, Pass) else None
    for part in one.parts:
        name = base = f"{step.item.id}.{step.number}.{step.round}.{part.kind}"
        more = 2
        while name in names:
            name, more = f"{base}-{more}", more + 1
        names.add(name)
        segment = Segment(
            id=name,
            kind=part.kind,
            start_s=at,
            end_s=at + part.seconds,
            item=step.item.id,
            name=step.item.name,
            side=part.side or side,
            pass_number=step.number,
            round=step.round,
            stage=part.stage if part.kind.works else None,
            reason=part.reason,
            direction=step.direction if isinstance(step, Pass) else None,
        )
        yield segment, part
        at = segment.end_s


def _resets(timed: list[Timed]) -> Iterator[Segment]:
    """The little reset lies wholly under its transition, which is never shorter."""
    for segment, part in timed:
        if part.reset_s:
            name = segment.id.rsplit(".", 1)[0] + f".{SegmentKind.RESET}"
            end = segment.start_s + part.reset_s
            why = f"{part.reset_s} s under the transition"
            yield Segment(
                name,
                SegmentKind.RESET,
                segment.start_s,
                end,
                segment.item,
                segment.name,
                None,
                segment.pass_number,
                segment.round,
                None,
                why,
            )


def _pass_cues(this: Pass, timed: list[Timed], script: Script, facts: Facts, *, calls_next: bool) -> Iterator[Placed]:
    style = script.style
    filled = pass_facts(this, style, facts)
    stages = len(this.item.doses)
    halves: dict[int, int] = {}
    for segment, part in timed:
        yield from said_cues(segment, part, style)
        if segment.kind.works and part.stage is not None:
            half = halves.get(part.stage, 0) if part.side is not None else None
            halves[part.stage] = 1
            calls = calls_next and part.stage == stages
            yield from Work(this, segment, part, style, filled).cues(calls_next=calls, half=half)
