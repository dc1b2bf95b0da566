"""The Moves: the map, a move's page, moves of one's own, and a class's copy beside a newer form."""

import re
from dataclasses import replace

import pytest

from extendum.core.edit.brief_edits import apply_audience
from extendum.core.edit.script_edits import new_script
from extendum.core.model.audience import PROFILES
from extendum.formats.library import shipped_move, shipped_moves
from extendum.formats.sources import source_told
from extendum.web.classes import store as classes
from extendum.web.classes.models import MoveUse
from extendum.web.library import store
from extendum.web.library.models import OwnMove
from tests.web.test_pages import post, script

HX = {"HX-Request": "true"}


def form_of(entry, **changes):
    """What the form of a move posts, field by field as the page shows it."""
    move, words, q = entry.move, entry.words, entry.dose.quantity
    form = {
        "name": move.name,
        "posture": move.posture,
        "sidedness": move.sidedness,
        "named": move.named,
        "kind": move.kind,
        "effort": move.effort,
        "direction_1": move.directions[0],
        **({"directions_follow_side": "on"} if move.directions_follow_side else {}),
        "direction_2": move.directions[1],
        "space": move.space,
        "slow_rise_s": move.slow_rise_s,
        "facing": entry.facing,
        "dose_kind": entry.dose.tag,
        "least": q.least,
        "wanted": q.wanted,
        "most": q.most,
        "sets": entry.sets,
        "target_rows": len(move.targets),
        "prop_rows": len(move.props),
        "caution_rows": len(move.cautions),
        "option_rows": len(move.options),
        "prompt_rows": len(words.prompts),
        "watch_rows": len(move.watch),
        "why": move.why,
        "why_from": source_told(move.why_from) if move.why_from else "",
    }
    for n, one in enumerate(move.watch):
        form |= {f"watch_{n}_seen": one.seen, f"watch_{n}_say": one.say}
    form |= {name: getattr(words, name) for name in ("moving", "there", "short", "switch", "turn", "release")}
    for n, one in enumerate(move.targets):
        form |= {f"target_{n}_region": one.region, f"target_{n}_effect": one.effect, f"target_{n}_side": one.side}
        form |= {f"target_{n}_main": "main" if one.main else "also"}
    for n, one in enumerate(move.props):
        form |= {f"prop_{n}_name": one.name, f"prop_{n}_must": one.must_be, f"prop_{n}_else": ", ".join(one.or_else)}
        form |= {f"prop_{n}_required": "on"} if one.required else {}
    for n, one in enumerate(move.cautions):
        form |= {f"caution_{n}_condition": one.condition, f"caution_{n}_advice": one.advice}
        form |= {f"caution_{n}_out": "on", f"caution_{n}_instead": one.instead} if one.leave_out else {}
    for n, one in enumerate(move.options):
        form |= {f"option_{n}_kind": one.kind, f"option_{n}_words": one.words, f"option_{n}_move": one.move}
    for n, one in enumerate(words.prompts):
        form |= {f"prompt_{n}_kind": one.kind, f"prompt_{n}_text": one.text}
    return form | changes


def own_version(asking, key="calf-lean", **changes):
    return asking.post(f"/moves/{key}/edit/", form_of(shipped_move(key), **changes), headers=HX)


def shown(asking, **asked):
    page = asking.get("/moves/", asked, headers=HX).content.decode()
    return set(re.findall(r'href="/moves/([\w-]+)/"', page)) - {"new"}


def test_the_map_shows_every_move_once_and_filters_hold_together(asking, stretch_class):
    assert shown(asking) == {entry.move.key for entry in shipped_moves()}
    straps = {"seated-calf-strap", "lying-hamstring", "long-sitting-reach", "one-leg-long-reach"}
    assert shown(asking, area="calf", prop="strap") == straps
    assert shown(asking, kind="pressing") == {
        *("ball-at-wall", "lying-ball-back", "forearm-massage", "hand-massage", "ball-under-foot")
    }
    assert shown(asking, used=str(stretch_class.pk)) == {"calf-lean", "shoulder-circles"}
    assert "seated-figure-four" not in shown(asking, suits="hip replacement")
    assert shown(asking, area="eyes", prop="strap") == set()
    assert "No move matches all of that" in asking.get("/moves/?area=eyes&prop=strap").content.decode()
    assert shown(asking, area="no such area") == shown(asking)


def test_a_class_of_somebody_else_filters_nothing(client, stranger, stretch_class):
    client.force_login(stranger)
    assert client.get("/moves/", {"used": stretch_class.pk}).status_code == 404


