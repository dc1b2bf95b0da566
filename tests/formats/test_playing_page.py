"""The page that plays: everything inside, nothing from outside, nothing of the teacher's own; and on paper."""

import base64
import gzip
import hashlib
import json
import re
from dataclasses import replace
from html.parser import HTMLParser
from importlib.resources import files
from pathlib import Path

import pypdf
import pytest

import extendum
from extendum.core.edit.home import set_home
from extendum.core.edit.script_edits import replace_items, set_title
from extendum.core.model.errors import RefusedError
from extendum.core.model.notes import Note
from extendum.formats.document import loads
from extendum.formats.exports import Export, about_print, write
from extendum.formats.library import shipped_moves
from extendum.formats.playing_page import Shows, playing_page, policy_of

DEMO = files("extendum.data").joinpath("demo")
DIGGING = loads(DEMO.joinpath("after-digging.json").read_bytes())
MOVES = {one.move.key: one for one in shipped_moves()}
JS = Path(extendum.__file__).parent / "web" / "static" / "js"


class Parts(HTMLParser):
    """Scripts and styles by what is in them, and every address that an attribute has."""

    def __init__(self, text):
        super().__init__()
        self.inside, self.addresses, self.now = [], [], None
        self.feed(text)

    def handle_starttag(self, tag, attrs):
        facts = dict(attrs)
        self.addresses += [facts[name] for name in ("src", "href", "action") if name in facts]
        if tag in ("script", "style"):
            self.now = (tag, facts.get("type", ""), facts.get("id"))

    def handle_data(self, data):
        if self.now:
            self.inside.append((*self.now, data))

    def handle_endtag(self, tag):
        self.now = None


@pytest.fixture(scope="module")
def page():
    item = replace(DIGGING.moves()[0], notes=(Note("Call Rosa's knee."),))
    script = replace_items(DIGGING, {item.id: item})
    shows = Shows("Ana, Thursdays", "Slowly.\n</script><b>now", "https://example.org/hall")
    return playing_page(script, MOVES, shows)


def test_only_what_is_in_the_page_runs_and_nothing_is_fetched(page):
    found = Parts(page)
    assert [one for one in found.addresses if not one.startswith("#")] == ["https://example.org/hall"]
    policy = policy_of(page)
    assert policy.startswith("default-src 'none'; ") and "unsafe" not in policy
    running = [(tag, text) for tag, kind, _, text in found.inside if tag == "style" or not kind]
    assert [tag for tag, _ in running] == ["style", "script"]
    for tag, text in running:
        digest = base64.b64encode(hashlib.sha256(text.encode()).digest()).decode()
        assert f"{tag}-src 'sha256-{digest}'" in policy
    assert not re.findall(r"url\((?!data:)", page)


def test_it_is_small_and_has_nothing_of_the_teachers_own(page):
    assert len(page.encode()) < 600_000
    found = {name: text for _, _, name, text in Parts(page).inside}
    score = json.loads(found["score"])
    assert "Rosa" not in page and "tray" not in score and "stands" not in score
    assert score["length"] == 720
    assert {cue["mode"] for cue in score["cues"]} <= {"spoken", "tone", "silent"}
    figures = json.loads(gzip.decompress(base64.b64decode(found["figures"])))
    assert set(json.loads(found["facts"])["figures"]) == set(figures["drawings"])
    assert "Ana, Thursdays" in page and "&lt;/script&gt;&lt;b&gt;now" in page


def test_the_part_for_home_is_played_unless_the_whole_class_is_asked_for():
    some = DIGGING.moves()[5:7]
    marked = set_home(DIGGING, {item.id: 10 for item in some}, "twice a day")
    for home, many in ((True, 2), (False, len(DIGGING.moves()))):
        text = playing_page(marked, MOVES, Shows(home=home))
        score = json.loads({name: inside for _, _, name, inside in Parts(text).inside}["score"])
        assert len({step["item"] for step in score["steps"] if step["works"]}) == many
        assert ("To do at home, twice a day." in text) is home
        assert text.count('<p class="dose">') == many and (f"· {many} moves ·" in text)


@pytest.mark.parametrize("wrong", [{"link": "javascript:alert(1)"}, {"link": "example.org"}, {"note": "a" * 601}])
def test_a_link_is_an_address_and_a_note_is_short(wrong):
    with pytest.raises(RefusedError):
        Shows(**wrong)


def test_the_bundle_is_made_of_the_modules_as_they_are():
    names = ("player/given", "player/main", "drawing", "figure", "playing", "seen", "sounded", "sounds", "stage/voice")
    told = hashlib.sha256(b"".join((JS / f"{name}.js").read_bytes() for name in names)).hexdigest()[:16]
    bundle = (Path(extendum.__file__).parent / "data" / "page" / "player.js").read_text("utf-8")
    assert bundle.startswith(f"/* {told} */"), "make css bundles it again"
    for name in names:  # and of no others
        for used in re.findall(r'from "(\.[^"]+)"', (JS / f"{name}.js").read_text("utf-8")):
            path = (JS / f"{name}.js").parent.joinpath(used).resolve()
            assert str(path.relative_to(JS.resolve()).with_suffix("")) in names


# ---- on paper ----------------------------------------------------------------------------------------------------


def test_the_handout_has_what_is_for_home_the_line_and_the_address(tmp_path):
    script = set_title(set_home(DIGGING, {DIGGING.moves()[5].id: 12}, "twice a day"), "Koniec → łydki, Πόδια")
    write(Export(script, line="Ana, Thursdays", address="https://hall.example/play/x/"), "handout", tmp_path / "h")
    (sheet,) = pypdf.PdfReader(tmp_path / "h").pages
    told = " ".join(sheet.extract_text().split())
    for words in ("Koniec → łydki, Πόδια", "twice a day: this one", "12 s each side, left first", "Ana, Thursdays"):
        assert words in told
    assert "https://hall.example/play/x/" in told and "Hip hinge" not in told
    assert about_print(Export(script)) == []
    assert "手" in about_print(Export(set_title(DIGGING, "手 hands")))[0]


def places(sheet):
    """Where each text of a page begins, in points."""
    found = []
    sheet.extract_text(
        visitor_text=lambda text, cm, tm, font, size: found.append((tm[4], tm[5])) if text.strip() else 0
    )
    return found


@pytest.mark.parametrize("name", ["after-digging", "hall-two-rounds"])
def test_nothing_on_a_printed_page_lies_beyond_its_edges(tmp_path, name):
    script = loads(DEMO.joinpath(f"{name}.json").read_bytes())
    write(Export(set_title(script, "A long title " * 14)), "pdf", tmp_path / "p")
    for sheet in pypdf.PdfReader(tmp_path / "p").pages:
        wide, tall = sheet.mediabox.width, sheet.mediabox.height
        assert places(sheet) and all(0 < x < wide - 20 and 20 < y < tall for x, y in places(sheet))
