"""The own document: nothing is lost on a round trip, and every wrong place is named."""

import json
from pathlib import Path

import jsonschema
import pytest
from hypothesis import given

from extendum.core.model.errors import RefusedError
from extendum.core.model.move import OnSide
from extendum.formats.document import dumps, loads, plain_of, script_from
from extendum.formats.schema import schema
from tests.strategies import scripts

ROOT = Path(__file__).parents[2]
GOLDEN = (ROOT / "tests" / "data" / "golden.json").read_text()
VALID = jsonschema.Draft202012Validator(schema())
DEMOS = sorted((ROOT / "src/extendum/data/demo").glob("*.json"))


@given(scripts())
def test_written_and_read_again_is_equal(script):
    assert loads(dumps(script)) == script
    VALID.validate(plain_of(script))


def test_fields_of_a_newer_version_survive():
    plain = json.loads(GOLDEN)
    plain["mood"] = {"calm": [1, None]}
    plain["sections"][0]["groups"][0]["items"][2]["dose"]["ramp"] = "slow"
    plain["sections"][0]["groups"][0]["items"][2]["move"]["props"] = [{"name": "wall", "hue": 3}]
    again = plain_of(script_from(plain))
    assert again["mood"] == {"calm": [1, None]}
    item = again["sections"][0]["groups"][0]["items"][2]
    assert item["dose"]["ramp"] == "slow"
    assert item["move"]["props"][0]["hue"] == 3


def broken(change):
    plain = json.loads(GOLDEN)
    change(plain)
    return json.dumps(plain)


ITEM = "sections[0].groups[0].items[2]"


@pytest.mark.parametrize(
    ("change", "path", "must"),
    [
        (lambda p: p.update(format="other"), "format", "'extendum-class'"),
        (lambda p: p.update(version=True), "version", "a whole number from 1"),
        (lambda p: p.update(version=4), "version", "from 1 to 3, the newest that this program knows"),
        (lambda p: p.update(title="\ud800"), "title", "whole letters"),
        (lambda p: p.update(mood=float("inf")), "mood", "a finite number"),
        (lambda p: p.update(mood=[{"a": 10**18}]), "mood[0].a", "at most 18 digits"),
        (lambda p: p.update({"mood": {"\udc00": 1}}), "mood", "whole letters"),
        (lambda p: p.pop("title"), "title", "given"),
        (lambda p: p.update(title=""), "title", "1 to 200 characters"),
        (lambda p: p["brief"].update(target_s="ten"), "brief.target_s", "a whole number"),
        (lambda p: p["style"].update(lead_side="both"), "style.lead_side", "left or right"),
        (lambda p: p["style"].update(words_per_minute=20), "style.words_per_minute", "from 60 to 300"),
        (lambda p: p.update(sections={}), "sections", "a list"),
        (lambda p: item(p)["dose"].update(type="nap"), f"{ITEM}.dose.type", "one of hold, pulses, reps"),
        (lambda p: item(p)["dose"]["seconds"].update(most=20), f"{ITEM}.dose.seconds.most", "at least the wanted 30"),
        (lambda p: item(p)["dose"]["seconds"].update(now=50), f"{ITEM}.dose.seconds.now", "from 15 to 45"),
        (lambda p: item(p)["words"].update(release="Now {sdie}."), f"{ITEM}.words.release", "placeholders are among"),
        (lambda p: item(p)["words"].update(release="Now {side."), f"{ITEM}.words.release", "each { closed"),
        (lambda p: item(p).update(id="a"), f"{ITEM}.id", "different from every other id"),
        (lambda p: item(p).update(id="a b"), f"{ITEM}.id", "letters, digits"),
        (lambda p: item(p)["move"].update(posture="floating"), f"{ITEM}.move.posture", "one of standing"),
    ],
)
def test_a_wrong_value_is_named_with_its_path(change, path, must):
    with pytest.raises(RefusedError) as refused:
        loads(broken(change))
    assert refused.value.path == path
    assert must in refused.value.must


