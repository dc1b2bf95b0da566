"""Checks: each finds its example and leaves the near miss; they are few, and what they offer mends."""

import dataclasses
from pathlib import Path

import pytest
from hypothesis import given, settings

from extendum.core.checks.finding import Severity
from extendum.core.checks.outcome import mended
from extendum.core.checks.report import BY_CODE, CHECKS, check, keep, open_again
from extendum.core.edit import dose_edits
from extendum.core.edit import script_edits as edit
from extendum.core.fit.fit import Fitter
from extendum.core.model.body import Posture
from extendum.core.model.elastic import Elastic
from extendum.core.model.errors import RefusedError
from extendum.core.model.script import Meanwhile
from extendum.core.model.talk import Talk
from extendum.core.moves.cautions import rises
from extendum.core.timing.compile import compile_script
from extendum.core.timing.layout import talk_needs_s
from extendum.formats.document import dumps, loads
from extendum.formats.library import shipped_moves
from tests.examples import base, changed, examples
from tests.strategies import scripts

ROOT = Path(__file__).parents[2]
EXAMPLES = {one.code: one for one in examples()}
each_check = pytest.mark.parametrize("code", [one.code for one in CHECKS])


def report_of(script):
    return check(script, compile_script(script), shipped_moves())


def remedied(script, finding):
    """The class with a finding's remedy."""
    return mended(script, finding, shipped_moves()).script


def of_code(report, code):
    return [one for one in report.open if one.code == code]


DEMO = "src/extendum/data/demo"


def read(name):
    return loads((ROOT / name).read_bytes())


def test_nothing_is_found_in_the_class_that_the_examples_change():
    assert report_of(base()).open == ()


def test_every_check_has_one_code_one_entry_in_the_docs_and_an_order_of_its_own():
    assert list(BY_CODE) == [one.code for one in CHECKS]
    assert sorted(EXAMPLES) == sorted(BY_CODE)
    assert len(examples()) == len(CHECKS)


@each_check
def test_a_check_finds_its_example_once_and_says_so_in_the_words_of_the_docs(code):
    example = EXAMPLES[code]
    (found,) = of_code(report_of(changed(base(), example.found)), code)
    assert found.found.message == example.sentence
    assert found.severity == example.severity
    assert f"Looks at {found.check.looks_at}. {found.check.reason}" in example.text


@each_check
def test_a_check_leaves_its_near_miss(code):
    assert of_code(report_of(changed(base(), EXAMPLES[code].near)), code) == []


@each_check
def test_what_a_check_offers_mends_what_it_found(code):
    script = changed(base(), EXAMPLES[code].found)
    (found,) = of_code(report_of(script), code)
    if found.found.mend is None:
        assert code in WITHOUT_MEND
        with pytest.raises(RefusedError):
            remedied(script, found)
        return
    assert code not in WITHOUT_MEND
    after_it = remedied(script, found)
    assert of_code(report_of(after_it), code) == []
    assert loads(dumps(after_it)) == after_it


#: What only a teacher can decide.
WITHOUT_MEND = {
    *("feel-elsewhere", "section-elsewhere", "effort-jumps", "effort-drops", "words-push", "easier-late"),
    *(
        "range-little",
        "talk-fills",
        "phase-words-long",
        "take-home",
        "area-little",
        "speed-cold",
        "meanwhile-cut",
        "there-long",
    ),
    *("caution-unconsidered", "back-long", "knees-long", "joint-twice"),
}


@pytest.mark.parametrize(
    "name", ["after-digging", "hall-two-rounds", "warm-voices", "wheel-wrists", "hands-after-throwing"]
)
def test_a_competent_class_shows_at_most_five_findings_and_nothing_to_fix(name):
    report = report_of(read(f"{DEMO}/{name}.json"))
    assert len(report.open) <= 5
    assert report.of(Severity.FIX) == ()


def test_a_poor_class_shows_what_is_poor():
    found = {one.code for one in report_of(read("tests/data/poor.json")).open}
    expected = {
        *("posture-out", "prop-missing", "against-condition", "claim", "pushing", "number-false", "literal-side"),
        *("next-differs", "off-slot", "one-leg-long", "eyes-closed", "breath-held", "static-before-activity"),
        *("side-unsaid", "lead-wanders", "area-missing", "no-closing", "no-recheck", "no-usual-cautions", "no-set-up"),
        *("talk-overruns", "effort-jumps", "caution-unspoken", "floor-often", "no-slow-rise"),
    }
    assert expected <= found


