"""From a script to its timeline."""

from __future__ import annotations

from collections.abc import Iterator

from extendum.core.model.body import Side
from extendum.core.model.marks import without_marks
from extendum.core.model.script import Meanwhile, Script
from extendum.core.model.talk import Talk
from extendum.core.model.timeline import Cue, Mode, Segment, SegmentKind, Timeline, Unsaid, Why
from extendum.core.timing.cues import Placed, said_cues
from extendum.core.timing.durations import Facts
from extendum.core.timing.layout import Laid, lay_out
from extendum.core.timing.lines import Lines
from extendum.core.timing.note_cues import note_cues
from extendum.core.timing.parts import Part
from extendum.core.timing.prompting import Turns
from extendum.core.timing.reasons import meanwhile_reason, reset_reason
from extendum.core.timing.sequence import Pass, Still
from extendum.core.timing.talk_cues import Window, meanwhile_cues, talk_cues
from extendum.core.timing.work_cues import Work


def compile_script(script: Script) -> Timeline:
    """The timeline of a script: segments that tile it, placed cues, and what stays unsaid."""
    laid = lay_out(script)
    last_of: dict[str, int] = {one.step.item.id: n for n, one in enumerate(laid) if isinstance(one.step, Pass)}
    last_move = max(last_of.values(), default=-1)
    segments: list[Segment] = []
    underlays: list[Segment] = []
    placed: list[Placed] = []
    done: list[Done] = []
    turns, lines = Turns(), Lines(script.style.talk_style)
    at = 0
    for index, one in enumerate(laid):
        timed = list(_timed(one, at))
        at = timed[-1][0].end_s if timed else at
        done.append((one, [segment for segment, _ in timed]))
        segments += done[-1][1]
        underlays += _resets(timed)
        placed += note_cues(one.step, done[-1][1])
        if isinstance(one.step, Still):
            if isinstance(one.step.item, Talk):
                segment = timed[0][0] if timed else None
                placed += talk_cues(one.step.item, segment, one.step.number, one.step.round, script.style, one.facts)
        else:
            calls = script.style.next_call and one.step.last and index < last_move
            placed += _pass_cues(one.step, timed, script, one.facts, turns, lines, calls_next=calls)
    for under in script.meanwhiles:
        lanes, said = _beneath(script, under, done, placed)
        underlays += lanes
        placed += said
    cues = sorted((p for p in placed if isinstance(p, Cue)), key=lambda c: (c.start_ms, c.end_ms, c.of))
    unsaid = tuple(p._replace(text=without_marks(p.text)) for p in placed if isinstance(p, Unsaid))
    return Timeline(at, tuple(segments), tuple(cues), unsaid, tuple(underlays))


Done = tuple[Laid, list[Segment]]


def _beneath(
    script: Script, under: Meanwhile, done: list[Done], placed: list[Placed]
) -> tuple[list[Segment], list[Placed]]:
    """What runs under other items: its underlay, and its words in the gaps between what is said already."""
    hosts = _hosts(script, under, done)
    segments = [segment for _, own in hosts for segment in own]
    if not segments:
        there = _hosted(script, under)
        facts = next((one.facts for one, _ in done if one.step.item.id in there[:1]), {})
        return [], list(meanwhile_cues(under, (), (), script.style, facts)) if there else []
    start, end = segments[0].start_s, segments[-1].end_s
    if under.seconds:
        end = min(end, start + under.seconds)
    windows = [Window(s, s.start_s * 1000, min(s.end_s, end) * 1000) for s in segments if s.start_s < end]
    why = Why(meanwhile_reason, (end - start, segments[0].name, windows[-1].host.name))
    name = _segment_id(under.id, 1, 1, SegmentKind.MEANWHILE)
    lane = Segment(name, SegmentKind.MEANWHILE, start, end, under.id, under.name, under.side, 1, 1, None, why)
    spoken = [p for p in placed if isinstance(p, Cue) and p.mode is Mode.SPOKEN]
    return [lane], list(meanwhile_cues(under, windows, spoken, script.style, hosts[0][0].facts))


def _hosted(script: Script, under: Meanwhile) -> list[str]:
    """The first and the last item that something runs under, of those that are in."""
    items = list(script.items())
    order = [item.id for item in items]
    span = items[order.index(under.from_item) : order.index(under.to_item) + 1]
    there = [item.id for item in span if item.present]
    return [there[0], there[-1]] if there else []


def _hosts(script: Script, under: Meanwhile, done: list[Done]) -> list[Done]:
    """The steps that something runs under, from the first to the last; of a side or a pass, those in one run."""
    hosted = _hosted(script, under)
    at = [n for n, (one, own) in enumerate(done) if one.step.item.id in hosted and own]
    if not at:
        return []
    span = done[at[0] : at[-1] + 1]
    run: list[Done] = []
    for one, own in span:
        fits = under.side in (None, one.step.side) and under.in_pass in (0, one.step.number)
        if fits:
            run.append((one, own))
        elif run:
            break
    return run


Timed = tuple[Segment, Part]


def _segment_id(item: str, pass_number: int, round_: int, kind: SegmentKind) -> str:
    return f"{item}.{pass_number}.{round_}.{kind}"


def _timed(one: Laid, at: int) -> Iterator[Timed]:
    step, names = one.step, set[str]()
    side: Side | None = step.side if isinstance(step, Pass) else None
    for part in one.parts:
        name = base = _segment_id(step.item.id, step.number, step.round, part.kind)
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
            why=part.why,
            direction=step.direction if isinstance(step, Pass) else None,
            way_s=part.way_s,
            words_ms=part.words_ms,
        )
        yield segment, part
        at = segment.end_s


def _resets(timed: list[Timed]) -> Iterator[Segment]:
    """The little reset lies wholly under its transition, which is never shorter."""
    for segment, part in timed:
        if part.reset_s:
            name = _segment_id(segment.item, segment.pass_number, segment.round, SegmentKind.RESET)
            end = segment.start_s + part.reset_s
            why = Why(reset_reason, (part.reset_s,))
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


def _pass_cues(
    this: Pass, timed: list[Timed], script: Script, facts: Facts, turns: Turns, lines: Lines, *, calls_next: bool
) -> Iterator[Placed]:
    style = script.style
    stages = len(this.item.doses)
    halves: dict[int, int] = {}
    for segment, part in timed:
        yield from said_cues(segment, part, style)
        if segment.kind.works and part.stage is not None:
            half = halves.get(part.stage, 0) if part.side is not None else None
            halves[part.stage] = 1
            calls = calls_next and part.stage == stages
            due = turns.due(this, part.stage) if style.prompts and not half else ()
            yield from Work(this, segment, part, style, facts, lines, due).cues(calls_next=calls, half=half)
