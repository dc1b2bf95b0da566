"""What the Desk shows of a class, put together for its templates."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from django.utils.safestring import SafeString, mark_safe

from extendum.core.compile import compile_script
from extendum.core.dose import Breaths, Hold, Reps
from extendum.core.fit import Fitter
from extendum.core.move import Sidedness
from extendum.core.passes import pass_facts
from extendum.core.script import Item, MoveItem, Quiet, Script, Talk
from extendum.core.sequence import Arrival, Pass, passes_of, sequence
from extendum.core.speech import speaking_ms
from extendum.core.style import Countdown, Teaching
from extendum.core.summary import Summary, summarise
from extendum.core.timeline import Timeline, clock
from extendum.core.words import CLASS_PLACEHOLDERS, PLACEHOLDERS, PromptKind, Words, fill
from extendum.draw.band import draw_band, draw_dose_band, section_spans
from extendum.draw.sheet import draw_sheet
from extendum.web.classes import store
from extendum.web.classes.models import Revision, StretchClass
from extendum.web.classes.posted import dose_words, tempo_fields


def drawn(svg: str) -> SafeString:
    """SVG from the drawing layer, which has escaped every text in it."""
    return mark_safe(svg)  # noqa: S308


@lru_cache(maxsize=64)
def compiled(document: bytes) -> Timeline:
    """The timeline of a stored document."""
    return compile_script(store._unpack(document))


@lru_cache(maxsize=64)
def fitter(document: bytes) -> Fitter:
    """What a stored document can be fitted to."""
    return Fitter(store._unpack(document))


@dataclass(frozen=True, slots=True)
class Row:
    """One line of the running order."""

    item: Item
    number: int
    dose: str
    start: str
    band: SafeString
    posture: str
    chosen: bool


@dataclass(frozen=True, slots=True)
class Block:
    """A section of the running order with its rows."""

    section: Any
    group_id: str
    rows: list[Row]
    length: str


def desk_context(of: StretchClass, chosen_id: str | None) -> dict[str, Any]:
    """Everything that the Desk shows, for a class and the item chosen on it."""
    head = of.head
    assert head is not None  # noqa: S101 - a class is made with its first revision
    document = bytes(head.document)
    script, timeline, fits = store.script_of(head), compiled(document), fitter(document)
    ids = [item.id for item in script.items()]
    chosen = script.item(chosen_id) if chosen_id in ids else None
    length, target = timeline.length_s, script.brief.target_s
    spans = section_spans(timeline, [(s.name, {i.id for i in s.items}) for s in script.sections])
    return {
        "class": of,
        "script": script,
        "length": clock(length),
        "target": clock(target),
        "on_target": length == target,
        "off_target": _difference(length, target),
        "band": drawn(draw_band(spans, length, fits.least_s, fits.most_s, target)),
        "sheet": drawn(draw_sheet(timeline, script, chosen.id if chosen else None)),
        "blocks": _blocks(script, timeline, chosen),
        "chosen": chosen,
        "panel": _panel(script, timeline, chosen) if chosen else _class_panel(script),
        "summary": summary_line(summarise(script, timeline)),
        "moves": len(script.moves()),
        "can_undo": head.parent_id is not None,
        "can_redo": head.forward_id is not None,
        "undo_label": head.label,
        "steps": Revision.objects.filter(of=of).count(),
    }


def _difference(length: int, target: int) -> str:
    if length == target:
        return "to the second"
    return f"{clock(abs(length - target))} {'over' if length > target else 'short of'} {clock(target)}"


def _blocks(script: Script, timeline: Timeline, chosen: Item | None) -> list[Block]:
    starts: dict[str, int] = {}
    for segment in timeline.segments:
        starts.setdefault(segment.item, segment.start_s)
    number, blocks = 0, []
    for section in script.sections:
        for group in section.groups:
            rows = []
            for item in group.items:
                number += 1
                rows.append(
                    Row(
                        item,
                        number,
                        dose_words(item),
                        clock(starts[item.id]) if item.id in starts else "–",
                        drawn(draw_dose_band(item.quantity)),
                        item.move.posture.value if isinstance(item, MoveItem) else item.tag,
                        item is chosen,
                    )
                )
            own = {item.id for item in group.items}
            seconds = sum(s.seconds for s in timeline.segments if s.item in own)
            blocks.append(Block(section, group.id, rows, clock(seconds)))
    return blocks


def summary_line(s: Summary) -> list[tuple[str, str]]:
    """The facts of a class that a glance should tell."""
    if s.sides_equal:
        sides = f"left and right {clock(s.left_s)} each"
    else:
        sides = f"left {clock(s.left_s)}, right {clock(s.right_s)}"
    ups = "stays up" if not s.floor_changes else f"down or up {s.floor_changes}×"
    return [
        ("Sides", sides),
        ("Talk", f"{s.talk_percent} %"),
        ("Longest quiet", f"{s.longest_quiet_s} s" if s.longest_quiet_s < 100 else clock(s.longest_quiet_s)),
        ("Floor", ups),
        ("Unsaid", f"{s.unsaid}"),
    ]


def _panel(script: Script, timeline: Timeline, item: Item) -> dict[str, Any]:
    segments = timeline.of_item(item.id)
    found: dict[str, Any] = {
        "kind": item.tag,
        "quantity": item.quantity,
        "dose_band": drawn(draw_dose_band(item.quantity, 220)),
        "unsaid": [u for u in timeline.unsaid if u.id.startswith(f"{item.id}.")],
        "reasons": segments,
        "lasts": clock(sum(s.seconds for s in segments)),
        "unit": "s",
        "step": 5,
    }
    if isinstance(item, Talk):
        wpm = script.style.words_per_minute
        needs = speaking_ms(item.words, wpm) / 1000
        found |= {"needs": f"{needs:.1f}", "overruns": needs > item.quantity.value}
        found["placeholders"] = [p for p in PLACEHOLDERS if p in CLASS_PLACEHOLDERS]
    if isinstance(item, MoveItem):
        found |= _move_panel(script, item)
    return found


def pass_words(this: Pass) -> str:
    """A pass in a few words: ``left``, ``right, backward``, ``both, round 2``."""
    told = [str(this.side), this.direction or ""]
    told += [f"set {this.set_number}"] if this.item.sets > 1 else []
    told += [f"round {this.round}"] if this.group.rounds > 1 else []
    return ", ".join(filter(None, told))


def _move_panel(script: Script, item: MoveItem) -> dict[str, Any]:
    dose = item.dose
    steps = sequence(script)
    return {
        "kinds": [(k.tag, k.tag == dose.tag) for k in (Hold, Reps, Breaths)],
        "unit": dose.unit,
        "step": 5 if isinstance(dose, Hold) else 1,
        "tempo": tempo_fields(dose),
        "sides": [(s.value, s is item.move.sidedness) for s in Sidedness],
        "order": [pass_words(p) for p in passes_of(item, steps)],
        "words": _word_fields(script, item, passes_of(item, steps)),
        "prompts": [(n, p, [(k.value, k is p.kind) for k in PromptKind]) for n, p in enumerate(item.words.prompts)],
        "new_prompt": len(item.words.prompts),
        "prompt_kinds": [k.value for k in PromptKind],
        "prompt_count": len(item.words.prompts) + 1,
        "placeholders": list(PLACEHOLDERS),
        "cautions": item.move.cautions,
        "props": item.move.props,
    }


_WORD_FIELDS = (
    ("moving", "While moving"),
    ("there", "Once there"),
    ("short", "Short, later on"),
    ("switch", "At the switch"),
    ("turn", "Change of direction"),
    ("release", "Release"),
    ("demonstration", "While showing it"),
)


def _word_fields(script: Script, item: MoveItem, own: list[Pass]) -> list[dict[str, Any]]:
    """The texts of a move that its passes use, or that already say something, with their speaking time."""
    used = {"moving", "there", "release"}
    used |= {"short"} if any(p.arrival is Arrival.AGAIN for p in own) else set()
    used |= {"switch"} if item.move.sided else set()
    used |= {"turn"} if item.move.sidedness.by_direction else set()
    used |= {"demonstration"} if item.demonstrate_s else set()
    facts = dict.fromkeys(CLASS_PLACEHOLDERS, "next")
    shown = []
    for name, label in _WORD_FIELDS:
        words = getattr(item.words, name)
        if name in used or words:
            which = next((p for p in own if p.arrival is _ARRIVES.get(name)), own[0])
            spoken = fill(words, pass_facts(which, script.style, facts))
            ms = speaking_ms(spoken, script.style.words_per_minute)
            shown.append(
                {"name": name, "label": label, "words": words, "seconds": f"{ms / 1000:.1f} s", "spoken": spoken}
            )
    return shown


_ARRIVES = {"short": Arrival.AGAIN, "switch": Arrival.SWITCH, "turn": Arrival.TURN}


def _class_panel(script: Script) -> dict[str, Any]:
    style = script.style
    return {
        "kind": "class",
        "style": style,
        "countdowns": [(c.value, c is style.countdown) for c in Countdown],
        "teachings": [(t.value, t is style.teaching) for t in Teaching],
        "quiet": Quiet.tag,
        "words_type": Words.__name__,
    }
