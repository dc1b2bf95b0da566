"""Odd numbers, odd JSON and odd counts: refused in words, wherever they come in; never an error of the server."""

import asyncio
import json
import sqlite3
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing

import pytest
from django.conf import settings
from django.db import connection
from django.test import Client

from extendum.formats.document import dumps
from extendum.web.classes import store
from extendum.web.classes.models import Revision, StretchClass
from extendum.web.records.models import Session
from extendum.web.teach.models import Link, LiveRun
from extendum.web.whole import TOO_LARGE, Whole
from tests.apart import apart
from tests.web.test_faults import on_sqlite

#: Digits to Unicode but not to arithmetic, too many, none, negative, and what a float would take.
ODD = ("²", "٣", "9" * 5000, "0" * 400 + "1", "1e9", "NaN", " ", "x", str(2**63), "-1")


@pytest.mark.parametrize(
    "address",
    [
        "/logbook/?class={}",
        "/logbook/?from={}",
        "/moves/?used={}",
        "/moves/calf-lean/figure.svg?view={}",
        "/classes/{pk}/presses/?run=r&after={}",
        "/room/{code}/now/?seen={run}.{}",
        "/classes/{pk}/?item={}",
        "/classes/{pk}/preview/?target={}",
    ],
)
def test_an_odd_number_in_an_address_is_answered(asking, owner, stretch_class, address):
    run = LiveRun.objects.create(of=stretch_class, key="r", stamp=1, revision=stretch_class.head)
    link = Link.objects.create(owner=owner, kind=Link.Kind.ROOM, name="Hall")
    path, _, query = address.replace("{code}", link.code).partition("?")
    name, _, value = query.replace("{pk}", str(stretch_class.pk)).rpartition("=")
    *given, last = name.split("&")
    data, value = dict(part.split("=") for part in given), value.replace("{run}", str(run.pk))
    allowed = {404, 200} if "class" in name or "used" in name else {422, 200} if "preview" in address else {200}
    for odd in ODD:
        answer = asking.get(path.replace("{pk}", str(stretch_class.pk)), data | {last: value.replace("{}", odd)})
        assert answer.status_code in allowed, odd


@pytest.mark.parametrize(
    ("address", "form"),
    [
        ("/classes/{pk}/next-time/", {"done": "{}"}),
        ("/classes/{pk}/step/", {"which": "go", "revision": "{}", "stamp": "1"}),
        ("/classes/{pk}/step/", {"which": "undo", "stamp": "{}"}),
        ("/classes/{pk}/edit/", {"edit": "nudge", "item": "i1", "steps": "{}", "stamp": "1"}),
        ("/classes/{pk}/edit/", {"edit": "words", "item": "i1", "prompts": "{}", "stamp": "1"}),
        ("/classes/{pk}/edit/", {"edit": "group", "group": "g1", "rounds": "{}", "stamp": "1"}),
        ("/moves/new/", {"name": "Mine", "effort": "2", "slow_rise_s": "0", "target_rows": "{}"}),
        ("/logbook/{session}/", {"people": "{}"}),
        ("/logbook/plan/", {"class": "{}", "day": "2026-03-02", "hour": "18:30"}),
    ],
)
def test_an_odd_number_in_a_form_is_refused_in_words(asking, owner, stretch_class, address, form):
    session = Session.objects.create(owner=owner, of=stretch_class, at=stretch_class.created_at)
    address = address.format(pk=stretch_class.pk, session=session.pk)
    for odd in ("99999999999", *ODD):  # one step less, the last of them, is a step
        answer = asking.post(address, {name: value.replace("{}", odd) for name, value in form.items()})
        assert answer.status_code < 500, odd
        assert StretchClass.objects.get().stamp == 1 or odd == "-1"
        assert Session.objects.get().people in (None, 1)


def test_a_revision_that_is_not_there_is_no_step(asking, stretch_class):
    form = {"which": "go", "revision": Revision.objects.latest("pk").pk + 1, "stamp": "1"}
    answer = asking.post(f"/classes/{stretch_class.pk}/step/", form)
    assert answer.status_code == 422 and "a step of this class" in answer.content.decode()