def test_findings_come_by_severity_and_a_class_without_moves_has_none():
    ranks = [list(Severity).index(one.severity) for one in report_of(read("tests/data/poor.json")).open]
    assert ranks == sorted(ranks)
    assert len(set(ranks)) > 1
    assert report_of(edit.new_script("Empty", 600)).open == ()


@settings(max_examples=24)
@given(scripts())
def test_on_any_class_findings_have_places_of_their_own_and_mends_keep_a_class_whole(script):
    report = report_of(script)
    items, segments = {item.id for item in script.items()}, {s.id for s in compile_script(script).segments}
    assert len({one.key for one in report.open}) == len(report.open)
    for one in report.open:
        assert set(one.found.items) <= items
        assert not one.found.segment or one.found.segment in segments
        assert one.found.message[-1] in ".”"
        assert "safe" not in one.found.message
    for one in {one.code: one for one in report.open}.values():
        if one.found.mend:
            try:
                after_it = remedied(script, one)
            except RefusedError:
                continue
            assert loads(dumps(after_it)) == after_it
            compile_script(after_it)


def kept_class():
    script = changed(base(), EXAMPLES["hold-off-convention"].found)
    (found,) = of_code(report_of(script), "hold-off-convention")
    return keep(script, found, "  they asked\nfor it "), found


def test_a_kept_finding_is_told_apart_from_the_open_ones_with_its_reason():
    script, found = kept_class()
    report = report_of(script)
    assert of_code(report, found.code) == []
    assert [(one.key, one.because) for one in report.kept] == [(found.key, "they asked for it")]
    assert [one.key for one in report_of(loads(dumps(script))).kept] == [found.key]
    again = report_of(open_again(script, found))
    assert again.kept == ()
    assert len(of_code(again, found.code)) == 1


def test_a_kept_finding_stays_kept_through_a_fit_and_comes_back_when_its_place_changes():
    script, found = kept_class()
    fitted = Fitter(script).fit(script.brief.target_s - 60).script
    assert fitted.item("calf").quantity.value != script.item("calf").quantity.value
    assert of_code(report_of(fitted), found.code) == []
    elsewhere = dose_edits.set_quantity(script, "hinge", Elastic(4, 6, 9))
    assert of_code(report_of(elsewhere), found.code) == []
    longer = dose_edits.set_quantity(script, "calf", Elastic(20, 50, 60))
    assert len(of_code(report_of(longer), found.code)) == 1


def test_a_kept_finding_of_the_whole_class_comes_back_when_its_sentence_changes():
    script = changed(base(), EXAMPLES["off-slot"].found)
    (found,) = of_code(report_of(script), "off-slot")
    script = keep(script, found, "the doors open late")
    assert report_of(script).open == ()
    assert len(of_code(report_of(edit.set_target(script, 620)), "off-slot")) == 1


def test_keeping_wants_a_reason():
    script = changed(base(), EXAMPLES["off-slot"].found)
    (found,) = of_code(report_of(script), "off-slot")
    with pytest.raises(RefusedError, match="reason"):
        keep(script, found, "  ")


def test_without_a_library_there_is_the_same_to_find_and_less_to_mend():
    script = changed(base(), EXAMPLES["posture-out"].found)
    with_library, alone = report_of(script), check(script, compile_script(script))
    assert [one.key for one in alone.open] == [one.key for one in with_library.open]
    assert with_library.get("posture-out").found.mend
    assert alone.get("posture-out").found.mend is None
    with pytest.raises(RefusedError, match="posture-out"):
        with_library.get("nothing")


def test_an_easier_option_that_is_said_on_its_first_pass_is_not_missed_because_it_names_the_side():
    script = changed(base(), 'reach.words.prompts[0] = {"kind": "easier", "text": "Less? The {side} hand on the hip."}')
    assert "Less? The left hand on the hip." in {cue.text for cue in compile_script(script).cues}
    crowded = changed(script, EXAMPLES["easier-unsaid"].found.replace("prompts[0]", "prompts[1]"))
    (found,) = of_code(report_of(crowded), "easier-unsaid")
    assert "Less?" not in found.found.message


