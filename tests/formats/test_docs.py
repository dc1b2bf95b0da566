"""What the documentation claims is true of the code."""

import json
import re
from dataclasses import replace
from pathlib import Path

import pytest

from extendum.cli import main
from extendum.commands import version_rows
from extendum.core.fit.versions import fitter_of, versions
from extendum.core.model.placeholders import PLACEHOLDERS
from extendum.core.model.style import CueStyle
from extendum.core.model.timeline import CueKind, SegmentKind
from extendum.core.timing.compile import compile_script
from extendum.core.timing.cues import RULES
from extendum.core.timing.speech import ceil_s, speaking_ms, word_count
from extendum.formats.document import dumps, loads, script_from
from extendum.formats.library import shipped_moves

ROOT = Path(__file__).parents[2]
FORMAT = (ROOT / "docs" / "format.md").read_text()


def test_the_example_in_the_format_page_compiles_to_its_hand_worked_length():
    example = script_from(json.loads(re.search(r"```json\n(.*?)```", FORMAT, re.S).group(1)))
    # talk 8; left: transition 3, settle 3, hold 30, release 2; right: switch 4, settle 3, hold 30, release 2; quiet 6
    assert compile_script(example).length_s == 8 + (3 + 3 + 30 + 2) + (4 + 3 + 30 + 2) + 6


WORKED = re.findall(r"\*\*([^*]+)\*\*: (\d+) s\..*?```json\n(.*?)\n```", FORMAT, re.S)


@pytest.mark.parametrize(("name", "seconds", "plain"), WORKED, ids=[one[0] for one in WORKED])
def test_a_worked_example_lasts_as_long_as_worked_out_by_hand(name, seconds, plain):
    given = json.loads(plain)
    group = {"id": "g", "items": given["items"], **given.get("group", {})}
    style = {"words_per_minute": 165, "settle_s": 3, **given.get("style", {})}
    document = {
        "format": "extendum-class",
        "version": 3,
        "title": name,
        "style": style,
        "brief": given.get("brief", {}),
    }
    section = {"id": "s", "role": given.get("role", "main"), "groups": [group]}
    script = script_from({**document, "sections": [section], "meanwhiles": given.get("meanwhiles", [])})
    assert compile_script(script).length_s == int(seconds)


def test_the_worked_examples_are_there():
    assert len(WORKED) >= 40


def listed(heading):
    paragraph = FORMAT.split(heading)[1].split("\n\n")[0]
    return set(re.findall(r"`([a-z-]+)`", re.sub(r"\(.*?\)", "", paragraph, flags=re.S)))


def test_the_closed_lists_are_those_of_the_code():
    assert listed("Segment kinds, a closed list:") == set(SegmentKind)
    assert listed("Cue kinds, a closed list:") == set(CueKind)
    assert set(re.findall(r"^\| `([a-z-]+)` \| [a-z]", FORMAT, re.M)) >= set(RULES)
    assert all("{" + name + "}" in FORMAT for name in PLACEHOLDERS)


def test_every_picture_is_linked_and_every_link_leads_somewhere():
    readme = (ROOT / "README.md").read_text()
    for picture in (ROOT / "docs" / "screenshots").glob("*.png"):
        assert picture.name in readme
    for page in [ROOT / "README.md", ROOT / "CONTRIBUTING.md", *(ROOT / "docs").glob("*.md")]:
        for target in re.findall(r"\]\(([^)#:]+)\)", page.read_text()):
            assert (page.parent / target).exists(), f"{page.name}: {target}"


@pytest.mark.parametrize("path", sorted((ROOT / "src/extendum/data/demo").glob("*.json")), ids=lambda path: path.stem)
def test_the_table_of_the_demo_classes_at_all_lengths_is_the_current_one(path):
    page = (ROOT / "docs" / "fit.md").read_text()
    script = loads(path.read_text())
    for any_move, told in ((False, "marked"), (True, "any move")):
        for length, cost, what in version_rows(versions(fitter_of(script, any_move=any_move))):
            assert f"| {script.title} | {told} | {length} | {cost or 'out of reach'} | {what} |\n" in page


def test_the_tables_of_the_library_are_the_present_ones(capsys):
    page = (ROOT / "docs" / "library.md").read_text()
    for table in ("--areas", "--conditions"):
        main(["moves", table])
        assert f"```\n{capsys.readouterr().out}```" in page


def test_the_longest_and_the_shortest_set_up_are_told_with_their_seconds():
    told = []
    for entry in shipped_moves():
        words = f"{entry.words.moving} {entry.words.there}".strip()
        seconds = ceil_s(speaking_ms(words, CueStyle().speech))
        told.append((seconds, word_count(words), entry.move.name))
    page = (ROOT / "docs" / "move-rubric.md").read_text()
    for which, (seconds, words, name) in (("longest", max(told)), ("shortest", min(told))):
        assert f"The {which} set-up is that of *{name}*: {words} words, {seconds} s" in page


def test_the_three_talk_styles_of_a_class_are_side_by_side(capsys, tmp_path):
    script = loads((ROOT / "src/extendum/data/demo/after-digging.json").read_text())
    style = replace(script.style, time_left=(10,), breath_every_s=15, last_calls=1)
    file = tmp_path / "class.json"
    file.write_text(dumps(replace(script, style=style)))
    main(["timeline", "--styles", str(file)])
    assert f"```\n{capsys.readouterr().out}```" in (ROOT / "docs" / "talk-styles.md").read_text()


def test_the_picture_of_the_architecture_names_every_package():
    picture = (ROOT / "docs" / "architecture.svg").read_text()
    for layer in ("core", "draw", "formats", "web"):
        assert f"{layer}/" in picture
        for package in (ROOT / "src" / "extendum" / layer).glob("*/__init__.py"):
            assert f"{package.parent.name}/" in picture


@pytest.mark.parametrize(
    "page", ["CONTRIBUTING.md", *(f"docs/{one.name}" for one in sorted((ROOT / "docs").glob("*.md")))]
)
def test_modules_that_the_docs_name_are_there(page):
    for path in re.findall(r"\b(?:core|draw|formats|web|tests|bench)/[\w/]+\.py\b", (ROOT / page).read_text()):
        assert (ROOT / path).exists() or (ROOT / "src/extendum" / path).exists(), path
