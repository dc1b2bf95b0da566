"""A run: what a class has become after events, and where it is at any time.

Times are whole milliseconds of the wall clock. The same events always give the same run; an event that was seen
before, or that makes no sense where the run is, changes nothing but the time. Every millisecond from the start to the
last event is in exactly one span of the log. The browser has the same fold (playing.js); a test holds them together.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from extendum.core.errors import RefusedError
from extendum.core.run.steps import Step

#: Within so long after its start, going back goes to the pass before.
BACK_WITHIN_MS = 2000
#: No step is made longer than this by hand.
LONGEST_MS = 3_600_000
#: A run does not grow beyond so many steps.
MOST_STEPS = 4000


@dataclass(frozen=True, slots=True)
class Event:
    """Something that the teacher did, or that happened to the run: an id of its own, when, what, and with what."""

    id: str
    at: int
    kind: str
    step: str = ""
    ms: int = 0


@dataclass(frozen=True, slots=True)
class Span:
    """A piece of the wall clock: which step was on, from when to when, and whether the run was paused."""

    step: str
    start: int
    end: int
    paused: bool = False


@dataclass(frozen=True, slots=True)
class Run:
    """Where a run is: its steps as they have become, the step that is on and how far, and the log.

    ``spare``: steps of moves that are not in the class and may be brought in. ``left``: where the item was left that
    was skipped just now, with the steps as they were: going back at once takes it up again. ``stopped``: the step in
    which the class was ended by hand; what comes after it was not reached.
    """

    steps: tuple[Step, ...]
    at: int = 0
    into: int = 0
    running: bool = False
    started: bool = False
    ended: bool = False
    clock: int = 0
    log: tuple[Span, ...] = ()
    easier: frozenset[str] = frozenset()
    seen: frozenset[str] = frozenset()
    spare: tuple[Step, ...] = ()
    left: tuple[int, tuple[Step, ...]] | None = None
    stopped: str = ""

    @property
    def step(self) -> Step:
        """The step that is on: the last one after the end."""
        return self.steps[min(self.at, len(self.steps) - 1)]

    @property
    def left_ms(self) -> int:
        """What is still planned: the rest of this step and all after it."""
        if self.ended:
            return 0
        return max(0, self.step.ms - self.into) + sum(step.ms for step in self.steps[self.at + 1 :])


def fold(steps: Iterable[Step], events: Iterable[Event], spare: Iterable[Step] = ()) -> Run:
    """The run that these events make of these steps."""
    run = Run(tuple(steps), spare=tuple(spare))
    for event in events:
        run = after(run, event)
    return run


def after(run: Run, event: Event) -> Run:
    """The run after one more event; one that was seen before changes nothing, and time never runs backwards."""
    if event.id in run.seen:
        return run
    if event.kind not in _KINDS:
        raise RefusedError("kind", "one of " + ", ".join(_KINDS), event.kind)
    run = advance(run, event.at)
    run = replace(run, seen=run.seen | {event.id})
    if not run.steps or (event.kind != "start" and not run.started) or (run.ended and event.kind not in _AFTER_THE_END):
        return run
    run = _KINDS[event.kind](run, event)
    return run if event.kind in _KEEPS_LEFT or run.left is None else replace(run, left=None)


def advance(run: Run, now: int) -> Run:
    """The run at a time: what is running goes on, step after step; an open step waits."""
    if not run.started or run.ended or now <= run.clock:
        return run if run.started and not run.ended else replace(run, clock=max(run.clock, now))
    if not run.running:
        return replace(run, clock=now, log=_logged(run.log, Span(run.step.id, run.clock, now, paused=True)))
    while run.clock < now and not run.ended:
        step = run.steps[run.at]
        rest = now - run.clock if step.waits else max(0, step.ms - run.into)
        taken = min(rest, now - run.clock)
        log = _logged(run.log, Span(step.id, run.clock, run.clock + taken)) if taken else run.log
        run = replace(run, into=run.into + taken, clock=run.clock + taken, log=log)
        if not step.waits and run.into >= step.ms:
            run = _finished(run)
    return replace(run, clock=now) if run.ended else run


def _logged(log: tuple[Span, ...], span: Span) -> tuple[Span, ...]:
    """The log with a span more; what goes on without a break is one span."""
    last = log[-1] if log else None
    if last and (last.step, last.paused, last.end) == (span.step, span.paused, span.start):
        return (*log[:-1], replace(last, end=span.end))
    return (*log, span)


def _with_step(run: Run, index: int, **changes: Any) -> Run:
    steps = list(run.steps)
    steps[index] = replace(steps[index], **changes)
    return replace(run, steps=tuple(steps))


def _index(run: Run, step_id: str) -> int | None:
    return next((n for n, step in enumerate(run.steps) if step.id == step_id), None)


def _finished(run: Run) -> Run:
    """On to the next step; the other side gets what this one really got."""
    return _to(_matched(run, run.into), run.at + 1)


def _matched(run: Run, ms: int) -> Run:
    """The run in which the other side of the work that is on gets so long."""
    step = run.step
    other = _index(run, step.partner) if step.works and step.partner else None
    if other is None or other <= run.at or not ms:
        return run
    return _with_step(run, other, ms=ms, waits=False)


def _to(run: Run, index: int) -> Run:
    if index >= len(run.steps):
        return replace(run, at=len(run.steps), into=0, running=False, ended=True)
    return replace(run, at=index, into=0)


def _start(run: Run, event: Event) -> Run:
    return run if run.started else replace(run, started=True, running=True, clock=event.at)


def _pause(run: Run, event: Event) -> Run:
    return replace(run, running=False)


def _resume(run: Run, event: Event) -> Run:
    return replace(run, running=True)


def _longer(run: Run, event: Event) -> Run:
    """The work that is on lasts longer (less than nothing: shorter), never less than it has lasted already."""
    step = run.step
    if not step.works or step.waits:
        return run
    ms = max(run.into, min(LONGEST_MS, step.ms + event.ms))
    return _matched(_with_step(run, run.at, ms=ms), ms)


def _more(run: Run, event: Event) -> Run:
    """One more rep, breath or pulse."""
    step = run.step
    if not step.unit_ms or not step.works:
        return run
    ms = min(LONGEST_MS, step.ms + step.unit_ms)
    return _matched(_with_step(run, run.at, ms=ms), ms)


def _end_now(run: Run, event: Event) -> Run:
    """What is on ends here; of reps, breaths and pulses the one that had begun counts for the other side."""
    if not run.step.works or not run.into:
        return _to(run, run.at + 1)
    unit = run.step.unit_ms or 1
    return _to(_matched(run, -(-run.into // unit) * unit), run.at + 1)


def _they_are_in(run: Run, event: Event) -> Run:
    """Everybody is there: the work of this pass begins now."""
    group = run.step.group
    work = next((n for n in range(run.at, len(run.steps)) if run.steps[n].group == group and run.steps[n].works), None)
    return run if work is None or work == run.at else _to(run, work)


def _begins(run: Run, index: int) -> int:
    """Where the pass of a step begins."""
    while index > 0 and run.steps[index - 1].group == run.steps[index].group:
        index -= 1
    return index


def _skip(run: Run, event: Event) -> Run:
    """On to the next pass."""
    return _to(run, _next_pass(run))


def visit_of(step: Step) -> tuple[str, ...]:
    """What the steps of an item in one round have in common, over all its passes."""
    return step.item, *step.group.split(".")[2:]


def _skip_item(run: Run, event: Event) -> Run:
    """On to the next item: what is left of this one in its round is not done, also where it comes later in a chain."""
    visit, index = visit_of(run.step), run.at
    while index < len(run.steps) and visit_of(run.steps[index]) == visit:
        index += 1
    later = tuple(step for step in run.steps[index:] if visit_of(step) != visit)
    return replace(_to(replace(run, steps=(*run.steps[:index], *later)), index), left=(run.at, run.steps))


def _next_pass(run: Run) -> int:
    """Where the pass that is on is over."""
    index, group = run.at, run.step.group
    while index < len(run.steps) and run.steps[index].group == group:
        index += 1
    return index


def _repeat(run: Run, event: Event) -> Run:
    """This pass once more from its beginning."""
    return _to(run, _begins(run, run.at))


def _retake(run: Run, event: Event) -> Run:
    """The item that is on once more from its beginning: another take of all its passes."""
    index = min(run.at, len(run.steps) - 1)
    while index > 0 and run.steps[index - 1].item == run.steps[index].item:
        index -= 1
    return replace(_to(run, index), ended=False, running=True, stopped="")


def _mark(run: Run, event: Event) -> Run:
    """Something to remember; nothing changes."""
    return run


def _back(run: Run, event: Event) -> Run:
    """To the beginning of this pass; just after it, to the pass before, or to the item that was skipped just now."""
    index = min(run.at, len(run.steps) - 1)
    begin = _begins(run, index)
    lasted = sum(step.ms for step in run.steps[begin:index]) + run.into
    if run.left is not None and (run.ended or lasted < BACK_WITHIN_MS):
        index, steps = run.left
        whole = replace(run, steps=steps)
        return replace(_to(whole, _begins(whole, index)), ended=False, running=True if run.ended else run.running)
    if not run.ended and lasted < BACK_WITHIN_MS and begin > 0:
        begin = _begins(run, begin - 1)
    return replace(_to(run, begin), ended=False, running=True if run.ended else run.running, stopped="")


def _swap(run: Run, event: Event) -> Run:
    """The other side first, as long as nothing of the second side has begun."""
    item, side = run.step.item, run.step.side
    here = [n for n, step in enumerate(run.steps) if step.item == item and step.side]
    if not side or any(n < run.at and run.steps[n].side != side for n in here):
        return run
    for n in here:
        if n >= _begins(run, run.at):
            run = _with_step(run, n, side="right" if run.steps[n].side == "left" else "left")
    return run


def _insert(run: Run, event: Event) -> Run:
    """A rest of so long before the next pass."""
    rest = Step(event.id, event.step, event.id, min(LONGEST_MS, max(1000, event.ms)))
    return _put_in(run, (rest,))


def _put_in(run: Run, steps: tuple[Step, ...]) -> Run:
    """The run with steps before its next pass, as long as there are not too many."""
    index = _next_pass(run)
    if len(run.steps) + len(steps) > MOST_STEPS:
        return run
    return replace(run, steps=(*run.steps[:index], *steps, *run.steps[index:]))


def _bring(run: Run, event: Event) -> Run:
    """A move before the next pass: a spare one, or one of the class once more, all its passes of one round."""
    known = [step for step in (*run.spare, *run.steps) if step.item == event.step and "~" not in step.id]
    first = [step for step in known if step.group.endswith(".1")]
    made = tuple(
        replace(
            step,
            id=f"{step.id}~{event.id}",
            group=f"{step.group}~{event.id}",
            partner=f"{step.partner}~{event.id}" if step.partner else "",
        )
        for step in first
    )
    return _put_in(run, made)


def _fit(run: Run, event: Event) -> Run:
    """A step still to come lasts so long from now on: what a re-fit decides, one event a step."""
    index = _index(run, event.step)
    return run if index is None or index <= run.at else _with_step(run, index, ms=min(LONGEST_MS, max(0, event.ms)))


def _easier(run: Run, event: Event) -> Run:
    """The easier option of the move that is on, or the move itself again."""
    item = run.step.item
    return replace(run, easier=run.easier - {item} if item in run.easier else run.easier | {item})


def _rewind(run: Run, event: Event) -> Run:
    """Back by so long, over the steps as they are: to where a laptop fell asleep."""
    index, into, back = min(run.at, len(run.steps) - 1), run.into, max(0, event.ms)
    while back > into and index > 0:
        back, index = back - into, index - 1
        into = run.steps[index].ms
    return replace(run, at=index, into=max(0, into - back))


def _end(run: Run, event: Event) -> Run:
    return replace(_to(run, len(run.steps)), stopped=run.step.id)


#: What leaves it open to go back to the item that was skipped just now.
_KEEPS_LEFT = frozenset({"skip-item", "pause", "resume", "easier", "mark"})
#: What still does something when the run has ended.
_AFTER_THE_END = frozenset({"back", "retake"})
_KINDS: Mapping[str, Callable[[Run, Event], Run]] = {
    "start": _start,
    "pause": _pause,
    "resume": _resume,
    "longer": _longer,
    "more": _more,
    "end-now": _end_now,
    "in": _they_are_in,
    "skip": _skip,
    "skip-item": _skip_item,
    "repeat": _repeat,
    "back": _back,
    "retake": _retake,
    "mark": _mark,
    "swap": _swap,
    "insert": _insert,
    "bring": _bring,
    "fit": _fit,
    "easier": _easier,
    "rewind": _rewind,
    "end": _end,
}
KINDS = tuple(_KINDS)
