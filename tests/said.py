"""Labelled sentences in the classes that they stand in, and how well the word checks hear them.

A sentence of `tests/data/said` says where it stands (an opening or closing talk, a text or prompt of a move, a
meanwhile), in which class of `bases/`, which codes must be reported (`labels`) and which must not (`never`). Codes of
checks that listen count whenever they are reported there and are not wanted; others where the lists name them.
"""

import copy
import json
import re
import sys
from collections import defaultdict
from dataclasses import dataclass, field
from pathlib import Path

from extendum.core.checks.report import check
from extendum.core.timing.compile import compile_script
from extendum.formats.document import script_from

DATA = Path(__file__).parent / "data" / "said"
TALKS = {"opening talk": "opening", "closing talk": "closing"}
#: Checks that listen for what is said.
LISTENING = {
    *("claim", "pushing", "feel-elsewhere", "number-false", "seconds-guessed", "literal-side", "next-differs"),
    *("breath-held", "breath-forced", "bouncing", "eyes-closed", "said-to-room", "easier-late"),
}
_MARK = re.compile(r"\s*<<[a-z ]+>>")


@dataclass
class Score:
    """Which sentences were heard as they should, which were missed, which were taken for something else, by code."""

    right: dict = field(default_factory=lambda: defaultdict(list))
    missed: dict = field(default_factory=lambda: defaultdict(list))
    wrong: dict = field(default_factory=lambda: defaultdict(list))

    @staticmethod
    def _all(some):
        return sum(map(len, some.values()))

    @property
    def recall(self):
        return self._all(self.right) / (self._all(self.right) + self._all(self.missed))

    @property
    def precision(self):
        return self._all(self.right) / (self._all(self.right) + self._all(self.wrong))

    def of(self, code):
        """Recall of one code, and out of how many."""
        wanted = len(self.right[code]) + len(self.missed[code])
        return (len(self.right[code]) / wanted if wanted else 1.0), wanted


def sentences(name):
    return json.loads((DATA / f"{name}.json").read_text("utf-8"))


def score(name):
    """How well the checks hear a set of sentences; those that remind of the same thing are one trial."""
    bases = {path.stem: json.loads(path.read_text("utf-8")) for path in (DATA / "bases").glob("*.json")}
    trials = defaultdict(list)
    for one in sentences(name):
        trials[one["context"].get("reminders", one["id"])].append(one)
    found = Score()
    for group in trials.values():
        one = group[0]
        document, at = _class_of(one, bases, group if "reminders" in one["context"] else ())
        script = script_from(document)
        codes = _reported(check(script, compile_script(script)).open, at, one)
        for code in codes | set(one["labels"]):
            wanted = code in one["labels"]
            into = found.right if code in codes and wanted else found.missed if wanted else found.wrong
            into[code].append(one["text"])
    return found


def _reported(findings, at, one):
    named = {*one["labels"], *one["never"]}
    whole = one["where"] in TALKS or not at
    codes = set()
    for finding in findings:
        listens = finding.code in LISTENING
        here = at in finding.found.items or not finding.found.items or (whole and not listens) or not at
        if here and (listens or finding.code in named) and finding.code not in one.get("also", ()):
            codes.add(finding.code)
    return codes


def _items(document):
    return [item for section in document["sections"] for group in section["groups"] for item in group["items"]]


