"""`extendum propose`: classes into files, figures as JSON, and what stands in the way."""

import json
from dataclasses import replace

from bench.briefs import brief_of
from extendum.cli import main
from extendum.core.model.body import Posture, Region
from extendum.core.model.brief import AtHand
from extendum.core.timing.layout import length_of
from extendum.formats.document import dumps, loads


def test_two_classes_are_proposed_into_two_files(tmp_path, capsys):
    given, out = tmp_path / "brief.json", tmp_path / "class.json"
    given.write_text(dumps(brief_of(1)))
    asked = ["propose", str(given), "--to", "6:10", "-n", "2", "--seconds", "10", "-o", str(out), "--json"]
    assert main(asked) == 0
    first, second = json.loads(capsys.readouterr().out)["proposals"]
    assert first["seconds"] == second["seconds"] == 370
    assert first["planned"] <= first["bound"] and first["open"] == [] and len(first["told"]) == 3
    made = [loads(path.read_text()) for path in (out, tmp_path / "class-2.json")]
    assert [length_of(one) for one in made] == [370, 370]
    assert [item.move.key for item in made[0].moves()] == first["moves"]


def test_a_brief_that_cannot_be_met_gives_its_wishes_and_the_exit_code_1(tmp_path, capsys):
    script = brief_of(1)
    brief = replace(script.brief, areas=(Region.INNER_THIGH,), postures=(Posture.PRONE,), props=(AtHand("wall"),))
    given = tmp_path / "brief.json"
    given.write_text(dumps(replace(script, brief=brief)))
    assert main(["propose", str(given)]) == 1
    assert "- inner thigh: no move reaches it" in capsys.readouterr().out
    assert main(["propose", str(given), "--json"]) == 1
    assert json.loads(capsys.readouterr().out)["proposals"] == []