def test_every_count_of_a_form_is_bounded_before_it_is_used(asking):
    rows = {f"{name}_rows": "101" for name in ("target", "prop", "caution", "option", "prompt", "watch")}
    for name in rows:
        form = {"name": "Mine", "effort": "2", "slow_rise_s": "0", **dict.fromkeys(rows, "0"), name: "101"}
        form |= {"least": "5", "wanted": "9", "most": "20", "sets": "1", "direction_1": "up", "direction_2": "down"}
        form |= (
            {}
            if name == "target_rows"
            else {"target_rows": "1", "target_0_region": "calf", "target_0_effect": "stretch"}
        )
        answer = asking.post("/moves/new/", form)
        assert answer.status_code == 422 and "from 0 to 100" in answer.content.decode(), name


EVENT = '{"run": "r", "stamp": 1, "events": [{"id": "a", "at": 1, "kind": "start"%s}]%s}'
BODIES = [
    (EVENT % (', "x": 1e999', ""), "events[0].x: must be a finite number"),
    (EVENT % ("", ', "x": ' + "[" * 40 + "]" * 40), "nested at most 32 levels"),
    ("[" * 100_000, "levels"),
    (EVENT % (', "ms": ' + "9" * 5000, ""), "events[0].ms: must be a number of at most 18 digits"),
    (EVENT % (', "step": "\\ud800"', ""), "events[0].step: must be whole letters"),
    (EVENT % (', "kind": "end"', ""), "each name stands once"),
    (EVENT % ("", ', "x": NaN'), "x: must be a finite number"),
    ("{", "line 1, column 2: this is not JSON; a name in double quotes should stand here"),
    ("\\xff", "not JSON"),
    ("[]", "a JSON object"),
]


@pytest.mark.parametrize("part", ["events", "catch-up"])
@pytest.mark.parametrize(("body", "said"), BODIES)
def test_what_a_stage_tells_is_bounded(asking, stretch_class, part, body, said):
    answer = asking.post(f"/classes/{stretch_class.pk}/{part}/", body, content_type="application/json")
    assert answer.status_code == 422 and said in answer.json()["message"]
    assert not LiveRun.objects.exists()


def test_what_a_clicker_presses_is_bounded(client, owner, stretch_class):
    link = Link.objects.create(owner=owner, kind=Link.Kind.CLICKER, name="Phone")
    for body in (
        "[" * 100_000,
        '{"id": "\\ud800", "kind": "go"}',
        '{"id": 1, "kind": "go"}',
        "{",
        '"x"',
        '{"id": "a", "kind": "go", "n": 1e999}',
    ):
        answer = client.post(f"/clicker/{link.code}/press/", body, content_type="application/json")
        assert answer.status_code == 422 and answer.json()["message"], body


def damage(of, document=b"no zlib"):
    """The head of a class as a broken disk, or a document of no class, would leave it."""
    Revision.objects.filter(pk=of.head_id).update(document=document)


@pytest.mark.parametrize(
    "document", [b"", b"no zlib", store.zlib.compress(b"{"), store.zlib.compress(b'{"format": "other"}')]
)
def test_a_damaged_class_takes_no_other_with_it_and_goes_back(asking, owner, stretch_class, document):
    good = store.change(stretch_class, 1, "Renamed", lambda s: store.replace(s, title="Good"))
    broken = store.change(good, 2, "Renamed again", lambda s: store.replace(s, title="Broken"))
    other = store.create(owner, store.new_script("Other", 300), "Made")
    damage(broken, document)
    shelf = asking.get("/").content.decode()
    assert "Go back to the last good step" in shelf and f"/classes/{other.pk}/" in shelf
    for part in ("", "document/", "words/", "checks/", "versions/", "stage/", "table/", "brief/"):
        answer = asking.get(f"/classes/{broken.pk}/{part}")
        assert answer.status_code == 422 and "Go back to the last good step" in answer.content.decode(), part
    assert asking.get(f"/classes/{broken.pk}/steps/").status_code == 200
    assert (
        "cannot be read"
        in asking.post(
            f"/classes/{broken.pk}/edit/", {"edit": "talk", "stamp": 3}, headers={"HX-Request": "true"}
        ).content.decode()
    )
    assert asking.post(f"/classes/{broken.pk}/archive/").status_code == 302
    asking.post(f"/classes/{broken.pk}/mend/")
    mended = StretchClass.objects.get(pk=broken.pk)
    assert store.script_of(mended.head).title == "Good" and Revision.objects.filter(of=broken).count() == 3


