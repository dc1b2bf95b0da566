"""Everything that a class is given away as, read back by readers that are not ours."""

import csv
import io
import json
import wave
import zipfile
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from pathlib import Path

import icalendar
import jsonschema
import numpy as np
import pypdf
import pysubs2
import pytest
import soundfile
from mutagen.oggopus import OggOpus

from extendum.cli import main
from extendum.core.outputs.cue_sheet import cue_sheet
from extendum.core.sound.speech import RATE
from extendum.core.timing.compile import compile_script
from extendum.formats.document import loads
from extendum.formats.exports import FILES, FILMS, KINDS, SOUNDS, Export, pack, report, write
from extendum.formats.paper import Paper
from extendum.formats.running_order import no_formula

ROOT = Path(__file__).parents[2]
DIGGING = loads((ROOT / "src/extendum/data/demo" / "after-digging.json").read_bytes())
#: Its first section, for what takes as long to make as it lasts.
SHORT = replace(DIGGING, sections=DIGGING.sections[:2], meanwhiles=(), kept=())
SHORT_S = compile_script(SHORT).length_s
HALL = loads((ROOT / "src/extendum/data/demo" / "hall-two-rounds.json").read_bytes())
AT = datetime(2026, 3, 2, 18, 30, tzinfo=UTC)


@pytest.fixture(scope="module")
def made(tmp_path_factory):
    """Every kind once, by kind; films have tests of their own."""
    folder = tmp_path_factory.mktemp("out")
    one, short = Export(DIGGING, starts=AT, made=AT), Export(SHORT)
    kinds = [kind for kind in KINDS if kind not in FILMS]
    for kind in kinds:
        write(short if kind in SOUNDS else one, kind, folder / FILES[kind][0])
    assert sorted(path.name for path in folder.iterdir()) == sorted(FILES[kind][0] for kind in kinds)
    return {kind: folder / FILES[kind][0] for kind in kinds}


def test_captions_are_read_by_others_as_they_were_meant(made):
    one = Export(DIGGING)
    for kind in ("vtt", "srt"):
        read = pysubs2.load(str(made[kind]), encoding="utf-8")
        assert [(line.start, line.end, line.plaintext.split("\n")) for line in read] == [
            (caption.start_ms, caption.end_ms, list(caption.lines)) for caption in one.captions
        ]


def test_chapters_are_read_by_others_and_tile_the_class(made):
    read = pysubs2.load(str(made["chapters"]))
    assert [read[0].start, read[-1].end] == [0, 720_000]
    assert all(line.end == after.start for line, after in pairwise(read))
    plain = made["chapters-list"].read_text("utf-8").splitlines()
    assert plain[:2] == ["0:00 Welcome", "0:28 Standing slow breathing"]
    assert len(plain) == len(read)


def test_the_calendar_entry_is_as_long_as_the_class(made):
    (event,) = icalendar.Calendar.from_ical(made["ics"].read_bytes()).walk("VEVENT")
    assert event.decoded("dtstart") == AT
    assert event.decoded("dtend") - AT == timedelta(minutes=12)
    assert str(event["summary"]) == "After the digging"
    assert all(len(line) <= 75 for line in made["ics"].read_bytes().split(b"\r\n"))
    assert Export(DIGGING, starts=AT).uid == Export(DIGGING, starts=AT).uid != Export(DIGGING).uid


def test_the_running_order_is_a_table_and_holds_no_formula(made):
    rows = list(csv.DictReader(io.StringIO(made["csv"].read_text("utf-8"))))
    entries = cue_sheet(DIGGING, compile_script(DIGGING))
    assert [row["item"] for row in rows] == [entry.item.name for entry in entries]
    assert sum(int(row["seconds"]) for row in rows) == 720
    assert next(row for row in rows if row["item"] == "Wall calf stretch")["sides"] == "left/right"
    risky = ("=1", "-x", "+1", "@a", "\t1", "\n=1", "\r1", " =1", "\u00a0=1", "＝1", "＋1", "－1", "＠a", "\u200b=1")
    assert [no_formula(cell) for cell in risky] == [f"'{cell}" for cell in risky]
    assert [no_formula(cell) for cell in ("plain", 3, -3, "a = b", "")] == ["plain", 3, -3, "a = b", ""]


