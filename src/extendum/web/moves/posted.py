"""What the form of an own move posts, as an entry of the library; refusals name the field and what was typed."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import replace
from typing import Any

from extendum.core.model.body import Posture, Region
from extendum.core.model.dose import Dose, Hold
from extendum.core.model.dose_kinds import as_kind
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.library import LibraryMove
from extendum.core.model.move import (
    Bearing,
    Caution,
    Effect,
    Kind,
    Move,
    Named,
    OnSide,
    Option,
    OptionKind,
    Prop,
    Sidedness,
    Target,
    Watch,
)
from extendum.core.model.prompts import Prompt, PromptKind
from extendum.core.model.style import Facing
from extendum.core.model.words import Words
from extendum.formats.figures import shipped_figures
from extendum.formats.sources import source_told
from extendum.web.shared.dose_forms import detailed
from extendum.web.shared.forms import Form, choice, many, rows, whole

#: Rows that the form leaves free for more.
FREE_TARGETS, FREE_OTHERS = 2, 1
#: From where an own move can have its figure looked at, in degrees from the side to the front.
VIEWS = {"the side": 20, "the other side": 160, "the front": 90, "behind": 270}
TEXTS = ("moving", "there", "short", "switch", "turn", "each", "release")

#: What an own move starts from.
BLANK = LibraryMove(Move("New move", targets=()), Hold(Elastic(15, 25, 40)), Words())


def entry_from(form: Form, base: LibraryMove, known: Collection[str] = ()) -> LibraryMove:
    """The entry that the form asks for; what the form does not ask for stays as in the one it started from.

    ``known``: the keys of the moves that options and cautions may name.
    """
    old = base.move
    name = form.get("name", "").strip()
    if not name:
        raise RefusedError("name", "given, such as “Wall lean”", "")
    move = replace(
        old,
        name=name,
        posture=choice(Posture, form, "posture", old.posture),
        end_posture=choice(Posture, form, "end_posture", old.posture) if form.get("end_posture") else None,
        sidedness=choice(Sidedness, form, "sidedness", old.sidedness),
        named=choice(Named, form, "named", old.named),
        kind=choice(Kind, form, "kind", old.kind),
        effort=whole(form, "effort"),
        directions=(form.get("direction_1", "").strip(), form.get("direction_2", "").strip()),
        directions_follow_side="directions_follow_side" in form,
        space=form.get("space", "").strip(),
        slow_rise_s=whole(form, "slow_rise_s"),
        weight_on=tuple(Bearing(one) for one in many(form, "weight_on")),
        targets=_targets(form),
        props=_props(form, old),
        cautions=_cautions(form),
        options=_options(form),
        watch=_watch(form),
        why=form.get("why", "").strip(),
        why_from=_source_key(form.get("why_from", "").strip(), old.why_from),
        **_figure(form, old),
    )
    for named in (*(one.move for one in move.options), *(one.instead for one in move.cautions)):
        if named and named not in known:
            raise RefusedError("move to do instead", "the key of a move in your library, such as calf-lean", named)
    dose = _dose(form, base.dose)
    told: dict[str, Any] = {text: form.get(text, "").strip() for text in TEXTS}
    words = replace(base.words, **told)
    return replace(
        base,
        move=move,
        dose=dose,
        words=replace(words, prompts=_prompts(form, base.words.prompts)),
        sets=whole(form, "sets"),
        facing=choice(Facing, form, "facing", base.facing),
        holds=base.holds if isinstance(dose, Hold) else (),
        no_objection=tuple(one for one in base.no_objection if one not in {c.condition for c in move.cautions}),
    )


def _source_key(typed: str, before: str) -> str:
    """The key of the source it had, if what is typed is still that source; otherwise what is typed."""
    return before if typed == source_told(before) else typed


def views_of(move: Move) -> dict[str, int]:
    """From where a figure can be seen, by name; also from where that of this move is, whatever that is."""
    here = move.figure_view
    return VIEWS if here is None or here in VIEWS.values() else VIEWS | {f"{here} degrees from the side": here}


def _figure(form: Form, move: Move) -> dict[str, Any]:
    """Whose figure it has, on which side, and seen from where."""
    key, seen = form.get("figure", ""), form.get("figure_view", "")
    if key and key not in shipped_figures():
        raise RefusedError("figure", "the key of a shipped move", key)
    return {"figure": key, "figure_flipped": "figure_flipped" in form, "figure_view": views_of(move).get(seen)}


def _targets(form: Form) -> tuple[Target, ...]:
    found = []
    for n in rows(form, "target_rows"):
        if form.get(f"target_{n}_region"):
            found.append(
                Target(
                    choice(Region, form, f"target_{n}_region", Region.SPINE),
                    choice(Effect, form, f"target_{n}_effect", Effect.STRETCH),
                    form.get(f"target_{n}_main", "main") == "main",
                    choice(OnSide, form, f"target_{n}_side", OnSide.NAMED),
                )
            )
    if not any(target.main for target in found):
        raise RefusedError("targets", "at least one area that the move is mainly for", f"{len(found)} areas")
    return tuple(found)


def _props(form: Form, old: Move) -> tuple[Prop, ...]:
    before = {prop.name: prop for prop in old.props}
    found = []
    for n in rows(form, "prop_rows"):
        name = form.get(f"prop_{n}_name", "").strip()
        if name:
            prop = before.get(name, Prop(name))
            must, required = form.get(f"prop_{n}_must", "").strip(), f"prop_{n}_required" in form
            others = tuple(one.strip() for one in form.get(f"prop_{n}_else", "").split(",") if one.strip())
            found.append(replace(prop, must_be=must, or_else=others, required=required))
    return tuple(found)


def _cautions(form: Form) -> tuple[Caution, ...]:
    told = [(form.get(f"caution_{n}_condition", "").strip(), n) for n in rows(form, "caution_rows")]
    return tuple(
        Caution(
            condition,
            form.get(f"caution_{n}_advice", "").strip(),
            f"caution_{n}_out" in form,
            form.get(f"caution_{n}_instead", "") if f"caution_{n}_out" in form else "",
        )
        for condition, n in told
        if condition
    )


def _watch(form: Form) -> tuple[Watch, ...]:
    """Mistakes to watch for: what is seen and what to say, both or neither."""
    told = [[form.get(f"watch_{n}_{part}", "").strip() for part in ("seen", "say")] for n in rows(form, "watch_rows")]
    for n, (seen, say) in enumerate(told, 1):
        if bool(seen) != bool(say):
            what = f"“{seen or say}” alone"
            raise RefusedError(f"mistake {n}", "what you see and what you say then, both or neither", what)
    return tuple(Watch(seen, say) for seen, say in told if seen)


def _options(form: Form) -> tuple[Option, ...]:
    found = []
    for n in rows(form, "option_rows"):
        words, move = form.get(f"option_{n}_words", "").strip(), form.get(f"option_{n}_move", "")
        if words or move:
            found.append(Option(choice(OptionKind, form, f"option_{n}_kind", OptionKind.EASIER), words, move))
    return tuple(found)


def _prompts(form: Form, before: tuple[Prompt, ...]) -> tuple[Prompt, ...]:
    found = []
    for n in rows(form, "prompt_rows"):
        text = form.get(f"prompt_{n}_text", "").strip()
        if text:
            kind = choice(PromptKind, form, f"prompt_{n}_kind", PromptKind.FORM)
            old = before[n] if n < len(before) else Prompt(kind, text)
            found.append(replace(old, kind=kind, text=text))
    return tuple(found)


def _dose(form: Form, before: Dose) -> Dose:
    kind = form.get("dose_kind", before.tag)
    if kind != before.tag:
        return as_kind(before, kind)
    least, wanted, most = (whole(form, name) for name in ("least", "wanted", "most"))
    try:
        return detailed(before.having(Elastic(least, wanted, most)), form)
    except RefusedError as error:
        raise error.within("dose") from None