def test_a_class_without_any_good_step_says_so(asking, stretch_class):
    damage(stretch_class)
    assert "No earlier step can be read" in asking.get(f"/classes/{stretch_class.pk}/").content.decode()
    assert asking.post(f"/classes/{stretch_class.pk}/mend/", follow=True).status_code == 200


def test_what_was_read_in_with_a_number_beyond_all_is_refused_with_its_path(asking, stretch_class):
    text = dumps(store.script_of(stretch_class.head)).replace('"title"', '"mood": {"calm": [1e999]}, "title"', 1)
    answer = asking.post("/read-in/", {"text": text})
    assert answer.status_code == 422 and "mood.calm[0]: must be a finite number" in answer.content.decode()
    assert StretchClass.objects.count() == 1


@pytest.mark.parametrize(
    "told",
    [
        [("start", 0), ("end", 300)],
        [("start", 0), ("pause", 0)],
        [("start", 0), ("end", 0)],
        [("end", 0)],
        [("pause", 5), ("resume", 9)],
        [("start", 0), ("skip", 1), ("pause", 1), ("resume", 1), ("end", 1)],
    ],
)
def test_a_session_in_which_next_to_nothing_happened_has_a_page(asking, stretch_class, told):
    events = [{"id": str(n), "at": 1_000_000 + at, "kind": kind} for n, (kind, at) in enumerate(told)]
    posted = {"run": "r", "stamp": 1, "me": "m", "events": events}
    assert (
        asking.post(
            f"/classes/{stretch_class.pk}/events/", json.dumps(posted), content_type="application/json"
        ).status_code
        == 200
    )
    session = Session.objects.get()
    for page in (
        f"/logbook/{session.pk}/",
        "/logbook/",
        "/logbook/overview/",
        "/logbook/sessions.csv",
        f"/classes/{stretch_class.pk}/card/?run=r",
    ):
        assert asking.get(page).status_code == 200, page


READ = (
    "",
    "words/",
    "checks/",
    "versions/",
    "stage/",
    "rehearse/",
    "take/",
    "give/",
    "brief/",
    "steps/",
    "table/",
    "found/?q=calf",
)


@on_sqlite
@pytest.mark.django_db(transaction=True)
def test_reading_pages_write_nothing_also_while_the_database_is_held(stretch_class, owner):
    asking = Client()
    asking.force_login(owner)
    with closing(sqlite3.connect(settings.DATABASES["default"]["NAME"], isolation_level=None)) as other:
        other.execute("BEGIN IMMEDIATE")
        for page in (
            *(f"/classes/{stretch_class.pk}/{part}" for part in READ),
            "/",
            "/moves/",
            "/logbook/",
            "/settings/",
        ):
            assert asking.get(page).status_code == 200, page
        other.execute("ROLLBACK")


@pytest.mark.parametrize(
    "page", ["/", "/classes/{pk}/", "/classes/{pk}/stage/", "/moves/", "/logbook/", "/settings/", "/help/"]
)
def test_a_head_is_answered_wherever_a_page_is(asking, stretch_class, page):
    page = page.format(pk=stretch_class.pk)
    whole, head = asking.get(page), asking.head(page)
    assert head.status_code == whole.status_code == 200
    assert head.content == b"" and head["Content-Type"] == whole["Content-Type"]


