"""What was heard as the draft of a class: as long as the recording, its moves and doses, the speaker's own words."""

import re

import pytest

from bench.hear import heard_in, names
from extendum.core.heard.corrected import corrected
from extendum.core.model.errors import RefusedError
from extendum.core.timing.compile import compile_script
from extendum.formats.document import dumps, loads
from extendum.core.heard.drafting import draft
from extendum.formats.library import shipped_moves

EVERY = (*names("dev"), *names("check"))


@pytest.mark.parametrize("name", EVERY)
def test_a_draft_has_the_moves_in_order_and_lasts_as_long_as_the_recording(name):
    heard = heard_in(name)
    script = draft(heard, name, shipped_moves())
    assert [item.name for item in script.moves()] == [move.name for move in heard.moves]
    assert compile_script(script).length_s == pytest.approx(heard.length, rel=0.03)
    assert loads(dumps(script)) == script
    sided = [item for item in script.moves() if item.move.sidedness.by_side and item.lead_side]
    assert not any(re.search(r"\b(?:left|right) (?:foot|leg|arm|hand|knee)", item.words.moving) for item in sided)
    assert not re.search(r"\bum\b|[\[\]]", " ".join(item.words.moving for item in script.moves()))


def test_without_a_move_there_is_no_class():
    heard = heard_in("dev-01")
    with pytest.raises(RefusedError, match="in which a move was heard"):
        draft(corrected(heard, ()), "x", shipped_moves())
