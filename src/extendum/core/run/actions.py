"""What a teacher may do while a class runs: each kind of event, and what it makes of the run."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

from extendum.core.run.state import Event, Run, index_of, matched, moved_to, with_step
from extendum.core.run.steps import Step

#: By so much the work that is on is made longer at one press.
LONGER_S = 10
#: Within so long after its start, going back goes to the pass before.
BACK_WITHIN_MS = 2000
#: No step is made longer than this by hand.
LONGEST_MS = 3_600_000
#: A run does not grow beyond so many steps.
MOST_STEPS = 4000


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
    return matched(with_step(run, run.at, ms=ms), ms)


def _more(run: Run, event: Event) -> Run:
    """One more rep, breath or pulse."""
    step = run.step
    if not step.unit_ms or not step.works:
        return run
    ms = min(LONGEST_MS, step.ms + step.unit_ms)
    return matched(with_step(run, run.at, ms=ms), ms)


def _end_now(run: Run, event: Event) -> Run:
    """What is on ends here; of reps, breaths and pulses the one that had begun counts for the other side."""
    if not run.step.works or not run.into:
        return moved_to(run, run.at + 1)
    unit = run.step.unit_ms or 1
    return moved_to(matched(run, -(-run.into // unit) * unit), run.at + 1)


def _they_are_in(run: Run, event: Event) -> Run:
    """Everybody is there: the work of this pass begins now."""
    group = run.step.group
    work = next((n for n in range(run.at, len(run.steps)) if run.steps[n].group == group and run.steps[n].works), None)
    return run if work is None or work == run.at else moved_to(run, work)


def _begins(run: Run, index: int) -> int:
    """Where the pass of a step begins."""
    while index > 0 and run.steps[index - 1].group == run.steps[index].group:
        index -= 1
    return index


def _skip(run: Run, event: Event) -> Run:
    """On to the next pass."""
    return moved_to(run, _next_pass(run))


def visit_of(step: Step) -> tuple[str, ...]:
    """What the steps of an item in one round have in common, over all its passes."""
    return step.item, *step.group.split(".")[2:]


def _skip_item(run: Run, event: Event) -> Run:
    """On to the next item: what is left of this one in its round is not done, also where it comes later in a chain."""
    visit, index = visit_of(run.step), run.at
    while index < len(run.steps) and visit_of(run.steps[index]) == visit:
        index += 1
    later = tuple(step for step in run.steps[index:] if visit_of(step) != visit)
    return replace(moved_to(replace(run, steps=(*run.steps[:index], *later)), index), left=(run.at, run.steps))


def _next_pass(run: Run) -> int:
    """Where the pass that is on is over."""
    index, group = run.at, run.step.group
    while index < len(run.steps) and run.steps[index].group == group:
        index += 1
    return index


def _repeat(run: Run, event: Event) -> Run:
    """This pass once more from its beginning."""
    return moved_to(run, _begins(run, run.at))


def _retake(run: Run, event: Event) -> Run:
    """The item that is on once more from its beginning: another take of all its passes."""
    index = min(run.at, len(run.steps) - 1)
    while index > 0 and run.steps[index - 1].item == run.steps[index].item:
        index -= 1
    return replace(moved_to(run, index), ended=False, running=True, stopped="")


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
        return replace(moved_to(whole, _begins(whole, index)), ended=False, running=True if run.ended else run.running)
    if not run.ended and lasted < BACK_WITHIN_MS and begin > 0:
        begin = _begins(run, begin - 1)
    return replace(moved_to(run, begin), ended=False, running=True if run.ended else run.running, stopped="")


def _swap(run: Run, event: Event) -> Run:
    """The other side first, as long as nothing of the second side has begun."""
    item, side = run.step.item, run.step.side
    here = [n for n, step in enumerate(run.steps) if step.item == item and step.side]
    if not side or any(n < run.at and run.steps[n].side != side for n in here):
        return run
    for n in here:
        if n >= _begins(run, run.at):
            run = with_step(run, n, side="right" if run.steps[n].side == "left" else "left")
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
    index = index_of(run, event.step)
    return run if index is None or index <= run.at else with_step(run, index, ms=min(LONGEST_MS, max(0, event.ms)))


def _easier(run: Run, event: Event) -> Run:
    """One option down the ladder of the move that is on; below the last one it is the move itself again."""
    rung = run.rung(run.step.item) - 1
    return _on_rung(run, 0 if rung < -run.step.down else rung)


def _deeper(run: Run, event: Event) -> Run:
    """One option up the ladder, as far as there are any."""
    return _on_rung(run, min(run.step.up, run.rung(run.step.item) + 1))


def _instead(run: Run, event: Event) -> Run:
    """Another of the moves that are kept ready, or after the last one the move itself again; the time stays."""
    item, many = run.step.item, run.step.instead
    nth = (dict(run.instead).get(item, 0) + 1) % (many + 1)
    others = frozenset(one for one in run.instead if one[0] != item)
    return replace(run, instead=others | {(item, nth)} if nth else others)


def _on_rung(run: Run, rung: int) -> Run:
    item = run.step.item
    others = frozenset(one for one in run.rungs if one[0] != item)
    return replace(run, rungs=others | {(item, rung)} if rung else others)


def _rewind(run: Run, event: Event) -> Run:
    """Back by so long, over the steps as they are: to where a laptop fell asleep."""
    index, into, back = min(run.at, len(run.steps) - 1), run.into, max(0, event.ms)
    while back > into and index > 0:
        back, index = back - into, index - 1
        into = run.steps[index].ms
    return replace(run, at=index, into=max(0, into - back))


def _end(run: Run, event: Event) -> Run:
    return replace(moved_to(run, len(run.steps)), stopped=run.step.id)


#: What leaves it open to go back to the item that was skipped just now.
KEEPS_LEFT = frozenset({"skip-item", "pause", "resume", "easier", "deeper", "instead", "mark"})
#: What still does something when the run has ended.
AFTER_THE_END = frozenset({"back", "retake"})
#: Every kind of event, by its name.
ACTIONS: Mapping[str, Callable[[Run, Event], Run]] = {
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
    "deeper": _deeper,
    "instead": _instead,
    "rewind": _rewind,
    "end": _end,
}
