"""Pictures of moves: on the Desk, in the library, as an address of their own, and on the Stage."""

import gzip
import json
import re
from dataclasses import replace

import pytest
from django.urls import reverse

from extendum.core.edit.script_edits import replace_items
from extendum.core.model.body import Side
from extendum.draw.figures.tones import Skin, tones
from extendum.formats.library import shipped_move
from extendum.web.classes import store
from extendum.web.library import store as library
from extendum.web.library.figures import figure_address
from extendum.web.teach.models import Link
from tests.web.test_live import START, tell


def test_a_picture_stands_by_itself_and_says_what_it_shows(asking):
    answer = asking.get("/moves/calf-lean/figure.svg?side=right")
    assert answer["Content-Type"] == "image/svg+xml"
    assert "max-age=3600" in answer["Cache-Control"]
    kept = asking.get(figure_address(shipped_move("calf-lean").move, Side.RIGHT, small=False))
    assert "immutable" in kept["Cache-Control"]
    assert kept.content == answer.content
    svg = answer.content.decode()
    assert svg.startswith("<svg")
    assert "<style>" in svg
    assert 'aria-label="Wall calf stretch: lunge, standing' in svg
    assert ">R<" in svg
    assert ">L<" in asking.get("/moves/calf-lean/figure.svg?side=left").content.decode()


@pytest.mark.parametrize("address", ["/moves/levitate/figure.svg", "/moves/LEVITATE/figure.svg"])
def test_what_has_no_picture_is_not_found(asking, address):
    assert asking.get(address).status_code == 404


@pytest.mark.parametrize("query", ["?side=up&view=900", "?view=-3", "?view=front&flipped=2"])
def test_odd_questions_get_the_picture_as_it_is(asking, query):
    plain = asking.get("/moves/hip-hinge/figure.svg").content
    assert asking.get(f"/moves/hip-hinge/figure.svg{query}").status_code == 200
    assert asking.get("/moves/hip-hinge/figure.svg?side=up").content == plain


def test_the_desk_shows_a_picture_in_each_row_and_in_the_panel(asking, stretch_class):
    page = asking.get(reverse("desk", args=[stretch_class.pk]), {"item": "i2"}).content.decode()
    row = page.split('id="row-i2"')[1].split("</li>")[0]
    assert re.search(r'data-figure="/moves/calf-lean/figure.svg\?v=\w+&amp;size=small&amp;side=left"', row)
    assert re.search(r'<img class="row-figure" src="[^"]+" alt="" loading="lazy"', row)
    panel = page.split('id="panel"')[1]
    assert re.search(r'class="panel-figure"[^>]*alt="Wall calf stretch: lunge, standing[^"]*left side"', panel)


def test_a_move_without_a_picture_has_none_anywhere(asking, stretch_class):
    def nameless(script):
        item = script.item("i2")
        return replace_items(script, {"i2": replace(item, move=replace(item.move, key=""))})

    store.change(stretch_class, stretch_class.stamp, "Own", nameless)
    page = asking.get(reverse("desk", args=[stretch_class.pk]), {"item": "i2"}).content.decode()
    assert "data-figure" not in page.split('id="row-i2"')[1].split("</li>")[0]
    assert "panel-figure" not in page
    assert asking.get(reverse("stage", args=[stretch_class.pk])).status_code == 200


def test_the_page_of_a_move_shows_both_sides_and_lists_show_one(asking, stretch_class):
    page = asking.get("/moves/calf-lean/").content.decode()
    assert page.count('<figure><span class="live" role="img" aria-label="Wall calf stretch: ') == 2
    assert 'class="figure-key"' in page
    assert asking.get("/moves/hip-hinge/").content.decode().count("<figure><span") == 1
    assert 'class="map-figure"' in asking.get("/moves/").content.decode()
    found = asking.get(reverse("found", args=[stretch_class.pk]), {"q": "chest"}).content.decode()
    assert 'class="found-figure"' in found


def test_an_own_move_takes_the_figure_of_another_turned_over_and_seen_from_the_front(asking, owner):
    shipped = shipped_move("calf-lean")
    move = replace(shipped.move, key="", name="Fence lean", figure="calf-lean", figure_flipped=True, figure_view=90)
    kept = library.keep(owner, replace(shipped, move=move))
    address = figure_address(kept.move, Side.LEFT)
    assert address.endswith("&size=small&side=left&flipped=1&view=90")
    page = asking.get(f"/moves/{kept.move.key}/").content.decode()
    # Seen from the front its left is on the right of the picture: a screen turns it over once more.
    seen = address.replace("&size=small", "").replace("&flipped=1", "").replace("&", "&amp;")
    assert f'src="{seen}"' in page
    form = asking.get(f"/moves/{kept.move.key}/edit/").content.decode()
    assert '<option value="calf-lean" selected>' in form
    assert re.search(r'name="figure_flipped" checked', form)


def test_a_new_move_like_another_starts_with_its_figure(asking):
    assert '<option value="calf-lean" selected>' in asking.get("/moves/new/?like=calf-lean").content.decode()


def test_the_stage_carries_the_figure_of_each_side_with_its_movement(asking, stretch_class):
    page = asking.get(reverse("stage", args=[stretch_class.pk])).content.decode()
    drawn = dict(re.findall(r'<template id="figure-([^"]+)">(.*?)</template>', page))
    # As in a mirror: the left calf, drawn behind the other one on the right, is turned over to lie on the left.
    assert 'data-sign="L" data-flip="yes"' in drawn["i2-left"]
    assert 'data-sign="R" data-flip="no"' in drawn["i2-right"]
    assert 'data-sign=""' in drawn["i3-both"]
    address = re.search(r'data-figure="([^"]+)"', drawn["i3-both"])[1].replace("&amp;", "&")
    answer = asking.get(address)
    found = json.loads(gzip.decompress(answer.content))
    assert found["moments"] > 1
    assert {found["layers"][0][0], "paper"} <= set(found["tones"])
    assert "immutable" in answer["Cache-Control"]


def test_how_figures_look_is_chosen_in_the_settings_and_holds_on_every_page(asking, stretch_class):
    usual = asking.get("/moves/hip-hinge/figure.svg").content
    answer = asking.post("/settings/", {"part": "look", "build": "broad", "skin": "deep"}, follow=True)
    assert "All figures now look like this" in answer.content.decode()
    asked = "build=broad&amp;skin=deep"
    desk = asking.get(reverse("desk", args=[stretch_class.pk])).content.decode()
    pages = (desk, *(asking.get(one).content.decode() for one in ("/moves/", "/moves/calf-lean/")))
    assert all(asked in page for page in pages)
    asking.post(reverse("links"), {"kind": "room", "name": "Hall"})
    tell(asking, stretch_class, me="a", events=[START])
    assert asked in asking.get(reverse("room", args=[Link.objects.get().code])).content.decode()
    looked = asking.get("/moves/hip-hinge/figure.svg?build=broad&skin=deep").content
    assert looked != usual
    assert tones(Skin.DEEP)["skin"].encode() in looked


def test_a_look_that_there_is_not_is_refused_and_nothing_is_kept(asking):
    answer = asking.post("/settings/", {"part": "look", "build": "round", "skin": "deep"})
    assert answer.status_code == 422
    assert "build" in answer.content.decode()
    assert "skin=deep" not in asking.get("/moves/").content.decode()
