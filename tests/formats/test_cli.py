"""The command line on files: tables, JSON, refusals and bad input."""

import io
import json
import os
import subprocess
import sys
from dataclasses import fields
from datetime import UTC, datetime
from pathlib import Path

import icalendar
import pytest

from extendum import __version__
from extendum.cli import main
from extendum.core.checks.report import CHECKS
from extendum.core.model.library import LibraryMove
from extendum.core.model.move import Move
from extendum.formats.codec import from_plain
from extendum.formats.document import loads
from extendum.formats.library import shipped_moves

ROOT = Path(__file__).parents[2]
GOLDEN = str(ROOT / "tests" / "data" / "golden.json")
TWELVE = str(ROOT / "src/extendum/data/demo" / "after-digging.json")


def run(capsys, *arguments):
    code = main(arguments)
    out, err = capsys.readouterr()
    return code, out, err


def test_length_says_what_is_and_could_be(capsys):
    code, out, _ = run(capsys, "length", GOLDEN, "--json")
    assert (code, json.loads(out)) == (0, {"seconds": 177, "least_seconds": 126, "most_seconds": 256})
    assert "2:57 (from 2:06 to 4:16)" in run(capsys, "length", GOLDEN)[1]


@pytest.mark.parametrize("target", ["9:00", "12:00", "15:00"])
def test_fit_reaches_the_second_and_writes_the_document(capsys, tmp_path, target):
    out_file = tmp_path / "out.json"
    code, out, _ = run(capsys, "fit", TWELVE, "--to", target, "-o", str(out_file), "--json")
    plain = json.loads(out)
    minutes, seconds = map(int, target.split(":"))
    assert (code, plain["reached"], plain["seconds"]) == (0, True, minutes * 60 + seconds)
    script = loads(out_file.read_text())
    for item in script.items():
        assert item.quantity.least <= item.quantity.value <= item.quantity.most
    again = json.loads(run(capsys, "length", str(out_file), "--json")[1])
    assert again["seconds"] == minutes * 60 + seconds


@pytest.mark.parametrize(("target", "near"), [("1:00", "nearest_above"), ("3:00:00", "nearest_below")])
def test_out_of_reach_is_refused_and_nothing_is_written(capsys, tmp_path, target, near):
    out_file = tmp_path / "out.json"
    code, out, _ = run(capsys, "fit", TWELVE, "--to", target, "-o", str(out_file), "--json")
    plain = json.loads(out)
    assert (code, plain["reached"], plain["seconds"], plain["changes"]) == (1, False, 720, [])
    assert plain[near] and plain["limits"]
    assert not out_file.exists()
    assert "cannot be reached" in run(capsys, "fit", TWELVE, "--to", target)[1]


def test_timeline_lists_segments_cues_and_what_is_unsaid(capsys, monkeypatch):
    stdin = type("Stdin", (), {"buffer": io.BytesIO(Path(GOLDEN).read_bytes())})
    monkeypatch.setattr("sys.stdin", stdin)
    code, out, _ = run(capsys, "timeline", "-", "--json")
    plain = json.loads(out)
    assert code == 0
    assert set(plain) == {"length", "segments", "cues", "unsaid", "underlays"}
    hold = next(s for s in plain["segments"] if s["kind"] == "hold")
    assert {k: hold[k] for k in ("start", "end", "item", "stage", "side", "round")} == {
        "start": 52,
        "end": 82,
        "item": "c",
        "stage": 1,
        "side": "left",
        "round": 1,
    }
    half = next(c for c in plain["cues"] if c["kind"] == "halfway")
    assert (half["start"], half["end"], half["segment"]) == (67.0, 67.664, hold["id"])
    assert "13:" not in run(capsys, "timeline", GOLDEN)[1]


def test_bad_files_give_the_path_and_exit_2(capsys, tmp_path):
    bad = tmp_path / "bad.json"
    bad.write_text(Path(GOLDEN).read_text().replace('"most": 45', '"most": 4'))
    code, out, err = run(capsys, "length", str(bad))
    assert (code, out) == (2, "")
    assert "sections[0].groups[0].items[2].dose.seconds.most: must be at least the wanted 30; found 4" in err
    assert run(capsys, "length", str(tmp_path / "none.json"))[0] == 2
    with pytest.raises(SystemExit) as refused:
        main(["fit", GOLDEN, "--to", "ten"])
    assert refused.value.code == 2
    assert "must be a length such as 10:00" in capsys.readouterr().err


def test_moves_lists_the_library_with_all_fields_or_those_that_are_asked_for(capsys):
    whole = json.loads(run(capsys, "moves", "--json")[1])["moves"]
    assert len(whole) == len(shipped_moves())
    for plain in whole:
        assert set(plain) == {field.name for field in fields(LibraryMove)} - {"extra"}
        assert set(plain["move"]) == {field.name for field in fields(Move)} - {"extra"}
    assert from_plain(LibraryMove, whole[0]) == shipped_moves()[0]
    found = json.loads(run(capsys, "moves", "calf", "strap", "--json")[1])["moves"]
    assert "seated-calf-strap" in {plain["move"]["key"] for plain in found}
    code, out, _ = run(capsys, "moves", "calf", "lean")
    assert code == 0
    assert out.splitlines()[1].split() == ["calf-lean", "Wall", "calf", "stretch", "lunge", "static", "calf"]
    assert run(capsys, "moves", "zzzz") == (1, "", "No move is called, or is for, 'zzzz'.\n")


