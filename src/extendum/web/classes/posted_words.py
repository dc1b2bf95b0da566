"""What a form of the Desk or of Words posts about what is said of an item, and noted of it, as an edit of the core."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from extendum.core.edit import script_edits as edit
from extendum.core.edit.way_edits import set_way_words
from extendum.core.model.body import Base, Posture
from extendum.core.model.dose import COUNTED
from extendum.core.model.errors import RefusedError
from extendum.core.model.item import MoveItem
from extendum.core.model.move import Prop
from extendum.core.model.notes import Note, NoteWhen
from extendum.core.model.prompts import Prompt, PromptKind, Scope
from extendum.core.model.script import Script
from extendum.core.model.spoken import Place, respoken
from extendum.core.model.style import Facing
from extendum.core.model.talk import Quiet, Talk, TalkKind, TalkPace
from extendum.core.moves.further import further_lines
from extendum.web.classes.posted_items import move_of
from extendum.web.shared.forms import Edit, Form, choice, names_in, optional_side, own_choice, rows, whole

#: What parts the wordings of a prompt where they are typed.
BETWEEN = "|"


def _say_way(form: Form, script: Script) -> Edit:
    """Whether the ready-made words for the way into an item are said."""
    item = move_of(script, form["item"])
    say = not item.say_way
    told = "with the ready-made words" if say else "without the ready-made words"
    return Edit(lambda s: edit.set_move_item(s, item.id, say_way=say), f"{item.name}: {told}")


def _way_words(form: Form, script: Script) -> Edit:
    """The class's own words for the way from a support into a posture."""
    before, posture = choice(Base, form, "before", Base.STANDING), choice(Posture, form, "posture", Posture.STANDING)
    words = form.get("way_words", "").strip()
    label = f"Words from {before} to {posture}"
    return Edit(lambda s: set_way_words(s, before, posture, words), label, f"way.{before}.{posture}")


_TEXTS = ("moving", "there", "short", "switch", "turn", "again", "each", "release", "demonstration")


def _words(form: Form, script: Script) -> Edit:
    """Any of a move's texts and prompts that the form has; the others stay."""
    item = move_of(script, form["item"])
    told: dict[str, Any] = {name: form.get(name, "").strip() for name in _TEXTS if name in form}
    changed = replace(item, words=replace(item.words, **told))
    for stage in range(1, len(item.doses) + 1):
        changed = _with_prompts(changed, stage, _prompts(form, stage, changed))
        for field, place in ((f"stage-{stage}", "stage"), (f"stage-short-{stage}", "stage-short")):
            if stage > 1 and field in form:
                changed = _spoken(changed, Place(place, stage), form[field])
    if "phase" in form:
        stage, nth = whole(form, "phase_stage"), whole(form, "phase_nth")
        dose = changed.dose_at(stage) if 1 <= stage <= len(changed.doses) else None
        if not isinstance(dose, COUNTED) or not 0 <= nth < len(dose.says):
            raise RefusedError("phase", "words that a phase of this move has", f"number {nth + 1} of part {stage}")
        changed = _spoken(changed, Place("phase", stage, nth), form["phase"])
    return Edit(lambda s: edit.replace_items(s, {item.id: changed}), f"{item.name}: words", f"{item.id}.words")


def _spoken(item: MoveItem, place: Place, words: str) -> MoveItem:
    changed = respoken(item, place, words)
    return changed if isinstance(changed, MoveItem) else item


def _prompts(form: Form, stage: int, item: MoveItem) -> tuple[Prompt, ...]:
    """The prompts of a stage: all that the form has, or the one that it changes, or as they are."""
    prompts, prefix = list(item.prompts_at(stage)), prompt_prefix(stage)
    if prefix + "s" in form:
        read = (_prompt(form, f"{prefix}_{n}", prompts[n : n + 1]) for n in rows(form, prefix + "s"))
        return tuple(prompt for prompt in read if prompt)
    if prefix in form:
        n = whole(form, prefix)
        changed = _prompt(form, f"{prefix}_{n}", prompts[n : n + 1])
        prompts[n : n + 1] = [changed] if changed else []
    return tuple(prompts)


def prompt_prefix(stage: int) -> str:
    """How the fields of a stage's prompts are called."""
    return "prompt" if stage == 1 else f"prompt-{stage}"