@pytest.mark.parametrize(("script", "paper", "wide"), [(DIGGING, Paper.A4, 595), (HALL, Paper.LETTER, 612)])
def test_printed_pages_have_their_words_and_the_handout_is_short(tmp_path, script, paper, wide):
    one = Export(script, paper)
    for kind in ("pdf", "handout"):
        write(one, kind, tmp_path / kind)
    sheet, handout = (pypdf.PdfReader(tmp_path / kind) for kind in ("pdf", "handout"))
    assert round(sheet.pages[0].mediabox.width) == wide
    words = " ".join(" ".join(page.extract_text() for page in sheet.pages).split())
    for entry in one.entries:
        assert entry.item.name in words
    assert len(handout.pages) <= 2
    told = " ".join(" ".join(page.extract_text() for page in handout.pages).split())
    for item in script.moves():
        assert item.name in told
    assert "never sharp pain" in told
    assert "safe" not in told


def test_the_script_reads_in_the_order_of_the_class(made):
    for kind in ("md", "txt"):
        text = made[kind].read_text("utf-8")
        at = [text.index(entry.title) for entry in cue_sheet(DIGGING, compile_script(DIGGING))[:6]]
        assert at == sorted(at)
        assert "never sharp pain" in text
    assert "### 0:28 Standing slow breathing (2 breaths)" in made["md"].read_text("utf-8")


def test_the_document_keeps_to_its_schema_and_comes_back(made):
    plain = json.loads(made["json"].read_bytes())
    jsonschema.validate(plain, json.loads((ROOT / "docs" / "class.schema.json").read_bytes()))
    assert loads(made["json"].read_bytes()) == DIGGING


def test_the_guide_is_as_long_as_the_class_to_the_sample(made):
    with wave.open(str(made["wav"])) as plain:
        assert (plain.getnframes(), plain.getframerate(), plain.getnchannels()) == (SHORT_S * RATE, RATE, 2)
    assert abs(OggOpus(made["ogg"]).info.length - SHORT_S) < 0.01
    samples = soundfile.read(made["wav"])[0].mean(axis=1)
    assert [soundfile.info(made[kind]).frames for kind in ("flac", "ogg", "mp3")] == [SHORT_S * RATE] * 3
    timeline = compile_script(SHORT)
    loud = np.abs(samples) > 0.02
    for segment in timeline.segments:  # a tone within 50 ms of each hold
        if segment.kind == "hold":
            begins = segment.start_s * RATE
            assert loud[begins : begins + RATE // 20].any()
            assert not loud[begins - RATE // 20 : begins].all()


def test_the_pack_holds_everything_and_says_what_should_be_known(tmp_path):
    shares = []
    out = tmp_path / "pack.zip"
    with out.open("wb") as file:
        pack(Export(SHORT, starts=AT), file, shares.append)
    with zipfile.ZipFile(out) as files:
        assert files.testzip() is None
        names = set(files.namelist())
        alone = ("wav", "flac", "mp3", "mp4", "webm")  # the sound is in it once, the film is not
        assert names >= {name for kind, (name, _) in FILES.items() if kind not in alone} | {"report.txt", "spoken.txt"}
        told = files.read("report.txt").decode()
    assert "captions" in told
    assert "no voice" in told
    assert shares == sorted(shares)
    assert shares[-1] == 1.0
    assert "speaks" not in report(Export(DIGGING))


def test_each_is_made_from_the_command_line_and_a_wrong_wish_is_answered(tmp_path, capsys):
    file = str(ROOT / "src/extendum/data/demo" / "wheel-wrists.json")
    out = tmp_path / "x.srt"
    assert main(["export", file, "--as", "srt", "-o", str(out)]) == 0
    assert "captions, SRT, 8:00" in capsys.readouterr().out
    assert len(pysubs2.load(str(out))) > 20
    assert main(["export", file, "--as", "ics", "--at", "2026-03-02T18:30", "-o", str(tmp_path / "y.ics")]) == 0
    with pytest.raises(SystemExit):
        main(["export", file, "--as", "ics", "--at", "soon", "-o", str(out)])
    assert "must be a day and a time" in capsys.readouterr().err
    assert main(["export", file, "--as", "md", "-o", str(tmp_path / "nowhere" / "x.md")]) == 2
    assert "No such file" in capsys.readouterr().err


def test_a_recording_is_heard_from_the_command_line(capsys, tmp_path):
    file = str(ROOT / "tests" / "data" / "heard" / "dev-01.vtt")
    assert main(["hear", file]) == 0
    told = capsys.readouterr().out
    assert "10 minutes were announced" in told
    assert "figure four" in told
    assert main(["hear", file, "--json"]) == 0
    assert {"facts", "moves", "passes", "calls"} <= json.loads(capsys.readouterr().out).keys()
    wrong = tmp_path / "x.srt"
    wrong.write_text("1\n00:00:09,000 --> 00:00:02,000\nBack in time.\n")
    assert main(["hear", str(wrong)]) == 2
    assert "line 2: must be an end after its start" in capsys.readouterr().err