def test_uses_follow_every_edit_undo_and_step(asking, stretch_class):
    def used():
        return set(MoveUse.objects.filter(of=stretch_class).values_list("key", flat=True))

    assert used() == {"calf-lean", "shoulder-circles"}
    post(asking, stretch_class, edit="remove", item="i2")
    assert used() == {"shoulder-circles"}
    stretch_class.refresh_from_db()
    classes.undo(stretch_class, stretch_class.stamp)
    assert used() == {"calf-lean", "shoulder-circles"}
    post(asking, stretch_class, edit="swap", item="i2", move="sphinx")
    assert used() == {"sphinx", "shoulder-circles"}
    asking.post(f"/classes/{stretch_class.pk}/duplicate/")
    assert MoveUse.objects.filter(key="sphinx").count() == 2


def test_the_page_of_a_move_says_both_sides_its_cautions_and_where_it_is_used(asking, stretch_class):
    page = asking.get("/moves/calf-lean/").content.decode()
    assert "Place your hands on the wall and step your left foot back." in page
    assert "Change feet. Step your right foot back." in page
    assert "poor balance" in page
    assert "Evening class" in page
    assert asking.get("/moves/no-such-move/").status_code == 404


@pytest.mark.parametrize(
    "key", ["calf-lean", "ankle-circles", "calf-reps-then-stay", "contract-relax-hamstring", "rib-breaths"]
)
def test_a_form_sent_back_unchanged_keeps_the_move_as_it_is(asking, owner, key):
    page = asking.get(f"/moves/{key}/edit/").content.decode()
    inputs = re.findall(r'<input[^>]*name="([\w]+)"[^>]*value="([^"]*)"', page)
    tempo = {name: value for name, value in inputs if name.endswith("_ms") or name in ("counts", "phases")}
    assert own_version(asking, key, **tempo).status_code == 204
    assert store.library_of(owner).get(key) == shipped_move(key)


def test_an_own_version_stands_in_the_place_of_the_shipped_one_until_it_is_taken_out(asking, owner):
    answer = own_version(asking, name="Wall lean", release="Come in.")
    assert answer.headers["HX-Redirect"] == "/moves/calf-lean/"
    assert store.library_of(owner).get("calf-lean").words.release == "Come in."
    assert len(store.library_of(owner).moves) == len(shipped_moves())
    assert "Wall lean" in asking.get("/moves/").content.decode()
    asking.post("/moves/calf-lean/remove/")
    assert store.library_of(owner).get("calf-lean") == shipped_move("calf-lean")
    asking.post("/moves/calf-lean/put-back/")
    assert store.library_of(owner).get("calf-lean").move.name == "Wall lean"


def test_a_new_move_gets_a_key_of_its_own_and_can_be_found_and_added(asking, owner, stretch_class):
    form = form_of(shipped_move("calf-lean"), name="Fence lean")
    first, second = (asking.post("/moves/new/?like=calf-lean", form, headers=HX) for _ in range(2))
    assert first.headers["HX-Redirect"] == "/moves/own-fence-lean/"
    assert second.headers["HX-Redirect"] == "/moves/own-fence-lean-2/"
    assert "own-fence-lean" in asking.get(f"/classes/{stretch_class.pk}/found/?q=fence").content.decode()
    post(asking, stretch_class, edit="add", move="own-fence-lean")
    assert script(stretch_class).moves()[-1].name == "Fence lean"


@pytest.mark.parametrize(
    ("wrong", "said"),
    [
        ({"name": " "}, "name: must be given"),
        ({"least": "50"}, "dose.least: must be at most the wanted 30; found 50"),
        ({"most": "x"}, "most: must be a whole number; found x"),
        ({"there": "Lean {sdie}."}, "there: must be words whose placeholders are among"),
        ({"target_rows": "0"}, "targets: must be at least one area"),
        ({"posture": "floating"}, "posture: must be one of standing"),
        ({"effort": "9"}, "effort: must be a whole number from 1 to 5; found 9"),
        ({"direction_1": ""}, "directions: must be two names"),
        ({"dose_kind": "nap"}, "kind: must be one of hold"),
    ],
)
def test_a_wrong_move_is_refused_by_name_and_what_was_typed_stays(asking, owner, wrong, said):
    answer = own_version(asking, **wrong)
    assert answer.status_code == 422
    assert said in answer.content.decode()
    assert not OwnMove.objects.exists()


