"""From a script to its timeline."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass

from extendum.core.beside import step_s
from extendum.core.body import Side, Stance
from extendum.core.cues import Placed, meanwhile_cues, said_cues, talk_cues
from extendum.core.item import MoveItem, Talk
from extendum.core.passes import Facts, Part, Situation, ceil_s, pass_facts, pass_parts, situation_after, still_parts
from extendum.core.script import Meanwhile, Script
from extendum.core.sequence import Pass, Step, Still, sequence
from extendum.core.speech import in_sentences_ms, speaking_ms
from extendum.core.style import CueStyle
from extendum.core.timeline import Cue, Mode, Segment, SegmentKind, Timeline, Unsaid
from extendum.core.words import fill, mentions
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


def needs(moves: Iterable[MoveItem]) -> str:
    """What moves need, as sentences: props and what they must be, and room; empty when nothing."""
    props: dict[str, str] = {}
    space: dict[str, None] = {}
    for item in moves:
        props |= {prop.name: prop.must_be for prop in item.move.props}
        space |= {item.move.space: None} if item.move.space else {}
    return needs_words(props, space)


def needs_words(props: Mapping[str, str], space: Iterable[str]) -> str:
    """What is needed, as sentences: props by name with what they must be, and room."""
    told = [f"{name}, {must_be}" if must_be else name for name, must_be in props.items()]
    lines = [f"You need: {'; '.join(told)}."] if told else []
    room = "; ".join(space)
    lines += [f"Room: {room}."] if room else []
    return " ".join(lines)


def facts_along(steps: list[Step], shared: Facts, after: str = AFTER_THE_LAST, left_after: int = 0) -> list[Facts]:
    """What words may say of the class at each of these steps: next, moves_left, rounds, and what is shared.

    ``after`` is the name of the move that follows the steps, and so many moves are still to come then.
    """
    following: list[int | None] = [None] * len(steps)
    first: int | None = None  # the nearest pass after this step
    for index in reversed(range(len(steps))):
        same = first is not None and steps[first].item.id == steps[index].item.id
        following[index] = following[first] if same and first is not None else first
        if isinstance(steps[index], Pass):
            first = index
    to_come = {step.item.id for step in steps if isinstance(step, Pass)}
    found: list[Facts] = []
    for step, coming in zip(steps, following, strict=True):
        to_come.discard(step.item.id)
        name = after if coming is None else steps[coming].item.name
        along = {"next": name, "moves_left": str(len(to_come) + left_after), "rounds": str(step.group.rounds)}
        found.append({**shared, **along})
    return found


def shared_facts(script: Script, minutes: int) -> Facts:
    """What is true for every step of the class: minutes, moves, needs."""
    return {"minutes": str(minutes), "moves": str(len(script.moves())), "needs": needs(script.moves())}


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
        for step, facts in zip(steps, facts_along(steps, shared_facts(script, asked)), strict=True):
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


def talk_ms(talk: Talk, facts: Facts, style: CueStyle) -> int:
    """Milliseconds that all words of a talk take with these facts."""
    return in_sentences_ms(fill(talk.words, facts), style.words_per_minute)


def talk_needs_s(script: Script, item_id: str) -> int:
    """Whole seconds in which a talk of a class says all its words, wherever it comes; 0 for what is no talk."""
    own = ((one.step.item, one.facts) for one in lay_out(script) if one.step.item.id == item_id)
    return ceil_s(max((talk_ms(t, facts, script.style) for t, facts in own if isinstance(t, Talk)), default=0))


def length_of(script: Script) -> int:
    """Whole seconds that the class lasts."""
    if says_minutes(script):  # what is said of its length may change it
        return sum(part.seconds for one in lay_out(script) for part in one.parts)
    steps, before, total = sequence(script), start_situation(script), 0
    shared = shared_facts(script, whole_minutes(script.brief.target_s))
    for step, facts in zip(steps, facts_along(steps, shared), strict=True):
        total += step_s(step, before, script.style, facts)
        before = situation_after(step, before)
    return total


@dataclass(frozen=True, slots=True)
class Outline:
    """A stretch of the main lane without its cues: what it is, whose, on which side, and when."""

    kind: SegmentKind
    item: str
    side: Side | None
    start_s: int
    end_s: int


def outline(script: Script) -> list[Outline]:
    """Where everything lies, quickly: enough to draw what a class would become."""
    found, at = [], 0
    for one in lay_out(script):
        side = one.step.side if isinstance(one.step, Pass) else None
        for part in one.parts:
            found.append(Outline(part.kind, one.step.item.id, part.side or side, at, at + part.seconds))
            at += part.seconds
    return found


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
        timed = list(_timed(one, at, script.style))
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
        hosted = _hosted(script, under)
        if not hosted:
            continue
        hosts = _hosts(hosted, segments)
        if hosts:
            name = f"{under.id}.1.1.{SegmentKind.MEANWHILE}"
            start, end = hosts[0].start_s, hosts[-1].end_s
            why = f"{end - start} s, under what goes on from {hosts[0].name} to {hosts[-1].name}"
            underlays.append(
                Segment(name, SegmentKind.MEANWHILE, start, end, under.id, under.name, None, 1, 1, None, why)
            )
        spoken = [p for p in placed if isinstance(p, Cue) and p.mode is Mode.SPOKEN]
        facts = next((one.facts for one in laid if one.step.item.id in hosted[:1]), {})
        placed += meanwhile_cues(under, hosts, spoken, script.style, facts)
    cues = sorted((p for p in placed if isinstance(p, Cue)), key=lambda c: (c.start_ms, c.end_ms, c.id))
    unsaid = tuple(p for p in placed if isinstance(p, Unsaid))
    return Timeline(at, tuple(segments), tuple(cues), unsaid, tuple(underlays))


def _hosted(script: Script, under: Meanwhile) -> list[str]:
    """The first and the last item that something runs under, of those that are in."""
    items = list(script.items())
    order = [item.id for item in items]
    span = items[order.index(under.from_item) : order.index(under.to_item) + 1]
    there = [item.id for item in span if item.present]
    return [there[0], there[-1]] if there else []


def _hosts(hosted: list[str], segments: list[Segment]) -> list[Segment]:
    at = [n for n, segment in enumerate(segments) if segment.item in hosted]
    return segments[at[0] : at[-1] + 1] if at else []


Timed = tuple[Segment, Part]


def _timed(one: Laid, at: int, style: CueStyle) -> Iterator[Timed]:
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
            way_s=part.way_s,
            words_ms=_words_ms(one, part, style),
        )
        yield segment, part
        at = segment.end_s


def _words_ms(one: Laid, part: Part, style: CueStyle) -> int:
    """Milliseconds that the words of a part take in full."""
    if isinstance(one.step.item, Talk):
        return talk_ms(one.step.item, one.facts, style)
    return sum(speaking_ms(said.text, style.words_per_minute) for said in part.said)


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
