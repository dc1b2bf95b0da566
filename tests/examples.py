"""The examples of docs/checks.md: small changes of a class in which nothing is found, run as they are written."""

import json
import re
from dataclasses import dataclass
from pathlib import Path

from extendum.core.edit.script_edits import insert_item, remove_item
from extendum.core.edit.take_up import take_up
from extendum.formats.document import plain_of, script_from
from extendum.formats.library import shipped_move

DOCS = Path(__file__).parents[1] / "docs"
PAGE = (DOCS / "checks.md").read_text("utf-8")


@dataclass(frozen=True)
class Example:
    """A check's entry in the docs: its heading, its text, what is found with which sentence, and the near miss."""

    code: str
    severity: str
    text: str
    found: str
    sentence: str
    near: str


def examples():
    entries = re.split(r"^### ", PAGE, flags=re.M)[1:]
    return [_entry(entry) for entry in entries]


def _entry(entry):
    code, severity = re.match(r"`([a-z-]+)` \((\w+)\)", entry).groups()
    found, near = re.findall(r"```\n(.*?)```", entry, flags=re.S)
    sentence = re.search(r"^> (.*)$", entry, flags=re.M).group(1)
    return Example(code, severity, " ".join(entry.split()), found, sentence, near)


def base():
    return script_from(json.loads((DOCS / "nothing-to-find.json").read_text("utf-8")))


def changed(script, operations):
    """The script after each line: ``path = JSON`` (or ``"words " * 9``), ``take KEY after ITEM as ID``, ``drop ID``."""
    for line in operations.strip().splitlines():
        if line.startswith("take "):
            key, after, new = re.fullmatch(r"take (\S+) after (\S+) as (\S+)", line).groups()
            script = insert_item(script, take_up(shipped_move(key), new, script.style), after)
        elif line.startswith("drop "):
            script = remove_item(script, line.removeprefix("drop "))
        else:
            path, value, times = re.fullmatch(r"(\S+) = (.*?)(?: \* (\d+))?", line).groups()
            plain = plain_of(script)
            _set(plain, path, json.loads(value) * int(times) if times else json.loads(value))
            script = script_from(plain)
    return script


def _set(plain, path, value):
    """Set the value at a path that begins at the class, or at a section, a group or an item by its id."""
    steps = [int(n) if n else name for n, name in re.findall(r"\[(\d+)\]|([\w-]+)", path)]
    at, steps = (_by_id(plain, steps[0]), steps[1:]) if _by_id(plain, steps[0]) else (plain, steps)
    for step in steps[:-1]:
        at = at[step] if isinstance(step, int) else at.setdefault(step, {})
    if isinstance(at, list) and steps[-1] == len(at):
        at.append(value)
    else:
        at[steps[-1]] = value


def _by_id(plain, name):
    if isinstance(plain, dict):
        if plain.get("id") == name:
            return plain
        plain = list(plain.values())
    if isinstance(plain, list):
        return next((hit for one in plain if (hit := _by_id(one, name))), None)
    return None