def _class_of(one, bases, reminders):
    """The class around a sentence, or around reminders, and the item that it stands at; empty for several items."""
    context, where = one["context"], one["where"]
    document = copy.deepcopy(bases[context.get("base") or _home(context.get("move", ""), bases)])
    items = {item["id"]: item for item in _items(document)}
    move = items.get(context.get("move", ""))
    _shape(document, move, context)
    if reminders:
        moves = [item for item in items.values() if item["type"] == "move"]
        for item, told in zip(moves, reminders, strict=False):
            item["words"]["prompts"][-1] |= {"kind": told["context"].get("kind", "form"), "text": told["text"]}
        return _cleared(document), ""
    if where in TALKS:
        talk = items[TALKS[where]]
        talk["words"] = _put(talk["words"], one)
        talk["seconds"] |= {"least": 5, "wanted": min(120, 15 + len(talk["words"].split()) * 60 // 150)}
        return _cleared(document), talk["id"]
    if where == "meanwhile":
        document["meanwhiles"][0]["words"] = one["text"]
        return _cleared(document), ""
    if where == "prompt":
        move["words"]["prompts"][-1] |= {"kind": context.get("kind", "form"), "text": one["text"]}
    else:
        move["words"][where] = _put(move["words"].get(where, ""), one)
    return _cleared(document), move["id"]


def _home(move, bases):
    """The class that has a move; the standing one for none."""
    has = (name for name, document in bases.items() if move in {item["id"] for item in _items(document)})
    return next(has) if move else "standing"


def _shape(document, move, context):
    """Set what the context says of the class: setting, conditions, pace and rounds, and the move's dose and sets."""
    document["brief"] |= {
        "setting": context.get("style", "live"),
        "conditions": context.get("brief_conditions", []),
    }
    if "pace_percent" in context:
        document["style"]["pace_percent"] = context["pace_percent"]
    if "rounds" in context:
        (main,) = [section for section in document["sections"] if section["role"] == "main"]
        main["groups"][0]["rounds"] = context["rounds"]
    if move is None:
        return
    if context.get("dose_set"):
        move["dose"] = _dose(context["dose"], move["dose"])
    if "count_is" in context:
        move["count_is"] = context["count_is"]
    if "sets" in context:
        move |= {"sets": context["sets"], "rest_s": 5}
    if context.get("prop") == "none":
        move["move"]["props"] = []
    if "easier option" in context.get("without", ()):
        move["words"]["prompts"] = [one for one in move["words"]["prompts"] if one["kind"] != "easier"]


def _dose(told, old):
    """A dose from words such as ``hold 20 s``, ``6 reps`` or ``4 breaths``."""
    number = int(re.search(r"\d+", told).group())
    limits = {"least": 1, "wanted": number, "most": max(2 * number, 60)}
    kind = next((kind for kind in ("hold", "timed", "open") if told.startswith(kind)), "")
    if kind:
        return {"type": kind, "seconds": limits} | ({"manner": "steady"} if kind == "timed" else {})
    if "breath" in told:
        return {"type": "breaths", "count": limits, "in_ms": old.get("in_ms", 4000), "out_ms": old.get("out_ms", 6000)}
    return {"type": "reps", "count": limits, "out_ms": old.get("out_ms", 2000), "back_ms": old.get("back_ms", 2000)}


def _put(text, one):
    """A text of a base with the sentence at its mark, or instead of the whole text."""
    if one["context"].get("instead_of") == "own words":
        return one["text"]
    return text.replace(f"<<{one['where']}>>", one["text"])


def _cleared(value):
    """A document without its marks, and without prompts that have no words."""
    if isinstance(value, str):
        return _MARK.sub("", value).strip()
    if isinstance(value, list):
        whole = [_cleared(one) for one in value]
        return [one for one in whole if not (isinstance(one, dict) and "priority" in one and not one["text"])]
    if isinstance(value, dict):
        return {key: _cleared(one) for key, one in value.items()}
    return value


def main(name):
    """Print how well a set is heard: what was missed and what was taken for something else, by code."""
    found = score(name)
    for told, some in (("missed", found.missed), ("wrong", found.wrong)):
        for code, texts in sorted(some.items()):
            print(*(f"{told} {code}: {text}" for text in texts), sep="\n")
    print(f"{len(sentences(name))} sentences: recall {found.recall:.0%}, precision {found.precision:.0%}")


if __name__ == "__main__":
    main(sys.argv[1])