def test_a_pressing_move_names_bones_even_where_nobody_said_anything():
    script = changed(base(), "take ball-under-foot after hinge as ball")
    prompts = script.item("ball").words.prompts
    assert any("bone" in one.text or "spine" in one.text for one in prompts) != bool(
        of_code(report_of(script), "caution-unspoken")
    )
    bare = dataclasses.replace(script.item("ball"), words=dataclasses.replace(script.item("ball").words, prompts=()))
    assert of_code(report_of(edit.replace_items(script, {"ball": bare})), "caution-unspoken")


def hold(item, seconds):
    return f'{item}.dose.seconds = {{"least": 1, "wanted": {seconds}, "most": 90}}\n'


def breaths(count, in_ms, out_ms):
    counted = f'"count": {{"least": 1, "wanted": {count}, "most": 90}}'
    return f'breaths.dose = {{"type": "breaths", {counted}, "in_ms": {in_ms}, "out_ms": {out_ms}}}'


def bridges(*after):
    return "".join(f"take bridge after {item} as down-{n}\n" for n, item in enumerate(after))


def said(item, field, words):
    return f"{item}.words.{field} = {words}\n"


MOVED_AFTER = 'brief.before = "strength or speed"\ntake easy-march after hang as march2\n'
CALF_COLD = "take calf-lean after breaths as cold\n" + hold("cold", "{n}")
WARMING = "drop shoulders\ndrop circles\ndrop hinge\n" + (
    'march.dose = {"type": "timed", "seconds": {"least": 1, "wanted": {n}, "most": 90}}'
)
TALKED_THROUGH = "style.quiet_percent = 0\nstyle.next_call = false\nstyle.halfway = false\n" + (
    'calf.words.prompts = [{"kind": "form", "text": "WORDS"}]\n'
)
QUICK = "march.dose.out_ms = {n}\nmarch.dose.back_ms = 500\n"
AGAIN = "g-legs.rounds = 2\n" + said("calf", "short", '""') + said("calf", "there", '""')
FULL_TALK = (
    'style.words_per_minute = 70\nwelcome.words = "a " * {n}\n'
    'welcome.seconds = {"least": 1, "wanted": 1700, "most": 1800}'
)
POOR_BALANCE = 'brief.conditions = ["poor balance"]\n'


@pytest.mark.parametrize(
    ("code", "operations", "last", "first"),
    [
        ("breath-held", "breaths.dose.full_ms = {n}", 2000, 2001),
        ("breath-forced", breaths(40, 1000, "{n}"), 2000, 1999),
        ("breath-forced", breaths("{n}", 500, 500), 20, 21),
        ("breath-forced", breaths(4, 5000, "{n}"), 10_000, 10_001),
        ("range-little", 'brief.areas = ["calf"]\n' + hold("calf", "{n}"), 60, 59),
        ("static-before-activity", 'brief.before = "strength or speed"\n' + hold("calf", "{n}"), 30, 31),
        ("static-before-activity", MOVED_AFTER + hold("calf", "{n}"), 59, 60),
        ("cold-hold", CALF_COLD, 20, 21),
        ("cold-hold", WARMING, 30, 29),
        ("reps-too-quick", QUICK, 500, 499),
        ("reps-too-quick", QUICK + "march.dose.counts = 4", 1500, 1499),
        ("floor-often", bridges("hinge", "reach") + "style.pace_percent = {n}", 124, 125),
        ("floor-often", POOR_BALANCE + "{n}", bridges("hinge"), bridges("hinge", "quiet")),
        ("floor-often", "{n}", bridges("hinge", "reach"), bridges("hinge", "reach", "quiet")),
        ("effort-jumps", "calf.move.effort = 2\nreach.move.effort = {n}", 3, 4),
        ("effort-jumps", "calf.move.effort = {n}\nreach.move.effort = 4", 3, 2),
        ("effort-drops", "hang.move.effort = {n}", 3, 4),
        ("one-leg-long", POOR_BALANCE + hold("thigh", "{n}"), 20, 21),
        ("one-leg-long", "style.one_leg_most_s = 25\n" + hold("thigh", "{n}"), 25, 26),
        ("again-long", AGAIN + said("calf", "moving", '"step " * {n}'), 13, 14),
        ("words-push", said("thigh", "moving", '"step " * {n}'), 26, 27),
        ("no-quiet", TALKED_THROUGH.replace("WORDS", "a " * 30) + hold("calf", "{n}"), 19, 20),
        ("no-quiet", TALKED_THROUGH.replace("WORDS", "{n}") + hold("calf", 20), "a " * 29, "a " * 30),
        ("there-long", said("calf", "there", '"a " * {n}'), 40, 41),
        ("talk-fills", FULL_TALK, 1447, 1448),
    ],
)
def test_a_check_begins_just_beyond_its_limit(code, operations, last, first):
    for n, begun in ((last, False), (first, True)):
        script = changed(base(), operations.replace("{n}", str(n)))
        assert bool(of_code(report_of(script), code)) is begun