def item(plain):
    return plain["sections"][0]["groups"][0]["items"][2]


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "line 1, column 1"),
        ('{"a": \n }', "line 2, column 2"),
        ("[1]", "a JSON object"),
        ('{"a": NaN}', "a: must be a finite number"),
        (b"\xff\xfe{}", "UTF-8"),
        ("[" * 100_000, "nested"),
        ('"' + "x" * 4_000_001 + '"', "at most 4,000,000 bytes"),
        ('{"a": ' + "[" * 33 + "]" * 33 + "}", "at most 32 levels"),
        ('{"a": [' + "0," * 200_000 + "0]}", "at most 200,000 values"),
        ('{"a": {"b": 1, "b": 2}}', "a: must be an object in which each name stands once; found 'b' more than once"),
        ('{"a": ' + "9" * 5000 + "}", "a: must be a number of at most 18 digits; found 5,000 digits"),
        ('{"a": "x\n"}', "a line break or another control character"),
        ('{"a": 1,}', "a name in double quotes should stand here"),
    ],
)
def test_what_is_no_document_says_where_and_why(text, said):
    with pytest.raises(RefusedError) as refused:
        loads(text)
    assert said in str(refused.value)


def test_the_shipped_schema_is_the_current_one_and_accepts_the_demo_classes():
    shipped = json.loads((ROOT / "docs" / "class.schema.json").read_text())
    assert shipped == schema()
    assert len(DEMOS) == 5
    for path in DEMOS:
        VALID.validate(json.loads(path.read_text()))
        assert dumps(loads(path.read_text())) == path.read_text()


def test_version_1_said_of_the_whole_move_which_side_it_stretches():
    plain = json.loads(GOLDEN)
    plain["version"] = 1
    item(plain)["move"] |= {"targets": [{"region": "calf"}, {"region": "ankle"}], "stretches_other_side": True}
    script = loads(json.dumps(plain))
    targets = script.item(item(plain)["id"]).move.targets
    assert [target.side for target in targets] == [OnSide.OTHER, OnSide.OTHER]
    assert "stretches_other_side" not in dumps(script)
    plain["version"] = 2
    assert loads(json.dumps(plain)).item(item(plain)["id"]).move.targets[0].side is OnSide.NAMED


QUICK = {"count": {"least": 1, "wanted": 99, "most": 99}}
LIMITS = {"passes": 4000, "reps, breaths and pulses": 40_000, "seconds (24 hours)": 86_400}


@pytest.mark.parametrize(
    ("what", "item", "rounds"),
    [
        ("passes", {"sets": 20}, 20),
        (
            "reps, breaths and pulses",
            {"dose": {"type": "reps", "count": {"least": 1, "wanted": 99, "most": 99}, "out_ms": 100, "back_ms": 100}},
            20,
        ),
        ("seconds (24 hours)", {"dose": {"type": "hold", "seconds": {"least": 1, "wanted": 3000, "most": 7200}}}, 1),
    ],
)
def test_a_class_that_unfolds_to_more_than_anybody_teaches_is_refused_before_it_is_unfolded(what, item, rounds):
    plain = json.loads(GOLDEN)
    hold = {"type": "hold", "seconds": {"least": 1, "wanted": 5, "most": 60}}
    items = [
        {"type": "move", "id": f"m{n}", "move": {"name": "M", "sidedness": "each side"}, "dose": hold, **item}
        for n in range(100)
    ]
    plain["meanwhiles"], plain["sections"] = (
        [],
        [{"id": "s", "groups": [{"id": "g", "items": items, "rounds": rounds}]}],
    )
    with pytest.raises(RefusedError) as refused:
        script_from(plain)
    assert refused.value.path.startswith("sections[0].groups[0].items[")
    assert refused.value.must.startswith(f"at most {LIMITS[what]:,} {what}")