def test_what_is_too_large_is_answered_in_words(asking):
    answer = asking.get("/", headers={"X-Extendum-Too-Large": "1000000"})
    assert answer.status_code == 413 and "at most 1,000,000 bytes" in answer.content.decode()
    many = asking.post("/settings/", {f"f{n}": "" for n in range(2001)})
    assert many.status_code == 400 and "at most 2,000 fields" in many.content.decode()
    large = asking.post("/settings/", {"part": "name", "first_name": "x" * 4_600_000})
    assert large.status_code == 413 and "What you typed is still" in large.content.decode()


def whole(pieces, headers=()):
    """What the server makes of a request whose body comes in pieces: its answer, and what was handed on."""
    handed, sent, left = [], [], list(pieces)

    async def inner(scope, receive, send):
        body, more = b"", True
        while more:
            message = await receive()
            body, more = body + message["body"], message["more_body"]
        handed.append((dict(scope["headers"]), body))

    async def receive():
        if not left:
            await asyncio.sleep(3600)
        piece = left.pop(0)
        return (
            {"type": "http.disconnect"}
            if piece is None
            else {"type": "http.request", "body": piece, "more_body": bool(left)}
        )

    async def send(message):
        sent.append(message)

    scope = {"type": "http", "headers": list(headers)}
    apart(lambda: asyncio.run(Whole(inner)(scope, receive, send)))
    return handed, sent


def test_a_request_is_handed_on_whole_in_order_and_without_forged_marks():
    pieces = [b"a" * 70_000, b"", b"b" * 300_000]
    ((headers, body),), _ = whole(pieces, [(TOO_LARGE, b"9"), (b"x", b"y")])
    assert body == b"".join(pieces) and headers == {b"x": b"y"}
    assert whole([b"a", None])[0] == []


def test_a_body_that_is_too_large_is_not_kept_and_the_bound_depends_on_an_account(monkeypatch):
    ((headers, body),), _ = whole([b"a" * 900_000] * 2)
    assert (headers[TOO_LARGE], body) == (b"1000000", b"")
    ((headers, body),), _ = whole([b"a" * 900_000] * 2, [(b"cookie", b"a=b; sessionid=x")])
    assert TOO_LARGE not in headers and len(body) == 1_800_000
    ((headers, body),), _ = whole([b"a" * 900_000] * 6, [(b"cookie", b"sessionid=x")])
    assert (headers[TOO_LARGE], body) == (b"4500000", b"")


def test_a_body_that_does_not_come_is_not_waited_for(monkeypatch):
    monkeypatch.setattr("extendum.web.whole.BODY_WITHIN_S", 0.01)
    handed, sent = whole([])
    assert handed == [] and sent[0]["status"] == 408


def test_a_rename_of_what_was_changed_meanwhile_is_told_and_what_was_typed_stays(asking, stretch_class):
    address = f"/classes/{stretch_class.pk}/rename/"
    assert asking.post(address, {"title": "First", "stamp": "1"}).status_code == 302
    answer = asking.post(address, {"title": "Second", "stamp": "1"})
    page = answer.content.decode()
    assert answer.status_code == 409 and "Renamed First" in page and 'value="Second"' in page
    assert StretchClass.objects.get().title == "First"
    stamp = StretchClass.objects.get().stamp
    for title in ("", "x" * 201):
        assert asking.post(address, {"title": title, "stamp": stamp}).status_code == 422
    assert asking.post(address, {"title": "Second", "stamp": stamp}).status_code == 302
    assert StretchClass.objects.get().title == "Second"


@on_sqlite
@pytest.mark.django_db(transaction=True)
def test_many_renames_at_once_are_one_or_told(owner, stretch_class):
    def rename(n):
        asking = Client(raise_request_exception=False)
        asking.force_login(owner)
        answer = asking.post(f"/classes/{stretch_class.pk}/rename/", {"title": f"Name {n}", "stamp": "1"})
        connection.close()
        return answer.status_code

    with ThreadPoolExecutor(4) as some:
        statuses = list(some.map(rename, range(4)))
    assert statuses.count(302) == 1 and set(statuses) <= {302, 409, 503}