POOR = str(ROOT / "tests" / "data" / "poor.json")


def test_check_lists_findings_with_what_would_mend_them(capsys):
    code, out, _ = run(capsys, "check", POOR, "--json")
    findings = json.loads(out)["findings"]
    assert code == 0
    assert set(findings[0]) == {
        *("code", "severity", "item", "items", "segment", "message", "facts", "reason", "remedy"),
    }
    by_code = {one["code"]: one for one in findings}
    assert (by_code["off-slot"]["item"], by_code["off-slot"]["remedy"]) == (None, "Fit it to 10:00")
    assert "breaths" in {one["item"] for one in findings if one["code"] == "breath-held"}
    assert by_code["effort-jumps"]["remedy"] is None
    plain = run(capsys, "check", POOR)[1]
    assert "fix: Plank is usually left out with high blood pressure" in plain
    assert "does not mean that a class is safe" in plain


def test_check_applies_what_mends_a_finding(capsys, tmp_path):
    out_file = tmp_path / "out.json"
    assert run(capsys, "check", POOR, "--apply", "breath-held", "-o", str(out_file))[0] == 0
    after = loads(out_file.read_text())
    assert after.item("breaths").dose.full_ms == 0
    printed = run(capsys, "check", POOR, "--apply", "breath-held.breaths")[1]
    assert loads(printed) == after


@pytest.mark.parametrize(("which", "said"), [("nothing", "must be one of"), ("effort-jumps", "an edit can mend")])
def test_check_refuses_to_apply_what_is_not_there(capsys, tmp_path, which, said):
    out_file = tmp_path / "out.json"
    code, _, err = run(capsys, "check", POOR, "--apply", which, "-o", str(out_file))
    assert (code, out_file.exists()) == (2, False)
    assert said in err


def test_checks_lists_all_codes_with_their_reasons(capsys):
    found = json.loads(run(capsys, "checks", "--json")[1])["checks"]
    assert [one["code"] for one in found] == [one.code for one in CHECKS]
    assert all(one["reason"] and one["looks_at"] and one["family"] and one["severity"] for one in found)
    assert "off-slot" in run(capsys, "checks")[1]


def test_what_is_exported_goes_to_standard_output_as_it_is(capsysbinary):
    assert main(["export", TWELVE, "--as", "pdf", "-o", "-"]) == 0
    assert capsysbinary.readouterr().out.startswith(b"%PDF")


def test_a_wrong_option_shows_the_usage_of_its_own_command_and_versions_are_told(capsys):
    with pytest.raises(SystemExit):
        main(["fit", TWELVE, "--to", "9:00", "--as", "pdf"])
    assert capsys.readouterr().err.startswith("usage: extendum fit ")
    with pytest.raises(SystemExit):
        main(["--version"])
    assert capsys.readouterr().out == f"extendum {__version__}\n"


@pytest.mark.parametrize("command", [["fit", TWELVE, "--to", "9:00"], ["export", TWELVE, "--as", "md"]])
def test_what_cannot_be_written_is_named_as_it_was_given(capsys, tmp_path, command):
    out = str(tmp_path / "nowhere" / "x.json")
    code, _, told = run(capsys, *command, "-o", out)
    assert (code, told) == (2, f"extendum: {out}: No such file or directory\n")


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ('{"a": 1e999}', "a: must be a finite number"),
        ("{", "line 1, column 2: this is not JSON; a name in double quotes should stand here"),
        ('{"title": "\\ud800"}', "title: must be whole letters"),
        ('{"a": ' + "9" * 5000 + "}", "a: must be a number of at most 18 digits"),
        ("[" * 100_000, "levels"),
    ],
)
def test_odd_documents_are_refused_in_a_sentence(capsys, tmp_path, text, said):
    path = tmp_path / "odd.json"
    path.write_text(text)
    code, _, told = run(capsys, "length", str(path))
    assert code == 2 and said in told


def test_a_name_that_no_encoding_has_is_told_without_a_traceback():
    command = [sys.executable, "-m", "extendum.cli", "length", "\udcff.json"]
    answer = subprocess.run(command, capture_output=True, text=True, errors="surrogateescape")  # noqa: S603
    assert answer.returncode == 2 and "No such file" in answer.stderr and "Traceback" not in answer.stderr


def test_a_calendar_entry_needs_its_time(capsys, tmp_path):
    code, _, told = run(capsys, "export", TWELVE, "--as", "ics", "-o", str(tmp_path / "x.ics"))
    assert code == 2 and "--at: must be given for a calendar entry" in told


@pytest.mark.parametrize("zone", ["Europe/Berlin", "America/New_York"])
def test_the_time_of_a_calendar_entry_means_the_same_in_every_zone(tmp_path, zone):
    out = tmp_path / "x.ics"
    command = [
        sys.executable,
        "-m",
        "extendum.cli",
        "export",
        TWELVE,
        "--as",
        "ics",
        "--at",
        "2026-07-02T18:30",
        "-o",
        out,
    ]
    subprocess.run(command, check=True, env={**os.environ, "TZ": zone}, capture_output=True)  # noqa: S603
    (event,) = icalendar.Calendar.from_ical(out.read_bytes()).walk("VEVENT")
    here = {"Europe/Berlin": 16, "America/New_York": 22}[zone]
    assert event.decoded("dtstart") == datetime(2026, 7, 2, here, 30, tzinfo=UTC)
    assert b"TZID" not in out.read_bytes()