def _with_prompts(item: MoveItem, stage: int, prompts: tuple[Prompt, ...]) -> MoveItem:
    if prompts == item.prompts_at(stage):
        return item
    if stage == 1:
        return replace(item, words=replace(item.words, prompts=prompts))
    then = list(item.then)
    then[stage - 2] = replace(then[stage - 2], prompts=prompts)
    return replace(item, then=tuple(then))


def _prompt(form: Form, name: str, there: list[Prompt]) -> Prompt | None:
    """A prompt of the form with its wordings; None where it is empty."""
    wordings = [one for one in (part.strip() for part in form.get(name, "").split(BETWEEN)) if one]
    if not wordings:
        return None
    old = there[0] if there else Prompt(PromptKind.FORM, wordings[0])
    return replace(
        old,
        kind=choice(PromptKind, form, f"{name}_kind", old.kind),
        when=choice(Scope, form, f"{name}_when", old.when),
        in_round=whole(form, f"{name}_round") if f"{name}_round" in form else old.in_round,
        text=wordings[0],
        others=tuple(wordings[1:]),
    )


def wordings_typed(prompt: Prompt) -> str:
    """The wordings of a prompt as they are typed."""
    return f" {BETWEEN} ".join(prompt.wordings)


def _line(form: Form, script: Script) -> Edit:
    """Say one more of the lines that a move offers."""
    item, text = move_of(script, form["item"]), form.get("line", "")
    found = next((one for one in further_lines(item) if one.text == text), None)
    if found is None:
        raise RefusedError("line", f"a line of {item.name} that is not said yet", text)
    words = replace(item.words, prompts=(*item.words.prompts, found))
    changed = replace(item, words=words)
    return Edit(lambda s: edit.replace_items(s, {item.id: changed}), f"{item.name}: says “{text}”"[:300])


def _talk_words(form: Form, script: Script) -> Edit:
    item = script.item(form["item"])
    if not isinstance(item, Talk):
        raise RefusedError("item", "a talk", item.name)
    changed = replace(
        item,
        words=form.get("words", item.words).strip(),
        kind=choice(TalkKind, form, "talk_kind", item.kind),
        pace=choice(TalkPace, form, "pace", item.pace),
        between="between" in form if "chained" in form else item.between,
    )
    if "picks_up" in form:
        picks = tuple(Prop(name) for name in names_in(form["picks_up"]))
        changed = replace(changed, picks_up=picks, puts_down=tuple(names_in(form.get("puts_down", ""))))
    return Edit(lambda s: edit.replace_items(s, {item.id: changed}), f"{item.name}: words", f"{item.id}.words")


def _talk_pace(form: Form, script: Script) -> Edit:
    """How the sentences of a talk lie in its time."""
    item = script.item(form["item"])
    if not isinstance(item, Talk):
        raise RefusedError("item", "a talk", item.name)
    changed = replace(item, pace=choice(TalkPace, form, "pace", item.pace))
    return Edit(lambda s: edit.replace_items(s, {item.id: changed}), f"{item.name}: sentences {changed.pace}")


def _notes(form: Form, script: Script) -> Edit:
    """The teacher's own notes at an item."""
    item = script.item(form["item"])
    if isinstance(item, Quiet):
        raise RefusedError("item", "a move or a talk", item.name)
    old = list(item.notes)
    read = (_note(form, f"note_{n}", old[n] if n < len(old) else None) for n in rows(form, "notes"))
    changed = replace(item, notes=tuple(note for note in read if note))
    return Edit(lambda s: edit.replace_items(s, {item.id: changed}), f"{item.name}: your notes", f"{item.id}.notes")


def _note(form: Form, name: str, old: Note | None) -> Note | None:
    """A note of the form; None where it says nothing."""
    text, facing = form.get(name, "").strip(), own_choice(Facing, form, f"{name}_facing", old.facing if old else None)
    if not text and facing is None:
        return None
    return Note(
        text,
        choice(NoteWhen, form, f"{name}_when", old.when if old else NoteWhen.BEFORE),
        whole(form, f"{name}_after") if f"{name}_after" in form else (old.after_s if old else 0),
        optional_side(form, f"{name}_side") if f"{name}_side" in form else (old.side if old else None),
        facing,
        old.extra if old else (),
    )


WORD_EDITS = {
    "say-way": _say_way,
    "way-words": _way_words,
    "words": _words,
    "line": _line,
    "talk-words": _talk_words,
    "talk-pace": _talk_pace,
    "notes": _notes,
}
