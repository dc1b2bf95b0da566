"""Lines and captions end after a sentence, a clause or a phrase: every word stays, and nothing is torn."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from extendum.core.edit.take_up import take_up
from extendum.core.model.spoken import spoken_texts
from extendum.core.model.style import CueStyle
from extendum.core.model.timeline import Mode
from extendum.core.outputs.breaking import LINES, WIDE, broken
from extendum.core.timing.compile import compile_script
from extendum.formats.document import loads
from extendum.formats.library import shipped_moves

DEMO = Path(__file__).parents[2] / "src/extendum/data/demo"
#: No line ends with one of these while its sentence goes on: checked by a list of its own, not by the costs.
OPENERS = {"the", "a", "your", "of", "to", "and", "towards", "with", "from", "left", "right", "sit", "both", "each"}
WORDS = ("Breathe", "out.", "and", "your", "shoulders,", "knees.", "Less?", "x" * 50)


def texts():
    for path in sorted(DEMO.glob("*.json")):
        cues = compile_script(loads(path.read_text())).cues
        yield from (cue.text for cue in cues if cue.mode is Mode.SPOKEN and cue.text.strip())
    for entry in shipped_moves():
        for _, text in spoken_texts(take_up(entry, "i1", CueStyle())):
            yield text.replace("{other_side}", "right").replace("{side}", "left").replace("*", "")


@given(
    st.lists(st.sampled_from(("Breathe", "out.", "and", "your", "shoulders,", "knees.", "Less?", "x" * 50)), min_size=1)
)
def test_every_word_stays_and_every_line_is_narrow(some):
    found = broken(" ".join(some))
    assert "".join("".join(lines).replace(" ", "") for lines in found) == "".join(some)
    assert all(1 <= len(lines) <= LINES and all(0 < len(line) <= WIDE for line in lines) for lines in found)


def test_no_line_of_the_library_or_of_a_demo_class_ends_inside_a_phrase():
    ends, torn = 0, []
    for text in dict.fromkeys(texts()):
        lines = [line for caption in broken(text) for line in caption]
        for line in lines[:-1]:
            ends += 1
            if line.split()[-1].casefold() in OPENERS:
                torn.append(line)
    assert ends > 900
    assert len(torn) * 200 < ends, torn  # “step to the left | and lean” is none, and is not told apart here


@pytest.mark.parametrize(
    ("text", "lines"),
    [
        ("Now let your shoulders drop again and sit tall before we go on.", ["and sit tall", "sit tall"]),
        ("Turn your head slowly and carefully towards the left shoulder and stay.", ["towards the left shoulder"]),
        ("Keep your elbows close to your sides and circle the wrists. Less? Make the circles small.", ["Less? Make"]),
    ],
)
def test_what_belongs_together_is_on_one_line(text, lines):
    found = [line for caption in broken(text) for line in caption]
    assert any(some in line for some in lines for line in found), found


def test_a_caption_ends_with_a_sentence_where_it_can():
    text = "Place your hands on the wall and step your left foot back. Press the heel down until you feel a stretch."
    assert [caption[-1][-1] for caption in broken(text)] == [".", "."]