@pytest.mark.parametrize(("target", "severity"), [(570, Severity.CONSIDER), (569, Severity.FIX), (631, Severity.FIX)])
def test_more_than_half_a_minute_off_the_slot_is_to_be_fixed(target, severity):
    (found,) = of_code(report_of(edit.set_target(base(), target)), "off-slot")
    assert found.severity is severity


@pytest.mark.parametrize(
    ("code", "operations"),
    [
        (
            "needs-unsaid",
            'welcome.seconds = {"least": 1, "wanted": 4, "most": 26}\nwelcome.words = "Rest when you like."',
        ),
        ("no-usual-cautions", 'welcome.seconds = {"least": 1, "wanted": 1, "most": 26}\nwelcome.words = "{needs}"'),
        (
            "talk-overruns",
            'g-arrive.rounds = 3\nwelcome.words = "{needs} {needs} {needs} {needs} {moves} moves, first {next}."',
        ),
        (
            "cadence-short",
            "g-legs.cadence_s = 5\n" + said("calf", "moving", '"{next} follows, {needs} {needs} {side} foot."'),
        ),
        (
            "cadence-short",
            "g-legs.cadence_s = 5\n" + said("calf", "short", '"{next} follows, {needs} {side} foot back."'),
        ),
    ],
)
def test_a_mend_reckons_with_all_that_placeholders_stand_for(code, operations):
    script = changed(base(), operations)
    (found,) = of_code(report_of(script), code)
    after_it = remedied(script, found)
    assert of_code(report_of(after_it), code) == []
    assert not {one.rule for one in compile_script(after_it).unsaid} & {"talk-overrun", "cadence-short"}


def test_a_cold_hold_is_offered_twenty_seconds():
    script = changed(base(), EXAMPLES["cold-hold"].found)
    (found,) = of_code(report_of(script), "cold-hold")
    assert (found.found.mend.words, remedied(script, found).item("cold").quantity.value) == ("Hold it for 20 s", 20)


def test_words_that_close_a_class_leave_a_little_quiet():
    script = changed(base(), EXAMPLES["no-closing"].found)
    (found,) = of_code(report_of(script), "no-closing")
    after_it = remedied(script, found)
    talk = next(item for item in after_it.items() if item.id not in {one.id for one in script.items()})
    assert talk.quantity.wanted - talk.quantity.least == 4
    assert talk.quantity.least == talk_needs_s(after_it, talk.id)


def test_captions_that_run_too_fast_are_slowed_no_more_than_needed():
    script = changed(base(), EXAMPLES["captions-fast"].found)
    (found,) = of_code(report_of(script), "captions-fast")
    rate = remedied(script, found).style.words_per_minute
    quicker = dataclasses.replace(script, style=dataclasses.replace(script.style, words_per_minute=rate + 5))
    assert rate % 5 == 0
    assert of_code(report_of(quicker), "captions-fast")


@pytest.mark.parametrize(
    ("before", "after", "up"),
    [
        (Posture.FORWARD_FOLD, Posture.STANDING, True),
        (Posture.FORWARD_FOLD, Posture.FORWARD_FOLD, False),
        (Posture.FORWARD_FOLD, Posture.ALL_FOURS, False),
        (Posture.SUPINE, Posture.CHAIR, True),
        (Posture.SUPINE, Posture.KNEELING, False),
        (Posture.STANDING, Posture.LUNGE, False),
    ],
)
def test_who_comes_up_comes_up_from_a_fold_or_from_the_floor(before, after, up):
    assert rises(before, after) is up