def test_taking_out_a_move_that_classes_use_says_so_and_loses_nothing(asking, owner, stretch_class):
    form = form_of(shipped_move("calf-lean"), name="Fence lean")
    asking.post("/moves/new/", form, headers=HX)
    post(asking, stretch_class, edit="add", move="own-fence-lean")
    before = script(stretch_class)
    told = asking.post("/moves/own-fence-lean/remove/", follow=True).content.decode()
    assert "Used in Evening class: each class keeps its own copy" in told
    assert "Restore" in told
    assert script(stretch_class) == before
    assert asking.get("/moves/own-fence-lean/").status_code == 404
    assert "own-fence-lean" not in asking.get(f"/classes/{stretch_class.pk}/found/?q=fence").content.decode()
    assert asking.get(f"/classes/{stretch_class.pk}/?item=i4").status_code == 200
    asking.post("/moves/own-fence-lean/put-back/")
    assert asking.get("/moves/own-fence-lean/").status_code == 200


def test_a_class_keeps_its_copy_and_is_offered_the_newer_form_part_by_part(asking, owner, stretch_class):
    post(asking, stretch_class, edit="add", move="calf-lean")
    desk = f"/classes/{stretch_class.pk}/?item=i4"
    assert "newer form" not in asking.get(desk).content.decode()
    own_version(asking, name="Wall lean", release="Come in.")
    before = script(stretch_class).item("i4")
    assert before.words.release == "Step in and stand on both feet."
    assert "The library has a newer form" in asking.get(desk).content.decode()
    dialog = asking.get(f"/classes/{stretch_class.pk}/newer/?item=i4").content.decode()
    assert "Come in." in dialog
    assert "Step in and stand on both feet." in dialog
    refused = post(asking, stretch_class, edit="newer", item="i4", part="wings")
    assert refused.status_code == 422
    post(asking, stretch_class, edit="newer", item="i4", part="release")
    after = script(stretch_class).item("i4")
    assert (after.words.release, after.name) == ("Come in.", "Wall calf stretch")
    assert replace(after, words=before.words, taken=before.taken) == before
    assert "newer form" not in asking.get(desk).content.decode()


def test_typing_nothing_suggests_what_comes_next_with_reasons_and_sets_to_begin_with(asking, owner):
    chairs = next(one for one in PROFILES if "chairs" in one.name)
    of = classes.create(owner, apply_audience(classes.Script("Chairs"), chairs), "Made")
    page = asking.get(f"/classes/{of.pk}/found/").content.decode()
    assert "Suggestions" in page
    assert "starts on a chair" in page
    assert 'data-set="warm-chair"' in page
    assert 'data-set="back-floor"' not in page
    typed = asking.get(f"/classes/{of.pk}/found/?q=lying").content.decode()
    assert "against the brief: supine is not in the brief" in typed
    assert 'data-set="close-lying"' in typed
    assert "No move matches" in asking.get(f"/classes/{of.pk}/found/?q=zzz").content.decode()


def test_what_the_brief_rules_out_comes_last_marked_and_never_chosen_for_you(asking, owner):
    made = new_script("Chairs", 600)
    made = replace(made, brief=replace(made.brief, avoid=("calf",)))
    of = classes.create(owner, made, "Made")
    page = asking.get(f"/classes/{of.pk}/found/", {"q": "calf"}).content.decode()
    assert 'aria-selected="true"' not in page and "against the brief" in page
    mixed = asking.get(f"/classes/{of.pk}/found/", {"q": "wall"}).content.decode()
    first, last = mixed.index('aria-selected="true"'), mixed.index("against the brief")
    assert first < last and mixed.count('aria-selected="true"') == 1


def test_a_move_that_is_not_there_is_written_and_comes_back_into_the_class(asking, owner, stretch_class):
    page = asking.get(f"/classes/{stretch_class.pk}/found/", {"q": "tail wag", "item": "i1"}).content.decode()
    address = re.search(r'href="([^"]+)"', page[page.index("write-own") :])[1].replace("&amp;", "&")
    form = asking.get(address).content.decode()
    assert 'value="tail wag"' in form and f'href="/classes/{stretch_class.pk}/"' in form
    answer = asking.post(address, form_of(shipped_move("calf-lean"), name="Tail wag"))
    assert answer.status_code == 302 and answer.url.startswith(f"/classes/{stretch_class.pk}/?item=")
    names = [item.name for item in script(stretch_class).items()]
    assert names[names.index("Tail wag") - 1] == script(stretch_class).item("i1").name
    lost = asking.post(address.replace("for=", "for=9"), form_of(shipped_move("calf-lean"), name="Lost"))
    assert lost.status_code == 404 and not OwnMove.objects.filter(name="Lost").exists()