UNDER = 'meanwhiles = [{"id": "under", "from_item": "reach", "to_item": "hang", "name": "Talk", "words": "WORDS"}]\n'


@pytest.mark.parametrize(
    ("code", "operations", "found"),
    [
        # a caution that is said meanwhile is heard at every move that it is said under
        ("caution-unspoken", 'brief.conditions = ["sore shoulders"]\n' + UNDER.replace("WORDS", "Up we go."), True),
        (
            "caution-unspoken",
            'brief.conditions = ["sore shoulders"]\nmarch.words.prompts = []\ndrop shoulders\ndrop march\n'
            + UNDER.replace("WORDS", "With sore shoulders, leave your arms down."),
            False,
        ),
        # feet that march under a talk are a warm-up
        ("section-empty", "drop march\ndrop shoulders\ndrop circles\ndrop hinge", True),
        # who lies at the end gets up slowly too
        ("no-slow-rise", 'take lying-rest after last as rest\nrest.words.release = "Thank you."', True),
        (
            "no-slow-rise",
            'take lying-rest after last as rest\nrest.words.release = ""\ngoodbye.words = "Thank you. Get up slowly."',
            False,
        ),
        # one side over the other, in a move that is done once
        ("side-of-none", said("hang", "there", '"Cross your right leg over your left."'), True),
        ("side-of-none", said("hang", "there", '"Right over left, and then left over right."'), False),
        # what is left of the class
        ("number-false", said("reach", "there", '"Two more moves after this one."'), True),
        ("number-false", said("thigh", "there", '"Two more moves after this one."'), False),
        # while an area of the brief is missing, nothing is said of short ones
        ("range-little", 'brief.areas = ["calf", "wrist"]', False),
        # what the brief speaks against is no second finding
        (
            "isometric-long",
            'brief.conditions = ["high blood pressure"]\ntake wall-sit after hinge as sit\n'
            'sit.dose.seconds = {"least": 10, "wanted": 60, "most": 90}',
            False,
        ),
        # another route is held against the brief as well
        (
            "instead-against",
            'brief.conditions = ["glaucoma"]\ng-legs.routes = [{"name": "Down", "items": [{"type": '
            '"move", "id": "fold", "move": {"name": "Bow", "cautions": [{"condition": "glaucoma", "leave_out": true}]},'
            ' "dose": {"type": "hold", "seconds": {"least": 5, "wanted": 9, "most": 9}}}]}]',
            True,
        ),
    ],
)
def test_what_else_a_check_takes_into_account(code, operations, found):
    assert bool(of_code(report_of(changed(base(), operations)), code)) is found


@pytest.mark.parametrize(
    ("moved", "found"),
    [("wrist-circles", True), ("easy-march", False), ("seated-cat", False)],
)
def test_moving_warms_its_own_part_of_the_body_and_from_the_trunk_all_of_it(moved, found):
    operations = f"drop shoulders\ndrop circles\ndrop hinge\ndrop march\ntake {moved} after breaths as warm"
    script = changed(base(), operations)
    script = (
        changed(
            script,
            f'warm.dose.{"seconds" if moved == "easy-march" else "count"} = {{"least": 10, "wanted": 10, "most": 60}}',
        )
        if moved != "easy-march"
        else script
    )
    assert bool(of_code(report_of(script), "cold-hold")) is found


def test_a_talk_that_goes_on_under_a_section_makes_it_a_section_with_something_to_do():
    bare = changed(base(), "drop shoulders\ndrop circles\ndrop hinge\ndrop march")
    talk = Talk("story", Elastic(20, 20, 40), "Once upon a time there were two feet.", "Story")
    script = edit.insert_item(bare, talk, "g-loosen")
    assert of_code(report_of(script), "section-empty")
    under = Meanwhile("feet", "story", "story", "Feet march on")
    assert not of_code(report_of(dataclasses.replace(script, meanwhiles=(under,))), "section-empty")
